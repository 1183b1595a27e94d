import { SaxesParser, type SaxesTagPlain } from 'saxes';
import SVGPathCommander from 'svg-path-commander';
import {
  applyToPoint,
  compose,
  fromDefinition,
  fromTransformAttribute,
  identity,
  type Matrix,
} from 'transformation-matrix';
import type { Form, Segment, Vec2 } from '../../geometry';
import { NO_HANDLE_MM, NO_LENGTH_MM, NO_SHARE, ONE_PLACE_MM, ROUND_SHARE } from '../../geometry';
import { ROLES, type Role } from '../../sketch';
import {
  ellipseCurves,
  type LeftOut,
  OUTLINES,
  OutlineCollector,
  OutlineError,
  type OutlineResult,
  roleOfLayer,
  tidyLayer,
} from './outlines';

/** Millimetres of the units that SVG 1.1 lengths are written in; a pixel is a 96th of an inch (CSS 2.1). */
const PX_MM = 25.4 / 96;
const UNIT_MM = new Map([
  ['', PX_MM],
  ['px', PX_MM],
  ['in', 25.4],
  ['mm', 1],
  ['cm', 10],
  ['pt', 25.4 / 72],
  ['pc', 25.4 / 6],
  ['q', 0.25],
]);

/** What holds no outline of its own, with all that is in it. */
const SKIPPED = new Map<string, LeftOut | null>([
  ['script', 'script'],
  ['foreignobject', 'other'],
  ['image', 'picture'],
  ['use', 'reference'],
  ['text', 'text'],
  ...['defs', 'symbol', 'clippath', 'mask', 'pattern', 'marker', 'style', 'metadata', 'title', 'desc'].map(
    (name) => [name, null] as const,
  ),
]);

interface Frame {
  matrix: Matrix;
  layer: string | null;
  hidden: boolean;
}

type Attributes = Readonly<Record<string, string>>;

/**
 * Reads outlines out of an SVG document, as a stream: nothing of it is run, fetched or drawn, entities of its own are
 * an error, and what leads elsewhere is left out.
 * Out: forms in mm, y up. Groups with a name are layers; a class that is a role, or a layer's name, says what is done
 * along them.
 */
export function readSvg(text: string): OutlineResult {
  const found = new OutlineCollector();
  const stack: Frame[] = [];
  let skipping = 0;
  let depth = 0;
  let elements = 0;
  let unitless = false;
  const parser = new SaxesParser();
  parser.on('error', () => {
    throw new OutlineError('not-readable');
  });
  parser.on('opentag', (tag: SaxesTagPlain) => {
    depth += 1;
    elements += 1;
    if (depth > OUTLINES.mostDepth) throw new OutlineError('too-deep');
    if (elements > OUTLINES.mostElements) throw new OutlineError('too-many');
    const name = tag.name.replace(/^.*:/, '').toLowerCase();
    if (skipping) {
      skipping += 1;
      if (name === 'script') found.leftOut.add('script');
      return;
    }
    const what = SKIPPED.get(name);
    if (what !== undefined) {
      if (what) found.leftOut.add(what);
      skipping = 1;
      return;
    }
    const own = tag.attributes;
    if (Object.keys(own).some((a) => /^on/i.test(a))) found.leftOut.add('script');
    const outer = stack.at(-1);
    if (!outer && name !== 'svg') throw new OutlineError('not-readable');
    const frame = enter(name, own, outer);
    if (!outer) unitless = !/[a-z%]\s*$/i.test(own.width ?? '');
    stack.push(frame);
    if (frame.hidden) return;
    const role = classes(own).find(isRole) ?? roleOfLayer(frame.layer);
    for (const form of formsOf(name, own, frame.matrix)) found.add(form, frame.layer, role);
  });
  parser.on('closetag', () => {
    depth -= 1;
    if (skipping) skipping -= 1;
    else stack.pop();
  });
  try {
    // In stretches, so that a document of endless depth ends before all of it was taken in.
    for (let at = 0; at < text.length; at += STRETCH) parser.write(text.slice(at, at + STRETCH));
    parser.close();
  } catch (error) {
    return { ok: false, reason: error instanceof OutlineError ? error.reason : 'not-readable' };
  }
  return found.result(unitless);
}

const STRETCH = 65_536;

function enter(name: string, own: Attributes, outer: Frame | undefined): Frame {
  const style = own.style ?? '';
  const hidden =
    (outer?.hidden ?? false) ||
    own.display === 'none' ||
    own.visibility === 'hidden' ||
    /display\s*:\s*none|visibility\s*:\s*hidden/.test(style);
  let matrix = outer?.matrix ?? rootMatrix(own);
  if (outer && name === 'svg') matrix = compose(matrix, { ...identity(), e: number(own.x), f: number(own.y) });
  if (own.transform) matrix = compose(matrix, ...transforms(own.transform));
  const label = name === 'g' ? tidyLayer(own.id) : null;
  return { matrix, layer: label ?? outer?.layer ?? null, hidden };
}

function transforms(text: string): Matrix[] {
  try {
    const found = fromDefinition(fromTransformAttribute(text));
    return Array.isArray(found) ? found : [found];
  } catch {
    throw new OutlineError('not-readable');
  }
}

/** From the document's user units to mm, y turned up. */
function rootMatrix({ viewBox, width, height }: Attributes): Matrix {
  const box = (viewBox ?? '')
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  const [left, top, w, h] = (
    box.length === 4 && box.every(Number.isFinite) && box[2]! > 0 && box[3]! > 0 ? box : [0, 0, 0, 0]
  ) as [number, number, number, number];
  const [wide, high] = [lengthMm(width), lengthMm(height)];
  const perX = w && wide ? wide / w : null;
  const perY = h && high ? high / h : null;
  // The picture keeps its proportions: the smaller of both scales, as `preserveAspectRatio` has it unless told otherwise.
  const scale = perX && perY ? Math.min(perX, perY) : (perX ?? perY ?? PX_MM);
  return { a: scale, b: 0, c: 0, d: -scale, e: -left * scale, f: top * scale };
}

function lengthMm(text: string | undefined): number | null {
  const found = /^\s*([\d.]+(?:e[+-]?\d+)?)\s*([a-z]*)\s*$/i.exec(text ?? '');
  const per = found && UNIT_MM.get(found[2]!.toLowerCase());
  const value = found && per ? Number(found[1]) * per : Number.NaN;
  return value > 0 ? value : null;
}

const number = (text: string | undefined): number => {
  const value = Number.parseFloat(text ?? '');
  return Number.isFinite(value) ? value : 0;
};

const isRole = (name: string): name is Role => (ROLES as readonly string[]).includes(name);

const classes = ({ class: names }: Attributes): string[] => (names ?? '').toLowerCase().split(/\s+/);

function formsOf(name: string, own: Attributes, matrix: Matrix): Form[] {
  const map = (x: number, y: number): Vec2 => applyToPoint(matrix, { x, y });
  const n = (key: string) => number(own[key]);
  switch (name) {
    case 'path':
      return pathForms(own.d ?? '', matrix);
    case 'circle':
      return n('r') > 0 ? [round(map(n('cx'), n('cy')), n('r'), n('r'), matrix)] : [];
    case 'ellipse':
      return n('rx') > 0 && n('ry') > 0 ? [round(map(n('cx'), n('cy')), n('rx'), n('ry'), matrix)] : [];
    case 'rect':
      return rectForms(own, matrix);
    case 'line':
      return [chain([map(n('x1'), n('y1')), map(n('x2'), n('y2'))], false)];
    case 'polyline':
    case 'polygon': {
      const values = (own.points ?? '')
        .trim()
        .split(/[\s,]+/)
        .map(Number);
      if (!values.every(Number.isFinite)) return [];
      const places: Vec2[] = [];
      for (let k = 0; k + 1 < values.length; k += 2) places.push(map(values[k]!, values[k + 1]!));
      return [chain(places, name === 'polygon')];
    }
    default:
      return [];
  }
}

function chain(places: readonly Vec2[], closed: boolean): Form {
  const segments: Segment[] = places.slice(1).map((to, k) => ({ kind: 'line', from: places[k]!, to }));
  const [first, last] = [places[0], places.at(-1)];
  if (closed && first && last && places.length > 2 && Math.hypot(first.x - last.x, first.y - last.y) > NO_LENGTH_MM)
    segments.push({ kind: 'line', from: last, to: first });
  return { kind: 'chain', segments, closed: closed && segments.length > 1 };
}

/** A matrix that keeps circles round: a turn, a scale, a mirror. */
const keepsRound = ({ a, b, c, d }: Matrix): boolean =>
  Math.abs(a * c + b * d) <= ROUND_SHARE * (a * a + b * b) &&
  Math.abs(a * a + b * b - c * c - d * d) <= ROUND_SHARE * (a * a + b * b);

function round(centre: Vec2, rx: number, ry: number, matrix: Matrix): Form {
  const { a, b, c, d } = matrix;
  if (rx === ry && keepsRound(matrix)) return { kind: 'circle', centre, radius: rx * Math.hypot(a, b) };
  const curves = ellipseCurves(centre, { x: rx * a, y: rx * b }, { x: ry * c, y: ry * d }, 0, 2 * Math.PI);
  const segments = curves.map((curve): Segment => ({ kind: 'curve', ...curve }));
  (segments.at(-1) as Segment).to = segments[0]!.from;
  return { kind: 'chain', segments, closed: true };
}

function rectForms(own: Attributes, matrix: Matrix): Form[] {
  const [x, y, w, h] = ['x', 'y', 'width', 'height'].map((key) => number(own[key])) as [number, number, number, number];
  if (!(w > 0 && h > 0)) return [];
  const given = (key: string) => (own[key] === undefined ? null : Math.max(0, number(own[key])));
  const rx = Math.min(given('rx') ?? given('ry') ?? 0, w / 2);
  const ry = Math.min(given('ry') ?? given('rx') ?? 0, h / 2);
  if (!(rx > 0 && ry > 0)) return pathForms(`M${x} ${y}h${w}v${h}h${-w}z`, matrix);
  const arc = (dx: number, dy: number) => `a${rx} ${ry} 0 0 1 ${dx} ${dy}`;
  return pathForms(
    `M${x + rx} ${y}H${x + w - rx}${arc(rx, ry)}V${y + h - ry}${arc(-rx, ry)}H${x + rx}${arc(-rx, -ry)}V${y + ry}${arc(rx, -ry)}z`,
    matrix,
  );
}

type Command = readonly [string, ...number[]];

function pathForms(d: string, matrix: Matrix): Form[] {
  let commands: readonly Command[];
  try {
    commands = SVGPathCommander.normalizePath(d) as unknown as readonly Command[];
  } catch {
    throw new OutlineError('not-readable');
  }
  const map = (x: number, y: number): Vec2 => applyToPoint(matrix, { x, y });
  const forms: Form[] = [];
  let segments: Segment[] = [];
  /** In user units: where the pen is, and where the chain began. */
  let pen = { x: 0, y: 0 };
  let begin = pen;
  const end = (closed: boolean) => {
    if (segments.length) forms.push(asForm(segments, closed));
    segments = [];
  };
  for (const [letter, ...v] of commands) {
    const from = map(pen.x, pen.y);
    if (!v.every(Number.isFinite)) throw new OutlineError('not-readable');
    if (letter === 'M') {
      end(false);
      pen = { x: v[0]!, y: v[1]! };
      begin = pen;
      continue;
    }
    if (letter === 'Z') {
      const to = map(begin.x, begin.y);
      if (segments.length && Math.hypot(to.x - from.x, to.y - from.y) > NO_LENGTH_MM)
        segments.push({ kind: 'line', from, to });
      end(true);
      pen = begin;
      continue;
    }
    const [x, y] = v.slice(-2) as [number, number];
    const to = map(x, y);
    if (letter === 'C')
      segments.push({ kind: 'curve', from, handleFrom: map(v[0]!, v[1]!), handleTo: map(v[2]!, v[3]!), to });
    else if (letter === 'Q') {
      const third = (p: number, q: number) => p + (2 / 3) * (q - p);
      const handleFrom = map(third(pen.x, v[0]!), third(pen.y, v[1]!));
      segments.push({ kind: 'curve', from, handleFrom, handleTo: map(third(x, v[0]!), third(y, v[1]!)), to });
    } else if (letter === 'A') segments.push(...arcSegments(pen, v, matrix));
    else if (Math.hypot(to.x - from.x, to.y - from.y) > NO_HANDLE_MM) segments.push({ kind: 'line', from, to });
    pen = { x, y };
  }
  end(false);
  return forms;
}

/** Two arcs are one circle where their middles lie on it within this share of its radius: files round their figures. */
const ONE_CIRCLE_SHARE = 1e-4;

/** One whole turn of equal arcs is a circle; all else stays a chain. */
function asForm(segments: Segment[], closed: boolean): Form {
  const [first, last] = [segments[0]!, segments.at(-1) as Segment];
  const meets = Math.hypot(first.from.x - last.to.x, first.from.y - last.to.y) <= ONE_PLACE_MM;
  if (!(closed || meets) || segments.length < 2) return { kind: 'chain', segments, closed: false };
  if (segments.length === 2 && first.kind === 'arc' && last.kind === 'arc') {
    const centre = { x: (first.from.x + first.to.x) / 2, y: (first.from.y + first.to.y) / 2 };
    const radius = Math.hypot(first.from.x - centre.x, first.from.y - centre.y);
    const onIt = (p: Vec2) =>
      Math.abs(Math.hypot(p.x - centre.x, p.y - centre.y) - radius) <= ONE_CIRCLE_SHARE * radius;
    const opposite = Math.hypot(first.via.x - last.via.x, first.via.y - last.via.y) > radius;
    if (onIt(first.via) && onIt(last.via) && opposite) return { kind: 'circle', centre, radius };
  }
  segments[segments.length - 1] = { ...last, to: first.from };
  return { kind: 'chain', segments, closed: true };
}

/**
 * An elliptical arc by its ends as SVG gives it (SVG 1.1, appendix F.6), as circular arcs where it is round on the
 * part, else as curves.
 */
function arcSegments(pen: Vec2, v: readonly number[], matrix: Matrix): Segment[] {
  const [rx0, ry0, degrees, large, sweepFlag, x, y] = v as [number, number, number, number, number, number, number];
  const map = (p: Vec2): Vec2 => applyToPoint(matrix, p);
  const from = map(pen);
  const to = map({ x, y });
  if (Math.hypot(x - pen.x, y - pen.y) < NO_HANDLE_MM) return [];
  let [rx, ry] = [Math.abs(rx0), Math.abs(ry0)];
  if (rx === 0 || ry === 0) return [{ kind: 'line', from, to }];
  const phi = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(phi), Math.sin(phi)];
  const [hx, hy] = [(pen.x - x) / 2, (pen.y - y) / 2];
  const [px, py] = [cos * hx + sin * hy, cos * hy - sin * hx];
  const over = (px / rx) ** 2 + (py / ry) ** 2;
  if (over > 1) [rx, ry] = [rx * Math.sqrt(over), ry * Math.sqrt(over)];
  const left = Math.max(0, (rx * ry) ** 2 - (rx * py) ** 2 - (ry * px) ** 2);
  const root = (large === sweepFlag ? -1 : 1) * Math.sqrt(left / ((rx * py) ** 2 + (ry * px) ** 2));
  const [qx, qy] = [(root * rx * py) / ry, (-root * ry * px) / rx];
  const centre = { x: cos * qx - sin * qy + (pen.x + x) / 2, y: sin * qx + cos * qy + (pen.y + y) / 2 };
  const start = Math.atan2((py - qy) / ry, (px - qx) / rx);
  let sweep = Math.atan2((-py - qy) / ry, (-px - qx) / rx) - start;
  if (sweepFlag && sweep < 0) sweep += 2 * Math.PI;
  if (!sweepFlag && sweep > 0) sweep -= 2 * Math.PI;
  const major = { x: rx * cos, y: rx * sin };
  const minor = { x: -ry * sin, y: ry * cos };
  if (Math.abs(rx - ry) <= NO_SHARE * rx && keepsRound(matrix)) {
    const half = start + sweep / 2;
    const via = map({
      x: centre.x + Math.cos(half) * major.x + Math.sin(half) * minor.x,
      y: centre.y + Math.cos(half) * major.y + Math.sin(half) * minor.y,
    });
    return [{ kind: 'arc', from, via, to }];
  }
  const linear = (p: Vec2): Vec2 => applyToPoint({ ...matrix, e: 0, f: 0 }, p);
  const curves = ellipseCurves(map(centre), linear(major), linear(minor), start, sweep);
  curves[0]!.from = from;
  curves[curves.length - 1]!.to = to;
  return curves.map((curve) => ({ kind: 'curve', ...curve }));
}
