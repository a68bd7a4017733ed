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
const together = { turns: 0, groups: 0, blocks: 1, wings: 1 };
const along = { ...together, turns: 1 };

export const EFFECT_LIBRARY: readonly Draft[] = [
  {
    name: 'Circle',
    tracks: [track('Pan', 'sine', 0.08), track('Tilt', 'sine', 0.12, { offset: 0.25 })],
    speed: { hz: 0.25 },
    direction: 'forward',
    spread: along,
  },
  {
    name: 'Sweep',
    tracks: [track('Pan', 'sine', 0.16)],
    speed: { hz: 0.15 },
    direction: 'forward',
    spread: { ...along, turns: 0.5 },
  },
  {
    name: 'Wave',
    tracks: [track('Dimmer', 'sine', 1, { mode: 'absolute' })],
    speed: { hz: 0.4 },
    direction: 'forward',
    spread: along,
  },
  {
    name: 'Breathe',
    tracks: [track('Dimmer', 'sine', 0.3)],
    speed: { hz: 0.12 },
    direction: 'forward',
    spread: together,
  },
  {
    name: 'Ripple',
    tracks: [track('Tilt', 'sine', 0.06)],
    speed: { hz: 0.35 },
    direction: 'forward',
    spread: { ...along, turns: 2 },
  },
  {
    // Up with light on, back down in the dark.
    name: 'Lift-off',
    tracks: [
      track('Tilt', 'triangle', 0.3),
      track('Dimmer', 'steps', 1, {
        mode: 'absolute',
        steps: [
          { level: 1, share: 0.12 },
          { level: 0, share: 0.12 },
        ],
      }),
    ],
    speed: { hz: 0.3 },
    direction: 'forward',
    spread: along,
  },
  {
    name: 'Shimmer',
    tracks: [track('Dimmer', 'triangle', 0.4, { width: 0.4 })],
    speed: { hz: 0.9 },
    direction: 'forward',
    spread: { ...along, seed: 7 },
  },
  {
    name: 'Chase',
    tracks: [
      track('Dimmer', 'steps', 1, {
        mode: 'absolute',
        steps: [
          { level: 1, share: 0.2 },
          { level: 0, share: 0.2 },
          { level: 0, share: 0 },
          { level: 0, share: 0 },
        ],
      }),
    ],
    speed: { beats: 4 },
    direction: 'forward',
    spread: along,
  },
];
