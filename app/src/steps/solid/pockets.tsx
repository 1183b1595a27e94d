import {
  Box as BoxIcon,
  Circle,
  Layers,
  Package,
  RotateCw,
  Ruler,
  Scissors,
  SquareRoundCorner,
  Target,
} from 'lucide-react';
import type { Pocket } from '../../step/description';

const icon = { size: 20, strokeWidth: 1.6 } as const;
export const SOLID_TOOLS: readonly Pocket[] = [
  { tool: 'revolve', word: 'Revolve', hint: 'Turn a half profile about its axis', icon: <RotateCw {...icon} /> },
  { tool: 'extrude', word: 'Extrude', hint: 'Draw a profile out to a height', icon: <BoxIcon {...icon} /> },
  {
    tool: 'view-cut',
    word: 'Cut by view',
    hint: 'Keep only what another view shows',
    icon: <Scissors {...icon} />,
  },
  { tool: 'edges', word: 'Edges', hint: 'Round or cut edges', icon: <SquareRoundCorner {...icon} /> },
  { tool: 'holes', word: 'Holes', hint: 'Drill, countersink, counterbore', icon: <Circle {...icon} /> },
  {
    tool: 'further',
    word: 'Further',
    hint: 'Marks, a domed face, a hollow, something once more',
    icon: <Layers {...icon} />,
  },
  {
    tool: 'body-size',
    word: 'Measure',
    hint: 'A size between faces, of an edge, of a wall',
    icon: <Ruler {...icon} />,
  },
  { tool: 'section', word: 'Section', hint: 'Look inside', icon: <Package {...icon} /> },
  {
    tool: 'body-check',
    word: 'Spot check',
    hint: 'Hold a caliper’s reading against the body',
    icon: <Target {...icon} />,
  },
];
