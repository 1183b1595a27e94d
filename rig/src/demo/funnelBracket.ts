import { Drawing, type Page, type Scanner } from '../scan';

/** The funnel bracket, mm: a plate 80 × 50 with a bore and four holes, and its arm seen from the front. */
const TOP = { x: 60, y: 45, width: 80, height: 50 } as const;
const FRONT = { x: 60, y: 140, width: 80, foot: 5, arm: 32, thick: 6 } as const;
const BORE = 34;
const HOLE = 5.5;
const INSET = 8;

export function drawFunnelBracket(): Page {
  const d = new Drawing(210, 210);
  const { x, y, width, height } = TOP;
  const r = 6;
  const [right, upper] = [x + width, y + height];
  for (const [cx, cy, from] of [
    [right - r, y + r, -90],
    [right - r, upper - r, 0],
    [x + r, upper - r, 90],
    [x + r, y + r, 180],
  ] as const)
    d.arc(cx, cy, r, (from * Math.PI) / 180, ((from + 90) * Math.PI) / 180);
  d.line(x + r, y, right - r, y);
  d.line(right, y + r, right, upper - r);
  d.line(right - r, upper, x + r, upper);
  d.line(x, upper - r, x, y + r);
  d.circle(x + width / 2, y + height / 2, BORE);
  for (const hx of [x + INSET, right - INSET]) for (const hy of [y + INSET, upper - INSET]) d.circle(hx, hy, HOLE);
  d.dimension(x, y, right, y, -13, '80');
  d.dimension(x, upper, x, y, -13, '50');
  d.dimension(x + INSET, upper, right - INSET, upper, 9, '64');
  d.leader(x + width / 2 + 12.02, y + height / 2 + 12.02, right + 12, upper + 3, 'Ø34');
  d.leader(right - 1.8, y + 1.8, right + 12, y - 8, 'R6');
  // From the front: the foot, and the arm that rises from its left end.
  const f = FRONT;
  const corners: [number, number][] = [
    [f.x, f.y],
    [f.x + f.width, f.y],
    [f.x + f.width, f.y + f.foot],
    [f.x + f.thick + 4, f.y + f.foot],
  ];
  d.path(corners, false);
  d.arc(f.x + f.thick + 4, f.y + f.foot + 4, 4, -Math.PI / 2, -Math.PI);
  d.path(
    [
      [f.x + f.thick, f.y + f.foot + 4],
      [f.x + f.thick, f.y + f.arm],
      [f.x, f.y + f.arm],
      [f.x, f.y],
    ],
    false,
  );
  d.dimension(f.x, f.y + f.arm, f.x, f.y, -13, '32');
  d.dimension(f.x + f.width, f.y, f.x + f.width, f.y + f.foot, -10, '5');
  d.dimension(f.x, f.y + f.arm, f.x + f.thick, f.y + f.arm, 7, '6');
  // A frame round the sheet.
  d.path(
    [
      [10, 10],
      [200, 10],
      [200, 200],
      [10, 200],
    ],
    true,
  );
  return d.page;
}

const PER_MM = 300 / 25.4;

/** Demo picture 4: the drawing laid crookedly on a scanner that states 300 to the inch and keeps it to half a percent. */
export const FUNNEL_BRACKET_SCAN: Scanner = {
  seed: 41,
  widthPx: 2550,
  heightPx: 2600,
  perMmX: PER_MM * 1.0018,
  perMmY: PER_MM * 0.9968,
  turn: (1.3 * Math.PI) / 180,
  origin: [46, 2520],
  blurPx: 0.8,
  noise: 2,
};

/** Places of the drawing that tests and people measure between, mm on the page. */
export const FUNNEL_BRACKET_MARKS: Record<string, [number, number]> = {
  'plate left': [TOP.x, TOP.y + TOP.height / 2],
  'plate right': [TOP.x + TOP.width, TOP.y + TOP.height / 2],
  'plate lower': [TOP.x + 12, TOP.y],
  'plate upper': [TOP.x + 12, TOP.y + TOP.height],
  'bore middle': [TOP.x + TOP.width / 2, TOP.y + TOP.height / 2],
  'frame lower left': [10, 10],
  'frame lower right': [200, 10],
  'frame upper left': [10, 200],
  'frame upper right': [200, 200],
  'front foot': [FRONT.x, FRONT.y],
  'front top': [FRONT.x, FRONT.y + FRONT.arm],
};
