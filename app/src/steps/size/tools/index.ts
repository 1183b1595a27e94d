import type { Tool } from '../../../session/sessionStore';
import type { SizeTool } from './context';
import { dimensionTool } from './dimensionTool';
import { dragTool } from './dragTool';
import { holdTool } from './holdTool';
import { relateTool } from './relateTool';
import { takeTool } from './takeTool';

export * from './context';

/** The tool of Size that goes by a name; to compare and to fit, things are chosen as without one. */
export function sizeToolOf(name: Tool): SizeTool {
  switch (name) {
    case 'dimension':
      return dimensionTool;
    case 'relate':
      return relateTool;
    case 'hold':
      return holdTool;
    case 'drag':
      return dragTool;
    default:
      return takeTool;
  }
}
