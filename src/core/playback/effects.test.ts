/** Effects as the clock plays them, frame by frame. */
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { appliedTo } from '../effects/wave.ts';
import type { EffectRow, EffectTrack } from '../effects/rows.ts';
import { slotKey } from '../cues/rows.ts';
import { holds, moves, soughtAt } from '../testing/columns.ts';
import { apply, exampleShow, idOf } from '../testing/example.ts';
import { Engine } from './engine.ts';
import { OPERATOR } from './winner.ts';
import type { PlaybackConfig } from './playback.ts';
import { compileEffects, waveFinder } from './programs.ts';
import { describe as describeCopy } from './saved.ts';
import { compileSlots, slotIndex } from './slots.ts';

const FRAME = 1 / 44;

function stage() {
  const show = exampleShow();
  apply(show, 'add-standard-effects', {});
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const programs = compileEffects(show, 120);
  const find = waveFinder(programs);
  const engine = new Engine(slots);
  engine.setPrograms(programs);
  engine.tick(0);
  const effect = (name: string) => {
    const found = [...show.effects.values()].find((e) => e.name === name);
    if (!found) throw new Error(`no ${name}`);
    return found;
  };
  const slot = (n: number, attribute = 'Dimmer'): number =>
    index.get(slotKey(idOf(show, n), attribute)) ?? -1;
  let now = 0;
  return {
    show,
    slots,
    programs,
    engine,
    slot,
    wave: (name: string, attribute = 'Dimmer'): number => find(effect(name).id, attribute, ''),
    track: (name: string, attribute = 'Dimmer') =>
      effect(name).tracks.find((t) => t.attribute === attribute) ?? effect(name).tracks[0],
    out: (n: number, attribute = 'Dimmer'): number => engine.shared.out[slot(n, attribute)] ?? NaN,
    to: (time: number) => {
      while (now < time - 1e-9) {
        now = Math.min(time, now + FRAME);
        engine.tick(now);
      }
    },
  };
}

test('a cue’s effect comes in over its time and then says what the wave says', () => {
  const s = stage();
  const track = s.track('Breathe');
  s.engine.move(
    'main',
    moves(s.slot(1), { level: 0.5, up_s: 2, wave: s.wave('Breathe'), phase: 0.25 }),
    0,
  );
  s.to(10);
  if (!track) throw new Error('no track');
  expect(s.out(1)).toBeCloseTo(appliedTo(track, 0.5, 0.12 * 10 + 0.25), 3);
  expect(s.engine.busy).toBe(true);
});

test('nothing ever jumps: in, over to another, out with the next cue, in steps no larger than the wave’s own', () => {
  const s = stage();
  const all = [1, 2, 3].map((n) => s.slot(n));
  let last = [0, 0, 0];
  let worst = 0;
  const watch = (until: number, from: number): void => {
    for (let t = from; t < until; t += FRAME) {
      s.to(t);
      const now = [1, 2, 3].map((n) => s.out(n));
      worst = Math.max(worst, ...now.map((v, i) => Math.abs(v - (last[i] ?? 0))));
      last = now;
    }
  };
  s.engine.move('main', moves(all, { level: 0.5, up_s: 1, wave: s.wave('Breathe'), phase: 0 }), 0);
  watch(3, 0);
  s.engine.move('main', moves(all, { level: 0.5, up_s: 1, wave: s.wave('Wave'), phase: 0.5 }), 3);
  watch(6, 3);
  s.engine.move('main', moves(all, { level: 0.2, up_s: 1, down_s: 1 }), 6);
  watch(8, 6);
  // The fastest of it: a wave of 0.4 Hz over the full range while a fade of a second runs.
  expect(worst).toBeLessThan(FRAME * (0.4 * Math.PI + 1.2));
  expect(last).toEqual([0.2, 0.2, 0.2].map((v) => expect.closeTo(v, 5)));
  expect(s.engine.busy).toBe(false);
});

test('tracks of one effect share one clock, so that intensity and position stay in step', () => {
  const s = stage();
  s.engine.move('main', moves(s.slot(101), { level: 0, wave: s.wave('Lift-off') }), 0);
  s.to(1.3);
  s.engine.move(
    'main',
    moves(s.slot(101, 'Tilt'), { level: 0.5, wave: s.wave('Lift-off', 'Tilt') }),
    1.3,
  );
  for (let t = 2; t < 12; t += 0.1) {
    s.to(t);
    const phase = (t / 3) % 1;
    if (phase > 0.15 && phase < 0.45) expect(s.out(101)).toBeCloseTo(1, 3);
    if (phase > 0.65 && phase < 0.95) expect(s.out(101)).toBeCloseTo(0, 3);
    const tilt = s.track('Lift-off', 'Tilt');
    if (tilt) expect(s.out(101, 'Tilt')).toBeCloseTo(appliedTo(tilt, 0.5, phase), 2);
  }
});

test('another tempo bends the way and never jumps', () => {
  const s = stage();
  s.engine.move('main', moves(s.slot(101, 'Pan'), { level: 0.5, wave: s.wave('Sweep', 'Pan') }), 0);
  s.to(2.2);
  const before = s.out(101, 'Pan');
  const faster = {
    ...s.programs,
    effects: s.programs.effects.map((e) => ({ ...e, hz: e.hz * 8 })),
  };
  s.engine.setPrograms(faster);
  s.to(2.2 + FRAME);
  expect(Math.abs(s.out(101, 'Pan') - before)).toBeLessThan(
    0.16 * Math.PI * 0.15 * 8 * FRAME + 1e-6,
  );
});

test('a list that loses a slot to a later one takes its effect with it', () => {
  const s = stage();
  s.engine.move('main', moves(s.slot(101, 'Pan'), { level: 0.5, wave: s.wave('Sweep', 'Pan') }), 0);
  s.to(1);
  s.engine.move('busk', moves(s.slot(101, 'Pan'), { level: 0.2 }), 1);
  s.to(3);
  expect(s.out(101, 'Pan')).toBeCloseTo(0.2, 5);
});

test.each([
  ['on its way in', 0.4],
  ['whole', 1.5],
  ['while it waits to go out', 2.2],
  ['on its way out', 3.3],
  ['from one to another', 5.2],
  ['gone', 9],
])('saved %s, an effect goes on as it would have, along a track or not', (_where, when) => {
  for (const along of [false, true]) savedAndGoneOn(when, along);
});

function savedAndGoneOn(when: number, along: boolean): void {
  const s = stage();
  const at = s.slot(1);
  if (along) s.engine.seek('main', soughtAt(11.3), 0);
  const say = (wave: number, up_s: number, delay_s = 0, now = 0): void =>
    s.engine.move('main', moves(at, { level: 0.4, up_s, delay_s, wave }), now);
  const all: [at: number, play: () => void][] = [
    [0, () => say(s.wave('Breathe'), 1)],
    [2, () => say(-1, 2, 1, 2)],
    [4.5, () => say(s.wave('Breathe'), 0.2, 0, 4.5)],
    [5, () => say(s.wave('Wave'), 1, 0, 5)],
    [7, () => say(-1, 1, 0, 7)],
  ];
  for (const [began, play] of all) {
    if (began > when) break;
    s.to(began);
    play();
  }
  s.to(when);
  const other = new Engine(s.slots);
  other.setPrograms(s.programs);
  other.restore(JSON.parse(JSON.stringify(s.engine.save())) as ReturnType<Engine['save']>, when);
  for (let frame = 0; frame < 200; frame++) {
    const now = when + frame * FRAME;
    s.to(now);
    other.tick(now);
    expect(other.shared.out[at]).toBeCloseTo(s.out(1), 3);
  }
}

test('an operator’s value wins over a playback effect, an own effect goes on top, and letting go fades it all away', () => {
  const s = stage();
  s.engine.move('main', moves(s.slot(1), { level: 0.5, wave: s.wave('Wave') }), 0);
  s.to(1);
  s.engine.hold('mara', holds(s.slot(1), { level: 0.8 }), 1);
  s.to(2);
  expect(s.out(1)).toBeCloseTo(0.8, 5);
  s.engine.hold('mara', holds(s.slot(1), { level: 0.5, wave: s.wave('Breathe') }), 2);
  s.to(4);
  expect(s.out(1)).not.toBeCloseTo(0.5, 2);
  expect(s.engine.shared.winner[s.slot(1)]).toBe(OPERATOR);
  s.engine.letGo('mara', [s.slot(1)], 1, 4);
  s.to(6);
  const track = s.track('Wave');
  if (track) expect(s.out(1)).toBeCloseTo(appliedTo(track, 0.5, 0.4 * 6), 2);
});

test('blind: what is held does not show, goes and comes in half a second without a jump', () => {
  const s = stage();
  s.engine.move('main', moves(s.slot(1), { level: 0.2 }), 0);
  s.engine.hold('mara', holds(s.slot(1), { level: 1 }), 0);
  s.to(0.1);
  expect(s.out(1)).toBe(1);
  s.engine.setBlind('mara', true);
  s.engine.hold('mara', holds(s.slot(3), { level: 1 }), 0.1);
  s.to(0.35);
  expect(s.out(3)).toBe(0);
  expect(s.out(1)).toBeGreaterThan(0.3);
  expect(s.out(1)).toBeLessThan(0.9);
  s.to(1);
  expect(s.out(1)).toBeCloseTo(0.2, 5);
  s.engine.hold('mara', holds(s.slot(2), { level: 1 }), 1);
  s.to(1.1);
  expect(s.out(2)).toBe(0);
  s.engine.setBlind('mara', false);
  s.to(2);
  expect([s.out(1), s.out(2)]).toEqual([1, 1]);
});

test('a restored engine goes on in the same place of the cycle, and a change of the rig loses no effect', () => {
  const s = stage();
  s.engine.move(
    'main',
    moves([s.slot(1), s.slot(2)], { level: 0.5, wave: s.wave('Wave'), phase: 0.3 }),
    0,
  );
  s.engine.hold('mara', holds(s.slot(3), { level: 0.5, wave: s.wave('Breathe') }), 0);
  s.engine.setBlind('tam', true);
  s.to(5);
  const again = new Engine(s.slots);
  again.setPrograms(s.programs);
  again.restore(JSON.parse(JSON.stringify(s.engine.save())), 5);
  again.tick(5);
  for (const n of [1, 2, 3]) expect(again.shared.out[s.slot(n)]).toBeCloseTo(s.out(n), 4);
  s.to(7);
  for (let t = 5; t < 7; t += FRAME) again.tick(t);
  again.tick(7);
  for (const n of [1, 2, 3]) expect(again.shared.out[s.slot(n)]).toBeCloseTo(s.out(n), 3);
});

test('an effect that is deleted ends, and what it ran on stands at its level', () => {
  const s = stage();
  s.engine.move('main', moves(s.slot(1), { level: 0.5, wave: s.wave('Wave') }), 0);
  s.to(1.4);
  s.engine.setPrograms({ effects: [], waves: [], rides: false });
  s.to(1.5);
  s.engine.retarget('main', s.slot(1), { level: 0.5 });
  s.to(1.6);
  expect(s.out(1)).toBeCloseTo(0.5, 5);
});

describe('an effect that is worked on while it runs', () => {
  const tilt = (more: Partial<EffectTrack>): EffectTrack => ({
    attribute: 'Tilt',
    wave: 'sine',
    mode: 'absolute',
    size: 1,
    base: 0,
    width: 1,
    offset: 0,
    ...more,
  });
  const effect = (more: Partial<EffectRow>): EffectRow => ({
    id: 'rise',
    number: 900,
    name: 'Rise',
    tracks: [tilt({})],
    speed: { hz: 0.25 },
    direction: 'forward',
    spread: { turns: 0, groups: 0, blocks: 1, wings: 1 },
    ...more,
  });
  /** The engine with one effect on the tilt of two heads. */
  function running(first: EffectRow) {
    const s = stage();
    let programs = compileEffects(s.show, 120);
    const set = (row: EffectRow): void => {
      s.show.apply([
        {
          table: 'effects',
          id: row.id,
          before: s.show.effects.get(row.id) ?? null,
          after: row,
        },
      ]);
      programs = compileEffects(s.show, 120);
      s.engine.setPrograms(programs);
    };
    set(first);
    const wave = (): number => waveFinder(programs)('rise', 'Tilt', '');
    return { ...s, set, wave };
  }

  /** A beat each two thirds of a second from the second 2, after fifteen of them slower ones. */
  const ON_BEATS: PlaybackConfig = {
    id: 'main',
    ltp: false,
    priority: 100,
    beats: [
      { at_s: 2, bpm: 90, first: 0 },
      { at_s: 10.5, bpm: 60, first: 16 },
    ],
  };
  const track = fc.record({
    wave: fc.constantFrom<EffectTrack['wave'][]>('sine', 'triangle', 'steps'),
    mode: fc.constantFrom<EffectTrack['mode'][]>('absolute', 'relative'),
    size: fc.constantFrom(0.2, 0.5),
    base: evenly(0.25, 0.5),
    offset: evenly(0, 1),
    steps: fc.constant<NonNullable<EffectTrack['steps']>>([
      { level: 1, share: 1, takes: 0.6 },
      { level: 0, share: 1, takes: 0.4 },
    ]),
  });
  const state = fc.record({
    track,
    direction: fc.constantFrom<EffectRow['direction'][]>('forward', 'back', 'bounce'),
    speed: fc.oneof(
      fc.record({ hz: evenly(0.05, 0.5) }),
      // Half a second each at the show's tempo, 0.67 s on the track.
      fc.record({ beats: evenly(4, 30) }),
    ),
    phase: fc.constantFrom(0, 0.25, 0.5, 0.75),
    wait: fc.integer({ min: 1, max: 12 }),
  });

  test('nothing jumps, whatever is changed and however fast', () => {
    fc.assert(
      fc.property(
        fc.array(state, { minLength: 2, maxLength: 8 }),
        fc.constantFrom('nowhere', 'a track', 'beats'),
        (states, along) => {
          const s = running(effect({}));
          if (along === 'beats') s.engine.configure([ON_BEATS]);
          if (along !== 'nowhere') s.engine.seek('main', soughtAt(7.7), 0);
          s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0.5, wave: s.wave() }), 0);
          let now = 1;
          s.to(now);
          let last = s.out(101, 'Tilt');
          for (const { track: t, direction, speed, phase, wait } of states) {
            s.set(effect({ tracks: [tilt(t)], direction, speed }));
            s.engine.retarget('main', s.slot(101, 'Tilt'), { level: 0.5, wave: s.wave(), phase });
            for (let i = 0; i < wait; i++) {
              now += FRAME;
              s.to(now);
              const next = s.out(101, 'Tilt');
              // The whole range in 0.15 s is 15 % a frame; the phase’s glide and the wave’s own speed come on top.
              expect(Math.abs(next - last)).toBeLessThan(0.26);
              last = next;
            }
          }
        },
      ),
      { numRuns: 150 },
    );
  });

  test('along a track it counts from where that began; let go of, it goes by the clock of all again', () => {
    const s = running(effect({ speed: { round_s: 4 } }));
    const tilts = s.slot(101, 'Tilt');
    s.to(1.3);
    s.engine.seek('main', soughtAt(9), 1.3);
    s.engine.move('main', moves(tilts, { level: 0, wave: s.wave() }), 1.3);
    s.to(2.3);
    // Ten seconds of the track: in the middle of the third round.
    expect(s.out(101, 'Tilt')).toBeCloseTo(1, 2);
    s.engine.release('main', 0, 2.3);
    s.to(2.4);
    s.engine.move('main', moves(tilts, { level: 0, wave: s.wave() }), 2.4);
    s.to(4);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0, 2);
  });

  test('by beats it is on those of its list’s track, and stands where that stands', () => {
    const s = running(effect({ speed: { beats: 4 }, direction: 'forward' }));
    const tilts = s.slot(101, 'Tilt');
    const seen = (): number => s.out(101, 'Tilt');
    s.engine.configure([ON_BEATS]);
    s.to(1.3);
    s.engine.seek('main', soughtAt(1), 1.3);
    s.engine.move('main', moves(tilts, { level: 0, wave: s.wave() }), 1.3);
    s.to(2);
    // 0.3 s before the first beat, which it counts back from: nearly a round.
    expect(seen()).toBeCloseTo((1 - Math.cos(2 * Math.PI * (-0.3 / (8 / 3)))) / 2, 2);
    s.to(1.3 + 1 + 4 / 3);
    expect(seen()).toBeCloseTo(1, 3);
    // At half the speed it takes twice as long to the end of its round.
    s.engine.setRate('main', 0.5);
    s.to(1.3 + 1 + 4 / 3 + 8 / 3);
    expect(seen()).toBeCloseTo(0, 3);
    s.engine.setRate('main', 1);
    s.to(1.3 + 1 + 4 / 3 + 8 / 3 + 2 / 3);
    expect(seen()).toBeCloseTo(0.5, 3);
    s.engine.setPaused('main', true);
    s.to(9);
    expect(seen()).toBeCloseTo(0.5, 3);
    // In the middle of a beat another tempo: whole beats of its own from there.
    s.engine.seek('main', soughtAt(11), 9);
    s.engine.move('main', moves(tilts, { level: 0, wave: s.wave() }), 9);
    s.engine.setPaused('main', false);
    s.to(10.5);
    expect(seen()).toBeCloseTo(1, 3);
  });

  test('saved after its speed was changed on the way, it goes on from there on the beats of the track', () => {
    const s = running(effect({ speed: { beats: 4 } }));
    const tilts = s.slot(101, 'Tilt');
    s.engine.configure([ON_BEATS]);
    s.engine.seek('main', soughtAt(3), 0);
    s.engine.move('main', moves(tilts, { level: 0, wave: s.wave() }), 0);
    s.to(1.1);
    s.set(effect({ speed: { beats: 5 } }));
    s.to(1.5);
    const other = new Engine(s.slots);
    other.configure([ON_BEATS]);
    other.setPrograms(compileEffects(s.show, 120));
    other.restore(JSON.parse(JSON.stringify(s.engine.save())) as ReturnType<Engine['save']>, 1.5);
    for (let now = 1.5; now < 5; now += FRAME) {
      s.engine.tick(now);
      other.tick(now);
      expect(other.shared.out[tilts]).toBeCloseTo(s.out(101, 'Tilt'), 4);
    }
  });

  test('a tempo that is changed takes effects by beats with it, and no others', () => {
    const s = running(effect({ speed: { beats: 4 } }));
    s.engine.seek('main', soughtAt(3), 0);
    s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0, wave: s.wave() }), 0);
    s.to(1);
    // Four seconds at the show's tempo, two a round.
    expect(s.out(101, 'Tilt')).toBeCloseTo(0, 2);
    s.engine.configure([{ ...ON_BEATS, beats: [{ at_s: 2, bpm: 60, first: 0 }] }]);
    s.to(1 + FRAME);
    expect(s.out(101, 'Tilt')).toBeCloseTo(1, 2);
    s.set(effect({ speed: { round_s: 4 } }));
    s.engine.configure([ON_BEATS]);
    const before = s.out(101, 'Tilt');
    s.to(1 + 2 * FRAME);
    expect(Math.abs(s.out(101, 'Tilt') - before)).toBeLessThan(0.03);
  });

  test('what is changed shows in the next frame, and whole after 0.15 s', () => {
    const s = running(effect({ tracks: [tilt({ base: 0.2, size: 0 })] }));
    s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0.5, wave: s.wave() }), 0);
    s.to(1);
    s.set(effect({ tracks: [tilt({ base: 0.8, size: 0 })] }));
    s.to(1 + FRAME);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0.2 + (0.6 * FRAME) / 0.15, 3);
    s.to(1.2);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0.8, 6);
  });

  test('once: it begins at the start of its round, ends after it, and leaves the level beneath', () => {
    const s = running(effect({ rounds: 1, speed: { round_s: 2 } }));
    s.to(1.3);
    s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0.5, wave: s.wave() }), 1.3);
    s.to(1.3 + 2 * FRAME);
    expect(s.out(101, 'Tilt')).toBeLessThan(0.02);
    s.to(2.3 + FRAME);
    expect(s.out(101, 'Tilt')).toBeCloseTo(1, 2);
    s.to(3.4);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0.5, 6);
    expect(s.engine.busy).toBe(false);
  });

  test('a full state in which it was said before lets it go on where it runs, and does not begin it; said there it begins', () => {
    const of = effect({ rounds: 2, speed: { round_s: 1 }, out_s: 0.5 });
    const [alone, told] = [running(of), running(of)];
    const tilt_ = told.slot(101, 'Tilt');
    const said = moves(tilt_, { level: 0.5, wave: told.wave() });
    const state = { ...said, tracks: Uint8Array.of(1) };
    for (const s of [alone, told]) s.engine.move('main', said, 0);
    // In a round, on its way out, when it is over: as if nothing had been told.
    for (const now of [0.6, 1.4, 2.2, 3.5]) {
      for (const s of [alone, told]) s.to(now);
      told.engine.move('main', state, now);
      for (const s of [alone, told]) s.to(now + 0.2);
      expect(told.out(101, 'Tilt')).toBeCloseTo(alone.out(101, 'Tilt'), 3);
    }
    expect(told.engine.busy).toBe(false);
    // Come to from elsewhere it is over as well; an edit does not begin it either.
    const later = running(of);
    later.engine.move('main', state, 0);
    later.engine.retarget('main', tilt_, { level: 0.5, wave: later.wave() });
    later.to(0.5);
    expect(later.out(101, 'Tilt')).toBeCloseTo(0.5, 6);
    later.engine.move('main', said, 0.5);
    later.to(1);
    expect(later.out(101, 'Tilt')).toBeCloseTo(1, 1);
  });

  test('one without an end comes in by a full state, whoever said it', () => {
    const s = running(effect({ speed: { round_s: 1 } }));
    const said = moves(s.slot(101, 'Tilt'), { level: 0.5, wave: s.wave() });
    s.engine.move('main', { ...said, tracks: Uint8Array.of(1) }, 0);
    s.to(0.5);
    expect(s.out(101, 'Tilt')).toBeCloseTo(1, 1);
  });

  test('what has had its last round is not begun again by an edit, nor by a new rig; said again it is', () => {
    const s = running(effect({ rounds: 1, speed: { round_s: 1 }, out_s: 0.5 }));
    const tilt_ = s.slot(101, 'Tilt');
    const said = moves(tilt_, { level: 0.5, wave: s.wave() });
    s.engine.move('main', said, 0);
    // On its way out, and when it is over.
    for (const now of [1.2, 2]) {
      s.to(now);
      s.engine.retarget('main', tilt_, { level: 0.5, wave: s.wave() });
    }
    s.to(2.5);
    expect([s.out(101, 'Tilt'), s.engine.busy]).toEqual([expect.closeTo(0.5, 6), false]);
    const next = new Engine(s.slots);
    next.setPrograms(compileEffects(s.show, 120));
    next.restore(s.engine.save(), 2.5);
    next.retarget('main', tilt_, { level: 0.5, wave: s.wave() });
    next.tick(2.5 + FRAME);
    next.tick(3);
    expect(next.shared.out[tilt_]).toBeCloseTo(0.5, 6);
    next.move('main', said, 3);
    next.tick(3 + FRAME);
    next.tick(3.5);
    expect(next.shared.out[tilt_]).toBeCloseTo(1, 1);
  });

  test('three rounds are three, also for what is handed over in the middle', () => {
    const s = running(effect({ rounds: 3, speed: { round_s: 1 } }));
    s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0.5, wave: s.wave() }), 0);
    s.to(1.5);
    const again = new Engine(s.slots);
    again.setPrograms(compileEffects(s.show, 120));
    again.restore(describeCopy(s.engine.copy()), 0);
    let now = 0;
    const at = (time: number): number => {
      while (now < time) again.tick((now += FRAME));
      return again.shared.out[s.slot(101, 'Tilt')] ?? NaN;
    };
    s.to(1.75);
    expect(at(0.25)).toBeCloseTo(s.out(101, 'Tilt'), 1);
    expect(at(1.7)).toBeCloseTo(0.5, 6);
  });

  test('comes in and goes out over its own times, whatever the cue takes', () => {
    const s = running(effect({ tracks: [tilt({ base: 1, size: 0 })], in_s: 2, out_s: 4 }));
    s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0, wave: s.wave() }), 0);
    s.to(1);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0.5, 2);
    s.to(3);
    s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0, up_s: 0 }), 3);
    s.to(5);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0.5, 2);
  });

  test('one that rides goes on over the level of another list, without a jump, and leaves with its own', () => {
    const s = running(
      effect({ tracks: [tilt({ mode: 'relative', size: 0.4 })], rides: true, speed: { hz: 0.5 } }),
    );
    const at = s.slot(101, 'Tilt');
    s.engine.move('main', moves(at, { level: 0.3, wave: s.wave() }), 0);
    s.to(1.25);
    const before = s.out(101, 'Tilt');
    s.engine.move('other', moves(at, { level: 0.7, up_s: 2 }), 1.25);
    s.to(1.25 + FRAME);
    expect(Math.abs(s.out(101, 'Tilt') - before)).toBeLessThan(0.05);
    s.to(7);
    const swing = [0, 0.5, 1, 1.5].map((t) => {
      s.to(7 + t);
      return s.out(101, 'Tilt');
    });
    expect(Math.max(...swing) - Math.min(...swing)).toBeGreaterThan(0.3);
    expect((Math.max(...swing) + Math.min(...swing)) / 2).toBeCloseTo(0.7, 1);
    s.engine.release('main', 1, 9);
    s.to(11);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0.7, 6);
  });

  test('one that belongs to its list goes with it', () => {
    const s = running(effect({ tracks: [tilt({ mode: 'relative', size: 0.4 })] }));
    s.engine.move('main', moves(s.slot(101, 'Tilt'), { level: 0.3, wave: s.wave() }), 0);
    s.to(1);
    s.engine.move('other', moves(s.slot(101, 'Tilt'), { level: 0.7 }), 1);
    s.to(3);
    expect(s.out(101, 'Tilt')).toBeCloseTo(0.7, 6);
  });
});

describe('an effect that is played by itself', () => {
  const worstStep = (s: ReturnType<typeof stage>, until: number, from: number, n = 1): number => {
    let last = s.out(n);
    let worst = 0;
    for (let t = from + FRAME; t < until; t += FRAME) {
      s.to(t);
      worst = Math.max(worst, Math.abs(s.out(n) - last));
      last = s.out(n);
    }
    return worst;
  };
  const EFFECT = 'rides:effect';

  test('rides on whatever list has the slot, and holds no level of its own', () => {
    const s = stage();
    const track = s.track('Breathe');
    if (!track) throw new Error('no track');
    s.engine.move('main', moves(s.slot(1), { level: 0.5 }), 0);
    s.engine.move(EFFECT, moves(s.slot(1), { level: 0.9, wave: s.wave('Breathe'), phase: 0 }), 0);
    s.to(5);
    expect(s.out(1)).toBeCloseTo(appliedTo(track, 0.5, 0.12 * 5), 3);
    s.engine.move('other', moves(s.slot(1), { level: 0.7 }), 5);
    s.to(6);
    expect(s.out(1)).toBeCloseTo(appliedTo(track, 0.7, 0.12 * 6), 3);
    s.engine.release(EFFECT, 1, 6);
    s.to(8);
    expect(s.out(1)).toBeCloseTo(0.7, 5);
    expect(s.engine.busy).toBe(false);
  });

  test('called back while it leaves it comes in again from where it is', () => {
    const s = stage();
    s.engine.move('main', moves(s.slot(1), { level: 0.5 }), 0);
    const play = (at: number): void =>
      s.engine.move(
        EFFECT,
        moves(s.slot(1), { level: 0, up_s: 1, wave: s.wave('Wave'), phase: 0 }),
        at,
      );
    s.to(0.1);
    play(0.1);
    expect(worstStep(s, 3.3, 0.1)).toBeLessThan(0.08);
    s.engine.release(EFFECT, 2, 3.3);
    expect(worstStep(s, 4.1, 3.3)).toBeLessThan(0.08);
    play(4.1);
    expect(worstStep(s, 8, 4.1)).toBeLessThan(0.08);
  });

  test('it leaves in its time also where a list goes over what is leaving', () => {
    const s = stage();
    s.engine.move('main', moves(s.slot(1), { level: 0.5 }), 0);
    s.engine.move(EFFECT, moves(s.slot(1), { level: 0, wave: s.wave('Wave'), phase: 0 }), 0);
    s.to(3);
    s.engine.release(EFFECT, 2, 3);
    s.to(3.6);
    s.engine.move('other', moves(s.slot(1), { level: 0.9, up_s: 2, down_s: 2 }), 3.6);
    expect(worstStep(s, 7, 3.6)).toBeLessThan(0.08);
    expect(s.out(1)).toBeCloseTo(0.9, 5);
  });

  test('goes on after a restart', () => {
    const s = stage();
    s.engine.move('main', moves(s.slot(1), { level: 0.5 }), 0);
    s.engine.move(EFFECT, moves(s.slot(1), { level: 0, wave: s.wave('Breathe'), phase: 0 }), 0);
    s.to(4);
    const next = new Engine(s.slots);
    next.setPrograms(s.programs);
    next.restore(describeCopy(s.engine.copy()), 0);
    next.tick(FRAME / 10);
    expect(next.shared.out[s.slot(1)]).toBeCloseTo(s.out(1), 2);
  });
});

test('what rides on a list that leaves goes with its share, also where another list goes over it', () => {
  const s = stage();
  const { id, ...set } = [...s.show.effects.values()].find((e) => e.name === 'Wave') ?? {};
  apply(s.show, 'set-effect', { id, set: { ...set, rides: true } });
  s.engine.setPrograms(compileEffects(s.show, 120));
  s.engine.move('a', moves(s.slot(1), { level: 0.5, wave: s.wave('Wave'), phase: 0.3 }), 0);
  s.to(3);
  s.engine.release('a', 2, 3);
  s.to(3.4);
  s.engine.move('b', moves(s.slot(1), { level: 0.8, up_s: 2, down_s: 2 }), 3.4);
  let last = s.out(1);
  for (let t = 3.4 + FRAME; t < 6; t += FRAME) {
    s.to(t);
    expect(Math.abs(s.out(1) - last)).toBeLessThan(0.08);
    last = s.out(1);
  }
  expect(last).toBeCloseTo(0.8, 5);
});
