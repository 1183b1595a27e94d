import { type Box, boxAround, type Form, mapForm, mirrorPlace, type Vec2 } from '../geometry';
import { type JobAction, movePicks, putElsewhere, putPaths, scalePicks } from '../job';
import {
  type EvaluatedPath,
  type Id,
  MAIN_SKETCH,
  newSketch,
  type Observation,
  planeOfPath,
  putForm,
  walkOf,
} from '../sketch';
import { type Item, idsOf, pathsOfItems } from './item';
import { boxOfPath, type Setting, type Traced, taken } from './setting';

/** What is done to everything that is chosen, as one. */
export type Change =
  | { kind: 'move'; x: number; y: number }
  /** Counter-clockwise, rad. */
  | { kind: 'turn'; angle: number; about: Vec2 }
  | { kind: 'scale'; factor: number; about: Vec2 }
  /** In the line through two places. */
  | { kind: 'mirror'; a: Vec2; b: Vec2 };

/** Where a place goes. */
export function mapOf(change: Change): (p: Vec2) => Vec2 {
  switch (change.kind) {
    case 'move':
      return (p) => ({ x: p.x + change.x, y: p.y + change.y });
    case 'turn': {
      const { about } = change;
      const [c, s] = [Math.cos(change.angle), Math.sin(change.angle)];
      return (p) => ({
        x: about.x + c * (p.x - about.x) - s * (p.y - about.y),
        y: about.y + s * (p.x - about.x) + c * (p.y - about.y),
      });
    }
    case 'scale': {
      const { about, factor } = change;
      return (p) => ({ x: about.x + factor * (p.x - about.x), y: about.y + factor * (p.y - about.y) });
    }
    case 'mirror':
      return (p) => mirrorPlace(p, change.a, change.b);
  }
}

const LABELS = {
  move: 'move what is chosen',
  turn: 'turn what is chosen',
  scale: 'scale what is chosen',
  mirror: 'mirror what is chosen',
} as const;

/** Changes what is chosen in its place. */
export function changed(items: readonly Item[], change: Change, setting: Setting): JobAction {
  const moves = taken(idsOf(items, setting.job.part), mapOf(change), setting);
  return change.kind === 'scale' ? scalePicks(moves, change.factor) : putElsewhere(LABELS[change.kind], moves);
}

/** A copy of what is chosen, changed; null where a place of it cannot be seen. */
export function copied(
  items: readonly Item[],
  change: Change,
  setting: Setting,
): { action: JobAction; items: Item[] } | null {
  const at = mapOf(change);
  const forms = formsOf(items, setting.drawn).map(({ own, form }) => ({
    form: mapForm(form, at, change.kind === 'scale' ? change.factor : 1),
    path: { ...own.path, name: `${own.path.name} copy`.slice(0, 200), plane: planeOfPath(own.sketch, own.path) },
  }));
  return placed(`copy what is chosen`, forms, setting);
}

/** Scatter of places that were worked out from others, px. */
const SIGMA_PX = 0.3;

/** Forms as new paths, each on a plane: the face that is traced where none is said. */
export function placed(
  label: string,
  forms: readonly { form: Form; path: Pick<EvaluatedPath['path'], 'name' | 'role' | 'layer'> & { plane?: string } }[],
  { picture, mapper, newId }: Pick<Setting, 'picture' | 'mapper' | 'newId'>,
  instead: readonly Id[] = [],
): { action: JobAction; items: Item[] } | null {
  const draft = newSketch(MAIN_SKETCH, '', null);
  for (const { form, path } of forms) {
    const { name, role, layer, plane = 'face' } = path;
    const see = (place: Vec2): Observation | null => {
      const at = mapper.toPicture(place);
      return at && { picture: picture.id, ...at, sigmaPx: SIGMA_PX, plane, snappedTo: 'free', neighbouringEdge: null };
    };
    if (!putForm(draft, form, { id: newId(), name, role, layer }, see, newId)) return null;
  }
  if (draft.order.length === 0) return null;
  return {
    action: putPaths(label, draft, instead),
    items: draft.order.map((path) => ({ kind: 'path', path })),
  };
}

/** What is chosen as forms: paths as they are, single pieces as open chains. */
export function formsOf(items: readonly Item[], drawn: Traced): { own: EvaluatedPath; form: Form }[] {
  const by = new Map(drawn.paths.map((d) => [d.path.id, d]));
  const whole = new Set(items.filter((i) => i.kind === 'path').map((i) => i.path));
  return items.flatMap((item): { own: EvaluatedPath; form: Form }[] => {
    const own = by.get(item.path);
    if (!own?.form) return [];
    if (item.kind === 'path') return [{ own, form: own.form }];
    if (item.kind !== 'piece' || whole.has(item.path) || own.form.kind === 'circle') return [];
    const k = walkOf(own.sketch, own.path)?.pieces.findIndex((p) => p.curve.id === item.curve) ?? -1;
    const segment = own.form.segments[k];
    return segment ? [{ own, form: { kind: 'chain', segments: [segment], closed: false } }] : [];
  });
}

const boxesOf = (paths: readonly Id[], by: ReadonlyMap<Id, EvaluatedPath>): Box[] =>
  paths.flatMap((id) => {
    const own = by.get(id);
    return (own && boxOfPath(own)) ?? [];
  });

/** Box round what is chosen; null where nothing of it has a place. */
export function boxOf(items: readonly Item[], drawn: Traced): Box | null {
  const by = new Map(drawn.paths.map((d) => [d.path.id, d]));
  return boxAround(boxesOf(pathsOfItems(items), by));
}

/**
 * Brings two halves together: two places of one go to two of the other, as near as moving and turning it can.
 *
 * Out: how it is moved, and how far apart both pairs are left, mm; null where two of the places are one.
 */
export function broughtTogether(
  from: readonly [Vec2, Vec2],
  to: readonly [Vec2, Vec2],
): { at(p: Vec2): Vec2; leftMm: number } | null {
  const way = ([a, b]: readonly [Vec2, Vec2]) => ({ x: b.x - a.x, y: b.y - a.y });
  const [u, v] = [way(from), way(to)];
  const [p, q] = [Math.hypot(u.x, u.y), Math.hypot(v.x, v.y)];
  if (!(p > 0) || !(q > 0)) return null;
  const angle = Math.atan2(u.x * v.y - u.y * v.x, u.x * v.x + u.y * v.y);
  const middle = ([a, b]: readonly [Vec2, Vec2]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
  const [m, n] = [middle(from), middle(to)];
  const turn = mapOf({ kind: 'turn', angle, about: m });
  const at = (place: Vec2) => {
    const turned = turn(place);
    return { x: turned.x + n.x - m.x, y: turned.y + n.y - m.y };
  };
  return { at, leftMm: Math.abs(p - q) / 2 };
}

/** Moves all of some paths by a map of places. */
export function carried(label: string, paths: readonly Id[], at: (p: Vec2) => Vec2, setting: Setting): JobAction {
  const ids = idsOf(
    paths.map((path) => ({ kind: 'path', path })),
    setting.job.part,
  );
  return movePicks(label, taken(ids, at, setting));
}

export type Side = 'left' | 'right' | 'top' | 'bottom' | 'upright middle' | 'level middle';

/** Lines paths up by a side or their middles. */
export function aligned(items: readonly Item[], side: Side, setting: Setting): JobAction | null {
  const all = boxOf(items, setting.drawn);
  if (!all) return null;
  const by = (box: Box): Vec2 => {
    switch (side) {
      case 'left':
        return { x: all.left - box.left, y: 0 };
      case 'right':
        return { x: all.right - box.right, y: 0 };
      case 'top':
        return { x: 0, y: all.top - box.top };
      case 'bottom':
        return { x: 0, y: all.bottom - box.bottom };
      case 'upright middle':
        return { x: (all.left + all.right - box.left - box.right) / 2, y: 0 };
      case 'level middle':
        return { x: 0, y: (all.top + all.bottom - box.top - box.bottom) / 2 };
    }
  };
  return eachShifted('align what is chosen', items, by, setting);
}

/** Spaces the middles of three paths or more evenly, the outer ones staying where they are; null of fewer. */
export function distributed(items: readonly Item[], along: 'x' | 'y', setting: Setting): JobAction | null {
  const paths = pathsOfItems(items);
  const by = new Map(setting.drawn.paths.map((d) => [d.path.id, d]));
  const middle = (b: Box) => (along === 'x' ? (b.left + b.right) / 2 : (b.top + b.bottom) / 2);
  const boxes = boxesOf(paths, by).sort((a, b) => middle(a) - middle(b));
  if (boxes.length < 3) return null;
  const [first, last] = [middle(boxes[0]!), middle(boxes[boxes.length - 1]!)];
  const step = (last - first) / (boxes.length - 1);
  const shift = (box: Box): Vec2 => {
    const d = first + boxes.indexOf(box) * step - middle(box);
    return along === 'x' ? { x: d, y: 0 } : { x: 0, y: d };
  };
  return eachShifted('space what is chosen evenly', items, shift, setting);
}

/** Moves each path by itself. */
function eachShifted(label: string, items: readonly Item[], by: (box: Box) => Vec2, setting: Setting): JobAction {
  const known = new Map(setting.drawn.paths.map((d) => [d.path.id, d]));
  const moves: Record<Id, Observation> = {};
  for (const path of pathsOfItems(items)) {
    const own = known.get(path);
    const box = own && boxOfPath(own);
    if (!box) continue;
    const { x, y } = by(box);
    const ids = idsOf([{ kind: 'path', path }], setting.job.part);
    Object.assign(
      moves,
      taken(ids, (p) => ({ x: p.x + x, y: p.y + y }), setting),
    );
  }
  return movePicks(label, moves);
}
