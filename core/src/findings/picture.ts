import type { Explanation, Figure } from '../calibration';
import { changeReference, type Picture, removeReference, removeSpotCheck, setFactor, setHeight } from '../job';
import type { Certainty } from '../job/calibrated';
import { agreementSentence, REFERENCE_WORDS } from '../say';
import { fixed, type LengthUnit, writeLength } from '../units';
import type { Finding, Repair } from './finding';

/**
 * What of a picture contradicts itself: yardsticks that the rest finds otherwise, and spot checks that do not fit, with
 * everything that would explain these.
 *
 * @param explanations those of `findExplanations`; empty while they are sought
 */
export function pictureFindings(
  picture: Picture,
  certainty: Pick<Certainty, 'references' | 'spotChecks'>,
  explanations: readonly Explanation[],
  unit: LengthUnit,
): Finding[] {
  const { references, spotChecks } = picture.calibration;
  const misfits = spotChecks.filter((s) => certainty.spotChecks[s.id]?.fits === false).map((s) => s.id);
  const common = { gravity: 'wrong', certainty: 'sure' } as const;
  return [
    ...references.flatMap((y): Finding[] => {
      const agreement = certainty.references[y.id];
      if (!agreement || agreement.fits) return [];
      return [
        {
          ...common,
          key: `reference ${y.id}`,
          subject: `The ${referenceName(picture, y.id)}:`,
          says: agreementSentence(agreement, unit, y.kind, references.length > 1 ? 'the rest' : 'the stated scale'),
          where: { kind: 'reference', picture: picture.id, reference: y.id },
          repairs: [],
        },
      ];
    }),
    ...(misfits.length === 0
      ? []
      : [
          {
            ...common,
            key: `spot checks ${misfits.join(' ')}`,
            subject: null,
            says: `${misfits.length === 1 ? 'A spot check does' : `${misfits.length} spot checks do`} not fit within ${misfits.length === 1 ? 'its' : 'their'} ±.`,
            where: { kind: 'spot-checks' as const, picture: picture.id, spotChecks: misfits },
            repairs: explanations.map((e) => repairOf(e, picture, unit)),
          },
        ]),
  ];
}

/** What a yardstick of a picture is called within a sentence. */
function referenceName({ calibration: { references } }: Picture, id: string): string {
  const k = references.findIndex((y) => y.id === id);
  return k < 0 ? 'yardstick' : `${REFERENCE_WORDS[references[k]!.kind].toLowerCase()} ${k + 1}`;
}

/** One explanation, with what takes it for true. */
function repairOf(own: Explanation, picture: Picture, unit: LengthUnit): Repair {
  const { spotChecks, planes, factor } = picture.calibration;
  const said = (figure: Figure) => {
    const { value, plusMinus } = writeLength(figure.value, figure.plusMinus, unit);
    return `${value} ± ${plusMinus} ${unit}`;
  };
  switch (own.kind) {
    case 'leave-out':
      return {
        says: `The ${referenceName(picture, own.reference)} is wrong: all fits without it.`,
        press: { name: 'Leave it out', act: () => removeReference(picture.id, own.reference) },
      };
    case 'spot':
      return {
        says: `Spot check ${own.spot + 1} was misread: all the others fit.`,
        press: { name: 'Remove it', act: () => removeSpotCheck(picture.id, spotChecks[own.spot]!.id) },
      };
    case 'height': {
      const named = planes.find((p) => p.id === own.plane)?.name ?? 'plane';
      const name = own.plane === 'face' ? 'face' : own.plane === 'reference' ? 'ruler' : named;
      return {
        says: `The ${name} lies ${said(own.heightMm)} above the table.`,
        press: {
          name: 'Take that height',
          act: () =>
            setHeight(picture.id, own.plane, {
              heightMm: Number(own.heightMm.value.toFixed(3)),
              plusMinusMm: Number(own.heightMm.plusMinus.toFixed(3)),
            }),
        },
      };
    }
    case 'size':
      return sizeRepair(own, picture, said(own.sizeMm));
    case 'lens':
      return {
        says: `The lens is ${fixed(own.share.value, 3)} ± ${fixed(own.share.plusMinus, 3)} times as long as the file says: was it zoomed or cropped?`,
        press: null,
      };
    case 'factor':
      return {
        says: `Nothing else: one factor of ${fixed(own.factor.value, 5)} ± ${fixed(own.factor.plusMinus, 5)} on all lengths.`,
        press: {
          name: 'Put it on, as a last resort',
          act: () =>
            setFactor(picture.id, {
              value: own.factor.value * (factor?.value ?? 1),
              plusMinus: own.factor.plusMinus,
              checks: spotChecks.length,
            }),
        },
      };
  }
}

/** A yardstick of another size than was said. */
function sizeRepair(own: Extract<Explanation, { kind: 'size' }>, picture: Picture, said: string): Repair {
  const y = picture.calibration.references.find((other) => other.id === own.reference);
  const mm = Number(own.sizeMm.value.toFixed(4));
  const spread = Number(own.sizeMm.plusMinus.toFixed(4));
  const says = `The ${referenceName(picture, own.reference)} measures ${said}${y?.kind === 'grid' ? ' over ten pitches' : ''}.`;
  switch (y?.kind) {
    case 'known-length':
      return {
        says,
        press: {
          name: 'Take that length',
          act: () =>
            changeReference(picture.id, y.id, {
              lengthMm: mm,
              plusMinusMm: spread,
              typed: `${mm} mm ± ${spread}`,
              ...(y.graduations
                ? { graduations: { ...y.graduations, spacingMm: (y.graduations.spacingMm * mm) / y.lengthMm } }
                : {}),
            }),
        },
      };
    case 'disc':
      return {
        says,
        press: {
          name: 'Take that size',
          act: () => changeReference(picture.id, y.id, { diameterMm: mm, plusMinusMm: spread, typed: '' }),
        },
      };
    case 'grid':
      return {
        says,
        press: {
          name: 'Take that pitch',
          act: () => changeReference(picture.id, y.id, { pitchMm: mm / 10, plusMinusShare: spread / mm, typed: '' }),
        },
      };
    default:
      return { says, press: null };
  }
}
