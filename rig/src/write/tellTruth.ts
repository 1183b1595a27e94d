import { formsBounds } from '@steady-moth/core/geometry';
import { buildCamera, pictureOf } from '../camera';
import { formsOf } from '../render';
import { type Scene, toScene } from '../scene';

/** What is true of a picture: the scene it was made of, and where known places of it are pictured. */
export interface Truth {
  scene: Scene;
  /** Per thing: its forms' box in its own mm, and its corners and centres in the scene (mm) and the picture (px). */
  things: {
    kind: string;
    widthMm: number;
    heightMm: number;
    marks: { name: string; own: [number, number]; scene: [number, number, number]; picture: [number, number] | null }[];
  }[];
}

/** Tells the exact truth of a scene, through the camera's own mathematics. */
export function tellTruth(scene: Scene): Truth {
  const camera = buildCamera(scene.camera);
  return {
    scene,
    things: scene.items.map((item) => {
      const bounds = formsBounds(formsOf(item));
      if (!bounds) throw new Error('tellTruth: every thing must have a form');
      const top = item.base + item.thickness;
      const marks: [string, number, number][] = [];
      if (item.kind === 'rule')
        for (let mm = 0; mm <= item.lengthMm; mm += 10) marks.push([`graduation ${mm}`, mm * item.spacing, -2]);
      if (item.kind === 'plate')
        item.forms.forEach((f, k) => {
          if (f.kind === 'circle') marks.push([`centre ${k}`, f.centre.x, f.centre.y]);
          else f.segments.forEach((s, n) => void marks.push([`form ${k} corner ${n}`, s.from.x, s.from.y]));
        });
      return {
        kind: item.kind,
        widthMm: bounds.max.x - bounds.min.x,
        heightMm: bounds.max.y - bounds.min.y,
        marks: marks.map(([name, x, y]) => {
          const [sx, sy] = toScene(item.lie, x, y);
          return { name, own: [x, y], scene: [sx, sy, top], picture: pictureOf(camera, { x: sx, y: sy, z: top }) };
        }),
      };
    }),
  };
}
