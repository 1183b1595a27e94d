import { layPicture, type Picture } from '@steady-moth/core/job';
import { fixed, type LengthUnit, readNumber, writeLength } from '@steady-moth/core/units';
import { Act, LengthField, SlipLine } from '../../kit';
import { NumberField } from '../../kit/FormulaField';
import { useJob } from '../../session/jobStore';
import { useTrue } from './trueStore';

const AS_IT_IS = { xMm: 0, yMm: 0, turnRad: 0 };
const RAD = Math.PI / 180;
const NO_NAMES = () => null;

/**
 * Where this picture lies on a part that other pictures show as well, where no common place joins them: artwork for a face,
 * a template beside a photograph. Typed, or pressed in the other picture.
 */
export function LaidLine({
  picture,
  others,
  unit,
}: {
  picture: Picture;
  others: readonly Picture[];
  unit: LengthUnit;
}) {
  const apply = useJob((s) => s.apply);
  const startLaying = useTrue((s) => s.lay);
  if (others.length === 0) return null;
  const { laid } = picture.calibration;
  const now = laid ?? AS_IT_IS;
  const change = (part: Partial<typeof AS_IT_IS>) => apply(layPicture(picture.id, { ...now, ...part }));
  return (
    <SlipLine
      title="On the part"
      figure={<span className="font-normal">{laid ? 'laid' : 'its zero is the part’s'}</span>}
    >
      <span className="flex flex-wrap items-center justify-end gap-x-2 gap-y-1">
        its zero at
        {(['xMm', 'yMm'] as const).map((key) => (
          <LengthField
            key={key}
            label={key === 'xMm' ? 'X of its zero on the part' : 'Y of its zero on the part'}
            value={plain(now[key], unit)}
            unit={unit}
            narrow
            place
            disabled={picture.locked}
            onAccept={(mm) => change({ [key]: mm })}
          />
        ))}
        turned by
        <NumberField
          label="By how many degrees its X is turned on the part, left positive"
          value={fixed(now.turnRad / RAD, 2).replace(/\.?0+$/, '')}
          read={(text) => readNumber(text, NO_NAMES, NO_NAMES)}
          least={-360}
          most={360}
          suffix="°"
          onAccept={(text) => {
            const found = readNumber(text, NO_NAMES, NO_NAMES);
            if (found.ok) change({ turnRad: found.value * RAD });
          }}
        />
      </span>
      <span className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
        {others.map((other) => (
          <Act key={other.id} disabled={picture.locked} onClick={() => startLaying(picture.id, other.id)}>
            Press its place in {other.fileName}
          </Act>
        ))}
        {laid && (
          <Act disabled={picture.locked} onClick={() => apply(layPicture(picture.id, null))}>
            Its zero is the part’s
          </Act>
        )}
      </span>
    </SlipLine>
  );
}

const plain = (mm: number, unit: LengthUnit): string =>
  mm === 0
    ? '0'
    : writeLength(mm, null, unit)
        .value.replace(/(\.\d*?)0+$/, '$1')
        .replace(/\.$/, '');
