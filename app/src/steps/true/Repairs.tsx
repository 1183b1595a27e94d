import type { Repair } from '@steady-moth/core/calibration';
import {
  changeReference,
  type Picture,
  removeReference,
  removeSpotCheck,
  setFactor,
  setHeight,
} from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Act } from '../../kit';
import { useJob } from '../../session/jobStore';
import { useRepairs } from '../../session/useFigures';
import { REFERENCE_WORDS } from './words';

/** What would explain all deviations of the spot checks together, each with its figure; none is applied unasked. */
export function Repairs({
  picture,
  leads,
  unit,
  certainty,
}: {
  picture: Picture;
  /** Its size is its own, and not that of a picture that it is joined with. */
  leads: boolean;
  unit: LengthUnit;
  certainty: Certainty | null;
}) {
  const { spotChecks, factor } = picture.calibration;
  const apply = useJob((s) => s.apply);
  const misfits = spotChecks.filter((s) => certainty?.spotChecks[s.id]?.fits === false).length;
  const repairs = useRepairs(picture, misfits > 0);
  const offered = repairs.data?.filter((r) => leads || r.kind !== 'factor');
  return (
    <>
      {leads && factor && (
        <p className="mt-2 border-amber border-l-3 bg-amberpaper px-3 py-2 text-[12.5px]">
          All lengths are multiplied by <span className="figure">{fixed(factor.value, 5)}</span>, taken from{' '}
          {factor.checks === 1 ? 'one spot check' : `${factor.checks} spot checks`}. Nothing explains it.{' '}
          <Act onClick={() => apply(setFactor(picture.id, null))}>Take it off</Act>
        </p>
      )}
      {misfits > 0 && (
        <section aria-label="What would repair it" className="mt-3">
          <h4 className="font-semibold text-[13px]">What would explain it</h4>
          {repairs.isFetching && <p className="text-[12.5px] text-ink2">Trying what would explain all of them …</p>}
          {offered?.length === 0 && (
            <p className="text-[12.5px] text-ink2">
              No single thing explains all deviations. Check each reading again.
            </p>
          )}
          <ul className="text-[12.5px] text-ink2">
            {offered?.map((r) => (
              <RepairLine key={JSON.stringify(r)} picture={picture} repair={r} unit={unit} />
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function RepairLine({ picture, repair: r, unit }: { picture: Picture; repair: Repair; unit: LengthUnit }) {
  const apply = useJob((s) => s.apply);
  const { references, spotChecks, planes } = picture.calibration;
  const nameOf = (id: string) => {
    const k = references.findIndex((y) => y.id === id);
    return k < 0 ? 'a yardstick' : `${REFERENCE_WORDS[references[k]!.kind].toLowerCase()} ${k + 1}`;
  };
  const said = (mm: number, plusMinusMm: number) => {
    const { value, plusMinus } = writeLength(mm, plusMinusMm, unit);
    return `${value} ± ${plusMinus} ${unit}`;
  };
  const line = (text: string, act: string | null, change: (() => void) | null) => (
    <li className="mt-1.5">
      {text} {act && change && <Act onClick={change}>{act}</Act>}
    </li>
  );
  switch (r.kind) {
    case 'leave-out':
      return line(`The ${nameOf(r.reference)} is wrong: all fits without it.`, 'Leave it out', () =>
        apply(removeReference(picture.id, r.reference)),
      );
    case 'spot':
      return line(`Spot check ${r.spot + 1} was misread: all the others fit.`, 'Remove it', () =>
        apply(removeSpotCheck(picture.id, spotChecks[r.spot]!.id)),
      );
    case 'height': {
      const name =
        r.plane === 'face'
          ? 'face'
          : r.plane === 'reference'
            ? 'ruler'
            : (planes.find((p) => p.id === r.plane)?.name ?? 'plane');
      return line(
        `The ${name} lies ${said(r.heightMm.value, r.heightMm.plusMinus)} above the table.`,
        'Take that height',
        () =>
          apply(
            setHeight(picture.id, r.plane, {
              heightMm: Number(r.heightMm.value.toFixed(3)),
              plusMinusMm: Number(r.heightMm.plusMinus.toFixed(3)),
            }),
          ),
      );
    }
    case 'size': {
      const y = references.find((other) => other.id === r.reference);
      const text = `The ${nameOf(r.reference)} measures ${said(r.sizeMm.value, r.sizeMm.plusMinus)}${y?.kind === 'grid' ? ' over ten pitches' : ''}.`;
      const mm = Number(r.sizeMm.value.toFixed(4));
      const spread = Number(r.sizeMm.plusMinus.toFixed(4));
      if (y?.kind === 'known-length')
        return line(text, 'Take that length', () =>
          apply(
            changeReference(picture.id, y.id, {
              lengthMm: mm,
              plusMinusMm: spread,
              typed: `${mm} mm ± ${spread}`,
              ...(y.graduations
                ? { graduations: { ...y.graduations, spacingMm: (y.graduations.spacingMm * mm) / y.lengthMm } }
                : {}),
            }),
          ),
        );
      if (y?.kind === 'disc')
        return line(text, 'Take that size', () =>
          apply(changeReference(picture.id, y.id, { diameterMm: mm, plusMinusMm: spread, typed: '' })),
        );
      if (y?.kind === 'grid')
        return line(text, 'Take that pitch', () =>
          apply(changeReference(picture.id, y.id, { pitchMm: mm / 10, plusMinusShare: spread / mm, typed: '' })),
        );
      return line(text, null, null);
    }
    case 'lens':
      return line(
        `The lens is ${fixed(r.share.value, 3)} ± ${fixed(r.share.plusMinus, 3)} times as long as the file says: was it zoomed or cropped?`,
        null,
        null,
      );
    case 'factor':
      return line(
        `Nothing else: one factor of ${fixed(r.factor.value, 5)} ± ${fixed(r.factor.plusMinus, 5)} on all lengths.`,
        'Put it on, as a last resort',
        () =>
          apply(
            setFactor(picture.id, {
              value: r.factor.value * (picture.calibration.factor?.value ?? 1),
              plusMinus: r.factor.plusMinus,
              checks: spotChecks.length,
            }),
          ),
      );
  }
}
