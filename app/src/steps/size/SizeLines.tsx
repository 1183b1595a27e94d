import { changeMaker, changeSize, freeSize, type JobDocument } from '@steady-moth/core/job';
import {
  type Dimension,
  decidedOf,
  type Expression,
  type Maker,
  type PartFault,
  pathsIn,
  type Sketch,
  sketchesOf,
  walkOf,
} from '@steady-moth/core/sketch';
import { Act } from '../../kit';
import { FormulaField } from '../../kit/FormulaField';
import { useBench } from '../../session/benchStore';
import { formulaOf } from '../../session/formulaOf';
import { useJob } from '../../session/jobStore';
import { makerSentence } from '../../session/sentences';
import { isPathChosen } from '../trace/chosen';
import type { DrawnPath } from '../trace/useDrawn';

interface Line {
  key: string;
  path: string;
  what: string;
  value: Expression;
  set(value: Expression): void;
  free: (() => void) | null;
  fault: string | null;
}

/** Every size of the part that was decided, path by path: what was typed of pieces, and of what is made of paths. */
export function SizeLines({
  job,
  drawn,
  faults,
}: {
  job: JobDocument;
  drawn: readonly DrawnPath[];
  faults: readonly PartFault[];
}) {
  const select = useBench((s) => s.select);
  const selection = useBench((s) => s.selection);
  const read = formulaOf(job.part);
  const groups = drawn.flatMap(({ path }) => {
    const sketch = sketchesOf(job.part).find((s) => s.paths[path.id]);
    const lines = sketch ? linesOf(sketch, path.id, faults) : [];
    return lines.length ? [{ path, lines }] : [];
  });
  return (
    <section aria-label="Decided sizes" className="border-line border-t py-2.5">
      <h2 className="font-medium">Decided sizes</h2>
      {groups.length === 0 && (
        <p className="mt-1 text-[12.5px] text-ink2">
          Nothing is decided yet. In Trace, type a length for a chosen line or a diameter for a circle, or make
          something of a path.
        </p>
      )}
      {groups.map(({ path, lines }) => (
        <div key={path.id} className="mt-1.5">
          <button
            type="button"
            className={`cursor-pointer text-left text-[13px] ${isPathChosen(selection, path.id) ? 'text-rust' : ''}`}
            aria-pressed={isPathChosen(selection, path.id)}
            onClick={() => select({ kind: 'path', path: path.id })}
          >
            {path.name}
          </button>
          <ul className="flex flex-col gap-1 border-line border-l pl-2.5">
            {lines.map((line) => (
              <li key={line.key} className="text-[12.5px]">
                <div className="flex items-start justify-between gap-2">
                  <span className="pt-1">
                    {line.what} {line.free && <Act onClick={line.free}>Measure it</Act>}
                  </span>
                  <FormulaField
                    label={`${line.what} of ${path.name}`}
                    value={line.value.text}
                    unit={line.value.unit}
                    read={read}
                    onAccept={(text) => line.set({ text, unit: line.value.unit })}
                  />
                </div>
                {line.fault && (
                  <p role="alert" className="text-right text-brick">
                    {line.fault}
                  </p>
                )}
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

function linesOf(sketch: Sketch, path: string, faults: readonly PartFault[]): Line[] {
  const { apply } = useJob.getState();
  const own = pathsIn(sketch).find((p) => p.id === path);
  const walk = own && walkOf(sketch, own);
  if (!walk) return [];
  const curves = walk.pieces.map((p) => p.curve.id);
  const wordOf = (d: Dimension): string | null => {
    const ids = d.refs.map((r) => r.id);
    if (d.kind === 'diameter') return curves.includes(ids[0]!) ? 'diameter' : null;
    const k = walk.pieces.findIndex(
      ({ curve }) => curve.kind !== 'circle' && ids.includes(curve.from) && ids.includes(curve.to),
    );
    if (k >= 0) return `line ${k + 1}`;
    return ids.every((id) => walk.points.includes(id)) ? 'across' : null;
  };
  const sizes = Object.values(sketch.dimensions).flatMap((d): Line[] => {
    const what = wordOf(d);
    const value = decidedOf(d);
    if (!what || !value) return [];
    const set = (value: Expression) => apply(changeSize(sketch.id, d.id, value));
    const isOnly = d.kind === 'diameter' && sketch.curves[d.refs[0]!.id]?.evidence.length === 0;
    return [
      {
        key: d.id,
        path,
        what,
        value,
        set,
        free: isOnly ? null : () => apply(freeSize(path, d.id)),
        fault: null,
      },
    ];
  });
  const makers = Object.values(sketch.makers)
    .filter((m) => m.path === path)
    .sort((a, b) => a.place - b.place)
    .flatMap((m) => {
      const told = faults.find((f) => f.maker === m.id);
      const fault = told && told.reason !== 'no-place' && told.reason !== 'sizes-contradict' ? told.reason : null;
      return fieldsOf(m).map(
        ({ what, value, put }, k): Line => ({
          key: `${m.id} ${k}`,
          path,
          what,
          value,
          set: (next) => apply(changeMaker(put(next))),
          free: null,
          fault: k === 0 && fault ? makerSentence(fault) : null,
        }),
      );
    });
  return [...sizes, ...makers];
}

/** What was typed for a maker, and how it is said anew. */
function fieldsOf(maker: Maker): { what: string; value: Expression; put(value: Expression): Maker }[] {
  switch (maker.kind) {
    case 'fillet':
      return [{ what: 'radius of its corners', value: maker.size, put: (size) => ({ ...maker, size }) }];
    case 'chamfer':
      return [{ what: 'cut off its corners', value: maker.size, put: (size) => ({ ...maker, size }) }];
    case 'offset':
      return [
        { what: maker.side === 'out' ? 'larger by' : 'smaller by', value: maker.by, put: (by) => ({ ...maker, by }) },
      ];
    case 'row':
      return [
        {
          what: maker.span === 'each' ? 'from copy to copy' : 'first to last copy',
          value: maker.step,
          put: (step) => ({ ...maker, step }),
        },
      ];
    case 'grid':
      return [
        { what: 'from copy to copy', value: maker.step, put: (step) => ({ ...maker, step }) },
        { what: 'from row to row', value: maker.rowStep, put: (rowStep) => ({ ...maker, rowStep }) },
      ];
    default:
      return [];
  }
}
