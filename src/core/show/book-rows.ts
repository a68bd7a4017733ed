/** Rows of the book: lists, cues and their values, the script and its calls, faders and sounds. */
import { z } from 'zod';
import { CUE_NUMBER } from '../cues/number.ts';
import { FAMILIES, Level, LIMITS, Name, Note, RowId, Time } from './fields.ts';

export const DIRECTIONS = ['forward', 'back', 'bounce', 'random'] as const;
/** A list that steps by itself. */
const Chase = z.object({
  on: z.boolean(),
  /** Steps a minute, or seconds a step. */
  speed: z.union([
    z.object({
      bpm: z
        .number()
        .min(1, 'A chase has at least 1 step a minute.')
        .max(1200, 'A chase has at most 1200 steps a minute.'),
    }),
    z.object({ step_s: z.number().min(0.05, 'A step takes at least 0.05 s.').max(3600) }),
  ]),
  /** Share of a step that its fade takes. */
  share: z.number().min(0).max(1),
  direction: z.enum(DIRECTIONS),
  /** Rounds until it stops in its last step; absent: until it is stopped. */
  count: z.number().int().min(1).max(9999).optional(),
});
export type Chase = z.infer<typeof Chase>;

export const PRIORITY = 50;
export const ListRow = z.object({
  id: RowId,
  number: z.number().int().min(1).max(9999),
  name: Name,
  back_s: Time,
  /** false: every cue is complete as it stands; slots that it does not set are let go. */
  tracking: z.boolean().optional(),
  /** How its intensity meets other playbacks; absent: the highest wins. */
  intensity: z.enum(['htp', 'ltp']).optional(),
  /** Absent: PRIORITY. */
  priority: z.number().int().min(0).max(100).optional(),
  /** Absent: RELEASE_S. */
  release_s: Time.optional(),
  keepsThroughRelease: z.boolean().optional(),
  /** Dark heads move in the cue before the one that lights them. */
  prePosition: z.boolean().optional(),
  atEnd: z.enum(['stop', 'loop', 'release']).optional(),
  chase: Chase.optional(),
});
export type ListRow = z.infer<typeof ListRow>;
export const RELEASE_S = 2;

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

export const LIST_ACTS = ['start', 'go', 'pause', 'release', 'goto'] as const;
/** What a cue does besides light, on its GO. What it points at may be gone: that is reported, and stops nothing. */
export const CueAction = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('list'),
    list: RowId,
    what: z.enum(LIST_ACTS),
    cue: CUE_NUMBER.optional(),
  }),
  z.object({ do: z.literal('fader'), fader: RowId, level: Level, time_s: Time }),
  z.object({ do: z.literal('flash'), fader: RowId, on: z.boolean() }),
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
  z.object({
    do: z.literal('macro'),
    fixtures: z.array(RowId).min(1).max(1000),
    macro: z.string().min(1).max(LIMITS.nameLength),
  }),
  z.object({ do: z.literal('sound'), sound: RowId }),
]);
export type CueAction = z.infer<typeof CueAction>;

export const CLOCK_TIME = /^([01]\d|2[0-3]):[0-5]\d:[0-5]\d$/;
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
  /** This cue's GO comes by itself at this time of day, hh:mm:ss. */
  clock: z.string().regex(CLOCK_TIME, 'A time of day is like 19:30:00.').optional(),
  /** After this cue comes that one; so many times, or always. */
  link: z.object({ to: RowId, times: z.number().int().min(1).max(9999).optional() }).optional(),
  /** Complete as it stands: nothing upstream reaches past it. */
  block: z.boolean().optional(),
  /** Overrides the list's pre-positioning for what this cue lights. */
  prePosition: z.boolean().optional(),
  actions: z.array(CueAction).max(32, 'A cue has at most 32 actions.').optional(),
});
export type CueRow = z.infer<typeof CueRow>;

/**
 * An effect on a slot: the unit's place among those that the effect was spread over, from 0, and the group that they
 * were, if one. Where in its cycle the slot stands follows from the place and the effect's own spread; `phase`, 0…1, is
 * what it was when this was written, and stands for uses from before places were kept.
 */
export const EffectUse = z.object({
  id: RowId,
  phase: z.number().min(0).max(1),
  group: RowId.optional(),
  at: z.number().int().min(0).max(10_000).optional(),
  of: z.number().int().min(1).max(10_000).optional(),
});
export type EffectUse = z.infer<typeof EffectUse>;

/** What one cue sets for one slot. The id is `cue:fixture:attribute`, so that two writers of one slot meet in one row. */
export const ValueRow = z.object({
  id: z.string().min(1).max(400),
  cueId: RowId,
  fixtureId: RowId,
  attribute: z.string().min(1).max(60),
  /** A level, or null: this list lets go of the slot from here on. */
  level: Level.nullable(),
  /** Follows this palette; `level` is then what it was when it was written, used where the palette no longer answers. */
  palette: RowId.optional(),
  /** Follows what this look says for the slot; palette, effect and level are then what stands in where it no longer does. */
  look: RowId.optional(),
  /** An effect that runs on top of the level. */
  effect: EffectUse.optional(),
  fade_s: Time.optional(),
  delay_s: Time.optional(),
  /** The part of the cue that it belongs to; absent: the cue's own times. */
  part: z.number().int().min(1).max(24).optional(),
});
export type ValueRow = z.infer<typeof ValueRow>;

export const SCRIPT_LIMIT = 2_000_000;
export const SCRIPT_FORMATS = ['plain', 'markdown', 'fountain', 'order'] as const;
/** A script, or an order of service, as it was written; its pages are read from the text. */
export const ScriptRow = z.object({
  id: RowId,
  title: Name,
  format: z.enum(SCRIPT_FORMATS),
  text: z.string().max(SCRIPT_LIMIT, 'A script has at most 2 million characters.'),
  draft: z.number().int().min(1).max(9999),
});
export type ScriptRow = z.infer<typeof ScriptRow>;

/** Where a cue is called in a script: characters of its text, with what stands around them for later drafts. */
export const CallRow = z.object({
  id: RowId,
  scriptId: RowId,
  cueId: RowId,
  from: z.number().int().min(0).max(SCRIPT_LIMIT),
  to: z.number().int().min(0).max(SCRIPT_LIMIT),
  quote: z.string().max(200),
  before: z.string().max(120),
  after: z.string().max(120),
  /** Where the stand-by is given. */
  standby: z.number().int().min(0).max(SCRIPT_LIMIT).optional(),
  /** A later draft has changed what stands here. */
  check: z.enum(['changed', 'lost']).optional(),
});
export type CallRow = z.infer<typeof CallRow>;

/** Who is called besides light: sound, flies, follow spots, as the house names them. */
export const DepartmentRow = z.object({ id: RowId, name: Name });
export type DepartmentRow = z.infer<typeof DepartmentRow>;

/** Where another department is called in a script, with what stands around it for later drafts. */
export const PromptRow = CallRow.omit({ cueId: true }).extend({
  department: RowId,
  /** What is called: `Q 7, thunder`. */ label: Name,
});
export type PromptRow = z.infer<typeof PromptRow>;

const FADER_HOLDS = ['list', 'look', 'group', 'effect'] as const;
export const FADER_MODES = ['proportional', 'inhibiting', 'rate', 'size'] as const;
const FLASHES = ['full', 'solo'] as const;
export const FaderRow = z.object({
  id: RowId,
  number: z.number().int().min(1, 'Faders count from 1.').max(999, 'There are 999 faders.'),
  name: Name,
  holds: z.object({ kind: z.enum(FADER_HOLDS), id: RowId }),
  mode: z.enum(FADER_MODES),
  startsWhenRaised: z.boolean().optional(),
  releasesAtZero: z.boolean().optional(),
  flash: z.enum(FLASHES),
  /** Absent: PRIORITY. */
  priority: z.number().int().min(0).max(100).optional(),
  keepsThroughRelease: z.boolean().optional(),
});
export type FaderRow = z.infer<typeof FaderRow>;

const SOUND_LIMIT = 2_800_000;
/** A sound that a cue starts, on the screens that play sound. */
export const SoundRow = z.object({
  id: RowId,
  name: Name,
  data: z
    .string()
    .max(SOUND_LIMIT, 'A sound has at most 2 MB.')
    .regex(
      /^data:audio\/(wav|x-wav|mpeg|ogg|webm|mp4);base64,[A-Za-z0-9+/=]+$/,
      'A sound is a WAV, MP3, Ogg or WebM file.',
    ),
});
export type SoundRow = z.infer<typeof SoundRow>;
