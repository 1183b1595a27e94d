import type { Tool as ToolName } from '../../../session/sessionStore';
import { chooseTool } from './choose';
import { circleTool } from './circle';
import type { TraceTool } from './context';
import { guideTool } from './guide';
import { insertTool } from './insert';
import { measureTool } from './measure';
import { grabTool, pathTool } from './path';
import { shapeTool } from './shape';
import { trimTool } from './trim';
import { wornTool } from './worn';

/** Whatever is in hand: each tool keeps a state of its own kind, which nobody else looks into. */
export type AnyTraceTool = TraceTool<unknown>;

const any = <State>(tool: TraceTool<State>): AnyTraceTool => tool as AnyTraceTool;

const grab = any(grabTool);
const path = any(pathTool);
const TOOLS: Partial<Record<NonNullable<ToolName>, AnyTraceTool>> = {
  line: path,
  arc: path,
  curve: path,
  circle: any(circleTool),
  point: any(insertTool),
  measure: any(measureTool),
  shape: any(shapeTool),
  trim: any(trimTool),
  choose: any(chooseTool),
  guide: any(guideTool),
  worn: any(wornTool),
};

export const traceToolOf = (name: ToolName): AnyTraceTool => (name && TOOLS[name]) || grab;
