/** Shapes of sounds, the beat in them, one recording against another, and what of a sound is heard where. */
import fc from 'fast-check';
import { evenly } from '../testing/evenly';
import { music, steady } from '../testing/music';
import { align, throughPairs } from './align';
import { findBeat } from './beat';
import { soundKind } from './kinds';
import {
  loudnessOf,
  onsetsOf,
  Shaper,
  STEP_BYTES,
  stepOf,
  stepsAt,
  zoomFor,
  zoomsOf,
} from './shape';
import { TrackSound } from './rows';
import { heardAt, soundEnd } from './track-sound';
import { monoWav, toInt16, WAV_HEAD_BYTES, wavHead } from './wav';

const shapeOf = (pcm: ReturnType<typeof music>, piece = 997): Uint8Array => {
  const shaper = new Shaper();
  const [all = new Float32Array(0)] = pcm.channels;
  for (let i = 0; i < all.length; i += piece)
    shaper.take({ channels: [all.subarray(i, i + piece)], rate_hz: pcm.rate_hz });
  return shaper.end();
};
const heard = (pcm: ReturnType<typeof music>) => {
  const shape = shapeOf(pcm);
  return { loudness: loudnessOf(shape), onsets: onsetsOf(shape) };
};

test('a step is ten milliseconds at any rate, and says the lowest, the highest and how loud', () => {
  for (const rate_hz of [8000, 11_025, 44_100, 192_000]) {
    const shaper = new Shaper();
    const sine = Float32Array.from(
      { length: rate_hz * 3 },
      (_, i) => Math.sin((2 * Math.PI * 100 * i) / rate_hz) / 2,
    );
    shaper.take({ channels: [sine, sine.map((v) => -v / 2)], rate_hz });
    expect(shaper.length_s).toBe(3);
    const shape = shaper.end();
    expect(shape.length).toBe(300 * STEP_BYTES);
    const { low, high, loud } = stepOf(shape, 150);
    expect(low).toBeCloseTo(-0.5, 1);
    expect(high).toBeCloseTo(0.5, 1);
    // Half of one side and a quarter of the other against it: an eighth of a sine together.
    expect(loud).toBeCloseTo(0.125 / Math.SQRT2, 1);
  }
});

test('how it is cut into pieces changes nothing; silence, what is no number and a single sample are taken', () => {
  const pcm = music(steady(92, 0.3, 6), 6, 11_025);
  expect(shapeOf(pcm, 1)).toEqual(shapeOf(pcm, 4096));
  const silent = new Shaper();
  silent.take({ channels: [new Float32Array(8000)], rate_hz: 8000 });
  expect([...silent.end()].every((v) => v === 0)).toBe(true);
  const odd = new Shaper();
  odd.take({ channels: [Float32Array.of(NaN, 1, Infinity, -1)], rate_hz: 8000 });
  odd.take({ channels: [], rate_hz: 8000 });
  odd.take({ channels: [new Float32Array(160).fill(0.25)], rate_hz: 8000 });
  const shape = odd.end();
  expect(stepOf(shape, 1).loud).toBeCloseTo(0.25, 2);
});

test('each zoom holds what the finer one has, at a quarter of the steps', () => {
  const zooms = zoomsOf(shapeOf(music(steady(120, 0, 20), 20)));
  const [fine, next] = zooms;
  for (let i = 0; i < 500; i++) {
    const four = [0, 1, 2, 3].map((k) => stepOf(fine ?? new Uint8Array(), i * 4 + k));
    const one = stepOf(next ?? new Uint8Array(), i);
    expect(one.low).toBe(Math.min(...four.map((s) => s.low)));
    expect(one.high).toBe(Math.max(...four.map((s) => s.high)));
  }
  expect(stepsAt(zoomFor(200))).toBe(100);
  for (const scale of [0.05, 1, 6, 20, 90])
    expect(stepsAt(zoomFor(scale))).toBeGreaterThanOrEqual(Math.min(scale, 100));
  expect(stepsAt(zoomFor(0.05))).toBeLessThan(1);
});

test('the beat of music is found to a tenth of a beat a minute, and where it begins to 15 ms', () => {
  for (const [bpm, first] of [
    [92, 0.37],
    [120, 0.1],
    [74.5, 0.62],
    [151.3, 0.2],
  ] as const) {
    const found = findBeat(onsetsOf(shapeOf(music(steady(bpm, first, 60), 60, 8000, 0.01))));
    expect(found?.bpm).toBeCloseTo(bpm, 1);
    expect(Math.abs((found?.first_s ?? 9) - first)).toBeLessThan(0.015);
    expect(found?.sure).toBeGreaterThan(0.5);
  }
});

test('noise has no beat that anybody would be sure of, silence has none, a second of music is too little', () => {
  expect(findBeat(onsetsOf(shapeOf(music([], 30, 8000, 0.3))))?.sure ?? 0).toBeLessThan(0.35);
  expect(findBeat(onsetsOf(shapeOf(music([], 30))))).toBeUndefined();
  expect(findBeat(onsetsOf(shapeOf(music(steady(120, 0, 1), 1))))).toBeUndefined();
});

test('a new recording that is slower from a place on is followed to 40 ms', () => {
  const beats = steady(92, 0.4, 80);
  const slower = (t: number): number => 1.3 + (t <= 40 ? t : 40 + (t - 40) * 1.06);
  const found = align(
    heard(music(beats, 82)),
    heard(music(beats.map(slower), slower(82), 8000, 0.02)),
  );

  expect(found?.alike).toBeGreaterThan(0.6);
  for (const t of [5, 20, 39, 45, 60, 75])
    expect(Math.abs(throughPairs(found?.pairs ?? [], t) - slower(t))).toBeLessThan(0.04);
});

test('property: what a recording has before the music, or has not, moves its first note as it moves the last', () => {
  // The ledger of a waltz begins at once, softly, and has rests that more silence could be taken for.
  const beats = steady(92, 0, 40).filter((_, i) => i % 8 !== 5 && i % 8 !== 6);
  const one = heard(music(beats, 42));
  fc.assert(
    fc.property(evenly(-2, 4), (later_s) => {
      const found = align(
        one,
        heard(
          music(
            beats.map((t) => t + later_s),
            42 + later_s,
            8000,
            0.01,
          ),
        ),
      );
      // Where its beginning is cut off, the first moments have nothing to hold on to.
      const first_s = later_s < 0 ? 3 - later_s : 0.01;
      for (const t of [first_s, 8, 20, 37])
        expect(Math.abs(throughPairs(found?.pairs ?? [], t) - t - later_s)).toBeLessThan(0.06);
    }),
    { numRuns: Number(process.env.RUNS ?? 12) },
  );
});

test('a verse that was put in, or taken out, moves what comes well behind it, and nothing before it', () => {
  const beats = steady(92, 0, 80);
  const [from_s, verse_s] = [30, 12];
  const longer = beats.flatMap((t) => {
    const again = t >= from_s - verse_s && t < from_s ? [t + verse_s] : [];
    return [t < from_s ? t : t + verse_s, ...again];
  });
  const [short, long] = [heard(music(beats, 82)), heard(music(longer, 82 + verse_s))];
  for (const [a, b, by_s] of [
    [short, long, verse_s],
    [long, short, -verse_s],
  ] as const) {
    const found = align(a, b);
    const movedBy = (t: number): number => throughPairs(found?.pairs ?? [], t) - t;
    const behind = from_s + Math.max(0, -by_s) + 20;
    expect(found?.alike).toBeGreaterThan(0.6);
    for (const t of [2, 10, 17]) expect(Math.abs(movedBy(t))).toBeLessThan(0.06);
    for (const t of [behind, behind + 10]) expect(Math.abs(movedBy(t) - by_s)).toBeLessThan(0.06);
  }
});

test('the same recording is itself; two that are not the same music are not alike; both rise', () => {
  const beats = steady(100, 0.2, 60);
  const one = heard(music(beats, 60));
  const same = align(one, one);
  expect(same?.alike).toBeGreaterThan(0.95);
  expect(Math.abs(throughPairs(same?.pairs ?? [], 33) - 33)).toBeLessThan(0.02);
  const other = align(
    one,
    heard(
      music(
        steady(131, 0, 60).map((t, i) => t + (i % 4) * 0.07),
        60,
        8000,
        0.2,
      ),
    ),
  );

  expect(other?.alike ?? 0).toBeLessThan(0.6);
  for (const found of [same, other])
    found?.pairs.forEach(([x, y], i, all) => {
      if (i === 0) return;
      expect(x).toBeGreaterThan(all[i - 1]?.[0] ?? 0);
      expect(y).toBeGreaterThan(all[i - 1]?.[1] ?? 0);
    });
  expect(align(one, heard(music([], 0.5)))).toBeUndefined();
});

test('a file is what its first bytes say, whatever it is called', () => {
  const of = (...bytes: (number | string)[]): Uint8Array => {
    const out = new Uint8Array(12);
    out.set(
      bytes.flatMap((b) => (typeof b === 'number' ? [b] : [...b].map((c) => c.charCodeAt(0)))),
    );
    return out;
  };
  expect(soundKind(of('RIFF', 0, 0, 0, 0, 'WAVE'))).toBe('wav');
  expect(soundKind(of('RIFF', 0, 0, 0, 0, 'AVI '))).toBeUndefined();
  expect(soundKind(of('ID3', 4))).toBe('mp3');
  expect(soundKind(of(0xff, 0xfb))).toBe('mp3');
  expect(soundKind(of(0xff, 0xf1))).toBeUndefined();
  expect(soundKind(of('OggS'))).toBe('ogg');
  expect(soundKind(of('fLaC'))).toBe('flac');
  expect(soundKind(of(0, 0, 0, 24, 'ftyp'))).toBe('m4a');
  expect(soundKind(of('<html>'))).toBeUndefined();
  expect(soundKind(new Uint8Array(0))).toBeUndefined();
});

test('what is heard at a moment: its part of the file, level and fades, and nothing before and after', () => {
  const sound = TrackSound.parse({
    sound: 's',
    at_s: 10,
    from_s: 5,
    to_s: 65,
    level_db: -6,
    fadeIn_s: 2,
    fadeOut_s: 4,
  });
  expect(heardAt(sound, 180, 200, 9.99)).toBeNull();
  expect(heardAt(sound, 180, 200, 70)).toBeNull();
  const at = (s: number) => heardAt(sound, 180, 200, s);
  expect(at(10)).toMatchObject({ source_s: 5, left_s: 60, gain: 0 });
  expect(at(11)?.gain).toBeCloseTo(0.5012 / 2, 3);
  expect(at(30)).toMatchObject({ source_s: 25, left_s: 40 });
  expect(at(30)?.gain).toBeCloseTo(0.5012, 3);
  expect(at(68)?.gain).toBeCloseTo(0.5012 / 2, 3);
  expect(soundEnd(sound, 180)).toBe(70);
  // A file that is shorter than it was said to be is heard as far as it goes.
  expect(soundEnd(sound, 40)).toBe(45);
  expect(heardAt(sound, 40, 200, 46)).toBeNull();
  expect(heardAt(sound, 3, 200, 11)).toBeNull();
});

test('a loop is heard round and round to the end of its track', () => {
  const sound = TrackSound.parse({
    sound: 's',
    at_s: 2,
    from_s: 1,
    to_s: 4,
    loop: true,
    fadeOut_s: 1,
  });
  expect(heardAt(sound, 10, 30, 2 + 3 * 5 + 0.5)).toMatchObject({
    source_s: 1.5,
    left_s: 2.5,
    gain: 1,
  });
  expect(heardAt(sound, 10, 30, 29.5)?.gain).toBeCloseTo(0.5);
  expect(heardAt(sound, 10, 30, 30)).toBeNull();
  fc.assert(
    fc.property(evenly(2, 29.999), (t) => {
      const at = heardAt(sound, 10, 30, t);
      return at !== null && at.source_s >= 1 && at.source_s <= 4 && at.left_s > 0;
    }),
  );
});

test('a part that ends before it begins, and odd levels, are refused', () => {
  for (const odd of [{ from_s: 5, to_s: 5 }, { level_db: 20 }, { at_s: -1 }, { fadeIn_s: 601 }])
    expect(TrackSound.safeParse({ sound: 's', ...odd }).success).toBe(false);
});

test('a WAV says of itself what it has: length, rate and samples, cut where they are beyond', () => {
  const wav = monoWav([0, 0.5, -2], 8000);
  const view = new DataView(wav.buffer);
  const text = (at: number): string => String.fromCharCode(...wav.subarray(at, at + 4));
  expect([text(0), text(8), text(12), text(36)]).toEqual(['RIFF', 'WAVE', 'fmt ', 'data']);
  expect(view.getUint32(4, true)).toBe(wav.length - 8);
  expect(view.getUint32(40, true)).toBe(6);
  expect([44, 46, 48].map((at) => view.getInt16(at, true))).toEqual([0, 16_384, -32_767]);
  const two = new DataView(wavHead(10, 48_000, 2).buffer);
  expect([two.getUint16(22, true), two.getUint32(28, true), two.getUint32(40, true)]).toEqual([
    2, 192_000, 40,
  ]);
  expect(WAV_HEAD_BYTES + 6).toBe(wav.length);
  expect(toInt16(2)).toBe(32_767);
});
