/** Live commands of sheets. */
import { z } from 'zod';
import { defineLive } from '../live/define-live.ts';
import { Level } from '../live/params.ts';
import { PLAYERS, type Role } from '../roles.ts';
import { idOf, Time } from '../show/fields.ts';

const HANDS: readonly Role[] = [...PLAYERS, 'volunteer'];

export const act = defineLive({
  command: 'act',
  says: 'Does what a piece of a sheet is that is an action: what a cue does besides light.',
  params: { piece: idOf('sheetpieces') },
  roles: PLAYERS,
  board: 'show',
  plays: true,
});

export const touch = defineLive({
  command: 'touch',
  says: 'A piece of a sheet that plays is touched: pressed, or brought to a level. What is given to a selection is set, not touched.',
  params: {
    piece: idOf('sheetpieces'),
    /** Of a fader or a master. */
    level: Level.optional(),
    /** Of a key that holds while it is pressed: `false` when it is lifted. */
    on: z.boolean().optional(),
    /** Instead of the piece’s own time. */
    time: Time.optional(),
  },
  roles: HANDS,
});
