/** Where each cue list of one open show stands, and what the clock has said of it: plain state that is saved as it is. */
import type { CueRow } from '../../core/cues/rows.ts';
import type { ListRow } from '../../core/lists/rows.ts';
import type { Onto } from '../../core/playback/moves.ts';
import { refuse, type Result } from '../../core/refusal.ts';
import type { Show } from '../../core/show/show.ts';
import type { Rig } from '../../core/time/played-to.ts';
import type { FromClock, ShowMessage } from '../clock-messages.ts';
import type { ChaseState } from './chase.ts';
import { positionOf, type TrackState } from './track.ts';

/** Where a list stands. */
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
/** What the clock said of a list’s fades, and when. */
export type Timing = Omit<Status, 'is' | 'showId' | 'listId' | 'fading'> & { at: number };

/** What the lists need of the show that they play. */
export interface ListsNeeds {
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

/** Where all lists stand, and what is known of their fades. */
export class ListStates {
  /** By list id; a list that was never played is in none. */
  readonly all = new Map<string, ListState>();
  private readonly timing = new Map<string, Timing>();

  constructor(
    readonly needs: ListsNeeds,
    saved: readonly [string, ListState][],
  ) {
    // The clock of before counted from elsewhere: a track goes on from where it was.
    for (const [id, { track, ...state }] of saved)
      this.all.set(
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
    return [...this.all].map(([id, state]) => {
      const position_s = this.position(id);
      const { track } = state;
      return [
        id,
        track && position_s !== undefined ? { ...state, track: { ...track, position_s } } : state,
      ];
    });
  }

  /** The list in the show, or why there is none. */
  list(listId: string): Result<ListRow> {
    return (
      this.needs.show.lists.get(listId) ??
      refuse('not-found', 'There is no such cue list.', { list: 'Unknown.' })
    );
  }

  of(listId: string): ListState {
    const known = this.all.get(listId);
    if (known) return known;
    const fresh: ListState = { cueId: null, cueNumber: null };
    this.all.set(listId, fresh);
    return fresh;
  }

  /** Number of the cue that a list is in, null when it is in none. */
  at(listId: string): number | null {
    return this.all.get(listId)?.cueNumber ?? null;
  }

  rate(listId: string): number {
    return this.all.get(listId)?.rate ?? 1;
  }

  /** Where a list is on its track, in seconds; undefined where it is not on it. */
  position(listId: string): number | undefined {
    const track = this.all.get(listId)?.track;
    return track && positionOf(track, this.rate(listId), this.needs.now_ms());
  }

  /** Where it is and whether it runs; null where the list is not on its track. */
  onTrack(listId: string): { position_s: number; runs: boolean; rate: number } | null {
    const position_s = this.position(listId);
    const runs = typeof this.all.get(listId)?.track?.since_ms === 'number';
    return position_s === undefined ? null : { position_s, runs, rate: this.rate(listId) };
  }

  /** What the clock says of a list’s fade. */
  heard({ listId, ...message }: Status): void {
    const { is, showId, fading, ...timing } = message;
    void is;
    void showId;
    void fading;
    this.timing.set(listId, { ...timing, at: this.needs.now_ms() });
  }

  fade(listId: string): Timing | undefined {
    return this.timing.get(listId);
  }
}
