/** Fields that rows of every table are made of. Distances are metres, angles degrees, times seconds, levels 0…1. */
import { z } from 'zod';

/** How much of anything a show may have. */
export const LIMITS = {
  nameLength: 120,
  noteLength: 2000,
  fixtureNumber: 99_999,
  universes: 256,
  /** Fixtures that one patch edit may make. */
  patchQuantity: 2048,
  time_s: 36_000,
} as const;

/** A name as people write it: one line, no control characters. Markup is text like any other and is never rendered. */
export const Name = z
  .string()
  .trim()
  .min(1, 'A name is needed.')
  .max(LIMITS.nameLength, `A name has at most ${LIMITS.nameLength} characters.`)
  .regex(/^[^\u0000-\u001f\u007f]*$/u, 'A name is one line without control characters.');
/** What people write beside something. */
export const Note = z
  .string()
  .max(LIMITS.noteLength, `A note has at most ${LIMITS.noteLength} characters.`);
/** An id, of any table. */
export const RowId = z.string().min(1).max(120);

declare const table: unique symbol;
/**
 * The id of a row of one table. A plain string may become one; the id of another table may not, so a cue's id where a
 * list's is wanted does not compile (`ids.test.ts`).
 */
export type IdOf<T extends string> = string & { readonly [table]?: T };
/** The id of a row of a table, as it comes from outside. */
export const idOf = <T extends string>(_table: T): z.ZodType<IdOf<T>, string> => RowId;
/** A level, 0…1. */
export const Level = z
  .number()
  .min(0, 'A level is at least 0 %.')
  .max(1, 'A level is at most 100 %.');
/** A time in seconds. */
export const Time = z
  .number()
  .min(0, 'A time is not negative.')
  .max(LIMITS.time_s, `A time is at most ${LIMITS.time_s / 3600} hours.`);
/** What people call a fixture, a group or a palette by. */
export const FixtureNumber = z
  .number()
  .int('A fixture number is a whole number.')
  .min(1, 'Fixture numbers count from 1.')
  .max(LIMITS.fixtureNumber, `Fixture numbers end at ${LIMITS.fixtureNumber}.`);

/** Families of attributes, in their order on screens. */
export const FAMILIES = ['intensity', 'position', 'colour', 'beam', 'control'] as const;
export type Family = (typeof FAMILIES)[number];

/** A universe, as Wingman counts them. */
export const Universe = z
  .number()
  .int('A universe is a whole number.')
  .min(1, 'Universes count from 1.')
  .max(LIMITS.universes, `Wingman has ${LIMITS.universes} universes.`);

/** A slot of a universe, from 1. */
export const Address = z
  .number()
  .int('An address is a whole number.')
  .min(1, 'Addresses count from 1.')
  .max(512, 'A universe ends at address 512.');

/** Metres: x from centre towards the audience's right, y upstage from the plaster line, z up. */
export const StagePoint = z.object({
  x: z.number().min(-500).max(500),
  y: z.number().min(-500).max(500),
  z: z.number().min(-100).max(200),
});
export type StagePoint = z.infer<typeof StagePoint>;

/** A network card as its machine calls it. */
export const CardName = z.string().trim().min(1).max(64);
