import { snapTargets } from '@steady-moth/core/tracing';
import { inkOf } from '../../../board/inkOf';
import { NO_PREVIEW, spanBetween, type TracePreview } from '../../../part/preview';
import type { TraceTool } from './context';

/** From where, and to where once both are set. */
export type MeasureState = TracePreview['measure'];

/** Measures between two places. */
export const measureTool: TraceTool<MeasureState> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  snaps: ({ snapOff }) => !snapOff.includes('edges'),
  targets: (state, at, reach, context) => snapTargets(at, reach, state && !state.to ? state.from.place : null, context),
  step(state, event, { isTrue, chain }) {
    switch (event.kind) {
      case 'place': {
        // Of a chain the next one goes on from where the last one ended.
        const goesOn = state && (chain || !state.to);
        const next = !goesOn
          ? { from: event.aim, to: null, before: [] }
          : state.to
            ? { from: state.to, to: event.aim, before: [...state.before, state.from] }
            : { ...state, to: event.aim };
        return { state: next, preview: { ...NO_PREVIEW, measure: next } };
      }
      case 'move':
        return state && (chain || !state.to) && isTrue
          ? { state, show: spanBetween((state.to ?? state.from).place, event.aim.place) }
          : { state };
      case 'finish':
        return chain ? { state: null } : { state };
      case 'cancel':
        return { state: null, preview: NO_PREVIEW };
      default:
        return { state };
    }
  },
};
