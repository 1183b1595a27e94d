import type { Form } from './run';
import { arcShape, type Segment } from './segment';
import type { Vec2 } from './vector';

/** Decimals of a millimetre in written files: a tenth of a micrometre. */
const DECIMALS = 4;

/**
 * A form as SVG path data, mm, y down: `flip` turns the part's y up round a line.
 * Arcs stay arcs and curves cubic curves; a circle is two half turns.
 */
export function pathData(form: Form, flip: (p: Vec2) => { x: number; y: number }): string {
  const at = (p: Vec2) => `${write(flip(p).x)} ${write(flip(p).y)}`;
  if (form.kind === 'circle') {
    const { centre: c, radius: r } = form;
    const left = { x: c.x - r, y: c.y };
    const right = { x: c.x + r, y: c.y };
    return `M ${at(left)} A ${write(r)} ${write(r)} 0 1 1 ${at(right)} A ${write(r)} ${write(r)} 0 1 1 ${at(left)} Z`;
  }
  if (form.segments.length === 0) return '';
  const steps = form.segments.map((s) => segmentData(s, at));
  return `M ${at(form.segments[0]!.from)} ${steps.join(' ')}${form.closed ? ' Z' : ''}`;
}

/** Half a circle is no large arc, whichever way its last digit falls: the file is the same on every machine. */
const HALF_RAD = 1e-9;

function segmentData(segment: Segment, at: (p: Vec2) => string): string {
  if (segment.kind === 'curve') return `C ${at(segment.handleFrom)} ${at(segment.handleTo)} ${at(segment.to)}`;
  const arc = segment.kind === 'arc' ? arcShape(segment.from, segment.via, segment.to) : null;
  if (!arc) return `L ${at(segment.to)}`;
  const large = Math.abs(arc.sweep) > Math.PI + HALF_RAD ? 1 : 0;
  // With y turned down, counter-clockwise becomes the negative sense of SVG.
  const sense = arc.sweep > 0 ? 0 : 1;
  return `A ${write(arc.radius)} ${write(arc.radius)} 0 ${large} ${sense} ${at(segment.to)}`;
}

function write(value: number): string {
  return String(Number(value.toFixed(DECIMALS)) + 0);
}
