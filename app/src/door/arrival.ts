import type { PicturePoint } from '@steady-moth/core/calibration';
import type { PictureFile, PictureKind } from '@steady-moth/core/job';
import type { Sketch } from '@steady-moth/core/sketch';
import type { NewBlob } from '../session/storage';

/** What came of a file that was dropped, chosen or pasted, before anything is kept of it. */
export type Arrival =
  | { ok: true; kind: 'picture'; picture: ArrivedPicture }
  /** A document of which somebody has to choose the pages. */
  | { ok: true; kind: 'pages'; name: string; bytes: Uint8Array }
  /** A job file that now hangs on the rack. */
  | { ok: true; kind: 'job'; jobId: string }
  | { ok: false; sentence: string };

/** A picture that was read whole, and what else its file holds. */
export interface ArrivedPicture {
  name: string;
  file: PictureFile;
  kind: PictureKind;
  blob: NewBlob;
  /** Outlines that the file brought along; their points name no picture yet. */
  outlines: Sketch | null;
  /** Where the file's own zero lies in it, px. */
  zero: PicturePoint | null;
  /** What a person should know of how it was read, a sentence each. */
  notes: string[];
}
