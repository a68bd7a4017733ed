/** Telling the clock of held values, in slots and levels. */
import type { HeldValue } from '../../core/live/messages.ts';
import { modeOf } from '../../core/fixtures/points.ts';
import { spreadOverCells } from '../../core/rig/attributes.ts';
import { slotKey } from '../../core/cues/rows.ts';
import type { Putting } from '../settings.ts';
import type { Programmers } from './programmers.ts';

type Sent = Omit<HeldValue, 'effect'> & { effect?: HeldValue['effect'] };

/** A thousand units are a few thousand values: where each goes is looked up once. */
export interface Placed<V> {
  v: V;
  key: string;
  slot: number;
}

/** Tells the clock of held values. */
export function sendHeld(
  p: Programmers,
  userId: string,
  values: readonly Sent[],
  how: 'timed' | 'at once' | 'bends' = 'timed',
): void {
  const at: Placed<Sent>[] = [];
  for (const v of values) {
    const key = slotKey(v.fixtureId, v.attribute);
    const slot = p.slotOf(key);
    if (slot !== undefined) at.push({ v, key, slot });
  }
  tellHeld(p, userId, at, how);
}

/** Tells the clock what a person holds. */
export function tellHeld(
  p: Programmers,
  userId: string,
  at: readonly Placed<Sent>[],
  how: 'timed' | 'at once' | 'bends' = 'timed',
): void {
  const n = at.length;
  if (n === 0) return;
  const holds = {
    slots: new Uint32Array(n),
    levels: new Float32Array(n),
    fade_s: new Float32Array(n),
    delay_s: new Float32Array(n),
    wave: new Int32Array(n).fill(-1),
    phase: new Float32Array(n),
    bends: how === 'bends',
  };
  for (const [i, { v, slot }] of at.entries()) {
    holds.slots[i] = slot;
    holds.levels[i] = v.level;
    if (how === 'timed') holds.fade_s[i] = v.fade_s;
    if (how === 'timed') holds.delay_s[i] = v.delay_s;
    if (v.effect) holds.wave[i] = p.findWave(v.effect.id, v.attribute, v.fixtureId);
    if (v.effect) holds.phase[i] = v.effect.phase;
  }
  p.tell({ do: 'hold', showId: p.id, userId, holds });
}

/** Values with their slots; an attribute that only the cells have means all of them. What has no slot is left out. */
export function placedValues(p: Programmers, values: readonly Putting[]): Placed<Putting>[] {
  const found: Placed<Putting>[] = [];
  const add = (v: Putting): boolean => {
    const key = slotKey(v.fixtureId, v.attribute);
    const slot = p.slotOf(key);
    if (slot !== undefined) found.push({ v, key, slot });
    return slot !== undefined;
  };
  for (const v of values) {
    if (add(v)) continue;
    const fixture = p.show.fixtures.get(v.fixtureId);
    const mode = fixture ? modeOf(p.show, fixture) : undefined;
    if (mode) for (const attribute of spreadOverCells(mode, v.attribute)) add({ ...v, attribute });
  }
  return found;
}
