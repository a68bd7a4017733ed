/** Live commands between people: boards, light that was left, parts. */
import { z } from 'zod';
import { PLAYERS } from '../roles.ts';
import { defineLive } from '../live/define-live.ts';
import { idOf, Time } from '../show/fields.ts';
import { Thing } from '../live/thing.ts';

export const board = defineLive({
  command: 'board',
  says: 'The right to play: taken while it is free (or by an owner), left, asked for, handed over to somebody who is here.',
  params: {
    do: z.enum(['take', 'leave', 'ask', 'hand', 'refuse']),
    thing: Thing.optional(),
    to: z.string().max(120).optional(),
    note: z.string().max(200, 'A note has at most 200 characters.').optional(),
  },
  roles: PLAYERS,
});

export const leftLight = defineLive({
  command: 'left-light',
  says: 'Light of somebody who is not here, or may not play any more: taken over as it is, let go, or left until somebody says.',
  params: {
    of: z.string().min(1).max(120),
    do: z.enum(['take', 'go', 'leave']),
    fade_s: Time.default(3),
  },
  roles: PLAYERS,
});

export const ask = defineLive({
  command: 'ask',
  says: 'Asks for something that somebody was given to program.',
  params: {
    part: idOf('parts'),
    note: z.string().max(200).optional(),
  },
  roles: PLAYERS,
});

export const keepPart = defineLive({
  command: 'keep-part',
  says: 'Asked for a part, its person keeps it for now; giving it is the edit `set-part`.',
  params: {
    part: idOf('parts'),
    from: z.string().max(120),
  },
  roles: PLAYERS,
});
