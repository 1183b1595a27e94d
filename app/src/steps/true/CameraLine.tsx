import { type Picture, setCamera } from '@steady-moth/core/job';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Act, Select, SlipLine } from '../../kit';
import { useJob } from '../../session/jobStore';
import { NOT_KEPT } from '../../session/sentences';
import { database } from '../../session/storage';
import { type KeptCamera, keepCamera, listCameras } from '../../session/storage/cameras';
import { CheckCamera } from './CheckCamera';

const KEY = ['checked cameras'];
const NONE = 'as the file says';

/** The camera that took the picture: what its file says of it, or one that was checked with the grid. */
export function CameraLine({ picture }: { picture: Picture }) {
  const apply = useJob((s) => s.apply);
  const client = useQueryClient();
  const [checking, setChecking] = useState(false);
  const { data } = useQuery({ queryKey: KEY, queryFn: () => listCameras(database) });
  const { facts, calibration, id } = picture;
  // A checked camera holds for pictures of its own size and zoom only.
  const fits = (data ?? []).filter(
    (c) => c.widthPx === facts.widthPx && c.heightPx === facts.heightPx && c.focal35Mm === facts.focal35Mm,
  );
  const names = [...new Set([...fits.map((c) => c.name), ...(calibration.camera ? [calibration.camera.name] : [])])];
  const choose = (name: string) => {
    const found = fits.find((c) => c.name === name);
    if (name === NONE) apply(setCamera(id, null));
    else if (found) apply(setCamera(id, { name, mean: found.mean, covariance: found.covariance }));
  };
  const keep = async (camera: KeptCamera) => {
    if (!(await keepCamera(database, camera))) useJob.setState({ notice: NOT_KEPT });
    await client.invalidateQueries({ queryKey: KEY });
    setChecking(false);
    if (camera.widthPx === facts.widthPx && camera.heightPx === facts.heightPx && camera.focal35Mm === facts.focal35Mm)
      apply(setCamera(id, { name: camera.name, mean: camera.mean, covariance: camera.covariance }));
  };
  return (
    <SlipLine
      title="Camera"
      figure={
        names.length > 0 ? (
          <Select
            label="Camera"
            value={calibration.camera?.name ?? NONE}
            onChange={choose}
            options={[NONE, ...names]}
          />
        ) : (
          <span className="font-normal">{NONE}</span>
        )
      }
    >
      {calibration.camera
        ? 'Checked with the grid. '
        : 'Checked once with a printed grid, every later picture is worth more. '}
      <Act onClick={() => setChecking(true)}>Check a camera</Act>
      {checking && <CheckCamera onKeep={keep} onClose={() => setChecking(false)} />}
    </SlipLine>
  );
}
