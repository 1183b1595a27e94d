import type { CalibrationFault } from '@steady-moth/core/calibration';
import {
  believeResolution,
  isHeightOpen,
  isScaleKnown,
  type JobDocument,
  letScalesDiffer,
  lockPicture,
  type Picture,
  setCameraHold,
  setFreeRatio,
  setKind,
} from '@steady-moth/core/job';
import type { Certainty } from '@steady-moth/core/job/calibrated';
import { fixed, type LengthUnit } from '@steady-moth/core/units';
import { Act, Choice, degrees, Notice, SlipLine } from '../../kit';
import { Fold } from '../../kit/Fold';
import { useGroup } from '../../session/group';
import { useJob } from '../../session/jobStore';
import { useQuestions } from '../../session/questions';
import { calibrationSentence } from '../../session/sentences';
import { type Tool, useSession } from '../../session/sessionStore';
import { AskHeights } from './AskHeights';
import { CameraLine } from './CameraLine';
import { DatumLines, datumWords } from './DatumLines';
import { HeightLines, heightWords } from './HeightLines';
import { JoinLines } from './JoinLines';
import { LaidLine } from './LaidLine';
import { ReferenceLine } from './ReferenceLine';
import { Repairs } from './Repairs';
import { SpotChecks } from './SpotChecks';
import { Trust } from './Trust';
import { TurnedLine } from './TurnedLine';
import { type DatumBy, useTrue } from './trueStore';
import { adviceSentence, contradictionSentence, distanceDoubt, verdictSentence } from './words';

interface Props {
  job: JobDocument;
  picture: Picture;
  unit: LengthUnit;
  certainty: Certainty | null;
  waiting: boolean;
  fault: { reason: CalibrationFault; reference?: string } | null;
  tool: Tool;
  begun: boolean;
  modelScale: number | null;
}

export function TrueSlip({ job, picture, unit, certainty, waiting, fault, tool, begun, modelScale }: Props) {
  const apply = useJob((s) => s.apply);
  const take = useSession((s) => s.take);
  const datumBy = useTrue((s) => s.datumBy);
  const common = useTrue((s) => s.common !== null);
  const acrossFirst = useTrue((s) => s.acrossFirst);
  const finding = useQuestions((s) => s.open.some((o) => o.waits));
  const findFault = useTrue((s) => s.findFault);
  // A figure that is asked for says itself what to do.
  const asked = useTrue((s) => s.pending !== null || s.found !== null);
  const { calibration, id } = picture;
  const group = useGroup(job, picture);
  const known = isScaleKnown(picture) || group !== null;
  // The first of joined pictures gives zero, direction and size to all.
  const leads = group === null || group.pictures[0]!.id === id;
  const isPhoto = picture.kind === 'photo';
  const odd = isPhoto && certainty && known && !fault ? distanceDoubt(certainty.cameraHeightMm) : '';
  const adds = (
    <span className="flex flex-wrap gap-x-4 gap-y-1">
      {ADDS.map(({ tool: adding, text }) => (
        <Act key={adding} onClick={() => take(adding)}>
          {text}
        </Act>
      ))}
    </span>
  );
  return (
    <>
      {tool && !asked && (
        <p className="mb-3 font-medium text-rust">
          {finding ? 'Looking …' : toolSentence(tool, begun || common, datumBy, acrossFirst !== null)}
        </p>
      )}
      {findFault && <Notice tone="wrong">{findFault}</Notice>}
      {picture.locked && (
        <Notice tone="doubt">
          This picture is locked: nothing that is known of it changes.{' '}
          <Act onClick={() => apply(lockPicture(id, false))}>Unlock it</Act>
        </Notice>
      )}
      {isKindGuessed(picture) && !known && <WhichKind picture={picture} />}
      {fault && <Notice tone="wrong">{calibrationSentence(fault.reason)}</Notice>}
      {odd && <Notice tone="doubt">{odd}</Notice>}
      {known && !fault && isHeightOpen(picture) && !asked && (
        <AskHeights picture={picture} unit={unit} certainty={certainty} />
      )}
      {known && !fault && <Verdict picture={picture} certainty={certainty} waiting={waiting} unit={unit} />}
      <ol>
        {!isPhoto && <ResolutionLine picture={picture} />}
        {calibration.references.map((y, k) => (
          <ReferenceLine
            key={y.id}
            picture={picture}
            reference={y}
            number={k + 1}
            unit={unit}
            certainty={fault ? null : certainty}
          />
        ))}
        {!known && <SlipLine title="Things of known size">{adds}</SlipLine>}
      </ol>
      {known && (
        <Fold name="add" title="Add a yardstick" state="" isUsed={calibration.references.length === 0}>
          <div className="mb-2.5 pl-9 text-[12.5px]">{adds}</div>
        </Fold>
      )}
      <Fold name="datum" title="Zero and direction" state={datumWords(picture, leads)} isUsed={false}>
        <ol>
          {leads ? (
            <>
              <DatumLines picture={picture} unit={unit} modelScale={modelScale} />
              <LaidLine
                picture={picture}
                others={job.pictures.filter((p) => p.id !== id && !group?.pictures.some((g) => g.id === p.id))}
                unit={unit}
              />
            </>
          ) : (
            <SlipLine title="Zero and direction">
              come from {job.pictures.find((p) => p.id === group?.pictures[0]?.id)?.fileName}, which this one is joined
              with.
            </SlipLine>
          )}
        </ol>
      </Fold>
      {picture.kind !== 'drawing' && (
        <Fold name="heights" title="Heights" state={heightWords(picture, unit)} isUsed={calibration.planes.length > 0}>
          <ol>
            <HeightLines picture={picture} unit={unit} />
          </ol>
        </Fold>
      )}
      {isPhoto && (
        <Fold
          name="turned"
          title="A part turned on a lathe"
          state={calibration.turned ? 'measured' : 'none'}
          isUsed={calibration.turned !== null}
        >
          <ol>
            <TurnedLine picture={picture} unit={unit} certainty={fault ? null : certainty} />
          </ol>
        </Fold>
      )}
      {isPhoto && (
        <Fold
          name="camera"
          title="The camera"
          state={`${calibration.camera ? 'checked' : 'not checked'}, ${calibration.hold === 'flat-on' ? 'held flat-on' : 'tilt worked out'}`}
          isUsed={calibration.camera !== null}
        >
          <ol>
            <CameraLine picture={picture} />
            <SlipLine
              title="Camera was held"
              figure={
                <Choice
                  label="Camera was held"
                  value={calibration.hold}
                  options={HOLDS}
                  onChange={(hold) => apply(setCameraHold(id, hold))}
                />
              }
            >
              {certainty && (
                <>
                  tilt {degrees(certainty.tiltRad, 1)}{' '}
                  <span className="figure text-verdigris">± {degrees(Math.max(...certainty.tiltPlusMinusRad), 1)}</span>
                  , lens <span className="figure">{fixed(certainty.cameraHeightMm, 0)} mm</span> above the table
                </>
              )}
            </SlipLine>
          </ol>
        </Fold>
      )}
      {known && !fault && <Trust job={job} picture={picture} unit={unit} />}
      <JoinLines job={job} picture={picture} />
      <SpotChecks picture={picture} unit={unit} certainty={certainty} />
      <Repairs picture={picture} leads={leads} unit={unit} certainty={certainty} />
    </>
  );
}

/** Nothing in the file tells a photograph from a scan: it was taken for a photograph, and may be neither. */
const isKindGuessed = ({ kind, facts }: Picture): boolean =>
  kind === 'photo' && facts.focal35Mm === null && facts.focalMm === null;

function WhichKind({ picture }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  return (
    <Notice tone="doubt">
      The file names no lens, so it may be no photograph. A scan or a drawing lies flat and needs no tilt:{' '}
      <Act disabled={picture.locked} onClick={() => apply(setKind(picture.id, 'scan'))}>
        It is a scan
      </Act>{' '}
      <Act disabled={picture.locked} onClick={() => apply(setKind(picture.id, 'drawing'))}>
        It is a drawing
      </Act>
    </Notice>
  );
}

const ADDS = [
  { tool: 'readings', text: 'Two points, known distance' },
  { tool: 'ruler', text: 'A ruler' },
  { tool: 'disc', text: 'A coin or disc' },
  { tool: 'sheet', text: 'Paper or a card' },
  { tool: 'grid', text: 'A grid' },
  { tool: 'lines', text: 'Square lines' },
  { tool: 'equal', text: 'Equal lengths' },
  { tool: 'across', text: 'Two lengths at right angles' },
  { tool: 'turned', text: 'A known diameter, seen from the side' },
] as const;

/** The scale that the file of a scan or a drawing states: one more thing that is known, or doubted. */
function ResolutionLine({ picture }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  const { facts, calibration, id } = picture;
  const { resolution } = facts;
  if (!resolution)
    return (
      <SlipLine title="Stated scale">
        The file states none: a known length along the page gives it.
        <div className="mt-1">
          <ScalesApart picture={picture} />
        </div>
      </SlipLine>
    );
  const share = 200 * resolution.sigma;
  return (
    <SlipLine
      title="Stated scale"
      figure={<span className="figure">{`${fixed(25.4 * resolution.perMmX, 0)} to the inch`}</span>}
    >
      {calibration.believeResolution
        ? share < 0.1
          ? "the page's own scale"
          : `taken as good to ± ${fixed(share, 1)} %; a known length checks it`
        : 'left out: only known lengths count'}
      <div className="mt-1">
        <Act onClick={() => apply(believeResolution(id, !calibration.believeResolution))}>
          {calibration.believeResolution ? 'Ignore this figure' : 'Use this figure'}
        </Act>
        {!calibration.believeResolution && (
          <span className="ml-4">
            <ScalesApart picture={picture} />
          </span>
        )}
      </div>
    </SlipLine>
  );
}

function ScalesApart({ picture: { id, calibration } }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  return (
    <Act onClick={() => apply(setFreeRatio(id, !calibration.freeRatio))}>
      {calibration.freeRatio ? 'One scale for X and Y' : 'Let X and Y have scales of their own'}
    </Act>
  );
}

/** ± of a tilt from which it counts as seen, rad. */
const SEEN_TILT_RAD = 0.05;

function Verdict({
  picture,
  certainty,
  waiting,
  unit,
}: {
  picture: Picture;
  certainty: Certainty | null;
  waiting: boolean;
  unit: LengthUnit;
}) {
  const apply = useJob((s) => s.apply);
  if (!certainty) return <p className="my-3 text-ink2">{waiting ? 'Working out how far to trust it …' : ''}</p>;
  const { advice, contradiction } = certainty;
  if (contradiction)
    return (
      <Notice tone="wrong">
        <p className={waiting ? 'opacity-60' : ''}>
          {contradictionSentence(contradiction)}{' '}
          {contradiction.scalesDiffer !== null && (
            <Act disabled={picture.locked} onClick={() => apply(letScalesDiffer(picture.id))}>
              Let the scales differ
            </Act>
          )}
          {contradiction.statedAlone && (
            <Act disabled={picture.locked} onClick={() => apply(believeResolution(picture.id, false))}>
              Ignore the stated scale
            </Act>
          )}
        </p>
      </Notice>
    );
  return (
    <Notice tone={advice || isHeightOpen(picture) ? 'doubt' : 'good'}>
      <p className={waiting ? 'opacity-60' : ''}>
        {verdictSentence(certainty, unit)}
        {isHeightOpen(picture) && ' Most of that is how thick the part is.'}
        {!isHeightOpen(picture) &&
          advice &&
          ` ${adviceSentence(advice, unit, Math.max(...certainty.tiltPlusMinusRad) < SEEN_TILT_RAD)}`}
        {certainty.otherTilts > 0 &&
          ' Another tilt of the camera would explain these lengths as well; a known length across would decide.'}
      </p>
    </Notice>
  );
}

const HOLDS = [
  { value: 'flat-on', text: 'flat-on' },
  { value: 'free', text: 'not sure' },
] as const;

function toolSentence(tool: NonNullable<Tool>, begun: boolean, by: DatumBy, second: boolean): string {
  switch (tool) {
    case 'readings':
      return begun ? 'Now the second reading.' : 'Pick the first reading under the loupe.';
    case 'ruler':
      return 'Click on the graduations of the ruler.';
    case 'disc':
      return 'Click inside the coin.';
    case 'sheet':
      return 'Click on bare paper.';
    case 'grid':
      return 'Click where the grid is bare.';
    case 'lines':
      return begun
        ? 'Go on: two points on each of two lines that are square or parallel to each other.'
        : 'Pick two points on a line, then two on one that is square or parallel to it.';
    case 'equal':
      return begun
        ? 'Go on: both ends of each of two equal lengths.'
        : 'Pick both ends of a length, then of its equal.';
    case 'across':
      if (begun) return 'Now its other end.';
      return second
        ? 'Now one end of a length across the first.'
        : 'Pick both ends of a known length, then of one across it.';
    case 'turned':
      return begun
        ? 'Go on: two points on each of the outlines on both sides of the axis.'
        : 'Pick two points on one outline of the turned part, then two on the opposite one.';
    case 'common':
      return begun
        ? 'Now the same place in this picture.'
        : 'Pick a place of the part that the other picture shows as well: a corner, or the middle of a mark.';
    case 'lay':
      return 'Press where the zero of the other picture lies on the part.';
    case 'wanted':
      return begun ? 'Now its other end.' : 'Pick one end of what shall become a size.';
    case 'direction':
      if (by === 'middle')
        return begun
          ? 'Go on: two points on each of two opposite edges.'
          : 'Pick two points on an edge, then two on the opposite one.';
      if (by === 'hole') return begun ? 'Now inside the second hole.' : 'Click inside the first of two holes.';
      return begun ? 'Now a second point on that line.' : 'Pick a point on a line that runs along X or Y.';
    case 'zero':
      if (by === 'hole') return 'Click inside the hole.';
      if (by === 'crossing')
        return begun ? 'Go on: two points on each edge.' : 'Pick two points on one edge, then two on the other.';
      return 'Pick where zero is.';
    default:
      return begun ? 'Now the second point.' : 'Pick the first point of a length that the caliper can check.';
  }
}
