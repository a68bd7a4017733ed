/**
 * The rows of a show. A show is nothing but these tables of plain rows; everything else derives from them.
 * Distances are metres, angles degrees, times seconds, levels 0…1 of the attribute's range.
 */
import { z } from 'zod';
import { CUE_NUMBER } from '../cues/number.ts';

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
const Note = z.string().max(LIMITS.noteLength, `A note has at most ${LIMITS.noteLength} characters.`);
export const RowId = z.string().min(1).max(120);
const Level = z.number().min(0, 'A level is at least 0 %.').max(1, 'A level is at most 100 %.');
export const Time = z
  .number()
  .min(0, 'A time is not negative.')
  .max(LIMITS.time_s, `A time is at most ${LIMITS.time_s / 3600} hours.`);
export const Universe = z
  .number()
  .int('A universe is a whole number.')
  .min(1, 'Universes count from 1.')
  .max(LIMITS.universes, `Wingman has ${LIMITS.universes} universes.`);
export const Address = z.number().int('An address is a whole number.').min(1, 'Addresses count from 1.').max(512, 'A universe ends at address 512.');
export const FixtureNumber = z
  .number()
  .int('A fixture number is a whole number.')
  .min(1, 'Fixture numbers count from 1.')
  .max(LIMITS.fixtureNumber, `Fixture numbers end at ${LIMITS.fixtureNumber}.`);

/** One attribute of a mode. `offset` are the channel's places in the footprint, coarse first, from 1 (GDTF 1.2 DMXChannel Offset). */
const Channel = z.object({
  attribute: z.string().min(1).max(60),
  offset: z.array(z.number().int().min(1).max(512)).min(1).max(3),
  /** Level when nothing plays. */
  default: Level,
  highlight: Level.optional(),
  /** Cannot fade: takes its new value at the start of the move. */
  snap: z.boolean().optional(),
  /** Physical range in the attribute's unit (degrees, kelvin, hertz …). */
  physicalFrom: z.number(),
  physicalTo: z.number(),
});
export type Channel = z.infer<typeof Channel>;

const Mode = z.object({ name: Name, footprint: z.number().int().min(1).max(512), channels: z.array(Channel).min(1) });
export type Mode = z.infer<typeof Mode>;

/** CIE 1931 chromaticity and relative luminous flux of an emitter at full (GDTF 1.2 Emitter Color). */
const Emitter = z.object({ x: z.number(), y: z.number(), Y: z.number().positive() });
export type Emitter = z.infer<typeof Emitter>;

export const TypeRow = z.object({
  id: RowId,
  maker: Name,
  name: Name,
  /** How the plan draws it. */
  shape: z.enum(['profile', 'wash', 'head', 'strip', 'house', 'hazer']),
  modes: z.array(Mode).min(1),
  emitters: z.record(z.string(), Emitter),
  /** Colour of the light of a unit without emitters, in kelvin. */
  lamp_K: z.number().min(1000).max(20_000).optional(),
  watts: z.number().min(0),
});
export type TypeRow = z.infer<typeof TypeRow>;

export const PatchPoint = z.object({ universe: Universe, address: Address });
export type PatchPoint = z.infer<typeof PatchPoint>;

export const FixtureRow = z.object({
  id: RowId,
  number: FixtureNumber,
  label: Name,
  typeId: RowId,
  mode: Name,
  /** Empty: off the rig, programming kept. More than one: multi-patch, the same values to each. */
  patch: z.array(PatchPoint).max(64),
  position: z.object({ x: z.number().min(-500).max(500), y: z.number().min(-500).max(500), z: z.number().min(-100).max(200) }),
  rotation: z.number().min(-360).max(360),
  /** Name of the bar or boom it hangs on; empty when it stands free. */
  hang: z.string().max(LIMITS.nameLength),
  /** House and work light: the grand master does not reach it. */
  noGrandMaster: z.boolean(),
});
export type FixtureRow = z.infer<typeof FixtureRow>;

const GroupRow = z.object({
  id: RowId,
  number: FixtureNumber,
  name: Name,
  /** Fixture ids in their order, which matters for fans and effects. */
  fixtures: z.array(RowId).max(10_000),
});
export type GroupRow = z.infer<typeof GroupRow>;

export const ListRow = z.object({ id: RowId, number: z.number().int().min(1).max(9999), name: Name, back_s: Time });
export type ListRow = z.infer<typeof ListRow>;

export const FAMILIES = ['intensity', 'position', 'colour', 'beam', 'control'] as const;
export type Family = (typeof FAMILIES)[number];

export const CueRow = z.object({
  id: RowId,
  listId: RowId,
  /** Thousandths: cue 2.5 is 2500. */
  number: CUE_NUMBER,
  name: z.union([Name, z.literal('')]),
  up_s: Time,
  down_s: Time,
  delay_s: Time,
  /** Times of families that differ from the cue's. */
  family_s: z.partialRecord(z.enum(FAMILIES), Time),
  note: Note,
  /** The word or action on which GO is called. */
  call: z.string().max(LIMITS.nameLength),
  /** The next GO comes this long after this cue's GO; null waits for the operator. */
  follow_s: Time.nullable(),
});
export type CueRow = z.infer<typeof CueRow>;

/** What one cue sets for one slot. The id is `cue:fixture:attribute`, so that two writers of one slot meet in one row. */
export const ValueRow = z.object({
  id: z.string().min(1).max(400),
  cueId: RowId,
  fixtureId: RowId,
  attribute: z.string().min(1).max(60),
  /** A level, or null: this list lets go of the slot from here on. */
  level: Level.nullable(),
  fade_s: Time.optional(),
  delay_s: Time.optional(),
});
export type ValueRow = z.infer<typeof ValueRow>;

/** A line on the plan: bars and booms that carry fixtures, edges and set pieces that do not. */
export const PieceRow = z.object({
  id: RowId,
  name: z.string().max(LIMITS.nameLength),
  kind: z.enum(['bar', 'boom', 'edge', 'set', 'cyc', 'house']),
  points: z.array(z.object({ x: z.number(), y: z.number() })).min(2).max(64),
  /** Height over the stage floor in metres. */
  z: z.number().min(-20).max(100),
});
export type PieceRow = z.infer<typeof PieceRow>;

export const RouteRow = z.object({
  id: RowId,
  universe: Universe,
  protocol: z.enum(['sacn', 'artnet']),
  /** `node` is the simulated node that ships with Wingman; `multicast` is for sACN only; else an IPv4 address. */
  destination: z.union([z.literal('node'), z.literal('multicast'), z.ipv4('A destination is an IPv4 address, multicast, or the simulated node.')]),
  /** The universe's number on the wire: sACN 1-63999, Art-Net port address 0-32767. */
  wire: z.number().int().min(0).max(63_999),
  priority: z.number().int().min(0).max(200),
  on: z.boolean(),
});
export type RouteRow = z.infer<typeof RouteRow>;

export const SettingsRow = z.object({ id: z.literal('show'), name: Name, venue: z.string().max(LIMITS.nameLength), note: Note });
export type SettingsRow = z.infer<typeof SettingsRow>;

export const TABLES = {
  settings: SettingsRow,
  types: TypeRow,
  fixtures: FixtureRow,
  groups: GroupRow,
  lists: ListRow,
  cues: CueRow,
  values: ValueRow,
  pieces: PieceRow,
  routes: RouteRow,
} as const;
export type TableName = keyof typeof TABLES;
export const TABLE_NAMES = Object.keys(TABLES) as TableName[];

export interface RowOf {
  settings: SettingsRow;
  types: TypeRow;
  fixtures: FixtureRow;
  groups: GroupRow;
  lists: ListRow;
  cues: CueRow;
  values: ValueRow;
  pieces: PieceRow;
  routes: RouteRow;
}
export type AnyRow = RowOf[TableName];

export const valueId = (cueId: string, fixtureId: string, attribute: string): string => `${cueId}:${fixtureId}:${attribute}`;
export const slotKey = (fixtureId: string, attribute: string): string => `${fixtureId}:${attribute}`;
