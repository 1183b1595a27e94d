import { addPlane, type Picture, type PlaneName, removePlane, setHeight } from '@steady-moth/core/job';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Act, LengthField, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';

/** How the heights stand, in a few words. */
export function heightWords({ calibration, kind }: Picture, unit: LengthUnit): string {
  const { reference, face, said } = calibration.heights;
  if (!said && kind === 'photo') return 'not said';
  if (reference.heightMm === 0 && face.heightMm === 0) return 'left out';
  return `part ${writeLength(face.heightMm, null, unit).value.replace(/\.?0+$/, '')} ${unit}`;
}

/** How high each plane lies: the references', the face that is traced, and any further step. */
export function HeightLines({ picture, unit }: { picture: Picture; unit: LengthUnit }) {
  const apply = useJob((s) => s.apply);
  const { planes } = picture.calibration;
  const ground = picture.kind === 'photo' ? 'table' : 'glass';
  const line = (title: string, plane: PlaneName, own: boolean) => (
    <HeightLine key={plane} title={title} plane={plane} picture={picture} unit={unit} ground={ground} own={own} />
  );
  return (
    <>
      {line(ground === 'table' ? 'Height of the ruler’s top face' : `Ruler above ${ground}`, 'reference', false)}
      {line(ground === 'table' ? 'Height of the traced face (part thickness)' : `Face above ${ground}`, 'face', false)}
      {planes.map((p) => line(`${p.name} above ${ground}`, p.id, true))}
      <SlipLine
        title={
          <Act
            onClick={() =>
              apply(
                addPlane(picture.id, { id: newId(), name: `Step ${planes.length + 1}`, heightMm: 0, plusMinusMm: 0 }),
              )
            }
          >
            Add a height
          </Act>
        }
      >
        For a step in the part, or a yardstick that lies higher or lower than the others.
      </SlipLine>
    </>
  );
}

function HeightLine({
  title,
  plane,
  picture,
  unit,
  ground,
  own,
}: {
  title: string;
  plane: PlaneName;
  picture: Picture;
  unit: LengthUnit;
  /** What heights are counted from. */
  ground: 'table' | 'glass';
  /** It was added, and can be removed. */
  own: boolean;
}) {
  const apply = useJob((s) => s.apply);
  const { heights, planes } = picture.calibration;
  const { heightMm, plusMinusMm } =
    plane === 'reference' || plane === 'face'
      ? heights[plane]
      : (planes.find((p) => p.id === plane) ?? { heightMm: 0, plusMinusMm: 0 });
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
      <span className="flex gap-4">
        {heightMm === 0 ? (
          `level with the ${ground}`
        ) : (
          <Act onClick={() => apply(setHeight(picture.id, plane, { heightMm: 0, plusMinusMm: 0 }))}>
            Level with the {ground}
          </Act>
        )}
        {own && (
          <Act onClick={() => apply(removePlane(picture.id, plane))} aria-label={`Remove ${title}`}>
            Remove
          </Act>
        )}
      </span>
    </SlipLine>
  );
}

/** ± of a typed height when none is typed with it, mm. */
export const HEIGHT_SPREAD_MM = 0.1;
