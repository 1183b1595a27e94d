import { type JobDocument, MOST } from '@steady-moth/core/job';
import type { Expression } from '@steady-moth/core/sketch';
import { Choice } from '../../../kit';
import { isCircle } from '../newFeature';
import { Amount, Chooser, EndPick, Length, LengthOr, PathPicks, Row } from './inputs';
import type { Props } from './props';

/* What is worked upon a body that is there: holes, edges, hollows, repeats. */

export function HolesFields({ job, grounds, feature, onChange }: Props<'holes'>) {
  const { head } = feature;
  return (
    <>
      <PathPicks
        label="At the circles"
        ground={grounds.find((g) => g.sketch.id === feature.sketch)}
        of={(g) => g.paths.filter((p) => isCircle(g.sketch, p))}
        value={feature.paths}
        onChange={(paths) => paths.length > 0 && onChange({ ...feature, paths })}
      />
      <LengthOr
        job={job}
        label="Diameter (empty: as traced)"
        value={feature.diameter}
        onChange={(diameter) => onChange({ ...feature, diameter })}
      />
      <LengthOr
        job={job}
        label="Depth (empty: through)"
        value={feature.depth}
        onChange={(depth) => onChange({ ...feature, depth })}
      />
      <EndPick label="Drilled from" value={feature.from} onChange={(from) => onChange({ ...feature, from })} />
      <Chooser
        label="Head"
        value={head.kind}
        options={[
          { value: 'none', text: 'none' },
          { value: 'countersink', text: 'countersunk' },
          { value: 'counterbore', text: 'counterbored' },
        ]}
        onChange={(kind) =>
          onChange({
            ...feature,
            head:
              kind === 'none'
                ? { kind }
                : kind === 'countersink'
                  ? { kind, diameter: wide(job), degrees: number('90') }
                  : { kind, diameter: wide(job), depth: { text: job.unit === 'in' ? '1/8' : '3', unit: job.unit } },
          })
        }
      />
      {head.kind !== 'none' && (
        <Length
          job={job}
          label="Diameter of the head"
          value={head.diameter}
          onChange={(diameter) => onChange({ ...feature, head: { ...head, diameter } })}
        />
      )}
      {head.kind === 'countersink' && (
        <Amount
          job={job}
          suffix="°"
          label="Angle of the head"
          value={head.degrees}
          least={20}
          most={160}
          onChange={(degrees) => onChange({ ...feature, head: { ...head, degrees } })}
        />
      )}
      {head.kind === 'counterbore' && (
        <Length
          job={job}
          label="Depth of the head"
          value={head.depth}
          onChange={(depth) => onChange({ ...feature, head: { ...head, depth } })}
        />
      )}
    </>
  );
}

const number = (text: string) => ({ text, unit: 'number' as const });
const wide = ({ unit }: JobDocument): Expression => ({ text: unit === 'in' ? '3/8' : '10', unit });

export function EdgesFields({ job, grounds, feature, isNew, onChange }: Props<'edges'>) {
  const { which } = feature;
  const holes = grounds.flatMap((g) => g.paths.filter((p) => p.closed));
  return (
    <>
      <Row label="They are">
        <Choice
          label="Rounded or cut"
          value={feature.how}
          options={[
            { value: 'round', text: 'rounded' },
            { value: 'cut', text: 'cut' },
          ]}
          onChange={(how) => onChange({ ...feature, how })}
        />
      </Row>
      <Length job={job} label="By" value={feature.size} onChange={(size) => onChange({ ...feature, size })} />
      <Chooser
        label="Which"
        value={which.kind}
        options={[
          { value: 'outer', text: 'all outer edges' },
          { value: 'end', text: 'round the upper face' },
          { value: 'start', text: 'round the lower face' },
          { value: 'upright', text: 'corners between the sides' },
          { value: 'hole', text: 'rims of holes' },
          { value: 'picked', text: 'picked on the body' },
        ]}
        onChange={(kind) =>
          onChange({
            ...feature,
            which:
              kind === 'picked'
                ? { kind, edges: [] }
                : kind === 'hole'
                  ? { kind, paths: holes.slice(0, 1).map((p) => p.id) }
                  : { kind },
          })
        }
      />
      {which.kind === 'hole' && (
        <PathPicks
          label="Of these"
          ground={grounds[0]}
          of={() => holes}
          value={which.paths}
          onChange={(paths) => paths.length > 0 && onChange({ ...feature, which: { kind: 'hole', paths } })}
        />
      )}
      {which.kind === 'picked' && (
        <p className="text-[12.5px] text-ink2">
          {count(which.edges.length, 'edge')} picked. {isNew ? PICK : OTHERS}
        </p>
      )}
    </>
  );
}

const PICK = 'Press them on the body; a second press lets one go.';
const OTHERS = 'To pick others, take this feature away and add it anew.';
const count = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;

export function HollowFields({ job, feature, isNew, onChange }: Props<'hollow'>) {
  return (
    <>
      <Length job={job} label="Wall" value={feature.wall} onChange={(wall) => onChange({ ...feature, wall })} />
      <p className="text-[12.5px] text-ink2">
        {feature.open.length === 0 ? 'Closed all round.' : `Open at ${count(feature.open.length, 'face')}.`}{' '}
        {isNew ? PICK : OTHERS}
      </p>
    </>
  );
}

const WAYS = [
  { value: 'x', text: 'X' },
  { value: 'y', text: 'Y' },
  { value: 'z', text: 'height' },
] as const;

export function RepeatFields({ job, grounds, feature, onChange }: Props<'repeat'>) {
  const { how } = feature;
  const unit = job.unit;
  const can = job.part.features.filter((f) => !['edges', 'hollow', 'repeat'].includes(f.kind) && f.id !== feature.id);
  const circles = grounds.flatMap((g) => g.paths.filter((p) => isCircle(g.sketch, p)).map((path) => ({ g, path })));
  return (
    <>
      <fieldset className="text-[13px]">
        <legend className="text-ink2">Once more</legend>
        {can.map((f, k) => (
          <label key={f.id} className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={feature.of.includes(f.id)}
              onChange={(e) => {
                const of = e.target.checked ? [...feature.of, f.id] : feature.of.filter((id) => id !== f.id);
                if (of.length > 0) onChange({ ...feature, of });
              }}
            />
            {k + 1} {f.name}
          </label>
        ))}
      </fieldset>
      <Chooser
        label="How"
        value={how.kind}
        options={[
          { value: 'mirror', text: 'mirrored' },
          { value: 'row', text: 'in a row' },
          ...(circles.length > 0 ? [{ value: 'round' as const, text: 'round a circle’s axis' }] : []),
        ]}
        onChange={(kind) =>
          onChange({
            ...feature,
            how:
              kind === 'mirror'
                ? { kind, across: 'x', at: { text: '0', unit } }
                : kind === 'row'
                  ? { kind, along: 'x', step: { text: unit === 'in' ? '1' : '20', unit }, count: number('2') }
                  : {
                      kind,
                      path: circles[0]!.path.id,
                      sketch: circles[0]!.g.sketch.id,
                      count: number('4'),
                      degrees: number('360'),
                    },
          })
        }
      />
      {how.kind === 'mirror' && (
        <>
          <Chooser
            label="Across"
            value={how.across}
            options={WAYS}
            onChange={(across) => onChange({ ...feature, how: { ...how, across } })}
          />
          <Length
            job={job}
            isPlace
            label="At"
            value={how.at}
            onChange={(at) => onChange({ ...feature, how: { ...how, at } })}
          />
        </>
      )}
      {how.kind === 'row' && (
        <>
          <Chooser
            label="Along"
            value={how.along}
            options={WAYS}
            onChange={(along) => onChange({ ...feature, how: { ...how, along } })}
          />
          <Length
            job={job}
            isPlace
            label="From one to the next"
            value={how.step}
            onChange={(step) => onChange({ ...feature, how: { ...how, step } })}
          />
        </>
      )}
      {how.kind === 'round' && (
        <>
          <Chooser
            label="About the centre of"
            value={how.path}
            options={circles.map(({ path }) => ({ value: path.id, text: path.name }))}
            onChange={(path) => {
              const at = circles.find((c) => c.path.id === path);
              if (at) onChange({ ...feature, how: { ...how, path, sketch: at.g.sketch.id } });
            }}
          />
          <Amount
            job={job}
            suffix="°"
            label="From one to the next (360: evenly)"
            value={how.degrees}
            least={-360}
            most={360}
            onChange={(degrees) => onChange({ ...feature, how: { ...how, degrees } })}
          />
        </>
      )}
      {how.kind !== 'mirror' && (
        <Amount
          job={job}
          label="How many"
          value={how.count}
          least={2}
          most={MOST.copies}
          onChange={(count) => onChange({ ...feature, how: { ...how, count } as typeof how })}
        />
      )}
    </>
  );
}
