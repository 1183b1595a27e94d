import type { JobDocument } from '@steady-moth/core/job';
import type { Expression, Feature } from '@steady-moth/core/sketch';
import { Choice } from '../../kit';
import { FormulaField } from '../../kit/FormulaField';
import { formulaOf } from '../../session/formulaOf';
import { type Ground, groundsOf, isCircle } from './newFeature';

interface FieldsProps<F extends Feature = Feature> {
  job: JobDocument;
  feature: F;
  /** Not yet on the list: what is picked on the body goes into it. */
  isNew: boolean;
  onChange(feature: F): void;
}

/** Everything that can be said of a feature. */
export function FeatureFields({ job, feature, isNew, onChange }: FieldsProps) {
  const grounds = groundsOf(job);
  const props = { job, grounds, isNew, onChange: onChange as (feature: never) => void };
  return (
    <div className="flex flex-col gap-2">
      {feature.kind === 'extrude' && <ExtrudeFields {...props} feature={feature} />}
      {feature.kind === 'revolve' && <RevolveFields {...props} feature={feature} />}
      {feature.kind === 'marks' && <MarksFields {...props} feature={feature} />}
      {feature.kind === 'holes' && <HolesFields {...props} feature={feature} />}
      {feature.kind === 'edges' && <EdgesFields {...props} feature={feature} />}
      {feature.kind === 'hollow' && <HollowFields {...props} feature={feature} />}
      {feature.kind === 'repeat' && <RepeatFields {...props} feature={feature} />}
    </div>
  );
}

type Props<K extends Feature['kind']> = FieldsProps<Extract<Feature, { kind: K }>> & { grounds: readonly Ground[] };

function Row({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <div className="flex items-start justify-between gap-2 text-[13px]">
      <span className="pt-0.5 text-ink2">{label}</span>
      <span className="text-right">{children}</span>
    </div>
  );
}

function Length({
  job,
  label,
  value,
  onChange,
  isPlace = false,
}: {
  job: JobDocument;
  label: string;
  value: Expression;
  onChange(value: Expression): void;
  /** Zero and less are allowed. */
  isPlace?: boolean;
}) {
  return (
    <Row label={label}>
      <FormulaField
        narrow
        label={label}
        value={value.text}
        unit={value.unit}
        read={formulaOf(job.part)}
        isPositive={!isPlace}
        onAccept={(text) => onChange({ text, unit: value.unit })}
      />
    </Row>
  );
}

/** A length that may be left empty, which means something of its own. */
function LengthOr({
  job,
  label,
  value,
  onChange,
}: {
  job: JobDocument;
  label: string;
  value: Expression | null;
  onChange(value: Expression | null): void;
}) {
  const unit = value?.unit ?? job.unit;
  return (
    <Row label={label}>
      <FormulaField
        narrow
        label={label}
        value={value?.text ?? ''}
        unit={unit}
        read={formulaOf(job.part)}
        onAccept={(text) => onChange({ text, unit })}
        onEmpty={() => onChange(null)}
      />
    </Row>
  );
}

function Pick<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange(value: T): void;
}) {
  return (
    <Row label={label}>
      <select
        aria-label={label}
        value={value}
        onChange={(e) => onChange(e.target.value as T)}
        className="max-w-44 rounded border border-line bg-sheet px-1.5 py-0.5 text-[13px]"
      >
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.text}
          </option>
        ))}
      </select>
    </Row>
  );
}

/** Which view's paths it is made of, where there are several. */
function SketchPick({
  grounds,
  value,
  onChange,
}: {
  grounds: readonly Ground[];
  value: string;
  onChange(ground: Ground): void;
}) {
  if (grounds.length < 2) return null;
  return (
    <Pick
      label="View"
      value={value}
      options={grounds.map((g) => ({ value: g.sketch.id, text: g.name }))}
      onChange={(id) => {
        const ground = grounds.find((g) => g.sketch.id === id);
        if (ground) onChange(ground);
      }}
    />
  );
}

function PathPicks({
  label,
  ground,
  of,
  value,
  onChange,
}: {
  label: string;
  ground: Ground | undefined;
  /** Which paths come into question. */
  of(ground: Ground): Ground['paths'];
  value: readonly string[];
  onChange(value: string[]): void;
}) {
  const paths = ground ? of(ground) : [];
  return (
    <fieldset className="max-h-40 overflow-y-auto text-[13px]">
      <legend className="text-ink2">{label}</legend>
      {paths.map((path) => (
        <label key={path.id} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={value.includes(path.id)}
            onChange={(e) => onChange(e.target.checked ? [...value, path.id] : value.filter((id) => id !== path.id))}
          />
          {path.name}
        </label>
      ))}
    </fieldset>
  );
}

const DOES = [
  { value: 'add', text: 'add' },
  { value: 'cut', text: 'cut out' },
  { value: 'keep', text: 'keep inside' },
] as const;

function ExtrudeFields({ job, grounds, feature, onChange }: Props<'extrude'>) {
  const ground = grounds.find((g) => g.sketch.id === feature.sketch);
  const { heights, laid } = feature;
  const first = job.part.features[0];
  const isOther = job.part.features.length > 0 && first && 'sketch' in first && first.sketch !== feature.sketch;
  return (
    <>
      <SketchPick
        grounds={grounds}
        value={feature.sketch}
        onChange={(g) => onChange({ ...feature, sketch: g.sketch.id, paths: null })}
      />
      <Row label="It is to">
        <Choice
          label="What it does"
          value={feature.does}
          options={DOES}
          onChange={(does) => onChange({ ...feature, does })}
        />
      </Row>
      <Row label="Profile">
        <Choice
          label="Profile"
          value={feature.paths ? 'some' : 'all'}
          options={[
            { value: 'all', text: 'all that is cut' },
            { value: 'some', text: 'some paths' },
          ]}
          onChange={(which) =>
            onChange({
              ...feature,
              paths: which === 'all' || !ground ? null : ground.paths.filter((p) => p.role === 'cut').map((p) => p.id),
            })
          }
        />
      </Row>
      {feature.paths && (
        <PathPicks
          label="Its paths"
          ground={ground}
          of={(g) => g.paths.filter((p) => p.role !== 'reference')}
          value={feature.paths}
          onChange={(paths) => paths.length > 0 && onChange({ ...feature, paths })}
        />
      )}
      <Row label="Heights">
        <Choice
          label="Heights"
          value={heights ? 'between' : 'through'}
          options={[
            { value: 'between', text: 'from … to' },
            { value: 'through', text: 'all through' },
          ]}
          onChange={(how) =>
            onChange({
              ...feature,
              heights:
                how === 'through'
                  ? null
                  : {
                      from: { text: '0', unit: job.unit },
                      to: { text: job.unit === 'in' ? '1/8' : '3', unit: job.unit },
                    },
            })
          }
        />
      </Row>
      {heights && (
        <>
          <Length
            job={job}
            isPlace
            label="From height"
            value={heights.from}
            onChange={(from) => onChange({ ...feature, heights: { ...heights, from } })}
          />
          <Length
            job={job}
            isPlace
            label="To height"
            value={heights.to}
            onChange={(to) => onChange({ ...feature, heights: { ...heights, to } })}
          />
        </>
      )}
      <Degrees
        label="Sides lean inwards by"
        value={feature.draft}
        least={-60}
        most={60}
        onChange={(draft) => onChange({ ...feature, draft })}
      />
      <LengthOr
        job={job}
        label="Only a wall of (empty: full)"
        value={feature.wall}
        onChange={(wall) => onChange({ ...feature, wall })}
      />
      {isOther && (
        <>
          <Pick
            label="Lies against the body"
            value={laid.by}
            options={[
              { value: 'low', text: 'left and lower ends together' },
              { value: 'middle', text: 'middles together' },
              { value: 'high', text: 'right ends together' },
              { value: 'drawn', text: 'where it was drawn' },
            ]}
            onChange={(by) => onChange({ ...feature, laid: { ...laid, by } })}
          />
          <Pick
            label="Whose length holds"
            value={laid.length}
            options={[
              { value: 'own', text: 'each its own' },
              { value: 'body', text: 'the body’s: this view is stretched' },
            ]}
            onChange={(length) => onChange({ ...feature, laid: { ...laid, length } })}
          />
        </>
      )}
    </>
  );
}

function Degrees({
  label,
  value,
  least,
  most,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  onChange(value: number): void;
}) {
  return (
    <Row label={label}>
      <span className="inline-flex items-baseline gap-1">
        <input
          type="number"
          aria-label={label}
          defaultValue={value}
          key={value}
          min={least}
          max={most}
          step="any"
          onBlur={(e) => {
            const typed = e.target.valueAsNumber;
            if (Number.isFinite(typed) && typed !== value) onChange(Math.min(most, Math.max(least, typed)));
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="figure w-20 rounded border border-line bg-sheet px-1.5 py-0.5 text-right"
        />
        °
      </span>
    </Row>
  );
}

function RevolveFields({ grounds, feature, onChange }: Props<'revolve'>) {
  const ground = grounds.find((g) => g.sketch.id === feature.sketch);
  const paths = ground?.paths ?? [];
  return (
    <>
      <SketchPick
        grounds={grounds}
        value={feature.sketch}
        onChange={(g) => onChange({ ...feature, sketch: g.sketch.id, path: g.paths[0]!.id, axis: null })}
      />
      <Pick
        label="Half profile"
        value={feature.path}
        options={paths.filter((p) => p.id !== feature.axis).map((p) => ({ value: p.id, text: p.name }))}
        onChange={(path) => onChange({ ...feature, path })}
      />
      <Pick
        label="About"
        value={feature.axis ?? ''}
        options={[
          { value: '', text: 'the turned part’s axis' },
          ...paths.filter((p) => !p.closed && p.id !== feature.path).map((p) => ({ value: p.id, text: p.name })),
        ]}
        onChange={(axis) => onChange({ ...feature, axis: axis || null })}
      />
      <Degrees
        label="Turned by"
        value={feature.degrees}
        least={0.1}
        most={360}
        onChange={(degrees) => onChange({ ...feature, degrees })}
      />
      <Row label="It is to">
        <Choice
          label="What it does"
          value={feature.does}
          options={DOES}
          onChange={(does) => onChange({ ...feature, does })}
        />
      </Row>
    </>
  );
}

function MarksFields({ job, grounds, feature, onChange }: Props<'marks'>) {
  return (
    <>
      <Row label="They are">
        <Choice
          label="Raised or sunk"
          value={feature.does === 'add' ? 'add' : 'cut'}
          options={[
            { value: 'add', text: 'raised' },
            { value: 'cut', text: 'sunk' },
          ]}
          onChange={(does) => onChange({ ...feature, does })}
        />
      </Row>
      <PathPicks
        label="Its paths"
        ground={grounds.find((g) => g.sketch.id === feature.sketch)}
        of={(g) => g.paths.filter((p) => p.role !== 'reference')}
        value={feature.paths}
        onChange={(paths) => paths.length > 0 && onChange({ ...feature, paths })}
      />
      <Length job={job} label="By" value={feature.by} onChange={(by) => onChange({ ...feature, by })} />
      <Length
        job={job}
        label="Open lines this wide"
        value={feature.width}
        onChange={(width) => onChange({ ...feature, width })}
      />
    </>
  );
}

function HolesFields({ job, grounds, feature, onChange }: Props<'holes'>) {
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
      <Row label="Drilled from">
        <Choice
          label="Drilled from"
          value={feature.from}
          options={[
            { value: 'end', text: 'above' },
            { value: 'start', text: 'below' },
          ]}
          onChange={(from) => onChange({ ...feature, from })}
        />
      </Row>
      <Pick
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
                  ? { kind, diameter: wide(job), degrees: 90 }
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
        <Degrees
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

const wide = ({ unit }: JobDocument): Expression => ({ text: unit === 'in' ? '3/8' : '10', unit });

function EdgesFields({ job, grounds, feature, isNew, onChange }: Props<'edges'>) {
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
      <Pick
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

function HollowFields({ job, feature, isNew, onChange }: Props<'hollow'>) {
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

function RepeatFields({ job, grounds, feature, onChange }: Props<'repeat'>) {
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
      <Pick
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
                  ? { kind, along: 'x', step: { text: unit === 'in' ? '1' : '20', unit }, count: 2 }
                  : { kind, path: circles[0]!.path.id, sketch: circles[0]!.g.sketch.id, count: 4, degrees: 360 },
          })
        }
      />
      {how.kind === 'mirror' && (
        <>
          <Pick
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
          <Pick
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
          <Pick
            label="About the centre of"
            value={how.path}
            options={circles.map(({ path }) => ({ value: path.id, text: path.name }))}
            onChange={(path) => {
              const at = circles.find((c) => c.path.id === path);
              if (at) onChange({ ...feature, how: { ...how, path, sketch: at.g.sketch.id } });
            }}
          />
          <Degrees
            label="From one to the next (360: evenly)"
            value={how.degrees}
            least={-360}
            most={360}
            onChange={(degrees) => onChange({ ...feature, how: { ...how, degrees } })}
          />
        </>
      )}
      {how.kind !== 'mirror' && (
        <Row label="How many">
          <input
            type="number"
            aria-label="How many"
            key={how.count}
            defaultValue={how.count}
            min={2}
            max={100}
            onBlur={(e) => {
              const count = Math.round(e.target.valueAsNumber);
              if (count >= 2 && count <= 100 && count !== how.count)
                onChange({ ...feature, how: { ...how, count } as typeof how });
            }}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            className="figure w-20 rounded border border-line bg-sheet px-1.5 py-0.5 text-right"
          />
        </Row>
      )}
    </>
  );
}
