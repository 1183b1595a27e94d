import { observationOf } from '@steady-moth/core/sketch';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { pointsNear } from '../pointsNear';
import { NO_PREVIEW, spanBetween, type TraceTool } from './context';

/** From where, and to where once both are set. */
export type MeasureState = { from: Aim; to: Aim | null } | null;

/** Measures between two places. */
export const measureTool: TraceTool<MeasureState> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  targets: (_, at, reach, { drawn, job }) =>
    pointsNear(drawn, at, reach).flatMap((id) => {
      const board = drawn.placeOf(id);
      return board ? [{ id, board, sigmaPx: observationOf(job.part, id)?.sigmaPx ?? 0.5 }] : [];
    }),
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
