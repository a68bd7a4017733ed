/**
 * A list in fast motion: the real player on a clock of its own, without output. Plays every cue as an operator would,
 * and notes what it meets.
 */
import { readSlotKey, slotKey, type CueRow } from '../core/cues/rows.ts';
import { openShow } from './open-show.ts';
import { formatCueNumber } from '../core/cues/number.ts';
import { isRefusal } from '../core/refusal.ts';
import { familyOf } from '../core/rig/attributes.ts';
import type { MutableShow } from '../core/show/show.ts';
import type { FromClock, ShowMessage } from './clock-messages.ts';
import { Conductor } from './conductor.ts';
import type { LiveShow } from './live-show.ts';

/** How a list went when it was played through faster than it is. */
export interface Rehearsed {
  cues: number;
  played_s: number;
  took_ms: number;
  met: { cueId: string | null; text: string }[];
}

/** Seconds between frames: coarse enough to be fast, fine enough to see what moves. */
const STEP_S = 0.1;
/** A list that has not ended after so many GOs goes round. */
const ROUNDS = 3;
const LONGEST_S = 6 * 3600;
const MET_MOST = 200;
/** Levels that nobody sees. */
const LIT = 0.02;
const MOVED = 0.002;

/** By itself for longer than this is no waiting any more. */
const PATIENCE_S = 600;
const NAMED_MOST = 8;

/** A real player that nobody watches, on a clock that is led. */
class Stage {
  readonly live: LiveShow;
  now_s = 0;
  private readonly queue: FromClock[] = [];
  private readonly conductor = new Conductor((m) => this.queue.push(m));

  constructor(show: MutableShow) {
    const { conductor } = this;
    this.live = openShow({
      id: 'rehearsal',
      copy: { show, seq: 0 },
      clock: {
        tell: (m) => conductor.handle(m as ShowMessage, this.now_s),
        copy: () => Promise.resolve(null),
      },
      audience: {
        playback: () => undefined,
        programmer: () => undefined,
        slots: () => undefined,
        over: () => undefined,
        changed: () => undefined,
        touched: () => undefined,
        present: () => true,
        people: () => [],
        word: () => undefined,
        journal: () => undefined,
        version: () => undefined,
        sound: () => 1,
      },
      saved: null,
      now_ms: () => this.now_s * 1000,
    });
    this.drain();
  }

  /** One step on: the clock, and then what it has said. */
  tick(): void {
    this.now_s += STEP_S;
    this.conductor.tick(this.now_s);
    this.drain();
  }

  private drain(): void {
    for (let m = this.queue.shift(); m; m = this.queue.shift()) this.live.heard(m);
  }
}

interface Head {
  slot: number;
  dimmer: number;
  number: number;
}

/** Directions of heads, with the dimmer that says whether anybody sees them. */
const headsOf = (live: LiveShow, show: MutableShow): Head[] =>
  live.slots.keys.flatMap((key, slot) => {
    const { fixtureId, attribute } = readSlotKey(key);
    const dimmer = live.slots.keys.indexOf(slotKey(fixtureId, 'Dimmer'));
    return familyOf(attribute) === 'position' && dimmer >= 0
      ? [{ slot, dimmer, number: show.fixtures.get(fixtureId)?.number ?? 0 }]
      : [];
  });

class Rehearsal {
  readonly met: Rehearsed['met'] = [];
  readonly visited = new Set<string>();
  readonly stage: Stage;
  private readonly heads: readonly Head[];
  private before: Float32Array;
  private readonly cues: readonly CueRow[];

  constructor(
    private readonly show: MutableShow,
    private readonly listId: string,
  ) {
    this.stage = new Stage(show);
    const { live } = this.stage;
    this.heads = headsOf(live, show);
    this.before = live.shared ? Float32Array.from(live.shared.merged) : new Float32Array(0);
    this.cues = show.cuesOf(listId);
  }

  private note(cueId: string | null, text: string): void {
    if (this.met.length < MET_MOST && !this.met.some((m) => m.cueId === cueId && m.text === text))
      this.met.push({ cueId, text });
  }

  private get onStage(): CueRow | undefined {
    return this.show.cues.get(this.stage.live.lists.state(this.listId).cueId ?? '');
  }

  /** Heads that travel while somebody sees them. */
  private noteMoving(merged: Float32Array): void {
    const lit = (levels: Float32Array, h: Head): boolean => (levels[h.dimmer] ?? 0) > LIT;
    const moving = this.heads.filter(
      (h) =>
        Math.abs((merged[h.slot] ?? 0) - (this.before[h.slot] ?? 0)) > MOVED * STEP_S &&
        lit(merged, h) &&
        lit(this.before, h),
    );
    const cue = this.onStage;
    if (!cue || moving.length === 0) return;
    const numbers = [...new Set(moving.map((h) => h.number))].slice(0, NAMED_MOST).join(', ');
    this.note(cue.id, `${numbers} travel while lit in cue ${formatCueNumber(cue.number)}.`);
  }

  private noteActions(): void {
    for (const report of this.stage.live.actions.reports.splice(0)) {
      const from = [...this.show.cues.values()].find(
        (c) => formatCueNumber(c.number) === report.cue && c.actions,
      );
      this.note(from?.id ?? null, `Cue ${report.cue}: ${report.text}`);
    }
  }

  private frame(): void {
    this.stage.tick();
    const { shared } = this.stage.live;
    if (!shared) return;
    this.noteMoving(shared.merged);
    this.before = Float32Array.from(shared.merged);
    this.noteActions();
  }

  /** Until the list waits for somebody. @returns whether it does */
  private playOn(): boolean {
    const { stage, listId } = this;
    const until_s = stage.now_s + PATIENCE_S;
    while (stage.now_s < until_s) {
      this.frame();
      const status = stage.live.lists.status(listId);
      if (status?.cueId) this.visited.add(status.cueId);
      if (status?.running !== true && status?.followIn_s === null) return true;
    }
    return false;
  }

  private noteDark(): void {
    if (this.stage.live.lit().length > 0) return;
    if (this.visited.size <= 1 || this.visited.size >= this.cues.length) return;
    const cue = this.onStage;
    if (!cue) return;
    const name = cue.name ? ` “${cue.name}”` : '';
    this.note(
      cue.id,
      `The stage is dark when cue ${formatCueNumber(cue.number)}${name} has ended.`,
    );
  }

  /** From a round that does not end to the first cue that nobody has seen. @returns false where there is none */
  private leaveRound(): boolean {
    const { lists } = this.stage.live;
    this.note(
      lists.state(this.listId).cueId,
      'It goes on by itself for more than ten minutes: played on by hand from here.',
    );
    const next = this.cues.find((c) => !this.visited.has(c.id));
    if (!next || !lists.status(this.listId)) return false;
    lists.goTo(this.listId, formatCueNumber(next.number), 0);
    return true;
  }

  /** Through rounds, each left where it does not end. @returns false where one cannot be left */
  private playUntilItWaits(): boolean {
    while (!this.playOn()) if (this.stage.now_s > LONGEST_S || !this.leaveRound()) return false;
    return true;
  }

  play(): void {
    const { stage, listId, cues } = this;
    const { lists } = stage.live;
    const most = cues.length * ROUNDS + 1;
    for (let gos = 0; gos < most && stage.now_s < LONGEST_S;) {
      const status = lists.status(listId);
      if (!status?.nextId) break;
      if (this.visited.has(status.nextId) && this.visited.size === cues.length) break;
      // An operator waits for what comes by itself, and presses GO where the list waits.
      if (status.followIn_s === null) {
        const answer = lists.go(listId, null);
        if (isRefusal(answer)) {
          this.note(status.cueId, answer.message);
          break;
        }
        gos++;
      }
      if (!this.playUntilItWaits()) break;
      this.noteDark();
    }
    this.noteMissed();
  }

  private noteMissed(): void {
    const missed = this.cues.filter((c) => !this.visited.has(c.id));
    const [first] = missed;
    if (!first) return;
    const numbers = missed.slice(0, NAMED_MOST).map((c) => formatCueNumber(c.number));
    const more = missed.length > NAMED_MOST ? ' …' : '';
    const [cues, are] = missed.length === 1 ? ['Cue', 'is'] : ['Cues', 'are'];
    this.note(first.id, `${cues} ${numbers.join(', ')}${more} ${are} never reached.`);
  }
}

/** @param clock_ms how long it took is told by it */
export function rehearse(
  show: MutableShow,
  listId: string,
  clock_ms: () => number = () => performance.now(),
): Rehearsed {
  const began = clock_ms();
  const rehearsal = new Rehearsal(show, listId);
  rehearsal.play();
  return {
    cues: rehearsal.visited.size,
    played_s: Math.round(rehearsal.stage.now_s * 10) / 10,
    took_ms: Math.round(clock_ms() - began),
    met: rehearsal.met,
  };
}
