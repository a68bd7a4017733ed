/** Faders and what lies under them. */
import { z } from 'zod';
import { Name, RowId, idOf } from '../show/fields.ts';

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

export const FADER_MODES = ['proportional', 'inhibiting', 'rate', 'size'] as const;

const FLASHES = ['full', 'solo'] as const;

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
  flash: z.enum(FLASHES),
  /** Absent: PRIORITY. */
  priority: z.number().int().min(0).max(100).optional(),
  keepsThroughRelease: z.boolean().optional(),
});
export type FaderRow = z.infer<typeof FaderRow>;
