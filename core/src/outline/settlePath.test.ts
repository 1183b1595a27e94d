import { buildCamera, pictureOf } from '@steady-moth/rig/camera';
import { LATCH_PLATE_SCENE } from '@steady-moth/rig/demo';
import { setStage, shoot } from '@steady-moth/rig/render';
import { type Scene, toScene } from '@steady-moth/rig/scene';
import { beforeAll, describe, expect, it } from 'vitest';
import { locateEdges, snapCircle } from '../edge';
import { between, circleThrough, type Form, lerp, nearestOn, type Segment, segmentsOf, type Vec2 } from '../geometry';
import { seededRandom } from '../numeric';
import type { Pixels } from '../raster';
import { MAIN_SKETCH, newSketch, type Path, type PictureMap, putForm, type Sketch, walkOf } from '../sketch';
import { type Looking, settlePath } from '.';

/* The latch plate of the demo, thin and bright on a dark bench; the plane's map is the simulated camera's own. */
const THICK = 0.05;
const SCENE: Scene = {
  ...LATCH_PLATE_SCENE,
  film: { blurPx: 0.9, noise: 2, sharpening: 0, toneCurve: 0, vignette: 0 },
  items: [
    { ...LATCH_PLATE_SCENE.items[0], thickness: THICK, wear: 0, colour: [0.5, 0.5, 0.5] } as Scene['items'][number],
  ],
  benchTone: 0.03,
};
const camera = buildCamera(SCENE.camera);
const plate = SCENE.items[0] as Extract<Scene['items'][number], { kind: 'plate' }>;
const project = (x: number, y: number): [number, number] => {
  const [sx, sy] = toScene(plate.lie, x, y);
  return pictureOf(camera, { x: sx, y: sy, z: THICK }) ?? [0, 0];
};
const box = [
  [0, 0],
  [90, 0],
  [90, 48],
  [0, 48],
].map(([x, y]) => project(x!, y!));
const left = Math.floor(Math.min(...box.map((p) => p[0]))) - 60;
const top = Math.floor(Math.min(...box.map((p) => p[1]))) - 60;
const width = Math.ceil(Math.max(...box.map((p) => p[0]))) + 60 - left;
const height = Math.ceil(Math.max(...box.map((p) => p[1]))) + 60 - top;

/** Places of the plate to the frame, and back by Newton: the camera's mathematics both ways. */
const map: PictureMap = {
  toPicture: ({ x, y }) => {
    const [u, v] = project(x, y);
    return { uPx: u - left, vPx: v - top };
  },
  toPlace({ uPx, vPx }) {
    let [x, y] = [45, 24];
    for (let n = 0; n < 8; n++) {
      const [u, v] = project(x, y);
      const [ux, vx] = project(x + 1e-3, y);
      const [uy, vy] = project(x, y + 1e-3);
      const [a, b, c, d] = [(ux - u) / 1e-3, (uy - u) / 1e-3, (vx - v) / 1e-3, (vy - v) / 1e-3];
      const [ru, rv] = [uPx + left - u, vPx + top - v];
      const det = a * d - b * c;
      x += (d * ru - b * rv) / det;
      y += (a * rv - c * ru) / det;
    }
    return { x, y };
  },
};
const PX_PER_MM = 17.7;

let pixels: Pixels;
beforeAll(() => {
  const rgb = shoot(setStage(SCENE), { left, top, width, height }).pixels;
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let k = 0; k < width * height; k++) data.set(rgb.subarray(3 * k, 3 * k + 3), 4 * k);
  pixels = { width, height, data };
});
const look: Looking = {
  edges: ({ uPx, vPx }, searchPx) => locateEdges(pixels, uPx, vPx, { searchPx }),
  round: (circle) =>
    snapCircle(
      pixels,
      { toPlane: (p) => map.toPlace(p), toPicture: (p) => map.toPicture(p) },
      circle,
      'edge',
      'inside',
    ),
};

/** A form drawn by a hand that is off by as much as so many px, evenly. */
function byHand(form: Form, seed: number, mostPx: number): { sketch: Sketch; path: Path } {
  const random = seededRandom(seed);
  const moved = new Map<string, Vec2>();
  const off = ({ x, y }: Vec2): Vec2 => {
    const key = `${x.toFixed(6)} ${y.toFixed(6)}`;
    const most = mostPx / PX_PER_MM;
    const at = moved.get(key) ?? { x: x + most * (2 * random() - 1), y: y + most * (2 * random() - 1) };
    moved.set(key, at);
    return at;
  };
  const shaky: Form =
    form.kind === 'circle'
      ? { ...form, centre: off(form.centre), radius: form.radius + (mostPx / PX_PER_MM) * (2 * random() - 1) }
      : {
          ...form,
          segments: form.segments.map((s): Segment => {
            if (s.kind === 'line') return { kind: 'line', from: off(s.from), to: off(s.to) };
            if (s.kind === 'arc') return { kind: 'arc', from: off(s.from), via: off(s.via), to: off(s.to) };
            throw new Error('not drawn here');
          }),
        };
  const sketch = newSketch(MAIN_SKETCH, '', null);
  let named = 0;
  const see = (place: Vec2) => ({
    picture: 'pic',
    ...map.toPicture(place)!,
    sigmaPx: 3,
    plane: 'face',
    snappedTo: 'free' as const,
    neighbouringEdge: null,
  });
  putForm(sketch, shaky, { id: 'p', name: 'Path', role: 'cut', layer: null }, see, () => `n${named++}`);
  return { sketch, path: sketch.paths.p! };
}

describe('settlePath', () => {
  const settled = (form: Form, seed: number, see = look) => {
    const { sketch, path } = byHand(form, seed, 3);
    const result = settlePath({ sketch, path, only: null, picture: 'pic' }, map, see);
    if (!result.ok) throw new Error(result.reason);
    return { ...result, sketch, path };
  };
  /** How far places of a form lie off the true one, px. */
  const offForm = (places: readonly Vec2[], form: Form) =>
    places.map((p) => Math.min(...segmentsOf(form).flatMap((s) => nearestOn(s, p)?.distance ?? [])) * PX_PER_MM);

  it.each([1, 2, 3])('puts an outline that a hand drew 3 px off where it is, with corners that hold (%i)', (seed) => {
    const form = plate.forms[0] as Extract<Form, { kind: 'chain' }>;
    const { picks, pieces, sketch, path, moved } = settled(form, seed);
    const { points } = walkOf(sketch, path)!;
    points.forEach((id, k) => {
      const at = map.toPlace(picks[id]!)!;
      const off = between(at, form.segments[k]!.from) * PX_PER_MM;
      expect(off).toBeLessThan(0.1);
      expect(off).toBeLessThan(2 * picks[id]!.sigmaPx);
    });
    expect(
      Math.max(
        ...offForm(
          Object.values(picks).map((p) => map.toPlace(p)!),
          form,
        ),
      ),
    ).toBeLessThan(0.1);
    expect(pieces.every((p) => !p.isDoubtful && p.rmsPx < 0.1)).toBe(true);
    expect(moved * PX_PER_MM).toBeGreaterThan(1);
  });

  it.each([1, 2])('puts a hole where it is, and says how surely', (k) => {
    const form = plate.forms[k] as Extract<Form, { kind: 'circle' }>;
    const { picks } = settled(form, 7);
    const [a, b, c] = Object.values(picks).map((p) => map.toPlace(p)!);
    const circle = circleThrough(a!, b!, c!)!;
    // Nearer than all places along a rim are known to share (edge/snapCircle.ts).
    expect(Math.abs(circle.radius - form.radius) * PX_PER_MM).toBeLessThan(0.1);
    // Twice the radius' σ of a diameter: 0.06 mm at 20 px/mm would be 1.2 px.
    expect((4 * Object.values(picks)[0]!.sigmaPx) / Math.sqrt(3)).toBeLessThan(0.6);
  });

  it('leaves a piece along which nothing is seen as it was drawn, and says so', () => {
    const form = plate.forms[0] as Extract<Form, { kind: 'chain' }>;
    const hidden = form.segments[1] as Extract<Segment, { kind: 'line' }>;
    const half = lerp(hidden.from, hidden.to, 0.5);
    const reach = 0.5 * between(hidden.from, hidden.to);
    const covered: Looking = {
      ...look,
      edges: (at, searchPx) => (between(map.toPlace(at)!, half) < reach ? [] : look.edges(at, searchPx)),
    };
    const { picks, pieces, sketch, path } = settled(form, 4, covered);
    expect(pieces.map((p) => p.isDoubtful)).toEqual(pieces.map((_, k) => k === 1));
    // Its ends are known by their other neighbour alone: no better along that one than a hand knows them.
    const { points } = walkOf(sketch, path)!;
    expect(picks[points[1]!]!.sigmaPx).toBeGreaterThan(1);
  });

  it('says what it cannot settle, and moves nothing', () => {
    const { sketch, path } = byHand(plate.forms[0]!, 1, 3);
    const to = { sketch, path, only: null, picture: 'pic' };
    expect(settlePath(to, map, { ...look, edges: () => [] })).toEqual({ ok: false, reason: 'no-edge' });
    expect(settlePath({ ...to, picture: 'other' }, map, look)).toEqual({ ok: false, reason: 'not-here' });
  });

  it('settles the piece alone that it is asked for', () => {
    const { sketch, path } = byHand(plate.forms[0]!, 5, 3);
    const [first, second] = walkOf(sketch, path)!.pieces;
    const result = settlePath({ sketch, path, only: [second!.curve.id], picture: 'pic' }, map, look);
    if (!result.ok || second!.curve.kind !== 'line') throw new Error('not settled');
    expect(result.pieces.map((p) => p.curve)).toEqual([second!.curve.id]);
    expect(Object.keys(result.picks).sort()).toEqual([second!.curve.from, second!.curve.to].sort());
    expect(first!.curve.evidence[0]!.picks.some((id) => id in result.picks)).toBe(false);
  });
});
