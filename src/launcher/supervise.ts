/**
 * Keeps processes running: what dies is started again, what hangs is ended and started again. One look at all of them
 * every half second; a process that a signal has stopped is found at the second look, one that no longer answers later,
 * since a busy machine makes everybody slow.
 */
import { clamp } from '../core/numbers.ts';
import type { ChildProcess } from 'node:child_process';
import { rank } from './priorities.ts';
import { end, isAlive, signal, stateOf } from './processes.ts';

const LOOK_MS = 500;
/** Stopped for so long is no accident of looking. */
const STOPPED_MS = 900;
/** A process that answered before and does not for so long hangs. */
const SILENT_MS = 8000;
const ASK_EVERY_MS = 1000;
const RESTART_FIRST_MS = 100;
const RESTART_MOST_MS = 5000;
/** A process that lived for so long died of something that befell it, and not of its start. */
const LIVED_MS = 4000;

/** A process that is kept going. */
export interface Spec {
  name: string;
  start: () => ChildProcess;
  /** Asked now and then whether it answers. Absent: only that it runs. */
  answers?: (() => Promise<boolean>) | undefined;
}

interface Kept {
  spec: Spec;
  pid: number | null;
  /** Null for a process that another launcher had started. */
  child: ChildProcess | null;
  begun_ms: number;
  wait_ms: number;
  timer: NodeJS.Timeout | null;
  stopped_ms: number | null;
  answered_ms: number | null;
  asked_ms: number;
  asking: boolean;
}

/** How long to wait before a process is started again: nothing for one that had lived, more and more for one that dies as it starts. */
export const waitBefore = (lived_ms: number, last_ms: number): number =>
  lived_ms >= LIVED_MS ? 0 : clamp(last_ms * 2, RESTART_FIRST_MS, RESTART_MOST_MS);

/** Keeps processes going: starts again what ends or does not answer. */
export class Supervisor {
  private readonly kept: Kept[] = [];
  private stopping = false;
  private looked_ms = performance.now();
  private readonly looking: NodeJS.Timeout;

  /** @param changed told whenever other processes run than before @param say a line for whoever started all this */
  constructor(
    private readonly changed: () => void,
    private readonly say: (text: string) => void,
  ) {
    this.looking = setInterval(() => this.look(), LOOK_MS);
    this.looking.unref();
  }

  keep(spec: Spec): void {
    const kept = this.fresh(spec);
    this.kept.push(kept);
    this.start(kept);
  }

  /** Takes over a process that another launcher had started. */
  adopt(spec: Spec, pid: number): void {
    this.kept.push({ ...this.fresh(spec), pid });
    this.changed();
  }

  private fresh(spec: Spec): Kept {
    return {
      spec,
      pid: null,
      child: null,
      begun_ms: performance.now(),
      wait_ms: 0,
      timer: null,
      stopped_ms: null,
      answered_ms: null,
      asked_ms: 0,
      asking: false,
    };
  }

  pids(): { name: string; pid: number }[] {
    return this.kept.flatMap((k) => (k.pid === null ? [] : [{ name: k.spec.name, pid: k.pid }]));
  }

  private start(kept: Kept): void {
    const child = kept.spec.start();
    rank(child.pid, kept.spec.name);
    Object.assign(kept, {
      child,
      pid: child.pid ?? null,
      begun_ms: performance.now(),
      timer: null,
      stopped_ms: null,
      answered_ms: null,
    });
    this.changed();
    child.once('error', () => this.ended(kept, 'it could not be started'));
    child.once('exit', (code, by) => this.ended(kept, String(by ?? code)));
  }

  private ended(kept: Kept, how: string): void {
    if (kept.pid === null && kept.timer !== null) return;
    kept.pid = null;
    kept.child = null;
    if (this.stopping) return;
    kept.wait_ms = waitBefore(performance.now() - kept.begun_ms, kept.wait_ms);
    this.say(`The ${kept.spec.name} process ended (${how}); starting it again.`);
    kept.timer = setTimeout(() => this.start(kept), kept.wait_ms);
    this.changed();
  }

  private look(): void {
    const now = performance.now();
    // A launcher that did not run itself has seen nobody hang.
    const slept = now - this.looked_ms > LOOK_MS * 4;
    this.looked_ms = now;
    if (this.stopping) return;
    for (const kept of this.kept) {
      if (kept.pid === null) continue;
      if (slept)
        Object.assign(kept, {
          stopped_ms: null,
          answered_ms: kept.answered_ms === null ? null : now,
        });
      const state = stateOf(kept.pid);
      if (kept.child === null && (state === undefined || state === 'Z')) {
        this.ended(kept, 'it is gone');
        continue;
      }
      kept.stopped_ms = state === 'T' ? (kept.stopped_ms ?? now) : null;
      if (kept.stopped_ms !== null && now - kept.stopped_ms >= STOPPED_MS)
        this.kill(kept, 'was stopped and hangs');
      else if (kept.answered_ms !== null && now - kept.answered_ms > SILENT_MS)
        this.kill(kept, 'does not answer any more');
      else void this.ask(kept, now);
    }
  }

  private kill(kept: Kept, why: string): void {
    if (kept.pid === null) return;
    this.say(`The ${kept.spec.name} process ${why}; ending it.`);
    Object.assign(kept, { stopped_ms: null, answered_ms: null });
    signal(kept.pid, 'SIGKILL');
  }

  private async ask(kept: Kept, now: number): Promise<void> {
    if (!kept.spec.answers || kept.asking || now - kept.asked_ms < ASK_EVERY_MS) return;
    kept.asking = true;
    kept.asked_ms = now;
    const { pid } = kept;
    const answered = await kept.spec.answers().catch(() => false);
    kept.asking = false;
    if (answered && kept.pid === pid) kept.answered_ms = performance.now();
  }

  /** From here on nothing is started again. */
  stopKeeping(): void {
    this.stopping = true;
    clearInterval(this.looking);
    for (const kept of this.kept) if (kept.timer) clearTimeout(kept.timer);
  }

  /** Ends the processes of a name, one after the other in their order. */
  async stop(name: string, how: NodeJS.Signals, patience_ms: number): Promise<void> {
    for (const kept of this.kept) {
      if (kept.spec.name !== name || kept.pid === null || !isAlive(kept.pid)) continue;
      await end(kept.pid, how, patience_ms);
    }
  }
}
