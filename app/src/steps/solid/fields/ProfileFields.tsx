import { Choice } from '../../../kit';
import { Amount, Chooser, DOES, Length, LengthOr, PathPicks, Row, SketchPick } from './inputs';
import type { Props } from './props';

/* What is made of profiles: extrusions, turned bodies, marks. */

export function ExtrudeFields({ job, grounds, feature, onChange }: Props<'extrude'>) {
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
      <Amount
        job={job}
        suffix="°"
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
          <Chooser
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
          <Chooser
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

export function RevolveFields({ job, grounds, feature, onChange }: Props<'revolve'>) {
  const ground = grounds.find((g) => g.sketch.id === feature.sketch);
  const paths = ground?.paths ?? [];
  return (
    <>
      <SketchPick
        grounds={grounds}
        value={feature.sketch}
        onChange={(g) => onChange({ ...feature, sketch: g.sketch.id, path: g.paths[0]!.id, axis: null })}
      />
      <Chooser
        label="Half profile"
        value={feature.path}
        options={paths
          .filter((p) => p.id !== feature.axis || p.id === feature.path)
          .map((p) => ({ value: p.id, text: p.name }))}
        onChange={(path) => onChange({ ...feature, path, axis: feature.axis === feature.path ? path : feature.axis })}
      />
      <Chooser
        label="About"
        value={feature.axis ?? ''}
        options={[
          { value: '', text: 'the turned part’s axis' },
          { value: feature.path, text: 'its own straight side' },
          ...paths.filter((p) => !p.closed && p.id !== feature.path).map((p) => ({ value: p.id, text: p.name })),
        ]}
        onChange={(axis) => onChange({ ...feature, axis: axis || null })}
      />
      <Amount
        job={job}
        suffix="°"
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

export function MarksFields({ job, grounds, feature, onChange }: Props<'marks'>) {
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
