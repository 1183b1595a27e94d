import { changeSpotCheck, type Picture, removeSpotCheck } from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Act, LengthField, LengthFigure, SlipLine } from '../../kit';
import { Fold } from '../../kit/Fold';
import { PlaneChoice } from '../../part/PlaneChoice';
import { useJob } from '../../session/jobStore';
import { useSession } from '../../session/sessionStore';

/** Lengths that are compared and not used, each with its deviation against its ±. */
export function SpotChecks({
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
  const { spotChecks } = picture.calibration;
  return (
    <Fold
      name="spots"
      title="Spot checks"
      state={spotChecks.length > 0 ? String(spotChecks.length) : 'none'}
      isUsed={spotChecks.length > 0}
    >
      <ol>
        {spotChecks.map((s, k) => {
          const found = certainty?.spotChecks[s.id] ?? null;
          return (
            <SlipLine
              key={s.id}
              mark={String.fromCharCode(97 + (k % 26))}
              title="Caliper"
              figure={
                <LengthField
                  label={`Spot check ${k + 1}`}
                  value={s.typed}
                  unit={unit}
                  onAccept={(lengthMm, plusMinusMm, typed) =>
                    apply(changeSpotCheck(picture.id, s.id, { lengthMm, plusMinusMm, typed }))
                  }
                />
              }
            >
              {found && (
                <>
                  found <LengthFigure mm={found.found.value} plusMinusMm={found.found.plusMinus} unit={unit} />
                  <br />
                  <span className={found.fits ? 'text-verdigris' : 'font-medium text-brick'}>
                    <span className="figure">
                      {writeLength(found.deviationMm, found.plusMinusMm, unit).value} {unit} (
                      {fixed(100 * found.deviationShare, 2)} %)
                    </span>
                    , {found.fits ? 'fits' : 'does not fit'} within{' '}
                    <span className="figure">± {writeLength(0, found.plusMinusMm, unit).plusMinus}</span>
                  </span>
                </>
              )}
              <div className="mt-1.5 flex flex-wrap items-center justify-between gap-x-3 gap-y-1">
                <PlaneChoice
                  picture={picture}
                  value={s.plane}
                  turned
                  onChange={(plane) => apply(changeSpotCheck(picture.id, s.id, { plane }))}
                />
                <Act onClick={() => apply(removeSpotCheck(picture.id, s.id))} aria-label={`Remove spot check ${k + 1}`}>
                  Remove
                </Act>
              </div>
            </SlipLine>
          );
        })}
        <SlipLine title={<Act onClick={() => take('spot')}>Add a spot check</Act>}>
          A length that is compared, and not used.
        </SlipLine>
      </ol>
    </Fold>
  );
}
