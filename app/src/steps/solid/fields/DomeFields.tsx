import type { Feature } from '@steady-moth/core/sketch';
import { AXES, AXES_OF_SIDE, type Axis, type Box } from '@steady-moth/core/solid';
import { Choice } from '../../../kit';
import { BowPane } from './BowPane';
import { Chooser, EndPick, LengthOr, Row, SketchPick } from './inputs';
import type { Props } from './props';

const BOWS = [
  { value: 'height', text: 'height' },
  { value: 'radius', text: 'radius' },
  { value: 'places', text: 'drawn here' },
  { value: 'views', text: 'two views' },
] as const;
const WAYS = ['along', 'across'] as const;

type Bow = Extract<Feature, { kind: 'dome' }>['bow'];

/** A face bowed two ways: by figures, by lines drawn over the body here and now, or by lines of two views. */
export function DomeFields(props: Props<'dome'>) {
  const { job, grounds, feature, box, onChange } = props;
  const { bow } = feature;
  const side = grounds.find((g) => g.sketch.id === feature.sketch)?.side ?? 'top';
  const runs = [AXES_OF_SIDE[side].x, AXES_OF_SIDE[side].y] as const;
  const rise = AXES.find((axis) => !runs.includes(axis as never))!;
  const chosen = (by: (typeof BOWS)[number]['value']): Bow => {
    if (by === 'views') return null;
    if (by !== 'places')
      return bow && bow.by !== 'places' ? { ...bow, by } : { by, along: null, across: { text: '1', unit: 'mm' } };
    const half = sizeAlong(box, runs[1]) / 2;
    const places = [-half, 0, half].map((x) => ({ x, y: x === 0 ? 0 : -FIRST_DROP * half }));
    return { by, along: null, across: places };
  };
  return (
    <>
      <Row label="Bowed by">
        <Choice
          label="What it is bowed by"
          value={bow?.by ?? 'views'}
          options={BOWS}
          onChange={(by) => onChange({ ...feature, bow: chosen(by) })}
        />
      </Row>
      {bow && (
        <SketchPick
          label="View of the face"
          grounds={grounds}
          value={feature.sketch}
          onChange={(g) => onChange({ ...feature, sketch: g.sketch.id, path: g.paths[0]!.id })}
        />
      )}
      {bow?.by === 'places' &&
        WAYS.map((way, k) => (
          <BowPane
            key={way}
            label={way === 'along' ? 'Line along X' : 'Line along Y'}
            unit={job.unit}
            runMm={sizeAlong(box, runs[k]!)}
            riseMm={sizeAlong(box, rise)}
            end={feature.from === 'end' ? 'top' : 'bottom'}
            places={bow[way]}
            onChange={(places) => onChange({ ...feature, bow: { ...bow, [way]: places } })}
          />
        ))}
      {bow &&
        bow.by !== 'places' &&
        WAYS.map((way) => (
          <LengthOr
            key={way}
            job={job}
            label={`${bow.by === 'height' ? 'Height' : 'Radius'} ${way === 'along' ? 'along X' : 'along Y'}, empty: straight`}
            value={bow[way]}
            onChange={(typed) => onChange({ ...feature, bow: { ...bow, [way]: typed } })}
          />
        ))}
      {!bow && <DrawnBow {...props} />}
      <EndPick label="Cut off is what lies" value={feature.from} onChange={(from) => onChange({ ...feature, from })} />
    </>
  );
}

/** The line that one begins with drops to its ends by this share of half its length. */
const FIRST_DROP = 0.1;
/** Where there is no body yet, mm. */
const NO_BODY_MM = 40;

const sizeAlong = (box: Box | null, axis: Axis): number => (box ? box.max[axis] - box.min[axis] : NO_BODY_MM);

function DrawnBow({ grounds, feature, onChange }: Props<'dome'>) {
  const lines = (sketch: string) =>
    (grounds.find((g) => g.sketch.id === sketch)?.paths ?? []).map((p) => ({ value: p.id, text: p.name }));
  return (
    <>
      <p className="text-[12.5px] text-ink2">
        Two open lines, drawn in Trace, each in its own view: the face follows one lengthwise, and is bowed across as
        the other.
      </p>
      <SketchPick
        label="View of the line along"
        grounds={grounds}
        value={feature.sketch}
        onChange={(g) => onChange({ ...feature, sketch: g.sketch.id, path: g.paths[0]!.id })}
      />
      <Chooser
        label="It follows"
        value={feature.path}
        options={lines(feature.sketch)}
        onChange={(path) => onChange({ ...feature, path })}
      />
      <SketchPick
        label="View of the bow across"
        grounds={grounds}
        value={feature.acrossSketch}
        onChange={(g) => onChange({ ...feature, acrossSketch: g.sketch.id, across: g.paths[0]!.id })}
      />
      <Chooser
        label="It is bowed as"
        value={feature.across}
        options={lines(feature.acrossSketch)}
        onChange={(across) => onChange({ ...feature, across })}
      />
      <Chooser
        label="Lies against the body"
        value={feature.laid}
        options={[
          { value: 'body', text: 'highest place at its end, middles together' },
          { value: 'drawn', text: 'where it was drawn' },
        ]}
        onChange={(laid) => onChange({ ...feature, laid })}
      />
    </>
  );
}
