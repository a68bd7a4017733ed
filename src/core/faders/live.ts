/** Live commands that play faders. */
import { z } from 'zod';
import { PLAYERS } from '../roles.ts';
import { defineLive } from '../live/define-live.ts';
import { Level } from '../live/params.ts';
import { Time } from '../show/fields.ts';

const FaderNumber = z.number().int().min(1, 'Faders count from 1.').max(999);

export const fader = defineLive({
  command: 'fader',
  says: 'A fader by its number. A hand that is away from what the fader gives waits to pick it up; with `take` it does not.',
  params: {
    fader: FaderNumber,
    level: Level,
    time: Time.optional(),
    /** A hand that is away from what the fader gives waits to pick it up; this does not. */ take: z
      .boolean()
      .optional(),
  },
  roles: PLAYERS,
  board: 'page',
  plays: true,
  goesOn: true,
  osc: { path: 'fader', at: ['fader'], argument: 'level', into: 'level' },
});

export const flash = defineLive({
  command: 'flash',
  says: 'Pressed and lifted.',
  params: {
    fader: FaderNumber,
    on: z.boolean(),
  },
  roles: PLAYERS,
  board: 'page',
  plays: true,
  goesOn: true,
  osc: { path: 'flash', at: ['fader'], argument: 'switch', into: 'on' },
});
