import { pathData } from '../../geometry';
import { type FlatProfile, layOutProfile, NOTE_MM, type ProfileForm } from '../flatProfile';

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
  const from = flip(bar.from);
  const to = flip(bar.to);
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" width="${mm(width)}mm" height="${mm(height)}mm" viewBox="0 0 ${mm(width)} ${mm(height)}">`,
    `  <title>${escapeXml(profile.title)}</title>`,
    '  <style>path { fill: none; stroke: #000; stroke-width: 0.1 } .mark { stroke-dasharray: 1 0.6 } text { font-family: sans-serif; fill: #000 }</style>',
    ...layers.flat(),
    '  <g id="notes">',
    `    <path d="M ${mm(from.x)} ${mm(from.y - 1.5)} V ${mm(from.y + 1.5)} M ${mm(from.x)} ${mm(from.y)} H ${mm(to.x)} M ${mm(to.x)} ${mm(to.y - 1.5)} V ${mm(to.y + 1.5)}"/>`,
    ...notes.map(
      ({ at, text }) =>
        `    <text x="${mm(flip(at).x)}" y="${mm(flip(at).y)}" font-size="${NOTE_MM}">${escapeXml(text)}</text>`,
    ),
    '  </g>',
    '</svg>',
    '',
  ].join('\n');
}

const mm = (value: number): string => String(Number(value.toFixed(4)) + 0);

const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&apos;' };

/** Text safe between tags; what XML 1.0 does not allow is left out: controls, lone halves of pairs, U+FFFE and U+FFFF. */
function escapeXml(text: string): string {
  return text.replace(NOT_XML, '').replace(/[&<>"']/g, (c) => ENTITIES[c]);
}

const NOT_XML = /[^\t\n\r\u{20}-\u{D7FF}\u{E000}-\u{FFFD}\u{10000}-\u{10FFFF}]/gu;
