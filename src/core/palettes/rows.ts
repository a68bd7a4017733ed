/** Palettes: answers for slots that cues and looks follow. */
import { z } from 'zod';
import { FixtureNumber, Level, Name, idOf, StagePoint, Time } from '../show/fields.ts';

/** Families that a palette may be of. */
export const PALETTE_FAMILIES = ['intensity', 'position', 'colour', 'beam'] as const;
export type PaletteFamily = (typeof PALETTE_FAMILIES)[number];

/** What plays by itself. */
export const PLAYED_KINDS = ['palette', 'look', 'effect'] as const;
export type PlayedKind = (typeof PLAYED_KINDS)[number];

/** In which what has no time of its own comes in and lets go. */
export const PLAY_S = 2;

/**
 * A palette answers for a slot in this order: its own entry for the fixture, for a group that it is in, for the
 * fixture's type, then what it says for any unit (a level, a chromaticity or white point, a stage point), solved for
 * that unit (docs/playback.md).
 */
export const PaletteRow = z.object({
  id: idOf('palettes'),
  number: FixtureNumber,
  family: z.enum(PALETTE_FAMILIES),
  name: Name,
  /** Place among the palettes of its family; its number when absent. */
  order: z.number().min(0).max(1e9).optional(),
  /** In which it comes in and lets go when it is played by itself; absent: PLAY_S. */
  play_s: Time.optional(),
  fixtures: z.record(idOf('fixtures'), z.record(z.string().max(60), Level)),
  /** For every member of a group, also of one that joins later. */
  groups: z.record(idOf('groups'), z.record(z.string().max(60), Level)).optional(),
  types: z.record(idOf('types'), z.record(z.string().max(60), Level)),
  any: z
    .object({
      level: Level.optional(),
      /** CIE 1931 xy. */
      colour: z.object({ x: z.number().min(0).max(1), y: z.number().min(0.001).max(1) }).optional(),
      /** A white point instead of a chromaticity. */
      kelvin: z.number().min(1667).max(25_000).optional(),
      /** Metres. */
      point: StagePoint.optional(),
    })
    .optional(),
});
export type PaletteRow = z.infer<typeof PaletteRow>;
