import type { JobDocument, Picture } from '@steady-moth/core/job';
import type { LengthUnit } from '@steady-moth/core/units';
import { useState } from 'react';
import { Act } from '../../kit';
import { Chart } from '../../kit/Chart';
import { useTrust } from '../../session/useFigures';
import { deviationTraces, mapTraces } from './charts';

/** The ± over the picture and how far each observed place lies off: what the one sentence above is made of. */
export function Trust({ job, picture, unit }: { job: JobDocument; picture: Picture; unit: LengthUnit }) {
  const [open, setOpen] = useState(false);
  const trust = useTrust(job, picture, open);
  const { widthPx, heightPx } = picture.facts;
  return (
    <section aria-label="How far to trust it" className="mt-4 mb-3">
      <Act aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Hide the map of the ±' : 'Show the ± over the picture, and each deviation'}
      </Act>
      {open && trust.isFetching && <p className="mt-2 text-[12.5px] text-ink2">Working it out …</p>}
      {open && trust.data && (
        <>
          <h4 className="mt-2 font-semibold text-[13px]">
            ± of {unit === 'in' ? '4 in, in' : '100 mm, in mm'} over the picture
          </h4>
          <Chart
            label="± over the picture"
            traces={mapTraces(trust.data.map, unit)}
            heightPx={Math.round((330 * heightPx) / widthPx) + 20}
            across={[0, widthPx]}
            down={[heightPx, 0]}
            bare
          />
          <h4 className="mt-2 font-semibold text-[13px]">How far each observed place lies off, in its own σ</h4>
          <Chart
            label="Deviations of the observed places"
            traces={deviationTraces(trust.data.deviations, picture)}
            heightPx={190}
          />
        </>
      )}
    </section>
  );
}
