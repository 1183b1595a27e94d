/** From where a body is seen. */
export type Side = 'corner' | 'top' | 'bottom' | 'front' | 'back' | 'left' | 'right';

type Way = [number, number, number];

/** The way towards whoever looks, and what points up on the screen. */
export const WAYS: Record<Side, { way: Way; up: Way; right: Way }> = {
  corner: { way: [-0.55, -1, 0.75], up: [0, 0, 1], right: [1, 0, 0] },
  // Exactly from above the upright has no direction on the screen: the way away is up.
  top: { way: [0, -1e-4, 1], up: [0, 1, 0], right: [1, 0, 0] },
  bottom: { way: [0, -1e-4, -1], up: [0, -1, 0], right: [1, 0, 0] },
  front: { way: [0, -1, 0], up: [0, 0, 1], right: [1, 0, 0] },
  back: { way: [0, 1, 0], up: [0, 0, 1], right: [-1, 0, 0] },
  left: { way: [-1, 0, 0], up: [0, 0, 1], right: [0, -1, 0] },
  right: { way: [1, 0, 0], up: [0, 0, 1], right: [0, 1, 0] },
};

export const SIDES: readonly Exclude<Side, 'corner'>[] = ['top', 'front', 'right', 'back', 'left', 'bottom'];
