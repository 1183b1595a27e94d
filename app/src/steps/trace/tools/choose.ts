import { type Box, boxCorners, crossingsOf, type Segment, segmentsOf, type Vec2 } from '@steady-moth/core/geometry';
import { hitSegment, type Item } from '@steady-moth/core/tracing';
import { inkOf } from '../../../board/inkOf';
import { chosenOf, isItemChosen, itemsOf, toggled } from '../../../part/chosen';
import { NO_PREVIEW } from '../../../part/preview';
import type { DrawnPath } from '../../../part/useDrawn';
import type { TraceContext, TraceTool } from './context';

/** How near a press is to what it chooses, px of the screen. */
const REACH_PX = 12;

/** Chooses by a box: paths that lie all within it, or that it touches; a press chooses one. Shift adds. */
export const chooseTool: TraceTool<{ from: Vec2 } | null> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  snaps: () => false,
  looks: false,
  step(state, event, context) {
    switch (event.kind) {
      case 'press':
        return { state: { from: event.at }, held: { kind: 'box', from: event.at, adds: event.shift } };
      case 'move':
        return state && event.isHeld
          ? { state, preview: { ...NO_PREVIEW, box: { from: state.from, to: event.aim.place } } }
          : { state };
      case 'drop': {
        if (event.held.kind !== 'box') return { state };
        const { from, adds } = event.held;
        const before = adds ? itemsOf(context.selection) : [];
        if (!event.isMoved) {
          const found = hitSegment(context.drawn, event.aim.place, REACH_PX / context.scale);
          const item: Item | null = found && { kind: 'path', path: found.path };
          const select = item ? (adds ? toggled(context.selection, item) : item) : chosenOf(before);
          return { state: null, preview: NO_PREVIEW, select };
        }
        const more = inBox(from, event.aim.place, context).filter((i) => !adds || !isItemChosen(context.selection, i));
        return { state: null, preview: NO_PREVIEW, select: chosenOf([...before, ...more]) };
      }
      case 'cancel':
        return { state: null, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};

/** Paths in a box: all of them within it, or some place of them where it shall only touch. */
function inBox(from: Vec2, to: Vec2, { drawn, boxTouches }: TraceContext): Item[] {
  const box = {
    left: Math.min(from.x, to.x),
    right: Math.max(from.x, to.x),
    bottom: Math.min(from.y, to.y),
    top: Math.max(from.y, to.y),
  };
  const isWithin = ({ bounds: b }: DrawnPath) =>
    b !== null && b.left >= box.left && b.right <= box.right && b.bottom >= box.bottom && b.top <= box.top;
  return drawn.paths
    .filter((d) => !drawn.locked.has(d.path.id))
    .filter((d) => isWithin(d) || (boxTouches && touches(d, box)))
    .map(({ path }): Item => ({ kind: 'path', path: path.id }));
}

function touches({ form, bounds: b }: DrawnPath, box: Box): boolean {
  if (!form || !b || b.right < box.left || b.left > box.right || b.top < box.bottom || b.bottom > box.top) return false;
  const corners = boxCorners(box);
  const sides = corners.map((from, k): Segment => ({ kind: 'line', from, to: corners[(k + 1) % 4]! }));
  const isIn = (v: Vec2) => v.x >= box.left && v.x <= box.right && v.y >= box.bottom && v.y <= box.top;
  return segmentsOf(form).some((seg) => isIn(seg.from) || sides.some((side) => crossingsOf(seg, side).length > 0));
}
