import type { ProfileFormat } from '@steady-moth/core/format';
import { titleOf } from '@steady-moth/core/format/body/names';
import type { JobDocument } from '@steady-moth/core/job';
import type { Axis, BodyPlan } from '@steady-moth/core/solid';
import { useState } from 'react';
import { files, solids } from '../../compute';
import { Button, Choice, LengthField, Notice, SlipLine } from '../../kit';
import { download, fileNameFor } from '../../session/download';

const ACROSS = [
  { value: 'x', text: 'X' },
  { value: 'y', text: 'Y' },
  { value: 'z', text: 'height' },
] as const;

const MIME: Record<ProfileFormat, string> = { svg: 'image/svg+xml', dxf: 'application/dxf', pdf: 'application/pdf' };

/** A section of the body as a flat drawing at true size. */
export function SectionLine({ job, plan, disabled }: { job: JobDocument; plan: BodyPlan; disabled: boolean }) {
  const [across, setAcross] = useState<Axis>('z');
  const [atMm, setAt] = useState(0);
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const write = async (format: ProfileFormat) => {
    setBusy(true);
    setFault(null);
    try {
      const options = { title: titleOf(job), date: new Date().toISOString().slice(0, 10), unit: job.unit };
      const drawing = await solids.call((w) => w.section(plan.steps, { across, atMm }, options));
      const bytes = drawing && (await files.call((w) => w.writeProfile(drawing, format)));
      if (bytes) download(bytes, fileNameFor(drawing.title, format), MIME[format]);
      else setFault('The section meets nothing of the body there: choose another place.');
    } catch {
      setFault('The drawing could not be made. Nothing was changed; please try again.');
    }
    setBusy(false);
  };
  return (
    <SlipLine
      title="Section"
      figure={<Choice label="Section across" value={across} options={ACROSS} onChange={(v) => setAcross(v as Axis)} />}
    >
      where it is cut, flat, at true size
      {fault && <Notice tone="wrong">{fault}</Notice>}
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        <span className="inline-flex items-center gap-1">
          at
          <LengthField
            narrow
            place
            label="Place of the section"
            value={String(job.unit === 'in' ? atMm / 25.4 : atMm)}
            unit={job.unit}
            onAccept={setAt}
          />
        </span>
        {(['svg', 'dxf', 'pdf'] as const).map((format) => (
          <Button key={format} disabled={disabled || busy} onClick={() => void write(format)}>
            {format.toUpperCase()} of it
          </Button>
        ))}
      </div>
    </SlipLine>
  );
}
