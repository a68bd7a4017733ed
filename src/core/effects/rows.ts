/** Effects, and one on a slot. */
import { z } from 'zod';
import { FixtureNumber, Level, Name, Time, idOf } from '../show/fields.ts';

/** Shapes of one round of an effect. */
export const WAVES = ['sine', 'triangle', 'rise', 'fall', 'square', 'steps'] as const;

/** A step of a lane: what it goes to, how much of the round it takes, and for how much of that it moves. */
export const EffectStep = z.object({
  /** 0…1 of the range; what units have for which the palette says nothing. */
  level: Level,
  /** 0…1 of the step spent on the way to it, from the start of the step. */
  share: z.number().min(0).max(1),
  /** Of the round, against what the other steps take; absent: as much as any. */
  takes: z
    .number()
    .min(0.001, 'A step takes at least a thousandth of the round.')
    .max(1000)
    .optional(),
  /** Where each unit goes to by a palette. */
  palette: idOf('palettes').optional(),
  /** Where single units go to, by unit and attribute: what was held when the step was made. */
  units: z.record(idOf('fixtures'), z.record(z.string().max(60), Level)).optional(),
});
export type EffectStep = z.infer<typeof EffectStep>;

/**
 * One lane of an effect: an attribute, or by its name a whole family whose steps are palettes or what units held. A wave
 * goes from 0 to 1 and back over a round. Relative adds `size` times the wave's swing about its middle to the level
 * beneath; absolute goes between `base` and `base + size` of the range.
 */
export const EffectTrack = z.object({
  attribute: z.string().min(1).max(60),
  wave: z.enum(WAVES),
  steps: z.array(EffectStep).min(2, 'An effect has at least two steps.').max(32).optional(),
  /** How steps move; absent: at one speed. */
  curve: z.enum(['straight', 'smooth']).optional(),
  mode: z.enum(['relative', 'absolute']),
  size: z.number().min(-1, 'A size is at least -100 %.').max(1, 'A size is at most 100 %.'),
  base: Level,
  /** Share of the cycle that the wave takes; the rest of it stands at the wave's end. */
  width: z.number().min(0.05, 'A width is at least 5 %.').max(1),
  /** Turns that this attribute is ahead of the effect. */
  offset: z.number().min(0).max(1),
});
export type EffectTrack = z.infer<typeof EffectTrack>;

/** An effect: shapes for attributes, how fast they go, and how they are spread over units. */
export const EffectRow = z.object({
  id: idOf('effects'),
  number: FixtureNumber,
  name: Name,
  order: z.number().min(0).max(1e9).optional(),
  tracks: z.array(EffectTrack).min(1, 'An effect needs at least one attribute.').max(16),
  /** Rounds a second of its own, seconds a round, or beats for one round: of the list's track where that has a tempo, else of the show's shared tempo. */
  speed: z.union([
    z.object({
      hz: z
        .number()
        .min(0.001, 'A speed is at least 0.001 Hz.')
        .max(20, 'A speed is at most 20 Hz.'),
    }),
    z.object({ beats: z.number().min(0.125).max(256) }),
    z.object({
      round_s: z
        .number()
        .min(0.05, 'A round takes at least 0.05 seconds.')
        .max(3600, 'A round takes at most an hour.'),
    }),
  ]),
  direction: z.enum(['forward', 'back', 'bounce']),
  spread: z.object({
    /** Turns of the cycle from the first unit to past the last; 0 keeps all together. */
    turns: z.number().min(-8).max(8),
    /** Every so manyth unit has the same phase again; 0 spreads over all. */
    groups: z.number().int().min(0).max(1000),
    /** So many neighbours share a phase. */
    blocks: z.number().int().min(1).max(1000),
    /** So many mirrored parts. */
    wings: z.number().int().min(1).max(100),
    /** Absent: in the order of the selection. Else at random, the same for the same seed. */
    seed: z.number().int().min(0).max(1e9).optional(),
    /** By where units hang: `turns` from one side of the rig to the other, whatever the selection's order. */
    across: z.literal(true).optional(),
  }),
  /** So many rounds and no more; absent: for ever. */
  rounds: z
    .number()
    .int('Rounds are whole ones.')
    .min(1, 'It runs for at least one round.')
    .max(9999)
    .optional(),
  /** Comes in over so many seconds, whatever the cue's time; absent: in the cue's time. */
  in_s: Time.optional(),
  /** Goes out over so many seconds. */
  out_s: Time.optional(),
  /** Goes on over a new level from another list; absent: it goes with the list that runs it. */
  rides: z.literal(true).optional(),
});
export type EffectRow = z.infer<typeof EffectRow>;

/** The steps of all its lanes. */
export const stepsOf = (effect: EffectRow): EffectStep[] =>
  effect.tracks.flatMap((t) => t.steps ?? []);

/**
 * An effect on a slot: the unit's place among those that the effect was spread over, from 0, and the group that they
 * were, if one. Where in its cycle the slot stands follows from the place and the effect's own spread; `phase`, 0…1, is
 * what it was when this was written, and stands for uses from before places were kept.
 */
export const EffectUse = z.object({
  id: idOf('effects'),
  phase: z.number().min(0).max(1),
  group: idOf('groups').optional(),
  at: z.number().int().min(0).max(10_000).optional(),
  of: z.number().int().min(1).max(10_000).optional(),
});
export type EffectUse = z.infer<typeof EffectUse>;
