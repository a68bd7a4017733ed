/**
 * The cue lists of one open show as they play: what GO, back, pause, go to, hand and release make of where each stands,
 * and what they tell the clock (docs/playback.md).
 */
import { cueCalled, cueFirst } from '../../core/cues/called.ts';
import { formatCueNumber } from '../../core/cues/number.ts';
import type { CueRow } from '../../core/cues/rows.ts';
import { cueBefore } from '../../core/cues/tracking.ts';
import { RELEASE_S } from '../../core/lists/rows.ts';
import type { ListStatus } from '../../core/live/messages.ts';
import { cameBetween } from '../../core/occasions/look.ts';
import type { Moves } from '../../core/playback/list-moves.ts';
import { stateMoves } from '../../core/playback/moves.ts';
import { refuse } from '../../core/refusal.ts';
import type { RowChange } from '../../core/show/show.ts';
import type { Answer } from '../answer.ts';
import { followEdits } from './after-edits.ts';
import { changeTrack, goByTime, leaveTime, trackCame, type TrackChange } from './along-time.ts';
import type { ChaseChange } from './chase.ts';
import { changeChase } from './chases.ts';
import { byNumber, countRound, cueNamed, nextOf, type Next } from './next.ts';
import { goInto, movesInto, stand } from './stand.ts';
import { ListStates, type ListsNeeds, type ListState } from './states.ts';
import { statuses, statusOf } from './status.ts';

/** Two presses of GO within this time are one press of a switch that bounces, or of a hand that slipped. */
const SAME_PRESS_MS = 80;

/** Seconds that back takes where the list says nothing. */
const BACK_S = 2;

/** Cue lists of one show: what a hand, a clock or another list does with them. */
export class Playbacks {
  private readonly states: ListStates;
  /** Lists into which a hand leads a cue, of which the clock has not said so yet. */
  private readonly ledIn = new Set<string>();
  private readonly pressed = new Map<string, { by: string; at_ms: number }>();

  constructor(
    private readonly needs: ListsNeeds,
    saved: readonly [string, ListState][],
  ) {
    this.states = new ListStates(needs, saved);
  }

  // --- where they are ---

  saved = (): [string, ListState][] => this.states.saved();
  state = (listId: string): ListState => this.states.of(listId);
  /** Number of the cue that a list is in, null when it is in none. */
  at = (listId: string): number | null => this.states.at(listId);
  onTrack = (listId: string): ReturnType<ListStates['onTrack']> => this.states.onTrack(listId);
  next = (listId: string): Next | undefined =>
    nextOf(this.needs.show, listId, this.states.all.get(listId));
  statuses = (): ListStatus[] => statuses(this.states);
  status(listId: string): ListStatus | undefined {
    const list = this.needs.show.lists.get(listId);
    return list && statusOf(this.states, list);
  }

  // --- what comes by itself ---

  heard(message: Parameters<ListStates['heard']>[0]): void {
    if (message.hand !== null) this.ledIn.delete(message.listId);
    this.states.heard(message);
  }

  /** The clock says that what follows has come: a GO by itself, or the next event of a track. */
  due(listId: string): void {
    const track = this.states.all.get(listId)?.track;
    if (track && track.since_ms !== null) trackCame(this.states, listId, track);
    else this.go(listId, null);
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

  /** @returns lists whose cue on stage was deleted */
  followEdits = (rows: readonly RowChange[]): Set<string> => followEdits(this.states, rows);

  // --- into a cue ---

  /** @param by who pressed; null when a follow came, or another cue said so */
  go(listId: string, by: string | null): Answer {
    const list = this.states.list(listId);
    if ('refused' in list) return list;
    if (by !== null) {
      const now_ms = this.needs.now_ms();
      const last = this.pressed.get(listId);
      if (last?.by === by && now_ms - last.at_ms < SAME_PRESS_MS)
        return refuse(
          'twice',
          `Two GOs within ${SAME_PRESS_MS} ms are taken as one: the list went on once.`,
        );
      this.pressed.set(listId, { by, at_ms: now_ms });
    }
    const state = this.states.of(listId);
    const byTime = by === null ? undefined : goByTime(this.states, list, state);
    if (byTime) return byTime;
    const next = this.next(listId);
    if (!next) {
      if (this.needs.show.cuesOf(listId).length === 0)
        return refuse('end', 'This list has no cues yet: record one first.');
      if (list.atEnd === 'release') return this.release(listId, undefined);
      return refuse('end', 'This was the last cue; the list stays where it is.');
    }
    countRound(this.needs.show, list, state, next.cue);
    const moves = movesInto(this.states, next.cue, next.inOrder);
    return {
      ok: true,
      message: goInto(this.states, next.cue, moves, { onTime: by === null }),
    };
  }

  /** A fader that is raised starts its list at the first cue. @param time_s absent: in the cue’s own time */
  start(listId: string, time_s: number | undefined): Answer {
    const first = time_s === undefined ? undefined : this.next(listId)?.cue;
    if (!first) return this.go(listId, null);
    const message = goInto(this.states, first, this.movesTo(first, time_s), { onTime: true });
    return { ok: true, message };
  }

  back(listId: string): Answer {
    leaveTime(this.states, listId);
    const { show } = this.needs;
    const at = this.at(listId);
    const cue = at === null ? undefined : cueBefore(show, listId, at);
    if (!cue) return refuse('end', 'There is no cue before this one.');
    const moves = this.movesTo(cue, show.lists.get(listId)?.back_s ?? BACK_S);
    stand(this.states, cue, moves, { follows: false });
    return { ok: true, message: `Back in ${cueCalled(show, byNumber(cue))}` };
  }

  goTo(listId: string, text: string, time: number | undefined): Answer {
    const cue = cueNamed(this.needs.show, listId, text);
    if ('refused' in cue) return cue;
    leaveTime(this.states, listId);
    stand(this.states, cue, this.movesTo(cue, time));
    return { ok: true, message: cueFirst(this.needs.show, byNumber(cue)) };
  }

  cut(listId: string, text: string | undefined): Answer {
    const { show } = this.needs;
    const next = text === undefined ? this.next(listId)?.cue : cueNamed(show, listId, text);
    if (!next) return refuse('end', 'There is no cue to cut to.');
    if ('refused' in next) return next;
    leaveTime(this.states, listId);
    goInto(this.states, next, this.movesTo(next, 0), {});
    return { ok: true, message: `Cut to ${cueCalled(show, byNumber(next))}` };
  }

  arm(listId: string, text: string | null): Answer {
    const state = this.states.of(listId);
    const cue = text === null ? null : cueNamed(this.needs.show, listId, text);
    if (cue && 'refused' in cue) return cue;
    state.armedId = cue?.id ?? null;
    this.needs.changed('now');
    return {
      ok: true,
      message: cue
        ? `${cueFirst(this.needs.show, byNumber(cue))} is next`
        : 'The next cue is the list’s own again',
    };
  }

  /** The list stands in a cue that was recorded from what is on stage; nothing follows from it. */
  standIn = (cue: CueRow, moves: Moves): void => stand(this.states, cue, moves, { follows: false });

  /** The list is where it was before a recording that was undone, armed cue and rounds included; nothing follows from it. */
  putBack(listId: string, before: ListState, moves: Moves): void {
    const { id, tell } = this.needs;
    this.states.all.set(listId, { ...before });
    if (before.cueNumber === null) tell({ do: 'release', showId: id, listId, time_s: 0 });
    else tell({ do: 'move', showId: id, listId, moves, follow_s: null });
    this.needs.changed('now');
  }

  /** All that a cue has come to be, in a time of its own or in the cue’s. */
  private movesTo = (cue: CueRow, time_s: number | undefined): Moves =>
    stateMoves(this.needs.show, this.needs.onto(), cue.listId, cue, time_s);

  // --- how they go ---

  track(listId: string, change: TrackChange): Answer {
    const list = this.states.list(listId);
    return 'refused' in list ? list : changeTrack(this.states, list, change);
  }

  chase(listId: string, change: ChaseChange): Answer {
    const list = this.states.list(listId);
    return 'refused' in list ? list : changeChase(this.states, list, change);
  }

  pause(listId: string, wanted?: boolean): Answer {
    const paused = wanted ?? !(this.states.fade(listId)?.paused ?? false);
    if (this.states.all.get(listId)?.track)
      return this.track(listId, { do: paused ? 'pause' : 'play' });
    this.needs.tell({ do: 'pause', showId: this.needs.id, listId, paused });
    this.needs.changed('now');
    return { ok: true, message: paused ? 'Paused' : 'Going on' };
  }

  setRate(listId: string, rate: number): Answer {
    const list = this.states.list(listId);
    if ('refused' in list) return list;
    const state = this.states.of(listId);
    if (state.track) {
      // It goes on from where it is, at the new pace.
      state.track.position_s = this.states.position(listId) ?? 0;
      if (state.track.since_ms !== null) state.track.since_ms = this.needs.now_ms();
    }
    state.rate = rate;
    this.needs.tell({ do: 'rate', showId: this.needs.id, listId, rate });
    this.needs.changed('soon');
    return { ok: true };
  }

  setMaster(listId: string, level: number, time_s: number): Answer {
    const list = this.states.list(listId);
    if ('refused' in list) return list;
    this.states.of(listId).master = level;
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
    const { id, tell, changed } = this.needs;
    tell({ do: 'hand', showId: id, listId, position });
    // At its end the fade is done, and time goes on: what follows can come.
    if (position === 1) tell({ do: 'hand', showId: id, listId, position: null });
    changed('soon');
    return { ok: true };
  }

  // --- out ---

  release(listId: string, time: number | undefined): Answer {
    const list = this.states.list(listId);
    if ('refused' in list) return list;
    const state = this.states.of(listId);
    if (state.cueNumber === null) return refuse('nothing', `${list.name} holds nothing.`);
    this.states.all.set(listId, {
      cueId: null,
      cueNumber: null,
      ...(state.rate === undefined ? {} : { rate: state.rate }),
      ...(state.master === undefined ? {} : { master: state.master }),
    });
    const time_s = time ?? list.release_s ?? RELEASE_S;
    this.needs.tell({ do: 'release', showId: this.needs.id, listId, time_s });
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
    const armed = free.filter((l) => this.states.all.get(l.id)?.armedId);
    for (const list of armed) this.states.of(list.id).armedId = null;
    if (armed.length > 0) this.needs.changed('now');
    return playing.length;
  }
}
