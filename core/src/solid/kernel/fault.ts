import type { FeatureReason } from '../plan';

/** A step that could not be made, and why. */
export class KernelFault extends Error {
  constructor(
    readonly reason: FeatureReason,
    readonly detail: string | null = null,
  ) {
    super(reason);
  }
}
