import { extendRun, type JobDocument, type Picture } from '@steady-moth/core/job';
import { parseLength } from '@steady-moth/core/units';
import { useEffect, useRef } from 'react';
import { type BoardFace, boardMapper } from '../../frames/boardMap';
import { lengthSentence } from '../../kit/lengthSentence';
import { useBench } from '../../session/benchStore';
import { useJob } from '../../session/jobStore';
import { newId } from '../../session/newId';
import { useReadout } from '../../session/readoutStore';
import type { PlacePoint } from './useForms';
import type { Growing } from './useTraceTool';

/** While a run is being drawn, a typed figure sets the length of its next line, in the direction of the pointer. */
export function useTypedLength(setting: {
  job: JobDocument;
  picture: Picture;
  face: BoardFace;
  placePoint: PlacePoint;
  growing: Growing | null;
}): void {
  const latest = useRef(setting);
  latest.current = setting;
  const tool = useBench((s) => s.tool);
  const waits = tool === 'line' && setting.growing !== null && setting.face.kind === 'true';
  useEffect(() => {
    if (!waits) return;
    useReadout.getState().ask({
      label: 'Length of this line',
      accept(text) {
        const { job, picture, face, placePoint, growing } = latest.current;
        const found = parseLength(text, job.unit);
        if (!found.ok) return lengthSentence(found.reason);
        const run = growing && job.part.runs.find((r) => r.id === growing.run);
        const { angle } = useReadout.getState().reading;
        if (run?.kind !== 'chain' || !growing || angle === null)
          return 'Point in the direction first, then type the length.';
        const last = placePoint(
          job.part.points[growing.end === 'tail' ? (run.points.at(-1) as string) : run.points[0]],
        );
        const at =
          last &&
          boardMapper(face).toPicture({
            x: last.x + found.mm * Math.cos(angle),
            y: last.y - found.mm * Math.sin(angle),
          });
        if (!at) return 'That lies beyond what the camera could see.';
        useJob.getState().apply(
          extendRun(run.id, growing.end, {
            id: newId(),
            point: { picture: picture.id, ...at, sigmaPx: TYPED_SIGMA_PX, cling: 'free', beside: null },
          }),
        );
        return null;
      },
    });
    return () => useReadout.getState().ask(null);
  }, [waits]);
}

/** A point at a typed distance is as well placed as the one it is measured from, px. */
const TYPED_SIGMA_PX = 0.1;
