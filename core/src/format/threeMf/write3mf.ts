import { strToU8, zipSync } from 'fflate';
import type { TriangleSet } from '../../solid';
import { escapeXml } from '../xml';

const CORE = 'http://schemas.microsoft.com/3dmanufacturing/core/2015/02';
const RELATIONS = 'http://schemas.openxmlformats.org/package/2006/relationships';
const MODEL = 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel';
const TYPES = 'http://schemas.openxmlformats.org/package/2006/content-types';

const HEAD = '<?xml version="1.0" encoding="UTF-8"?>\n';

/** Zip has no year before 1980, and no clock time of its own: the same body gives the same bytes. */
const stamp = (date: string): Date => new Date(`${date}T12:00:00`);

/**
 * Bodies as 3MF (3MF core specification 1.2), in millimetres: one object with its name; several as the components of one,
 * so that they keep their places to one another.
 *
 * In: triangles over shared corners, a body each; a title, the date as 2026-03-01, and what else is to be said. Out: the
 * file's bytes.
 */
export function write3mf(bodies: readonly TriangleSet[], title: string, date: string, remark = ''): Uint8Array {
  const name = escapeXml(title);
  const named = (k: number) => (bodies.length === 1 ? name : `${name}, ${k + 1}`);
  const objects = bodies.map((body, k) => objectOf(body, k + 1, named(k)));
  const all = bodies.length + 1;
  if (bodies.length > 1)
    objects.push(
      `<object id="${all}" type="model" name="${name}"><components>${bodies.map((_, k) => `<component objectid="${k + 1}"/>`).join('')}</components></object>`,
    );
  const model = `${HEAD}<model unit="millimeter" xml:lang="en-US" xmlns="${CORE}">
<metadata name="Title">${name}</metadata>
<metadata name="CreationDate">${date}</metadata>
${remark && `<metadata name="Description">${escapeXml(remark)}</metadata>\n`}<resources>${objects.join('\n')}</resources>
<build><item objectid="${bodies.length > 1 ? all : 1}"/></build>
</model>
`;
  const types = `${HEAD}<Types xmlns="${TYPES}"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>
`;
  const relations = `${HEAD}<Relationships xmlns="${RELATIONS}"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="${MODEL}"/></Relationships>
`;
  return zipSync(
    {
      '[Content_Types].xml': strToU8(types),
      '_rels/.rels': strToU8(relations),
      '3D/3dmodel.model': strToU8(model),
    },
    { mtime: stamp(date), level: 6 },
  );
}

function objectOf({ corners, triangles }: TriangleSet, id: number, name: string): string {
  const vertices: string[] = [];
  for (let k = 0; k < corners.length; k += 3)
    vertices.push(`<vertex x="${num(corners[k]!)}" y="${num(corners[k + 1]!)}" z="${num(corners[k + 2]!)}"/>`);
  const faces: string[] = [];
  for (let k = 0; k < triangles.length; k += 3)
    faces.push(`<triangle v1="${triangles[k]}" v2="${triangles[k + 1]}" v3="${triangles[k + 2]}"/>`);
  return `<object id="${id}" type="model" name="${name}"><mesh>
<vertices>${vertices.join('\n')}</vertices>
<triangles>${faces.join('\n')}</triangles>
</mesh></object>`;
}

const num = (v: number): string => String(Number(v.toFixed(6)));
