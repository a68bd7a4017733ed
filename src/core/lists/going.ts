/** What moves a list on: hands, its times, or steps by themselves. One choice; what the others had been set to is kept. */
import { NO_TIME } from '../time/rows.ts';
import type { Chase, ListRow } from './rows.ts';

/** What brings the next cue of a list. */
export const GOES = ['hand', 'time', 'chase'] as const;
export type Goes = (typeof GOES)[number];

/** As a chase begins that nobody has set. */
export const PLAIN_CHASE: Chase = {
  on: false,
  speed: { bpm: 60 },
  share: 0.5,
  direction: 'forward',
};

/** Of a list from before it was one choice its times come first, as they play first. */
export function goesBy({ time, chase }: Pick<ListRow, 'time' | 'chase'>): Goes {
  if (time?.on === true) return 'time';
  return chase?.on === true ? 'chase' : 'hand';
}

/** The timecode that leads a list: of one that goes by its times. What goes by hand stays with the hand. */
export const followedBy = (
  list: Pick<ListRow, 'time' | 'chase'>,
): NonNullable<ListRow['time']>['timecode'] =>
  goesBy(list) === 'time' ? list.time?.timecode : undefined;

/** Fields of a list that goes so from now on. */
export function goingBy(
  { time, chase }: Pick<ListRow, 'time' | 'chase'>,
  goes: Goes,
): Pick<ListRow, 'time' | 'chase'> {
  return {
    ...(time || goes === 'time' ? { time: { ...(time ?? NO_TIME), on: goes === 'time' } } : {}),
    ...(chase || goes === 'chase'
      ? { chase: { ...(chase ?? PLAIN_CHASE), on: goes === 'chase' } }
      : {}),
  };
}
