/** Sounds that cues start. */
import { z } from 'zod';
import { Name, idOf } from '../show/fields.ts';

const SOUND_LIMIT = 2_800_000;

/** A sound that a cue starts, on the screens that play sound. */
export const SoundRow = z.object({
  id: idOf('sounds'),
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
