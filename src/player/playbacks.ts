/**
 * The cue lists of one open show as they play: where each is, what is next, and what GO, back, pause, go to, hand and
 * release tell the clock (docs/playback.md).
 */
import { cueCalled, cueFirst } from '../core/cues/called.ts';
import { formatCueNumber, parseCueNumber } from '../core/cues/number.ts';
import { cueFollowing } from '../core/cues/loops.ts';
import { cueBefore } from '../core/cues/tracking.ts';
import type { ListStatus } from '../core/live/messages.ts';
import { cueMoves, stateMoves, type Onto } from '../core/playback/moves.ts';
import type { Moves } from '../core/playback/engine.ts';
import { refuse, type Refusal, type Result } from '../core/refusal.ts';
import { RELEASE_S, type Chase, type ListRow } from '../core/lists/rows.ts';
import type { CueRow } from '../core/cues/rows.ts';
import { cameBetween } from '../core/occasions/look.ts';
import type { RowChange, Show } from '../core/show/show.ts';
import type { FromClock, ShowMessage } from './clock-messages.ts';
import { same } from '../core/same.ts';
import { formatMoment } from '../core/time/moment.ts';
import { LEAST_LOOP_S } from '../core/time/rows.ts';
import { playedTo, type Rig } from '../core/time/played-to.ts';
import { endOf, hasTrack, isInOrder, isTimed, timedCues } from '../core/time/timed.ts';
import { timingOf } from '../core/cues/times.ts';
import {
  followOf,
  nextEvent,
  positionOf,
  soughtOf,
  wentOver,
  wentThrough,
  type TrackState,
} from './track.ts';
import {
  chaseNow,
  nextStep,
  stepSeconds,
  withChange,
  type ChaseChange,
  type ChaseState,
} from './chase.ts';

export interface ListState {
  cueId: string | null;
  /** Stays when the cue on stage is deleted, so that what is next can be said. */
  cueNumber: number | null;
  /** Of the cue on stage that was deleted, should it come back. */
  leftId?: string;
  armedId?: string | null;
  /** Times that a counted link was taken, by cue id. */
  rounds?: Record<string, number>;
  chase?: ChaseState;
  rate?: number;
  master?: number;
  /** It goes along its time, or stands somewhere in it. */
  track?: TrackState;
}

type Status = Extract<FromClock, { is: 'status' }>;
type Timing = Omit<Status, 'is' | 'showId' | 'listId' | 'fading'> & { at: number };
export type Done = {
  ok: true;
  message?: string;
  /** What whoever did it should know at once. */ warning?: string;
};
export type Answer = Done | Refusal;

/** Two presses of GO within this time are one press of a switch that bounces, or of a hand that slipped. */
const SAME_PRESS_MS = 80;

/** What a deleted cue left on stage goes in this time where another is made in its place. */
const REMADE_S = 0.5;

/** What the lists need of the show that they play. */
interface PlaybacksNeeds {
  readonly id: string;
  readonly show: Show;
  onto: () => Onto;
  /** The rig, with where its slots rest. */
  rig: () => Rig;
  tell: (message: ShowMessage) => void;
  changed: (urgency: 'now' | 'soon') => void;
  /** A cue was gone into by GO: what it does besides light. */
  act: (cue: CueRow) => void;
  /** A list has let go of everything: a fader that holds it waits to be picked up. */
  released: (listId: string) => void;
  now_ms: () => number;
}

export class Playbacks {
  private readonly lists = new Map<string, ListState>();
  private readonly timing = new Map<string, Timing>();
  /** Lists into which a hand leads a cue, of which the clock has not said so yet. */
  private readonly ledIn = new Set<string>();
  private readonly pressed = new Map<string, { by: string; at_ms: number }>();

  constructor(
    private readonly needs: PlaybacksNeeds,
    saved: readonly [string, ListState][],
  ) {
    // The clock of before counted from elsewhere: a track goes on from where it was.
    for (const [id, { track, ...state }] of saved)
      this.lists.set(
        id,
        track
          ? {
              ...state,
              track: { ...track, since_ms: track.since_ms === null ? null : needs.now_ms() },
            }
          : state,
      );
  }

  saved(): [string, ListState][] {
    return [...this.lists].map(([id, state]) => {
      const position_s = this.position(id);
      const { track } = state;
      return [
        id,
        track && position_s !== undefined ? { ...state, track: { ...track, position_s } } : state,
      ];
    });
  }

  state(listId: string): ListState {
    const known = this.lists.get(listId);
    if (known) return known;
    const fresh: ListState = { cueId: null, cueNumber: null };
    this.lists.set(listId, fresh);
    return fresh;
  }

  /** Number of the cue that a list is in, null when it is in none. */
  at(listId: string): number | null {
    return this.lists.get(listId)?.cueNumber ?? null;
  }

  heard(message: Status): void {
    const { is, showId, listId, fading, ...timing } = message;
    void is;
    void showId;
    void fading;
    if (timing.hand !== null) this.ledIn.delete(listId);
    this.timing.set(listId, { ...timing, at: this.needs.now_ms() });
  }

  // --- what is next ---

  private list(listId: string): Result<ListRow> {
    return (
      this.needs.show.lists.get(listId) ??
      refuse('not-found', 'There is no such cue list.', { list: 'Unknown.' })
    );
  }

  /** The cue of the next GO, and whether it is reached by the order of the list, so that what tracks is there already. */
  next(listId: string): { cue: CueRow; inOrder: boolean; armed: boolean } | undefined {
    const { show } = this.needs;
    const list = show.lists.get(listId);
    const cues = show.cuesOf(listId);
    const state = this.lists.get(listId);
    const armed = state?.armedId ? show.cues.get(state.armedId) : undefined;
    if (armed?.listId === listId) return { cue: armed, inOrder: false, armed: true };
    const at = state?.cueNumber ?? null;
    if (at === null) return cues[0] ? { cue: cues[0], inOrder: true, armed: false } : undefined;
    const chase = chaseNow(list, state?.chase);
    if (chase?.on) {
      const cue = nextStep(cues, at, chase, state?.chase);
      return cue ? { cue, inOrder: false, armed: false } : undefined;
    }
    const current = state?.cueId ? show.cues.get(state.cueId) : undefined;
    const following = cues.find((c) => c.number > at);
    if (!current) return following ? { cue: following, inOrder: false, armed: false } : undefined;
    const done =
      current.link?.times !== undefined && (state?.rounds?.[current.id] ?? 0) >= current.link.times;
    const plain: CueRow = { ...current };
    if (done) delete plain.link;
    const cue = cueFollowing(list, cues, plain);
    return cue ? { cue, inOrder: cue === following, armed: false } : undefined;
  }

  // --- commands ---

  /** @param by who pressed; null when a follow came, or another cue said so */
  go(listId: string, by: string | null): Answer {
    const list = this.list(listId);
    if ('refused' in list) return list;
    if (by !== null) {
      const last = this.pressed.get(listId);
      if (last?.by === by && this.needs.now_ms() - last.at_ms < SAME_PRESS_MS)
        return refuse(
          'twice',
          `Two GOs within ${SAME_PRESS_MS} ms are taken as one: the list went on once.`,
        );
      this.pressed.set(listId, { by, at_ms: this.needs.now_ms() });
    }
    const state = this.state(listId);
    const byTime = by === null ? undefined : this.byTime(list, state);
    if (byTime) return byTime;
    const next = this.next(listId);
    if (!next) {
      if (this.needs.show.cuesOf(listId).length === 0)
        return refuse('end', 'This list has no cues yet: record one first.');
      if (list.atEnd === 'release') return this.release(listId, undefined);
      return refuse('end', 'This was the last cue; the list stays where it is.');
    }
    this.count(state, list, next.cue);
    const moves = next.inOrder
      ? cueMoves(this.needs.show, this.needs.onto(), next.cue)
      : stateMoves(this.needs.show, this.needs.onto(), listId, next.cue, undefined);
    this.stand(listId, next.cue, moves, { onTime: by === null });
    this.needs.act(next.cue);
    return { ok: true, message: this.cueFirst(next.cue) };
  }

  // --- along time ---

  private rate(listId: string): number {
    return this.lists.get(listId)?.rate ?? 1;
  }

  /** Where a list is on its track, in seconds; undefined where it is not on it. */
  position(listId: string): number | undefined {
    const track = this.lists.get(listId)?.track;
    return track && positionOf(track, this.rate(listId), this.needs.now_ms());
  }

  /** Where it is and whether it runs; null where the list is not on its track. */
  onTrack(listId: string): { position_s: number; runs: boolean; rate: number } | null {
    const position_s = this.position(listId);
    const runs = typeof this.lists.get(listId)?.track?.since_ms === 'number';
    return position_s === undefined ? null : { position_s, runs, rate: this.rate(listId) };
  }

  /**
   * What a GO by hand does in a list that goes by time: while time stands it goes on; while it runs the next cue comes
   * early and time goes on (undefined: an ordinary GO), or the list leaves time.
   */
  private byTime(list: ListRow, state: ListState): Answer | undefined {
    if (state.track?.since_ms !== undefined && state.track.since_ms !== null) {
      if (list.time?.onGo === 'leave') this.leaveTime(list.id);
      return undefined;
    }
    const goesOn = list.time?.on === true && hasTrack(this.needs.show, list.id);
    if (goesOn) return this.track(list.id, { do: 'play' });
    this.leaveTime(list.id);
    return undefined;
  }

  /** Its cues wait for hands again; what is under way ends. */
  private leaveTime(listId: string): void {
    const state = this.state(listId);
    if (!state.track) return;
    delete state.track;
    this.needs.tell({ do: 'follow', showId: this.needs.id, listId, follow_s: null });
    this.needs.tell({ do: 'pause', showId: this.needs.id, listId, paused: false });
  }

  /** @param c.at_s absent: where it is, or the beginning */
  track(
    listId: string,
    c: {
      do: 'play' | 'pause' | 'leave';
      at_s?: number | undefined;
      loop?: { from_s: number; to_s: number } | null | undefined;
    },
  ): Answer {
    const list = this.list(listId);
    if ('refused' in list) return list;
    if (!hasTrack(this.needs.show, listId))
      return refuse(
        'nothing',
        `Neither a cue nor a sound stands on the track of ${list.name} yet.`,
      );
    if (c.do === 'leave') {
      this.leaveTime(listId);
      this.needs.changed('now');
      return { ok: true, message: `${list.name} goes by hand` };
    }
    if (c.loop && c.loop.to_s - c.loop.from_s < LEAST_LOOP_S)
      return refuse('invalid', `What is looped takes at least ${LEAST_LOOP_S} s.`, {
        loop: 'Too short.',
      });
    const here = this.position(listId);
    // At its end it plays from the beginning.
    const isOver =
      here === undefined || (c.do === 'play' && here >= endOf(this.needs.show, listId));
    const state = this.state(listId);
    // A passage that is laid behind where it plays begins at once.
    const again = c.loop && c.do === 'play' && (here ?? 0) >= c.loop.to_s;
    const at_s = c.at_s ?? (again ? c.loop?.from_s : undefined) ?? (isOver ? 0 : here);
    // While it stood, effects went on: playing from there they are where the track has them.
    const stood = c.do === 'play' && state.track?.since_ms === null;
    if (at_s !== here || c.at_s !== undefined || !state.track || stood)
      this.seek(listId, at_s, c.do === 'play');
    const track = state.track;
    if (!track) return refuse('nothing', 'Nothing is there.');
    if (c.loop !== undefined) track.loop = c.loop ?? undefined;
    track.position_s = at_s;
    track.since_ms = c.do === 'play' ? this.needs.now_ms() : null;
    const { id, tell } = this.needs;
    tell({ do: 'pause', showId: id, listId, paused: c.do === 'pause' });
    this.tellFollow(listId, track);
    // Wound by timecode it stands at every moment: that is not kept each time.
    this.needs.changed(c.do === 'play' ? 'now' : 'soon');
    return {
      ok: true,
      message: `${list.name} ${c.do === 'play' ? 'plays from' : 'stands at'} ${formatMoment(at_s)}`,
    };
  }

  private tellFollow(listId: string, track: TrackState): void {
    const { id, show, tell } = this.needs;
    tell({ do: 'follow', showId: id, listId, follow_s: followOf(show, listId, track) });
  }

  /** As if it had been played to there: fades in their middle, effects running, what cues do besides light told and not done. */
  private seek(listId: string, at_s: number, plays: boolean): void {
    const { id, show, tell } = this.needs;
    const to = playedTo(show, this.needs.rig(), listId, at_s);
    const state = this.state(listId);
    const base_s = to.cue?.at_s ?? at_s;
    const loop = state.track?.loop;
    const track: TrackState = {
      position_s: at_s,
      since_ms: plays ? this.needs.now_ms() : null,
      base_s,
      passed: to.cue?.id,
      ...(loop ? { loop } : {}),
    };
    state.track = track;
    state.cueId = to.cue?.id ?? null;
    state.cueNumber = to.cue?.number ?? null;
    delete state.leftId;
    state.armedId = null;
    const total_s = to.cue ? timingOf(show, to.cue).total_s : 0;
    const follow_s = plays ? followOf(show, listId, track) : null;
    tell({ do: 'seek', showId: id, listId, sought: soughtOf(to, at_s, total_s), follow_s });
  }

  /** The clock says that what follows has come: a GO by itself, or the next event of a track. */
  due(listId: string): void {
    const { show } = this.needs;
    const track = this.lists.get(listId)?.track;
    if (track?.since_ms === null || track?.since_ms === undefined) {
      this.go(listId, null);
      return;
    }
    const event = nextEvent(show, listId, track);
    if (event.is === 'cue') {
      const before = track.passed === undefined ? undefined : show.cues.get(track.passed);
      const isNext =
        isInOrder(before, event.cue, show.cuesOf(listId)) &&
        this.at(listId) === (before?.number ?? null);
      const moves = isNext
        ? cueMoves(show, this.needs.onto(), event.cue)
        : stateMoves(show, this.needs.onto(), listId, event.cue, undefined);
      this.stand(listId, event.cue, moves, { onTime: true, at_s: event.at_s });
      this.needs.act(event.cue);
      return;
    }
    const from = event.is === 'loop' ? track.loop?.from_s : 0;
    // One that is over as it begins would begin again without an end, and all screens be told of it.
    const again =
      event.is === 'loop' ||
      (show.lists.get(listId)?.time?.atEnd === 'loop' && event.at_s >= LEAST_LOOP_S);
    const over_s = wentOver(track, event.at_s, this.rate(listId), this.needs.now_ms());
    if (again && from !== undefined) this.seek(listId, from + over_s, true);
    else {
      track.position_s = event.at_s;
      track.since_ms = null;
    }
    this.needs.changed('now');
  }

  /** Cues or the track were changed while it runs: what comes next is what the show says now. */
  private followTracks(rows: readonly RowChange[]): void {
    const changed = new Set<string>();
    for (const r of rows) {
      if (r.table === 'lists') changed.add(r.id);
      if (r.table === 'cues') changed.add(r.after?.listId ?? r.before?.listId ?? '');
    }
    for (const listId of changed) {
      const track = this.lists.get(listId)?.track;
      if (!track) continue;
      const now = positionOf(track, this.rate(listId), this.needs.now_ms());
      // A cue that was moved from after the position to before it has been passed.
      const passed = timedCues(this.needs.show, listId).findLast((c) => c.at_s <= now);
      track.passed = passed?.id;
      if (track.since_ms !== null) this.tellFollow(listId, track);
    }
  }

  /** A fader that is raised starts its list at the first cue. @param time_s absent: in the cue’s own time */
  start(listId: string, time_s: number | undefined): Answer {
    const first = time_s === undefined ? undefined : this.next(listId)?.cue;
    if (!first) return this.go(listId, null);
    const { show, onto } = this.needs;
    this.stand(listId, first, stateMoves(show, onto(), listId, first, time_s), { onTime: true });
    this.needs.act(first);
    return { ok: true, message: this.cueFirst(first) };
  }

  /** Counts the rounds of links and chases that this step completes. */
  private count(state: ListState, list: ListRow, next: CueRow): void {
    const { show } = this.needs;
    const current = state.cueId ? show.cues.get(state.cueId) : undefined;
    const chase = chaseNow(list, state.chase);
    if (chase?.on) state.chase = stepped(show.cuesOf(list.id), state, chase, next);
    else if (current?.link?.to === next.id && current.link.times !== undefined && !state.armedId) {
      const rounds = { ...state.rounds, [current.id]: (state.rounds?.[current.id] ?? 0) + 1 };
      state.rounds = rounds;
    } else if (current && state.rounds?.[current.id] !== undefined) {
      // Past its last round: the next time it is met it counts anew.
      const { [current.id]: done, ...rest } = state.rounds;
      void done;
      state.rounds = rest;
    }
  }

  back(listId: string): Answer {
    this.leaveTime(listId);
    const at = this.at(listId);
    const cue = at === null ? undefined : cueBefore(this.needs.show, listId, at);
    if (!cue) return refuse('end', 'There is no cue before this one.');
    this.stand(
      listId,
      cue,
      stateMoves(
        this.needs.show,
        this.needs.onto(),
        listId,
        cue,
        this.needs.show.lists.get(listId)?.back_s ?? 2,
      ),
      { follows: false },
    );
    return { ok: true, message: `Back in ${this.called(cue)}` };
  }

  goTo(listId: string, text: string, time: number | undefined): Answer {
    const cue = this.named(listId, text);
    if ('refused' in cue) return cue;
    this.leaveTime(listId);
    this.stand(listId, cue, stateMoves(this.needs.show, this.needs.onto(), listId, cue, time), {});
    return { ok: true, message: this.cueFirst(cue) };
  }

  cut(listId: string, text: string | undefined): Answer {
    const next = text === undefined ? this.next(listId)?.cue : this.named(listId, text);
    if (!next) return refuse('end', 'There is no cue to cut to.');
    if ('refused' in next) return next;
    this.leaveTime(listId);
    this.stand(listId, next, stateMoves(this.needs.show, this.needs.onto(), listId, next, 0), {});
    this.needs.act(next);
    return { ok: true, message: `Cut to ${this.called(next)}` };
  }

  private called({ listId, number }: { listId: string; number: number }): string {
    return cueCalled(this.needs.show, { listId, number });
  }

  private cueFirst({ listId, number }: { listId: string; number: number }): string {
    return cueFirst(this.needs.show, { listId, number });
  }

  private named(listId: string, text: string): Result<CueRow> {
    const number = parseCueNumber(text);
    if (number === undefined)
      return refuse('invalid', `“${text}” is not a cue number; they look like 2, 2.5 or 10.125.`, {
        cue: 'Not a cue number.',
      });
    return (
      this.needs.show.cuesOf(listId).find((c) => c.number === number) ??
      refuse('not-found', `There is no ${this.called({ listId, number })}.`, { cue: 'Unknown.' })
    );
  }

  arm(listId: string, text: string | null): Answer {
    const state = this.state(listId);
    if (text === null) {
      state.armedId = null;
      this.needs.changed('now');
      return { ok: true, message: 'The next cue is the list’s own again' };
    }
    const cue = this.named(listId, text);
    if ('refused' in cue) return cue;
    state.armedId = cue.id;
    this.needs.changed('now');
    return { ok: true, message: `${this.cueFirst(cue)} is next` };
  }

  pause(listId: string, wanted?: boolean): Answer {
    const paused = wanted ?? !(this.timing.get(listId)?.paused ?? false);
    const track = this.lists.get(listId)?.track;
    if (track) return this.track(listId, { do: paused ? 'pause' : 'play' });
    this.needs.tell({ do: 'pause', showId: this.needs.id, listId, paused });
    this.needs.changed('now');
    return { ok: true, message: paused ? 'Paused' : 'Going on' };
  }

  setRate(listId: string, rate: number): Answer {
    const list = this.list(listId);
    if ('refused' in list) return list;
    const state = this.state(listId);
    if (state.track) {
      // It goes on from where it is, at the new pace.
      state.track.position_s = this.position(listId) ?? 0;
      if (state.track.since_ms !== null) state.track.since_ms = this.needs.now_ms();
    }
    state.rate = rate;
    this.needs.tell({ do: 'rate', showId: this.needs.id, listId, rate });
    this.needs.changed('soon');
    return { ok: true };
  }

  setMaster(listId: string, level: number, time_s: number): Answer {
    const list = this.list(listId);
    if ('refused' in list) return list;
    this.state(listId).master = level;
    this.needs.tell({ do: 'list-master', showId: this.needs.id, listId, level, time_s });
    this.needs.changed('soon');
    return { ok: true };
  }

  /** Takes the running fade over by hand; without one it begins the next cue, at its very start. */
  hand(listId: string, position: number | null): Answer {
    const status = this.status(listId);
    const isLed = this.ledIn.has(listId) || status?.hand !== null || status.running;
    if (position !== null && !isLed) {
      const next = this.next(listId);
      if (!next) return refuse('end', 'There is no next cue to lead in by hand.');
      const went = this.go(listId, null);
      if ('refused' in went) return went;
      // A hand moves on before the clock has answered: it leads this one cue in, and not one more with each move.
      this.ledIn.add(listId);
    }
    if (position === null || position === 1) this.ledIn.delete(listId);
    this.needs.tell({ do: 'hand', showId: this.needs.id, listId, position });
    // At its end the fade is done, and time goes on: what follows can come.
    if (position === 1)
      this.needs.tell({ do: 'hand', showId: this.needs.id, listId, position: null });
    this.needs.changed('soon');
    return { ok: true };
  }

  release(listId: string, time: number | undefined): Answer {
    const list = this.list(listId);
    if ('refused' in list) return list;
    const state = this.state(listId);
    if (state.cueNumber === null) return refuse('nothing', `${list.name} holds nothing.`);
    this.lists.set(listId, {
      cueId: null,
      cueNumber: null,
      ...(state.rate === undefined ? {} : { rate: state.rate }),
      ...(state.master === undefined ? {} : { master: state.master }),
    });
    this.needs.tell({
      do: 'release',
      showId: this.needs.id,
      listId,
      time_s: time ?? list.release_s ?? RELEASE_S,
    });
    this.needs.released(listId);
    this.needs.changed('now');
    return { ok: true, message: `${list.name} is released` };
  }

  /** @param kept lists that something else keeps, besides those that keep themselves @returns how many let go */
  releaseAll(time: number | undefined, kept: ReadonlySet<string>): number {
    const free = [...this.needs.show.lists.values()].filter(
      (l) => !l.keepsThroughRelease && !kept.has(l.id),
    );
    const playing = free.filter((l) => this.at(l.id) !== null);
    for (const list of playing) this.release(list.id, time);
    // What was armed on a list that does not play is not armed any more either.
    const armed = free.filter((l) => this.lists.get(l.id)?.armedId);
    for (const list of armed) this.state(list.id).armedId = null;
    if (armed.length > 0) this.needs.changed('now');
    return playing.length;
  }

  /** A chase as it runs, until it is released. */
  chase(listId: string, change: ChaseChange): Answer {
    const list = this.list(listId);
    if ('refused' in list) return list;
    if (!list.chase?.on) return refuse('invalid', `${list.name} does not run as a chase.`);
    const state = this.state(listId);
    state.chase = withChange(state.chase, change);
    this.retime(list, state);
    this.needs.changed('soon');
    return { ok: true };
  }

  /** The step that is under way ends by what the chase is now; nothing follows the last of its count. */
  private retime(list: ListRow, state: ListState): void {
    if (state.cueNumber === null) return;
    const chase = chaseNow(list, state.chase);
    const isLast =
      !chase?.on || !nextStep(this.needs.show.cuesOf(list.id), state.cueNumber, chase, state.chase);
    this.needs.tell({
      do: 'follow',
      showId: this.needs.id,
      listId: list.id,
      follow_s: isLast ? null : stepSeconds(chase, state.chase),
    });
  }

  /** A chase was changed in the show while it runs: it is what the show says from now on. */
  private followChases(rows: readonly RowChange[]): void {
    for (const row of rows) {
      if (row.table !== 'lists' || !row.after || same(row.before?.chase, row.after.chase)) continue;
      const state = this.lists.get(row.id);
      const runs = row.before?.chase?.on === true || row.after.chase?.on === true;
      if (!state || !runs) continue;
      if (state.chase) {
        delete state.chase.bpm;
        delete state.chase.live;
      }
      this.retime(row.after, state);
    }
  }

  /** The list stands in a cue from now on, and the clock moves there. */
  stand(
    listId: string,
    cue: CueRow,
    moves: Moves,
    {
      follows = true,
      onTime = false,
      at_s,
    }: { follows?: boolean; onTime?: boolean; at_s?: number },
  ): void {
    const { id, show, tell } = this.needs;
    const list = show.lists.get(listId);
    const state = this.state(listId);
    state.cueId = cue.id;
    state.cueNumber = cue.number;
    delete state.leftId;
    state.armedId = null;
    tell({ do: 'pause', showId: id, listId, paused: false });
    if (state.track) {
      const rate = this.rate(listId);
      const now_ms = this.needs.now_ms();
      const now_s = at_s ?? positionOf(state.track, rate, now_ms);
      if (isTimed(cue)) state.track.passed = cue.id;
      state.track.base_s = now_s;
      state.track.since_ms =
        at_s === undefined ? now_ms : wentThrough(state.track, at_s, rate, now_ms);
      state.track.position_s = now_s;
      const follow_s = followOf(show, listId, state.track);
      tell({ do: 'move', showId: id, listId, moves, follow_s, from: 'go', onTime });
      this.needs.changed('now');
      return;
    }
    const chase = chaseNow(list, state.chase);
    if (chase?.on) {
      const step = stepSeconds(chase, state.chase);
      const fade = step * chase.share;
      moves.up.fill(fade);
      moves.down.fill(fade);
      moves.delay.fill(0);
      const last = nextStep(show.cuesOf(listId), cue.number, chase, state.chase) === undefined;
      tell({
        do: 'move',
        showId: id,
        listId,
        moves,
        follow_s: follows && !last ? step : null,
        from: 'go',
        onTime,
      });
    } else {
      const after = cue.follow_s ?? cue.after_s ?? null;
      tell({
        do: 'move',
        showId: id,
        listId,
        moves,
        follow_s: follows ? after : null,
        from: cue.follow_s === null ? 'end' : 'go',
        onTime,
      });
    }
    this.needs.changed('now');
  }

  /** The list is where it was before a recording that was undone, armed cue and rounds included; nothing follows from it. */
  putBack(listId: string, before: ListState, moves: Moves): void {
    const { id, tell } = this.needs;
    this.lists.set(listId, { ...before });
    if (before.cueNumber === null) tell({ do: 'release', showId: id, listId, time_s: 0 });
    else tell({ do: 'move', showId: id, listId, moves, follow_s: null });
    this.needs.changed('now');
  }

  /** Cues whose time of day has come since the last look go by themselves, in the order of their times. @param from left out, to within, less than a day later */
  clockCame(from: Date, to: Date): void {
    const due: { cue: CueRow; at: number }[] = [];
    for (const cue of this.needs.show.cues.values()) {
      const at = cue.clock === undefined ? undefined : cameBetween(cue.clock, from, to);
      if (at) due.push({ cue, at: at.getTime() });
    }
    for (const { cue } of due.sort((a, b) => a.at - b.at || a.cue.number - b.cue.number)) {
      if (this.next(cue.listId)?.cue.id === cue.id) this.go(cue.listId, null);
      else this.goTo(cue.listId, formatCueNumber(cue.number), undefined);
    }
  }

  /** The cue on stage keeps its number when it is renumbered, and leaves its number behind when it is deleted. @returns lists whose cue was deleted */
  followEdits(rows: readonly RowChange[]): Set<string> {
    this.followChases(rows);
    this.followTracks(rows);
    const orphaned = new Set<string>();
    const cues = new Map(
      rows.flatMap((r) => (r.table === 'cues' ? [[r.id, r.after] as const] : [])),
    );
    for (const [listId, state] of this.lists) {
      const row = state.cueId === null ? undefined : cues.get(state.cueId);
      if (row) state.cueNumber = row.number;
      else if (row === null) {
        if (state.cueId !== null) state.leftId = state.cueId;
        state.cueId = null;
        orphaned.add(listId);
      } else if (state.cueId === null && state.cueNumber !== null) {
        // It was brought back, or made anew.
        for (const cue of cues.values())
          if (cue?.listId === listId && cue.number === state.cueNumber) this.standsIn(state, cue);
      }
      if (state.armedId && cues.get(state.armedId) === null) state.armedId = null;
      if (!this.needs.show.lists.has(listId)) {
        this.lists.delete(listId);
        this.needs.tell({ do: 'release', showId: this.needs.id, listId, time_s: RELEASE_S });
      }
    }
    return orphaned;
  }

  /** A list whose cue was deleted is in one again: that one, or another that was made in its place, which says all that shows. */
  private standsIn(state: ListState, cue: CueRow): void {
    const { id: showId, show, tell, onto } = this.needs;
    state.cueId = cue.id;
    if (cue.id !== state.leftId) {
      // What it says is there at once, as it is with any edit of the cue on stage.
      const moves = stateMoves(show, onto(), cue.listId, cue, 0);
      moves.level.forEach((level, i) => {
        if (Number.isNaN(level)) moves.up[i] = moves.down[i] = REMADE_S;
      });
      tell({ do: 'move', showId, listId: cue.listId, moves, follow_s: null });
    }
    delete state.leftId;
  }

  /** Seconds of the fade that have gone by, now. */
  private elapsed(t: Timing | undefined): number {
    if (!t) return 0;
    const since = t.paused || t.hand !== null ? 0 : ((this.needs.now_ms() - t.at) / 1000) * t.rate;
    return Math.min(t.elapsed_s + since, t.total_s);
  }

  status(listId: string): ListStatus | undefined {
    const list = this.needs.show.lists.get(listId);
    if (!list) return undefined;
    const state = this.lists.get(listId);
    const t = this.timing.get(listId);
    const next = this.next(listId);
    const elapsed_s = this.elapsed(t);
    const since = t && !t.paused ? ((this.needs.now_ms() - t.at) / 1000) * t.rate : 0;
    return {
      id: listId,
      name: list.name,
      cueId: state?.cueId ?? null,
      cueNumber: state?.cueNumber ?? null,
      nextId: next?.cue.id ?? null,
      armed: next?.armed ?? false,
      elapsed_s,
      total_s: t?.total_s ?? 0,
      paused: t?.paused ?? false,
      running: t !== undefined && elapsed_s < t.total_s,
      active: (state?.cueNumber ?? null) !== null,
      rate: state?.rate ?? 1,
      master: state?.master ?? 1,
      hand: t?.hand ?? null,
      followIn_s:
        t?.followIn_s === null || t?.followIn_s === undefined
          ? null
          : Math.max(0, t.followIn_s - since),
      ...this.chaseStatus(list, state?.chase),
      rounds: state?.rounds ?? {},
      track: this.trackStatus(listId, state?.track),
    };
  }

  private trackStatus(listId: string, track: TrackState | undefined): ListStatus['track'] {
    if (!track) return null;
    const told_ms = this.needs.now_ms();
    return {
      position_s: positionOf(track, this.rate(listId), told_ms),
      told_ms,
      runs: track.since_ms !== null,
      loop: track.loop ?? null,
    };
  }

  private chaseStatus(
    list: ListRow,
    state: ChaseState | undefined,
  ): Pick<ListStatus, 'bpm' | 'chase'> {
    const chase = chaseNow(list, state);
    if (!chase?.on) return { bpm: null, chase: null };
    const { share, direction, count = 0 } = chase;
    return {
      bpm: Math.round((60 / stepSeconds(chase, state)) * 10) / 10,
      chase: { share, direction, count, differs: !!state?.live || state?.bpm !== undefined },
    };
  }

  /** In the order of their numbers. */
  statuses(): ListStatus[] {
    return [...this.needs.show.lists.values()]
      .sort((a, b) => a.number - b.number)
      .flatMap((l) => this.status(l.id) ?? []);
  }
}

function stepped(
  cues: readonly CueRow[],
  state: ListState,
  chase: Chase,
  next: CueRow,
): ChaseState {
  const was: ChaseState = state.chase ?? { way: 1, rounds: 0 };
  const from = cues.findIndex((c) => c.number === state.cueNumber);
  const to = cues.indexOf(next);
  const leads = to > from ? 1 : -1;
  const way = chase.direction === 'bounce' ? leads : was.way;
  const steps = (was.steps ?? 0) + 1;
  /** Whether a round ends with this step. */
  const turns: Record<Chase['direction'], boolean> = {
    forward: to <= from && from >= 0,
    back: to > from,
    bounce: way !== was.way && from >= 0,
    random: steps >= cues.length,
  };
  const turned = turns[chase.direction];
  return {
    ...was,
    way,
    rounds: was.rounds + (turned ? 1 : 0),
    steps: chase.direction === 'random' && turned ? 0 : steps,
  };
}
