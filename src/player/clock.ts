/** The worker thread that keeps time: renders every open show at 44 Hz and sends the one on air. Nothing else runs here. */
import { parentPort, workerData } from 'node:worker_threads';
import type { Nowhere } from '../core/live/messages.ts';
import type { ClockSettings, ClockStats, FromClock, ToClock } from './clock-messages.ts';
import { Conductor } from './conductor.ts';
import { mailbox } from './sending/mailbox.ts';
import { Output } from './sending/output.ts';
import { Beat, PERIOD_MS } from './pace.ts';
import { SecondCounts } from './second-counts.ts';

const KEPT_FRAMES = 4096;

const port = parentPort;
if (!port) throw new Error('The clock runs in a worker thread.');
const output = new Output(workerData as ClockSettings, (failed) =>
  mailbox(new URL('./sender.mjs', import.meta.url), failed),
);
let stopping = false;
const PATIENCE_MS = 2000;
let seen: { nowhere: Nowhere | null; since_ms: number } = { nowhere: null, since_ms: 0 };
let told: { problem: string | null; nowhere: Nowhere | null } = { problem: null, nowhere: null };

const say = (message: FromClock): void => port.postMessage(message);
const conductor = new Conductor(say, (bytes) => new SharedArrayBuffer(bytes));
const now_ms = (): number => performance.now();

const stats = {
  frames: 0,
  compute: new Float32Array(KEPT_FRAMES),
  late: new Float32Array(KEPT_FRAMES),
};

const seconds = new SecondCounts();
const beat = new Beat(now_ms() + PERIOD_MS);

/** What is to be seen as soon as it can be: hands, and what they start. */
const SEEN: ReadonlySet<ToClock['do']> = new Set<ToClock['do']>([
  'move',
  'seek',
  'release',
  'hand',
  'list-master',
  'presence',
  'flash',
  'inhibit',
  'programs',
  'pause',
  'hold',
  'letgo',
  'override',
  'master',
]);

function handle(message: ToClock): void {
  if (message.do === 'air') {
    const open = message.showId ? conductor.shows.get(message.showId) : undefined;
    output.setPriorities(open?.priorities ?? new Map());
    output.take(open?.engine ?? null, open?.routes ?? [], message.fade_s * 1000, now_ms());
    return;
  }
  if (message.do === 'network') {
    output.setNetwork(message.network);
    return;
  }
  if (message.do === 'sequences') {
    output.goOnFrom(message.from);
    return;
  }
  if (message.do === 'stats') {
    const n = Math.min(stats.frames, KEPT_FRAMES);
    const reply: ClockStats = {
      lines: output.counts(),
      frames: stats.frames,
      compute_ms: [...stats.compute.subarray(0, n)],
      late_ms: [...stats.late.subarray(0, n)],
      packets: output.packets,
      sendErrors: output.errors,
      sequences: output.sequences(),
    };
    say({ is: 'stats', id: message.id, stats: reply });
    return;
  }
  if (message.do === 'seconds') {
    say({ is: 'seconds', id: message.id, seconds: seconds.after(message.after) });
    return;
  }
  if (message.do === 'stop') {
    stopping = true;
    output.close(() => {
      say({ is: 'stopped' });
      port?.close();
    });
    return;
  }
  const before = conductor.shows.get(message.showId)?.engine;
  conductor.handle(message, now_ms() / 1000);
  const open = conductor.shows.get(message.showId);
  if (!open || !before || output.onAir !== before) return;
  if (message.do === 'rig') output.replace(open.engine, open.routes);
  if (message.do === 'input' && message.fade_ms > 0)
    output.fadeOver(message.universe, message.fade_ms, now_ms());
  if (message.do !== 'routes') return;
  output.setPriorities(open.priorities);
  output.setRoutes(open.routes);
}

/** What goes nowhere is told once it stays so: nodes need a moment to answer, a card to come up. */
function tellTrouble(now: number): void {
  const { problem, nowhere } = output;
  if (nowhere !== seen.nowhere) seen = { nowhere, since_ms: now };
  const lasting = nowhere === null || now - seen.since_ms >= PATIENCE_MS ? nowhere : told.nowhere;
  if (problem === told.problem && lasting === told.nowhere) return;
  told = { problem, nowhere: lasting };
  say({ is: 'output', ...told });
}

function frame(due_ms: number): void {
  const start = now_ms();
  const packets = output.packets;
  conductor.tick(start / 1000);
  output.send(start);
  tellTrouble(start);
  const at = stats.frames % KEPT_FRAMES;
  stats.late[at] = start - due_ms;
  const took_ms = now_ms() - start;
  stats.compute[at] = took_ms;
  seconds.add(start, took_ms, start - due_ms, output.packets);
  stats.frames++;
  beat.made(start, output.packets > packets);
}

/** It sleeps until this moment, where it does. */
let sleeps: { until_ms: number; timer: NodeJS.Timeout } | null = null;

/** Until the frame, or until a follow that comes before it. */
function wait(turn: number, now: number): void {
  const until_ms = Math.min(beat.due_ms, conductor.nextDue_s * 1000);
  const left_ms = until_ms - now;
  // The last millisecond goes through the event loop: a timer would be late by about as much.
  if (left_ms > 1) sleeps = { until_ms, timer: setTimeout(run, Math.floor(left_ms), turn) };
  else setImmediate(run, turn);
}

/** Something follows sooner than it was to wake up. */
function wakeInTime(): void {
  if (!sleeps || conductor.nextDue_s * 1000 >= sleeps.until_ms) return;
  clearTimeout(sleeps.timer);
  sleeps = null;
  setImmediate(run, beat.turn);
}

/** @param turn of the frame that it waits for: another one was made, or hurried past it, when that is over */
function run(turn: number): void {
  if (stopping || turn !== beat.turn) return;
  sleeps = null;
  const now = now_ms();
  if (now < beat.due_ms) {
    conductor.notice(now / 1000);
    wait(turn, now);
    return;
  }
  frame(beat.due_ms);
  // Always through the event loop, so that messages and sockets get their turn.
  setImmediate(run, beat.turn);
}

port.on('message', (message: ToClock) => {
  handle(message);
  // Those that came together are in one frame: it is made when all of them have been heard.
  if (SEEN.has(message.do) && beat.hurry(now_ms())) setImmediate(run, beat.turn);
  else wakeInTime();
});
run(beat.turn);
