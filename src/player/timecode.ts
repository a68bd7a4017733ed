/** Timecode at the machine of the player: by MIDI from any device of it, and by Art-Net; and the lists that follow it. */
import { followedBy } from '../core/lists/going.ts';
import { TIMECODE_FROM, type ListTime, type TimecodeFrom } from '../core/time/rows.ts';
import { endOf } from '../core/time/timed.ts';
import { readArtTimeCode } from '../core/timecode/art.ts';
import {
  followDoes,
  followState,
  freshFollowing,
  heardTimecode,
  timecodeNow,
  type Following,
  type FollowState,
} from '../core/timecode/follow.ts';
import { freshMtc, isMtc, readMtc, type MtcState } from '../core/timecode/mtc.ts';
import {
  formatTimecode,
  FRAMES_A_SECOND,
  isTimecode,
  timecodeOf,
  type Timecode,
} from '../core/timecode/rate.ts';
import { refuse } from '../core/refusal.ts';
import type { Answer } from './answer.ts';
import type { TimecodeState } from '../core/live/messages.ts';
import type { LiveShow } from './live-show.ts';

/** How long a list runs on through a loss, where it does not say. */
const RUN_ON_S = 2;

/** Timecode as it comes from outside, of each kind. */
export interface Timecodes {
  /** Bytes of a MIDI port. @returns whether they were time */
  midi: (port: string, bytes: readonly number[]) => boolean;
  artnet: (packet: Uint8Array) => void;
  /** A time that a screen heard. */
  heard: (from: 'midi' | 'ltc', time: Timecode, how: { way: 1 | -1; stands: boolean }) => Answer;
  /** Lists that follow do what their timecode says. @returns whether what is to be shown of it has changed */
  tick: (show: LiveShow | undefined) => boolean;
  states: () => Record<TimecodeFrom, TimecodeState>;
}

const followers = (show: LiveShow): { id: string; timecode: NonNullable<ListTime['timecode']> }[] =>
  [...show.show.lists.values()].flatMap((l) => {
    const timecode = followedBy(l);
    return timecode ? [{ id: l.id, timecode }] : [];
  });

const RUNNING: ReadonlySet<FollowState> = new Set(['locking', 'locked', 'runs on']);

type OnTrack = ReturnType<LiveShow['lists']['onTrack']>;

/**
 * Lists that somebody stopped, or took off their track, while timecode led them: they stay with the hand until they are
 * played along it again, or the timecode has stopped and comes anew (timecode.test.ts).
 */
class Left {
  /** Lists that ran, when it was looked last. */
  private readonly ran = new Set<string>();
  private readonly left = new Set<string>();

  /** @param runs whether its timecode does @param end_s where it stops by itself @returns whether the hand keeps it */
  keep(list: string, at: OnTrack, runs: boolean, end_s: number): boolean {
    const isOver = at !== null && at.position_s >= end_s;
    if (!runs || at?.runs) this.left.delete(list);
    else if (this.ran.has(list) && !isOver) this.left.add(list);
    this.ran.delete(list);
    return this.left.has(list);
  }

  /** It runs, and timecode has left it so: stopping is somebody else's from now on. */
  leads(list: string, at: OnTrack): void {
    if (at?.runs) this.ran.add(list);
  }
}

/** None of it heard yet. */
export function makeTimecodes(now_ms: () => number): Timecodes {
  const heard: Record<TimecodeFrom, Following> = {
    midi: freshFollowing(),
    ltc: freshFollowing(),
    artnet: freshFollowing(),
  };
  /** How long lists of the show on air run on without. */
  const runOn: Record<TimecodeFrom, number> = { midi: RUN_ON_S, ltc: RUN_ON_S, artnet: RUN_ON_S };
  const readers = new Map<string, MtcState>();
  const hands = new Left();
  let shown = '';

  const stateOf = (from: TimecodeFrom, runOn_s: number): TimecodeState => {
    const f = heard[from];
    const state = followState(f, now_ms(), runOn_s);
    const at_s = timecodeNow(f, now_ms(), runOn_s);
    const rate = f.last?.time.rate;
    return {
      state,
      rate: rate ?? null,
      code:
        at_s === null || rate === undefined
          ? null
          : formatTimecode(timecodeOf(at_s * FRAMES_A_SECOND[rate], rate)),
    };
  };
  /** As those go on that follow it: it is lost when the last of them stands. */
  const states = (): Record<TimecodeFrom, TimecodeState> => ({
    midi: stateOf('midi', runOn.midi),
    ltc: stateOf('ltc', runOn.ltc),
    artnet: stateOf('artnet', runOn.artnet),
  });
  const runOnOf = (show: LiveShow | undefined, from: TimecodeFrom): number => {
    const of = show ? followers(show).filter((f) => f.timecode.from === from) : [];
    return of.length > 0 ? Math.max(...of.map((f) => f.timecode.runOn_s ?? RUN_ON_S)) : RUN_ON_S;
  };

  return {
    midi: (port, bytes) => {
      if (!isMtc(bytes)) return false;
      const reader = readers.get(port) ?? freshMtc();
      readers.set(port, reader);
      const time = readMtc(reader, bytes);
      if (time) heardTimecode(heard.midi, time.time, now_ms(), time);
      return true;
    },
    heard: (from, time, how) => {
      if (!isTimecode(time))
        return refuse('invalid', `${formatTimecode(time)} is no time at ${time.rate} frames.`);
      heardTimecode(heard[from], time, now_ms(), how);
      return { ok: true };
    },
    artnet: (packet) => {
      const time = readArtTimeCode(packet);
      if (time) heardTimecode(heard.artnet, time, now_ms());
    },
    tick: (show) => {
      for (const from of TIMECODE_FROM) runOn[from] = runOnOf(show, from);
      if (show)
        for (const { id, timecode } of followers(show)) {
          const { from, offset_s, runOn_s = RUN_ON_S } = timecode;
          const key = `${show.id}/${id}`;
          const end_s = endOf(show.show, id);
          const at = show.lists.onTrack(id);
          const runs = RUNNING.has(followState(heard[from], now_ms(), runOn_s));
          if (hands.keep(key, at, runs, end_s)) continue;
          const loops = show.show.lists.get(id)?.time?.atEnd === 'loop';
          const does = followDoes(heard[from], at, now_ms(), { offset_s, runOn_s, end_s, loops });
          if (does.do === 'play') show.lists.track(id, { do: 'play', at_s: does.at_s });
          else if (does.do === 'stand') show.lists.track(id, { do: 'pause', at_s: does.at_s });
          hands.leads(key, show.lists.onTrack(id));
        }
      // What runs is worked out by the screens; they are told when it is something else.
      const now = Object.values(states())
        .map(({ state, rate }) => `${state}/${rate}`)
        .join();
      const isNew = now !== shown;
      shown = now;
      return isNew;
    },
    states,
  };
}
