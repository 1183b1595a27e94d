import type { Vec2 } from '@steady-moth/core/geometry';
import { fitView } from '../frames/view';
import { useSession } from './sessionStore';

/** What is shown round a place, mm to each side. */
const ROUND_MM = 4;

/** Chooses a path and brings a place of the part, mm, y up, to the middle of the board, at a scale where it can be seen. */
export function showPlace(path: string, at: Vec2): void {
  const { view, setView, select } = useSession.getState();
  select({ kind: 'path', path });
  const corners = [-ROUND_MM, ROUND_MM].map((d) => ({ x: at.x + d, y: at.y + d }));
  if (view) setView(fitView(corners, view.width, view.height, 0));
}
