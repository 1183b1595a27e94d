import { strFromU8, unzipSync } from 'fflate';
import { STLLoader } from 'three/addons/loaders/STLLoader.js';
import { beforeAll, describe, expect, it } from 'vitest';
import { openKernel } from '../../../../scripts/openKernel';
import { bodyDrawing, writeBody } from '../../format/body';
import { type Form, formArea, formsBounds } from '../../geometry';
import {
  type BodyStep,
  type DomeStep,
  type EdgesStep,
  edgeNamed,
  edgesMeant,
  frameOf,
  type HolesStep,
  type HollowStep,
  looseEdges,
  type RevolveStep,
  regionsOf,
  welded,
} from '..';
import { cavityOf } from '../cavity';
import { circle, loop, PLATE_AREA, plate, polygon, rectangle } from '../shapes.test-data';
import { type BodyState, createBuilder, figuresOf, type Kernel, meshOf, sizeOf } from '.';

let oc: Kernel;
beforeAll(async () => {
  oc = await openKernel();
}, 60_000);

const built = (...steps: BodyStep[]) => createBuilder(oc).build(steps);
const volumeOf = (...steps: BodyStep[]): number => {
  const { state, faults } = built(...steps);
  expect(faults).toEqual([]);
  return figuresOf(oc, state!.shape!).volumeMm3;
};
const edges = (how: 'round' | 'cut', sizeMm: number, which: EdgesStep['which'], id = 'edges'): EdgesStep => ({
  kind: 'edges',
  id,
  does: 'add',
  how,
  sizeMm,
  which,
});
const holes = (part: Partial<HolesStep>): HolesStep => ({
  kind: 'holes',
  id: 'holes',
  does: 'cut',
  frame: frameOf('top', 0),
  holes: [{ path: 'hole', centre: { x: 10, y: 10 }, diameterMm: 8 }],
  depthMm: null,
  from: 'end',
  head: { kind: 'none' },
  ...part,
});

describe('volumes against exact formulas', () => {
  it('of a plate with a hole, broken in every way', () => {
    const area = PLATE_AREA;
    expect(volumeOf(plate())).toBeCloseTo(3 * area, 6);
    // A chamfer round the top takes a triangle along the edge, less what is shared at each corner.
    const c = 0.5;
    expect(volumeOf(plate(), edges('cut', c, { kind: 'end' }))).toBeCloseTo(
      3 * area - ((c * c) / 2) * 120 + (4 * c ** 3) / 3,
      6,
    );
    expect(volumeOf(plate(), edges('round', 2, { kind: 'upright' }))).toBeCloseTo(3 * (area - 4 * (4 - Math.PI)), 6);
    // Both rims of the hole: a ring of triangular section whose middle lies a third outwards (Pappus).
    const ring = ((c * c) / 2) * 2 * Math.PI * (4 + c / 3);
    expect(volumeOf(plate(), edges('cut', c, { kind: 'hole', paths: ['hole'] }))).toBeCloseTo(3 * area - 2 * ring, 6);
  });

  it('of holes with heads, blind and through', () => {
    const sink = { kind: 'countersink', diameterMm: 12, angleRad: Math.PI / 2 } as const;
    const cone = ((Math.PI * 2) / 3) * (36 + 24 + 16) - 32 * Math.PI;
    expect(volumeOf(plate(), holes({ head: sink }))).toBeCloseTo(3 * PLATE_AREA - cone, 6);
    expect(volumeOf(plate(), holes({ head: sink, from: 'start' }))).toBeCloseTo(3 * PLATE_AREA - cone, 6);
    const bore = { kind: 'counterbore', diameterMm: 12, depthMm: 1 } as const;
    expect(volumeOf(plate(), holes({ head: bore }))).toBeCloseTo(3 * PLATE_AREA - 20 * Math.PI, 6);
    const blind = [{ path: 'other', centre: { x: 30, y: 10 }, diameterMm: 6 }];
    expect(volumeOf(plate(), holes({ holes: blind, depthMm: 2 }))).toBeCloseTo(3 * PLATE_AREA - 18 * Math.PI, 6);
  });

  it('of a turned body, whole and in part, and of one hollowed out', () => {
    const revolve = (form: ReturnType<typeof rectangle>, angleRad: number): BodyStep => ({
      kind: 'revolve',
      id: 'turned',
      does: 'add',
      frame: frameOf('top', 0),
      regions: regionsOf([loop('half', form)]),
      axis: { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } },
      angleRad,
    });
    expect(volumeOf(revolve(rectangle(0, 0, 10, 5), 2 * Math.PI))).toBeCloseTo(250 * Math.PI, 6);
    expect(volumeOf(revolve(rectangle(0, 2, 10, 5), Math.PI / 2))).toBeCloseTo((10 * Math.PI * 45) / 4, 6);
    const solid = revolve(rectangle(0, 0, 10, 5), 2 * Math.PI) as RevolveStep;
    const hollow = (open: HollowStep['open'], exact: boolean): HollowStep => ({
      kind: 'hollow',
      id: 'hollow',
      does: 'add',
      wallMm: 1,
      open,
      cavity: exact ? cavityOf(solid, 'hollow', 1, open) : null,
      base: exact ? solid : null,
    });
    const end = [{ feature: 'turned', of: 'side', path: 'half', curve: 'half-1', nth: 0 }] as const;
    const cup = Math.PI * (250 - 16 * 9);
    // By the profile, and by the finished body.
    expect(volumeOf(solid, hollow([...end], true))).toBeCloseTo(cup, 6);
    expect(volumeOf(solid, hollow([...end], false))).toBeCloseTo(cup, 6);
    expect(volumeOf(solid, hollow([], true))).toBeCloseTo(Math.PI * (250 - 16 * 8), 6);
    const box = { ...plate(10), regions: regionsOf([loop('outer', rectangle(0, 0, 40, 20))]) };
    const top = [{ feature: 'plate', of: 'end', path: 'outer', curve: null, nth: 0 }] as const;
    const tray = (open: HollowStep['open']): HollowStep => ({
      ...hollow(open, false),
      wallMm: 2,
      cavity: cavityOf(box, 'hollow', 2, open),
    });
    expect(volumeOf(box, tray([...top]))).toBeCloseTo(8000 - 36 * 16 * 8, 6);
    const side = [{ feature: 'plate', of: 'side', path: 'outer', curve: 'outer-0', nth: 0 }] as const;
    expect(volumeOf(box, tray([...side]))).toBeCloseTo(8000 - 36 * 18 * 6, 6);
  });

  it('of flats on a turned body, cut by a second view and mirrored', () => {
    const round: RevolveStep = {
      kind: 'revolve',
      id: 'turned',
      does: 'add',
      frame: frameOf('top', 0),
      regions: regionsOf([loop('half', rectangle(0, 0, 20, 5))]),
      axis: { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } },
      angleRad: 2 * Math.PI,
    };
    const flat: BodyStep = {
      ...plate(),
      id: 'flat',
      does: 'cut',
      frame: frameOf('front', 0),
      regions: regionsOf([loop('flat', rectangle(12, 3, 10, 4))]),
      heights: null,
    };
    const mirrored: BodyStep = {
      kind: 'repeat',
      id: 'again',
      does: 'cut',
      of: ['flat'],
      how: { kind: 'mirror', across: 'z', atMm: 0 },
    };
    const segment = 25 * Math.acos(3 / 5) - 3 * 4;
    expect(volumeOf(round, flat, mirrored)).toBeCloseTo(500 * Math.PI - 2 * 8 * segment, 6);
  });

  it('of views put together, of sides that lean, of marks kept inside their face, of copies', () => {
    const front: BodyStep = {
      ...plate(),
      id: 'front',
      does: 'keep',
      frame: frameOf('front', 0),
      regions: regionsOf([loop('front', polygon([0, 0], [40, 0], [40, 2], [0, 2]))]),
      heights: null,
    };
    expect(volumeOf(plate(), front)).toBeCloseTo(2 * PLATE_AREA, 6);
    // By its lower, middle and upper sections (Simpson's rule is exact for a prismatoid).
    const lean = Math.atan(0.1);
    const stump = { ...plate(10), regions: regionsOf([loop('outer', rectangle(0, 0, 40, 20))]), draftRad: lean };
    expect(volumeOf(stump)).toBeCloseTo((10 / 6) * (800 + 4 * 39 * 19 + 38 * 18), 6);
    const mark: BodyStep = {
      ...plate(),
      id: 'mark',
      does: 'cut',
      regions: regionsOf([loop('mark', rectangle(35, 5, 10, 10))]),
      heights: { fromMm: 2, toMm: 3 },
      inside: plate().regions,
    };
    expect(volumeOf(plate(), mark)).toBeCloseTo(3 * PLATE_AREA - 50, 6);
    const mirrored: BodyStep = {
      kind: 'repeat',
      id: 'again',
      does: 'add',
      of: ['plate'],
      how: { kind: 'mirror', across: 'x', atMm: 0 },
    };
    expect(volumeOf(plate(), mirrored)).toBeCloseTo(6 * PLATE_AREA, 6);
  });
});

describe('a face bowed two ways', () => {
  /** Between a chord and its arc. */
  const segment = (chord: number, rise: number): number => {
    const radius = (chord * chord) / 8 / rise + rise / 2;
    const half = Math.asin(chord / 2 / radius);
    return radius * radius * (half - Math.sin(half) * Math.cos(half));
  };
  const box = { ...plate(14), regions: regionsOf([loop('outer', rectangle(0, 0, 40, 20))]) };
  const dome = (along: DomeStep['along'], change: Partial<DomeStep> = {}): DomeStep => ({
    kind: 'dome',
    id: 'dome',
    does: 'cut',
    run: { x: 1, y: 0, z: 0 },
    runAcross: { x: 0, y: 1, z: 0 },
    rise: { x: 0, y: 0, z: 1 },
    along,
    across: [
      { kind: 'line', from: { x: -1, y: -2.2 }, to: { x: 0, y: -2 } },
      { kind: 'arc', from: { x: 0, y: -2 }, via: { x: 10, y: 0 }, to: { x: 20, y: -2 } },
      { kind: 'line', from: { x: 20, y: -2 }, to: { x: 21, y: -2.2 } },
    ],
    path: 'across',
    ...change,
  });
  const line = (...places: [number, number][]): DomeStep['along'] =>
    places.slice(1).map(([x, y], k) => ({
      kind: 'line',
      from: { x: places[k]![0], y: places[k]![1] },
      to: { x, y },
    }));
  const across = 40 * (segment(20, 2) - 2 * 20);

  it('comes to what both bows come to', () => {
    const arc: DomeStep['along'] = [
      { kind: 'line', from: { x: -1, y: 9.8 }, to: { x: 0, y: 10 } },
      { kind: 'arc', from: { x: 0, y: 10 }, via: { x: 20, y: 13 }, to: { x: 40, y: 10 } },
      { kind: 'line', from: { x: 40, y: 10 }, to: { x: 41, y: 9.8 } },
    ];
    const bowed = volumeOf(box, dome(arc));
    expect(bowed / (20 * (400 + segment(40, 3)) + across)).toBeCloseTo(1, 6);
    // A hollow lengthwise takes all away over it as well.
    const hollow = dome([{ kind: 'arc', from: { x: 0, y: 13 }, via: { x: 20, y: 8 }, to: { x: 40, y: 13 } }]);
    expect(volumeOf(box, hollow) / (20 * (520 - segment(40, 5)) + across)).toBeCloseTo(1, 6);
    // A kink lengthwise is a kink of the face.
    const kinked = volumeOf(box, dome(line([-1, 9.8], [10, 12], [41, 11])));
    const under = (9.8 + 2.2 / 11 + 12) * 5 + ((12 + 11 + 1 / 31) / 2) * 30;
    expect(kinked / (20 * under + across)).toBeCloseTo(1, 6);
  });

  it('is seen from its own sides as it was drawn', () => {
    const { state } = built(box, dome(line([-1, 9], [10, 12], [41, 9])));
    const outline = (side: 'front' | 'right') =>
      formsBounds(bodyDrawing(oc, state!, { side }, { title: '', date: '', unit: 'mm' })!.forms.map((f) => f.form))!;
    expect(outline('front').max.y).toBeCloseTo(12, 3);
    expect(outline('right').max.y).toBeCloseTo(12, 2);
  });

  it('reaches over copies that the plan knows nothing of', () => {
    const copy: BodyStep = {
      kind: 'repeat',
      id: 'again',
      does: 'add',
      of: ['plate'],
      how: { kind: 'row', along: 'x', stepMm: 60, count: 2 },
    };
    // Drawn on straight over the second box: from 41 on it falls by 0.5 in 10.
    const bowed = volumeOf(box, copy, dome(line([-1, 9.8], [21, 13], [41, 12])));
    const at = (x: number) => (x < 21 ? 9.8 + ((x + 1) * 3.2) / 22 : 13 - (x - 21) / 20);
    const under = ((at(0) + 13) / 2) * 21 + ((13 + at(40)) / 2) * 19 + ((at(60) + at(100)) / 2) * 40;
    expect(bowed / (20 * under + 2 * across)).toBeCloseTo(1, 6);
  });

  it('cuts from below, and nothing where it lies beyond the body', () => {
    const below = { rise: { x: 0, y: 0, z: -1 } };
    const flat = line([-1, -2], [41, -2]);
    expect(volumeOf(box, dome(flat, below)) / (40 * 20 * 12 + across)).toBeCloseTo(1, 6);
    expect(built(box, dome(line([-1, 20], [41, 20]))).faults[0]?.reason).toBe('nothing-left');
  });
});

describe('names', () => {
  const top = { feature: 'plate', of: 'end', path: 'outer', curve: null, nth: 0 } as const;
  const side = { feature: 'plate', of: 'side', path: 'outer', curve: 'outer-1', nth: 0 } as const;

  it('find a picked edge again after its body changed upstream', () => {
    const picked = edges('cut', 0.5, { kind: 'picked', edges: [{ faces: [top, side], near: null }] });
    expect(volumeOf(plate(3), picked)).toBeCloseTo(3 * PLATE_AREA - 0.125 * 20, 6);
    expect(volumeOf(plate(7), picked)).toBeCloseTo(7 * PLATE_AREA - 0.125 * 20, 6);
  });

  it('tell one edge from others between the same two faces', () => {
    const notch: BodyStep = {
      ...plate(),
      id: 'notch',
      does: 'cut',
      regions: regionsOf([loop('notch', rectangle(38, 8, 4, 4))]),
      heights: { fromMm: -1, toMm: 4 },
    };
    const one = (y: number) =>
      edges('cut', 0.5, { kind: 'picked', edges: [{ faces: [top, side], near: { x: 40, y, z: 3 } }] });
    const left = 3 * (PLATE_AREA - 8);
    expect(volumeOf(plate(), notch, one(3))).toBeCloseTo(left - 0.125 * 8, 6);
    expect(volumeOf(plate(), notch, one(19))).toBeCloseTo(left - 0.125 * 8, 6);
    const both = edges('cut', 0.5, { kind: 'picked', edges: [{ faces: [top, side], near: null }] });
    expect(volumeOf(plate(), notch, both)).toBeCloseTo(left - 0.125 * 16, 6);
    const mesh = meshOf(oc, built(plate(), notch).state!, { linearMm: 0.05, angularRad: 0.3 });
    const all = edgesMeant(mesh, { faces: [top, side], near: null });
    expect(all).toHaveLength(2);
    for (const k of all) expect(edgesMeant(mesh, edgeNamed(mesh, k)!)).toEqual([k]);
  });

  it('stay with faces through operations that cut and join them', () => {
    const { state } = built(plate(), edges('round', 0.5, { kind: 'outer' }), holes({ depthMm: null }));
    const mesh = meshOf(oc, state!, { linearMm: 0.05, angularRad: 0.3 });
    expect(mesh.faces.filter((f) => f.name === null)).toEqual([]);
    expect(mesh.faces.some((f) => f.name?.of === 'end' && f.name.feature === 'plate')).toBe(true);
    expect(mesh.edges.filter((e) => e.faces === null)).toEqual([]);
  });

  it('are told of sizes: across a hole, between sides, of an edge, of a wall', () => {
    const { state } = built(plate());
    const wall = { feature: 'plate', of: 'side', path: 'hole', curve: 'hole-0', nth: 0 } as const;
    const bottom = { ...top, of: 'start' } as const;
    const left = { ...side, curve: 'outer-3' };
    const asked = (faces: Parameters<typeof sizeOf>[2]) => sizeOf(oc, state!, faces);
    expect(asked({ of: 'faces', faces: [wall] })).toMatchObject({ kind: 'diameter', value: expect.closeTo(8, 9) });
    expect(asked({ of: 'faces', faces: [top, bottom] })).toMatchObject({
      kind: 'distance',
      value: expect.closeTo(3, 9),
    });
    expect(asked({ of: 'faces', faces: [left, side] })).toMatchObject({
      kind: 'distance',
      value: expect.closeTo(40, 9),
    });
    expect(asked({ of: 'faces', faces: [wall, left] })).toMatchObject({
      kind: 'distance',
      value: expect.closeTo(10, 9),
    });
    expect(asked({ of: 'faces', faces: [top] })).toBeNull();
    expect(asked({ of: 'edge', edge: { faces: [top, side], near: null } })).toMatchObject({
      kind: 'length',
      value: expect.closeTo(20, 9),
    });
    const at = { x: 30, y: 0, z: 1.5 };
    expect(asked({ of: 'wall', at, normal: { x: 0, y: -1, z: 0 } })).toMatchObject({
      kind: 'wall',
      value: expect.closeTo(20, 6),
    });
  });
});

describe('a section', () => {
  it('shows the outline of the cut, lines and circles exact, as that side lies', () => {
    const { state } = built(plate(), holes({ head: { kind: 'countersink', diameterMm: 12, angleRad: Math.PI / 2 } }));
    const at = (across: 'x' | 'y' | 'z', atMm: number) =>
      bodyDrawing(oc, state!, { across, atMm }, { title: 'Plate', date: '2026-03-01', unit: 'mm' });
    // Half a millimetre under the top the head is 11 wide.
    const level = at('z', 2.5)!.forms.map((f) => f.form);
    expect(level.map((f) => f.kind).sort()).toEqual(['chain', 'circle']);
    expect(level.find((f) => f.kind === 'circle')).toMatchObject({ radius: expect.closeTo(5.5, 9) });
    expect(formArea(level.find((f) => f.kind === 'chain')!)).toBeCloseTo(800, 6);
    // Upright through the hole: two pieces, seen from the front, each less half the head.
    const upright = at('y', 10)!.forms.map((f) => f.form);
    expect(upright.length).toBe(2);
    expect(upright.reduce((sum, f) => sum + formArea(f), 0)).toBeCloseTo(3 * 40 - 8 * 3 - 4, 6);
    expect(at('z', 2.5)!.title).toBe('Plate, section across the height at 2.50 mm');
    expect(at('z', 9)).toBeNull();
  });
});

describe('what cannot be made', () => {
  it('is told at its place, and keeps the body and the rest of the list', () => {
    const { state, faults } = built(
      plate(),
      edges('round', 9, { kind: 'end' }, 'too-large'),
      edges('cut', 0.5, { kind: 'picked', edges: [] }, 'gone'),
      edges('cut', 0.5, { kind: 'end' }, 'good'),
    );
    expect(faults.map((f) => [f.feature, f.reason])).toEqual([
      ['too-large', 'too-large'],
      ['gone', 'edge-gone'],
    ]);
    expect(figuresOf(oc, state!.shape!).volumeMm3).toBeLessThan(3 * PLATE_AREA - 10);
  });

  it('is a cut of nothing, a hollow of a wall thicker than the part, a hole beside it', () => {
    expect(built({ ...plate(), does: 'cut' }).faults[0]?.reason).toBe('no-body');
    const far = { ...plate(), id: 'far', does: 'keep' as const, regions: regionsOf([loop('far', circle(500, 0, 3))]) };
    expect(built(plate(), far).faults[0]?.reason).toBe('nothing-left');
    const beside = [{ path: 'beside', centre: { x: -30, y: 10 }, diameterMm: 6 }];
    expect(built(plate(), holes({ holes: beside })).faults[0]?.reason).toBe('nothing-left');
  });
});

describe('work that is kept', () => {
  it('gives the same body whether steps were worked before or not', () => {
    const builder = createBuilder(oc);
    const first = [plate(3), edges('cut', 0.5, { kind: 'end' })];
    builder.build(first);
    const again = builder.build([plate(3), edges('cut', 0.8, { kind: 'end' })]).state as BodyState;
    expect(figuresOf(oc, again.shape!).volumeMm3).toBeCloseTo(
      volumeOf(plate(3), edges('cut', 0.8, { kind: 'end' })),
      9,
    );
    expect(figuresOf(oc, builder.build(first).state!.shape!).volumeMm3).toBeCloseTo(volumeOf(...first), 9);
  });
});

describe('files', () => {
  const body = () => built(plate(), edges('round', 0.5, { kind: 'outer' })).state!;
  const options = { title: "Latch 'plate' ö", date: '2026-03-01', toleranceMm: 0.02 };

  it('STL is closed, as another reader sees it, and as near to the surface as it says', () => {
    const state = body();
    const made = writeBody(oc, state, 'stl', options);
    expect(made.ok).toBe(true);
    if (!made.ok) return;
    expect(made.deviationMm).toBeLessThanOrEqual(0.02);
    const read = new STLLoader().parse(made.bytes.slice().buffer);
    const positions = read.getAttribute('position').array as Float32Array;
    expect(positions.length / 9).toBe(made.triangles);
    const triangles = Uint32Array.from({ length: positions.length / 3 }, (_, k) => k);
    expect(looseEdges(welded({ positions, triangles }))).toBe(0);
    let sixfold = 0;
    for (let k = 0; k < positions.length; k += 9) {
      const [a, b, c] = [0, 3, 6].map((n) => positions.slice(k + n, k + n + 3)) as [
        Float32Array,
        Float32Array,
        Float32Array,
      ];
      sixfold +=
        a[0]! * (b[1]! * c[2]! - b[2]! * c[1]!) +
        a[1]! * (b[2]! * c[0]! - b[0]! * c[2]!) +
        a[2]! * (b[0]! * c[1]! - b[1]! * c[0]!);
    }
    expect(sixfold / 6).toBeCloseTo(figuresOf(oc, state.shape!).volumeMm3, 0);
  });

  it('of a turned part has as few triangles as its rims need, each within the gap of the cone', () => {
    const half = polygon([0, 0], [40, 0], [40, 6], [0, 14]);
    const cone: RevolveStep = {
      kind: 'revolve',
      id: 'cone',
      does: 'add',
      frame: frameOf('top', 0),
      regions: regionsOf([loop('half', half)]),
      axis: { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } },
      angleRad: 2 * Math.PI,
    };
    const made = writeBody(oc, built(cone).state!, 'stl', { ...options, toleranceMm: 0.01 });
    if (!made.ok) throw new Error(made.reason);
    // The wide rim needs 84 chords; the kernel's own mesh has 2,400 triangles.
    expect(made.triangles).toBeLessThan(6 * 84);
    const at = new STLLoader().parse(made.bytes.slice().buffer).getAttribute('position').array as Float32Array;
    let most = 0;
    for (let k = 0; k < at.length; k += 9) {
      const [x, y, z] = [0, 1, 2].map((e) => (at[k + e]! + at[k + 3 + e]! + at[k + 6 + e]!) / 3);
      const off = Math.hypot(y!, z!) - (14 - 0.2 * x!);
      const isBase = [k, k + 3, k + 6].every((n) => Math.abs(at[n]! - at[k]!) < 1e-4);
      if (!isBase) most = Math.max(most, Math.abs(off));
    }
    expect(most).toBeLessThan(0.0102);
    expect(made.deviationMm).toBeLessThanOrEqual(0.01);
  });

  it('3MF says its unit and its name, and the same body gives the same bytes', () => {
    const made = writeBody(oc, body(), '3mf', options);
    const again = writeBody(oc, body(), '3mf', options);
    expect(made.ok && again.ok && made.bytes).toEqual(again.ok && again.bytes);
    const files = unzipSync((made as { bytes: Uint8Array }).bytes);
    const model = strFromU8(files['3D/3dmodel.model']!);
    expect(model).toContain('unit="millimeter"');
    expect(model).toContain('Latch &apos;plate&apos; ö');
    expect(model.match(/<triangle /g)?.length).toBe((made as { triangles: number }).triangles);
  });

  it('STEP says what it is and when it was made, and nothing of a clock', () => {
    const made = writeBody(oc, body(), 'step', options);
    const text = new TextDecoder().decode((made as { bytes: Uint8Array }).bytes);
    expect(text).toContain("FILE_NAME('Latch ''plate'' \\X2\\00F6\\X0\\','2026-03-01T00:00:00'");
    expect(text).toMatch(/= PRODUCT\('Latch ''plate''/);
    expect(text).toMatch(/SI_UNIT\(\.MILLI\.,\.METRE\.\)/);
    expect(text).toContain('MANIFOLD_SOLID_BREP');
  });

  it('are refused with a reason for a tolerance that is none, or a million triangles', () => {
    for (const toleranceMm of [0, -1, Number.NaN, 5])
      expect(writeBody(oc, body(), 'stl', { ...options, toleranceMm })).toEqual({ ok: false, reason: 'tolerance' });
    // A ball of 600 mm to a micrometre would have well over a million.
    const half: Form = {
      kind: 'chain',
      closed: true,
      segments: [
        { kind: 'arc', from: { x: -300, y: 0 }, via: { x: 0, y: 300 }, to: { x: 300, y: 0 } },
        { kind: 'line', from: { x: 300, y: 0 }, to: { x: -300, y: 0 } },
      ],
    };
    const ball: RevolveStep = {
      kind: 'revolve',
      id: 'ball',
      does: 'add',
      frame: frameOf('top', 0),
      regions: regionsOf([loop('half', half)]),
      axis: { at: { x: 0, y: 0 }, along: { x: 1, y: 0 } },
      angleRad: 2 * Math.PI,
    };
    const { state } = built(ball);
    expect(writeBody(oc, state!, 'stl', { ...options, toleranceMm: 0.001 })).toEqual({ ok: false, reason: 'too-many' });
    expect(writeBody(oc, state!, 'stl', { ...options, toleranceMm: 0.5 })).toMatchObject({ ok: true });
  });
});
