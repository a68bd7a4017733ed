/** Rows that people need to work together: parts of a show given to somebody, notes for the programmer, control pages. */
import { z } from 'zod';
import { CUE_NUMBER } from '../cues/number.ts';
import { FixtureNumber, Level, Name, RowId, Time } from './fields.ts';

/** Fixtures and lists that one person programs; others look, or ask. */
export const PartRow = z.object({
  id: RowId,
  name: Name,
  userId: z.string().min(1).max(120),
  /** The person's name, for those who look at the show elsewhere. */
  userName: z.string().min(1).max(200),
  fixtures: z.array(RowId).max(10_000),
  lists: z.array(RowId).max(1000),
});
export type PartRow = z.infer<typeof PartRow>;

export const NOTE_KINDS = ['slow', 'fast', 'bright', 'dark', 'other'] as const;
export type NoteKind = (typeof NOTE_KINDS)[number];
/** Characters of a data URL: about 240 kB of picture. */
export const PHOTO_LIMIT = 330_000;
const Stamp = z.object({
  userId: z.string().max(120),
  name: z.string().max(200),
  at: z.string().max(40),
});

/** What somebody in the house wants changed. It outlives its cue, so that no wish is lost by a deletion. */
export const NoteRow = z.object({
  id: RowId,
  /** The cue that was on stage, and its number then; absent: about the show. */
  cueId: RowId.optional(),
  cueNumber: CUE_NUMBER.optional(),
  /** Or about a unit, and its number then. */
  fixtureId: RowId.optional(),
  fixtureNumber: FixtureNumber.optional(),
  /** Or about a place on the stage, in metres. */
  place: z
    .object({ x: z.number().min(-500).max(500), y: z.number().min(-500).max(500) })
    .optional(),
  /** Or about words of a script. */
  words: z
    .object({
      scriptId: RowId,
      from: z.number().int().min(0),
      to: z.number().int().min(0),
      quote: z.string().max(200),
    })
    .optional(),
  kind: z.enum(NOTE_KINDS),
  text: z.string().max(1000, 'A note has at most 1000 characters.'),
  by: Stamp,
  /** Whom it is for; absent: whoever works the list off. */
  to: z.object({ userId: z.string().max(120), name: z.string().max(200) }).optional(),
  photo: RowId.optional(),
  /** Lines over a picture of the stage at that moment, each as x, y, x, y … from 0 to 1. */
  drawing: z
    .object({
      picture: RowId.optional(),
      lines: z
        .array(z.array(z.number().min(0).max(1)).min(4).max(2000))
        .min(1)
        .max(200),
    })
    .optional(),
  replies: z
    .array(z.object({ by: Stamp, text: z.string().min(1).max(1000) }))
    .max(50, 'A note has at most 50 replies.')
    .optional(),
  /** Worked off: by whom, and when. */
  done: Stamp.optional(),
});
export type NoteRow = z.infer<typeof NoteRow>;

/** A picture that belongs to a note. */
export const PhotoRow = z.object({
  id: RowId,
  data: z
    .string()
    .max(PHOTO_LIMIT, 'A picture of a note has at most 240 kB.')
    .regex(
      /^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/=]+$/,
      'A picture is a PNG, JPEG or WebP image.',
    ),
});
export type PhotoRow = z.infer<typeof PhotoRow>;

/** A cue that was looked at and liked; what has changed it since is kept with it. */
export const LikeRow = z.object({
  id: RowId,
  cueId: RowId,
  by: Stamp,
  /** It looks different by now: by whom, since when, and by what. */
  lost: z.object({ by: Stamp, text: z.string().max(500) }).optional(),
});
export type LikeRow = z.infer<typeof LikeRow>;

/** What a button of a control page does when it is pressed. What it points at may be gone: that is said, and does nothing. */
export const PageAct = z.discriminatedUnion('do', [
  z.object({ do: z.literal('go'), list: RowId }),
  z.object({ do: z.literal('cue'), cue: RowId }),
  /** Up to the level, or down again when it is there. */
  z.object({ do: z.literal('fader'), fader: RowId, level: Level, time_s: Time }),
  z.object({ do: z.literal('release'), list: RowId }),
  z.object({ do: z.literal('release-all') }),
]);
export type PageAct = z.infer<typeof PageAct>;

/** Large buttons and a few faders for one purpose: all that a volunteer sees. */
export const PageRow = z.object({
  id: RowId,
  number: z.number().int().min(1).max(999),
  name: Name,
  buttons: z
    .array(z.object({ label: Name, act: PageAct }))
    .max(24, 'A page has at most 24 buttons.'),
  faders: z.array(RowId).max(8, 'A page has at most 8 faders.'),
});
export type PageRow = z.infer<typeof PageRow>;
