import type { PicturePoint } from '@steady-moth/core/calibration';
import type { PlacedFigure, ReadDimension } from '@steady-moth/core/read';
import { Cased, Tag } from '../../board/marks';
import { type ScreenPlace, screenPlace } from '../../frames/place';

/** The figures that were read along a ruler, each over its own. */
export function RulerFigureMarks({
  figures,
  at,
}: {
  figures: readonly PlacedFigure[];
  at(p: PicturePoint): ScreenPlace | null;
}) {
  return figures.map((f) => {
    const place = at(f);
    return (
      place && (
        <text
          key={`${f.uPx} ${f.vPx}`}
          x={place.x}
          y={place.y}
          textAnchor="middle"
          dominantBaseline="central"
          className="figure"
          fontSize={13}
          fontWeight={600}
          fill="var(--rust)"
          stroke="var(--paper)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          {f.value}
        </text>
      )
    );
  });
}

/** The printed dimensions that were read: between which lines, and what. */
export function DimensionMarks({
  read,
  at,
}: {
  read: readonly ReadDimension[];
  at(p: PicturePoint): ScreenPlace | null;
}) {
  return read.map((d, k) => {
    const [a, b] = [at(d.from), at(d.to)];
    if (!a || !b) return null;
    const contradicts = d.check === 'contradicts';
    return (
      <g key={`${d.at.uPx} ${d.at.vPx}`}>
        <Cased
          d={`M ${a.x} ${a.y} L ${b.x} ${b.y}`}
          colour={contradicts ? 'var(--brick)' : 'var(--rust)'}
          dash={d.check === 'agrees' ? undefined : '4 4'}
          width={1.8}
        />
        {[a, b].map((p, end) => (
          <circle key={end} cx={p.x} cy={p.y} r={3} fill="var(--paper)" stroke="var(--rust)" strokeWidth={1.6} />
        ))}
        <Tag at={screenPlace((a.x + b.x) / 2, (a.y + b.y) / 2)} tone={d.check === 'agrees' ? 'plain' : 'doubt'}>
          {k + 1}: {d.value}
        </Tag>
      </g>
    );
  });
}
