/** What a thing says that plays by itself, from a fader or a tile: a look, a palette, a group; and how the clock is told of it. */
import { attributesOf } from '../core/rig/attributes.ts';
import { membersOf } from '../core/groups/members.ts';
import { levelOf, type Valued } from '../core/looks/value.ts';
import { contentsOfPalette } from '../core/palettes/resolve.ts';
import { contentsOfLook } from '../core/looks/resolve.ts';
import { columns, waveOf, type Onto } from '../core/playback/moves.ts';
import { curveIndex } from '../core/playback/fades.ts';
import { POSITION } from '../core/playback/slots.ts';
import type { Moves } from '../core/playback/list-moves.ts';
import { modeOf } from '../core/fixtures/points.ts';
import { slotKey } from '../core/cues/rows.ts';
import type { Show } from '../core/show/show.ts';

/** Slot by slot; nothing for what is not there. */
export function contentsOf(show: Show, { kind, id }: { kind: string; id: string }): Valued[] {
  if (kind === 'look') return contentsOfLook(show, id);
  const palette = kind === 'palette' ? show.palettes.get(id) : undefined;
  if (palette) return contentsOfPalette(show, palette);
  const group = kind === 'group' ? show.groups.get(id) : undefined;
  return group
    ? membersOf(show, group).flatMap((fixtureId) => {
        const fixture = show.fixtures.get(fixtureId);
        const mode = fixture ? modeOf(show, fixture) : undefined;
        return mode && attributesOf(mode).includes('Dimmer')
          ? [{ fixtureId, attribute: 'Dimmer', level: 1 }]
          : [];
      })
    : [];
}

/** Slots that values are about. */
export const keysOf = (values: readonly Valued[]): ReadonlySet<string> =>
  new Set(values.map((v) => slotKey(v.fixtureId, v.attribute)));

const LINEAR = curveIndex('linear');
const SMOOTH = curveIndex('smooth');

/** Values as moves, each in its time; positions smoothly. */
export function movesTo(
  show: Show,
  onto: Onto,
  values: readonly Valued[],
  time: number | ((value: Valued) => number) = 0,
): Moves {
  return columns(
    values.flatMap((value) => {
      const time_s = typeof time === 'number' ? time : time(value);
      const slot = onto.index.get(slotKey(value.fixtureId, value.attribute));
      if (slot === undefined) return [];
      return [
        {
          slot,
          level: levelOf(show, value) ?? 0,
          up: time_s,
          down: time_s,
          delay: 0,
          curve: onto.family[slot] === POSITION ? SMOOTH : LINEAR,
          ...waveOf(show, value, onto.find),
        },
      ];
    }),
  );
}

/** The same slots let go of. */
export const lettingGo = (moves: Moves): Moves => ({
  ...moves,
  level: moves.level.slice().fill(NaN),
  wave: moves.wave.slice().fill(-1),
});

/** What a thing that plays says now, and that it says no more of what it gave before. @param gave keys of slots */
export function anew(
  show: Show,
  onto: Onto,
  values: readonly Valued[],
  gave: ReadonlySet<string>,
): { slots: Uint32Array; levels: Float32Array; wave: Int32Array; phase: Float32Array } {
  const moves = movesTo(show, onto, values);
  const keys = keysOf(values);
  const gone = [...gave].flatMap((key) => (keys.has(key) ? [] : (onto.index.get(key) ?? [])));
  const none = <T>(value: T): T[] => gone.map(() => value);
  return {
    slots: Uint32Array.from([...moves.slot, ...gone]),
    levels: Float32Array.from([...moves.level, ...none(NaN)]),
    wave: Int32Array.from([...moves.wave, ...none(-1)]),
    phase: Float32Array.from([...moves.phase, ...none(0)]),
  };
}
