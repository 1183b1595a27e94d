import type { PictureFacts } from '@steady-moth/core/truing';
import { fixed } from '@steady-moth/core/units';
import type { PictureJudgement } from '../workers/pixels.worker';

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

export function sharpnessWords({ blurPx, edges }: PictureJudgement): string {
  if (blurPx === null) return 'No clear edge in the middle of the picture: is the part there, and in focus?';
  const told = `Its ${edges} clearest edges run over ${fixed(2 * blurPx, 1)} px.`;
  if (blurPx <= GOOD_ENOUGH.sharpPx) return `${told} Sharp.`;
  if (blurPx <= GOOD_ENOUGH.blurredPx) return `${told} Somewhat soft: focus on the face of the part and hold still.`;
  return `${told} Blurred: take it again with more light or the camera propped up.`;
}

export function contrastWords({ contrast }: PictureJudgement): string {
  return contrast >= GOOD_ENOUGH.contrast
    ? 'Part and ground can be told apart.'
    : 'Flat: lay the part on a ground of another brightness, and let light come from the side.';
}

export function clippingWords({ white, black }: PictureJudgement): string {
  if (Math.max(white, black) < GOOD_ENOUGH.clipped) return 'Nothing much is burnt out or drowned.';
  return white > black
    ? 'Burnt out in places: edges there are moved. Take it darker, without flash.'
    : 'Drowned in black in places: edges there are lost. Take it with more light.';
}

/** A wide lens named as the trouble it is, null for others. */
export function lensWords({ focal35Mm }: PictureFacts): string | null {
  if (focal35Mm === null || focal35Mm >= GOOD_ENOUGH.wideMm) return null;
  return `A lens of ${fixed(focal35Mm, 0)} mm stands close and bends what is near the rim. Step back and use the longer lens: heights then matter less as well.`;
}

/** What a pixel is worth, and the smallest error that an edge of some length allows. */
export function resolutionWords(mmPerPx: number | null, blurPx: number | null): string {
  if (mmPerPx === null) return 'Known as soon as something is known in the picture.';
  // The locator's own figures: 0.04 px at a blur of 0.7, 0.07 at 2, each way of the 95 % interval twice that.
  const edgePx = 2 * (0.03 + 0.02 * (blurPx ?? 1));
  return `A pixel is ${fixed(mmPerPx, 3)} mm; an edge can be placed to ± ${fixed(edgePx * mmPerPx, 3)} mm at best.`;
}
