import { type Picture, restingAxisMm, sayThin, setHeight, THIN_MM } from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { useFocusAfter } from '../../board/focusBoard';
import { Button, LengthField } from '../../kit';
import { useJob } from '../../session/jobStore';
import { HEIGHT_SPREAD_MM } from './HeightLines';

/** Asks how thick the part is, with what leaving it out costs in this very picture. */
export function AskHeights({
  picture,
  unit,
  certainty,
}: {
  picture: Picture;
  unit: LengthUnit;
  certainty: Certainty | null;
}) {
  const apply = useJob((s) => s.apply);
  const { reference } = picture.calibration.heights;
  const set = (plane: 'face' | 'reference') => (heightMm: number, plusMinusMm: number | null) =>
    apply(setHeight(picture.id, plane, { heightMm, plusMinusMm: plusMinusMm ?? HEIGHT_SPREAD_MM }));
  useFocusAfter();
  const thin = unit === 'in' ? (THIN_MM / 25.4).toFixed(3) : THIN_MM;
  if (picture.calibration.turned?.plane === 'face')
    return <AskAxis picture={picture} unit={unit} certainty={certainty} onAccept={set('face')} />;
  return (
    <section aria-label="How thick the part is" className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <h3 className="font-semibold">How thick is the part?</h3>
      {certainty && <p className="mt-1 text-[12.5px] text-ink2">{costSentence(certainty.cameraHeightMm, unit)}</p>}
      <dl className="mt-3 grid grid-cols-[1fr_auto] items-center gap-y-2 text-[12.5px] text-ink2">
        <dt>Thickness of the yardstick</dt>
        <dd>
          <LengthField
            label="Thickness of the yardstick"
            value={reference.heightMm ? writeLength(reference.heightMm, null, unit).value : ''}
            unit={unit}
            disabled={picture.locked}
            onAccept={set('reference')}
          />
        </dd>
        <dt>Thickness of the part, up to the face that is traced</dt>
        <dd>
          <LengthField
            label="Thickness of the part"
            value=""
            unit={unit}
            disabled={picture.locked}
            onAccept={set('face')}
          />
        </dd>
      </dl>
      <div className="mt-3">
        <Button disabled={picture.locked} onClick={() => apply(sayThin(picture.id))}>
          {`It is thin, up to ${thin} ${unit}`}
        </Button>
        <p className="mt-1 text-[12.5px] text-ink2">
          Paper, card, shim: the ± then allows for as much. Of anything thicker type its thickness.
        </p>
      </div>
    </section>
  );
}

/** Asks how high a turned part's axis lies, with what it is where the part rests on the table. */
function AskAxis({
  picture,
  unit,
  certainty,
  onAccept,
}: {
  picture: Picture;
  unit: LengthUnit;
  certainty: Certainty | null;
  onAccept(heightMm: number, plusMinusMm: number | null): void;
}) {
  const seen = certainty?.turnedDiameter;
  const resting = seen && certainty ? restingAxisMm(seen.value, certainty.cameraHeightMm) : null;
  const say = (mm: number) => `${writeLength(mm, null, unit).value} ${unit}`;
  return (
    <section aria-label="How high the axis lies" className="mb-4 rounded border border-rust bg-sheet p-3.5">
      <h3 className="font-semibold">How high does its axis lie?</h3>
      <p className="mt-1 text-[12.5px] text-ink2">
        A turned part that rests on the table has its axis half its diameter above it. Until this is said the ± allows
        for any height.
      </p>
      {resting !== null && (
        <div className="mt-3">
          <Button
            disabled={picture.locked}
            onClick={() => onAccept(resting, Math.max(HEIGHT_SPREAD_MM, RESTING_SHARE * resting))}
          >
            {`It rests on the table: ${say(resting)}`}
          </Button>
        </div>
      )}
      <dl className="mt-3 grid grid-cols-[1fr_auto] items-center gap-y-2 text-[12.5px] text-ink2">
        <dt>Height of its axis over the table</dt>
        <dd>
          <LengthField label="Height of its axis" value="" unit={unit} disabled={picture.locked} onAccept={onAccept} />
        </dd>
      </dl>
    </section>
  );
}

/** What the diameter between its outlines may be off by where the part rests on another one, as a share. */
const RESTING_SHARE = 0.03;

/** What a millimetre of thickness does to a length, through a camera at a given height. */
function costSentence(cameraHeightMm: number, unit: LengthUnit): string {
  const [span, each] = unit === 'in' ? ['4 in', 'each tenth of an inch'] : ['100 mm', 'each millimetre'];
  const lengthMm = unit === 'in' ? 4 * 25.4 : 100;
  const heightMm = unit === 'in' ? 2.54 : 1;
  const { value } = writeLength((lengthMm * heightMm) / cameraHeightMm, null, unit);
  return `What lies higher looks larger: in this picture ${span} come out ${value} ${unit} too long for ${each} that the part’s face lies above the yardstick’s.`;
}
