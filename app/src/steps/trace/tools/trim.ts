import { trimmed, trimPlan } from '@steady-moth/core/tracing';
import { inkOf } from '../../../board/inkOf';
import type { Aim } from '../../../board/useAim';
import { NO_PREVIEW } from '../../../part/preview';
import type { TraceContext, TraceOutcome, TraceTool } from './context';

/** How near a piece is looked for, px of the screen. */
const REACH_PX = 20;

/**
 * Takes away the piece that is pointed at, up to the next crossing on either side; one that nothing crosses is drawn on
 * from the end that is nearer, up to what lies ahead.
 */
export const trimTool: TraceTool<null> = {
  start: () => null,
  wish: (_, { picture }) => inkOf(picture),
  snaps: () => false,
  looks: false,
  step(state, event, context) {
    if (event.kind === 'move') {
      const plan = trimPlan(event.aim.place, REACH_PX / context.scale, context);
      return {
        state,
        preview: { ...NO_PREVIEW, forms: plan ? [plan.shown] : [] },
        show: { snaps: plan ? WORDS[plan.kind] : 'no piece near' },
      };
    }
    if (event.kind === 'place') return { state, preview: NO_PREVIEW, ...done(event.aim, context) };
    return event.kind === 'cancel' ? { state, preview: NO_PREVIEW } : { state };
  },
};

const WORDS = {
  trim: 'this goes',
  round: 'this goes',
  extend: 'drawn on to here',
  none: 'nothing crosses it',
} as const;

function done(aim: Aim, context: TraceContext): Partial<TraceOutcome<null>> {
  const plan = trimPlan(aim.place, REACH_PX / context.scale, context);
  if (!plan) return {};
  if (plan.kind === 'none')
    return {
      select: { kind: 'path', path: plan.own.path.id },
      show: { snaps: 'nothing crosses it, nothing lies ahead' },
    };
  const made = trimmed(plan, context);
  return made ? { action: made.action, select: made.path === null ? null : { kind: 'path', path: made.path } } : {};
}
