/** A list that follows timecode, on a simulated clock: locked in under a second, through losses, jumps, and back. */
import { cue, exampleShow } from '../core/testing/example.ts';
import { quarterFrame } from '../core/timecode/mtc.ts';
import { framesOf, timecodeOf } from '../core/timecode/rate.ts';
import { artTimeCode } from '../core/timecode/art.ts';
import { desk, mara } from './simulated-desk.ts';
import { makeTimecodes } from './timecode.ts';

const MAIN = 'main';
const HOUR = framesOf({ h: 1, m: 0, s: 0, f: 0, rate: '25' });

function following(from: 'midi' | 'ltc' | 'artnet' = 'midi', more: object = {}) {
  const show = exampleShow();
  const ids = [1, 2, 3, 4].map((n) => cue(show, n, { 1: n * 20 }, { up_s: 1 }));
  const d = desk(show);
  d.edit(mara, 'place-cues', {
    list: MAIN,
    at: Object.fromEntries(ids.map((id, i) => [id, i * 10])),
  });
  d.edit(mara, 'change-list', {
    id: MAIN,
    set: {
      time: {
        on: true,
        end_s: 60,
        tempo: [],
        marks: [],
        timecode: { from, offset_s: 3600, ...more },
      },
    },
  });
  let now_ms = 0;
  const codes = makeTimecodes(() => now_ms);
  const pass = (ms: number): void => {
    for (let i = 0; i < ms; i += 10) {
      d.pass(0.01);
      now_ms += 10;
      codes.tick(d.live);
    }
  };
  /** A machine that runs from so many frames after 01:00:00:00, for some seconds; quarters every 10 ms. */
  const runs = (from_f: number, seconds: number, way: 1 | -1 = 1): void => {
    for (let f = 0; f < seconds * 25; f += 2) {
      const t = timecodeOf(HOUR + from_f + f * way, '25');
      for (let q = 0; q < 8; q++) {
        codes.midi('Port', [...quarterFrame(way === 1 ? q : 7 - q, t)]);
        pass(10);
      }
    }
  };
  const at = (): number | null => d.list()?.cueNumber ?? null;
  const position = (): number => d.list()?.track?.position_s ?? NaN;
  return { d, codes, runs, pass, at, position };
}

test('it locks in under a second, and the list is where the timecode is', () => {
  const f = following();
  f.runs(0, 0.8);
  expect(f.codes.states().midi).toMatchObject({ state: 'locked', rate: '25' });
  expect(f.at()).toBe(1000);
  f.runs(20, 2);
  expect(Math.abs(f.position() - 2.8)).toBeLessThan(0.1);
});

test('joined in the middle, the stage is as if it had been played to there, and no cue before is fired', () => {
  const f = following();
  const id = f.d.show.cuesOf(MAIN)[1]?.id ?? '';
  f.d.edit(mara, 'change-cue', { id, set: { actions: [{ do: 'bytes', bytes: '90 01 01' }] } });
  f.runs(25 * 25, 1);
  expect([f.at(), f.d.level(1), f.d.sent.midi.length]).toEqual([3000, expect.closeTo(0.6), 0]);
});

test('through a loss it runs on, for as long as it may, and then stands', () => {
  const f = following('midi', { runOn_s: 3 });
  f.runs(25 * 8, 1);
  f.pass(2500);
  // It is shown as the list goes by it, and not lost while that runs.
  expect([f.codes.states().midi.state, f.at()]).toEqual(['runs on', 2000]);
  expect(f.d.list()?.track?.runs).toBe(true);
  f.pass(2000);
  expect([f.codes.states().midi.state, f.d.list()?.track?.runs]).toEqual(['lost', false]);
  expect(f.position()).toBeLessThan(12.5);
});

test('a jump forwards and a tape that is wound back are followed', () => {
  const f = following();
  f.runs(0, 1);
  f.runs(25 * 31, 1);
  expect(f.at()).toBe(4000);
  f.runs(25 * 15, 1, -1);
  expect(f.at()).toBe(2000);
  expect(f.position()).toBeLessThan(15);
});

test('before the beginning of the track nothing of the list is on stage; wound back from within, it waits at its beginning', () => {
  const f = following();
  f.runs(-25 * 60, 1);
  expect([f.d.list()?.track ?? null, f.at(), f.d.level(1)]).toEqual([null, null, 0]);
  f.runs(25 * 12, 1);
  expect(f.at()).toBe(2000);
  f.runs(-25 * 60, 1);
  expect([f.position(), f.d.list()?.track?.runs]).toEqual([0, false]);
});

test('what a hand takes off its track stays with the hand, until it is played along it or timecode comes anew', () => {
  const f = following();
  f.runs(25 * 12, 1);
  expect(f.at()).toBe(2000);
  f.d.say(mara, { command: 'track', do: 'leave' });
  f.runs(25 * 13, 9);
  expect([f.d.list()?.track ?? null, f.at()]).toEqual([null, 2000]);
  // A jump is no new beginning; a tape that has stopped and runs again is.
  f.runs(25 * 2, 1);
  expect(f.at()).toBe(2000);
  f.pass(5000);
  f.runs(25 * 2, 1);
  expect([f.d.list()?.track?.runs, f.at()]).toEqual([true, 1000]);
  f.d.live.lists.release(MAIN, 0);
  f.runs(25 * 12, 1);
  expect([f.d.list()?.track ?? null, f.d.level(1)]).toEqual([null, 0]);
  f.d.say(mara, { command: 'track', do: 'play', at_s: 1 });
  f.runs(25 * 13, 1);
  expect([f.d.list()?.track?.runs, f.at()]).toEqual([true, 2000]);
});

test.each([{ command: 'track', do: 'pause' }, { command: 'pause' }] as const)(
  'what a hand stops by %p stands, while its timecode runs on; played on, it is where the timecode is',
  (stop) => {
    const f = following();
    f.runs(25 * 12, 1);
    f.d.say(mara, stop);
    const stood = f.position();
    f.runs(25 * 13, 9);
    expect([f.position(), f.d.list()?.track?.runs, f.at()]).toEqual([stood, false, 2000]);
    f.d.say(mara, { command: 'track', do: 'play' });
    f.runs(25 * 22, 1);
    expect([f.d.list()?.track?.runs, f.at()]).toEqual([true, 3000]);
    expect(Math.abs(f.position() - 23)).toBeLessThan(0.1);
  },
);

test('a GO in between leaves time where the list says so, and timecode does not take it back', () => {
  const f = following();
  const time = f.d.show.lists.get(MAIN)?.time;
  f.d.edit(mara, 'change-list', { id: MAIN, set: { time: { ...time, onGo: 'leave' } } });
  f.runs(25 * 2, 1);
  f.d.say(mara, { command: 'go' });
  f.runs(25 * 3, 2);
  expect([f.d.list()?.track ?? null, f.at()]).toEqual([null, 2000]);
});

test('a list that goes by hand stays with the hand, whatever timecode comes', () => {
  const f = following();
  const time = f.d.show.lists.get(MAIN)?.time;
  f.d.edit(mara, 'change-list', { id: MAIN, set: { time: { ...time, on: false } } });
  f.runs(25 * 12, 1);
  expect([f.d.list()?.track ?? null, f.at(), f.d.level(1)]).toEqual([null, null, 0]);
});

test('behind the end of the track the list stands at its end, and is told of once', () => {
  const f = following();
  f.runs(25 * 55, 1);
  expect(f.at()).toBe(4000);
  f.runs(25 * 70, 1);
  expect([f.position(), f.d.list()?.track?.runs]).toEqual([60, false]);
  const { count } = f.d.told;
  f.runs(25 * 71, 3);
  expect([f.position(), f.d.told.count]).toEqual([60, count]);
  // Let go, it stays so: timecode is in another number by now.
  f.d.live.lists.release('main', 0);
  f.runs(25 * 80, 1);
  expect([f.d.list()?.track ?? null, f.d.level(1)]).toEqual([null, 0]);
});

test('Art-Net carries it as well, and what is no time moves nothing', () => {
  const f = following('artnet');
  for (let i = 0; i < 25; i++) {
    f.codes.artnet(artTimeCode(timecodeOf(HOUR + 25 * 21 + i, '25')));
    f.codes.artnet(Uint8Array.of(1, 2, 3));
    f.pass(40);
  }
  expect([f.at(), f.codes.states().artnet.state]).toEqual([3000, 'locked']);
  expect(f.codes.midi('Port', [0x90, 1, 1])).toBe(false);
});

test('timecode that jumps every second is followed each time it holds, and fires nothing between', () => {
  const f = following();
  const id = f.d.show.cuesOf(MAIN)[2]?.id ?? '';
  f.d.edit(mara, 'change-cue', { id, set: { actions: [{ do: 'bytes', bytes: '90 01 01' }] } });
  for (const second of [1, 12, 3, 31, 5]) f.runs(25 * second, 1);
  expect([f.at(), f.d.sent.midi.length]).toEqual([1000, 0]);
});

test('timecode that a screen hears as sound leads the lists that follow sound, and no other', () => {
  const [sound, midi] = [following('ltc'), following('midi')];
  for (const f of [sound, midi])
    for (let n = 0; n < 60; n++) {
      const time = timecodeOf(HOUR + 250 + n, '25');
      expect(f.codes.heard('ltc', time, { way: 1, stands: false })).toEqual({ ok: true });
      f.pass(40);
    }
  expect(sound.codes.states()).toMatchObject({ ltc: { state: 'locked' }, midi: { state: 'none' } });
  expect(sound.at()).toBe(2000);
  expect(Math.abs(sound.position() - 12.4)).toBeLessThan(0.1);
  expect(midi.at()).toBeNull();
  expect(
    sound.codes.heard('ltc', { h: 1, m: 0, s: 0, f: 29, rate: '25' }, { way: 1, stands: false }),
  ).toMatchObject({
    code: 'invalid',
  });
});
