/** Sounds of a show: those that cues start, and those that a list lies along. */
import { z } from 'zod';
import { Name, idOf } from '../show/fields.ts';

/** Kinds of files that are read as sound. */
export const SOUND_KINDS = ['wav', 'mp3', 'ogg', 'flac', 'm4a'] as const;
export type SoundKind = (typeof SOUND_KINDS)[number];

/** A sound file has at most so many bytes. */
export const SOUND_BYTES = 500 * 1024 * 1024;
const SMALL_LIMIT = 2_800_000;

/** A file that lies beside the rows, known by what is in it; said of it is what was measured, not what it says itself. */
export const SoundFile = z.object({
  /** SHA-256 of its bytes, in hexadecimal. */
  sha256: z.string().regex(/^[0-9a-f]{64}$/),
  bytes: z.number().int().min(1).max(SOUND_BYTES, 'A sound has at most 500 MB.'),
  kind: z.enum(SOUND_KINDS),
  length_s: z.number().min(0).max(86_400),
  rate_hz: z.number().int().min(1).max(1_000_000),
  channels: z.number().int().min(1).max(64),
});
export type SoundFile = z.infer<typeof SoundFile>;

/** Either small, in the row itself, or a file beside it. */
export const SoundRow = z
  .object({
    id: idOf('sounds'),
    name: Name,
    data: z
      .string()
      .max(SMALL_LIMIT, 'A sound that is kept in its row has at most 2 MB.')
      .regex(
        /^data:audio\/(wav|x-wav|mpeg|ogg|webm|mp4);base64,[A-Za-z0-9+/=]+$/,
        'A sound is a WAV, MP3, Ogg or WebM file.',
      )
      .optional(),
    file: SoundFile.optional(),
  })
  .refine((s) => (s.data === undefined) !== (s.file === undefined), 'A sound is one file.');
export type SoundRow = z.infer<typeof SoundRow>;

/** Where the sounds of a show are heard. */
export const SOUND_AT = ['screens', 'player', 'both'] as const;
export type SoundAt = (typeof SOUND_AT)[number];
/** Where a list’s sound comes out. */
export const SoundOut = z.object({
  at: z.enum(SOUND_AT),
  /** Of the player’s machine, by its name there; absent: the one that the machine takes by itself. */
  device: z.string().max(200).optional(),
  /** Its output for timecode as sound: nobody is to hear that; absent: the one that the machine takes by itself. */
  code: z.string().max(200).optional(),
  /** Its input where timecode is heard as sound, empty for the one that the machine takes by itself; absent: none. */
  codeIn: z.string().max(200).optional(),
});
export type SoundOut = z.infer<typeof SoundOut>;

const LONGEST_S = 3 * 3600;
const Seconds = z.number().min(0, 'Not below 0 s.').max(LONGEST_S, 'At most three hours.');

/** What a list lies along: which part of it, where on the track, how loud, and with which fades. */
export const TrackSound = z
  .object({
    sound: idOf('sounds'),
    /** Moment of the track at which it begins. */
    at_s: Seconds.default(0),
    /** The part of it that is heard; absent: from its beginning, to its end. */
    from_s: Seconds.optional(),
    to_s: Seconds.optional(),
    /** Decibels; absent: as it is. */
    level_db: z.number().min(-60, 'At least -60 dB.').max(12, 'At most 12 dB.').optional(),
    fadeIn_s: z.number().min(0).max(600, 'A fade of sound takes at most 10 minutes.').optional(),
    fadeOut_s: z.number().min(0).max(600, 'A fade of sound takes at most 10 minutes.').optional(),
    /** Over and over, as long as the track is. */
    loop: z.boolean().optional(),
  })
  .refine((s) => s.to_s === undefined || s.to_s > (s.from_s ?? 0), 'It ends after it begins.');
export type TrackSound = z.infer<typeof TrackSound>;
