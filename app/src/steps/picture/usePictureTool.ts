import type { Vec2 } from '@steady-moth/core/geometry';
import { addView, clearBackground, cropPicture, type Picture, setTones, type Tones } from '@steady-moth/core/job';
import { useMemo, useRef } from 'react';
import type { BoardTool } from '../../board/Board';
import { pixels } from '../../compute';
import { type BoardFace, boardMapper, wholeOf } from '../../frames/boardMap';
import { isMoved } from '../../frames/view';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { boxOf, rectOf } from './boxes';
import { type Box, type CropRules, dragged, type Hold, holdAt, LEAST_SIDE } from './cropDrag';

const REACH_PX = 10;
/** How unlike a picked background may be at first, 0 to 1. */
const FIRST_TOLERANCE = 0.12;
/** Darkest and lightest stay this far apart, of the whole scale. */
const LEAST_SPAN = 0.03;

interface Setting {
  picture: Picture;
  face: BoardFace;
  rules: CropRules;
  draft: Box | null;
  setDraft(draft: Box | null): void;
}

/** What the pointer does in Picture: crops, cuts out views, picks the background and the ends of the tones. */
export function usePictureTool(setting: Setting): BoardTool {
  const tool = useBench((s) => s.tool);
  const latest = useRef(setting);
  latest.current = setting;
  const held = useRef<{ hold: Hold; from: Vec2; box: Box } | null>(null);
  return useMemo(() => {
    const now = () => latest.current;
    const apply = useJob.getState().apply;
    const mapper = () => boardMapper(now().face);
    const cropBox = () => boxOf(now().picture.preparation.crop ?? wholeOf(now().picture.facts), mapper());
    const rulesNow = (): CropRules =>
      tool === 'crop' ? now().rules : { ...now().rules, aspect: null, symmetry: 'none' };
    const moved = (to: Vec2): Box | null =>
      held.current && dragged(held.current.box, held.current.hold, held.current.from, to, rulesNow());
    const finishCrop = (box: Box) => {
      const { picture } = now();
      const rect = rectOf(box, mapper());
      if (!rect) return;
      const whole = rect.widthPx >= picture.facts.widthPx && rect.heightPx >= picture.facts.heightPx;
      apply(cropPicture(picture.id, whole ? null : rect));
    };
    const finishView = (box: Box) => {
      const { picture } = now();
      const rect = rectOf(box, mapper());
      if (!rect || Math.min(rect.widthPx, rect.heightPx) < LEAST_SIDE) return;
      const side = (['top', 'front', 'side'] as const)[Math.min(2, picture.views.length)];
      const name = { top: 'From the top', front: 'From the front', side: 'From the side' }[side];
      apply(addView(picture.id, { id: newId(), name, side, offsetMm: 0, crop: rect }));
    };
    const pickColour = async (uPx: number, vPx: number) => {
      const { picture } = now();
      const colour = await pixels.call((w) => w.colourAt(picture.blob, { uPx, vPx })).catch(() => null);
      if (!colour) return;
      if (tool === 'background') {
        const tolerance = picture.preparation.clear?.tolerance ?? FIRST_TOLERANCE;
        apply(clearBackground(picture.id, { colour, tolerance }));
      } else if (tool === 'darkest' || tool === 'lightest')
        apply(setTones(picture.id, withEnd(picture.preparation.tones, tool, colour)));
      useBench.getState().take(null);
    };
    return {
      wish: tool === 'background' || tool === 'darkest' || tool === 'lightest' ? 'edge' : null,
      snaps: false,
      targets: () => [],
      grab(raw, view) {
        if (tool !== 'crop' && tool !== 'view') return false;
        const reach = REACH_PX / view.scale;
        const hold: Hold =
          tool === 'view' ? { kind: 'new', from: raw } : holdAt(cropBox(), raw, reach, now().rules.symmetry);
        const whole = now().picture.preparation.crop === null;
        // With nothing cropped yet a press inside begins a new crop: all of the picture cannot be moved.
        held.current = {
          hold: hold.kind === 'all' && whole ? { kind: 'new', from: raw } : hold,
          from: raw,
          box: cropBox(),
        };
        return true;
      },
      hover(aim, isHeld) {
        if (isHeld) now().setDraft(moved(aim.board));
      },
      letGo(raw, view) {
        const box = moved(raw);
        const from = held.current?.from;
        held.current = null;
        now().setDraft(null);
        // A press without a move changes nothing.
        const isMove = from && isMoved(view, from, raw);
        if (box && isMove && tool === 'crop') finishCrop(box);
        else if (box && isMove && tool === 'view') finishView(box);
        return () => {};
      },
      place(aim) {
        if (tool === 'background' || tool === 'darkest' || tool === 'lightest')
          void pickColour(aim.picture.uPx, aim.picture.vPx);
      },
    };
  }, [tool]);
}

function withEnd(tones: Tones, end: 'darkest' | 'lightest', [r, g, b]: readonly number[]): Tones {
  const level = (0.2126 * r + 0.7152 * g + 0.0722 * b) / 255;
  return end === 'darkest'
    ? { ...tones, dark: Math.min(level, tones.light - LEAST_SPAN) }
    : { ...tones, light: Math.max(level, tones.dark + LEAST_SPAN) };
}
