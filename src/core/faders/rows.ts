/** Faders and what lies under them. */
import { z } from 'zod';
import { Level, Name, RowId, Time, idOf } from '../show/fields.ts';

/** What a fader may have in hand. */
export const FADER_HOLDS = ['list', 'look', 'palette', 'group', 'effect'] as const;
export type FaderKind = (typeof FADER_HOLDS)[number];

/** The table of each kind of thing that a fader holds. */
export const HELD_TABLES = {
  list: 'lists',
  look: 'looks',
  palette: 'palettes',
  group: 'groups',
  effect: 'effects',
} as const satisfies Record<FaderKind, string>;

/** What a fader does with what it holds (docs/playback.md). */
export const FADER_MODES = ['proportional', 'inhibiting', 'rate', 'size'] as const;

/** What the key under a fader does: full or alone while it is pressed, up and down by turns, the next cue of its list. */
export const FADER_KEYS = ['full', 'solo', 'toggle', 'go'] as const;

/** How what is no intensity comes in: with the raising, over the travel of the fader, or where it passes a level. */
export const OTHERS_COME = ['raised', 'travel', 'at'] as const;

/** In the settings: at most so many pages of faders have names. */
export const FADER_PAGES = 125;

/** A playback fader of a show; where it stands is no row. */
export const FaderRow = z.object({
  id: idOf('faders'),
  number: z.number().int().min(1, 'Faders count from 1.').max(999, 'There are 999 faders.'),
  name: Name,
  holds: z.object({ kind: z.enum(FADER_HOLDS), id: RowId }),
  mode: z.enum(FADER_MODES),
  startsWhenRaised: z.boolean().optional(),
  releasesAtZero: z.boolean().optional(),
  /** A list that it starts comes in the cue’s own time; absent: it follows the hand at once. */
  inListTime: z.boolean().optional(),
  flash: z.enum(FADER_KEYS),
  /** Of a look or a palette; absent: as it is raised, at once. */
  others: z
    .object({
      come: z.enum(OTHERS_COME),
      /** Where they come and go, with `at`. */
      at: Level.optional(),
      /** In which they do, but for `travel`. */
      time_s: Time.optional(),
    })
    .optional(),
  /** Absent: PRIORITY. */
  priority: z.number().int().min(0).max(100).optional(),
  keepsThroughRelease: z.boolean().optional(),
});
export type FaderRow = z.infer<typeof FaderRow>;

/** Whether its key does anything while it is held, or at a press. */
export const hasKey = ({ flash, mode, holds }: FaderRow): boolean =>
  flash === 'toggle' || flash === 'go' || (mode === 'proportional' && holds.kind !== 'effect');
