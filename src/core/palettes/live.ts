/** Live commands that play what stands on the shelf. */
import { z } from 'zod';
import { PLAYERS } from '../roles.ts';
import { defineLive } from '../live/define-live.ts';
import { FixtureNumber, RowId, Time } from '../show/fields.ts';
import { PLAYED_KINDS } from './rows.ts';

export const play = defineLive({
  command: 'play',
  says: 'A palette, a look or an effect plays by itself on its units, or on these, without a programmer; `on: false` lets it go. In its own time, or this.',
  params: {
    kind: z.enum(PLAYED_KINDS),
    id: RowId,
    on: z.boolean().default(true),
    time: Time.optional(),
    /** On these units instead of those that it was made for. */
    fixtures: z.array(FixtureNumber).min(1).max(10_000).optional(),
  },
  roles: PLAYERS,
  board: 'show',
  plays: true,
  goesOn: true,
});
