import type { Picture } from '@steady-moth/core/job';
import type { Drawing } from '../../board/Board';
import { Cased, Tag } from '../../board/marks';
import { wholeOf } from '../../frames/boardMap';
import { boardPlace, offBoard } from '../../frames/place';
import { toScreen, type View } from '../../frames/view';
import { useSession } from '../../session/sessionStore';
import { boxOf } from './tools/boxes';
import { type CropBox, middleOf, type Symmetry } from './tools/cropDrag';

/** The crop with its handles, and the views, drawn on the picture. */
export function PictureOverlay({
  view,
  mapper,
  picture,
  draft,
  symmetry,
}: Drawing & { picture: Picture; draft: CropBox | null; symmetry: Symmetry }) {
  const tool = useSession((s) => s.tool);
  const whole = boxOf(wholeOf(picture.facts), mapper);
  const crop = tool === 'crop' ? (draft ?? boxOf(picture.preparation.crop ?? wholeOf(picture.facts), mapper)) : null;
  return (
    <>
      {picture.views.map((v) => {
        const box = boxOf(v.crop, mapper);
        return (
          <g key={v.id}>
            <Cased d={frame(box, view)} dash="8 5" width={1.6} />
            <Tag at={toScreen(view, offBoard(boardPlace((box.left + box.right) / 2, box.top)))}>{v.name}</Tag>
          </g>
        );
      })}
      {tool === 'view' && draft && <Cased d={frame(draft, view)} colour="var(--rust)" dash="6 4" />}
      {crop && (
        <>
          <path
            d={`${frame(whole, view)} ${frame(crop, view)}`}
            fillRule="evenodd"
            fill="var(--board)"
            fillOpacity={0.72}
            pointerEvents="none"
          />
          <Cased d={frame(crop, view)} colour="var(--rust)" width={1.6} />
          {symmetry !== 'none' && (
            <Cased d={lineOf(crop, view, symmetry)} colour="var(--rust)" dash="14 4 3 4" width={1.4} />
          )}
          <Handles box={crop} view={view} />
        </>
      )}
    </>
  );
}

const corner = (view: View, x: number, y: number): string => {
  const p = toScreen(view, offBoard(boardPlace(x, y)));
  return `${p.x} ${p.y}`;
};

const frame = ({ left, top, right, bottom }: CropBox, view: View): string =>
  `M ${corner(view, left, top)} L ${corner(view, right, top)} L ${corner(view, right, bottom)} L ${corner(view, left, bottom)} Z`;

function lineOf(box: CropBox, view: View, symmetry: Symmetry): string {
  const { x, y } = middleOf(box);
  return symmetry === 'upright'
    ? `M ${corner(view, x, box.top)} L ${corner(view, x, box.bottom)}`
    : `M ${corner(view, box.left, y)} L ${corner(view, box.right, y)}`;
}

function Handles({ box, view }: { box: CropBox; view: View }) {
  const { x, y } = middleOf(box);
  const places = [
    [box.left, box.top],
    [x, box.top],
    [box.right, box.top],
    [box.right, y],
    [box.right, box.bottom],
    [x, box.bottom],
    [box.left, box.bottom],
    [box.left, y],
  ] as const;
  return places.map(([px, py], k) => {
    const p = toScreen(view, offBoard(boardPlace(px, py)));
    return (
      <circle key={k} cx={p.x} cy={p.y} r={5} fill="white" stroke="var(--rust)" strokeWidth={2} pointerEvents="none" />
    );
  });
}
