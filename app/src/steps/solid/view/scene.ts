import type { Axis, BodyMesh, Box } from '@steady-moth/core/solid';
import {
  AmbientLight,
  BackSide,
  Box3,
  BufferAttribute,
  BufferGeometry,
  CanvasTexture,
  Color,
  DirectionalLight,
  DoubleSide,
  FrontSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  OrthographicCamera,
  Plane,
  PlaneGeometry,
  Raycaster,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/addons/controls/OrbitControls.js';
import type { Side } from './sides';
import { WAYS } from './sides';

/** A picture that lies true under the body, mm. */
export interface Underlay {
  bitmap: ImageBitmap;
  left: number;
  right: number;
  bottom: number;
  top: number;
}

export interface Section {
  axis: Axis;
  at: number;
}

/** What the pointer is at: a face, an edge, both by their number in the mesh. */
export interface Met {
  face: number | null;
  edge: number | null;
  at: { x: number; y: number; z: number };
  normal: { x: number; y: number; z: number };
}

/** Nearer than this to an edge the edge is meant, px. */
const EDGE_PX = 9;

const token = (name: string): Color =>
  new Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#888');

/** Draws a body, on a canvas of its own; nothing is drawn unless something changed. */
export class BodyScene {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new OrthographicCamera();
  private readonly controls: OrbitControls;
  private readonly body = new Group();
  private readonly marks = new Group();
  private underlay: Mesh | null = null;
  private mesh: BodyMesh | null = null;
  private solid: Mesh | null = null;
  private section: Plane | null = null;
  private box = new Box3(new Vector3(-20, -20, 0), new Vector3(20, 20, 20));
  private due = false;
  private isFitted = false;

  /** `onDrawn` is told after each drawing: what hangs on the body follows. Throws where the browser cannot draw. */
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly onDrawn: () => void,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.renderer.localClippingEnabled = true;
    this.camera.up.set(0, 0, 1);
    this.controls = new OrbitControls(this.camera, canvas);
    this.controls.enableDamping = false;
    this.controls.addEventListener('change', () => this.ask());
    const sun = new DirectionalLight(0xffffff, 2.1);
    sun.position.set(-0.5, 0.9, 1.4);
    this.camera.add(sun);
    this.scene.add(this.camera, new AmbientLight(0xffffff, 1.15), this.body, this.marks);
    this.seeFrom('corner');
  }

  free(): void {
    this.controls.dispose();
    this.clear(this.body);
    this.clear(this.marks);
    this.setUnderlay(null, 0);
    this.renderer.dispose();
  }

  private clear(group: Group): void {
    group.traverse((child) => {
      if (!(child instanceof Mesh || child instanceof LineSegments)) return;
      child.geometry.dispose();
      for (const m of [child.material].flat()) m.dispose();
    });
    group.clear();
  }

  resize(width: number, height: number): void {
    this.renderer.setPixelRatio(Math.min(window.devicePixelRatio || 1, 2));
    this.renderer.setSize(width, height, false);
    const half = (this.camera.top - this.camera.bottom) / 2 || 1;
    this.camera.top = half;
    this.camera.bottom = -half;
    this.camera.left = (-half * width) / height;
    this.camera.right = (half * width) / height;
    this.camera.updateProjectionMatrix();
    if (!this.isFitted) this.fit();
    this.ask();
  }

  setBody(mesh: BodyMesh | null, box: Box | null): void {
    this.clear(this.body);
    this.mesh = mesh;
    this.solid = null;
    if (mesh && box) {
      this.box = new Box3(new Vector3(...vec(box.min)), new Vector3(...vec(box.max)));
      const geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
      geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
      geometry.setIndex(new BufferAttribute(mesh.triangles, 1));
      // Edges stand a hair in front of the faces that they lie on.
      const push = { polygonOffset: true, polygonOffsetFactor: 1.5, polygonOffsetUnits: 1.5 };
      this.solid = new Mesh(geometry, new MeshLambertMaterial({ color: token('--body'), side: FrontSide, ...push }));
      const inside = new Mesh(geometry, new MeshBasicMaterial({ color: token('--cut'), side: BackSide, ...push }));
      const sharp = mesh.edges.filter((e) => e.bend !== 'smooth').map((e) => e.line);
      const smooth = mesh.edges.filter((e) => e.bend === 'smooth').map((e) => e.line);
      this.body.add(this.solid, inside, linesOf(sharp, token('--ink'), 1), linesOf(smooth, token('--ink2'), 0.5));
      if (!this.isFitted) this.fit();
    }
    this.cutAll();
    this.ask();
  }

  setUnderlay(underlay: Underlay | null, z: number): void {
    if (this.underlay) {
      this.scene.remove(this.underlay);
      this.underlay.geometry.dispose();
      const material = this.underlay.material as MeshBasicMaterial;
      material.map?.dispose();
      material.dispose();
      this.underlay = null;
    }
    if (underlay) {
      const { bitmap, left, right, bottom, top } = underlay;
      const surface = document.createElement('canvas');
      surface.width = bitmap.width;
      surface.height = bitmap.height;
      surface.getContext('2d')?.drawImage(bitmap, 0, 0);
      const map = new CanvasTexture(surface);
      map.colorSpace = SRGBColorSpace;
      map.anisotropy = 4;
      const material = new MeshBasicMaterial({ map, side: DoubleSide, transparent: true });
      this.underlay = new Mesh(new PlaneGeometry(right - left, top - bottom), material);
      this.underlay.position.set((left + right) / 2, (top + bottom) / 2, z);
      this.scene.add(this.underlay);
    }
    this.ask();
  }

  setSection(section: Section | null): void {
    const way = section && new Vector3(...vec({ x: 0, y: 0, z: 0, [section.axis]: -1 }));
    this.section = section && way ? new Plane(way, section.at) : null;
    this.cutAll();
    this.ask();
  }

  private cutAll(): void {
    const planes = this.section ? [this.section] : [];
    for (const child of this.body.children)
      if (child instanceof Mesh || child instanceof LineSegments)
        for (const m of [child.material].flat()) m.clippingPlanes = planes;
  }

  /** Faces and edges that are chosen, and those that the pointer is at. */
  setMarked(chosen: { faces: readonly number[]; edges: readonly number[] }, near: Met | null): void {
    this.clear(this.marks);
    const { mesh, solid } = this;
    if (mesh && solid) {
      const paint = (faces: readonly number[], edges: readonly number[], color: Color) => {
        for (const k of faces) {
          const face = mesh.faces[k];
          if (!face) continue;
          const geometry = new BufferGeometry();
          geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
          geometry.setIndex(new BufferAttribute(mesh.triangles.slice(3 * face.from, 3 * (face.from + face.count)), 1));
          this.marks.add(
            new Mesh(geometry, new MeshBasicMaterial({ color, transparent: true, opacity: 0.45, side: DoubleSide })),
          );
        }
        const lines = edges.flatMap((k) => (mesh.edges[k] ? [mesh.edges[k].line] : []));
        if (lines.length > 0) {
          // Drawn over all, since a line of one pixel would drown in the face beside it.
          const drawn = linesOf(lines, color, 1);
          drawn.renderOrder = 2;
          (drawn.material as LineBasicMaterial).depthTest = false;
          this.marks.add(drawn, thickened(lines, color, this.pixelMm() * 1.6));
        }
      };
      paint(
        near?.edge === null && near.face !== null ? [near.face] : [],
        near?.edge != null ? [near.edge] : [],
        token('--amber'),
      );
      paint(chosen.faces, chosen.edges, token('--rust'));
    }
    this.ask();
  }

  /** Millimetres that a pixel of the screen covers. */
  pixelMm(): number {
    const { height } = this.canvas.getBoundingClientRect();
    return (this.camera.top - this.camera.bottom) / this.camera.zoom / (height || 1);
  }

  /** What lies under a place of the canvas, px from its corner. */
  meet(x: number, y: number, wants: 'edge' | 'face' | 'either'): Met | null {
    const { mesh, solid, canvas } = this;
    if (!mesh || !solid) return null;
    const { width, height } = canvas.getBoundingClientRect();
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((2 * x) / width - 1, 1 - (2 * y) / height), this.camera);
    const hit = ray
      .intersectObject(solid, false)
      .find(({ point }) => !this.section || this.section.distanceToPoint(point) >= 0);
    const face = hit?.faceIndex == null ? null : faceWith(mesh, hit.faceIndex);
    const depth = hit?.distance ?? Number.POSITIVE_INFINITY;
    const edge = wants === 'face' ? null : this.edgeNear(x, y, depth);
    if (edge === null && (face === null || wants === 'edge')) return null;
    const at = hit?.point ?? new Vector3();
    const normal = hit?.face?.normal ?? new Vector3(0, 0, 1);
    return { face, edge, at: { x: at.x, y: at.y, z: at.z }, normal: { x: normal.x, y: normal.y, z: normal.z } };
  }

  private edgeNear(x: number, y: number, depth: number): number | null {
    const { mesh, canvas } = this;
    const { width, height } = canvas.getBoundingClientRect();
    const place = new Vector3();
    const hidden = this.pixelMm() * EDGE_PX;
    const ahead = this.camera.getWorldDirection(new Vector3());
    const from = ahead.dot(this.camera.position);
    let best: { k: number; away: number } | null = null;
    mesh!.edges.forEach(({ line, bend }, k) => {
      if (bend === 'smooth') return;
      let before: { x: number; y: number; deep: number } | null = null;
      for (let n = 0; n + 2 < line.length; n += 3) {
        place.set(line[n]!, line[n + 1]!, line[n + 2]!);
        // Seen without perspective, what is nearer is what lies less far ahead.
        const deep = ahead.dot(place) - from;
        place.project(this.camera);
        const now = { x: ((place.x + 1) / 2) * width, y: ((1 - place.y) / 2) * height, deep };
        if (before) {
          const away = toSegment({ x, y }, before, now);
          const isHidden = Math.min(before.deep, now.deep) > depth + hidden;
          if (away < EDGE_PX && !isHidden && (!best || away < best.away)) best = { k, away };
        }
        before = now;
      }
    });
    return (best as { k: number } | null)?.k ?? null;
  }

  /** Where a place in space shows on the canvas, px. */
  onCanvas(p: { x: number; y: number; z: number }): { x: number; y: number } {
    const { width, height } = this.canvas.getBoundingClientRect();
    const at = new Vector3(p.x, p.y, p.z).project(this.camera);
    return { x: ((at.x + 1) / 2) * width, y: ((1 - at.y) / 2) * height };
  }

  seeFrom(side: Side): void {
    const { way, up } = WAYS[side];
    this.camera.up.set(...up);
    const centre = this.box.getCenter(new Vector3());
    this.controls.target.copy(centre);
    this.camera.position.copy(centre).add(new Vector3(...way).normalize().multiplyScalar(this.distance()));
    this.camera.lookAt(centre);
    // Turning goes on about the upright.
    this.camera.up.set(0, 0, 1);
    this.controls.update();
    this.fit();
  }

  private distance = (): number => 4 * Math.max(1, this.box.getSize(new Vector3()).length());

  /** All of the body in sight. */
  fit(): void {
    const { width, height } = this.canvas.getBoundingClientRect();
    if (width < 2 || height < 2) return;
    this.isFitted = this.mesh !== null;
    const size = this.box.getSize(new Vector3()).length();
    const centre = this.box.getCenter(new Vector3());
    const way = this.camera.position.clone().sub(this.controls.target).normalize();
    this.controls.target.copy(centre);
    this.camera.position.copy(centre).addScaledVector(way, this.distance());
    const half = 0.56 * size * Math.max(1, height / width);
    this.camera.top = half;
    this.camera.bottom = -half;
    this.camera.left = (-half * width) / height;
    this.camera.right = (half * width) / height;
    this.camera.near = 0.01;
    this.camera.far = 3 * this.distance();
    this.camera.zoom = 1;
    this.camera.updateProjectionMatrix();
    this.controls.update();
    this.ask();
  }

  zoom(by: number): void {
    this.camera.zoom = Math.min(200, Math.max(0.05, this.camera.zoom * by));
    this.camera.updateProjectionMatrix();
    this.ask();
  }

  /** Turns by angles, rad; or moves along the screen, px. */
  turn(about: number, over: number): void {
    const offset = this.camera.position.clone().sub(this.controls.target);
    const round = Math.atan2(offset.y, offset.x) + about;
    const flat = Math.hypot(offset.x, offset.y);
    const high = Math.min(1.55, Math.max(-1.55, Math.atan2(offset.z, flat) + over));
    const long = offset.length();
    this.camera.position
      .set(Math.cos(round) * Math.cos(high), Math.sin(round) * Math.cos(high), Math.sin(high))
      .multiplyScalar(long)
      .add(this.controls.target);
    this.controls.update();
    this.ask();
  }

  pan(xPx: number, yPx: number): void {
    const mm = this.pixelMm();
    const right = new Vector3(1, 0, 0).applyQuaternion(this.camera.quaternion).multiplyScalar(-xPx * mm);
    const up = new Vector3(0, 1, 0).applyQuaternion(this.camera.quaternion).multiplyScalar(yPx * mm);
    for (const moved of [this.camera.position, this.controls.target]) moved.add(right).add(up);
    this.controls.update();
    this.ask();
  }

  /** Draws once, however often it is asked for before. */
  ask(): void {
    if (this.due) return;
    this.due = true;
    requestAnimationFrame(() => {
      this.due = false;
      this.renderer.render(this.scene, this.camera);
      this.onDrawn();
    });
  }
}

const vec = ({ x, y, z }: { x: number; y: number; z: number }): [number, number, number] => [x, y, z];

function linesOf(lines: readonly Float32Array[], color: Color, opacity: number): LineSegments {
  const pairs: number[] = [];
  for (const line of lines)
    for (let k = 0; k + 5 < line.length; k += 3) for (let n = 0; n < 6; n++) pairs.push(line[k + n]!);
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(pairs), 3));
  return new LineSegments(geometry, new LineBasicMaterial({ color, transparent: opacity < 1, opacity }));
}

/** Lines drawn again a little to each side: a line of the screen is one pixel wide, and one that is chosen must be seen. */
function thickened(lines: readonly Float32Array[], color: Color, byMm: number): Group {
  const group = new Group();
  for (const shift of [
    [1, 0, 0],
    [-1, 0, 0],
    [0, 1, 0],
    [0, -1, 0],
    [0, 0, 1],
    [0, 0, -1],
  ] as const) {
    const moved = linesOf(lines, color, 1);
    moved.position.set(shift[0] * byMm, shift[1] * byMm, shift[2] * byMm);
    (moved.material as LineBasicMaterial).depthTest = false;
    group.add(moved);
  }
  return group;
}

function faceWith(mesh: BodyMesh, triangle: number): number | null {
  const k = mesh.faces.findIndex((f) => triangle >= f.from && triangle < f.from + f.count);
  return k < 0 ? null : k;
}

function toSegment(p: { x: number; y: number }, a: { x: number; y: number }, b: { x: number; y: number }): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const t = Math.min(1, Math.max(0, ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy || 1)));
  return Math.hypot(p.x - a.x - t * dx, p.y - a.y - t * dy);
}
