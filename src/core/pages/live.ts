/** Live commands of control pages. */
import { z } from 'zod';
import { PLAYERS, type Role } from '../roles.ts';
import { defineLive } from '../live/define-live.ts';
import { Level } from '../live/params.ts';
import { RowId, idOf } from '../show/fields.ts';

const PAGERS: readonly Role[] = [...PLAYERS, 'volunteer'];

export const press = defineLive({
  command: 'press',
  says: 'A button of a control page, counted from 1.',
  params: {
    page: RowId,
    button: z.number().int().min(1).max(24),
  },
  roles: PAGERS,
});

export const pageFader = defineLive({
  command: 'page-fader',
  says: 'A fader of a control page.',
  params: {
    page: RowId,
    fader: idOf('faders'),
    level: Level,
  },
  roles: PAGERS,
});
