/** Live commands that play lists. */
import { z } from 'zod';
import { PLAYERS } from '../roles.ts';
import { defineLive } from '../live/define-live.ts';
import { Level } from '../live/params.ts';
import { DIRECTIONS } from './rows.ts';
import { idOf, Time } from '../show/fields.ts';
import { Moment } from '../time/rows.ts';

const Bpm = z
  .number()
  .min(1, 'A chase has at least 1 step a minute.')
  .max(1200, 'A chase has at most 1200 steps a minute.');

/** Times as fast. */
const RATE = { least: 0.1, most: 10 } as const;

export const go = defineLive({
  command: 'go',
  says: 'Plays the next cue of a list.',
  params: {
    list: idOf('lists').optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  goesOn: true,
  journal: 'GO',
  osc: { path: 'go', at: ['show', 'list'], argument: 'button' },
});

export const back = defineLive({
  command: 'back',
  says: 'Plays the cue before, in the list’s time back.',
  params: {
    list: idOf('lists').optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  goesOn: true,
  journal: 'Back',
  osc: { path: 'back', at: ['show', 'list'], argument: 'button' },
});

export const pause = defineLive({
  command: 'pause',
  says: 'Holds a fade where it is; a second one goes on. With `on` it is said which of the two.',
  params: {
    list: idOf('lists').optional(),
    on: z.boolean().optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  osc: { path: 'pause', at: ['show', 'list'], argument: 'button' },
});

export const goTo = defineLive({
  command: 'goto',
  says: 'Plays a cue by its number, in its own times or this one.',
  params: {
    cue: z.string().max(20),
    time: Time.optional(),
    list: idOf('lists').optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  goesOn: true,
  journal: 'Go to',
  osc: { path: 'goto', at: ['show', 'list'], argument: 'text', into: 'cue' },
});

export const cut = defineLive({
  command: 'cut',
  says: 'To the next cue, or a named one, in no time.',
  params: {
    list: idOf('lists').optional(),
    cue: z.string().max(20).optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  goesOn: true,
  journal: 'Cut',
  osc: { path: 'cut', at: ['show', 'list'], argument: 'button' },
});

export const arm = defineLive({
  command: 'arm',
  says: 'The cue that the next GO plays; null: as the list says.',
  params: {
    list: idOf('lists').optional(),
    cue: z.string().max(20).nullable(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
});

export const rate = defineLive({
  command: 'rate',
  says: 'Paces a list: fades, delays, follows.',
  params: {
    list: idOf('lists').optional(),
    rate: z
      .number()
      .min(RATE.least, 'A rate is at least 10 %.')
      .max(RATE.most, 'A rate is at most 1000 %.'),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
});

export const hand = defineLive({
  command: 'hand',
  says: 'The fade by hand, 0…1; without one under way it begins the next cue. Null lets time go on from there.',
  params: {
    list: idOf('lists').optional(),
    position: Level.nullable(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
});

export const track = defineLive({
  command: 'track',
  says: 'A list along its time: plays from a moment or from where it is, stands there, or leaves time. The stage is as if it had been played to there.',
  params: {
    list: idOf('lists').optional(),
    do: z.enum(['play', 'pause', 'leave']),
    /** Seconds from the beginning of the track. */
    at_s: Moment.optional(),
    /** A passage that is played over and over; null: none any more. */
    loop: z.object({ from_s: Moment, to_s: Moment }).nullable().optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  goesOn: true,
});

export const release = defineLive({
  command: 'release',
  says: 'A list lets go of all that it holds, in its release time or this.',
  params: {
    list: idOf('lists').optional(),
    time: Time.optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  goesOn: true,
  osc: { path: 'release', at: ['show', 'list'], argument: 'button' },
});

export const listMaster = defineLive({
  command: 'list-master',
  says: 'The level of a list as a whole.',
  params: {
    list: idOf('lists').optional(),
    level: Level,
    time: Time.optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
  osc: { path: 'master', at: ['list'], argument: 'level', into: 'level' },
});

export const chaseSpeed = defineLive({
  command: 'chase-speed',
  says: 'The steps of a chase a minute, until it is released.',
  params: {
    list: idOf('lists').optional(),
    bpm: Bpm,
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
});

export const chase = defineLive({
  command: 'chase',
  says: 'How a chase goes, until it is released: steps a minute, the share of a step that its fade takes, its direction, its rounds (0: for ever).',
  params: {
    list: idOf('lists').optional(),
    bpm: Bpm.optional(),
    share: Level.optional(),
    direction: z.enum(DIRECTIONS).optional(),
    count: z
      .number()
      .int()
      .min(0, 'A chase goes at least one round; 0 is for ever.')
      .max(9999)
      .optional(),
  },
  roles: PLAYERS,
  board: 'list',
  plays: true,
});

export const releaseAll = defineLive({
  command: 'release-all',
  says: 'Releases every list and fader but those that keep through release.',
  params: {
    time: Time.optional(),
  },
  roles: PLAYERS,
  board: 'show',
  plays: true,
  goesOn: true,
  osc: { path: 'release-all', at: ['show'], argument: 'button' },
});
