import type { PicturePoint } from '@steady-moth/core/calibration';
import type { GraduationsRecord, PickRecord, ReferenceRecord } from '@steady-moth/core/job';
import { memo } from 'react';
import { Cased } from '../../board/marks';
import type { ScreenPlace } from '../../frames/place';

type At = (p: PicturePoint) => ScreenPlace | null;

/** What was found of a reference, drawn where it was found: to be seen right at a glance. */
export const ReferenceMarks = memo(function ReferenceMarks({
  reference: y,
  at,
  colour = 'var(--verdigris)',
}: {
  reference: Pick<ReferenceRecord, 'kind'> & object;
  at: At;
  colour?: string;
}) {
  const record = y as ReferenceRecord;
  if (record.kind === 'known-length')
    return record.graduations && <StrokeMarks graduations={record.graduations} at={at} colour={colour} />;
  if (record.kind === 'disc')
    return (
      <>
        <Places name="rim" places={record.rim} at={at} colour={colour} />
        {record.foot && <Places name="foot" places={record.foot} at={at} colour={colour} crossed />}
      </>
    );
  if (record.kind === 'sheet')
    return (
      <g data-testid="sheet">
        {record.edges.map((edge, k) => (
          <Places key={k} name={`edge ${k + 1}`} places={edge} at={at} colour={colour} joined />
        ))}
      </g>
    );
  if (record.kind === 'grid')
    return <Places name="crossings" places={record.crossings.map((c) => c.pick)} at={at} colour={colour} crossed />;
  // Its edges are the turned part's own, which are drawn as such.
  if (record.kind === 'turned-diameter') return null;
  const spans = record.kind === 'square-lines' ? record.lines : record.lengths;
  const d = spans
    .map(({ from, to }) => {
      const [a, b] = [at(from), at(to)];
      return a && b ? `M ${a.x} ${a.y} L ${b.x} ${b.y}` : '';
    })
    .join(' ');
  return <Cased d={d} colour={colour} width={1.8} dash={record.kind === 'square-lines' ? '10 3' : '3 3'} />;
});

/** Places as small bars or crosses, in one path: hundreds of elements would make each pan slow. */
function Places({
  name,
  places,
  at,
  colour,
  joined = false,
  crossed = false,
}: {
  name: string;
  places: readonly PickRecord[];
  at: At;
  colour: string;
  joined?: boolean;
  crossed?: boolean;
}) {
  const seen = places.flatMap((p) => at(p) ?? []);
  const marks = seen.map(({ x, y }) =>
    crossed ? `M ${x - 3} ${y} h 6 M ${x} ${y - 3} v 6` : `M ${x - 1.6} ${y} h 3.2`,
  );
  const line = joined && seen.length ? `M ${seen.map(({ x, y }) => `${x} ${y}`).join(' L ')}` : '';
  return (
    <g data-testid={name}>
      {line && <Cased d={line} colour={colour} width={0.8} />}
      <Cased d={marks.join(' ')} colour={colour} width={crossed ? 1.2 : 3} />
    </g>
  );
}

/** Each stroke that was taken, drawn over it from place to place, and both long edges as dots. */
export const StrokeMarks = memo(function StrokeMarks({
  graduations,
  at,
  colour = 'var(--verdigris)',
}: {
  graduations: Pick<GraduationsRecord, 'graduations' | 'edge' | 'far'>;
  at: At;
  colour?: string;
}) {
  const lines = graduations.graduations.map(({ places }) => {
    const [a, b] = [at(places[0]!), at(places[places.length - 1]!)];
    return a && b ? `M ${a.x} ${a.y} L ${b.x} ${b.y}` : '';
  });
  const dots = [...graduations.edge, ...graduations.far].map((p) => {
    const q = at(p);
    return q ? `M ${q.x - 1.5} ${q.y} h 3` : '';
  });
  return (
    <g data-testid="graduations">
      <Cased d={lines.join(' ')} colour={colour} width={1.4} />
      <Cased d={dots.join(' ')} colour={colour} width={2} />
    </g>
  );
});
