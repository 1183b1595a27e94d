import type { Seam } from '@steady-moth/core/calibration';
import {
  addJoin,
  canBeShared,
  type JobDocument,
  type JoinRecord,
  moveCommonPoint,
  type Picture,
  type ReferenceRecord,
  removeJoin,
} from '@steady-moth/core/job';
import { REFERENCE_WORDS } from '@steady-moth/core/say';
import { type LengthUnit, writeLength } from '@steady-moth/core/units';
import { Act, LengthFigure, Notice, Select, SlipLine } from '../../kit';
import { Fold } from '../../kit/Fold';
import { PlaneChoice } from '../../part/PlaneChoice';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { joinSentence } from '../../session/sentences';
import { useSession } from '../../session/sessionStore';
import { useSeams } from '../../session/useFigures';
import { useTrue } from './trueStore';
import { joinAdviceSentence } from './words';

/** What joins this picture with others of the same part, and how well they fit there. */
export function JoinLines({ job, picture }: { job: JobDocument; picture: Picture }) {
  const seams = useSeams(job, picture).data ?? null;
  const others = job.pictures.filter((p) => p.id !== picture.id);
  if (others.length === 0) return null;
  const mine = job.joins.filter((j) => j.seen.some((s) => s.picture === picture.id));
  const nameOf = (id: string) => job.pictures.find((p) => p.id === id)?.fileName ?? '';
  return (
    <Fold name="joins" title="Joined pictures" state={mine.length > 0 ? 'joined' : 'each by itself'} isUsed>
      {seams?.fault && <Notice tone="wrong">{joinSentence(seams.fault, nameOf)}</Notice>}
      {seams && !seams.fault && seams.seams.length + seams.reaches.length > 0 && (
        <Notice tone={seams.seams.every((s) => s.fits) ? 'good' : 'doubt'}>
          {seamWords(seams.seams, job.unit)}{' '}
          {seams.reaches.map(({ picture: id, figure }) => (
            <span key={id} className="block">
              From the middle of {nameOf(job.pictures[0]!.id)} to that of {nameOf(id)}:{' '}
              <LengthFigure mm={figure.value} plusMinusMm={figure.plusMinus} unit={job.unit} />.
            </span>
          ))}
          {seams.advice && <span className="mt-1 block">{joinAdviceSentence(seams.advice, job.unit, nameOf)}</span>}
        </Notice>
      )}
      <ol>
        {mine.map((join) => (
          <JoinLine key={join.id} job={job} join={join} picture={picture} seams={seams?.seams ?? []} nameOf={nameOf} />
        ))}
        <Candidates job={job} picture={picture} others={others} />
        <AddPoint others={others} />
      </ol>
    </Fold>
  );
}

/** How far apart the pictures put what both show. */
function seamWords(seams: readonly Seam[], unit: LengthUnit): string {
  if (seams.length === 0) return 'One estimate holds these pictures together.';
  const square = seams.reduce((sum, s) => sum + s.apart.value ** 2, 0);
  const mean = Math.sqrt(square / seams.length);
  const most = Math.max(...seams.map((s) => s.apart.value));
  const say = (mm: number) => `${writeLength(mm, 0.01, unit).value} ${unit}`;
  const wrong = seams.filter((s) => !s.fits).length;
  return `At the seam both put common points ${say(mean)} apart on average, ${say(most)} at most.${
    wrong ? ` ${wrong === 1 ? 'One does' : `${wrong} do`} not fit: is it the same place in both?` : ''
  }`;
}

function JoinLine({
  job,
  join,
  picture,
  seams,
  nameOf,
}: {
  job: JobDocument;
  join: JoinRecord;
  picture: Picture;
  seams: readonly Seam[];
  nameOf(id: string): string;
}) {
  const apply = useJob((s) => s.apply);
  const others = join.seen.filter((s) => s.picture !== picture.id).map((s) => nameOf(s.picture));
  const remove = (word: string) => (
    <Act onClick={() => apply(removeJoin(join.id))} aria-label={`Remove ${word}`}>
      Remove
    </Act>
  );
  if (join.kind === 'reference') {
    const own = join.seen.find((s) => s.picture === picture.id)?.reference;
    const at = picture.calibration.references.findIndex((y) => y.id === own);
    const y = picture.calibration.references[at];
    const word = y ? `${y.kind === 'known-length' ? 'ruler' : REFERENCE_WORDS[y.kind].toLowerCase()} ${at + 1}` : '';
    return (
      <SlipLine title={`The same ${word}`} figure={remove(`the join by ${word}`)}>
        also in {others.join(', ')}
        {!canBeShared(y, job.unit) &&
          '. It joins nothing as it is: count its strokes, and type both readings, as 20 to 250.'}
      </SlipLine>
    );
  }
  const number = job.joins.filter((j) => j.kind === 'point').indexOf(join) + 1;
  const own = join.seen.find((s) => s.picture === picture.id);
  return (
    <SlipLine
      mark={number}
      title="Common point"
      figure={
        <span className="figure">
          {seams
            .filter((s) => s.point === join.id)
            .map(({ pictures, apart, fits }) => (
              <span key={pictures.join()} className={fits ? 'block text-verdigris' : 'block text-brick'}>
                {writeLength(apart.value, apart.plusMinus, job.unit).value} {job.unit} apart
              </span>
            ))}
        </span>
      }
    >
      also in {others.join(', ')}
      <div className="mt-1.5 flex flex-wrap items-center justify-between gap-x-3 gap-y-1">
        {own && (
          <PlaneChoice
            picture={picture}
            value={own.plane}
            onChange={(plane) => apply(moveCommonPoint(join.id, picture.id, { plane }))}
          />
        )}
        {remove(`common point ${number}`)}
      </div>
    </SlipLine>
  );
}

/** Yardsticks of two pictures that may be one. */
function Candidates({ job, picture, others }: { job: JobDocument; picture: Picture; others: readonly Picture[] }) {
  const apply = useJob((s) => s.apply);
  const joined = (p: Picture, y: ReferenceRecord) =>
    job.joins.some((j) => j.kind === 'reference' && j.seen.some((s) => s.picture === p.id && s.reference === y.id));
  const isRuler = (y: ReferenceRecord) => y.kind === 'known-length' && y.graduations !== null;
  const pairs = others.flatMap((other) =>
    picture.calibration.references.flatMap((mine, k) =>
      other.calibration.references.flatMap((theirs, n) =>
        canBeShared(mine, job.unit) &&
        canBeShared(theirs, job.unit) &&
        mine.kind === theirs.kind &&
        !(joined(picture, mine) && joined(other, theirs))
          ? [{ other, mine, theirs, k, n }]
          : [],
      ),
    ),
  );
  const unread =
    pairs.length === 0 && picture.calibration.references.some((y) => isRuler(y) && !canBeShared(y, job.unit));
  if (pairs.length === 0 && !unread) return null;
  return (
    <SlipLine title="Seen in both?">
      <span className="flex flex-col items-start gap-1">
        {pairs.map(({ other, mine, theirs, k, n }) => {
          const word = mine.kind === 'known-length' ? 'Ruler' : REFERENCE_WORDS[mine.kind];
          return (
            <Act
              key={`${mine.id} ${theirs.id}`}
              onClick={() =>
                apply(
                  addJoin({
                    id: newId(),
                    kind: 'reference',
                    seen: [
                      { picture: picture.id, reference: mine.id },
                      { picture: other.id, reference: theirs.id },
                    ],
                  }),
                )
              }
            >
              {word} {k + 1} is {word.toLowerCase()} {n + 1} of {other.fileName}
            </Act>
          );
        })}
        {unread && 'A ruler that lies in both pictures joins them once both its readings are typed, as 20 to 250.'}
      </span>
    </SlipLine>
  );
}

function AddPoint({ others }: { others: readonly Picture[] }) {
  const take = useSession((s) => s.take);
  const other = useTrue((s) => s.commonWith);
  const setOther = useTrue((s) => s.setCommonWith);
  const chosen = others.find((p) => p.id === other) ?? others[0]!;
  return (
    <SlipLine title={<Act onClick={() => take('common')}>Add a common point</Act>}>
      A place of the part that both show: first here, then in
      {others.length === 1 ? (
        ` ${chosen.fileName}.`
      ) : (
        <span className="ml-1">
          <Select
            label="In which picture"
            value={chosen.fileName}
            onChange={(name) => setOther(others.find((p) => p.fileName === name)?.id ?? null)}
            options={others.map((p) => p.fileName)}
          />
        </span>
      )}{' '}
      Two hold a trued picture, four one in which nothing is known; far apart holds best.
    </SlipLine>
  );
}
