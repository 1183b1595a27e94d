import type { FlatProfile, ProfileFormat } from '@steady-moth/core/format';
import { compensated, DXF_USUAL, type Machine, type ProfileForm } from '@steady-moth/core/format/profile';
import { formsBounds } from '@steady-moth/core/geometry';
import { handedOver } from '@steady-moth/core/handover';
import { sketchesOf } from '@steady-moth/core/sketch';
import { writeLength } from '@steady-moth/core/units';
import { useState } from 'react';
import type { BoardTool } from '../../board/boardTool';
import { useLayers } from '../../board/useLayers';
import { Button, Choice, Notice, SlipLine } from '../../kit';
import { PartBoard } from '../../part/PartBoard';
import { useDrawn } from '../../part/useDrawn';
import { useSession } from '../../session/sessionStore';
import { today } from '../../session/today';
import { useBoardFrame, useBoardFrames, useOthersSettled } from '../../session/useBoardFrame';
import { useFlaws } from '../../session/useFlaws';
import type { StepParts, StepProps } from '../../step/description';
import { WorkedOn } from '../../step/WorkedOn';
import { BeforeItGoes } from './BeforeItGoes';
import { BodyLines } from './BodyLines';
import { DxfCurvesLine } from './DxfCurvesLine';
import { MachineLine } from './MachineLine';
import { TileLine } from './TileLine';
import { useDownloads } from './useDownloads';

const LOOK: BoardTool = {
  wish: null,
  targets: () => [],
  grab: () => false,
  hover() {},
  place() {},
  letGo: () => () => {},
};

const FORMATS: readonly { format: ProfileFormat; mime: string; what: string }[] = [
  { format: 'svg', mime: 'image/svg+xml', what: 'vector drawing, one unit is one millimetre' },
  { format: 'dxf', mime: 'application/dxf', what: 'for the cutter: a layer for each purpose, arcs as arcs' },
  { format: 'pdf', mime: 'application/pdf', what: 'to print at 100 %, with a check bar' },
];

const NOTES = [
  { value: 'with', text: 'with' },
  { value: 'without', text: 'without' },
] as const;

const hasCurve = ({ form }: ProfileForm): boolean =>
  form.kind === 'chain' && form.segments.some((s) => s.kind === 'curve');

const dimmed = (): number => 0.25;

export function useHandOverStep({ job, picture }: StepProps): StepParts {
  const { frame, settled, isComing } = useBoardFrame(job, picture);
  const frames = useBoardFrames(job, picture, frame);
  const drawn = useDrawn(job.part, frames, null, true);
  const othersSettled = useOthersSettled(job, picture, frame);
  // What is worked out anew is not handed over as it was before.
  const isReady = settled && othersSettled && drawn.isWhole;
  const { flaws } = useFlaws(job.part, drawn.paths);
  const layers = useLayers(job, picture, frames, dimmed);
  const [notes, setNotes] = useState(true);
  const [sizes, setSizes] = useState(false);
  const [dxf, setDxf] = useState(DXF_USUAL);
  const [machine, setMachine] = useState<Machine | null>(null);
  const hasSizes = sketchesOf(job.part).some((s) => Object.keys(s.dimensions).length > 0);
  const isTrue = frame.kind === 'true';
  const view = useSession((s) => s.pictureView);
  const { profile: own, faults } = handedOver(job, drawn, { date: today(), notes, view, sizes });
  const made = machine ? compensated(own, machine) : { profile: own, leftOut: [] };
  const profile = (): FlatProfile => made.profile;
  const { forms } = own;
  const bounds = formsBounds(forms.map((f) => f.form));
  const size =
    bounds && isTrue
      ? [bounds.max.x - bounds.min.x, bounds.max.y - bounds.min.y].map((mm) => writeLength(mm, null, job.unit).value)
      : null;

  const { busy, fault, handOver, handOverSheet, packJob } = useDownloads(job, drawn, dxf);
  const why = isComing
    ? null
    : !isTrue
      ? 'The picture is not true yet, so the profile has no size. Say what is known in it first.'
      : !bounds && drawn.isWhole
        ? 'Nothing is traced yet.'
        : null;
  return {
    isTrue,
    board: (
      <PartBoard
        job={job}
        picture={picture}
        frame={frame}
        settled={settled}
        layers={layers}
        drawn={drawn}
        selection={null}
        tool={LOOK}
      />
    ),
    slip: (
      <>
        <WorkedOn job={job} picture={picture} />
        {why && <Notice tone="doubt">{why}</Notice>}
        {(isComing || (isTrue && !isReady)) && (
          <Notice tone="doubt">Being worked out: files wait until it is done.</Notice>
        )}
        {!why && isTrue && isReady && <BeforeItGoes job={job} view={view} wrong={faults} flaws={flaws ?? []} />}
        {fault && <Notice tone="wrong">{fault}</Notice>}
        {made.leftOut.length > 0 && (
          <Notice tone="doubt">{`Nothing is left of ${made.leftOut.join(', ')} on this machine: left out.`}</Notice>
        )}
        <ol>
          {size && (
            <SlipLine title="Overall" figure={<span className="figure">{`${size[0]} × ${size[1]} ${job.unit}`}</span>}>
              width × height along X and Y
            </SlipLine>
          )}
          <NotesLine notes={notes} onNotes={setNotes} />
          {hasSizes && <SizesLine sizes={sizes} onSizes={setSizes} />}
          {forms.some(hasCurve) && <DxfCurvesLine options={dxf} unit={job.unit} onChange={setDxf} />}
          <MachineLine chosen={machine} onChoose={setMachine} />
          {FORMATS.map(({ format, mime, what }) => (
            <SlipLine
              key={format}
              title={format.toUpperCase()}
              figure={
                <Button
                  strong
                  disabled={why !== null || busy !== null || !isTrue || !isReady}
                  onClick={() => void handOver(format, mime, profile())}
                >
                  {busy === format ? 'Writing …' : `Download ${format.toUpperCase()}`}
                </Button>
              }
            >
              {what}
            </SlipLine>
          ))}
          <TileLine
            profile={profile}
            name={job.name}
            unit={job.unit}
            disabled={why !== null || busy !== null || !isTrue || !isReady}
          />
          <SlipLine
            title="Drawing sheet"
            figure={
              <Button
                disabled={why !== null || busy !== null || !isTrue || !isReady}
                onClick={() => void handOverSheet()}
              >
                {busy === 'sheet' ? 'Writing …' : 'Download the sheet'}
              </Button>
            }
          >
            all views with their sizes at 1 : 1, with a frame and a title block, as PDF
          </SlipLine>
          <SlipLine
            title="Job file"
            figure={
              <Button disabled={busy !== null} onClick={() => void packJob()}>
                {busy === 'job' ? 'Packing …' : 'Download the job'}
              </Button>
            }
          >
            pictures, what is known, traces and history, to be opened on any rack
          </SlipLine>
        </ol>
        {job.part.features.length > 0 && (
          <BodyLines job={job} frames={frames} drawn={drawn} isReady={isTrue && isReady} machine={machine} />
        )}
      </>
    ),
  };
}

function NotesLine({ notes, onNotes }: { notes: boolean; onNotes(notes: boolean): void }) {
  return (
    <SlipLine
      title="Check bar and notes"
      figure={
        <Choice
          label="Check bar and notes"
          value={notes ? 'with' : 'without'}
          options={NOTES}
          onChange={(wanted) => onNotes(wanted === 'with')}
        />
      }
    >
      {notes ? 'on a layer and in a stroke of their own' : 'only the part: nothing else can be cut by mistake'}
    </SlipLine>
  );
}

function SizesLine({ sizes, onSizes }: { sizes: boolean; onSizes(sizes: boolean): void }) {
  return (
    <SlipLine
      title="Sizes on the PDF"
      figure={
        <Choice
          label="Sizes on the PDF"
          value={sizes ? 'with' : 'without'}
          options={NOTES}
          onChange={(wanted) => onSizes(wanted === 'with')}
        />
      }
    >
      {sizes ? 'a drawing with its sizes; measured ones in brackets' : 'only the part'}
    </SlipLine>
  );
}
