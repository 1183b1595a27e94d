import { readdirSync, readFileSync } from 'node:fs';
import { DxfWriter, point2d, point3d } from '@tarikjabiri/dxf';
import sharp from 'sharp';
import { digest } from '../core/src/format/digest';
import { readJobFile, writeJobFile } from '../core/src/format/jobFile';
import { writePdf } from '../core/src/format/pdf';
import { act, type JobDocument, type JobState, NO_HISTORY, setUnit, undo } from '../core/src/job';
import { sampleJob } from '../core/src/job/sample.test-data';
import { writeJpeg, writePng } from '../rig/src/write';

/* Sound inputs of every kind, small ones: what is changed in them is then likely to matter. */

const shot = {
  left: 0,
  top: 0,
  width: 64,
  height: 48,
  pixels: Uint8Array.from({ length: 64 * 48 * 3 }, (_, k) => (k * 7) % 251),
};

export async function pictures(): Promise<Uint8Array[]> {
  const raw = sharp(shot.pixels, { raw: { width: 64, height: 48, channels: 3 } });
  const tiffs = await Promise.all(
    (['lzw', 'deflate', 'none', 'packbits'] as const).map((compression) =>
      raw.clone().tiff({ compression }).toBuffer(),
    ),
  );
  return [
    await writeJpeg(shot, 90, { focal35Mm: 27, focalMm: 5.6, orientation: 6 }),
    await writePng(shot),
    new Uint8Array(await raw.clone().webp().toBuffer()),
    new Uint8Array(await raw.clone().webp({ lossless: true }).toBuffer()),
    ...tiffs.map((t) => new Uint8Array(t)),
    readHeic(),
  ];
}

export const readHeic = (): Uint8Array =>
  new Uint8Array(readFileSync(new URL('../core/src/format/picture/samples/small.heic', import.meta.url)));

export const SVGS: readonly string[] = [
  `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="50mm" viewBox="0 0 80 50"><g id="Base" transform="translate(2 3) rotate(12) scale(1.5)"><path d="M2 2 h20 v10 a5 5 0 0 1 -5 5 q-4 1 -9 0 t-6 -9 z"/><circle cx="30" cy="20" r="4.1"/><ellipse cx="50" cy="20" rx="9" ry="4"/></g><g id="marks"><rect x="3" y="4" width="20" height="9" rx="2"/><line x1="0" y1="0" x2="9" y2="9"/><polyline points="0,0 4,1 9,7"/><polygon points="20,0 24,1 29,7"/></g><defs><circle r="3"/></defs><text>words</text></svg>`,
  `<?xml version="1.0"?><!DOCTYPE svg><svg viewBox="0 0 10 10"><style>.a{}</style><use href="#x"/><image href="y"/><path class="mark" style="display:inline" d="M0 0C1 1 2 1 3 0S5 -1 6 0M1 2L3 4V9H2Z"/></svg>`,
];

export function dxfs(): string[] {
  const dxf = new DxfWriter();
  dxf.addLayer('PLATE', 7, 'CONTINUOUS');
  dxf.setCurrentLayerName('PLATE');
  dxf.addLine(point3d(0, 0), point3d(40, 0));
  dxf.addArc(point3d(0, 10), 10, 90, 270);
  dxf.addCircle(point3d(20, 10), 3);
  dxf.addEllipse(point3d(0, 0), point3d(2, 0), 0.5, 0, 6.28);
  dxf.addLWPolyline([{ point: point2d(0, 0), bulge: 0.4 }, { point: point2d(9, 0) }, { point: point2d(9, 9) }], {
    flags: 1,
  });
  dxf.addSpline({
    degreeCurve: 3,
    controlPoints: [point3d(0, 0), point3d(1, 4), point3d(5, 4), point3d(6, 0)],
    knots: [0, 0, 0, 0, 1, 1, 1, 1],
  });
  const old = [
    [0, 'SECTION', 2, 'HEADER', 9, '$INSUNITS', 70, 4, 0, 'ENDSEC'],
    [0, 'SECTION', 2, 'TABLES', 0, 'TABLE', 2, 'LAYER', 70, 1, 0, 'LAYER', 2, 'OUT', 70, 0, 0, 'ENDTAB', 0, 'ENDSEC'],
    [0, 'SECTION', 2, 'BLOCKS', 0, 'BLOCK', 2, 'A', 70, 0, 10, 0, 20, 0, 0, 'LINE', 8, '0', 10, 0, 20, 0, 11, 9],
    [21, 4, 0, 'ENDBLK', 0, 'ENDSEC', 0, 'SECTION', 2, 'ENTITIES', 0, 'POLYLINE', 8, 'OUT', 70, 1, 0, 'VERTEX', 10, 0],
    [20, 0, 42, 0.5, 0, 'VERTEX', 10, 8, 20, 0, 0, 'VERTEX', 10, 8, 20, 8, 0, 'SEQEND', 0, 'INSERT', 2, 'A', 10, 5],
    [20, 5, 41, 2, 42, 2, 50, 30, 70, 3, 71, 2, 44, 10, 45, 10, 0, 'TEXT', 1, 'x', 0, 'ENDSEC', 0, 'EOF'],
  ];
  return [dxf.stringify(), old.flat().join('\n')];
}

/** A sound job over a picture of its own, with changes made and one taken back. */
export async function jobState(): Promise<{ state: JobState; picture: Uint8Array }> {
  const picture = await writeJpeg(shot, 90);
  const job = sampleJob(digest(picture));
  Object.assign(job.pictures[0]!.facts, { widthPx: 64, heightPx: 48 });
  const changed = act(act({ job, history: NO_HISTORY }, setUnit('in')), setUnit('mm'));
  return { state: undo(changed), picture };
}

export async function jobFile(): Promise<Uint8Array> {
  const { state, picture } = await jobState();
  return packed(state, picture);
}

export const packed = (state: JobState, picture: Uint8Array): Uint8Array =>
  writeJobFile({ ...state, blobs: new Map([[digest(picture), picture]]) });

/** The demo's finished jobs: with parameters, sizes, relations, makers, views and bodies. */
export function finishedJobs(): JobDocument[] {
  const folder = new URL('../demo/jobs/', import.meta.url);
  return readdirSync(folder)
    .filter((name) => name.endsWith('.moth'))
    .flatMap((name) => {
      const read = readJobFile(new Uint8Array(readFileSync(new URL(name, folder))));
      return read.ok ? [read.job] : [];
    });
}

/** Closes an archive with its seal again, so that what was changed inside is looked at. */
export function sealAgain(bytes: Uint8Array): Uint8Array {
  if (bytes.length < 64) return bytes;
  const out = bytes.slice();
  const end = out.length - 64;
  out.set(new TextEncoder().encode(digest(out.subarray(0, end))), end);
  return out;
}

/** A page with lines, an arc and words, as the application writes it itself. */
export async function pdf(): Promise<Uint8Array> {
  const circle = { kind: 'circle', centre: { x: 10, y: 10 }, radius: 4 } as const;
  const forms = [{ form: circle, role: 'cut', name: 'hole', layer: null } as const];
  const written = await writePdf({ title: 'page', date: '2026-01-01', forms, unit: 'mm', notes: true });
  return written ?? new Uint8Array(0);
}

export const LENGTHS: readonly string[] = [
  '12',
  '1,2 cm',
  '1 3/8 in',
  `5' 6 1/2"`,
  'Ø 8 mm',
  'R 4',
  '84 ± 0.03',
  '31 to 43',
  '1 1/4 to 6 in',
  '150 +- 0.05 mm',
];

/** Requests by places alone: a picture taken flat-on, ten pixels to the millimetre. */
export function requests(): unknown[] {
  const around = (count: number, x: number, y: number, r: number) =>
    Array.from({ length: count }, (_, k) => {
      const angle = (2 * Math.PI * k) / count;
      return [x + r * Math.cos(angle), y + r * Math.sin(angle)];
    });
  const along = (x0: number, y0: number, x1: number, y1: number) =>
    Array.from({ length: 5 }, (_, k) => [x0 + ((x1 - x0) * (k + 0.5)) / 5, y0 + ((y1 - y0) * (k + 0.5)) / 5]);
  const asked = {
    points: { a: { at: [1200, 900] }, b: { at: [2200, 1900], plane: 'face' } },
    distances: [{ from: 'a', to: 'b' }],
  };
  const length = { id: 'rule', from: [600, 2000], to: [2100, 2000], length: '150 ± 0.1' };
  return [
    { yardsticks: [length, { ...length, id: 'across', from: [600, 600], to: [600, 1600], length: '100' }], ...asked },
    {
      yardsticks: [
        { id: 'coin', kind: 'disc', rim: around(24, 1500, 1200, 111), diameter: '22.25', thickness: '2.1' },
        length,
      ],
      zero: { at: [600, 2000] },
      axis: { from: [600, 2000], to: [2100, 2000], along: 'x' },
      hold: 'flat-on',
      heights: { face: { heightMm: 3, plusMinusMm: 0.1 } },
      ...asked,
    },
    {
      yardsticks: [
        {
          id: 'paper',
          kind: 'sheet',
          edges: [
            along(500, 2000, 1980, 2000),
            along(1980, 2000, 1980, 950),
            along(1980, 950, 500, 950),
            along(500, 950, 500, 2000),
          ],
          width: '148',
          height: '105',
        },
      ],
      ...asked,
    },
    {
      kind: 'scan',
      yardsticks: [
        {
          id: 'mat',
          kind: 'grid',
          pitch: '10',
          crossings: Array.from({ length: 36 }, (_, k) => ({
            i: k % 6,
            j: Math.floor(k / 6),
            at: [500 + 100 * (k % 6), 500 + 100 * Math.floor(k / 6)],
          })),
        },
        {
          id: 'equal',
          kind: 'equal-lengths',
          lines: [
            { from: [1, 1], to: [500, 1] },
            { from: [1, 1], to: [1, 500] },
          ],
        },
        {
          id: 'square',
          kind: 'square-lines',
          lines: [
            { from: [1, 1], to: [500, 1], along: 'x' },
            { from: [1, 1], to: [1, 500], along: 'y' },
          ],
        },
      ],
      ...asked,
    },
  ];
}
