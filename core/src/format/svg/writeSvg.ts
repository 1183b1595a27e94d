import { pathData, type Vec2 } from '../../geometry';
import { DASHES } from '../profile/dashes';
import { type FlatLayout, type FlatProfile, layOutProfile, NOTE_MM, type ProfileForm } from '../profile/flatProfile';
import { escapeXml } from '../xml';

/** Writes a profile as SVG 1.1 at true size: one user unit is one millimetre. Null when there is nothing to write. */
export function writeSvg(profile: FlatProfile): string | null {
  const layout = layOutProfile(profile);
  if (!layout) return null;
  const { outer, bar, notes } = layout;
  const width = outer.max.x - outer.min.x;
  const height = outer.max.y - outer.min.y;
  const flip = (p: { x: number; y: number }) => ({ x: p.x - outer.min.x, y: outer.max.y - p.y });
  const path = ({ form, role, name }: ProfileForm) =>
    `    <path class="${role}" d="${pathData(form, flip)}"><title>${escapeXml(name)}</title></path>`;
  const layers = [...new Set(profile.forms.map((f) => f.layer))].map((layer) => [
    `  <g id="${layer === null ? 'part' : escapeXml(layer)}">`,
    ...profile.forms.filter((f) => f.layer === layer).map(path),
    '  </g>',
  ]);
  const zero = flip({ x: 0, y: 0 });
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(width)}mm" height="${mm(height)}mm" viewBox="0 0 ${mm(width)} ${mm(height)}">`,
    `  <title>${escapeXml(profile.title)}</title>`,
    // Where the part's own zero lies, so that what is drawn on goes on from the same place.
    `  <desc>Written by Steady Moth at true size, in millimetres. Zero of the part lies at x ${mm(zero.x)}, y ${mm(zero.y)} of this drawing; its X runs to the right and its Y up.${profile.remark ? ` It is ${escapeXml(profile.remark)}.` : ''}</desc>`,
    `  <style>path { fill: none; stroke: #000; stroke-width: 0.1 } ${dashes(profile)}.note { stroke: #777; stroke-width: 0.05 } text { font-family: sans-serif; fill: #777; stroke: none }</style>`,
    ...layers.flat(),
    ...(bar ? notesGroup(bar, notes, flip) : []),
    '</svg>',
    '',
  ].join('\n');
}

/** The rules for those roles that the profile has. */
function dashes({ forms }: FlatProfile): string {
  const roles = [...new Set(forms.map((f) => f.role))].filter((role) => DASHES[role].length > 0);
  return roles.map((role) => `.${role} { stroke-dasharray: ${DASHES[role].join(' ')} } `).join('');
}

/** The check bar and the words, in a group and a stroke of their own. */
function notesGroup(
  bar: NonNullable<FlatLayout['bar']>,
  notes: FlatLayout['notes'],
  flip: (p: Vec2) => Vec2,
): string[] {
  const from = flip(bar.from);
  const to = flip(bar.to);
  return [
    '  <g id="notes">',
    `    <path class="note" d="M ${mm(from.x)} ${mm(from.y - 1.5)} V ${mm(from.y + 1.5)} M ${mm(from.x)} ${mm(from.y)} H ${mm(to.x)} M ${mm(to.x)} ${mm(to.y - 1.5)} V ${mm(to.y + 1.5)}"/>`,
    ...notes.map(({ at, text }) => {
      const place = flip(at);
      return `    <text x="${mm(place.x)}" y="${mm(place.y)}" font-size="${NOTE_MM}">${escapeXml(text)}</text>`;
    }),
    '  </g>',
  ];
}

const mm = (value: number): string => String(Number(value.toFixed(4)) + 0);
