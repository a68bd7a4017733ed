/** What a live show says of itself to those who ask: levels with their sources, bytes with theirs. Reads, and changes nothing. */
import { UNIVERSE_SLOTS } from '../core/dmx.ts';
import { readSlotKey } from '../core/cues/rows.ts';
import { formatCueNumber } from '../core/cues/number.ts';
import type { PlaybackState, SourceRun } from '../core/live/messages.ts';
import type { Shared } from '../core/playback/engine.ts';
import type { Slots } from '../core/playback/slots.ts';
import type { MutableShow } from '../core/show/show.ts';

interface Reported {
  readonly show: MutableShow;
  readonly slots: Slots;
  readonly shared: Shared | null;
  source: (slot: number, shared: Shared) => string;
  playback: () => PlaybackState;
}

/** Where each byte of a universe comes from, as runs of addresses. */
export function sourceRuns(
  live: Reported,
  universe: number,
  ofByte: (address: number) => string | undefined,
): SourceRun[] {
  const { shared, slots } = live;
  const page = slots.universes.indexOf(universe);
  if (!shared || page < 0) return [];
  const at: (string | undefined)[] = new Array<string | undefined>(UNIVERSE_SLOTS);
  const known = new Map<number, string>();
  const say = (slot: number): string => {
    const text = known.get(slot) ?? live.source(slot, shared);
    known.set(slot, text);
    return text;
  };
  for (let channel = 0; channel < slots.channelSlot.length; channel++) {
    for (const place of [
      slots.coarse[channel] ?? -1,
      slots.fine[channel] ?? -1,
      slots.ultra[channel] ?? -1,
    ]) {
      if (place >> 9 !== page) continue;
      const text = say(slots.channelSlot[channel] ?? 0);
      const dimmer = slots.channelDimmer[channel] ?? -1;
      // Scaled by a virtual intensity: two things make the byte.
      at[place & 511] =
        dimmer < 0 || say(dimmer) === text ? text : `${text}, intensity from ${say(dimmer)}`;
    }
  }
  const runs: SourceRun[] = [];
  for (let i = 0; i < UNIVERSE_SLOTS; i++) {
    const text = ofByte(i + 1) ?? at[i];
    if (text === undefined) continue;
    const last = runs.at(-1);
    if (last?.to === i && last.text === text) last.to = i + 1;
    else runs.push({ from: i + 1, to: i + 1, text });
  }
  return runs;
}

/** What is on stage now, for `GET /api/shows/:id/stage`. */
export function stageReport(live: Reported, onAir: boolean): Record<string, unknown> {
  const { shared } = live;
  const fixtures: Record<string, Record<string, { level: number; source: string }>> = {};
  const universes: Record<string, number[]> = {};
  if (shared) {
    live.slots.keys.forEach((key, slot) => {
      const { fixtureId, attribute } = readSlotKey(key);
      const number = live.show.fixtures.get(fixtureId)?.number;
      if (number === undefined) return;
      (fixtures[number] ??= {})[attribute] = {
        level: Math.round((shared.out[slot] ?? 0) * 1e6) / 1e6,
        source: live.source(slot, shared),
      };
    });
    live.slots.universes.forEach(
      (u, page) =>
        (universes[u] = [
          ...shared.dmx.subarray(page * UNIVERSE_SLOTS, (page + 1) * UNIVERSE_SLOTS),
        ]),
    );
  }
  const { lists, faders, played, master, blackout, holder } = live.playback();
  return {
    fixtures,
    universes,
    lists: lists.map((l) => {
      const next = l.nextId ? live.show.cues.get(l.nextId) : undefined;
      return {
        id: l.id,
        name: l.name,
        cue: l.cueNumber === null ? null : formatCueNumber(l.cueNumber),
        next: next ? formatCueNumber(next.number) : null,
        progress: l.total_s > 0 ? l.elapsed_s / l.total_s : 1,
        elapsed_s: l.elapsed_s,
        total_s: l.total_s,
        paused: l.paused,
        running: l.running,
      };
    }),
    faders: faders.map(({ id, level, real, waiting }) => {
      const row = live.show.faders.get(id);
      return { number: row?.number ?? null, name: row?.name ?? null, level, gives: real, waiting };
    }),
    played: played.map(({ kind, id, by }) => ({ kind, id, by })),
    master,
    blackout,
    holder: holder?.name ?? null,
    onAir,
  };
}
