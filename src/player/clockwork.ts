/**
 * The clock, without its thread: what it is told, the frames that it makes 44 times a second and sends, and what it says.
 * A frame is due by the beat; what follows in between is noticed when it comes, and what hands do hurries one.
 */
import type { Nowhere } from '../core/live/messages.ts';
import type { ClockStats, FromClock, ShowMessage, ToClock } from './clock-messages.ts';
import type { Conductor } from './conductor.ts';
import { Beat, PERIOD_MS } from './pace.ts';
import { SecondCounts } from './second-counts.ts';
import type { Output } from './sending/output.ts';

const KEPT_FRAMES = 4096;
/** What goes nowhere is told once it stays so: nodes need a moment to answer, a card to come up. */
const PATIENCE_MS = 2000;

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

/** What the clock plays with; tests bring their own. */
export interface ClockNeeds {
  readonly output: Pick<
    Output,
    | 'close'
    | 'counts'
    | 'errors'
    | 'fadeOver'
    | 'goOnFrom'
    | 'nowhere'
    | 'onAir'
    | 'packets'
    | 'problem'
    | 'replace'
    | 'send'
    | 'sequences'
    | 'setNetwork'
    | 'setPriorities'
    | 'setRoutes'
    | 'take'
  >;
  readonly conductor: Pick<Conductor, 'handle' | 'nextDue_s' | 'notice' | 'shows' | 'tick'>;
  say: (message: FromClock) => void;
  /** Monotonic milliseconds. */
  now_ms: () => number;
  /** After its last word. */
  ended: () => void;
}

type Trouble = { problem: string | null; nowhere: Nowhere | null };

/** How its newest frames went, in fixed arrays: a frame adds no garbage. */
class Frames {
  count = 0;
  private readonly compute_ms = new Float32Array(KEPT_FRAMES);
  private readonly late_ms = new Float32Array(KEPT_FRAMES);

  made(compute_ms: number, late_ms: number): void {
    const at = this.count % KEPT_FRAMES;
    this.compute_ms[at] = compute_ms;
    this.late_ms[at] = late_ms;
    this.count++;
  }

  kept(): { compute_ms: number[]; late_ms: number[] } {
    const n = Math.min(this.count, KEPT_FRAMES);
    return {
      compute_ms: [...this.compute_ms.subarray(0, n)],
      late_ms: [...this.late_ms.subarray(0, n)],
    };
  }
}

/** The clock: frames at their times, whatever else happens. */
export class Clockwork {
  private readonly beat: Beat;
  private readonly frames = new Frames();
  private readonly seconds = new SecondCounts();
  private stopping = false;
  private seen: { nowhere: Nowhere | null; since_ms: number } = { nowhere: null, since_ms: 0 };
  private told: Trouble = { problem: null, nowhere: null };
  /** It sleeps until this moment, where it does. */
  private sleeps: { until_ms: number; timer: NodeJS.Timeout } | null = null;

  constructor(private readonly needs: ClockNeeds) {
    this.beat = new Beat(needs.now_ms() + PERIOD_MS);
  }

  /** Makes frames from here on, until it is told to stop. */
  begin(): void {
    this.run(this.beat.turn);
  }

  hear(message: ToClock): void {
    if (message.do === 'stop') this.stop();
    else this.handle(message);
    // Those that came together are in one frame: it is made when all of them have been heard.
    if (SEEN.has(message.do) && this.beat.hurry(this.needs.now_ms()))
      setImmediate(this.run, this.beat.turn);
    else this.wakeInTime();
  }

  private handle(message: Exclude<ToClock, { do: 'stop' }>): void {
    const { output, conductor, say, now_ms } = this.needs;
    switch (message.do) {
      case 'air': {
        const open = message.showId ? conductor.shows.get(message.showId) : undefined;
        output.setPriorities(open?.priorities ?? new Map());
        output.take(open?.engine ?? null, open?.routes ?? [], message.fade_s * 1000, now_ms());
        return;
      }
      case 'network':
        return output.setNetwork(message.network);
      case 'sequences':
        return output.goOnFrom(message.from);
      case 'stats':
        return say({ is: 'stats', id: message.id, stats: this.stats() });
      case 'seconds':
        return say({ is: 'seconds', id: message.id, seconds: this.seconds.after(message.after) });
      default:
        this.ofShow(message);
    }
  }

  /** What concerns one show; where it is the one on air, its output goes along. */
  private ofShow(message: ShowMessage): void {
    const { output, conductor, now_ms } = this.needs;
    const before = conductor.shows.get(message.showId)?.engine;
    conductor.handle(message, now_ms() / 1000);
    const open = conductor.shows.get(message.showId);
    if (!open || !before || output.onAir !== before) return;
    if (message.do === 'rig') output.replace(open.engine, open.routes);
    else if (message.do === 'input' && message.fade_ms > 0)
      output.fadeOver(message.universe, message.fade_ms, now_ms());
    else if (message.do === 'routes') {
      output.setPriorities(open.priorities);
      output.setRoutes(open.routes);
    }
  }

  private stats(): ClockStats {
    const { output } = this.needs;
    return {
      ...this.frames.kept(),
      lines: output.counts(),
      frames: this.frames.count,
      packets: output.packets,
      sendErrors: output.errors,
      sequences: output.sequences(),
    };
  }

  private stop(): void {
    this.stopping = true;
    this.needs.output.close(() => {
      this.needs.say({ is: 'stopped' });
      this.needs.ended();
    });
  }

  private tellTrouble(now_ms: number): void {
    const { problem, nowhere } = this.needs.output;
    if (nowhere !== this.seen.nowhere) this.seen = { nowhere, since_ms: now_ms };
    const isSure = nowhere === null || now_ms - this.seen.since_ms >= PATIENCE_MS;
    const lasting = isSure ? nowhere : this.told.nowhere;
    if (problem === this.told.problem && lasting === this.told.nowhere) return;
    this.told = { problem, nowhere: lasting };
    this.needs.say({ is: 'output', ...this.told });
  }

  private frame(due_ms: number): void {
    const { output, conductor, now_ms } = this.needs;
    const start_ms = now_ms();
    const before = output.packets;
    conductor.tick(start_ms / 1000);
    output.send(start_ms);
    this.tellTrouble(start_ms);
    const took_ms = now_ms() - start_ms;
    this.frames.made(took_ms, start_ms - due_ms);
    this.seconds.add(start_ms, took_ms, start_ms - due_ms, output.packets);
    this.beat.made(start_ms, output.packets > before);
  }

  /** @param turn of the frame that it waits for: another one was made, or hurried past it, when that is over */
  private readonly run = (turn: number): void => {
    if (this.stopping || turn !== this.beat.turn) return;
    this.sleeps = null;
    const now_ms = this.needs.now_ms();
    if (now_ms < this.beat.due_ms) {
      this.needs.conductor.notice(now_ms / 1000);
      this.wait(turn, now_ms);
      return;
    }
    this.frame(this.beat.due_ms);
    // Always through the event loop, so that messages and sockets get their turn.
    setImmediate(this.run, this.beat.turn);
  };

  /** Until the frame, or until a follow that comes before it. */
  private wait(turn: number, now_ms: number): void {
    const until_ms = Math.min(this.beat.due_ms, this.needs.conductor.nextDue_s * 1000);
    const left_ms = until_ms - now_ms;
    // The last millisecond goes through the event loop: a timer would be late by about as much.
    if (left_ms > 1)
      this.sleeps = { until_ms, timer: setTimeout(this.run, Math.floor(left_ms), turn) };
    else setImmediate(this.run, turn);
  }

  /** Something follows sooner than it was to wake up. */
  private wakeInTime(): void {
    if (!this.sleeps || this.needs.conductor.nextDue_s * 1000 >= this.sleeps.until_ms) return;
    clearTimeout(this.sleeps.timer);
    this.sleeps = null;
    setImmediate(this.run, this.beat.turn);
  }
}
