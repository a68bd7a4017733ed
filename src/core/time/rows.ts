/** How a list goes along time: beats and bars, marks, an end, and what a GO in between does. */
import { z } from 'zod';
import { TrackSound } from '../sounds/rows.ts';
import { RATES } from '../timecode/rows.ts';

/** A track lasts at most so long, in seconds. */
export const LONGEST_S = 3 * 3600;
/** Shorter than this nothing is looped, in seconds: it would be a flicker, and begin again without an end. */
export const LEAST_LOOP_S = 0.5;
const MOST_MARKS = 500;
/** Tempi that a track may have. */
export const MOST_TEMPOS = 500;

/** A moment of a track, in seconds from its beginning. */
export const Moment = z
  .number()
  .min(0, 'A moment is not before the beginning of its track.')
  .max(LONGEST_S, `A track lasts at most ${LONGEST_S / 3600} hours.`);

/** From here on so many beats a minute, and so many to a bar; a bar begins here. */
export const Tempo = z.object({
  at_s: Moment,
  bpm: z
    .number()
    .min(10, 'A tempo is at least 10 beats a minute.')
    .max(400, 'A tempo is at most 400 beats a minute.'),
  beats: z
    .number()
    .int()
    .min(1, 'A bar has at least one beat.')
    .max(32, 'A bar has at most 32 beats.'),
});
export type Tempo = z.infer<typeof Tempo>;

const Mark = z.object({
  at_s: Moment,
  name: z.string().trim().min(1, 'A mark has a name.').max(60, 'At most 60 characters.'),
});

const ON_GO = ['wait', 'leave'] as const;

/** Where timecode may come from, and go to. */
export const TIMECODE_FROM = ['midi', 'ltc', 'artnet'] as const;
export type TimecodeFrom = (typeof TIMECODE_FROM)[number];
/** What kinds of timecode are called. */
export const TIMECODE_WORDS: Record<TimecodeFrom, string> = {
  midi: 'MIDI time',
  ltc: 'time as sound',
  artnet: 'Art-Net time',
};
/** Ways in which a list sends its time. */
export const TIMECODE_TO = ['midi', 'artnet', 'ltc'] as const;
export type TimecodeTo = (typeof TIMECODE_TO)[number];

const FollowsTimecode = z.object({
  from: z.enum(TIMECODE_FROM),
  /** Timecode at the beginning of the track, in seconds: an hour for 01:00:00:00. */
  offset_s: z
    .number()
    .min(0, 'An offset is not before 00:00:00:00.')
    .max(86_400, 'Timecode has 24 hours.'),
  /** How long it runs on through a loss; absent: 2 s. */
  runOn_s: z.number().min(0).max(3600, 'At most an hour.').optional(),
});

const GivesTimecode = z.object({
  to: z.array(z.enum(TIMECODE_TO)).min(1, 'Say where to.').max(TIMECODE_TO.length),
  rate: z.enum(RATES),
  /** Timecode at the beginning of the track, in seconds. */
  offset_s: z.number().min(0).max(86_400),
});

/** A list that goes by time: its track. */
export const ListTime = z.object({
  /** It goes by its times; false: they are kept, and it goes by hand. */
  on: z.boolean(),
  /** Where it ends; absent: with its last fade. */
  end_s: Moment.optional(),
  atEnd: z.enum(['stop', 'loop']).optional(),
  tempo: z.array(Tempo).max(MOST_TEMPOS, `A track has at most ${MOST_TEMPOS} tempos.`).default([]),
  marks: z.array(Mark).max(MOST_MARKS, `A track has at most ${MOST_MARKS} marks.`).default([]),
  /** What is heard along it. */
  sound: TrackSound.optional(),
  /** It goes where this timecode goes; absent: by itself. */
  timecode: FollowsTimecode.optional(),
  /** Timecode that it gives while it is on its track. */
  gives: GivesTimecode.optional(),
  /** A GO of the operator plays the next cue, and time goes on from where that cue stands; or it leaves time. Absent: wait. */
  onGo: z.enum(ON_GO).optional(),
});
export type ListTime = z.infer<typeof ListTime>;

/** Of a list that never went by time. */
export const NO_TIME: ListTime = { on: false, tempo: [], marks: [] };

/** What a cue on a track keeps to where the music moves: its beat, or the clock. */
export const KEEPS = ['clock', 'beat'] as const;
