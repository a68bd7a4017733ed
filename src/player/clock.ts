/** The worker thread that keeps time: renders every open show at 44 Hz and sends the one on air. Nothing else runs here. */
import { parentPort, workerData } from 'node:worker_threads';
import { Engine } from '../core/playback/engine.ts';
import type { RouteRow } from '../core/show/rows.ts';
import type { ClockSettings, ClockStats, FromClock, ToClock } from './clock-messages.ts';
import { Output } from './output.ts';

/** DMX512-A allows at most 44.1 full packets a second. */
const PERIOD_MS = 1000 / 44;
const KEPT_FRAMES = 4096;
/** A clock that fell this far behind (a suspended machine) starts again from now instead of racing. */
const GIVE_UP_MS = 500;

interface Open {
  engine: Engine;
  version: number;
  routes: RouteRow[];
  fading: Map<string, boolean>;
}

const port = parentPort;
if (!port) throw new Error('The clock runs in a worker thread.');
const output = new Output(workerData as ClockSettings);
const shows = new Map<string, Open>();
let airId: string | null = null;
let stopping = false;
let problem: string | null = null;

const say = (message: FromClock): void => port.postMessage(message);
const allocate = (bytes: number): SharedArrayBuffer => new SharedArrayBuffer(bytes);
const now_ms = (): number => performance.now();

const stats = { frames: 0, compute: new Float32Array(KEPT_FRAMES), late: new Float32Array(KEPT_FRAMES) };

const names = (open: Open): { operators: string[]; lists: string[] } => ({ operators: open.engine.operators, lists: open.engine.listIds });

function share(showId: string, open: Open): void {
  say({ is: 'shared', showId, version: open.version, shared: open.engine.shared, ...names(open) });
}

function tellStatus(showId: string, open: Open, listId: string): void {
  const { fading, ...status } = open.engine.status(listId);
  open.fading.set(listId, fading > 0);
  say({ is: 'status', showId, listId, ...status, fading: fading > 0 });
}

function handle(message: ToClock): void {
  if (message.do === 'air') {
    airId = message.showId;
    const open = airId ? shows.get(airId) : undefined;
    output.take(open?.engine ?? null, open?.routes ?? [], message.fade_s * 1000, now_ms());
    return;
  }
  if (message.do === 'stats') {
    const n = Math.min(stats.frames, KEPT_FRAMES);
    const reply: ClockStats = { frames: stats.frames, compute_ms: [...stats.compute.subarray(0, n)], late_ms: [...stats.late.subarray(0, n)], packets: output.packets, sendErrors: output.errors };
    say({ is: 'stats', id: message.id, stats: reply });
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
  if (message.do === 'open') {
    const engine = new Engine(message.slots, allocate);
    if (message.saved) engine.restore(message.saved, now_ms() / 1000);
    const open: Open = { engine, version: message.version, routes: message.routes, fading: new Map() };
    shows.set(message.showId, open);
    engine.tick(now_ms() / 1000);
    share(message.showId, open);
    for (const listId of engine.listIds) tellStatus(message.showId, open, listId);
    return;
  }
  const open = shows.get(message.showId);
  if (!open) {
    if (message.do === 'copy') say({ is: 'copied', id: message.id, copy: null });
    return;
  }
  const { engine } = open;
  const now_s = now_ms() / 1000;
  switch (message.do) {
    case 'rig': {
      const next = new Engine(message.slots, allocate);
      next.restore(engine.save(), now_s);
      next.tick(now_s);
      open.engine = next;
      open.version = message.version;
      if (output.onAir === engine) output.replace(next, open.routes);
      share(message.showId, open);
      break;
    }
    case 'routes':
      open.routes = message.routes;
      if (output.onAir === engine) output.setRoutes(message.routes);
      break;
    case 'move':
      engine.move(message.listId, message.moves, now_s);
      engine.follow(message.listId, message.follow_s);
      say({ is: 'names', showId: message.showId, ...names(open) });
      tellStatus(message.showId, open, message.listId);
      break;
    case 'retarget':
      message.slots.forEach((slot, i) => engine.retarget(message.listId, slot, message.levels[i] ?? NaN));
      break;
    case 'pause':
      engine.setPaused(message.listId, message.paused);
      tellStatus(message.showId, open, message.listId);
      break;
    case 'hold':
      message.slots.forEach((slot, i) => engine.hold(message.userId, slot, message.levels[i] ?? 0, message.fade_s, message.delay_s, now_s));
      say({ is: 'names', showId: message.showId, ...names(open) });
      break;
    case 'letgo':
      engine.letGo(message.userId, message.slots, message.fade_s, now_s);
      break;
    case 'master':
      engine.setMaster(message.level, message.blackout);
      break;
    case 'copy':
      say({ is: 'copied', id: message.id, copy: engine.copy() });
      break;
  }
}

function frame(due_ms: number): void {
  const start = now_ms();
  for (const [showId, open] of shows) {
    open.engine.tick(start / 1000);
    for (const listId of open.engine.takeDue()) say({ is: 'due', showId, listId });
    for (const [listId, was] of open.fading) {
      if (was && open.engine.status(listId).fading === 0) tellStatus(showId, open, listId);
    }
  }
  output.send(start);
  if (output.problem !== problem) {
    problem = output.problem;
    say({ is: 'output', problem });
  }
  const at = stats.frames % KEPT_FRAMES;
  stats.late[at] = start - due_ms;
  stats.compute[at] = now_ms() - start;
  stats.frames++;
}

function run(due_ms: number): void {
  if (stopping) return;
  const wait = due_ms - now_ms();
  if (wait > 0.3) {
    setTimeout(run, Math.floor(wait), due_ms);
    return;
  }
  frame(due_ms);
  const next = due_ms + PERIOD_MS;
  const late = now_ms() - next;
  // Always through the event loop, so that messages and sockets get their turn.
  setImmediate(run, late > GIVE_UP_MS ? now_ms() : next);
}

port.on('message', (message: ToClock) => handle(message));
run(now_ms() + PERIOD_MS);
