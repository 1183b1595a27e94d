import type { Form, Symmetry } from '@steady-moth/core/geometry';
import { setLayer } from '@steady-moth/core/job';
import { probesOf, seenForms } from '@steady-moth/core/proof';
import { makersOf, planeOfPath } from '@steady-moth/core/sketch';
import { type Item, madeSymmetric, pathsOfItems, placed, type Setting } from '@steady-moth/core/tracing';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { useEffect, useState } from 'react';
import { figures } from '../../../compute';
import { Act, LengthField } from '../../../kit';
import { chosenOf } from '../../../part/chosen';
import { useJob } from '../../../session/jobStore';
import { askQuestion, type Run } from '../../../session/questions';
import { useSession } from '../../../session/sessionStore';
import { edgesAlong } from '../edgesAlong';
import { OffsetAll } from './OffsetAll';

/** How far a chain may stray when it is told by fewer pieces, unless something else is typed, mm. */
const TOLERANCE_MM = 0.05;

type Found =
  | { kind: 'axes'; axes: Symmetry[] }
  | { kind: 'fewer'; forms: Form[]; before: number; after: number; largestMm: number };

/** What can be made of the form of what is chosen: its axis found, both halves averaged, its pieces made fewer. */
export function Forming({ items, unit, setting }: { items: readonly Item[]; unit: LengthUnit; setting: Setting }) {
  const apply = useJob((s) => s.apply);
  const select = useSession((s) => s.select);
  const [found, setFound] = useState<Found | null>(null);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const [tolerance, setTolerance] = useState({ mm: TOLERANCE_MM, text: unit === 'in' ? '0.002' : '0.05' });
  const ids = pathsOfItems(items);
  const own = setting.drawn.paths.filter((d) => ids.includes(d.path.id) && d.form);
  const key = ids.join(' ');
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was found is of what was there
  useEffect(() => {
    setFound(null);
    setFault(null);
  }, [key, setting.drawn.paths]);
  const write = (mm: number) => (unit === 'in' ? `${fixed(mm / 25.4, 4)} in` : `${fixed(mm, 3)} mm`);
  const forms = own.map((d) => d.form as Form);
  const ask = async (says: string, work: (run: Run) => Promise<Found>) => {
    setBusy(true);
    setFault(null);
    const told = await askQuestion({ says: () => says, ask: (_: null, run) => work(run) }, null);
    setBusy(false);
    setFound(told);
  };
  const axesOf = (all: readonly Form[], signal: AbortSignal) =>
    figures.call((w) => w.findAxes(all), { silentMs: 20_000, signal });
  const findAxes = () =>
    ask('Looking for its axis', async ({ signal }) => ({ kind: 'axes', axes: await axesOf(forms, signal) }));
  const findSeenAxes = () =>
    ask('Looking for its axis by the picture’s edges', async (run) => {
      const seen: Form[] = [];
      for (const path of own) {
        const worn = setting.job.part.sketches[path.sketch.id]?.worn ?? {};
        const probes = probesOf(path, worn, setting.mapper);
        const edges = await edgesAlong(setting.picture, probes, run);
        seen.push(...seenForms(path, probes, edges, setting.mapper));
      }
      return { kind: 'axes', axes: await axesOf(seen, run.signal) };
    });
  const fewer = () =>
    ask('Telling it by fewer pieces', async ({ signal }) => {
      const told = await figures.call((w) => w.reduce(forms, tolerance.mm), {
        silentMs: 60_000,
        signal,
        endOnAbort: true,
      });
      const count = (all: readonly Form[]) => all.reduce((n, f) => n + (f.kind === 'chain' ? f.segments.length : 1), 0);
      return { kind: 'fewer', ...told, before: count(forms), after: count(told.forms) };
    });
  const drawAxis = ({ a, b }: Symmetry) => {
    const form: Form = { kind: 'chain', segments: [{ kind: 'line', from: a, to: b }], closed: false };
    const made = placed(
      'draw the center line',
      [{ form, path: { name: 'Center line', role: 'centre-line', layer: null } }],
      setting,
    );
    if (made) apply(made.action);
    else setFault('The line would reach beyond what the camera could see.');
  };
  const average = (axis: Symmetry) => {
    const action = madeSymmetric(own, axis, setting);
    if (action) apply(action);
    else setFault('Both halves do not have the same pieces. Trace one half, and add its mirror image.');
  };
  const replace = (made: readonly Form[]) => {
    // Told anew it is another path: what is made of the old one would go without a word.
    const living = own.find(({ sketch, path }) => makersOf(sketch.makers, path.id).length > 0);
    if (living)
      return setFault(
        `Something is made of “${living.path.name}” and follows it: its mirror image, copies, or corners. Cut that loose or take it away first.`,
      );
    const all = own.map(({ sketch, path }, k) => ({
      form: made[k]!,
      path: { ...path, plane: planeOfPath(sketch, path) },
    }));
    const put = placed(
      'tell by fewer pieces',
      all,
      setting,
      own.map((d) => d.path.id),
    );
    if (!put) return setFault('A part of it lies beyond what the camera could see.');
    apply(put.action);
    select(chosenOf(put.items));
  };
  if (own.length === 0) return null;
  return (
    <section aria-label="Its form" className="border-line border-t py-2.5 pl-9 text-[12.5px]">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Act disabled={busy} onClick={() => void findAxes()}>
          Find its axis
        </Act>
        <Act disabled={busy} onClick={() => void findSeenAxes()}>
          … by the picture’s edges
        </Act>
        <span className="flex items-center gap-2">
          <Act disabled={busy} onClick={() => void fewer()}>
            Fewer pieces
          </Act>
          within
          <LengthField
            label="How far it may stray"
            narrow
            value={tolerance.text}
            unit={unit}
            onAccept={(mm, _pm, text) => setTolerance({ mm, text })}
          />
        </span>
        <Layer ids={ids} layer={own[0]!.path.layer} />
      </div>
      <OffsetAll own={own} unit={unit} setting={setting} />
      {found?.kind === 'axes' &&
        (found.axes.length === 0 ? (
          <p>Nothing of it has a form.</p>
        ) : (
          <ol aria-label="Axes found" className="mt-1">
            {found.axes.map((axis) => (
              <li key={`${axis.a.x} ${axis.b.y}`} className="flex flex-wrap items-baseline justify-between gap-x-3">
                <span>
                  axis at {fixed((Math.atan2(axis.b.y - axis.a.y, axis.b.x - axis.a.x) * 180) / Math.PI, 2)}°: unlike by
                  at most {write(axis.largestMm)}, RMS {write(axis.rmsMm)}
                </span>
                <span className="flex gap-3">
                  <Act onClick={() => drawAxis(axis)}>Draw it</Act>
                  <Act onClick={() => average(axis)}>Make it symmetric</Act>
                </span>
              </li>
            ))}
          </ol>
        ))}
      {found?.kind === 'fewer' && (
        <p role="status" className="mt-1">
          {found.after < found.before ? (
            <>
              {found.after} pieces instead of {found.before}, at most {write(found.largestMm)} off.{' '}
              <Act onClick={() => replace(found.forms)}>Use them</Act>
            </>
          ) : (
            <>It cannot be told by fewer than {found.before} pieces that near.</>
          )}
        </p>
      )}
      {fault && (
        <p role="alert" className="mt-1 text-brick">
          {fault}
        </p>
      )}
    </section>
  );
}

/** The layer of what is chosen, by its name; empty for none. */
function Layer({ ids, layer }: { ids: readonly string[]; layer: string | null }) {
  const apply = useJob((s) => s.apply);
  const [text, setText] = useState(layer ?? '');
  useEffect(() => setText(layer ?? ''), [layer]);
  const accept = () => {
    const name = text.trim().slice(0, 200) || null;
    if (name !== layer) apply(setLayer(ids, name));
  };
  return (
    <label className="flex items-center gap-2">
      layer
      <input
        aria-label="Layer"
        value={text}
        maxLength={200}
        onChange={(e) => setText(e.target.value)}
        onBlur={accept}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        className="w-28 rounded border border-line bg-sheet px-1.5 py-0.5 text-ink"
      />
    </label>
  );
}
