/**
 * When the machine itself was not there: a thread that does nothing but wake, and notes when it was woken late. What is
 * measured beside such moments says something of the machine and not of what is measured.
 */
import { Worker } from 'node:worker_threads';

/** It wakes so often, and later than this by so much is a moment in which nobody was served. */
const EVERY_MS = 2;
const LATE_MS = 15;

export interface Stall {
  from_ms: number;
  to_ms: number;
}

const WATCHER = `
  const { parentPort } = require('node:worker_threads');
  const rest = new Int32Array(new SharedArrayBuffer(4));
  const now = () => Number(process.hrtime.bigint()) / 1e6;
  const stalls = [];
  let stopped = false;
  parentPort.on('message', () => { stopped = true; });
  const watch = () => {
    for (let n = 0, last = now(); n < 100; n++) {
      Atomics.wait(rest, 0, 0, ${EVERY_MS});
      const at = now();
      if (at - last > ${EVERY_MS + LATE_MS}) stalls.push({ from_ms: last, to_ms: at });
      last = at;
    }
    if (stopped) { parentPort.postMessage(stalls); parentPort.close(); } else setImmediate(watch);
  };
  watch();
`;

/** Watches from now on. @returns to end it, with the stalls by the clock of `hr()` */
export function watchMachine(): () => Promise<Stall[]> {
  const worker = new Worker(WATCHER, { eval: true });
  return () =>
    new Promise((resolve) => {
      worker.once('message', resolve);
      worker.postMessage('stop');
    });
}

/** Whether something lay within `near_ms` of a stall. */
export const besideStall = (at_ms: number, stalls: readonly Stall[], near_ms: number): boolean =>
  stalls.some((s) => at_ms > s.from_ms - near_ms && at_ms < s.to_ms + near_ms);
