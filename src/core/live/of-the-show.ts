/** Live commands that are about the show as a whole. */
import { z } from 'zod';
import { PLAYERS } from '../roles.ts';
import { defineLive } from './define-live.ts';
import { Level } from './params.ts';

export const master = defineLive({
  command: 'master',
  says: 'The grand master.',
  params: {
    level: Level,
  },
  roles: PLAYERS,
  board: 'show',
  plays: true,
  goesOn: true,
  osc: { path: 'master', at: ['show'], argument: 'level', into: 'level' },
});

export const blackout = defineLive({
  command: 'blackout',
  says: 'All levels to nothing under the grand master, and back.',
  params: {
    on: z.boolean(),
  },
  roles: PLAYERS,
  board: 'show',
  plays: true,
  goesOn: true,
  osc: { path: 'blackout', at: ['show'], argument: 'switch', into: 'on' },
});

export const tempo = defineLive({
  command: 'tempo',
  says: 'The shared tempo, for effects that count in beats.',
  params: {
    bpm: z
      .number()
      .min(10, 'A tempo is at least 10 beats a minute.')
      .max(600, 'A tempo is at most 600 beats a minute.'),
  },
  roles: PLAYERS,
  board: 'show',
});

export const remotes = defineLive({
  command: 'remotes',
  says: 'Whether remote controls over the network may play this show.',
  params: {
    on: z.boolean(),
  },
  roles: PLAYERS,
  board: 'show',
});

export const air = defineLive({
  command: 'air',
  ofHouse: true,
  says: 'Puts the show on air, or takes it off. With `preview` it is said what would happen on stage, and nothing is done.',
  params: {
    on: z.boolean(),
    preview: z.boolean().optional(),
  },
  roles: PLAYERS,
});

export const type = defineLive({
  command: 'type',
  ofHouse: true,
  says: 'The command line, edits too.',
  params: {
    text: z.string().max(2000),
  },
  roles: PLAYERS,
});
