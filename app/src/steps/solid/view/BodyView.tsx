import type { BodyMesh, Box } from '@steady-moth/core/solid';
import { Minus, Plus } from 'lucide-react';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { Press } from '../../../board/ViewButtons';
import { BodyScene, type Met, type Section, type Underlay } from './scene';
import type { Side } from './sides';

/** What is said at a place of the body. */
export interface Tag {
  id: string;
  text: string;
  at: { x: number; y: number; z: number };
}

export interface BodyViewProps {
  mesh: BodyMesh | null;
  box: Box | null;
  underlay: Underlay | null;
  section: Section | null;
  /** What a press picks; null: nothing, a drag turns the body in any case. */
  picks: 'edge' | 'face' | 'either' | null;
  chosen: { faces: readonly number[]; edges: readonly number[] };
  tags: readonly Tag[];
  /** From where it shall be seen; `asked` counts the wishes. */
  from: { side: Side; asked: number };
  onPick(met: Met): void;
  /** What is shown where the browser cannot draw in space. */
  instead: ReactNode;
}

/** A press that moved less than this is a press and no drag, px. */
const STILL_PX = 4;
const TURN_RAD = Math.PI / 24;
const PAN_PX = 30;

/** The body in space: turned by dragging, moved with the right button or two fingers, drawn closer by the wheel, or by keys. */
export default function BodyView(props: BodyViewProps) {
  const { mesh, box, underlay, section, picks, chosen, tags, from } = props;
  const canvas = useRef<HTMLCanvasElement>(null);
  const frame = useRef<HTMLDivElement>(null);
  const scene = useRef<BodyScene | null>(null);
  const [cannot, setCannot] = useState(false);
  const [near, setNear] = useState<Met | null>(null);
  const hung = useRef(new Map<string, HTMLElement>());
  const latest = useRef(props);
  latest.current = props;

  useEffect(() => {
    const follow = () => {
      const own = scene.current;
      if (!own) return;
      for (const tag of latest.current.tags) {
        const element = hung.current.get(tag.id);
        const { x, y } = own.onCanvas(tag.at);
        if (element) element.style.transform = `translate(${Math.round(x)}px, ${Math.round(y)}px)`;
      }
    };
    let made: BodyScene;
    try {
      made = new BodyScene(canvas.current!, follow);
    } catch {
      setCannot(true);
      return;
    }
    scene.current = made;
    const size = () => {
      const { width, height } = frame.current!.getBoundingClientRect();
      if (width > 1 && height > 1) made.resize(width, height);
    };
    const watch = new ResizeObserver(size);
    watch.observe(frame.current!);
    size();
    const dark = matchMedia('(prefers-color-scheme: dark)');
    const recolour = () => made.setBody(latest.current.mesh, latest.current.box);
    dark.addEventListener('change', recolour);
    return () => {
      watch.disconnect();
      dark.removeEventListener('change', recolour);
      made.free();
      scene.current = null;
    };
  }, []);
  useEffect(() => scene.current?.setBody(mesh, box), [mesh, box]);
  useEffect(() => scene.current?.setSection(section), [section]);
  useEffect(() => scene.current?.setUnderlay(underlay, box ? box.min.z - 0.02 : 0), [underlay, box]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: marks belong to the mesh that is shown
  useEffect(() => scene.current?.setMarked(chosen, picks ? near : null), [chosen, near, picks, mesh]);
  useEffect(() => {
    if (from.asked > 0) scene.current?.seeFrom(from.side);
  }, [from]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: new tags stand where they belong at once
  useEffect(() => scene.current?.ask(), [tags]);

  const place = (e: { clientX: number; clientY: number }) => {
    const { left, top } = canvas.current!.getBoundingClientRect();
    return [e.clientX - left, e.clientY - top] as const;
  };
  const pressed = useRef<{ x: number; y: number } | null>(null);
  const onKey = (e: React.KeyboardEvent) => {
    const own = scene.current;
    const way = ({ ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] } as const)[
      e.key as 'ArrowLeft'
    ];
    if (!own) return;
    if (way && e.shiftKey) own.pan(way[0] * PAN_PX, -way[1] * PAN_PX);
    else if (way) own.turn(way[0] * TURN_RAD, way[1] * TURN_RAD);
    else if (e.key === '+' || e.key === '=') own.zoom(1.2);
    else if (e.key === '-') own.zoom(1 / 1.2);
    else if (e.key === 'Home') own.fit();
    else if (picks && mesh && (e.key === 'PageDown' || e.key === 'PageUp'))
      setNear(neighbour(mesh, near, picks, e.key === 'PageDown' ? 1 : -1));
    else if (picks && near && e.key === 'Enter') props.onPick(near);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };

  if (cannot) return props.instead;
  return (
    <div ref={frame} className="absolute inset-0 overflow-hidden bg-board">
      <canvas
        ref={canvas}
        tabIndex={0}
        role="img"
        aria-label="The body. Arrow keys turn it, Shift with arrows moves it, + and − zoom, Home shows all of it."
        data-board
        className={`h-full w-full touch-none outline-offset-[-3px] ${picks ? 'cursor-crosshair' : 'cursor-grab'}`}
        onKeyDown={onKey}
        onPointerDown={(e) => {
          pressed.current = { x: e.clientX, y: e.clientY };
        }}
        onPointerMove={(e) => {
          if (!picks || e.buttons !== 0) return;
          const met = scene.current?.meet(...place(e), picks) ?? null;
          if (met?.edge !== near?.edge || met?.face !== near?.face || !met !== !near) setNear(met);
        }}
        onPointerUp={(e) => {
          const from = pressed.current;
          pressed.current = null;
          if (!picks || !from || Math.hypot(e.clientX - from.x, e.clientY - from.y) > STILL_PX) return;
          const met = scene.current?.meet(...place(e), picks);
          if (met) props.onPick(met);
        }}
        onPointerLeave={() => setNear(null)}
      />
      {tags.map((tag) => (
        <span
          key={tag.id}
          ref={(element) => {
            if (element) hung.current.set(tag.id, element);
            else hung.current.delete(tag.id);
          }}
          className="figure pointer-events-none absolute top-0 left-0 rounded border border-line bg-paper px-1.5 py-0.5 text-[12.5px]"
        >
          {tag.text}
        </span>
      ))}
      <div
        role="group"
        aria-label="View"
        className="absolute right-3 bottom-3 flex overflow-hidden rounded border border-line bg-paper"
      >
        <Press name="Zoom out" hint="Zoom out (−)" onPress={() => scene.current?.zoom(1 / 1.25)}>
          <Minus size={16} />
        </Press>
        <Press name="Zoom in" hint="Zoom in (+)" onPress={() => scene.current?.zoom(1.25)}>
          <Plus size={16} />
        </Press>
        <Press name="Show the whole body" hint="Show the whole body (Home)" onPress={() => scene.current?.fit()}>
          Whole
        </Press>
      </div>
    </div>
  );
}

/** The next edge or face in the body's own order, for those who pick by keys. */
function neighbour(mesh: BodyMesh, near: Met | null, picks: 'edge' | 'face' | 'either', by: 1 | -1): Met {
  const wantsFace = picks === 'face';
  const all = wantsFace
    ? mesh.faces.map((_, k) => k)
    : mesh.edges.flatMap((e, k) => (e.bend === 'smooth' || !e.faces ? [] : [k]));
  const now = all.indexOf((wantsFace ? near?.face : near?.edge) ?? -1);
  const next = all[(now + by + all.length) % all.length] ?? 0;
  const zero = { x: 0, y: 0, z: 0 };
  return wantsFace
    ? { face: next, edge: null, at: zero, normal: zero }
    : { face: null, edge: next, at: zero, normal: zero };
}
