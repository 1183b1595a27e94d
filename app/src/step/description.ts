import type { JobDocument, Picture } from '@steady-moth/core/job';
import type { ReactNode } from 'react';
import type { ArrivedPicture } from '../door/arrival';
import type { Tool } from '../session/sessionStore';

/** How far a step has come: nothing yet, good, or something wants attention; and what it lacks, as a sentence. */
export interface StepState {
  bead: 'empty' | 'full' | 'chipped';
  /** Empty where it lacks nothing. */
  lacks: string;
}

export const GOOD: StepState = { bead: 'full', lacks: '' };

/** A tool of a step, in its pocket of the roll; its letter goes by its place in the row. */
export interface Pocket {
  tool: NonNullable<Tool>;
  word: string;
  hint: string;
  icon: ReactNode;
}

/** A key, and what it does. */
export type KeyWords = readonly [key: string, what: string];

/** What a step is given to work with. */
export interface StepProps {
  job: JobDocument;
  picture: Picture;
  /** Takes further files into the job. */
  onFiles(files: readonly File[]): void;
  /** Reads one file without adding it to the job; null when it was refused or left. */
  readOne(file: File): Promise<ArrivedPicture | null>;
}

/** What a step shows, and what it does with keys, as long as it is open. */
export interface StepParts {
  isTrue: boolean;
  /** The picture or the body, with all that the step draws over it. */
  board: ReactNode;
  slip: ReactNode;
  /** Its tools, where not all of them can be used; and its lead, where it is about something else for now. */
  tools?: readonly Pocket[];
  lead?: string | undefined;
  /** What the readout shows instead of the pointer's place. */
  cells?: ReactNode;
  /** What the step asks for, or could not do: something else each time. */
  asked?: unknown;
  /** Gives up what the step asks for; false where it asks for nothing. */
  giveUp?(): boolean;
  /** A key that is pressed where nothing is typed, before all others hear of it; true where it meant something here. */
  onKey?(event: KeyboardEvent): boolean;
}

/** A step at work on a picture of a job: a hook. */
export type UseStep = (props: StepProps) => StepParts;

/** All that the rest of the application knows of a step. */
export interface StepDescription {
  /** In the address. */
  name: string;
  /** On the plumb line, and above the slip. */
  title: string;
  /** What it is for, in a sentence under the title. */
  lead: string;
  /** In the order of the roll. */
  tools: readonly Pocket[];
  /** What keys mean here beside the letters of the tools, and what they mean everywhere. */
  keys: readonly KeyWords[];
  /** How far it has come in a job, as far as the document tells. */
  stateOf(job: JobDocument): StepState;
  /** What is known beside the document, while the job is open; null where the document tells all. */
  useFound?(job: JobDocument): StepState | null;
  /** The step at work, which is loaded with the first job that is opened. */
  load(): Promise<UseStep>;
}
