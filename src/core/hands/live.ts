/** Live commands of hands. */
import { z } from 'zod';
import { defineLive } from '../live/define-live.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';

export const learn = defineLive({
  command: 'learn',
  says: 'A hand at the machine of the player is learned with: it plays nothing until that is done, or for two minutes at most.',
  params: {
    hand: idOf('hands'),
    on: z.boolean(),
  },
  roles: EDITORS,
});
