/** What plays as copies that another thread can have, and going on from them. */
import type { EffectClock } from './effect-clock.ts';
import type { EffectLayer, SavedEffect } from './effect-layer.ts';
import { curveIndex, Fades } from './fades.ts';
import type { Operator } from './operator.ts';
import type { Playback } from './playback.ts';
import type { EngineCopy, FadesCopy, SavedEngine, SavedMove } from './saved.ts';
import { slotIndex, type Slots } from './slots.ts';

const LINEAR = curveIndex('linear');
const SMOOTH = curveIndex('smooth');

const bank = (f: Fades): FadesCopy => ({
  level: f.level.slice(),
  from: f.from.slice(),
  to: f.to.slice(),
  start: f.start.slice(),
  duration: f.duration.slice(),
  curve: f.curve.slice(),
  active: f.activity(),
});

/** A list as it plays at this moment, to be saved. */
export const copyOfList = (l: Playback, now_s: number): EngineCopy['lists'][number] => ({
  listId: l.id,
  rate: l.rate,
  moving: l.moving,
  clock_s: l.clock_s,
  paused: l.paused,
  startedAt_s: l.startedAt_s,
  total_s: l.total_s,
  follow_s: l.followAt_s === Infinity ? null : l.followAt_s - l.clock_s,
  hand: l.hand,
  master: l.masterTarget,
  masterMoves: l.masterMoves(now_s),
  owned: l.owned.slice(),
  releasing: l.releasing.slice(),
  acted: l.acted.slice(),
  fades: bank(l.fades),
  share: l.share && bank(l.share),
  carry: l.carry && bank(l.carry),
  effects: l.effects.saved(),
  along: l.effects.savedAlong(),
});

/** What somebody holds at this moment, to be saved. */
export const copyOfOperator = (p: Operator): EngineCopy['programmers'][number] => ({
  userId: p.userId,
  held: p.held.slice(),
  touched: p.touched.slice(),
  fades: bank(p.fades),
  weight: bank(p.weight),
  effects: p.effects.saved(),
  blind: p.liveTo === 0,
  live: p.live,
  seen: p.seen.slice(),
});

/** Where a saved state's slots and waves stand now; undefined for what is gone. */
export interface Places {
  slot: (saved: number) => number | undefined;
  wave: (key: string) => number | undefined;
}
/** Where slots of a saved state are in the rig of now, and when its effects began. */
export function placesIn(saved: SavedEngine, slots: Slots, clock: EffectClock): Places {
  const index = slotIndex(slots);
  const waves = new Map(clock.programs.waves.map((w, i) => [w.key, i]));
  return { slot: (at) => index.get(saved.keys[at] ?? ''), wave: (key) => waves.get(key) };
}

/** A move goes on from where it was. */
function put(fades: Fades, slot: number, s: SavedMove, now: number): void {
  fades.stand(slot, s.from ?? s.level);
  if (s.to === undefined) return;
  const told = s.smooth ? SMOOTH : LINEAR;
  const curve = typeof s.smooth === 'number' ? s.smooth : told;
  fades.goOn(slot, s.to, now - (s.sinceStart_s ?? 0), s.duration_s ?? 0, curve);
  fades.level[slot] = s.level;
}

function restoreEffects(
  layer: EffectLayer,
  kept: readonly SavedEffect[] | undefined,
  places: Places,
): void {
  for (const e of kept ?? []) {
    const [slot, wave] = [places.slot(e.slot), places.wave(e.key)];
    if (slot !== undefined && wave !== undefined) layer.restore(slot, wave, e);
  }
}

/** A list goes on as it was saved: fades in the middle, what tracks, its master. */
export function restoreList(
  list: Playback,
  saved: SavedEngine['lists'][number],
  places: Places,
  now_s: number,
): void {
  list.clock_s = saved.clock_s;
  list.paused = saved.paused;
  list.startedAt_s = saved.startedAt_s;
  list.total_s = saved.total_s;
  list.rate = saved.rate ?? 1;
  list.followAt_s = saved.follow_s === null ? Infinity : saved.clock_s + saved.follow_s;
  list.hand = saved.hand ?? null;
  const { from, left_s } = saved.masterMoves ?? { from: saved.master, left_s: 0 };
  list.setMaster(from, 0, now_s);
  list.setMaster(saved.master, left_s, now_s);
  list.moving = Uint32Array.from((saved.moving ?? []).flatMap((at) => places.slot(at) ?? []));
  for (const s of saved.slots) {
    const slot = places.slot(s.slot);
    if (slot === undefined) continue;
    list.owned[slot] = 1;
    list.acts(slot, s.acted);
    put(list.fades, slot, s, list.clock_s);
    if (s.carry) put((list.carry ??= new Fades(list.owned.length)), slot, s.carry, list.clock_s);
    if (!s.releasing) continue;
    list.letsGo(slot, list.clock_s, s.duration_s ?? 0);
    if (list.share && s.share) put(list.share, slot, s.share, list.clock_s);
  }
  if (saved.along) list.effects.restoreAlong(saved.along);
  restoreEffects(list.effects, saved.effects, places);
}

/** What somebody held is held again, fades in the middle. */
export function restoreOperator(
  p: Operator,
  saved: SavedEngine['programmers'][number],
  places: Places,
  now_s: number,
): void {
  for (const s of saved.slots) {
    const slot = places.slot(s.slot);
    if (slot === undefined) continue;
    p.held[slot] = 1;
    const isUnseen = saved.live === undefined ? saved.blind : s.unseen;
    p.seen[slot] = isUnseen ? 0 : 1;
    p.count++;
    p.touched[slot] = s.acted;
    put(p.fades, slot, s, now_s);
    put(p.weight, slot, s.weight, now_s);
  }
  restoreEffects(p.effects, saved.effects, places);
  p.liveTo = saved.blind ? 0 : 1;
  p.live = saved.live ?? p.liveTo;
}
