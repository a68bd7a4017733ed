/** Cues and the values that they set. */
import { z } from 'zod';
import { FAMILIES, LIMITS, Level, Name, Note, idOf, Time, type IdOf } from '../show/fields.ts';
import { CUE_NUMBER } from './number.ts';
import { KEEPS, Moment } from '../time/rows.ts';
import { EffectUse } from '../effects/rows.ts';

/** How a fade goes between its ends (docs/playback.md). */
export const CURVES = ['linear', 'smooth', 'ease-in', 'ease-out'] as const;
export type FadeCurve = (typeof CURVES)[number];

const FamilyTimes = z.partialRecord(z.enum(FAMILIES), Time);

/** Some of a cue's values with times of their own. */
const CuePart = z.object({
  number: z.number().int().min(1).max(24),
  name: z.union([Name, z.literal('')]),
  up_s: Time,
  down_s: Time,
  delay_s: Time,
  family_s: FamilyTimes,
  curve: z.enum(CURVES).optional(),
  note: Note,
});
export type CuePart = z.infer<typeof CuePart>;

/** What a cue may do with another list. */
export const LIST_ACTS = ['start', 'go', 'pause', 'release', 'goto'] as const;

/** What of MIDI Show Control a cue may send: what needs nothing but a cue and a list. */
export const SENT_SHOW_CONTROL = [
  'go',
  'stop',
  'resume',
  'all-off',
  'restore',
  'reset',
  'go-off',
] as const;
const ShowControlNumber = z.string().regex(/^\d{1,5}(?:\.\d{1,3})?$/, 'A number like 12 or 12.5.');
const HexBytes = z
  .string()
  .trim()
  .max(600, 'At most 200 bytes.')
  .regex(
    /^[0-9a-fA-F]{2}(?: ?[0-9a-fA-F]{2})*$/,
    'Bytes are pairs of hexadecimal digits, like 90 3C 7F.',
  );

/** What a cue does besides light, on its GO. What it points at may be gone: that is reported, and stops nothing. */
export const CueAction = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('list'),
    list: idOf('lists'),
    what: z.enum(LIST_ACTS),
    cue: CUE_NUMBER.optional(),
  }),
  z.object({ do: z.literal('fader'), fader: idOf('faders'), level: Level, time_s: Time }),
  z.object({ do: z.literal('flash'), fader: idOf('faders'), on: z.boolean() }),
  z.object({ do: z.literal('release-looks') }),
  z.object({ do: z.literal('let-off') }),
  z.object({ do: z.literal('remotes'), on: z.boolean() }),
  z.object({
    do: z.literal('osc'),
    /** OSC 1.0 address pattern. */
    address: z
      .string()
      .max(200)
      .regex(/^\/[\x21-\x7e]*$/, 'An OSC address begins with / and has no spaces.'),
    args: z.array(z.union([z.number(), z.string().max(200)])).max(16),
  }),
  z.object({
    do: z.literal('midi'),
    kind: z.enum(['note-on', 'note-off', 'control', 'program']),
    channel: z
      .number()
      .int()
      .min(1, 'MIDI channels count from 1.')
      .max(16, 'MIDI has 16 channels.'),
    number: z.number().int().min(0).max(127, 'A MIDI number is at most 127.'),
    value: z.number().int().min(0).max(127, 'A MIDI value is at most 127.'),
  }),
  /** MIDI Show Control to other machines (RP-002, lighting). */
  z.object({
    do: z.literal('show-control'),
    device: z.number().int().min(0).max(127, 'A device of show control is 0 to 127.'),
    command: z.enum(SENT_SHOW_CONTROL),
    cue: ShowControlNumber.optional(),
    list: ShowControlNumber.optional(),
  }),
  /** Bytes as they are, in hexadecimal: `F0 7E 7F 09 01 F7`. */
  z.object({ do: z.literal('bytes'), bytes: HexBytes }),
  z.object({
    do: z.literal('macro'),
    fixtures: z.array(idOf('fixtures')).min(1).max(1000),
    macro: z.string().min(1).max(LIMITS.nameLength),
  }),
  z.object({ do: z.literal('sound'), sound: idOf('sounds') }),
]);
export type CueAction = z.infer<typeof CueAction>;

/** A time of day, hours to seconds, as 21:05:00. */
export const CLOCK_TIME = /^([01]\d|2[0-3]):[0-5]\d:[0-5]\d$/;

/** A cue: its place in a list, its times, and what it starts; what it sets is rows of `values`. */
export const CueRow = z.object({
  id: idOf('cues'),
  listId: idOf('lists'),
  /** Thousandths: cue 2.5 is 2500. */
  number: CUE_NUMBER,
  name: z.union([Name, z.literal('')]),
  up_s: Time,
  down_s: Time,
  delay_s: Time,
  /** Times of families that differ from the cue's. */
  family_s: FamilyTimes,
  familyDelay_s: FamilyTimes.optional(),
  /** Absent: position eases in and out, the rest is linear. */
  curve: z.enum(CURVES).optional(),
  parts: z.array(CuePart).max(24).optional(),
  /** For the programmer. */
  note: Note,
  operatorNote: Note.optional(),
  designerNote: Note.optional(),
  /** The word or action on which GO is called. */
  call: z.string().max(LIMITS.nameLength),
  /** The next GO comes this long after this cue's GO; null waits for the operator. */
  follow_s: Time.nullable(),
  /** The next GO comes this long after the longest fade has ended. */
  after_s: Time.optional(),
  /** On its list's track: this long after the beginning. */
  at_s: Moment.optional(),
  /** What it keeps to on the track where the music moves; absent: the clock. */
  keeps: z.enum(KEEPS).optional(),
  /** This cue's GO comes by itself at this time of day, hh:mm:ss. */
  clock: z.string().regex(CLOCK_TIME, 'A time of day is like 19:30:00.').optional(),
  /** After this cue comes that one; so many times, or always. */
  link: z
    .object({ to: idOf('cues'), times: z.number().int().min(1).max(9999).optional() })
    .optional(),
  /** Complete as it stands: nothing upstream reaches past it. */
  block: z.boolean().optional(),
  /** Overrides the list's pre-positioning for what this cue lights. */
  prePosition: z.boolean().optional(),
  actions: z.array(CueAction).max(32, 'A cue has at most 32 actions.').optional(),
});
export type CueRow = z.infer<typeof CueRow>;

/** What one cue sets for one slot. The id is `cue:fixture:attribute`, so that two writers of one slot meet in one row. */
export const ValueRow = z.object({
  id: z.string().min(1).max(400),
  cueId: idOf('cues'),
  fixtureId: idOf('fixtures'),
  attribute: z.string().min(1).max(60),
  /** A level, or null: this list lets go of the slot from here on. */
  level: Level.nullable(),
  /** Follows this palette; `level` is then what it was when it was written, used where the palette no longer answers. */
  palette: idOf('palettes').optional(),
  /** Follows what this look says for the slot; palette, effect and level are then what stands in where it no longer does. */
  look: idOf('looks').optional(),
  /** An effect that runs on top of the level. */
  effect: EffectUse.optional(),
  fade_s: Time.optional(),
  delay_s: Time.optional(),
  /** The part of the cue that it belongs to; absent: the cue's own times. */
  part: z.number().int().min(1).max(24).optional(),
});
export type ValueRow = z.infer<typeof ValueRow>;

/** What is recorded of a value that somebody holds: it has a level. */
export const RecordedValue = ValueRow.omit({ id: true, cueId: true }).extend({ level: Level });
export type RecordedValue = z.infer<typeof RecordedValue>;

/** The id of what a cue says about an attribute of a fixture: there is one of each. */
export const valueId = (cueId: string, fixtureId: string, attribute: string): string =>
  `${cueId}:${fixtureId}:${attribute}`;

/** What names a slot: a unit's attribute. Attributes have no colon; ids may (rows.test.ts). */
export const slotKey = (fixtureId: IdOf<'fixtures'>, attribute: string): string =>
  `${fixtureId}:${attribute}`;

/** The unit and the attribute of a slot key. */
export function readSlotKey(key: string): { fixtureId: string; attribute: string } {
  const at = key.lastIndexOf(':');
  return { fixtureId: key.slice(0, at), attribute: key.slice(at + 1) };
}
