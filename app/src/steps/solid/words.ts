import { sayLength as say } from '@steady-moth/core/say';
import type { Feature, Sketch } from '@steady-moth/core/sketch';
import type { FeatureNote } from '@steady-moth/core/solid';
import type { LengthUnit } from '@steady-moth/core/units';

const AXES = { x: 'X', y: 'Y', z: 'the height' } as const;

/** What was found out about a feature. */
export function noteSentence(note: FeatureNote, unit: LengthUnit, holds: 'own' | 'body'): string {
  if (note.kind === 'closed-on-axis') return 'Its open end was closed on the axis.';
  if (note.kind === 'drawn-on')
    return `A line ends ${say(note.mm, unit)} before the body does; it was drawn on straight.`;
  if (note.kind === 'halves-averaged')
    return `Both halves were averaged: they differ by ${say(note.unlikeMm, unit)} at most.`;
  if (note.kind === 'inexact')
    return `Edges that meet with a slight kink are rounded to ± ${say(note.mm, unit)} only. Make those joints smooth in Size.`;
  if (note.kind === 'apart')
    return `Where it was drawn this view begins ${say(Math.abs(note.mm), unit)} ${note.mm > 0 ? 'after' : 'before'} the body along ${AXES[note.along]}.`;
  const way = note.mm > 0 ? 'longer' : 'shorter';
  return `This view is ${say(Math.abs(note.mm), unit)} ${way} than the body along ${AXES[note.along]}${holds === 'body' ? '; it was stretched.' : '. Which holds?'}`;
}

export const FEATURE_WORDS: Record<Feature['kind'], string> = {
  extrude: 'Extrude',
  revolve: 'Revolve',
  dome: 'Dome',
  marks: 'Marks',
  holes: 'Holes',
  edges: 'Edges',
  hollow: 'Hollow',
  repeat: 'Repeat',
};

/** What a feature is about, in a few words. */
export function featureSentence(feature: Feature, sketches: Readonly<Record<string, Sketch>>): string {
  const names = (paths: readonly string[]) =>
    paths
      .map((id) => Object.values(sketches).find((s) => s.paths[id])?.paths[id]?.name ?? 'a path that is gone')
      .join(', ');
  const does = { add: '', cut: 'cut out', keep: 'only what lies within it stays' }[feature.does];
  const join = (...parts: (string | null)[]) => parts.filter(Boolean).join('; ');
  switch (feature.kind) {
    case 'extrude':
      return join(
        feature.paths ? names(feature.paths) : 'all that is cut, with its holes',
        does,
        leans(feature.draft.text),
      );
    case 'revolve':
      return join(
        names([feature.path]),
        feature.axis === feature.path
          ? 'about its own straight side'
          : feature.axis
            ? `about ${names([feature.axis])}`
            : 'about its axis',
        does,
      );
    case 'dome':
      if (feature.bow?.by === 'places')
        return join(
          feature.bow.along && 'drawn over the body, along',
          feature.bow.across && 'drawn over the body, across',
        );
      return feature.bow
        ? join(
            feature.bow.along && `${feature.bow.by} ${feature.bow.along.text} along`,
            feature.bow.across && `${feature.bow.by} ${feature.bow.across.text} across`,
          )
        : `along ${names([feature.path])}, bowed as ${names([feature.across])}`;
    case 'marks':
      return join(names(feature.paths), feature.does === 'add' ? 'raised' : 'sunk');
    case 'holes':
      return join(names(feature.paths), feature.depth ? 'to a depth' : 'through', HEADS[feature.head.kind]);
    case 'edges':
      return feature.which.kind === 'hole'
        ? `rims of ${names(feature.which.paths)}`
        : feature.which.kind === 'picked'
          ? `${feature.which.edges.length} picked`
          : WHICH[feature.which.kind];
    case 'hollow':
      return feature.open.length > 0
        ? `open at ${feature.open.length === 1 ? 'a face' : `${feature.open.length} faces`}`
        : 'closed all round';
    case 'repeat':
      return { mirror: 'mirrored', row: `in a row`, round: 'round an axis' }[feature.how.kind];
  }
}

const leans = (degrees: string): string | null => (Number(degrees) === 0 ? null : `sides lean by ${degrees}°`);
const HEADS = { none: null, countersink: 'countersunk', counterbore: 'counterbored' } as const;
const WHICH = {
  outer: 'all outer edges',
  end: 'round the upper face',
  start: 'round the lower face',
  upright: 'corners between the sides',
} as const;

/** The figure of a feature, as it was typed. */
export function featureFigure(feature: Feature): string {
  switch (feature.kind) {
    case 'extrude':
      return feature.heights ? `${feature.heights.from.text} … ${feature.heights.to.text}` : 'through';
    case 'revolve':
      return `${feature.degrees.text}°`;
    case 'dome':
      return feature.from === 'end' ? 'above' : 'below';
    case 'marks':
      return feature.by.text;
    case 'holes':
      return feature.diameter ? `Ø ${feature.diameter.text}` : 'as traced';
    case 'edges':
      return `${feature.how === 'round' ? 'R ' : ''}${feature.size.text}`;
    case 'hollow':
      return `wall ${feature.wall.text}`;
    case 'repeat':
      return feature.how.kind === 'mirror' ? '' : `${feature.how.count.text} ×`;
  }
}
