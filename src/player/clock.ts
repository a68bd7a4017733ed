/** The worker thread that keeps time: renders every open show at 44 Hz and sends the one on air. Nothing else runs here. */
import { parentPort, workerData } from 'node:worker_threads';
import type { ClockSettings, FromClock, ToClock } from './clock-messages.ts';
import { Clockwork } from './clockwork.ts';
import { Conductor } from './conductor.ts';
import { mailbox } from './sending/mailbox.ts';
import { Output } from './sending/output.ts';

const port = parentPort;
if (!port) throw new Error('The clock runs in a worker thread.');

const say = (message: FromClock): void => port.postMessage(message);
const clockwork = new Clockwork({
  output: new Output(workerData as ClockSettings, (failed) =>
    mailbox(new URL('./sender.mjs', import.meta.url), failed),
  ),
  conductor: new Conductor(say, (bytes) => new SharedArrayBuffer(bytes)),
  say,
  now_ms: () => performance.now(),
  ended: () => port.close(),
});
port.on('message', (message: ToClock) => clockwork.hear(message));
clockwork.begin();
