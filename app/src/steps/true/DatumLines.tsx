import { type Picture, recordKindOf, setAxis, setWanted, setZero } from '@steady-moth/core/job';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { Act, Choice, LengthField, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';
import { type DatumBy, useTrue } from './trueStore';

/** Zero and the direction of X, and what shall become a size. */
export function DatumLines({
  picture,
  unit,
  modelScale,
}: {
  picture: Picture;
  unit: LengthUnit;
  modelScale: number | null;
}) {
  const apply = useJob((s) => s.apply);
  const take = useSession((s) => s.take);
  const setBy = useTrue((s) => s.setDatumBy);
  const { calibration, id } = picture;
  const pick = (tool: 'zero' | 'direction', by: DatumBy) => {
    setBy(by);
    take(tool);
  };
  return (
    <>
      <AxisLine picture={picture} pick={(by) => pick('direction', by)} />
      <SlipLine title="Zero" figure={<span className="font-normal">{zeroWords(picture)}</span>}>
        <span className="flex flex-wrap gap-x-4 gap-y-1">
          <Act onClick={() => pick('zero', 'point')}>A point</Act>
          <Act onClick={() => pick('zero', 'crossing')}>Where two edges cross</Act>
          <Act onClick={() => pick('zero', 'hole')}>Centre of a hole</Act>
          {calibration.zero && <Act onClick={() => apply(setZero(id, null))}>Middle of the picture</Act>}
        </span>
      </SlipLine>
      <SlipLine
        title="Wanted length"
        figure={
          calibration.wanted && (
            <LengthField
              label="Wanted length"
              value={calibration.wanted.typed}
              unit={unit}
              onAccept={(lengthMm, _, typed) =>
                calibration.wanted && apply(setWanted(id, { ...calibration.wanted, lengthMm, typed }))
              }
            />
          )
        }
      >
        {calibration.wanted ? (
          <>
            {modelScale !== null && `Model scale ${scaleWords(modelScale)}. `}
            <Act onClick={() => apply(setWanted(id, null))}>Leave it as large as it is</Act>
          </>
        ) : (
          <Act onClick={() => take('wanted')}>Scale to a size you want</Act>
        )}
      </SlipLine>
    </>
  );
}

/** Model to thing: 1 : 7.4 is smaller than what was pictured, 2.5 : 1 larger. */
const scaleWords = (factor: number): string =>
  factor >= 1 ? `${fixed(factor, 2)} : 1` : `1 : ${fixed(1 / factor, 2)}`;

function AxisLine({ picture, pick }: { picture: Picture; pick(by: DatumBy): void }) {
  const apply = useJob((s) => s.apply);
  const { axis, references } = picture.calibration;
  const lines = references.flatMap((y, k) => (recordKindOf(y).datumLine(y) ? [{ id: y.id, number: k + 1 }] : []));
  const set = (along: 'x' | 'y' | 'none') => {
    if (along === 'none') apply(setAxis(picture.id, null));
    else if (axis) apply(setAxis(picture.id, { ...axis, along }));
    else if (lines[0]) apply(setAxis(picture.id, { along, reference: lines[0].id }));
  };
  const source = !axis
    ? 'the rows of the picture'
    : 'reference' in axis
      ? `yardstick ${lines.find((l) => l.id === axis.reference)?.number ?? ''}`
      : 'holes' in axis
        ? 'the centres of two holes'
        : 'edges' in axis
          ? 'a centre line'
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
          disabled={!axis && lines.length === 0}
        />
      }
    >
      by {source}{' '}
      <span className="ml-2 inline-flex flex-wrap gap-x-3">
        <Act onClick={() => pick('point')}>Pick a line</Act>
        <Act onClick={() => pick('middle')}>A centre line</Act>
        <Act onClick={() => pick('hole')}>Two holes</Act>
        {lines.map(({ id, number }) =>
          axis && 'reference' in axis && axis.reference === id ? null : (
            <Act key={id} onClick={() => apply(setAxis(picture.id, { along: axis?.along ?? 'x', reference: id }))}>
              Yardstick {number}
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

/** How zero and direction stand, in a few words. */
export function datumWords({ calibration }: Picture, leads: boolean): string {
  if (!leads) return 'of the first picture';
  const { axis, zero, wanted, laid } = calibration;
  if (laid) return 'laid on the part';
  return [zero ? 'zero' : '', axis ? axis.along.toUpperCase() : '', wanted ? 'a wanted size' : '']
    .filter((word) => word !== '')
    .join(', ')
    .concat(zero || axis || wanted ? ' set' : 'as the picture lies');
}

function zeroWords({ calibration }: Picture): string {
  const { zero } = calibration;
  if (!zero) return 'middle of the picture';
  if ('pick' in zero) return 'a point of its own';
  if ('crossing' in zero) return 'the crossing of two edges';
  if ('rim' in zero) return 'the centre of a hole';
  const n = calibration.references.findIndex((y) => y.id === zero.reference) + 1;
  return `${zero.end === 'from' ? 'first' : 'second'} reading of ${n}`;
}
