import { type JobDocument, setMaterial } from '@steady-moth/core/job';
import { type Axis, type Box, MATERIALS } from '@steady-moth/core/solid';
import type { BodyFigures as Figures } from '@steady-moth/core/solid/kernel';
import { fixed, type LengthUnit, writeLength } from '@steady-moth/core/units';
import { SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { Cell } from '../../step/Readout';

const IN3 = 25.4 ** 3;
const IN2 = 25.4 ** 2;

const volumeText = (mm3: number, unit: LengthUnit): string =>
  unit === 'in'
    ? `${fixed(mm3 / IN3, 4)} in³`
    : mm3 < 1e5
      ? `${fixed(mm3 / 1e3, 3)} cm³`
      : `${fixed(mm3 / 1e3, 1)} cm³`;

const areaText = (mm2: number, unit: LengthUnit): string =>
  unit === 'in' ? `${fixed(mm2 / IN2, 3)} in²` : `${fixed(mm2 / 100, 2)} cm²`;

const massText = (grams: number): string =>
  grams < 1000 ? `${fixed(grams, grams < 10 ? 2 : 1)} g` : `${fixed(grams / 1000, 3)} kg`;

const overall = ({ min, max }: Box, unit: LengthUnit): string =>
  [max.x - min.x, max.y - min.y, max.z - min.z].map((mm) => writeLength(mm, null, unit).value).join(' × ');

/** What the readout shows of a body. */
export function BodyCells({ job, figures, box }: { job: JobDocument; figures: Figures | null; box: Box | null }) {
  const { material } = job.part;
  return (
    <>
      <Cell label="Volume">{figures ? volumeText(figures.volumeMm3, job.unit) : '—'}</Cell>
      <Cell label={material?.name ?? 'Mass'}>
        {figures && material ? massText((figures.volumeMm3 / 1000) * material.density) : '—'}
      </Cell>
      <Cell label={`Overall, ${job.unit}`}>{box ? overall(box, job.unit) : '—'}</Cell>
    </>
  );
}

/** Volume, surface, centre and mass; empty until they are known. */
export function FigureLines({ job, figures }: { job: JobDocument; figures: Figures | null }) {
  const apply = useJob((s) => s.apply);
  const { unit } = job;
  const { material } = job.part;
  const place = (axis: Axis) => (figures ? writeLength(figures.centre[axis], null, unit).value : '…');
  return (
    <ul>
      <SlipLine
        title="Volume"
        figure={<span className="figure">{figures ? volumeText(figures.volumeMm3, unit) : '…'}</span>}
      >
        surface <span className="figure">{figures ? areaText(figures.areaMm2, unit) : '…'}</span>
        {figures && figures.solids > 1 && `, in ${figures.solids} separate bodies`}
      </SlipLine>
      <SlipLine
        title="Material"
        figure={
          <select
            aria-label="Material"
            value={material?.name ?? ''}
            onChange={(e) => apply(setMaterial(MATERIALS.find((m) => m.name === e.target.value) ?? null))}
            className="max-w-40 rounded border border-line bg-sheet px-1.5 py-0.5 text-[13px]"
          >
            <option value="">choose …</option>
            {MATERIALS.map((m) => (
              <option key={m.name} value={m.name}>
                {m.name}
              </option>
            ))}
          </select>
        }
      >
        {material ? (
          <>
            <span className="figure">{figures ? massText((figures.volumeMm3 / 1000) * material.density) : '…'}</span> at{' '}
            <span className="figure">{material.density}</span> g/cm³; a batch strays by a few percent, wood by ten
          </>
        ) : (
          'for its mass'
        )}
      </SlipLine>
      <SlipLine title="Centre of mass">
        X <span className="figure">{place('x')}</span>, Y <span className="figure">{place('y')}</span>, height{' '}
        <span className="figure">{place('z')}</span>
      </SlipLine>
    </ul>
  );
}
