import type { LeastSquaresProblem } from '../numeric';
import { isShown, type Samples, START } from './edgeModel';

/**
 * A blurred line on tilted ground through all rows. Of a line thinner than its blur there are several fits nearly as
 * good, so that its steps must bend: every residual stands by itself here.
 *
 * In: the samples and which parameters are free.
 */
export function lineModel({ across, along, light }: Samples, free: readonly number[]): LeastSquaresProblem {
  const hasBend = free.includes(START.bend);
  const indices = free.map((_, k) => k);
  const at = (k: number) => free.indexOf(k);
  const row = new Float64Array(free.length);
  return {
    size: free.length,
    residuals(p, sink) {
      const blur = Math.exp(p[at(START.logBlur)]!);
      if (!isShown(blur)) return false;
      const [offset, slope, bend] = [p[0]!, p[1]!, hasBend ? p[at(START.bend)]! : 0];
      const [level, height, tilt] = [p[at(START.level)]!, p[at(START.height)]!, p[at(START.tilt)]!];
      for (let k = 0; k < light.length; k++) {
        const [t, x] = [along[k]!, across[k]!];
        const z = (x - t * (slope + t * bend) - offset) / blur;
        const bell = Math.exp(-0.5 * z * z);
        const byZ = -height * z * bell;
        row[0] = -byZ / blur;
        row[1] = row[0] * t;
        if (hasBend) row[2] = row[1] * t;
        const rest = hasBend ? 3 : 2;
        row[rest] = -byZ * z;
        row[rest + 1] = 1;
        row[rest + 2] = bell;
        row[rest + 3] = x;
        sink.add(level + height * bell + tilt * x - light[k]!, indices, row);
      }
      return true;
    },
  };
}
