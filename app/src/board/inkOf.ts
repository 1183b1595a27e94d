import type { Picture } from '@steady-moth/core/job';
import type { SnapWish } from '../compute/pixels.worker';

/** What counts of what is pictured: of a drawing the middle of an ink line, of a thing its edge. */
export const inkOf = ({ kind }: Pick<Picture, 'kind'>): SnapWish => (kind === 'drawing' ? 'line' : 'edge');
