import { markFlaws } from '@steady-moth/core/findings';
import { cutPaths } from '@steady-moth/core/handover';
import type { CutPath, Flaw } from '@steady-moth/core/proof';
import type { EvaluatedPath, Part } from '@steady-moth/core/sketch';
import { useEffect, useState } from 'react';
import { figures } from '../compute';

/** Nothing is looked through while it is being dragged or drawn: only once it has been still for this long, ms. */
const STILL_MS = 400;
/** More pieces are looked through when somebody asks for it: handing them to the worker holds up the screen. */
const MOST_UNASKED = 5000;

const piecesIn = (paths: readonly CutPath[]): number =>
  paths.reduce((sum, p) => sum + p.forms.reduce((n, f) => n + (f.kind === 'circle' ? 1 : f.segments.length), 0), 0);

/** What a cutter would stumble over in the paths that are cut, and Solid in its marks; null until it was looked for. */
export function useFlaws(
  part: Part,
  paths: readonly EvaluatedPath[],
): { flaws: readonly Flaw[] | null; isLarge: boolean; lookThrough(): void } {
  const [flaws, setFlaws] = useState<readonly Flaw[] | null>(null);
  const [asked, setAsked] = useState<readonly EvaluatedPath[] | null>(null);
  const [isLarge, setLarge] = useState(false);
  useEffect(() => {
    let over = false;
    const later = setTimeout(() => {
      const cut = cutPaths(paths);
      const large = asked !== paths && piecesIn(cut) > MOST_UNASKED;
      setLarge(large);
      const marks = large ? [] : markFlaws(part, paths);
      if (large || cut.length + marks.length === 0) return setFlaws(null);
      // Not taken back when it is out of date: that would end the worker, and the figures that wait there with it.
      figures
        .call((w) => w.checkForms(cut))
        .then(
          (found) => over || setFlaws([...found, ...marks]),
          () => {},
        );
    }, STILL_MS);
    return () => {
      clearTimeout(later);
      over = true;
    };
  }, [paths, part, asked]);
  return { flaws, isLarge, lookThrough: () => setAsked(paths) };
}
