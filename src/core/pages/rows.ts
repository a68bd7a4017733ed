/** Control pages. */
import { z } from 'zod';
import { PLAYED_KINDS } from '../palettes/rows.ts';
import { Level, Name, RowId, idOf, Time } from '../show/fields.ts';

/** What a button of a control page does when it is pressed. What it points at may be gone: that is said, and does nothing. */
export const PageAct = z.discriminatedUnion('do', [
  z.object({ do: z.literal('go'), list: idOf('lists') }),
  z.object({ do: z.literal('cue'), cue: idOf('cues') }),
  /** Up to the level, or down again when it is there. */
  z.object({ do: z.literal('fader'), fader: idOf('faders'), level: Level, time_s: Time }),
  /** Plays by itself, or lets go when it plays. */
  z.object({ do: z.literal('play'), kind: z.enum(PLAYED_KINDS), id: RowId }),
  z.object({ do: z.literal('release'), list: idOf('lists') }),
  z.object({ do: z.literal('release-all') }),
]);
export type PageAct = z.infer<typeof PageAct>;

/** Large buttons and a few faders for one purpose: all that a volunteer sees. */
export const PageRow = z.object({
  id: idOf('pages'),
  number: z.number().int().min(1).max(999),
  name: Name,
  buttons: z
    .array(z.object({ label: Name, act: PageAct }))
    .max(24, 'A page has at most 24 buttons.'),
  faders: z.array(idOf('faders')).max(8, 'A page has at most 8 faders.'),
});
export type PageRow = z.infer<typeof PageRow>;
