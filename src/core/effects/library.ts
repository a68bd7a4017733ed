/** Effects that a show can start with. Names and movements of our own. */
import type { EffectRow, EffectTrack } from './rows.ts';

type Draft = Omit<EffectRow, 'id' | 'number'>;

const track = (
  attribute: string,
  wave: EffectTrack['wave'],
  size: number,
  more: Partial<EffectTrack> = {},
): EffectTrack => ({
  attribute,
  wave,
  mode: 'relative',
  size,
  base: 0,
  width: 1,
  offset: 0,
  ...more,
});
/** Steps of one lane: each its level, what it takes of the round, and for how much of that it moves. */
const steps = (
  attribute: string,
  of: readonly (readonly [level: number, takes: number, share: number])[],
  more: Partial<EffectTrack> = {},
): EffectTrack =>
  track(attribute, 'steps', 1, {
    mode: 'absolute',
    steps: of.map(([level, takes, share]) => ({ level, takes, share })),
    ...more,
  });
/** About the level beneath: steps from -1 to 1 of a size. */
const about = (
  attribute: string,
  size: number,
  of: readonly (readonly [level: number, takes: number, share: number])[],
  more: Partial<EffectTrack> = {},
): EffectTrack =>
  steps(
    attribute,
    of.map(([level, takes, share]) => [(level + 1) / 2, takes, share] as const),
    { mode: 'relative', size, ...more },
  );

const together = { turns: 0, groups: 0, blocks: 1, wings: 1 };
const along = { ...together, turns: 1 };
const mirrored = { ...along, wings: 2 };
const chance = { ...along, seed: 7 };

const effect = (
  name: string,
  tracks: EffectTrack[],
  speed: Draft['speed'],
  spread: Draft['spread'] = along,
  more: Partial<Draft> = {},
): Draft => ({ name, tracks, speed, spread, direction: 'forward', ...more });

/** The first eight keep their places: shows that took them in have them under these numbers. */
export const EFFECT_LIBRARY: readonly Draft[] = [
  effect('Circle', [track('Pan', 'sine', 0.08), track('Tilt', 'sine', 0.12, { offset: 0.25 })], {
    hz: 0.25,
  }),
  effect('Sweep', [track('Pan', 'sine', 0.16)], { hz: 0.15 }, { ...along, turns: 0.5 }),
  effect('Wave', [track('Dimmer', 'sine', 1, { mode: 'absolute' })], { hz: 0.4 }),
  effect('Breathe', [track('Dimmer', 'sine', 0.3)], { hz: 0.12 }, together),
  effect('Ripple', [track('Tilt', 'sine', 0.06)], { hz: 0.35 }, { ...along, turns: 2 }),
  // Up slowly with light on, back down fast in the dark.
  effect(
    'Lift-off',
    [
      steps(
        'Tilt',
        [
          [1, 0.62, 1],
          [0, 0.38, 0.7],
        ],
        { mode: 'relative', size: 0.3, curve: 'smooth' },
      ),
      steps('Dimmer', [
        [1, 0.62, 0.08],
        [0, 0.38, 0],
      ]),
    ],
    { round_s: 3 },
  ),
  effect('Shimmer', [track('Dimmer', 'triangle', 0.4, { width: 0.4 })], { hz: 0.9 }, chance),
  effect(
    'Chase',
    [
      steps('Dimmer', [
        [1, 1, 0.2],
        [0, 1, 0.2],
        [0, 2, 0],
      ]),
    ],
    { beats: 4 },
  ),
  // More positions.
  effect(
    'Figure of eight',
    [track('Pan', 'sine', 0.12), track('Tilt', 'sine', 0.06, { width: 0.5 })],
    { hz: 0.2 },
  ),
  effect(
    'Nod',
    [
      about(
        'Tilt',
        0.14,
        [
          [1, 0.3, 1],
          [-1, 0.7, 0.5],
        ],
        { curve: 'smooth' },
      ),
    ],
    { round_s: 4 },
    together,
  ),
  effect('Searchlights', [track('Pan', 'sine', 0.3)], { round_s: 9 }, mirrored),
  effect(
    'Drift',
    [track('Pan', 'sine', 0.05), track('Tilt', 'sine', 0.04, { offset: 0.4 })],
    { round_s: 14 },
    chance,
  ),
  effect(
    'Square walk',
    [
      about('Pan', 0.12, [
        [1, 1, 0.4],
        [1, 1, 0],
        [-1, 1, 0.4],
        [-1, 1, 0],
      ]),
      about('Tilt', 0.12, [
        [-1, 1, 0],
        [1, 1, 0.4],
        [1, 1, 0],
        [-1, 1, 0.4],
      ]),
    ],
    { beats: 8 },
    together,
  ),
  // More of intensity.
  effect(
    'Two by two',
    [
      steps('Dimmer', [
        [1, 1, 0.1],
        [0, 1, 0.1],
      ]),
    ],
    { beats: 2 },
    { ...along, groups: 2 },
  ),
  effect(
    'From the middle out',
    [
      steps('Dimmer', [
        [1, 0.2, 0.5],
        [0, 0.8, 0.6],
      ]),
    ],
    { beats: 4 },
    mirrored,
  ),
  effect(
    'Candle',
    [track('Dimmer', 'triangle', 0.18, { width: 0.6 })],
    { hz: 1.7 },
    { ...chance, turns: 3, seed: 21 },
  ),
  effect(
    'Lightning',
    [
      steps('Dimmer', [
        [1, 0.02, 0],
        [0.2, 0.04, 0],
        [1, 0.02, 0],
        [0, 0.92, 0.12],
      ]),
    ],
    { round_s: 5 },
    chance,
  ),
  effect(
    'Heartbeat',
    [
      steps(
        'Dimmer',
        [
          [1, 0.08, 0.6],
          [0.4, 0.12, 1],
          [0.9, 0.08, 0.6],
          [0.25, 0.72, 0.7],
        ],
        { curve: 'smooth' },
      ),
    ],
    { hz: 1 },
    together,
  ),
  effect(
    'Swell',
    [
      steps(
        'Dimmer',
        [
          [1, 0.7, 1],
          [0.1, 0.3, 1],
        ],
        { curve: 'smooth' },
      ),
    ],
    { round_s: 6 },
  ),
  // Colour: units that mix take part by what they have.
  effect(
    'Hue round',
    [
      track('ColorAdd_R', 'sine', 1, { mode: 'absolute' }),
      track('ColorAdd_G', 'sine', 1, { mode: 'absolute', offset: 1 / 3 }),
      track('ColorAdd_B', 'sine', 1, { mode: 'absolute', offset: 2 / 3 }),
    ],
    { round_s: 12 },
  ),
  effect(
    'Warm and cool',
    [track('CTC', 'sine', 0.5), track('CTO', 'sine', 0.5)],
    { round_s: 10 },
    { ...along, turns: 0.5 },
  ),
  effect(
    'Embers',
    [
      steps(
        'ColorAdd_G',
        [
          [0.3, 0.5, 1],
          [0.08, 0.5, 1],
        ],
        { curve: 'smooth' },
      ),
      track('Dimmer', 'triangle', 0.25, { width: 0.7 }),
    ],
    { hz: 0.6 },
    { ...chance, seed: 12 },
  ),
  // Beam.
  effect(
    'Iris pulse',
    [
      steps(
        'Iris',
        [
          [1, 0.3, 1],
          [0.2, 0.7, 0.8],
        ],
        { curve: 'smooth' },
      ),
    ],
    { beats: 2 },
  ),
  effect('Zoom breath', [track('Zoom', 'sine', 0.3)], { round_s: 7 }, together),
  effect(
    'Wheel turn',
    [track('Gobo1Pos', 'rise', 1, { mode: 'absolute' })],
    { round_s: 10 },
    { ...along, turns: 0.5 },
  ),
  // Several at once.
  effect(
    'Lighthouse',
    [
      track('Pan', 'rise', 0.6),
      steps('Dimmer', [
        [1, 0.55, 0.1],
        [0, 0.45, 0.1],
      ]),
    ],
    { round_s: 6 },
    together,
  ),
  effect(
    'Fall',
    [
      steps(
        'Tilt',
        [
          [0, 0.4, 1],
          [1, 0.6, 0.3],
        ],
        { mode: 'relative', size: 0.3 },
      ),
      steps('Dimmer', [
        [0, 0.4, 1],
        [1, 0.6, 0.05],
      ]),
    ],
    { round_s: 2 },
    chance,
  ),
  effect(
    'Open and close',
    [track('Zoom', 'sine', 0.6), track('Dimmer', 'sine', 0.5, { offset: 0.5 })],
    { beats: 8 },
    mirrored,
  ),
];
