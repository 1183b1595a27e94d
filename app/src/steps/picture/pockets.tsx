import { Crop, Pipette, SquareDashed, SunDim, SunMedium } from 'lucide-react';
import type { Pocket } from '../../step/description';

export const PICTURE_TOOLS: readonly Pocket[] = [
  { tool: 'crop', word: 'Crop', hint: 'Drag round what shall be shown', icon: <Crop size={20} /> },
  { tool: 'view', word: 'View', hint: 'Drag round one view of the thing', icon: <SquareDashed size={20} /> },
  {
    tool: 'background',
    word: 'Background',
    hint: 'Press on the background to clear it',
    icon: <Pipette size={20} />,
  },
  { tool: 'darkest', word: 'Darkest', hint: 'Press on what shall be darkest', icon: <SunDim size={20} /> },
  { tool: 'lightest', word: 'Lightest', hint: 'Press on what shall be lightest', icon: <SunMedium size={20} /> },
];
