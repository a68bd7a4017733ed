/** A list along its time, on a simulated clock: what comes when, and that a jump is as if it had been played to there. */
import fc from 'fast-check';
import { apply, cue, exampleShow, idOf } from '../../core/testing/example.ts';
import type { MutableShow } from '../../core/show/show.ts';
import { desk, mara } from '../simulated-desk.ts';
import type { Tempo } from '../../core/time/rows.ts';
import { wentOver, wentThrough } from './track.ts';

type Desk = ReturnType<typeof desk>;

const MAIN = 'main';

interface Placed {
  number: number;
  at_s: number;
  levels: Record<number, number | null>;
  more?: Record<string, unknown>;
  delay_s?: number;
}
/** Cues at moments of the track of the first list. */
function laid(cues: readonly Placed[], time: Record<string, unknown> = {}): Desk {
  const show: MutableShow = exampleShow();
  const ids = cues.map((c) => cue(show, c.number, c.levels, c.more));
  const d = desk(show);
  cues.forEach((c, i) => {
    if (c.delay_s) d.edit(mara, 'change-cue', { id: ids[i], set: { delay_s: c.delay_s } });
  });
  d.edit(mara, 'place-cues', {
    list: MAIN,
    at: Object.fromEntries(cues.map((c, i) => [ids[i] ?? '', c.at_s])),
  });
  d.edit(mara, 'change-list', {
    id: MAIN,
    set: { time: { on: true, tempo: [], marks: [], ...time } },
  });
  return d;
}
const play = (d: Desk, at_s?: number): void =>
  void d.say(mara, { command: 'track', do: 'play', ...(at_s === undefined ? {} : { at_s }) });
const stand = (d: Desk, at_s: number): void =>
  void d.say(mara, { command: 'track', do: 'pause', at_s });
const at = (d: Desk): number | null => d.list()?.cueNumber ?? null;
const position = (d: Desk): number => d.list()?.track?.position_s ?? NaN;

const THREE: Placed[] = [
  { number: 1, at_s: 0, levels: { 1: 100 }, more: { up_s: 0, down_s: 0 } },
  { number: 2, at_s: 2, levels: { 1: 0, 2: 100 }, more: { up_s: 4, down_s: 4 } },
  { number: 3, at_s: 4, levels: { 2: 20, 3: 50 }, more: { up_s: 2, down_s: 2 } },
];

test('cues come at their moments, to the frame, and fades go on from where they are', () => {
  const d = laid(THREE);
  play(d, 0);
  d.pass(1.9);
  expect(at(d)).toBe(1000);
  d.pass(0.15);
  expect(at(d)).toBe(2000);
  d.pass(1.95);
  expect(d.level(1)).toBeCloseTo(0.5, 1);
  d.pass(0.1);
  expect(at(d)).toBe(3000);
  d.pass(3);
  expect([d.level(1), d.level(2), d.level(3)].map((l) => Math.round(l * 100))).toEqual([0, 20, 50]);
});

test('in the middle of a fade it stands in the middle of it, and goes on from there', () => {
  const d = laid(THREE);
  stand(d, 3);
  d.pass(1);
  expect([at(d), d.level(1), d.level(2)]).toEqual([
    2000,
    expect.closeTo(0.75),
    expect.closeTo(0.25),
  ]);
  expect(position(d)).toBe(3);
  play(d);
  d.pass(0.99);
  expect(d.level(1)).toBeCloseTo(0.5, 1);
  d.pass(0.06);
  expect(at(d)).toBe(3000);
});

test('before the first cue nothing of the list is on stage, and backwards is as forwards', () => {
  const d = laid(THREE.map((c) => ({ ...c, at_s: c.at_s + 1 })));
  stand(d, 6);
  expect(d.level(3)).toBeGreaterThan(0);
  stand(d, 0.5);
  d.pass(0.05);
  expect([at(d), d.level(1), d.level(3)]).toEqual([null, 0, 0]);
  play(d);
  d.pass(0.6);
  expect(at(d)).toBe(1000);
});

const Cues = fc
  .array(
    fc.record({
      gap: fc.integer({ min: 0, max: 40 }),
      up: fc.oneof(fc.constant(0), fc.integer({ min: 5, max: 60 })),
      down: fc.oneof(fc.constant(0), fc.integer({ min: 5, max: 60 })),
      delay: fc.integer({ min: 0, max: 15 }),
      levels: fc.dictionary(
        fc.constantFrom('1', '2', '3'),
        fc.option(fc.integer({ min: 0, max: 100 }), { nil: null, freq: 8 }),
        { minKeys: 1 },
      ),
    }),
    { minLength: 1, maxLength: 7 },
  )
  .map((all) => {
    let at_s = 0;
    return all.map(({ gap, up, down, delay, levels }, i): Placed => {
      at_s += gap / 10;
      return {
        number: i + 1,
        at_s,
        levels: levels,
        more: { up_s: up / 10, down_s: down / 10 },
        // What is late and sudden happens between two cues, never at one.
        delay_s: delay === 0 ? 0 : delay / 10 + 0.05,
      };
    });
  });

test('whatever the cues, a jump to a moment shows what playing to it shows', () =>
  fc.assert(
    fc.property(Cues, fc.integer({ min: 0, max: 300 }), (cues, tenth) => {
      // Never at the moment of a cue or the end of a fade: there a frame decides.
      const at_s = tenth / 10 + 0.08;
      const played = laid(cues, { end_s: 40 });
      play(played, 0);
      played.pass(at_s);
      const jumped = laid(cues, { end_s: 40 });
      // From somewhere else on the track.
      stand(jumped, 25);
      stand(jumped, at_s);
      jumped.pass(0.03);
      for (const unit of [1, 2, 3]) {
        // A cue finds what it moves up to a frame of 23 ms later than its moment.
        expect([unit, Math.abs(played.level(unit) - jumped.level(unit)) < 0.06]).toEqual([
          unit,
          true,
        ]);
      }
      expect(at(jumped)).toBe(at(played));
    }),
    { numRuns: 60 },
  ));

test('paused it freezes, faster it comes sooner, and where it is is said', () => {
  const d = laid(THREE);
  play(d, 0);
  d.pass(1);
  d.say(mara, { command: 'pause', on: true });
  d.pass(5);
  expect([at(d), Math.round(position(d) * 10)]).toEqual([1000, 10]);
  d.say(mara, { command: 'pause', on: false });
  d.say(mara, { command: 'rate', rate: 2 });
  d.pass(0.55);
  expect(at(d)).toBe(2000);
  expect(position(d)).toBeCloseTo(2.1, 1);
});

describe('a GO in between', () => {
  test('plays the next cue early, and time goes on without playing it again', () => {
    const d = laid(THREE);
    play(d, 0);
    d.pass(1);
    d.say(mara, { command: 'go' });
    expect(at(d)).toBe(2000);
    d.pass(2);
    expect(at(d)).toBe(2000);
    expect(position(d)).toBeCloseTo(3, 1);
    d.pass(1.1);
    expect(at(d)).toBe(3000);
  });

  test('or leaves time: nothing comes by itself any more', () => {
    const d = laid(THREE, { onGo: 'leave' });
    play(d, 0);
    d.pass(1);
    d.say(mara, { command: 'go' });
    d.pass(20);
    expect([at(d), d.list()?.track]).toEqual([2000, null]);
  });

  test('while time stands it goes on with it', () => {
    const d = laid(THREE);
    d.say(mara, { command: 'go' });
    d.pass(2.1);
    expect([at(d), d.list()?.track?.runs]).toEqual([2000, true]);
  });
});

test('a passage is looped, and left when nobody wants it any more', () => {
  const d = laid(THREE);
  d.say(mara, { command: 'track', do: 'play', at_s: 1.5, loop: { from_s: 1.5, to_s: 3 } });
  d.pass(1.6);
  expect(position(d)).toBeCloseTo(1.6, 1);
  d.pass(1.5);
  expect([at(d), position(d) < 3]).toEqual([1000, true]);
  d.say(mara, { command: 'track', do: 'play', loop: null });
  d.pass(3.2);
  expect(at(d)).toBe(3000);
});

test('a passage laid behind where it plays begins at once; put behind a passage, it plays on from there', () => {
  const d = laid(THREE, { end_s: 7 });
  play(d, 5);
  d.say(mara, { command: 'track', do: 'play', loop: { from_s: 0.5, to_s: 1.5 } });
  d.pass(0.3);
  expect([at(d), position(d)]).toEqual([1000, expect.closeTo(0.8, 1)]);
  d.pass(1);
  expect(position(d)).toBeLessThan(1.5);
  // Between the passage and the cue after it, and behind that cue.
  for (const from_s of [1.7, 4.5]) {
    play(d, from_s);
    d.pass(0.2);
    expect(position(d)).toBeCloseTo(from_s + 0.2, 1);
  }
  d.pass(3);
  expect([position(d), d.list()?.track?.runs]).toEqual([7, false]);
});

test('an effect of one round in two cues is played in both, and a jump is where playing is', () => {
  const show = exampleShow();
  apply(show, 'set-effect', {
    set: {
      name: 'Bump',
      tracks: [
        {
          attribute: 'Dimmer',
          wave: 'steps',
          mode: 'absolute',
          size: 1,
          base: 0,
          width: 1,
          offset: 0,
          steps: [
            { level: 0.9, share: 0 },
            { level: 0.9, share: 0 },
          ],
        },
      ],
      speed: { round_s: 2 },
      direction: 'forward',
      spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
      rounds: 1,
      in_s: 0,
      out_s: 0,
    },
  });
  const [effect] = [...show.effects.values()];
  const at_s: Record<string, number> = {};
  for (const [number, moment] of [
    [1000, 0],
    [2000, 5],
  ] as const) {
    const { changes } = apply(show, 'record-cue', {
      listId: MAIN,
      number,
      up_s: 0,
      down_s: 0,
      values: [
        {
          fixtureId: idOf(show, 1),
          attribute: 'Dimmer',
          level: 0.1,
          effect: { id: effect?.id, phase: 0 },
        },
      ],
    });
    at_s[changes.find((c) => c.table === 'cues')?.id ?? ''] = moment;
  }
  apply(show, 'place-cues', { list: MAIN, at: at_s });
  apply(show, 'change-list', { id: MAIN, set: { time: { on: true, tempo: [], marks: [] } } });
  const [played, jumped] = [desk(show), desk(show)];
  play(played, 0);
  let now = 0;
  for (const [moment, level] of [
    [1, 0.9],
    [3, 0.1],
    [4.9, 0.1],
    [6, 0.9],
    [8, 0.1],
  ] as const) {
    played.pass(moment - now);
    now = moment;
    stand(jumped, moment);
    jumped.pass(1 / 44);
    expect([moment, played.level(1), jumped.level(1)]).toEqual([
      moment,
      expect.closeTo(level, 2),
      expect.closeTo(level, 2),
    ]);
  }
});

describe('with effects', () => {
  const tenths = (min: number, max: number) => fc.integer({ min, max }).map((n) => n / 10);
  const Effects = fc.record({
    wave: fc.constantFrom('sine', 'triangle', 'square'),
    mode: fc.constantFrom('relative', 'absolute'),
    size: tenths(2, 5),
    base: tenths(0, 5),
    speed: fc.oneof(
      fc.record({ round_s: tenths(10, 60) }),
      fc.record({ beats: fc.integer({ min: 1, max: 6 }) }),
    ),
    rounds: fc.option(fc.integer({ min: 1, max: 3 }), { nil: undefined }),
    in_s: fc.option(tenths(0, 30), { nil: undefined }),
    out_s: fc.option(tenths(0, 30), { nil: undefined }),
    direction: fc.constantFrom('forward', 'back', 'bounce'),
  });
  const Value = fc.record({
    level: fc.option(tenths(0, 10), { freq: 6 }),
    effect: fc.option(fc.nat(1), { freq: 2 }),
    phase: tenths(0, 9),
  });
  const Steps = fc.array(
    fc.record({
      gap_s: tenths(0, 50),
      up_s: fc.oneof(fc.constant(0), tenths(5, 60)),
      down_s: fc.oneof(fc.constant(0), tenths(5, 60)),
      // What is late and sudden happens between two cues, never at one.
      delay_s: tenths(0, 15).map((s) => (s === 0 ? 0 : s + 0.05)),
      curve: fc.constantFrom(undefined, 'smooth', 'ease-in'),
      isOnTrack: fc.boolean(),
      values: fc.dictionary(fc.constantFrom('1', '2'), Value, { minKeys: 1 }),
    }),
    { minLength: 1, maxLength: 6 },
  );
  const Tempos = fc.uniqueArray(
    fc.record({
      at_s: tenths(0, 300),
      bpm: fc.integer({ min: 40, max: 200 }),
      beats: fc.integer({ min: 2, max: 5 }),
    }),
    { selector: (t) => t.at_s, maxLength: 3 },
  );
  type Made<A> = A extends fc.Arbitrary<infer T> ? T : never;

  /** @param numbers of the cues, where they are not in the order of the track; some are not on it then */
  function withEffects(
    effects: Made<typeof Effects>[],
    steps: Made<typeof Steps>,
    numbers?: number[],
    tempo: readonly Tempo[] = [],
  ): Desk {
    const show = exampleShow();
    const ids = effects.map(({ wave, mode, size, base, ...more }, i) => {
      const track = { attribute: 'Dimmer', wave, mode, size, base, width: 1, offset: 0 };
      const spread = { turns: 0, groups: 0, blocks: 1, wings: 1 };
      const set = { name: `Effect ${i}`, tracks: [track], spread, ...more };
      return apply(show, 'set-effect', { set }).changes[0]?.id ?? '';
    });
    let now_s = 0;
    const at: Record<string, number> = {};
    steps.forEach(({ gap_s, delay_s, values, isOnTrack, ...times }, i) => {
      const { changes } = apply(show, 'record-cue', {
        listId: MAIN,
        number: (numbers?.[i] ?? i + 1) * 1000,
        ...times,
        values: Object.entries(values).map(([n, { level, effect, phase }]) => ({
          fixtureId: idOf(show, Number(n)),
          attribute: 'Dimmer',
          level,
          ...(effect === null || level === null ? {} : { effect: { id: ids[effect], phase } }),
        })),
      });
      const id = changes.find((c) => c.table === 'cues')?.id ?? '';
      if (delay_s > 0) apply(show, 'change-cue', { id, set: { delay_s } });
      now_s += gap_s;
      if (i === 0 || isOnTrack || !numbers) at[id] = now_s;
    });
    apply(show, 'place-cues', { list: MAIN, at });
    const time = { on: true, tempo, marks: [], end_s: 60 };
    apply(show, 'change-list', { id: MAIN, set: { time } });
    return desk(show);
  }

  const FRAME = 1 / 44;
  test('a jump finds them in their phase, on their way in and out, and goes on from there', () =>
    fc.assert(
      fc.property(
        fc.tuple(Effects, Effects),
        Steps,
        fc.option(fc.shuffledSubarray([1, 2, 3, 4, 5, 6], { minLength: 6 }), { nil: undefined }),
        Tempos,
        fc.integer({ min: 0, max: 300 }),
        tenths(0, 60),
        (effects, steps, numbers, tempo, tenth, more_s) => {
          const at_s = tenth / 10 + 0.08;
          const jumped = withEffects(effects, steps, numbers, tempo);
          // From somewhere else, where it stood for a while.
          stand(jumped, 25);
          jumped.pass(1.3);
          play(jumped, at_s);
          jumped.pass(more_s);
          const played = withEffects(effects, steps, numbers, tempo);
          play(played, 0);
          played.pass(at_s + more_s - 3 * FRAME);
          // Three frames before and after: where a wave is square, a frame decides.
          const seen = Array.from({ length: 7 }, () => {
            const levels = [played.level(1), played.level(2)] as const;
            played.pass(FRAME);
            return levels;
          });
          for (const unit of [0, 1] as const) {
            const around = seen.map((levels) => levels[unit]);
            expect(jumped.level(unit + 1)).toBeGreaterThan(Math.min(...around) - 0.06);
            expect(jumped.level(unit + 1)).toBeLessThan(Math.max(...around) + 0.06);
          }
        },
      ),
      { numRuns: Number(process.env.RUNS ?? 150) },
    ));

  test('played again from where it stood, they are where the track has them', () => {
    const effect = { wave: 'sine', mode: 'absolute', size: 1, base: 0 } as const;
    const more = { rounds: undefined, in_s: 0, out_s: 0, direction: 'forward' } as const;
    const speed = { round_s: 4 };
    const values = { '1': { level: 0, effect: 0, phase: 0 } };
    const times = { gap_s: 0, up_s: 0, down_s: 0, delay_s: 0, curve: undefined };
    const first = { ...times, isOnTrack: true, values };
    const d = withEffects([{ ...effect, ...more, speed }], [first]);
    stand(d, 9);
    d.pass(1.7);
    play(d);
    d.pass(1);
    // Ten seconds: in the middle of the third round.
    expect(d.level(1)).toBeCloseTo(1, 2);
  });
});

test('every round of a passage takes what it takes: after hundred of them it is where it would be by the clock', () => {
  const d = laid(THREE);
  d.say(mara, { command: 'track', do: 'play', at_s: 1.7, loop: { from_s: 1.7, to_s: 2.2 } });
  // What frames make of a moment differs from round to round.
  for (let passed = 0; passed < 50; passed += 0.5) d.pass(0.5);
  d.pass(0.2);
  expect(position(d)).toBeCloseTo(1.9, 1);
  expect(Math.abs(position(d) - 1.9)).toBeLessThan(0.03);
});

test('at its end it stands, or begins again', () => {
  const once = laid(THREE, { end_s: 7 });
  play(once, 6.5);
  once.pass(3);
  expect([position(once), once.list()?.track?.runs]).toEqual([7, false]);
  once.say(mara, { command: 'go' });
  once.pass(0.5);
  expect([at(once), Math.round(position(once) * 10)]).toEqual([1000, 5]);
  const round = laid(THREE, { end_s: 7, atEnd: 'loop' });
  play(round, 6.5);
  round.pass(1);
  expect([at(round), Math.round(position(round) * 10)]).toEqual([1000, 5]);
});

test('over as it begins, it does not begin again: it stands, and screens are told of it once', () => {
  for (const end_s of [0, 0.2]) {
    const d = laid(THREE, { end_s, atEnd: 'loop' });
    play(d, 0);
    d.pass(1);
    const { count } = d.told;
    d.pass(5);
    expect([d.list()?.track?.runs, position(d), d.told.count - count]).toEqual([false, end_s, 0]);
  }
});

test('a cue that is moved while it plays comes when the show says now', () => {
  const d = laid(THREE);
  play(d, 0);
  d.pass(1);
  const id = d.show.cuesOf(MAIN)[1]?.id ?? '';
  d.edit(mara, 'place-cues', { list: MAIN, at: { [id]: 3 } });
  d.pass(1.5);
  expect(at(d)).toBe(1000);
  d.pass(0.6);
  expect(at(d)).toBe(2000);
  // Moved to before where it is, the one after it is next.
  d.edit(mara, 'place-cues', { list: MAIN, at: { [id]: 0.5 } });
  d.pass(1);
  expect(at(d)).toBe(3000);
});

test('two cues at one moment both come, in the order of their numbers', () => {
  const d = laid([
    { number: 1, at_s: 0, levels: { 1: 10 } },
    { number: 2, at_s: 1, levels: { 1: 20 } },
    { number: 3, at_s: 1, levels: { 2: 30 } },
  ]);
  play(d, 0);
  d.pass(1.2);
  expect(at(d)).toBe(3000);
  stand(d, 1);
  expect(at(d)).toBe(3000);
});

test('what cues do besides light is done when time comes to them, and not by a jump over them', () => {
  const d = laid([
    { number: 1, at_s: 0, levels: { 1: 10 } },
    { number: 2, at_s: 1, levels: { 1: 20 } },
  ]);
  const id = d.show.cuesOf(MAIN)[1]?.id ?? '';
  d.edit(mara, 'change-cue', { id, set: { actions: [{ do: 'bytes', bytes: '90 01 01' }] } });
  stand(d, 5);
  expect(d.sent.midi).toHaveLength(0);
  play(d, 0.5);
  d.pass(0.6);
  expect(d.sent.midi).toHaveLength(1);
});

test('a go-to leaves time, and a track without cues is refused', () => {
  const d = laid(THREE);
  play(d, 0);
  d.say(mara, { command: 'goto', cue: '3' });
  d.pass(10);
  expect([at(d), d.list()?.track]).toEqual([3000, null]);
  const bare = desk();
  expect(bare.say(mara, { command: 'track', do: 'play' })).toMatchObject({ code: 'nothing' });
  expect(
    d.say(mara, { command: 'track', do: 'play', loop: { from_s: 1, to_s: 1.1 } }),
  ).toMatchObject({ code: 'invalid' });
  expect(idOf(d.show, 1)).toBeTruthy();
});

test('the place of a track goes evenly, however late its moments are noticed, and follows the list’s clock', () => {
  let track = { position_s: 0, since_ms: 1000, base_s: 0 };
  const off: number[] = [];
  for (let n = 1; n <= 60; n++) {
    // Noticed at once, where the machine is free, and now and then much later; the clock began 9 ms after the track was told.
    const late_ms = n % 7 === 0 ? 20 : (n * 1.3) % 3;
    const now_ms = 1009 + n * 1000 + late_ms;
    track = { ...track, since_ms: wentThrough(track, n, 1, now_ms), position_s: n };
    off.push(track.since_ms - (1009 + n * 1000));
  }
  for (const ms of off.slice(10)) expect(Math.abs(ms)).toBeLessThan(6);
  const steps = off.slice(1).map((ms, i) => Math.abs(ms - (off[i] ?? 0)));
  expect(Math.max(...steps)).toBeLessThan(8);
  // Far off it is taken as it is.
  expect(wentThrough(track, 61, 1, 70_000)).toBe(70_000);
  expect(wentThrough({ ...track, since_ms: null }, 61, 1, 70_000)).toBe(70_000);
});

test('a cue that comes while the one before it lets go begins from what is seen, not from before that', () => {
  const d = laid([
    { number: 1, at_s: 0, levels: { 1: 80 }, more: { up_s: 0, down_s: 0 } },
    { number: 2, at_s: 1, levels: { 1: null }, more: { up_s: 4, down_s: 4 } },
    { number: 3, at_s: 4, levels: { 1: 60 }, more: { up_s: 4, down_s: 4 } },
  ]);
  stand(d, 4);
  d.pass(0.03);
  expect(d.level(1)).toBeCloseTo(0.2);
  stand(d, 6);
  d.pass(0.03);
  expect(d.level(1)).toBeCloseTo(0.4);
});

test('what a track is past its end is known to the edge of a moment; further off, or not there yet, it begins anew', () => {
  const at = (now_ms: number, rate = 1): number =>
    wentOver({ position_s: 8, since_ms: 0, goAt_s: 0, follows: false } as never, 10, rate, now_ms);
  expect([at(1999), at(2000)]).toEqual([0, 0]);
  expect([at(2040), at(2079)]).toEqual([expect.closeTo(0.04, 9), expect.closeTo(0.079, 9)]);
  expect([at(2081), at(3000)]).toEqual([0, 0]);
  // At twice the pace as long is twice as far.
  expect(at(1060, 2)).toBeCloseTo(0.12, 9);
  expect(at(1090, 2)).toBe(0);
});
