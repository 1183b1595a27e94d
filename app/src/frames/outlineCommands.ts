import { arcShape, type Form, type Vec2 } from '@steady-moth/core/geometry';
import { onBoard } from './place';

/** What a canvas is told to do, by number, each followed by its own figures. */
const COMMAND = { move: 0, line: 1, curve: 2, arc: 3, close: 4 } as const;

/**
 * A form as commands for a canvas, board units, y down: flat, so that thousands go to a worker at little cost.
 * move x y, line x y, curve x1 y1 x2 y2 x y, arc x y radius from to anticlockwise (0 or 1), close.
 */
export function outlineCommands(form: Form | null): Float64Array {
  if (!form) return new Float64Array(0);
  if (form.kind === 'circle') {
    const { x, y } = onBoard(form.centre);
    return Float64Array.of(COMMAND.arc, x, y, form.radius, 0, 2 * Math.PI, 0);
  }
  const out: number[] = [];
  const put = (p: Vec2) => {
    const { x, y } = onBoard(p);
    out.push(x, y);
  };
  const [first] = form.segments;
  if (first) {
    out.push(COMMAND.move);
    put(first.from);
  }
  for (const s of form.segments) {
    const arc = s.kind === 'arc' ? arcShape(s.from, s.via, s.to) : null;
    if (arc) {
      const { centre, radius, startAngle, sweep } = arc;
      out.push(COMMAND.arc);
      put(centre);
      out.push(radius, -startAngle, -startAngle - sweep, sweep > 0 ? 1 : 0);
      continue;
    }
    out.push(s.kind === 'curve' ? COMMAND.curve : COMMAND.line);
    if (s.kind === 'curve') for (const handle of [s.handleFrom, s.handleTo]) put(handle);
    put(s.to);
  }
  if (form.closed) out.push(COMMAND.close);
  return Float64Array.from(out);
}

/** Several forms in one go: each begins anew. */
export function allCommands(forms: readonly Form[]): Float64Array {
  const all = forms.map((form) => {
    const own = outlineCommands(form);
    if (form.kind !== 'circle') return own;
    // A circle is drawn from where the pen is: it is lifted to the rim first.
    const { x, y } = onBoard(form.centre);
    return Float64Array.of(COMMAND.move, x + form.radius, y, ...own);
  });
  const out = new Float64Array(all.reduce((sum, one) => sum + one.length, 0));
  let at = 0;
  for (const one of all) {
    out.set(one, at);
    at += one.length;
  }
  return out;
}

/** Where commands are drawn: a path of a canvas. */
interface Pen {
  moveTo(x: number, y: number): void;
  lineTo(x: number, y: number): void;
  bezierCurveTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void;
  arc(x: number, y: number, radius: number, from: number, to: number, anticlockwise: boolean): void;
  closePath(): void;
}

export function drawCommands(c: Float64Array, pen: Pen): void {
  for (let k = 0; k < c.length; )
    switch (c[k]) {
      case COMMAND.move:
        pen.moveTo(c[k + 1]!, c[k + 2]!);
        k += 3;
        break;
      case COMMAND.line:
        pen.lineTo(c[k + 1]!, c[k + 2]!);
        k += 3;
        break;
      case COMMAND.curve:
        pen.bezierCurveTo(c[k + 1]!, c[k + 2]!, c[k + 3]!, c[k + 4]!, c[k + 5]!, c[k + 6]!);
        k += 7;
        break;
      case COMMAND.arc:
        pen.arc(c[k + 1]!, c[k + 2]!, c[k + 3]!, c[k + 4]!, c[k + 5]!, c[k + 6] === 1);
        k += 7;
        break;
      default:
        pen.closePath();
        k += 1;
    }
}
