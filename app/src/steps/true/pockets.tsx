import {
  Circle,
  Combine,
  Crosshair,
  File,
  Grid3x3,
  MoveHorizontal,
  MoveRight,
  Ruler,
  Scale,
  Square,
} from 'lucide-react';
import type { Pocket } from '../../step/description';

export const TRUE_TOOLS: readonly Pocket[] = [
  {
    tool: 'readings',
    word: 'Readings',
    hint: 'Pick two readings on the ruler, or both ends of anything of known length',
    icon: <MoveHorizontal size={20} />,
  },
  { tool: 'ruler', word: 'Ruler', hint: 'One click on a ruler counts its strokes', icon: <Ruler size={20} /> },
  {
    tool: 'disc',
    word: 'Coin',
    hint: 'One click inside a coin or disc finds its rim',
    icon: <Circle size={20} />,
  },
  {
    tool: 'sheet',
    word: 'Paper',
    hint: 'One click on paper or a card finds its edges',
    icon: <File size={20} />,
  },
  { tool: 'grid', word: 'Grid', hint: 'One click on a grid finds its crossings', icon: <Grid3x3 size={20} /> },
  {
    tool: 'lines',
    word: 'Square',
    hint: 'Two points on each of two lines that are square or parallel',
    icon: <Square size={20} />,
  },
  {
    tool: 'direction',
    word: 'Direction',
    hint: 'Pick two points on a line that runs along X or Y',
    icon: <MoveRight size={20} />,
  },
  { tool: 'zero', word: 'Zero', hint: 'Pick where zero is', icon: <Crosshair size={20} /> },
  {
    tool: 'spot',
    word: 'Spot check',
    hint: 'Pick two points and type what the caliper says',
    icon: <Scale size={20} />,
  },
  {
    tool: 'common',
    word: 'Common',
    hint: 'Pick a place of the part here, then the same one in another picture',
    icon: <Combine size={20} />,
  },
];
