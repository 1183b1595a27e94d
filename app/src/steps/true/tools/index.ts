import type { Tool as ToolName } from '../../../session/sessionStore';
import type { TrueTool } from './context';
import { grabTool } from './grab';
import { pickTool } from './pick';

/** Whatever is in hand: each tool keeps a state of its own kind, which nobody else looks into. */
export type AnyTrueTool = TrueTool<unknown>;

const grab = grabTool as AnyTrueTool;
/** One for each name and way of picking, so that another one begins anew. */
const picks = new Map<string, AnyTrueTool>();

export function trueToolOf(name: ToolName, datumBy: string): AnyTrueTool {
  if (name === null) return grab;
  const key = name === 'zero' || name === 'direction' ? `${name} ${datumBy}` : name;
  const made = picks.get(key) ?? ({ ...pickTool } as AnyTrueTool);
  picks.set(key, made);
  return made;
}
