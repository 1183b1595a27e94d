import * as Comlink from 'comlink';
import { BEAT } from './beat';

/** Offers a worker's face to whoever hired it, and answers when asked whether the worker is there. */
export function serve(face: object): void {
  addEventListener('message', ({ data }) => {
    if (data === BEAT) postMessage(BEAT);
  });
  Comlink.expose(face);
}
