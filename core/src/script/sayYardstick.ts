import {
  CALIPER,
  cameraConstantPx,
  type PictureFacts,
  type PixelPick,
  type PlaneId,
  type Reference,
  spacingOf,
  type TurnedPart,
} from '../calibration';
import { type Located, locateEdge, locateEdges, locateInk, locateInkCorner } from '../edge';
import { countGraduations, type DiscFound, type Family, findDisc, findGrid, findRuler, findSheet } from '../find';
import type { Pixels } from '../raster';
import { type LengthUnit, parseLength } from '../units';
import type { ScriptPlace, ScriptSnap, ScriptYardstick } from './request';

/** A pick that is taken as it is given: half a pixel, as by hand. */
const GIVEN_SIGMA_PX = 0.5;
const SEARCH_PX = 12;

/** What is said of a coin that was found with a doubt. */
const DISC_DOUBTS: Record<NonNullable<DiscFound['doubt']>, string> = {
  ragged: 'Its rim runs to and fro: it is not known better than that.',
  'another-circle': 'Another circle of it fits nearly as well. Is it the rim that was found?',
  opposite: 'The foot of its wall does not show: it may be tilted the opposite way, and the ± allows for both.',
};

export type SaidYardstick =
  | { ok: true; reference: Reference; doubt?: string | undefined }
  | { ok: false; reason: 'bad-length' | 'strokes-not-counted' | 'not-found' | 'no-pixels'; detail?: string };

/** What all kinds are said by. */
interface Saying {
  y: ScriptYardstick;
  standing: { id: string; plane: PlaneId };
  pixels: Pixels | null;
  /** Where it is looked for; null where its picks are given. */
  click: { uPx: number; vPx: number } | null;
  facts: PictureFacts;
  /** A length as it is typed; null where it is not. */
  size(text: string | undefined): Size | null;
  picked(places: readonly ScriptPlace[] | undefined): PixelPick[];
}
type Size = ReturnType<typeof parseLength>;

const not = (detail: string): SaidYardstick => ({ ok: false, reason: 'not-found', detail });
const BAD_LENGTH: SaidYardstick = { ok: false, reason: 'bad-length' };

/** What a script says of one yardstick, as the estimate takes it; found in the pixels where a click point is given. */
export function sayYardstick(
  y: ScriptYardstick,
  pixels: Pixels | null,
  unit: LengthUnit,
  facts: PictureFacts,
): SaidYardstick {
  const click = y.click ? { uPx: y.click[0], vPx: y.click[1] } : null;
  if (click && !pixels) return { ok: false, reason: 'no-pixels' };
  const size = (text: string | undefined) => (text === undefined ? null : parseLength(text, unit));
  if ([y.length, y.width].some((text) => size(text)?.ok === false)) return BAD_LENGTH;
  return KINDS[y.kind ?? 'length']({
    y,
    standing: { id: y.id, plane: (y.plane ?? (isOnTable(y) ? 'table' : 'yardstick')) as PlaneId },
    pixels,
    click,
    facts,
    size,
    picked: (places) => (places ?? []).map((p) => snapped(pixels, p, y.cling ?? 'edge')),
  });
}

const KINDS: Record<NonNullable<ScriptYardstick['kind']>, (own: Saying) => SaidYardstick> = {
  length: sayLength,
  // Told by whoever knows the turned part (`sayTurnedDiameter`).
  'turned-diameter': sayLength,
  ruler: (own) => (own.click && own.pixels ? sayRuler(own, own.pixels, own.click) : sayLength(own)),
  disc: sayDisc,
  sheet: saySheet,
  grid: sayGrid,
  'square-lines': (own) => ({
    ok: true,
    reference: { ...own.standing, kind: 'square-lines', lines: spansOf(own), plusMinusRad: null },
  }),
  'equal-lengths': (own) => ({
    ok: true,
    reference: { ...own.standing, kind: 'equal-lengths', lengths: spansOf(own), plusMinusShare: null },
  }),
};

/** A size that was read; null where there is none, or it was refused before. */
const given = (read: Size | null) => (read?.ok ? read : null);

function sayRuler({ y, standing, size }: Saying, pixels: Pixels, click: { uPx: number; vPx: number }): SaidYardstick {
  const [length, width] = [given(size(y.length)), given(size(y.width))];
  const found = findRuler(pixels, click);
  if (!found.ok) return not(found.reason);
  const lengthMm = length?.mm ?? found.count * (found.family?.spacingMm ?? Number.NaN);
  const spacing = spacingOf(lengthMm, found.count);
  if (!spacing) return { ok: false, reason: 'strokes-not-counted', detail: spacingsWords(found) };
  return {
    ok: true,
    reference: {
      ...standing,
      kind: 'known-length',
      from: found.from,
      to: found.to,
      lengthMm,
      plusMinusMm: length?.plusMinusMm ?? null,
      graduations: { spacingMm: spacing.spacingMm, ...found.graduations },
      width: width && measuredWidth(width),
    },
  };
}

function sayDisc({ y, standing, pixels, click, facts, size, picked }: Saying): SaidYardstick {
  const [diameter, thickness] = [size(y.diameter), size(y.thickness)];
  if ((diameter && !diameter.ok) || (thickness && !thickness.ok)) return BAD_LENGTH;
  const hints = {
    cPx: cameraConstantPx(facts),
    ...(diameter && thickness && thickness.mm > 0 && { thickness: (2 * thickness.mm) / diameter.mm }),
  };
  const found = click && pixels ? findDisc(pixels, click, hints) : null;
  if (found && !found.ok) return not(found.reason);
  return {
    ok: true,
    reference: {
      ...standing,
      kind: 'disc',
      rim: found?.rim ?? picked(y.rim),
      foot: found?.foot ?? null,
      diameterMm: diameter?.mm ?? null,
      plusMinusMm: diameter?.plusMinusMm ?? null,
      thicknessMm: thickness?.mm ?? 0,
    },
    doubt: found?.doubt ? DISC_DOUBTS[found.doubt] : undefined,
  };
}

function saySheet({ y, standing, pixels, click, size, picked }: Saying): SaidYardstick {
  const [width, height] = [given(size(y.width)), given(size(y.height))];
  if (!width || !height) return BAD_LENGTH;
  const found = click && pixels ? findSheet(pixels, click) : null;
  if (found && !found.ok) return not(found.reason);
  const edges = found?.edges ?? (y.edges ?? []).map(picked);
  if (edges.length !== 4) return not('four edges are needed');
  return {
    ok: true,
    reference: {
      ...standing,
      kind: 'sheet',
      edges: edges as [PixelPick[], PixelPick[], PixelPick[], PixelPick[]],
      widthMm: width.mm,
      heightMm: height.mm,
      plusMinusMm: Math.max(width.plusMinusMm ?? 0, height.plusMinusMm ?? 0) || SHEET_PLUS_MINUS_MM,
    },
  };
}

function sayGrid({ y, standing, pixels, click, size }: Saying): SaidYardstick {
  const pitch = given(size(y.pitch));
  if (!pitch) return BAD_LENGTH;
  const found = click && pixels ? findGrid(pixels, click) : null;
  if (found && !found.ok) return not(found.reason);
  const crossings =
    found?.crossings ?? (y.crossings ?? []).map(({ i, j, at }) => ({ i, j, pick: snapped(pixels, at, 'none') }));
  const plusMinusShare = pitch.plusMinusMm === null ? null : pitch.plusMinusMm / pitch.mm;
  return { ok: true, reference: { ...standing, kind: 'grid', crossings, pitchMm: pitch.mm, plusMinusShare } };
}

const spansOf = ({ y, picked }: Saying) =>
  (y.lines ?? []).map(({ from, to, along }) => {
    const [a, b] = picked([from, to]) as [PixelPick, PixelPick];
    return { from: a, to: b, along: along ?? ('x' as const) };
  });

/** A length between two picks; with its strokes counted where that is asked. */
function sayLength({ y, standing, pixels, size }: Saying): SaidYardstick {
  const [length, width] = [given(size(y.length)), given(size(y.width))];
  if (!length || !y.from || !y.to) return BAD_LENGTH;
  const [from, to] = [y.from, y.to].map((p) => snapped(pixels, p, y.cling ?? 'line')) as [PixelPick, PixelPick];
  const counted = y.strokes && pixels ? countGraduations(pixels, from, to, length.mm) : null;
  if (y.strokes && !counted?.ok)
    return { ok: false, reason: 'strokes-not-counted', ...(counted ? { detail: counted.reason } : {}) };
  return {
    ok: true,
    reference: {
      ...standing,
      kind: 'known-length',
      from,
      to,
      lengthMm: length.mm,
      plusMinusMm: length.plusMinusMm,
      graduations: counted?.ok ? counted.graduations : null,
      width: width && measuredWidth(width),
    },
  };
}

/** The known diameter of the turned part, halfway along the places picked on its outlines. */
export function sayTurnedDiameter(y: ScriptYardstick, turned: TurnedPart | null, unit: LengthUnit): SaidYardstick {
  const diameter = y.diameter === undefined ? null : parseLength(y.diameter, unit);
  if (!diameter?.ok) return { ok: false, reason: 'bad-length' };
  if (!turned) return { ok: false, reason: 'not-found', detail: 'the request names no turned part' };
  const [a, b] = turned.silhouettes;
  const plane = a[0].plane;
  const bare = ({ uPx, vPx, sigmaPx }: PixelPick): PixelPick => ({ uPx, vPx, sigmaPx });
  return {
    ok: true,
    reference: {
      id: y.id,
      plane,
      kind: 'turned-diameter',
      silhouettes: [
        [bare(a[0]), bare(a[1])],
        [bare(b[0]), bare(b[1])],
      ],
      diameterMm: diameter.mm,
      plusMinusMm: diameter.plusMinusMm,
    },
  };
}

/** What was counted, and which scales it may be of where no length was said. */
const spacingsWords = ({ count, families }: { count: number; families: readonly Family[] }): string =>
  [`${count} spacings`, ...families.map((f) => `perhaps of ${Number(f.spacingMm.toFixed(4))} mm`)].join(', ');

const measuredWidth = ({ mm, plusMinusMm }: { mm: number; plusMinusMm: number | null }) => ({
  widthMm: mm,
  plusMinusMm: plusMinusMm ?? CALIPER.plusMinusMm,
});

/** A sheet that nobody measured, mm. */
const SHEET_PLUS_MINUS_MM = 1;

/** Coins, sheets and grids lie on the table unless it is said otherwise; rulers and lengths on the yardsticks' plane. */
const isOnTable = ({ kind }: ScriptYardstick): boolean => kind === 'disc' || kind === 'sheet' || kind === 'grid';

/** A pick moved onto what it shall cling to; where there is nothing, it stays where it was given. */
export function snapped(pixels: Pixels | null, [uPx, vPx]: ScriptPlace, cling: ScriptSnap): PixelPick {
  let found: Located | null = null;
  if (pixels && cling === 'line')
    found = locateInkCorner(pixels, uPx, vPx, SEARCH_PX) ?? locateInk(pixels, uPx, vPx, { searchPx: SEARCH_PX });
  if (pixels && cling === 'edge') found = locateEdge(pixels, uPx, vPx, { searchPx: SEARCH_PX });
  return found ? { uPx: found.uPx, vPx: found.vPx, sigmaPx: found.sigmaPx } : { uPx, vPx, sigmaPx: GIVEN_SIGMA_PX };
}

/** Places on the other edges along the one that a pick clung to. */
export const besideOf = (pixels: Pixels, { uPx, vPx }: PixelPick): ScriptPlace[] =>
  locateEdges(pixels, uPx, vPx, { searchPx: SEARCH_PX })
    .slice(1)
    .map((edge) => [edge.uPx, edge.vPx]);
