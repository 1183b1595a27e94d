import { MessageChannel, receiveMessageOnPort } from 'node:worker_threads';
import { createEvaluator, type Placing, pathsIn, sketchesOf } from '../../core/src/sketch';
import { excerptOf } from '../../core/src/sketch/excerpt';
import { type LoadSize, makeLoadJob } from '../loadJob';

/** What a part costs the thread that shows it, ms: evaluated there, or sent to another thread and its forms taken back. */
export interface PartTimes {
  cutOutMs: number;
  evaluateMs: number;
  sendMs: number;
  takeBackMs: number;
}

/** Through a channel of messages: what browsers copy between threads is copied by the same code. */
export function timePart(size: LoadSize): PartTimes {
  const { part } = makeLoadJob(size).job;
  const place = (at: { uPx: number; vPx: number }) => {
    const w = 1 + 1e-5 * at.uPx;
    return { x: (0.05 * at.uPx) / w, y: (-0.05 * at.vPx) / w };
  };
  const placing: Placing = new Map([['pic0', { isTrue: true, place, turned: null }]]);
  const { port1, port2 } = new MessageChannel();
  const times = Array.from({ length: 3 }, () => timeOnce(structuredClone(part), placing, port1, port2));
  port1.close();
  const median = (of: (t: PartTimes) => number) => times.map(of).sort((a, b) => a - b)[1]!;
  return {
    cutOutMs: median((t) => t.cutOutMs),
    evaluateMs: median((t) => t.evaluateMs),
    sendMs: median((t) => t.sendMs),
    takeBackMs: median((t) => t.takeBackMs),
  };
}

function timeOnce(
  part: ReturnType<typeof makeLoadJob>['job']['part'],
  placing: Placing,
  here: MessageChannel['port1'],
  there: MessageChannel['port2'],
): PartTimes {
  const cutOutMs = timed(() => {
    for (const sketch of sketchesOf(part)) for (const path of pathsIn(sketch)) excerptOf(sketch, path);
  });
  let forms: unknown[] = [];
  const evaluateMs = timed(() => {
    forms = createEvaluator()
      .evaluate(part, placing, { truly: false, draft: null })
      .paths.map((p) => p.form);
  });
  const sendMs = timed(() => here.postMessage(part));
  receiveMessageOnPort(there);
  there.postMessage(forms);
  const takeBackMs = timed(() => receiveMessageOnPort(here));
  return { cutOutMs, evaluateMs, sendMs, takeBackMs };
}

function timed(work: () => void): number {
  const began = performance.now();
  work();
  return performance.now() - began;
}
