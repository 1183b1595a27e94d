import { type Box, boxCorners } from '@steady-moth/core/geometry';
import type { Picture } from '@steady-moth/core/job';
import type { PictureMap } from '@steady-moth/core/sketch';
import type { LengthUnit } from '@steady-moth/core/units';
import { type ReactNode, useMemo, useRef } from 'react';
import { type BoardFrame, boardMapper, liesAt } from '../frames/boardMap';
import { fitView, type View } from '../frames/view';
import { useSession } from '../session/sessionStore';
import { loupeWords } from './aimWords';
import type { BoardTool } from './boardTool';
import { Loupe } from './Loupe';
import { type Layer, PictureLayer } from './PictureLayer';
import { RULER_PX, Rulers } from './Rulers';
import type { Aim, AimSource } from './useAim';
import { usePointing } from './usePointing';
import { useShownWhole } from './useShownWhole';
import { useViewControls } from './useViewControls';
import { SnapButtons, ViewButtons } from './ViewButtons';

export interface Drawing {
  view: View;
  mapper: PictureMap;
  aim: Aim | null;
}

const NONE_ELSE: readonly AimSource[] = [];
/** Kept free round the part when it is shown alone, px. */
const PART_MARGIN_PX = 48;

export function Board({
  picture,
  frame,
  layers,
  also = NONE_ELSE,
  staysInPlace = false,
  settled = true,
  unit,
  tool,
  partBox,
  under,
  children,
}: {
  /** What new points snap to, and what is shown whole at first. */
  picture: Picture;
  frame: BoardFrame;
  /** The pictures on the board, the lowest first. */
  layers: readonly Layer[];
  /** Further pictures that can be aimed at where the one worked on does not reach. */
  also?: readonly AimSource[];
  /** Another picture in the same frame comes into view where the one before it was looked at. */
  staysInPlace?: boolean;
  /** False while the frame is about to change: nothing is redrawn for the one that goes. */
  settled?: boolean;
  unit: LengthUnit;
  tool: BoardTool;
  /** Box round what was traced; null while nothing is. */
  partBox?: () => Box | null;
  /** What lies between the pictures and the drawing, and is no part of it for keys and readers. */
  under?: (view: View) => ReactNode;
  children: (drawing: Drawing) => ReactNode;
}) {
  const ref = useRef<HTMLDivElement>(null);
  const view = useSession((s) => s.view);
  const setView = useSession((s) => s.setView);
  const mapper = useMemo(() => boardMapper(frame), [frame]);
  // Where the board's places come from, for whoever reads the page; not made anew at every pointer move.
  const mapText = useMemo(() => (frame.kind === 'true' ? JSON.stringify(frame.map) : undefined), [frame]);
  const shown = layers.find((l) => l.picture.id === picture.id)?.clip ?? null;
  const sources = useMemo<AimSource[]>(() => {
    const { widthPx, heightPx } = picture.facts;
    return [{ id: picture.id, blob: picture.blob, widthPx, heightPx, mapper }, ...also];
  }, [picture.id, picture.blob, picture.facts, mapper, also]);
  const whole = useShownWhole(ref, picture, frame, mapper, shown, staysInPlace);
  const controls = useViewControls(ref, view, whole, setView);
  const { aim, aiming, touched, handlers } = usePointing({ ref, view, frame, picture, sources, tool, controls });

  return (
    <div className="absolute inset-0 overflow-hidden bg-deeper">
      <div
        ref={ref}
        role="application"
        aria-label="Drawing board. With a tool in hand, arrow keys move the cross, space sets a point."
        tabIndex={0}
        data-map={mapText}
        data-view={view ? `${view.x} ${view.y} ${view.scale}` : undefined}
        className={`absolute select-none overflow-hidden bg-board outline-none focus-visible:ring-2 focus-visible:ring-inset focus-visible:ring-rust ${tool.wish ? 'cursor-crosshair' : ''}`}
        style={{ left: RULER_PX, top: RULER_PX, right: 0, bottom: 0, touchAction: 'none' }}
        {...handlers}
      >
        {view && (
          <>
            {layers.map((layer) => (
              <PictureLayer key={layer.picture.id} layer={layer} view={view} settled={settled} />
            ))}
            {under?.(view)}
            <svg className="absolute inset-0 h-full w-full" aria-label="Drawing" role="group">
              {children({ view, mapper, aim: aim.shown?.aim ?? null })}
              {aim.shown && aiming && tool.looks !== false && <AimMark aim={aim.shown.aim} />}
            </svg>
            {aim.shown?.look && aiming && (
              <Loupe
                look={aim.shown.look}
                edge={aim.shown.aim.edge}
                at={aim.shown.aim.screen}
                view={view}
                lies={liesAt(
                  sources.find((s) => s.id === aim.shown?.aim.pictureId)?.mapper ?? mapper,
                  aim.shown.aim.picture,
                )}
                caption={tool.snaps === false ? '' : loupeWords(aim.shown.aim)}
              />
            )}
          </>
        )}
      </div>
      {view && (
        <ViewButtons
          onZoom={controls.zoomBy}
          onWhole={controls.showAll}
          onPart={
            partBox &&
            (() => {
              const box = partBox();
              if (box) setView(fitView(boxCorners(box), view.width, view.height, PART_MARGIN_PX));
            })
          }
        />
      )}
      {touched && tool.wish && <SnapButtons />}
      {view && (
        <div className="absolute" style={{ left: RULER_PX, top: RULER_PX }}>
          <Rulers view={view} isTrue={frame.kind === 'true'} unit={unit} pointer={aim.shown?.aim.screen ?? null} />
        </div>
      )}
      <div
        className="absolute top-0 left-0 border-line border-r border-b bg-deeper"
        style={{ width: RULER_PX, height: RULER_PX }}
      />
    </div>
  );
}

function AimMark({ aim }: { aim: Aim }) {
  const { x, y } = aim.screen;
  const others = aim.edges.filter((_, k) => k !== aim.edge);
  const path = `M ${x - 9} ${y} H ${x - 3} M ${x + 3} ${y} H ${x + 9} M ${x} ${y - 9} V ${y - 3} M ${x} ${y + 3} V ${y + 9}`;
  return (
    <g pointerEvents="none">
      <path d={path} stroke="white" strokeWidth={3.5} />
      <path d={path} stroke="var(--rust)" strokeWidth={1.6} />
      {others.map(({ screen }, k) => (
        <circle key={k} cx={screen.x} cy={screen.y} r={3} fill="white" stroke="var(--ink)" strokeWidth={1.2} />
      ))}
    </g>
  );
}
