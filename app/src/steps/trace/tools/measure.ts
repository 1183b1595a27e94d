import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { snapTargets } from '../snapTargets';
import { NO_PREVIEW, spanBetween, type TraceTool } from './context';

/** From where, and to where once both are set. */
export type MeasureState = { from: Aim; to: Aim | null } | null;

/** Measures between two places. */
export const measureTool: TraceTool<MeasureState> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  snaps: ({ snapOff }) => !snapOff.includes('edges'),
  targets: (state, at, reach, context) => snapTargets(at, reach, state && !state.to ? state.from.board : null, context),
  step(state, event, { isTrue }) {
    switch (event.kind) {
      case 'place': {
        const next = state && !state.to ? { from: state.from, to: event.aim } : { from: event.aim, to: null };
        return { state: next, preview: { ...NO_PREVIEW, measure: next } };
      }
      case 'move':
        return state && !state.to && isTrue
          ? { state, show: spanBetween(state.from.board, event.aim.board) }
          : { state };
      case 'cancel':
        return { state: null, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};
