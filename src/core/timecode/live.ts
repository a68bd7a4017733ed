/** Live commands of timecode. */
import { z } from 'zod';
import { defineLive } from '../live/define-live.ts';
import { PLAYERS } from '../roles.ts';
import { RATES } from './rows.ts';

export const timecode = defineLive({
  command: 'timecode',
  ofHouse: true,
  says: 'Timecode that a screen hears, by MIDI or as sound at its machine: lists of the show on air that follow it go by it.',
  params: {
    h: z.number().int().min(0).max(23),
    m: z.number().int().min(0).max(59),
    s: z.number().int().min(0).max(59),
    f: z.number().int().min(0).max(29),
    rate: z.enum(RATES),
    /** Backwards while it is wound back. */
    way: z.union([z.literal(1), z.literal(-1)]).default(1),
    stands: z.boolean().default(false),
    from: z.enum(['midi', 'ltc']).default('midi'),
  },
  roles: PLAYERS,
  board: 'show',
  plays: true,
});
