import { findPath, type Part } from '../sketch';
import type { FeatureFault, FeatureReason } from '../solid';
import type { LengthUnit } from '../units';
import { sayLength } from './sayLength';

const FAULTS: Record<FeatureReason, (detail: string | null) => string> = {
  'nothing-to-go-by': (path) => `What it goes by is gone, or has no place${path ? `: ${path}` : ''}. Choose another.`,
  'open-profile': (path) =>
    `“${path}” is open, so it encloses nothing: it is left out. Close it in Trace, or give it a wall.`,
  'crosses-itself': (path) => `“${path}” crosses itself. Trim it in Trace.`,
  touches: (path) => `“${path}” touches itself, so nothing is left there. Move it apart in Trace.`,
  'no-length': (typed) => `“${typed}” is no length.`,
  'no-number': (typed) => `That is no number it can go by: ${typed}.`,
  'no-bow-typed': () => 'It is straight both ways: say how it is bowed along, across, or both.',
  'bow-too-round': () => 'That bow is rounder than half a circle over the body: a larger radius, or a lower height.',
  'bow-goes-back': () =>
    'The line of the bow goes back on itself: each of its places lies further on than the one before.',
  'no-bow': (path) => `“${path}” is closed, or goes back on itself: a bow runs from one end to the other.`,
  'one-side': () => 'Both lines are seen from one side: choose lines of two views.',
  'no-thickness': () => 'It comes to nothing: type more than 0.',
  'crosses-axis': (path) => `“${path}” crosses the axis more than once on a side: no turned body looks so.`,
  'unlike-halves': (path) =>
    `“${path}” lies on both sides of the axis, and its sides are unlike: trace one half, or both alike.`,
  'edge-gone': () => 'No edge or face of that kind is there any more. Choose others.',
  'too-large': () => 'There is no room for it: it is left out until it is smaller.',
  'no-form': (path) => `No form comes of “${path}” with this wall.`,
  'nothing-left': () => 'Nothing of it meets the body.',
  'no-body': () => 'There is no body yet for it to work on. Move it down the list, or add one before it.',
  'sides-cannot-lean': () => 'These sides cannot lean: only lines and arcs can.',
  failed: (words) => `It could not be worked out${words ? ` (${words})` : ''}: it is left out, and the others go on.`,
};

/** Why a feature cannot be made, with what it is in the way of, and where. */
export function faultSentence(
  { reason, detail, where }: FeatureFault,
  { part, unit }: { part: Part; unit: LengthUnit },
): string {
  if (!where) return FAULTS[reason](detail);
  const other = where.other === null ? null : (findPath(part, where.other)?.path.name ?? 'another path');
  const at = `at X ${sayLength(where.at.x, unit)}, Y ${sayLength(where.at.y, unit)}`;
  if (reason === 'touches')
    return other === null
      ? `“${detail}” touches itself ${at}, so nothing is left there. Move it apart in Trace.`
      : `“${detail}” touches “${other}” ${at}, so nothing is left between them. Move them apart in Trace.`;
  return `“${detail}” crosses ${other === null ? 'itself' : `“${other}”`} ${at}. Trim it in Trace.`;
}
