import {
  BoxSelect,
  Circle,
  Diameter,
  MoveDiagonal,
  Plus,
  RectangleHorizontal,
  Scissors,
  Slash,
  Spline,
  Tangent,
} from 'lucide-react';
import type { Pocket } from '../../step/description';

export const TRACE_TOOLS: readonly Pocket[] = [
  {
    tool: 'line',
    word: 'Line',
    hint: 'Draw a path of lines; press its first point to close it, Enter to end it',
    icon: <MoveDiagonal size={20} />,
  },
  {
    tool: 'arc',
    word: 'Arc',
    hint: 'An arc through one point to the next; or drag the middle of a piece into an arc',
    icon: <Tangent size={20} />,
  },
  {
    tool: 'curve',
    word: 'Curve',
    hint: 'A curve through one point to the next; or drag the middle of a piece into a curve',
    icon: <Spline size={20} />,
  },
  {
    tool: 'circle',
    word: 'Circle',
    hint: 'Drag from the middle of a hole to its rim, or type its diameter',
    icon: <Circle size={20} />,
  },
  { tool: 'point', word: 'Point', hint: 'Put a point into a piece', icon: <Plus size={20} /> },
  { tool: 'measure', word: 'Measure', hint: 'Pick two points to measure between', icon: <Diameter size={20} /> },
  {
    tool: 'shape',
    word: 'Shape',
    hint: 'A rectangle, slot, polygon, or a circle by its rim; press its places, or type its sizes',
    icon: <RectangleHorizontal size={20} />,
  },
  {
    tool: 'trim',
    word: 'Trim',
    hint: 'Press what shall go, up to the next crossing; a piece that nothing crosses is drawn on to what lies ahead',
    icon: <Scissors size={20} />,
  },
  {
    tool: 'choose',
    word: 'Choose',
    hint: 'Drag a box round what you want to change; Shift adds',
    icon: <BoxSelect size={20} />,
  },
  {
    tool: 'guide',
    word: 'Guide',
    hint: 'A construction line: through two places, parallel to a line, or the middle between two',
    icon: <Slash size={20} />,
  },
];
