/** Cues that are led along the track by hand: where they would be, until they are let go and it is written. */
'use client';
import { useState } from 'react';
import { toMillisecond } from '@/core/time/moment';
import type { ListTime } from '@/core/time/rows';
import type { TimedCue } from '@/core/time/timed';
import { useLed } from '../../parts/use-led';
import { edit } from '../../state/edits';
import { lookAt } from '../../state/book';
import { useTrackView } from '../../state/track';
import { snapped } from './snap';

/** Which end of a cue is held. */
export type Handle = 'start' | 'end';
/** A step of fewer pixels is a hand that trembles. */
const STILL_PX = 2;

interface Led {
  id: string;
  what: Handle;
  by_s: number;
}

const longest = (cue: TimedCue): number => Math.max(cue.up_s, cue.down_s);

/** A press of a cue looks at it and chooses it; with Ctrl it is added to those that are chosen, or taken from them. */
function choose(id: string, add: boolean): void {
  lookAt(id);
  const { chosen } = useTrackView.getState();
  const isIn = chosen.includes(id);
  if (add)
    useTrackView.setState({ chosen: isIn ? chosen.filter((c) => c !== id) : [...chosen, id] });
  else if (!isIn) useTrackView.setState({ chosen: [id] });
}

/** As it would be: chosen ones keep their distances, of a fade the end is led. */
export function ledAs(cue: TimedCue, led: Led | null, chosen: readonly string[]): TimedCue {
  if (led?.what === 'start' && chosen.includes(cue.id))
    return { ...cue, at_s: Math.max(0, cue.at_s + led.by_s) };
  if (led?.what !== 'end' || led.id !== cue.id) return cue;
  const time = (t: number): number => toMillisecond(Math.max(0, t + led.by_s));
  return { ...cue, up_s: time(cue.up_s), down_s: time(cue.down_s) };
}

async function write(
  led: Led,
  cues: readonly TimedCue[],
  chosen: readonly string[],
): Promise<void> {
  const next = cues.map((cue) => ledAs(cue, led, chosen));
  if (led.what === 'start') {
    const moved = next.filter((c) => chosen.includes(c.id));
    await edit('place-cues', {
      list: cues[0]?.listId,
      at: Object.fromEntries(moved.map((c) => [c.id, toMillisecond(c.at_s)])),
    });
    return;
  }
  const cue = next.find((c) => c.id === led.id);
  if (cue) await edit('change-cue', { id: cue.id, set: { up_s: cue.up_s, down_s: cue.down_s } });
}

/** Cues in a hand on the track: their moments, and how long they take. */
export function useCueDrag(cues: readonly TimedCue[], time: ListTime) {
  const led = useLed<Led | null>(null);
  const [under, setUnder] = useState<Pick<Led, 'id' | 'what'> | null>(null);
  const cueOf = (id: string): TimedCue | undefined => cues.find((c) => c.id === id);

  const begin = (id: string, what: Handle, add: boolean): void => {
    choose(id, add);
    setUnder({ id, what });
  };
  const step = (px: number, free: boolean): void => {
    const cue = under && cueOf(under.id);
    if (!under || !cue || Math.abs(px) < STILL_PX) return;
    const { chosen, snap, cursor_s, scale } = useTrackView.getState();
    const o = { snap, free, time, cursor_s, scale };
    if (under.what === 'start') {
      // All of them keep their distances: the first does not leave the track.
      const first = Math.min(...chosen.map((id) => cueOf(id)?.at_s ?? Infinity));
      const by_s = snapped(cue.at_s + px / scale, o) - cue.at_s;
      led.put({ ...under, by_s: Math.max(-first, by_s) });
      return;
    }
    const fade = longest(cue);
    const by_s = snapped(cue.at_s + fade + px / scale, o) - cue.at_s - fade;
    led.put({ ...under, by_s: Math.max(-fade, by_s) });
  };
  const end = (torn: boolean): void => {
    setUnder(null);
    // Taken away by the system it stays as it was.
    const last = led.now();
    if (!last || torn) led.put(null);
    else void write(last, cues, useTrackView.getState().chosen).finally(() => led.put(null));
  };
  return { led: led.shown, begin, step, end };
}
