/** What sounds, asked of the whole: what is written where, ahead of what is heard, and what is said of it. */
import type { SoundFile } from '../../core/sounds/rows.ts';
import { freshLtc, ltcSound, readLtc } from '../../core/timecode/ltc.ts';
import type { FromSound, TrackNow } from './messages.ts';
import type { Output } from './outputs.ts';
import { makeSounding, type SoundingNeeds } from './sounding.ts';

const RATE_HZ = 48_000;
const BLOCK = 2400;
const file = (sha256: string): SoundFile => ({
  sha256,
  bytes: 9,
  kind: 'wav',
  length_s: 10,
  rate_hz: RATE_HZ,
  channels: 2,
});
const track = (key: string, of: SoundFile, more: Partial<TrackNow> = {}): TrackNow => ({
  key,
  file: of,
  sound: { sound: 's', at_s: 0 },
  end_s: 10,
  position_s: 0,
  at_ms: 0,
  rate: 1,
  ...more,
});

/** A machine with outputs that keep what they are given, and files of one level each. */
function machine(more: Partial<SoundingNeeds> = {}) {
  const clock = { now_ms: 0 };
  const written = new Map<string, { frame: number; left: Float32Array; right: Float32Array }[]>();
  const said: FromSound[] = [];
  const failed: unknown[] = [];
  const made: string[] = [];
  const levels = new Map<string, number>();
  const gone = new Set<string>();
  let hears: (samples: Float32Array, rate_hz: number) => void = () => undefined;
  const output = (name: string): Output => {
    const opened_ms = clock.now_ms;
    const blocks: { frame: number; left: Float32Array; right: Float32Array }[] = [];
    written.set(name, blocks);
    return {
      rate_hz: RATE_HZ,
      heardAt: (frame) => opened_ms + (frame / RATE_HZ) * 1000,
      frame: () => Math.floor(((clock.now_ms - opened_ms) / 1000) * RATE_HZ),
      write: (left, right, frame) => void blocks.push({ frame, left, right }),
      close: () => void written.delete(name),
    };
  };
  const sounding = makeSounding({
    openOutput: (device, of) => Promise.resolve(output(`${of}/${device ?? 'own'}`)),
    openInput: (_, heard) => {
      hears = heard;
      return Promise.resolve({ close: () => (hears = () => undefined) });
    },
    listOutputs: () => Promise.resolve(['Left card']),
    listInputs: () => Promise.resolve(['Line in']),
    makeReady: (f, done) => {
      made.push(f.sha256);
      done(0.5);
      return Promise.resolve(true);
    },
    openSamples: (f) => {
      if (gone.has(f.sha256)) throw new Error('gone');
      return {
        rate_hz: RATE_HZ,
        length: RATE_HZ * 10,
        read: (_, left, right) => {
          left.fill(levels.get(f.sha256) ?? 0.5);
          right.fill(levels.get(f.sha256) ?? 0.5);
        },
      };
    },
    say: (m) => void said.push(m),
    failed: (error) => void failed.push(error),
    now_ms: () => clock.now_ms,
    ...more,
  });
  const settled = () => new Promise((done) => setImmediate(done));
  return {
    sounding,
    said,
    failed,
    made,
    levels,
    gone,
    settled,
    hears: (samples: Float32Array) => hears(samples, RATE_HZ),
    /** So many milliseconds go by, as the process has them. */
    pass: (ms: number) => {
      for (const end = clock.now_ms + ms; clock.now_ms < end;) {
        clock.now_ms += 20;
        sounding.mix();
      }
    },
    /** The process is held up. */
    holdUp: (ms: number) => void (clock.now_ms += ms),
    blocks: (of = 'heard/own') => written.get(of) ?? [],
    /** What is heard at a moment of an output that was opened at 0. */
    at: (ms: number, of = 'heard/own'): number | undefined => {
      const frame = (ms / 1000) * RATE_HZ;
      const block = written.get(of)?.find((b) => b.frame <= frame && frame < b.frame + BLOCK);
      return block?.left[frame - block.frame];
    },
    state: () => {
      sounding.tell();
      const last = said.at(-1);
      if (last?.is !== 'state') throw new Error('says nothing');
      return last;
    },
  };
}
const playing = async (more: Partial<SoundingNeeds> = {}) => {
  const m = machine(more);
  m.sounding.heard({ do: 'device', name: null });
  m.sounding.heard({ do: 'ready', files: [file('a'), file('b')] });
  await m.settled();
  m.sounding.mix();
  return m;
};

test('blocks follow each other without a gap, a quarter of a second ahead and no further', async () => {
  const m = await playing();
  m.pass(20);
  expect(m.blocks().map((b) => b.frame)).toEqual([0, 1, 2, 3, 4, 5].map((i) => i * BLOCK));
  m.pass(1000);
  const frames = m.blocks().map((b) => b.frame);
  expect(frames).toEqual(frames.map((_, i) => i * BLOCK));
  expect(frames.at(-1)).toBe(25 * BLOCK);
});

test('held up, it goes on a block ahead of now: what is past is past', async () => {
  const m = await playing();
  m.pass(20);
  const before = m.blocks().length;
  m.holdUp(1000);
  m.pass(20);
  expect(m.blocks()[before]?.frame).toBe((1040 / 1000) * RATE_HZ + BLOCK);
  m.pass(200);
  const frames = m.blocks().map((b) => b.frame);
  expect(frames.slice(before)).toEqual(
    frames.slice(before).map((_, i) => (frames[before] ?? 0) + i * BLOCK),
  );
});

test('a track sounds at where it is, with what stands beside it added; without an output nothing is mixed', async () => {
  const silent = machine();
  silent.pass(100);
  expect(silent.blocks()).toEqual([]);
  const m = await playing();
  m.levels.set('b', 0.25);
  m.sounding.heard({ do: 'tracks', tracks: [track('one', file('a')), track('two', file('b'))] });
  m.pass(200);
  expect(m.at(320)).toBeCloseTo(0.75, 5);
  expect(m.state().off_ms).toEqual({ one: expect.closeTo(0, 3), two: expect.closeTo(0, 3) });
});

test('what leaves its track fades at once, and what stays goes on', async () => {
  const m = await playing();
  m.levels.set('b', 0.25);
  m.sounding.heard({ do: 'tracks', tracks: [track('one', file('a')), track('two', file('b'))] });
  m.pass(60);
  m.sounding.heard({ do: 'tracks', tracks: [track('two', file('b'))] });
  m.pass(300);
  // What was written already stays; the next block has it fade, the one after has nothing of it.
  expect(m.at(300)).toBeCloseTo(0.75, 5);
  expect(m.at(350.5)).toBeGreaterThan(0.4);
  expect(m.at(350.5)).toBeLessThan(0.7);
  expect(m.at(355)).toBeCloseTo(0.25, 5);
  expect(m.at(450)).toBeCloseTo(0.25, 5);
  expect(Object.keys(m.state().off_ms)).toEqual(['two']);
});

test('a sound that a cue starts is heard from its beginning to its end, or until there is silence', async () => {
  const m = await playing();
  m.pass(40);
  m.sounding.heard({ do: 'once', key: 'bell', file: { ...file('a'), length_s: 1 } });
  m.pass(2600);
  expect(m.at(320)).toBeCloseTo(0.5, 5);
  expect(m.at(2500)).toBe(0);
  m.sounding.heard({ do: 'once', key: 'fog', file: file('b') });
  m.pass(400);
  expect(m.at(3000)).toBeCloseTo(0.5, 5);
  m.sounding.heard({ do: 'silence' });
  m.pass(400);
  expect(m.at(3400)).toBe(0);
});

test('files are made ready one after another, each once, and say how far they are', async () => {
  let go = (): void => undefined;
  const m = machine({
    makeReady: (f, done) => {
      m.made.push(f.sha256);
      done(0.5);
      return new Promise((ready) => (go = () => ready(true)));
    },
  });
  m.sounding.heard({ do: 'ready', files: [file('a'), file('b')] });
  m.sounding.heard({ do: 'ready', files: [file('a'), file('b')] });
  await m.settled();
  expect([m.made, m.state().ready]).toEqual([['a'], { a: 0.5, b: 0 }]);
  go();
  await m.settled();
  expect([m.made, m.state().ready]).toEqual([['a', 'b'], { a: 1, b: 0.5 }]);
  go();
  await m.settled();
  expect(m.state()).toMatchObject({ ready: { a: 1, b: 1 }, problem: null });
});

test('what could not be made ready says why, and is tried again; so is what nobody has yet', async () => {
  let wrong = true;
  let has = false;
  const m = machine({
    makeReady: (f) => {
      m.made.push(f.sha256);
      if (f.sha256 === 'b') return Promise.resolve(has);
      return wrong ? Promise.reject(new Error('the disk is full')) : Promise.resolve(true);
    },
  });
  m.sounding.heard({ do: 'ready', files: [file('a'), file('b')] });
  await m.settled();
  expect(m.state()).toMatchObject({
    ready: {},
    problem:
      'A sound could not be made ready at this machine, and is tried again: the disk is full',
  });
  expect(m.failed).toHaveLength(1);
  [wrong, has] = [false, true];
  await m.sounding.look();
  await m.settled();
  expect(m.state()).toMatchObject({ ready: { a: 1, b: 1 }, problem: null });
  expect(m.made).toEqual(['a', 'b', 'a', 'b']);
});

test('samples that are gone from the disk are made ready again', async () => {
  const m = await playing();
  m.gone.add('a');
  m.sounding.heard({ do: 'tracks', tracks: [track('one', file('a'))] });
  m.pass(20);
  expect([m.at(255), m.state().ready]).toEqual([0, { b: 1 }]);
  m.gone.clear();
  await m.sounding.look();
  await m.settled();
  m.pass(300);
  expect(m.at(320)).toBeCloseTo(0.5, 5);
});

test('timecode goes out by itself, the same on both sides, and is read again; silence where it goes nowhere', async () => {
  const m = machine();
  m.sounding.heard({
    do: 'codes',
    codes: [{ key: 'l', frames: '25', offset_s: 3600, position_s: 0, at_ms: 0, rate: 1 }],
  });
  m.pass(40);
  expect(m.blocks('code/own')).toEqual([]);
  m.sounding.heard({ do: 'code-device', name: '' });
  await m.settled();
  m.pass(1000);
  const reader = freshLtc();
  const read = m.blocks('code/own').flatMap((b) => readLtc(reader, b.left, RATE_HZ));
  expect(read.length).toBeGreaterThan(20);
  expect(read[0]?.time).toMatchObject({ h: 1, m: 0, s: 0, rate: '25' });
  expect(m.blocks('code/own').every((b) => b.left.every((v, i) => v === b.right[i]))).toBe(true);
  m.sounding.heard({ do: 'code-device', name: null });
  expect(m.blocks('code/own')).toEqual([]);
});

test('timecode at the input is told, the last frame of a block; another input begins anew', async () => {
  const m = machine();
  m.sounding.heard({ do: 'code-input', name: 'Line in' });
  await m.settled();
  const samples = ltcSound(
    Array.from({ length: 10 }, (_, f) => ({ h: 2, m: 3, s: 4, f, rate: '25' as const })),
    RATE_HZ,
  );
  m.hears(samples);
  const times = m.said.filter((s) => s.is === 'time');
  expect(times).toHaveLength(1);
  expect(times[0]).toMatchObject({ way: 1, time: { h: 2, m: 3, s: 4 } });
  m.sounding.heard({ do: 'code-input', name: null });
  m.hears(samples);
  expect(m.said.filter((s) => s.is === 'time')).toHaveLength(1);
});

test('what cannot be opened is said, each where it belongs, and is open as soon as it is there', async () => {
  const there = new Set<string>();
  const m = machine({
    openOutput: (device, of) =>
      Promise.resolve(
        there.has(of)
          ? {
              rate_hz: RATE_HZ,
              heardAt: () => 0,
              frame: () => 0,
              write: () => undefined,
              close: () => undefined,
            }
          : `The output “${device}” is not there.`,
      ),
    openInput: () => Promise.resolve(there.has('in') ? { close: () => undefined } : 'No input.'),
  });
  m.sounding.heard({ do: 'code-device', name: 'Second' });
  m.sounding.heard({ do: 'code-input', name: '' });
  await m.settled();
  expect(m.state()).toMatchObject({
    problem: 'The output “Second” is not there.',
    inputProblem: 'No input.',
  });
  m.sounding.heard({ do: 'device', name: 'First' });
  await m.settled();
  expect(m.state().problem).toBe('The output “First” is not there.');
  for (const one of ['heard', 'code', 'in']) there.add(one);
  await m.sounding.look();
  expect(m.state()).toMatchObject({
    problem: null,
    inputProblem: null,
    devices: ['Left card'],
    inputs: ['Line in'],
  });
});
