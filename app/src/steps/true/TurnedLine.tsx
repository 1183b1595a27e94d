import { addReference, changeTurnedPlane, type Picture, setAxis, setTurned } from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import type { LengthUnit } from '@steady-moth/core/units';
import { Act, LengthField, LengthFigure, SlipLine } from '../../kit';
import { PlaneChoice } from '../../part/PlaneChoice';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useSession } from '../../session/sessionStore';
import { flatOf } from './tools/context';

/** A part turned on a lathe that lies on its side: where its outline is, and how large that makes it. */
export function TurnedLine({
  picture,
  unit,
  certainty,
}: {
  picture: Picture;
  unit: LengthUnit;
  certainty: Certainty | null;
}) {
  const apply = useJob((s) => s.apply);
  const take = useSession((s) => s.take);
  const { turned } = picture.calibration;
  if (!turned)
    return (
      <SlipLine title={<Act onClick={() => take('turned')}>A turned part, seen from the side</Act>}>
        Its outline is seen nearer than its axis, and its ends on their near rims: both are worked out.
      </SlipLine>
    );
  const [first] = turned.silhouettes;
  const diameter = certainty?.turnedDiameter;
  return (
    <SlipLine
      title="Turned part"
      figure={
        diameter && (
          <span>
            Ø <LengthFigure mm={diameter.value} plusMinusMm={diameter.plusMinus} unit={unit} />
          </span>
        )
      }
    >
      between its outlines where they were picked. Spot checks and runs on the turned part are measured through it.
      {picture.calibration.references.every((y) => y.kind !== 'turned-diameter') && (
        <div className="mt-1.5 flex items-center justify-between gap-x-3">
          If a caliper tells its diameter there
          <LengthField
            label="Known diameter of the turned part"
            value=""
            unit={unit}
            disabled={picture.locked}
            onAccept={(diameterMm, plusMinusMm, typed) =>
              apply(
                addReference(picture.id, {
                  id: newId(),
                  kind: 'turned-diameter',
                  plane: turned.plane,
                  typed,
                  diameterMm,
                  plusMinusMm,
                }),
              )
            }
          />
        </div>
      )}
      <div className="mt-1.5 flex flex-wrap items-center justify-between gap-x-3 gap-y-1">
        <span className="inline-flex flex-wrap items-center gap-x-1">
          Its axis lies
          <PlaneChoice
            picture={picture}
            value={turned.plane}
            onChange={(plane) => apply(changeTurnedPlane(picture.id, plane))}
          />
        </span>
        <span className="inline-flex gap-x-3">
          <Act
            onClick={() =>
              apply(
                setAxis(picture.id, {
                  along: picture.calibration.axis?.along ?? flatOf(picture, first[0], first[1]),
                  edges: turned.silhouettes,
                  plane: turned.plane,
                }),
              )
            }
          >
            Direction by its axis
          </Act>
          <Act onClick={() => apply(setTurned(picture.id, null))} aria-label="Remove the turned part">
            Remove
          </Act>
        </span>
      </div>
    </SlipLine>
  );
}
