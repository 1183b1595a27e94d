import type { Form, SmoothWay } from '@steady-moth/core/geometry';
import {
  breakPath,
  changePath,
  closePath,
  deletePath,
  deletePoint,
  freeSize,
  type JobDocument,
  openPath,
  reversePath,
  setPathPlane,
  viewOfPath,
} from '@steady-moth/core/job';
import type { Deviation } from '@steady-moth/core/proof';
import { observationIn, observedOf, type Path, planeOfPath, type Role, walkOf } from '@steady-moth/core/sketch';
import { type LengthUnit, writeFigure } from '@steady-moth/core/units';
import { type ReactNode, useEffect, useState } from 'react';
import { Act, LengthFigure, Select, SlipLine } from '../../../kit';
import { PlaneChoice } from '../../../part/PlaneChoice';
import { ROLE_CHOICES, ROLE_MARKS } from '../../../part/roles';
import type { DrawnPath } from '../../../part/useDrawn';
import { useJob } from '../../../session/jobStore';
import { newId } from '../../../session/newId';
import { useSession } from '../../../session/sessionStore';
import { usePathMeasures } from '../../../session/useFigures';
import { LowerEdge } from './LowerEdge';
import { PieceLine } from './PieceLine';
import { Stretch, useStretch } from './Stretch';

/** A path on the slip: its name and its figure, and of the one that is chosen all that is told of it and done to it. */
export function PathLine({
  drawn: { sketch, path, form, made },
  job,
  chosen,
  growing,
  straight,
  smooth,
  deviation,
  against,
  making,
  which,
}: {
  drawn: DrawnPath;
  job: JobDocument;
  chosen: boolean;
  growing: boolean;
  straight: readonly { name: string; way: SmoothWay }[];
  smooth: ((point: string, way: SmoothWay) => void) | null;
  deviation: Deviation | null;
  against: ReactNode;
  making: ReactNode;
  which: ReactNode;
}) {
  const apply = useJob((s) => s.apply);
  const select = useSession((s) => s.select);
  const selection = useSession((s) => s.selection);
  const { worn } = job.part.sketches[sketch.id] ?? sketch;
  const pieces = walkOf(sketch, path)?.pieces ?? [];
  const round = pieces[0]?.curve.kind === 'circle';
  const pieceChosen = selection?.kind === 'piece' && chosen ? selection.curve : null;
  const at = pieces.findIndex(({ curve }) => curve.id === pieceChosen);
  const stretch = useStretch(round ? 0 : pieces.length, at < 0 ? null : at);
  // Of a path that is not chosen nothing is shown but a circle's diameter.
  const measured = form !== null && (round || chosen);
  const { data, isPlaceholderData: isOld, isError } = usePathMeasures(job, measured ? sketch : null, path, stretch);
  const { unit } = job;
  const open = !path.closed;
  const first = observationIn(sketch, observedOf(sketch, path)[0] ?? '');
  const picture = job.pictures.find((p) => p.id === first?.picture);
  const decided = data?.decided ?? null;
  return (
    <SlipLine
      mark={ROLE_MARKS[path.role]}
      title={
        <button
          type="button"
          className={`cursor-pointer text-left font-medium ${chosen ? 'text-rust' : ''}`}
          aria-expanded={chosen}
          onClick={() => select(chosen ? null : { kind: 'path', path: path.id })}
        >
          {path.name}
        </button>
      }
      figure={<PathFigure made={made} state={stateOf(path, growing)} measures={data} unit={unit} />}
    >
      {aboutPath(job, path, round ? null : kindsOf(pieces.map((p) => p.curve.kind)))}
      {chosen && (
        <div className="mt-2">
          {(isOld || isError) && (
            <p className={isError ? 'text-brick' : 'text-ink2'}>
              {isError ? 'Its figures could not be worked out.' : 'Being measured anew: these figures are of before.'}
            </p>
          )}
          <dl aria-busy={isOld} className={`grid grid-cols-[1fr_auto] gap-y-1 ${isOld ? 'opacity-50' : ''}`}>
            {data && (
              <>
                <dt>{round ? 'Circumference' : open ? 'Length of the path' : 'Perimeter'}</dt>
                <dd>
                  <LengthFigure
                    mm={data.length.value}
                    plusMinusMm={decided ? null : data.length.plusMinus}
                    unit={unit}
                  />
                </dd>
              </>
            )}
            {data?.area && (
              <>
                <dt>Area, {unit}²</dt>
                <dd>
                  <AreaFigure figure={data.area} unit={unit} />
                </dd>
              </>
            )}
            {data?.overall && (
              <>
                <dt>Overall, lengthwise and across</dt>
                <dd className="text-right">
                  {data.overall.map((figure, k) => (
                    <LengthFigure
                      key={k === 0 ? 'long' : 'wide'}
                      className="block"
                      mm={figure.value}
                      plusMinusMm={figure.plusMinus}
                      unit={unit}
                    />
                  ))}
                </dd>
              </>
            )}
            {decided?.seen && (
              <>
                <dt>Measured across</dt>
                <dd>
                  <LengthFigure mm={decided.seen.value} plusMinusMm={decided.seen.plusMinus} unit={unit} />
                </dd>
              </>
            )}
          </dl>
          {decided?.seen && <Act onClick={() => apply(freeSize(path.id, decided.size))}>Measure it again</Act>}
          {round && data && !decided && <div className="text-ink2">Type a figure to say how wide it is.</div>}
          {which}
          {against}
          {data?.diameter && !decided && picture?.kind === 'photo' && (
            <LowerEdge job={job} picture={picture} sketch={sketch} path={path} diameter={data.diameter} unit={unit} />
          )}
          {picture && picture.kind !== 'drawing' && (
            <div className="mt-2">
              <PlaneChoice
                picture={picture}
                value={planeOfPath(sketch, path)}
                turned={!round}
                onChange={(plane) => apply(setPathPlane(path.id, plane))}
              />
            </div>
          )}
          {selection?.kind === 'point' && walkOf(sketch, path)?.points.includes(selection.point) && !round && (
            <PointActs path={path} point={selection.point} smooth={smooth} lines={straight} />
          )}
          {!round && (
            <>
              <Stretch stretch={stretch} of={pieces.length} />
              <ol className="mt-2 border-line border-l pl-2.5">
                {pieces.slice(stretch.from, stretch.to).map(({ curve }, j) => {
                  const k = stretch.from + j;
                  return (
                    <PieceLine
                      key={curve.id}
                      path={path}
                      curve={curve}
                      index={k}
                      unit={unit}
                      measures={data?.pieces[curve.id] ?? null}
                      deviation={deviation?.pieces[curve.id] ?? null}
                      worn={Object.hasOwn(worn, curve.id)}
                      corner={data?.corners[walkOf(sketch, path)?.points[k] ?? ''] ?? null}
                      chosen={pieceChosen === curve.id}
                    />
                  );
                })}
              </ol>
            </>
          )}
          {form && making}
          <div className="mt-2.5 flex flex-wrap items-center gap-x-4 gap-y-1.5">
            <PathName path={path} />
            <RoleChoice path={path} />
            {!round &&
              (open ? (
                <Act disabled={pieces.length < 2} onClick={() => apply(closePath(path.id, newId()))}>
                  Close it
                </Act>
              ) : (
                <Act onClick={() => apply(openPath(path.id))}>Open it</Act>
              ))}
            {!round && <Act onClick={() => apply(reversePath(path.id))}>Turn its way round</Act>}
            <Act onClick={() => apply(deletePath(path.id))}>Delete it</Act>
          </div>
        </div>
      )}
    </SlipLine>
  );
}

const SMOOTH_WAYS = ['as it comes', 'level', 'plumb'] as const;

/** What a path is made into, in a word or two. */
function sayMade(made: readonly Form[]): string {
  const closed = made.filter((f) => f.kind === 'circle' || f.closed).length;
  if (made.length === 1) return closed ? 'made whole' : 'made, open';
  return closed === made.length ? `made into ${made.length}` : `made into ${made.length}, ${made.length - closed} open`;
}

/** What can be done at the point that is chosen. */
function PointActs({
  path,
  point,
  smooth,
  lines,
}: {
  path: Path;
  point: string;
  smooth: ((point: string, way: SmoothWay) => void) | null;
  /** Straight open paths, along which it can be held. */
  lines: readonly { name: string; way: SmoothWay }[];
}) {
  const apply = useJob((s) => s.apply);
  return (
    <div className="mt-2 flex flex-wrap gap-x-4 gap-y-1">
      <span className="text-rust">the point</span>
      <Act onClick={() => apply(deletePoint(path.id, point))}>Delete it</Act>
      <Act onClick={() => apply(breakPath(path.id, point, { rest: newId(), point: newId() }))}>Break the path here</Act>
      {smooth && (
        <span className="flex items-center gap-2">
          Smooth here
          <Select
            label="Smooth here"
            value=""
            options={['', ...SMOOTH_WAYS, ...lines.map((l) => `along ${l.name}`)]}
            onChange={(text) => {
              const way = SMOOTH_WAYS.find((w) => w === text) ?? lines.find((l) => `along ${l.name}` === text)?.way;
              if (way) smooth(point, way);
            }}
          />
        </span>
      )}
    </div>
  );
}

/** What is done along a path. */
function RoleChoice({ path }: { path: Path }) {
  const apply = useJob((s) => s.apply);
  const text = (role: Role) => ROLE_CHOICES.find((c) => c.value === role)?.text ?? '';
  return (
    <Select
      label="What it is for"
      value={text(path.role)}
      options={ROLE_CHOICES.map((c) => c.text)}
      onChange={(chosen) => {
        const role = ROLE_CHOICES.find((c) => c.text === chosen)?.value;
        if (role) apply(changePath(path.id, { role }));
      }}
    />
  );
}

function PathName({ path }: { path: Path }) {
  const apply = useJob((s) => s.apply);
  const [text, setText] = useState(path.name);
  useEffect(() => setText(path.name), [path.name]);
  return (
    <input
      aria-label="Name of the path"
      value={text}
      maxLength={200}
      onChange={(e) => setText(e.target.value)}
      onBlur={() =>
        text.trim() && text !== path.name ? apply(changePath(path.id, { name: text.trim() })) : setText(path.name)
      }
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      className="w-32 rounded border border-line bg-sheet px-1.5 py-0.5 text-ink"
    />
  );
}

function AreaFigure({ figure, unit }: { figure: { value: number; plusMinus: number }; unit: LengthUnit }) {
  const per = unit === 'in' ? 25.4 ** 2 : 1;
  const { value, plusMinus } = writeFigure(figure.value / per, figure.plusMinus / per, unit === 'in' ? 4 : 2);
  return (
    <span className="figure">
      {value} {figure.plusMinus > 0 && <span className="text-verdigris">± {plusMinus}</span>}
    </span>
  );
}

function kindsOf(kinds: readonly string[]): string {
  const say = (kind: string, one: string) => {
    const n = kinds.filter((k) => k === kind).length;
    return n === 0 ? null : n === 1 ? `1 ${one}` : `${n} ${one}s`;
  };
  return [say('line', 'line'), say('arc', 'arc'), say('cubic', 'curve')].filter(Boolean).join(', ');
}

const stateOf = ({ closed, role }: Path, growing: boolean): 'being drawn' | 'open' | null => {
  if (closed) return null;
  if (growing) return 'being drawn';
  return role === 'cut' ? 'open' : null;
};

/** What it is made of, its layer and its view. */
const aboutPath = (job: JobDocument, { id, layer }: Path, kinds: string | null): string =>
  [kinds, layer && `layer ${layer}`, viewOfPath(job, id)?.name].filter(Boolean).join('; ');

/** The one figure of a path that says most: what it was made into, that it is open, or its diameter. */
function PathFigure({
  made,
  state,
  measures,
  unit,
}: {
  made: DrawnPath['made'];
  state: 'being drawn' | 'open' | null;
  measures: ReturnType<typeof usePathMeasures>['data'];
  unit: LengthUnit;
}) {
  if (made) return <span className="text-verdigris">{sayMade(made)}</span>;
  if (state) return <span className="text-amber">{state}</span>;
  if (!measures?.diameter) return null;
  const { diameter, decided } = measures;
  return (
    <>
      Ø <LengthFigure mm={diameter.value} plusMinusMm={decided ? null : diameter.plusMinus} unit={unit} />
      {decided && <span className="ml-1.5">typed</span>}
    </>
  );
}
