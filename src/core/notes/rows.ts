/** Notes from the house, their pictures, and what somebody liked. */
import { z } from 'zod';
import { FixtureNumber, idOf } from '../show/fields.ts';
import { CUE_NUMBER } from '../cues/number.ts';

/** What a note of a run may be about. */
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
  id: idOf('notes'),
  /** The cue that was on stage, and its number then; absent: about the show. */
  cueId: idOf('cues').optional(),
  cueNumber: CUE_NUMBER.optional(),
  /** Or about a unit, and its number then. */
  fixtureId: idOf('fixtures').optional(),
  fixtureNumber: FixtureNumber.optional(),
  /** Or about a place on the stage, in metres. */
  place: z
    .object({ x: z.number().min(-500).max(500), y: z.number().min(-500).max(500) })
    .optional(),
  /** Or about words of a script. */
  words: z
    .object({
      scriptId: idOf('scripts'),
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
  photo: idOf('photos').optional(),
  /** Lines over a picture of the stage at that moment, each as x, y, x, y … from 0 to 1. */
  drawing: z
    .object({
      picture: idOf('photos').optional(),
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
  id: idOf('photos'),
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
  id: idOf('likes'),
  cueId: idOf('cues'),
  by: Stamp,
  /** It looks different by now: by whom, since when, and by what. */
  lost: z.object({ by: Stamp, text: z.string().max(500) }).optional(),
});
export type LikeRow = z.infer<typeof LikeRow>;
