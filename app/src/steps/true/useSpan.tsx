import type { PicturePoint } from '@steady-moth/core/calibration';
import type { PickRecord } from '@steady-moth/core/job';
import type { ReactNode } from 'react';
import { Cased, PickMark, Tag } from '../../board/marks';
import { type ScreenPlace, screenPlace } from '../../frames/place';
import { useSession } from '../../session/sessionStore';

/** Draws what lies between two picks, with both of them and a tag; nothing where one has no place on the screen. */
export function useSpan(at: (p: PicturePoint) => ScreenPlace | null) {
  const selection = useSession((s) => s.selection);
  const select = useSession((s) => s.select);
  return (
    key: string,
    from: PickRecord,
    to: PickRecord,
    colour: string,
    dash: string | undefined,
    label: string,
    tag: ReactNode,
    spanAt = 0,
  ) => {
    const [a, b] = [at(from), at(to)];
    if (!a || !b) return null;
    const chosen = (end: 'from' | 'to') =>
      selection?.kind === 'pick' && selection.id === key && selection.end === end && (selection.span ?? 0) === spanAt;
    return (
      <g key={`${key} ${spanAt}`}>
        <Cased d={`M ${a.x} ${a.y} L ${b.x} ${b.y}`} colour={colour} dash={dash} width={1.8} />
        <PickMark
          at={a}
          colour={colour}
          label={`${label}, first`}
          focused={chosen('from')}
          onFocus={() => select({ kind: 'pick', id: key, end: 'from', span: spanAt })}
        />
        <PickMark
          at={b}
          colour={colour}
          label={`${label}, second`}
          focused={chosen('to')}
          onFocus={() => select({ kind: 'pick', id: key, end: 'to', span: spanAt })}
        />
        {tag && <Tag at={tagPlace(a, b)}>{tag}</Tag>}
      </g>
    );
  };
}

/** A third of the way along, above a line that lies and beside one that stands, so that crossing lines keep their tags apart. */
function tagPlace(a: ScreenPlace, b: ScreenPlace): ScreenPlace {
  const lies = Math.abs(b.x - a.x) > Math.abs(b.y - a.y);
  const [x, y] = [a.x + (b.x - a.x) / 3, a.y + (b.y - a.y) / 3];
  return lies ? screenPlace(x, y - 20) : screenPlace(x + 52, y);
}
