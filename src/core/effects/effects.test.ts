import fc from 'fast-check';
import type { EffectTrack } from './rows.ts';
import { apply, exampleShow, refused } from '../testing/example.ts';
import { EFFECT_LIBRARY } from './library.ts';
import { phases } from './spread.ts';
import { appliedTo, hertz, phaseOf, waveAt, WAVE_SAMPLES, amountsOf } from './wave.ts';

const together = { turns: 1, groups: 0, blocks: 1, wings: 1 };
const track = (more: Partial<EffectTrack>): EffectTrack => ({
  attribute: 'Dimmer',
  wave: 'sine',
  mode: 'relative',
  size: 1,
  base: 0,
  width: 1,
  offset: 0,
  ...more,
});

describe('phases', () => {
  test.each([
    ['evenly over the selection', together, 4, [0, 0.25, 0.5, 0.75]],
    ['all together', { ...together, turns: 0 }, 3, [0, 0, 0]],
    ['neighbours in blocks of two', { ...together, blocks: 2 }, 4, [0, 0, 0.5, 0.5]],
    ['every third the same', { ...together, groups: 3 }, 6, [0, 1 / 3, 2 / 3, 0, 1 / 3, 2 / 3]],
    [
      'two wings that mirror each other',
      { ...together, wings: 2 },
      6,
      [0, 1 / 3, 2 / 3, 2 / 3, 1 / 3, 0],
    ],
    ['two turns', { ...together, turns: 2 }, 4, [0, 0.5, 0, 0.5]],
    ['backwards', { ...together, turns: -1 }, 4, [0, 0.75, 0.5, 0.25]],
  ] as const)('%s', (_, spread, count, expected) => {
    expect(phases(count, spread)).toEqual(expected.map((v) => expect.closeTo(v, 5)));
  });

  test('at random the same phases come in another order, the same for the same seed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 40 }),
        fc.integer({ min: 0, max: 1e6 }),
        (count, seed) => {
          const at = phases(count, { ...together, seed });
          return (
            [...at].sort((a, b) => a - b).join() ===
              phases(count, together)
                .sort((a, b) => a - b)
                .join() && at.join() === phases(count, { ...together, seed }).join()
          );
        },
      ),
    );
  });
});

describe('waves', () => {
  test('worked by hand', () => {
    expect([0, 0.25, 0.5, 0.75].map((p) => waveAt(track({}), p))).toEqual(
      [0, 0.5, 1, 0.5].map((v) => expect.closeTo(v, 9)),
    );
    expect([0, 0.25, 0.5, 0.75].map((p) => waveAt(track({ wave: 'triangle' }), p))).toEqual([
      0, 0.5, 1, 0.5,
    ]);
    expect([0, 0.5, 0.9].map((p) => waveAt(track({ wave: 'rise' }), p))).toEqual([0, 0.5, 0.9]);
    expect([0.1, 0.6].map((p) => waveAt(track({ wave: 'square' }), p))).toEqual([1, 0]);
    // Half as wide, it is over half way and rests.
    expect([0.25, 0.6].map((p) => waveAt(track({ wave: 'triangle', width: 0.5 }), p))).toEqual([
      1, 0,
    ]);
  });

  test('steps spend their share on the way', () => {
    const steps = track({
      wave: 'steps',
      steps: [
        { level: 1, share: 0.5 },
        { level: 0.2, share: 0 },
      ],
    });
    expect([0, 0.125, 0.25, 0.49, 0.5, 0.99].map((p) => waveAt(steps, p))).toEqual(
      [0.2, 0.6, 1, 1, 0.2, 0.2].map((v) => expect.closeTo(v, 6)),
    );
  });

  test('relative swings about the level beneath, absolute makes it, and half of it is half', () => {
    expect(appliedTo(track({ size: 0.4 }), 0.5, 0.5)).toBeCloseTo(0.7, 9);
    expect(appliedTo(track({ size: 0.4 }), 0.5, 0)).toBeCloseTo(0.3, 9);
    expect(appliedTo(track({ mode: 'absolute', base: 0.2, size: 0.6 }), 0.9, 0.5)).toBeCloseTo(
      0.8,
      9,
    );
    expect(appliedTo(track({ mode: 'absolute', base: 0.2, size: 0.6 }), 0.4, 0.5, 0.5)).toBeCloseTo(
      0.6,
      9,
    );
  });

  test('the clock’s table says what the wave says', () => {
    for (const t of EFFECT_LIBRARY.flatMap((e) => e.tracks)) {
      const table = amountsOf(t);
      for (let i = 0; i < WAVE_SAMPLES; i += 17) {
        const alone = appliedTo(t, 0, i / WAVE_SAMPLES);
        expect(table[i]).toBeCloseTo(alone, 6);
      }
      expect(table[WAVE_SAMPLES]).toBe(table[0]);
    }
  });

  test('forward, back and there and back again', () => {
    expect([0, 0.25, 1.25].map((c) => phaseOf('forward', c, 0.5))).toEqual(
      [0.5, 0.75, 0.75].map((v) => expect.closeTo(v, 6)),
    );
    expect(phaseOf('back', 0.25, 0)).toBeCloseTo(0.75, 6);
    expect([0.25, 0.75, 1.25, 1.75].map((c) => phaseOf('bounce', c, 0))).toEqual(
      [0.25, 0.75, 0.75, 0.25].map((v) => expect.closeTo(v, 6)),
    );
  });

  test('an own speed is its own, beats follow the shared tempo', () => {
    expect(hertz({ hz: 0.4 }, 90)).toBe(0.4);
    expect(hertz({ beats: 4 }, 120)).toBe(0.5);
  });
});

test('lift-off: heads rise lit and return dark', () => {
  const lift = EFFECT_LIBRARY.find((e) => e.name === 'Lift-off');
  const [tilt, dimmer] = ['Tilt', 'Dimmer'].map((a) => lift?.tracks.find((t) => t.attribute === a));
  if (!tilt || !dimmer) throw new Error('no lift-off');
  const lit = (p: number): number => appliedTo(dimmer, 0, p);
  expect(appliedTo(tilt, 0.5, 0.4)).toBeGreaterThan(appliedTo(tilt, 0.5, 0.2));
  expect([0.2, 0.4].map(lit)).toEqual([1, 1]);
  expect(appliedTo(tilt, 0.5, 0.9)).toBeLessThan(appliedTo(tilt, 0.5, 0.7));
  expect([0.7, 0.9].map(lit)).toEqual([0, 0]);
});

test('the library comes into a show once, and wrong effects are refused in words', () => {
  const show = exampleShow();
  expect(apply(show, 'add-standard-effects', {}).changes.length).toBe(EFFECT_LIBRARY.length);
  expect(refused(show, 'add-standard-effects', {}).message).toMatch(/already/);
  const [first] = EFFECT_LIBRARY;
  expect(
    refused(show, 'set-effect', { set: { ...first, tracks: [track({}), track({})] } }).message,
  ).toMatch(/twice/);
  expect(
    refused(show, 'set-effect', { set: { ...first, tracks: [track({ attribute: 'Wobble' })] } })
      .message,
  ).toMatch(/No unit has/);
  expect(
    refused(show, 'set-effect', { set: { ...first, tracks: [track({ wave: 'steps' })] } }).message,
  ).toMatch(/needs its steps/);
  expect(refused(show, 'set-effect', { set: { ...first, speed: { hz: 90 } } }).code).toBe(
    'invalid',
  );
  expect(refused(show, 'set-effect', { set: { ...first, tracks: [] } }).message).toMatch(
    /at least one attribute/,
  );
});
