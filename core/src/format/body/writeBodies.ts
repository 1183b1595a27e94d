import { zipSync } from 'fflate';
import type { BodyStep } from '../../solid';
import type { Builder, Kernel } from '../../solid/kernel';
import { BODY_FORMATS, type BodyOptions, writeBody } from './writeBody';

/** One of several bodies that go into an archive: its file's name without ending, and what it is called. */
export interface NamedBody {
  name: string;
  title: string;
  steps: readonly BodyStep[];
}

/** Several bodies in one zip archive, each in every format; and what those are called that could not be made whole. */
export function writeBodies(
  oc: Kernel,
  builder: Builder,
  bodies: readonly NamedBody[],
  options: Omit<BodyOptions, 'title'>,
): { bytes: Uint8Array; leftOut: string[] } {
  const entries: Record<string, Uint8Array> = {};
  const leftOut: string[] = [];
  for (const { name, steps, title } of bodies) {
    const { state, faults } = builder.build(steps);
    if (!state || faults.length > 0) {
      leftOut.push(title);
      continue;
    }
    for (const format of BODY_FORMATS) {
      const file = writeBody(oc, state, format, { ...options, title });
      if (file.ok) entries[`${name}.${format}`] = file.bytes;
      else if (!leftOut.includes(title)) leftOut.push(title);
    }
  }
  return { bytes: zipSync(entries, { level: 6, mtime: new Date(`${options.date}T12:00:00`) }), leftOut };
}
