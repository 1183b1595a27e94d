import type { ProfileFormat } from '@steady-moth/core/format';
import type { BodyDrawing } from '@steady-moth/core/format/body';
import { titleOf } from '@steady-moth/core/format/body/prepare';
import type { JobDocument } from '@steady-moth/core/job';
import { type Axis, type BodyPlan, VIEW_SIDES, type ViewSide } from '@steady-moth/core/solid';
import { type ReactNode, useState } from 'react';
import { files, solids } from '../../compute';
import { Button, Choice, LengthField, Notice, SlipLine } from '../../kit';
import { download, fileNameFor } from '../../session/download';
import { today } from '../../session/today';

const ACROSS = [
  { value: 'x', text: 'X' },
  { value: 'y', text: 'Y' },
  { value: 'z', text: 'height' },
] as const;

const FROM: Record<ViewSide, string> = {
  top: 'above',
  front: 'the front',
  right: 'the right',
  back: 'the back',
  left: 'the left',
  bottom: 'below',
};

const MIME: Record<ProfileFormat, string> = { svg: 'image/svg+xml', dxf: 'application/dxf', pdf: 'application/pdf' };

interface Props {
  job: JobDocument;
  plan: BodyPlan;
  disabled: boolean;
}

/** A section of the body as a flat drawing at true size. */
export function SectionLine(props: Props) {
  const { job } = props;
  const [across, setAcross] = useState<Axis>('z');
  const [atMm, setAt] = useState(0);
  return (
    <Drawing
      {...props}
      title="Section"
      figure={<Choice label="Section across" value={across} options={ACROSS} onChange={(v) => setAcross(v as Axis)} />}
      says="where it is cut, flat, at true size"
      what={{ across, atMm }}
      isNothing="The section meets nothing of the body there: choose another place."
    >
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
    </Drawing>
  );
}

/** What is seen of the body from a side, as a flat drawing at true size. */
export function ViewLine(props: Props) {
  const [side, setSide] = useState<ViewSide>('top');
  return (
    <Drawing
      {...props}
      title="Outside"
      figure={
        <select
          aria-label="Seen from"
          value={side}
          onChange={(e) => setSide(e.target.value as ViewSide)}
          className="rounded border border-line bg-sheet px-1.5 py-0.5 text-[13px]"
        >
          {VIEW_SIDES.map((value) => (
            <option key={value} value={value}>
              from {FROM[value]}
            </option>
          ))}
        </select>
      }
      says="its edges as they are seen from there, flat, at true size"
      what={{ side }}
      isNothing="Nothing of the body is seen from there."
    />
  );
}

interface DrawingProps extends Props {
  title: string;
  figure: ReactNode;
  says: string;
  what: BodyDrawing;
  isNothing: string;
  children?: ReactNode;
}

function Drawing({ job, plan, disabled, title, figure, says, what, isNothing, children }: DrawingProps) {
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  const write = async (format: ProfileFormat) => {
    setBusy(true);
    setFault(null);
    try {
      const options = { title: titleOf(job), date: today(), unit: job.unit };
      const drawing = await solids.call((w) => w.draw(plan.steps, what, options));
      const bytes = drawing && (await files.call((w) => w.writeProfile(drawing, format)));
      if (bytes) download(bytes, fileNameFor(drawing.title, format), MIME[format]);
      else setFault(isNothing);
    } catch {
      setFault('The drawing could not be made. Nothing was changed; please try again.');
    }
    setBusy(false);
  };
  return (
    <SlipLine title={title} figure={figure}>
      {says}
      {fault && <Notice tone="wrong">{fault}</Notice>}
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        {children}
        {(['svg', 'dxf', 'pdf'] as const).map((format) => (
          <Button
            key={format}
            aria-label={`${format.toUpperCase()} of the ${title.toLowerCase()}`}
            disabled={disabled || busy}
            onClick={() => void write(format)}
          >
            {format.toUpperCase()}
          </Button>
        ))}
      </div>
    </SlipLine>
  );
}
