import { Blend, CircleDot, Link2, Move, Pin, RulerDimensionLine } from 'lucide-react';
import type { Pocket } from '../../step/description';

const icon = { size: 20, strokeWidth: 1.6 } as const;
export const SIZE_TOOLS: readonly Pocket[] = [
  {
    tool: 'dimension',
    word: 'Dimension',
    hint: 'Press what shall be sized, or one thing and another; then where its figure shall stand',
    icon: <RulerDimensionLine {...icon} />,
  },
  {
    tool: 'relate',
    word: 'Relate',
    hint: 'Press one thing after the other; Enter takes the first relation that is offered',
    icon: <Link2 {...icon} />,
  },
  {
    tool: 'hold',
    word: 'Hold',
    hint: 'Press what shall stay where it was measured; press it again to let it loose',
    icon: <Pin {...icon} />,
  },
  { tool: 'fit', word: 'Fit', hint: 'Size a hole or a peg by what goes with it', icon: <CircleDot {...icon} /> },
  {
    tool: 'drag',
    word: 'Drag',
    hint: 'Drag points, pieces and holes as far as they are free',
    icon: <Move {...icon} />,
  },
  {
    tool: 'compare',
    word: 'Compare',
    hint: 'What was seen, over what it is now: how far things were moved',
    icon: <Blend {...icon} />,
  },
];
