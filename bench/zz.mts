import { truePicture } from '../core/src/truing';
import { estimate } from '../core/src/truing/estimate';
import { inputOf, SETUP, seenBy } from '../core/src/truing/kinds/yardsticks.test-data';
const seen = seenBy(SETUP, 4);
const coin = seen.disc('coin', 70, 40, 23.25, 2.33);
const paper = seen.sheet('paper', -100, -70, 210, 148);
const mat = seen.grid('mat', -90, -70, 10, 19, 14);
const rule = seen.ruler('rule', -75, -60, 150);
const time = (n: string, f: () => void) => { f(); const t = performance.now(); for (let k = 0; k < 5; k++) f(); console.log(n, ((performance.now() - t) / 5).toFixed(1)); };
for (const [n, ys] of Object.entries({ coin: [coin], paper: [paper], mat: [mat], rule: [rule], all: [coin, paper, mat, rule] })) {
  time('estimate ' + n, () => { estimate(inputOf(...ys)); });
  time('true ' + n, () => { truePicture(inputOf(...ys)); });
}
