import type { JobDocument, Picture } from '@steady-moth/core/job';
import { type ComponentType, createContext } from 'react';
import type { ArrivedPicture } from '../door/arrival';

/** How far a step has come: nothing yet, good, or something wants attention; and what it lacks, as a sentence. */
export interface StepState {
  bead: 'empty' | 'full' | 'chipped';
  /** Empty where it lacks nothing. */
  lacks: string;
}

export const GOOD: StepState = { bead: 'full', lacks: '' };

/** What the screen of a step is given. */
export interface StepProps {
  job: JobDocument;
  picture: Picture;
  /** Takes further files into the job. */
  onFiles(files: readonly File[]): void;
  /** Reads one file without adding it to the job; null when it was refused or left. */
  readOne(file: File): Promise<ArrivedPicture | null>;
}

/** All that the rest of the application knows of a step. */
export interface StepDescription {
  /** In the address. */
  name: string;
  /** On the plumb line. */
  title: string;
  /** How far it has come in a job, as far as the document tells. */
  stateOf(job: JobDocument): StepState;
  /** What is known beside the document, while the job is open; null where the document tells all. */
  useFound?(job: JobDocument): StepState | null;
  /** Its screen, which is loaded with the first job that is opened. */
  load(): Promise<ComponentType<StepProps>>;
}

/** The names of the steps before and after the one that is open; null at either end. */
export const Neighbours = createContext<{ before: string | null; next: string | null }>({ before: null, next: null });
