import type { Vec2 } from '@steady-moth/core/geometry';
import { datumOf, type PickRecord, type Picture, type StrokesRecord } from '@steady-moth/core/job';
import type { PicturePoint } from '@steady-moth/core/truing';
import type { LengthUnit } from '@steady-moth/core/units';
import type { Drawing } from '../board/Board';
import { Cased, PickMark, Tag } from '../board/marks';
import { toScreen } from '../board/view';
import { LengthFigure } from '../kit';
import { useBench } from '../store/benchStore';
import type { Certainty } from '../workers/truing.worker';

/** What was said of the picture, drawn on it: known lengths, spot checks, the direction of X, zero. */
export function TrueOverlay({
  view,
  mapper,
  aim,
  picture,
  first,
  unit,
  certainty,
}: Drawing & { picture: Picture; first: PickRecord | null; unit: LengthUnit; certainty: Certainty | null }) {
  const selection = useBench((s) => s.selection);
  const select = useBench((s) => s.select);
  const pending = useBench((s) => s.pending);
  const at = (p: PicturePoint): Vec2 | null => {
    const place = mapper.toBoard(p);
    return place && toScreen(view, place);
  };
  const { truing } = picture;
  const datum = datumOf(picture);
  const span = (
    key: string,
    from: PickRecord,
    to: PickRecord,
    colour: string,
    dash: string | undefined,
    label: string,
    tag: React.ReactNode,
  ) => {
    const [a, b] = [at(from), at(to)];
    if (!a || !b) return null;
    const chosen = (end: 'from' | 'to') => selection?.kind === 'pick' && selection.id === key && selection.end === end;
    return (
      <g key={key}>
        <Cased d={`M ${a.x} ${a.y} L ${b.x} ${b.y}`} colour={colour} dash={dash} width={1.8} />
        <PickMark
          at={a}
          colour={colour}
          label={`${label}, first`}
          focused={chosen('from')}
          onFocus={() => select({ kind: 'pick', id: key, end: 'from' })}
        />
        <PickMark
          at={b}
          colour={colour}
          label={`${label}, second`}
          focused={chosen('to')}
          onFocus={() => select({ kind: 'pick', id: key, end: 'to' })}
        />
        {tag && <Tag at={tagPlace(a, b)}>{tag}</Tag>}
      </g>
    );
  };
  const begun = first && at(first);
  return (
    <>
      {truing.yardsticks.map((y, k) =>
        span(
          y.id,
          y.from,
          y.to,
          'var(--verdigris)',
          undefined,
          `Known length ${k + 1}`,
          <LengthFigure mm={y.lengthMm} plusMinusMm={y.plusMinusMm} unit={unit} />,
        ),
      )}
      {truing.yardsticks.map((y) => y.strokes && <StrokeMarks key={`${y.id} strokes`} strokes={y.strokes} at={at} />)}
      {truing.spotChecks.map((s, k) => {
        const found = certainty?.spotChecks[s.id]?.found;
        return span(
          s.id,
          s.from,
          s.to,
          'var(--soot)',
          '5 4',
          `Spot check ${k + 1}`,
          found ? <LengthFigure mm={found.value} plusMinusMm={found.plusMinus} unit={unit} /> : null,
        );
      })}
      {truing.axis &&
        'from' in truing.axis &&
        span(
          'axis',
          truing.axis.from,
          truing.axis.to,
          'var(--soot)',
          '9 4',
          'Direction',
          `along ${truing.axis.along.toUpperCase()}`,
        )}
      {pending && span('pending', pending.from, pending.to, 'var(--rust)', '4 4', 'Reading', null)}
      {datum.zero && (
        <Zero
          at={at(datum.zero)}
          selected={selection?.kind === 'pick' && selection.id === 'zero'}
          onFocus={() => select({ kind: 'pick', id: 'zero', end: 'from' })}
          own={truing.zero !== null && 'pick' in truing.zero}
        />
      )}
      {begun && (
        <>
          {aim && (
            <Cased
              d={`M ${begun.x} ${begun.y} L ${aim.screen.x} ${aim.screen.y}`}
              colour="var(--rust)"
              width={1.6}
              dash="4 4"
            />
          )}
          <PickMark at={begun} colour="var(--rust)" label="First point" />
        </>
      )}
    </>
  );
}

/** Each stroke that was taken, drawn over it from place to place, and the edge as dots: to be seen right at a glance. */
function StrokeMarks({ strokes, at }: { strokes: StrokesRecord; at(p: PicturePoint): Vec2 | null }) {
  const lines = strokes.strokes.map(({ places }) => {
    const [a, b] = [at(places[0]), at(places[places.length - 1])];
    return a && b ? `M ${a.x} ${a.y} L ${b.x} ${b.y}` : '';
  });
  const dots = strokes.edge.map((p) => {
    const q = at(p);
    return q ? `M ${q.x - 1.5} ${q.y} h 3` : '';
  });
  return (
    <g data-testid="strokes">
      <Cased d={lines.join(' ')} colour="var(--verdigris)" width={1.4} />
      <Cased d={dots.join(' ')} colour="var(--verdigris)" width={2} />
    </g>
  );
}

/** A third of the way along, above a line that lies and beside one that stands, so that crossing lines keep their tags apart. */
function tagPlace(a: Vec2, b: Vec2): Vec2 {
  const lies = Math.abs(b.x - a.x) > Math.abs(b.y - a.y);
  const at = { x: a.x + (b.x - a.x) / 3, y: a.y + (b.y - a.y) / 3 };
  return lies ? { x: at.x, y: at.y - 20 } : { x: at.x + 52, y: at.y };
}

/** Zero: a right angle whose sides run along X and Y. */
function Zero({ at, selected, own, onFocus }: { at: Vec2 | null; selected: boolean; own: boolean; onFocus(): void }) {
  if (!at) return null;
  return (
    <g>
      {own && <PickMark at={at} colour="var(--soot)" label="Zero" focused={selected} onFocus={onFocus} />}
      <Cased d={`M ${at.x} ${at.y - 34} V ${at.y} H ${at.x + 34}`} width={2.2} />
      <Cased d={`M ${at.x + 29} ${at.y - 4} l 5 4 l -5 4 M ${at.x - 4} ${at.y - 29} l 4 -5 l 4 5`} width={2} />
    </g>
  );
}
