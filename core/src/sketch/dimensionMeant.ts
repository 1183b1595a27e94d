import { formsBounds, type Vec2 } from '../geometry';
import { formOf, type Placer } from './curveForm';
import { drawDimension, placeInDrawing } from './dimensionDrawing';
import type { Dimension, Sketch } from './part';

/** What stands so nearly level or plumb has one length only: the share of the other way. */
const NEARLY = 0.02;

/**
 * Which of the sizes that something has is meant where its figure is held, as a draughtsman places it: above or below what
 * it is of, a distance along X or a width; beside it, a distance along Y or a height; else the first of them. With the
 * figure there. Of a place from zero, its X above or below it, its Y beside it.
 *
 * `sizes`: as `dimensionsFor` offers them; `at`: where the figure is held, mm, y up. Null where none has a place.
 */
export function dimensionMeant(sketch: Sketch, sizes: readonly Dimension[], place: Placer, at: Vec2): Dimension | null {
  const first = sizes[0];
  if (!first) return null;
  const one = sizes.every((d) => d.kind === 'distance' && d.refs.length === 1)
    ? placeInDrawing(sketch, first.refs[0]!.id, place)
    : null;
  const side = one
    ? Math.abs(at.x - one.x) > Math.abs(at.y - one.y)
      ? 'beside'
      : 'over'
    : sideOf(sketch, first, place, at);
  const kept = sizes.find((d) => isSide(d, side)) ?? first;
  const drawing = drawDimension(sketch, { ...kept, label: null }, place, 0);
  if (!drawing) return null;
  return { ...kept, label: { dxMm: at.x - drawing.anchor.x, dyMm: at.y - drawing.anchor.y } };
}

type Side = 'over' | 'beside' | null;

const isSide = ({ kind, along }: Dimension, side: Side): boolean =>
  side === 'over'
    ? kind === 'width' || (kind === 'distance' && along === 'x')
    : side === 'beside' && (kind === 'height' || (kind === 'distance' && along === 'y'));

/** On which side of what a size is of its figure is held; null at a corner, within, or where there is one way only. */
function sideOf(sketch: Sketch, { kind, refs }: Dimension, place: Placer, at: Vec2): Side {
  const box =
    kind === 'distance' ? boxOfEnds(sketch, refs, place) : kind === 'width' ? boxOfPath(sketch, refs, place) : null;
  if (!box) return null;
  const { min, max } = box;
  const [wide, high] = [max.x - min.x, max.y - min.y];
  if (kind === 'distance' && Math.min(wide, high) < NEARLY * Math.max(wide, high)) return null;
  const isOver = at.x > min.x && at.x < max.x;
  const isBeside = at.y > min.y && at.y < max.y;
  if (isOver === isBeside) return null;
  return isOver ? 'over' : 'beside';
}

interface Box {
  min: Vec2;
  max: Vec2;
}

function boxOfEnds(sketch: Sketch, refs: Dimension['refs'], place: Placer): Box | null {
  const [a, b] = refs.map(({ id }) => placeInDrawing(sketch, id, place));
  if (!a || !b) return null;
  return {
    min: { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y) },
    max: { x: Math.max(a.x, b.x), y: Math.max(a.y, b.y) },
  };
}

function boxOfPath(sketch: Sketch, refs: Dimension['refs'], place: Placer): Box | null {
  const path = sketch.paths[refs[0]!.id];
  const form = path && formOf(sketch, path, place);
  return form ? formsBounds([form]) : null;
}
