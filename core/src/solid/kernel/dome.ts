import { leaving, reverseSegment, type Segment, segmentBounds, type Vec2 } from '../../geometry';
import type { DomeStep } from '../plan';
import { dot3, type Frame, inSpace, type Vec3 } from '../space';
import { type Arena, ShapeMap } from './arena';
import type { BodyState, Tags, Tool } from './body';
import { edgeOf } from './faceOf';
import { KernelFault } from './fault';
import { boxOfShape, volumeOf } from './tell';

/** How far over the body what is cut off reaches, mm. */
const BEYOND_MM = 1;

/**
 * What lies beyond a face that is bowed two ways: the line across, closed high over the body, swept along the other one with each of
 * its sections parallel to the first. So each view shows its own line, and neither depends on the other.
 */
export function dome(arena: Arena, step: DomeStep, { shape }: BodyState): Tool {
  if (!shape) throw new KernelFault('no-body');
  const { oc } = arena;
  const none: Vec3 = { x: 0, y: 0, z: 0 };
  const frame: Frame = { origin: none, x: step.run, y: step.rise };
  const { min, max } = boxOfShape(arena, shape);
  // Both lines reach over all of the body there is, copies and all.
  const over = (segments: readonly Segment[], run: Vec3) =>
    drawnOn(segments, dot3(min, run) - BEYOND_MM, dot3(max, run) + BEYOND_MM);
  const [along, bow] = [over(step.along, step.run), over(step.across, step.runAcross)];
  const start = along[0]!.from;
  const across: Frame = { origin: inSpace(frame, start), x: step.runAcross, y: step.rise };
  const top = Math.max(...[min, max].map((p) => dot3(p, step.rise)));
  const lowest = Math.min(...along.map((s) => segmentBounds(s).min.y));
  // The section is carried along with the line: where that lies lowest it still reaches over the body.
  const high = top - lowest + BEYOND_MM;
  const [first, last] = [bow[0]!.from, bow[bow.length - 1]!.to];
  const lid: Segment[] = [
    { kind: 'line', from: last, to: { x: last.x, y: high } },
    { kind: 'line', from: { x: last.x, y: high }, to: { x: first.x, y: high } },
    { kind: 'line', from: { x: first.x, y: high }, to: first },
  ];
  const spine = wireOf(arena, along, frame);
  const section = wireOf(arena, [...bow, ...lid], across);
  const maker = arena.keep(new oc.BRepOffsetAPI_MakePipeShell(spine));
  maker.SetMode(
    arena.keep(new oc.gp_Ax2(arena.point(none), arena.direction(step.run), arena.direction(step.runAcross))),
  );
  maker.SetTransitionMode(oc.BRepBuilderAPI_TransitionMode.BRepBuilderAPI_RightCorner);
  maker.Add(section, false, false);
  maker.Build(arena.keep(new oc.Message_ProgressRange()));
  if (!maker.IsDone() || !maker.MakeSolid()) throw new KernelFault('no-form');
  const made = arena.keep(maker.Shape());
  const solid = volumeOf(oc, made) < 0 ? arena.keep(made.Reversed()) : made;
  const tags: Tags = new ShapeMap(oc);
  arena.faces(solid).forEach((face, nth) => {
    tags.set(face, { name: { feature: step.id, of: 'side', path: step.path, curve: null, nth }, isHole: false });
  });
  return { shape: solid, tags, does: 'cut' };
}

function wireOf(arena: Arena, segments: readonly Segment[], frame: Frame) {
  const maker = arena.keep(new arena.oc.BRepBuilderAPI_MakeWire());
  for (const segment of segments) maker.Add(edgeOf(arena, segment, frame, 0));
  return arena.keep(maker.Wire());
}

/** A line drawn on straight at both ends, as far as it must reach. */
function drawnOn(segments: readonly Segment[], low: number, high: number): Segment[] {
  const [first, last] = [segments[0]!, segments[segments.length - 1]!];
  const onTo = (p: Vec2, way: Vec2, x: number): Vec2 => ({ x, y: p.y + ((x - p.x) * way.y) / way.x });
  const made: Segment[] = [...segments];
  if (first.from.x > low)
    made.unshift({ kind: 'line', from: onTo(first.from, leaving(reverseSegment(first)), low), to: first.from });
  if (last.to.x < high) made.push({ kind: 'line', from: last.to, to: onTo(last.to, leaving(last), high) });
  return made;
}
