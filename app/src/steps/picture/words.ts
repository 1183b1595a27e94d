import type { FileDoubt, PictureFacts, Resolution } from '@steady-moth/core/calibration';
import type { PictureKind } from '@steady-moth/core/job';
import { fixed } from '@steady-moth/core/units';
import type { PictureJudgement } from '../../compute/pixels.worker';

/** Bounds at which a picture's figures are worth a word. */
export const GOOD_ENOUGH = {
  /** Blur, σ px: above it an edge is wider than the locator's reach likes. */
  sharpPx: 1.6,
  blurredPx: 2.8,
  /** Share of pixels at the end of the scale. */
  clipped: 0.02,
  /** Between the 5th and the 95th percentile. */
  contrast: 0.25,
  /** 35 mm equivalent below which lenses bend and stand close, mm. */
  wideMm: 25,
} as const;

export function sharpnessWords({ blurPx, edges }: PictureJudgement, kind: PictureKind): string {
  if (blurPx === null)
    return kind === 'photo'
      ? 'No clear edge in the middle of the picture: is the part there, and in focus?'
      : 'No clear edge in the middle of the page: is anything there?';
  const told = `Its ${edges} clearest edges run over ${fixed(2 * blurPx, 1)} px.`;
  if (blurPx <= GOOD_ENOUGH.sharpPx) return `${told} Sharp.`;
  const soft = blurPx <= GOOD_ENOUGH.blurredPx;
  if (kind !== 'photo')
    return soft
      ? `${told} Somewhat soft: lay it flat on the glass.`
      : `${told} Blurred: scan it again, flat on the glass and at its own resolution.`;
  if (soft) return `${told} Somewhat soft: focus on the frame of the part and hold still.`;
  return `${told} Blurred: take it again with more light or the camera propped up.`;
}

/** Of a drawing nothing: on mostly white paper it says how little ink there is, and not how it looks. */
export function contrastWords({ contrast }: PictureJudgement, kind: PictureKind): string {
  if (contrast >= GOOD_ENOUGH.contrast) return 'Part and ground can be told apart.';
  return kind === 'photo'
    ? 'Flat: lay the part on a ground of another brightness, and let light come from the side.'
    : 'Flat: scan it anew before a sheet of another brightness, with the lid open if the part is light.';
}

export function clippingWords({ white, black }: PictureJudgement, kind: PictureKind): string {
  if (Math.max(white, black) < GOOD_ENOUGH.clipped) return 'No blown highlights or blocked shadows.';
  if (kind !== 'photo')
    return white > black
      ? 'White in places: edges there are moved. Scan it darker.'
      : 'Black in places: edges there are lost. Scan it lighter.';
  return white > black
    ? 'Blown highlights in places: edges there are moved. Take it darker, without flash.'
    : 'Blocked shadows in places: edges there are lost. Take it with more light.';
}

export const lensFigure = ({ focal35Mm }: PictureFacts): string =>
  focal35Mm === null ? 'not stated' : `${fixed(focal35Mm, 0)} mm`;

/** The lens as the file states it; a wide one is named as the trouble it is. */
export function lensWords({ focal35Mm, focalMm }: PictureFacts): string {
  if (focal35Mm === null)
    return 'The file does not say, so how far the camera stood is only known from the yardsticks; a second known length across helps.';
  const told = `As on a 35 mm camera${focalMm ? `; actual focal length ${fixed(focalMm, 1)} mm` : ''}. Taken as good to ± 4 %.`;
  if (focal35Mm >= GOOD_ENOUGH.wideMm) return told;
  return `${told} A wide lens: it stands close and bends what is near the rim. Step back and use the longer lens: heights then matter less as well.`;
}

const DOUBTS: Record<FileDoubt, { title: string; text: string }> = {
  cropped: {
    title: 'Cropped',
    text: 'This file is a part of what the camera took, so the middle of the lens may lie elsewhere. That is allowed for, with a larger ±; bring the uncropped file if you have it.',
  },
  zoomed: {
    title: 'Digital zoom',
    text: 'The camera enlarged the middle itself: no detail is gained, and the lens seems longer than it is. Use the longer lens, or step nearer and crop here.',
  },
  stabilised: {
    title: 'Put together by the camera',
    text: 'The camera merged or shifted several shots, so the middle of the lens may have moved. That is allowed for, with a larger ±; a single shot is better.',
  },
  'no-lens': { title: 'Lens', text: 'The file does not state its lens.' },
  'odd-lens': {
    title: 'Lens in doubt',
    text: 'What the file says of its lens does not fit together, so it is not used. Known lengths in the picture decide.',
  },
};
export const doubtWords = (doubt: FileDoubt): { title: string; text: string } => DOUBTS[doubt];

/** What the file says of its own scale, and what is made of it. */
export function statedWords(resolution: Resolution | null, kind: PictureKind, believed: boolean): string {
  if (!resolution) return 'The file states no scale of its own: a known length on the page gives it.';
  const { perMmX, perMmY, sigma } = resolution;
  const uneven =
    Math.abs(perMmX / perMmY - 1) > 0.002 ? ` Down the page it states ${fixed(25.4 * perMmY, 0)} to the inch.` : '';
  if (kind === 'photo') return `A photograph has no scale of its own, so this says nothing.${uneven}`;
  if (!believed) return `Left out: only known lengths count.${uneven}`;
  const share = 200 * sigma;
  return share < 0.1
    ? `The page's own scale.${uneven}`
    : `Believed to ± ${fixed(share, 1)} %: scanners state it, few keep it. One known length on the page checks it.${uneven}`;
}

/** As fine as edges are wanted where somebody measures with a caliper, mm. */
const FINE_EDGE_MM = 0.02;
/** Resolutions that scanners have, to the inch. */
const SCANNED_AT = [150, 200, 300, 400, 600, 1200, 2400];
const dpiFor = (perMm: number): number => SCANNED_AT.find((dpi) => dpi >= 25.4 * perMm) ?? 4800;

/** What a pixel is worth, and the smallest error that an edge of some length allows. */
export function resolutionWords(mmPerPx: number | null, blurPx: number | null, kind: PictureKind = 'photo'): string {
  if (mmPerPx === null) return 'Known as soon as something is known in the picture.';
  // The locator's own figures: 0.04 px at a blur of 0.7, 0.07 at 2, each way of the 95 % interval twice that.
  const edgePx = 2 * (0.03 + 0.02 * (blurPx ?? 1));
  const told = `A pixel is ${fixed(mmPerPx, 3)} mm; an edge can be placed to ± ${fixed(edgePx * mmPerPx, 3)} mm at best.`;
  if (edgePx * mmPerPx <= FINE_EDGE_MM) return told;
  const perMm = edgePx / FINE_EDGE_MM;
  const how = kind === 'photo' ? `from nearer, at ${fixed(perMm, 0)} px/mm` : `at ${dpiFor(perMm)} to the inch`;
  return `${told} For ± ${fixed(FINE_EDGE_MM, 2)} mm take it ${how}.`;
}
