import {
  believeResolution,
  changeYardstick,
  isScaleKnown,
  lockPicture,
  type Picture,
  removeYardstick,
  setAxis,
  setHeight,
  setHold,
  setZero,
} from '@steady-moth/core/job';
import type { TruingFault } from '@steady-moth/core/truing';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Act, Choice, degrees, LengthField, Notice, SlipLine } from '../kit';
import { type Tool, useBench } from '../store/benchStore';
import { useJob } from '../store/jobStore';
import { truingSentence } from '../store/sentences';
import type { Certainty } from '../workers/truing.worker';
import { CountStrokes } from './CountStrokes';
import { PlaneChoice } from './PlaneChoice';
import { SpotChecks } from './SpotChecks';
import { adviceSentence, agreementSentence, verdictSentence } from './words';

interface Props {
  picture: Picture;
  unit: LengthUnit;
  certainty: Certainty | null;
  waiting: boolean;
  fault: { reason: TruingFault; yardstick?: string } | null;
  tool: Tool;
  begun: boolean;
}

export function TrueSlip({ picture, unit, certainty, waiting, fault, tool, begun }: Props) {
  const apply = useJob((s) => s.apply);
  const take = useBench((s) => s.take);
  const { truing, id } = picture;
  const known = isScaleKnown(picture);
  const isPhoto = picture.kind === 'photo';
  const ground = isPhoto ? 'table' : 'glass';
  return (
    <>
      {tool && <p className="mb-3 font-medium text-rust">{toolSentence(tool, begun)}</p>}
      {picture.locked && (
        <Notice tone="doubt">
          This picture is locked: nothing that is known of it changes.{' '}
          <Act onClick={() => apply(lockPicture(id, false))}>Unlock it</Act>
        </Notice>
      )}
      {fault && <Notice tone="wrong">{truingSentence(fault.reason)}</Notice>}
      {known && !fault && <Verdict certainty={certainty} waiting={waiting} unit={unit} />}
      <ol>
        {!isPhoto && <ResolutionLine picture={picture} />}
        {truing.yardsticks.map((y, k) => (
          <SlipLine
            key={y.id}
            mark={k + 1}
            title="Known length"
            figure={
              <LengthField
                label={`Known length ${k + 1}`}
                value={y.typed}
                unit={unit}
                onAccept={(lengthMm, plusMinusMm, typed) =>
                  apply(changeYardstick(id, y.id, { lengthMm, plusMinusMm, typed }))
                }
              />
            }
          >
            {agreementSentence(certainty?.yardsticks[y.id] ?? null, unit)}
            {(y.plane === 'yardstick' || y.strokes) && <CountStrokes picture={picture} yardstick={y} number={k + 1} />}
            <div className="mt-1.5 flex flex-wrap items-center justify-between gap-x-3 gap-y-1">
              <PlaneChoice value={y.plane} onChange={(plane) => apply(changeYardstick(id, y.id, { plane }))} />
              <Act onClick={() => apply(removeYardstick(id, y.id))} aria-label={`Remove known length ${k + 1}`}>
                Remove
              </Act>
            </div>
          </SlipLine>
        ))}
        <SlipLine
          title={
            <Act onClick={() => take('readings')}>
              {known || !isPhoto ? 'Add a known length' : 'Take two readings on the ruler'}
            </Act>
          }
        >
          {!known && 'Or press Q. Pick both ends of anything whose length you know.'}
        </SlipLine>
        <AxisLine picture={picture} />
        <SlipLine title="Zero" figure={<span className="font-normal">{zeroWords(picture)}</span>}>
          <span className="flex gap-4">
            <Act onClick={() => take('zero')}>Pick it</Act>
            {truing.zero && <Act onClick={() => apply(setZero(id, null))}>Middle of the picture</Act>}
          </span>
        </SlipLine>
        {picture.kind !== 'drawing' && (
          <>
            <HeightLine
              title={`Ruler above ${ground}`}
              plane="yardstick"
              picture={picture}
              unit={unit}
              ground={ground}
            />
            <HeightLine title={`Face above ${ground}`} plane="face" picture={picture} unit={unit} ground={ground} />
          </>
        )}
        {isPhoto && (
          <SlipLine
            title="Camera was held"
            figure={
              <Choice
                label="Camera was held"
                value={truing.hold}
                options={HOLDS}
                onChange={(hold) => apply(setHold(id, hold))}
              />
            }
          >
            {certainty && (
              <>
                tilt {degrees(certainty.tiltRad, 1)}{' '}
                <span className="figure text-verdigris">± {degrees(Math.max(...certainty.tiltPlusMinusRad), 1)}</span>,
                lens <span className="figure">{fixed(certainty.cameraHeightMm, 0)} mm</span> away
              </>
            )}
          </SlipLine>
        )}
      </ol>
      <SpotChecks picture={picture} unit={unit} certainty={certainty} />
    </>
  );
}

/** The scale that the file of a scan or a drawing states: one more thing that is known, or doubted. */
function ResolutionLine({ picture }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  const { facts, truing, id } = picture;
  const { resolution } = facts;
  if (!resolution)
    return <SlipLine title="Stated scale">The file states none: a known length along the page gives it.</SlipLine>;
  const share = 200 * resolution.sigma;
  return (
    <SlipLine
      title="Stated scale"
      figure={<span className="figure">{`${fixed(25.4 * resolution.perMmX, 0)} to the inch`}</span>}
    >
      {truing.believeResolution
        ? share < 0.1
          ? "the page's own scale"
          : `believed to ± ${fixed(share, 1)} %; a known length checks it`
        : 'left out: only known lengths count'}
      <div className="mt-1">
        <Act onClick={() => apply(believeResolution(id, !truing.believeResolution))}>
          {truing.believeResolution ? 'Do not believe it' : 'Believe it'}
        </Act>
      </div>
    </SlipLine>
  );
}

/** ± of a tilt from which it counts as seen, rad. */
const SEEN_TILT_RAD = 0.05;

function Verdict({ certainty, waiting, unit }: { certainty: Certainty | null; waiting: boolean; unit: LengthUnit }) {
  if (!certainty) return <p className="my-3 text-ink2">{waiting ? 'Working out how far to trust it …' : ''}</p>;
  const { advice } = certainty;
  return (
    <Notice tone={advice ? 'doubt' : 'good'}>
      <p className={waiting ? 'opacity-60' : ''}>
        {verdictSentence(certainty, unit)}
        {advice && ` ${adviceSentence(advice, unit, Math.max(...certainty.tiltPlusMinusRad) < SEEN_TILT_RAD)}`}
        {certainty.otherTilts > 0 &&
          ' Another tilt of the camera would explain these lengths as well; a known length across would decide.'}
      </p>
    </Notice>
  );
}

const HOLDS = [
  { value: 'flat-on', text: 'flat-on' },
  { value: 'free', text: 'anyhow' },
] as const;

function AxisLine({ picture }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  const take = useBench((s) => s.take);
  const { axis, yardsticks } = picture.truing;
  const set = (along: 'x' | 'y' | 'none') => {
    if (along === 'none') apply(setAxis(picture.id, null));
    else if (axis) apply(setAxis(picture.id, { ...axis, along }));
    else if (yardsticks[0]) apply(setAxis(picture.id, { along, yardstick: yardsticks[0].id }));
  };
  const source = !axis
    ? 'the rows of the picture'
    : 'yardstick' in axis
      ? `known length ${yardsticks.findIndex((y) => y.id === axis.yardstick) + 1}`
      : 'a line of its own';
  return (
    <SlipLine
      title="Along"
      figure={
        <Choice
          label="That line runs along"
          value={axis?.along ?? 'none'}
          options={ALONG}
          onChange={set}
          disabled={!axis && yardsticks.length === 0}
        />
      }
    >
      by {source}{' '}
      <span className="ml-2 inline-flex gap-3">
        <Act onClick={() => take('direction')}>Pick a line</Act>
        {yardsticks.map((y, k) =>
          axis && 'yardstick' in axis && axis.yardstick === y.id ? null : (
            <Act key={y.id} onClick={() => apply(setAxis(picture.id, { along: axis?.along ?? 'x', yardstick: y.id }))}>
              Length {k + 1}
            </Act>
          ),
        )}
      </span>
    </SlipLine>
  );
}

const ALONG = [
  { value: 'x', text: 'X' },
  { value: 'y', text: 'Y' },
  { value: 'none', text: '—' },
] as const;

function zeroWords({ truing }: Picture): string {
  const { zero } = truing;
  if (!zero) return 'middle of the picture';
  if ('pick' in zero) return 'a point of its own';
  const n = truing.yardsticks.findIndex((y) => y.id === zero.yardstick) + 1;
  return `${zero.end === 'from' ? 'first' : 'second'} reading of ${n}`;
}

function HeightLine({
  title,
  plane,
  picture,
  unit,
  ground,
}: {
  title: string;
  plane: 'yardstick' | 'face';
  picture: Picture;
  unit: LengthUnit;
  /** What heights are counted from. */
  ground: 'table' | 'glass';
}) {
  const apply = useJob((s) => s.apply);
  const { heightMm, plusMinusMm } = picture.truing.heights[plane];
  const shown =
    heightMm === 0
      ? ''
      : `${writeLength(heightMm, null, unit).value.replace(/0+$/, '').replace(/\.$/, '')}${plusMinusMm ? ` ± ${Number(plusMinusMm.toFixed(3))}` : ''}`;
  return (
    <SlipLine
      title={title}
      figure={
        <LengthField
          label={title}
          value={shown}
          unit={unit}
          onAccept={(mm, spread) =>
            apply(setHeight(picture.id, plane, { heightMm: mm, plusMinusMm: spread ?? HEIGHT_SPREAD_MM }))
          }
        />
      }
    >
      {heightMm === 0 ? (
        `level with the ${ground}`
      ) : (
        <Act onClick={() => apply(setHeight(picture.id, plane, { heightMm: 0, plusMinusMm: 0 }))}>
          Level with the {ground}
        </Act>
      )}
    </SlipLine>
  );
}

/** ± of a typed height when none is typed with it, mm. */
const HEIGHT_SPREAD_MM = 0.1;

function toolSentence(tool: NonNullable<Tool>, begun: boolean): string {
  if (tool === 'readings') return begun ? 'Now the second reading.' : 'Pick the first reading under the loupe.';
  if (tool === 'direction')
    return begun ? 'Now a second point on that line.' : 'Pick a point on a line that runs along X or Y.';
  if (tool === 'zero') return 'Pick where zero is.';
  return begun ? 'Now the second point.' : 'Pick the first point of a length that the caliper can check.';
}
