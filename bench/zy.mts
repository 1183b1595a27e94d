import * as ls from '../core/src/numeric/leastSquares';
import { estimate } from '../core/src/truing/estimate';
import { inputOf, SETUP, seenBy } from '../core/src/truing/kinds/yardsticks.test-data';
const seen = seenBy(SETUP, 4);
const coin = seen.disc('coin', 70, 40, 23.25, 2.33);
(globalThis as any).dbg = true;
const r = estimate(inputOf(coin));
if (r.ok) for (const s of r.solutions) console.log(s.cost, s.parameters.join(' '));
