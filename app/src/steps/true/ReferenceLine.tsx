import { KNOWN_LENGTH } from '@steady-moth/core/calibration';
import {
  changeReference,
  type Picture,
  type ReferenceRecord,
  removeReference,
  type SheetRecord,
} from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import { agreementSentence, REFERENCE_WORDS } from '@steady-moth/core/say';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Act, LengthField, SlipLine } from '../../kit';
import { PlaneChoice } from '../../part/PlaneChoice';
import { useJob } from '../../session/jobStore';
import { CountGraduations } from './CountGraduations';
import { KeepOwn } from './KeepOwn';
import { curlSentence } from './words';

/** One reference on the slip: what it is, its size, what the others say of it, where it lies. */
export function ReferenceLine({
  picture,
  reference: y,
  number,
  unit,
  certainty,
}: {
  picture: Picture;
  reference: ReferenceRecord;
  number: number;
  unit: LengthUnit;
  certainty: Certainty | null;
}) {
  const apply = useJob((s) => s.apply);
  const word = REFERENCE_WORDS[y.kind];
  const { references } = picture.calibration;
  const agreement = certainty?.references[y.id] ?? null;
  return (
    <SlipLine
      mark={number}
      title={y.kind !== 'known-length' && y.kind !== 'turned-diameter' && y.typed ? `${word}, ${y.typed}` : word}
      figure={<SizeField picture={picture} reference={y} number={number} unit={unit} />}
    >
      {agreementSentence(agreement, unit, y.kind, references.length > 1 ? 'the rest' : 'the stated scale')}
      {certainty?.outlier === y.id && <span className="text-brick"> All the others agree without it.</span>}
      {y.kind === 'sheet' && <Curl sheet={y} certainty={certainty} unit={unit} />}
      {y.kind === 'known-length' && (y.plane === 'reference' || y.graduations) && (
        <CountGraduations
          picture={picture}
          reference={y}
          number={number}
          unit={unit}
          width={certainty?.rulerWidths[y.id] ?? null}
        />
      )}
      {y.kind !== 'known-length' && <div className="mt-1">{placesWords(y)}</div>}
      {y.kind === 'known-length' && y.graduations && (
        <div className="mt-1">
          <KeepOwn
            entry={{
              kind: 'ruler',
              thicknessMm: picture.calibration.heights.reference.heightMm,
              plusMinusShare: y.plusMinusMm === null ? 2 * KNOWN_LENGTH.relativeSigma : y.plusMinusMm / y.lengthMm,
              widthMm: y.width?.widthMm ?? null,
              widthPlusMinusMm: y.width?.plusMinusMm ?? null,
            }}
          />
        </div>
      )}
      <div className="mt-1.5 flex flex-wrap items-center justify-between gap-x-3 gap-y-1">
        {y.kind !== 'turned-diameter' && (
          <PlaneChoice
            picture={picture}
            value={y.plane}
            turned={y.kind === 'known-length' && !y.graduations}
            onChange={(plane) => apply(changeReference(picture.id, y.id, { plane }))}
          />
        )}
        <Act
          onClick={() => apply(removeReference(picture.id, y.id))}
          aria-label={`Remove ${word.toLowerCase()} ${number}`}
        >
          Remove
        </Act>
      </div>
    </SlipLine>
  );
}

function Curl({ sheet, certainty, unit }: { sheet: SheetRecord; certainty: Certainty | null; unit: LengthUnit }) {
  const words = curlSentence(sheet, certainty?.bowed.filter((b) => b.reference === sheet.id) ?? [], unit);
  return words ? <p className="mt-1 rounded border-amber border-l-3 bg-amberpaper px-2 py-1">{words}</p> : null;
}

/** Its size, to be typed anew. */
function SizeField({
  picture,
  reference: y,
  number,
  unit,
}: {
  picture: Picture;
  reference: ReferenceRecord;
  number: number;
  unit: LengthUnit;
}) {
  const apply = useJob((s) => s.apply);
  const change = (what: object) => apply(changeReference(picture.id, y.id, what));
  const shown = (mm: number) => writeLength(mm, null, unit).value.replace(/0+$/, '').replace(/\.$/, '');
  const label = `${REFERENCE_WORDS[y.kind]} ${number}`;
  if (y.kind === 'known-length')
    return (
      <LengthField
        label={label}
        value={y.typed}
        unit={unit}
        onAccept={(lengthMm, plusMinusMm, typed) => change({ lengthMm, plusMinusMm, typed })}
      />
    );
  if (y.kind === 'disc')
    return y.diameterMm === null ? (
      'of any size'
    ) : (
      <LengthField
        label={label}
        value={`Ø ${shown(y.diameterMm)}`}
        unit={unit}
        onAccept={(diameterMm, plusMinusMm) => change({ diameterMm, plusMinusMm })}
      />
    );
  if (y.kind === 'sheet')
    return (
      <span className="inline-flex flex-col items-end gap-1">
        <LengthField
          label={`${label}, longer side`}
          value={shown(y.widthMm)}
          unit={unit}
          onAccept={(widthMm, spread) => change({ widthMm, plusMinusMm: spread ?? y.plusMinusMm })}
        />
        <LengthField
          label={`${label}, shorter side`}
          value={shown(y.heightMm)}
          unit={unit}
          onAccept={(heightMm, spread) => change({ heightMm, plusMinusMm: spread ?? y.plusMinusMm })}
        />
      </span>
    );
  if (y.kind === 'turned-diameter')
    return (
      <LengthField
        label={label}
        value={y.typed}
        unit={unit}
        onAccept={(diameterMm, plusMinusMm, typed) => change({ diameterMm, plusMinusMm, typed })}
      />
    );
  if (y.kind === 'grid')
    return (
      <LengthField
        label={`${label}, pitch`}
        value={shown(y.pitchMm)}
        unit={unit}
        onAccept={(pitchMm, spread) =>
          change({ pitchMm, plusMinusShare: spread === null ? y.plusMinusShare : spread / pitchMm })
        }
      />
    );
  return y.kind === 'square-lines' ? `${y.lines.length} lines` : `${y.lengths.length} lengths`;
}

function placesWords(y: ReferenceRecord): string {
  const leave = ' One that lies wrong is left out: click on it, then press Delete.';
  if (y.kind === 'disc') return `${y.rim.length} places of its rim.${leave}`;
  if (y.kind === 'sheet') return `${y.edges.flat().length} places of its edges.${leave}`;
  if (y.kind === 'grid') return `${y.crossings.length} crossings.${leave}`;
  if (y.kind === 'turned-diameter') return 'Halfway along the edges of the turned part.';
  return 'They tell the tilt, and no size.';
}
