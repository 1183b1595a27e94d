import { conditionFindings, sentenceOf } from '@steady-moth/core/findings';
import { addConstraints } from '@steady-moth/core/job';
import { nameIn } from '@steady-moth/core/say';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { Act, LengthFigure } from '../../kit';
import { RepairAct } from '../../part/RepairAct';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useSession } from '../../session/sessionStore';
import { useSize } from './sizeStore';
import type { SketchState } from './sketchState';

/** How much of the part is settled, and what contradicts itself, with each way out. */
export function FreeLine({ state, unit }: { state: SketchState; unit: LengthUnit }) {
  const apply = useJob((s) => s.apply);
  const select = useSession((s) => s.select);
  const laidOver = useSize((s) => s.laidOver);
  const layOver = useSize((s) => s.layOver);
  const { sketch, told } = state;
  if (!told)
    return (
      <section aria-label="Still free" className="border-line border-t py-2.5">
        <h2 className="font-medium">Still free</h2>
        <p className="mt-0.5 text-[12.5px] text-ink2">Working it out.</p>
      </section>
    );
  const findings = conditionFindings(sketch, told);
  const movable = Object.entries(told.points);
  const looseCurves = Object.values(sketch.curves)
    .filter((c) => c.kind !== 'line')
    .map((c) => c.id);
  const loose = [
    ...Object.entries(sketch.points).flatMap(([id, { at }]) => (at.kind === 'observed' ? [id] : [])),
    ...looseCurves,
  ];
  return (
    <section aria-label="Still free" className="border-line border-t py-2.5">
      <div className="flex items-baseline justify-between">
        <h2 className="font-medium">Still free</h2>
        <span className="figure" data-testid="free">
          {told.free} of {told.of}
        </span>
      </div>
      <p className="mt-0.5 text-[12.5px] text-ink2">
        {told.free === 0
          ? 'Everything is settled. Its place and its turn on the sheet are as measured.'
          : 'What is free lies where it was measured. Drag it, size it, relate it, or hold it.'}{' '}
        {told.free > 0 && (
          <Act
            onClick={() =>
              apply(
                addConstraints(sketch.id, [
                  { id: newId(), kind: 'fixed', count: null, refs: loose.map((id) => ({ sketch: sketch.id, id })) },
                ]),
              )
            }
          >
            Hold the rest as measured
          </Act>
        )}
      </p>
      {told.moved.points > 0 && (
        <p className="mt-0.5 text-[12.5px] text-ink2">
          Settling moved {told.moved.points} {told.moved.points === 1 ? 'point' : 'points'} from where they were seen:
          at most <LengthFigure mm={told.moved.largestMm} plusMinusMm={null} unit={unit} />
          {told.moved.largestSigmas > 0 && ` (${fixed(told.moved.largestSigmas, 1)} σ)`}, RMS{' '}
          <LengthFigure mm={told.moved.rmsMm} plusMinusMm={null} unit={unit} />.{' '}
          <Act aria-pressed={laidOver === 'seen'} onClick={() => layOver(laidOver === 'seen' ? null : 'seen')}>
            {laidOver === 'seen' ? 'Hide what was seen' : 'Show what was seen'}
          </Act>
        </p>
      )}
      {told.onlyJust > 0 && (
        <p className="mt-0.5 text-[12.5px] text-amber">
          {told.onlyJust} {told.onlyJust === 1 ? 'way is' : 'ways are'} held only just, as a stretched chain is: a
          hair’s change of a size moves much.
        </p>
      )}
      {movable.length > 0 && movable.length <= 6 && (
        <ul className="mt-1 text-[12.5px]">
          {movable.map(([id, { direction, anyWay }]) => (
            <li key={id}>
              <Act
                onClick={() => {
                  const path = Object.values(sketch.paths).find((p) =>
                    p.uses.some(({ curve }) => {
                      const c = sketch.curves[curve];
                      return c && (c.kind === 'circle' ? c.centre === id : c.from === id || c.to === id);
                    }),
                  );
                  if (path) select({ kind: 'point', path: path.id, point: id });
                }}
              >
                {nameIn(sketch, id)}
              </Act>
              : {anyWay ? 'any way' : wayWord(direction)}
            </li>
          ))}
        </ul>
      )}
      {findings.map((finding) => (
        <div
          key={finding.key}
          role="alert"
          className="mt-2 rounded border border-brick px-2.5 py-2 text-[12.5px] text-brick"
        >
          <p>{sentenceOf(finding)}</p>
          <ul className="mt-1 flex flex-col gap-1">
            {finding.repairs.map((repair, k) => (
              <li key={`${repair.says} ${k}`} className="flex items-baseline justify-between gap-2 text-ink">
                <span>{repair.says}</span>
                <RepairAct repair={repair} />
              </li>
            ))}
          </ul>
        </div>
      ))}
      {told.notFound.map((id) => (
        <p key={id} role="alert" className="mt-2 rounded border border-amber bg-amberpaper px-2.5 py-2 text-[12.5px]">
          {`What holds ${nameIn(sketch, id)} could not be settled from where it lies. That does not mean that it is wrong: drag it nearer to its sizes, or make lines level, plumb or parallel where they are meant so.`}
        </p>
      ))}
    </section>
  );
}

/** A direction in words. */
function wayWord(direction: number): string {
  const deg = ((((direction * 180) / Math.PI) % 180) + 180) % 180;
  if (deg < 1 || deg > 179) return 'along X';
  if (Math.abs(deg - 90) < 1) return 'along Y';
  return `along ${deg.toFixed(0)}°`;
}
