/** Timecode against times that are counted by hand and signals that are made by other code than reads them. */
import fc from 'fast-check';
import { artTimeCode, readArtTimeCode } from './art.ts';
import { followDoes, followState, freshFollowing, heardTimecode, timecodeNow } from './follow.ts';
import { LtcWriter, freshLtc, ltcBits, ltcSound, readLtc, type LtcHeard } from './ltc.ts';
import { freshMtc, fullFrame, quarterFrame, readMtc, type MtcHeard } from './mtc.ts';
import {
  FRAMES_A_SECOND,
  formatTimecode,
  framesOf,
  isTimecode,
  secondsOf,
  readTimecode,
  sayTimecode,
  timecodeOf,
  type Timecode,
} from './rate.ts';
import { RATES, type Rate } from './rows.ts';

const time = (text: string, rate: Rate): Timecode => {
  const [h = 0, m = 0, s = 0, f = 0] = text.split(/[:;]/).map(Number);
  return { h, m, s, f, rate };
};

describe('rates', () => {
  test('an hour is an hour, drop-frame to a tenth of a second', () => {
    for (const rate of ['24', '25', '30'] as const)
      expect(secondsOf(time('01:00:00:00', rate))).toBe(3600);
    expect(secondsOf(time('01:00:00;00', '29.97 drop'))).toBeCloseTo(3599.9964, 3);
  });

  test('drop-frame has no first two frames of a minute but of every tenth', () => {
    expect(isTimecode(time('00:01:00;00', '29.97 drop'))).toBe(false);
    expect(isTimecode(time('00:10:00;00', '29.97 drop'))).toBe(true);
    const after = (t: string): string =>
      formatTimecode(timecodeOf(framesOf(time(t, '29.97 drop')) + 1, '29.97 drop'));
    expect(after('00:00:59;29')).toBe('00:01:00;02');
    expect(after('00:09:59;29')).toBe('00:10:00;00');
    // 17,982 frames are ten minutes (SMPTE ST 12-1).
    expect(framesOf(time('00:10:00;00', '29.97 drop'))).toBe(17_982);
  });

  test('every frame of a day is one time, there and back, and the day goes round', () =>
    fc.assert(
      fc.property(fc.constantFrom(...RATES), fc.nat(24 * 3600 * 24 - 1), (rate, n) => {
        const t = timecodeOf(n, rate);
        expect(isTimecode(t)).toBe(true);
        expect(framesOf(t)).toBe(n);
      }),
    ));
  test('the day goes round', () =>
    expect(formatTimecode(timecodeOf(framesOf(time('23:59:59:24', '25')) + 1, '25'))).toBe(
      '00:00:00:00',
    ));
});

/** Quarter frames of so many times, written out by hand from the standard's table. */
function quarters(t: Timecode): number[][] {
  const rate = { '24': 0, '25': 1, '29.97 drop': 2, '30': 3 }[t.rate];
  const nibbles = [
    t.f % 16,
    Math.floor(t.f / 16),
    t.s % 16,
    Math.floor(t.s / 16),
    t.m % 16,
    Math.floor(t.m / 16),
    t.h % 16,
    Math.floor(t.h / 16) + rate * 2,
  ];
  return nibbles.map((d, n) => [0xf1, n * 16 + d]);
}

describe('MIDI time code', () => {
  const heardOf = (messages: readonly number[][]): MtcHeard[] => {
    const state = freshMtc();
    return messages.flatMap((m) => readMtc(state, m) ?? []);
  };

  test('eight quarters are a time of two frames before', () => {
    const [heard] = heardOf(quarters(time('01:02:03:04', '25')));
    expect(heard && formatTimecode(heard.time)).toBe('01:02:03:06');
    expect(heard?.way).toBe(1);
  });

  test('it is locked within two times of joining in the middle', () => {
    const all = [0, 2, 4].flatMap((n) =>
      quarters(timecodeOf(framesOf(time('10:00:00:00', '30')) + n, '30')),
    );
    const heard = heardOf(all.slice(5));
    expect(heard.map((h) => formatTimecode(h.time))).toEqual(['10:00:00:04', '10:00:00:06']);
  });

  test('wound back it goes back', () => {
    const back = [...quarters(time('00:00:10:12', '25'))].reverse();
    const [heard] = heardOf(back);
    expect(heard?.way).toBe(-1);
    expect(heard && formatTimecode(heard.time)).toBe('00:00:10:10');
  });

  test('a full frame is a jump, and stands', () => {
    const [heard] = heardOf([[0xf0, 0x7f, 0x7f, 1, 1, 0x21, 2, 3, 4, 0xf7]]);
    expect(heard).toMatchObject({ stands: true });
    expect(heard && formatTimecode(heard.time)).toBe('01:02:03:04');
    expect([...fullFrame(time('01:02:03:04', '25'))]).toEqual([
      0xf0, 0x7f, 0x7f, 1, 1, 0x21, 2, 3, 4, 0xf7,
    ]);
  });

  test('what is lost on the way is no time; neither is a time that there is not', () => {
    const all = quarters(time('01:02:03:04', '25'));
    expect(heardOf([...all.slice(0, 3), ...all.slice(4)])).toEqual([]);
    expect(heardOf(quarters(time('00:01:00:00', '29.97 drop')))).toEqual([]);
    expect(heardOf([[0xf1], [0xf1, 200], [0x90, 1, 2], []])).toEqual([]);
  });

  test('what is written is what the table says', () => {
    const t = time('21:43:56:23', '24');
    expect([0, 1, 2, 3, 4, 5, 6, 7].map((n) => [...quarterFrame(n, t)])).toEqual(quarters(t));
  });
});

/** Biphase mark, written another way than the reader’s own writer: edges first, then samples. */
function tape(times: readonly Timecode[], sampleRate: number, speed = 1): Float32Array {
  const fps = { '24': 24, '25': 25, '29.97 drop': 29.97, '30': 30 }[times[0]?.rate ?? '25'];
  const bit_s = 1 / (fps * 80 * speed);
  const edges: number[] = [];
  let t = 0;
  for (const x of times) {
    const digit = (v: number, n: number): string =>
      v.toString(2).padStart(n, '0').split('').reverse().join('');
    const bits = [
      digit(x.f % 10, 4),
      '0000',
      digit(Math.floor(x.f / 10), 2),
      x.rate === '29.97 drop' ? '1' : '0',
      '0',
      '0000',
      digit(x.s % 10, 4),
      '0000',
      digit(Math.floor(x.s / 10), 3),
      '0',
      '0000',
      digit(x.m % 10, 4),
      '0000',
      digit(Math.floor(x.m / 10), 3),
      '0',
      '0000',
      digit(x.h % 10, 4),
      '0000',
      digit(Math.floor(x.h / 10), 2),
      '00',
      '0000',
      '0011111111111101',
    ].join('');
    for (const b of bits) {
      edges.push(t);
      if (b === '1') edges.push(t + bit_s / 2);
      t += bit_s;
    }
  }
  const sound = new Float32Array(Math.floor(t * sampleRate));
  let e = 0;
  let side = -0.4;
  for (let i = 0; i < sound.length; i++) {
    while (e < edges.length && (edges[e] ?? 0) <= i / sampleRate) {
      side = -side;
      e++;
    }
    sound[i] = side;
  }
  return sound;
}
const run = (from: string, rate: Rate, frames: number): Timecode[] =>
  Array.from({ length: frames }, (_, i) => timecodeOf(framesOf(time(from, rate)) + i, rate));
const read = (sound: Float32Array, sampleRate: number): LtcHeard[] => {
  const state = freshLtc();
  const heard: LtcHeard[] = [];
  for (let i = 0; i < sound.length; i += 128)
    heard.push(...readLtc(state, sound.subarray(i, i + 128), sampleRate));
  return heard;
};

describe('as people write it', () => {
  test('a moment and its timecode, there and back, at every rate', () => {
    for (const rate of RATES)
      for (const text of ['00:00:00:00', '01:00:00:00', '10:59:59:23'])
        expect([
          rate,
          sayTimecode(readTimecode(text, rate) ?? NaN, rate).replace(';', ':'),
        ]).toEqual([rate, text]);
    expect(sayTimecode(3600, '29.97 drop')).toBe('01:00:00;00');
  });

  test('without frames, as seconds, with a semicolon; and what is none', () => {
    expect(readTimecode('1:02:03', '25')).toBe(3723);
    expect(readTimecode(' 90 ', '25')).toBe(90);
    expect(readTimecode('00:00:01;15', '30')).toBe(1.5);
    for (const text of ['', 'soon', '25:00:00:00', '00:61:00:00', '00:00:00:25', '1:2'])
      expect([text, readTimecode(text, '25')]).toEqual([text, undefined]);
    expect(readTimecode('00:01:00;00', '29.97 drop')).toBeUndefined();
  });
});

describe('linear timecode', () => {
  test.each([
    ['24', 48_000],
    ['25', 44_100],
    ['29.97 drop', 48_000],
    ['30', 16_000],
  ] as const)('%s frames at %d hertz are read, from the second one on', (rate, sampleRate) => {
    const times = run('09:59:58:20', rate, 60);
    const heard = read(tape(times, sampleRate), sampleRate).map((h) => formatTimecode(h.time));
    expect(heard.length).toBeGreaterThan(56);
    expect(heard.at(-1)).toBe(
      formatTimecode(times.at(heard.length === 60 ? -1 : -2) ?? (times[0] as Timecode)),
    );
    for (const t of heard) expect(times.map(formatTimecode)).toContain(t);
  });

  test('slowly, quickly, and backwards', () => {
    const times = run('01:00:00:00', '25', 40);
    for (const speed of [0.5, 2, 5]) {
      const heard = read(tape(times, 48_000, speed), 48_000);
      expect([speed, heard.length > 34]).toEqual([speed, true]);
      expect(heard.every((h) => h.way === 1)).toBe(true);
    }
    const back = read(tape(times, 48_000).reverse(), 48_000);
    expect(back.length).toBeGreaterThan(34);
    expect(back.every((h) => h.way === -1)).toBe(true);
    expect(framesOf((back.at(-1) as LtcHeard).time)).toBeLessThan(
      framesOf((back[0] as LtcHeard).time),
    );
  });

  test('quiet, with hiss, with its edges rounded, and the other way up', () => {
    const times = run('02:00:00:00', '25', 30);
    const plain = tape(times, 48_000);
    let held = 0;
    const rounded = plain.map((v) => (held += (v - held) * 0.5));
    let seed = 7;
    const hiss = (): number =>
      ((seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647 - 0.5) * 0.006;
    for (const sound of [plain.map((v) => v * 0.05 + hiss()), rounded, plain.map((v) => -v)])
      expect(read(sound, 48_000).length).toBeGreaterThan(26);
  });

  test('silence and music are no time', () => {
    expect(read(new Float32Array(48_000), 48_000)).toEqual([]);
    const tone = Float32Array.from({ length: 48_000 }, (_, i) => Math.sin(i / 17) * 0.5);
    expect(read(tone, 48_000)).toEqual([]);
  });

  test('what is written is read, and each frame begins with the same edge', () => {
    const times = run('00:59:59:00', '29.97 drop', 20);
    const heard = read(ltcSound(times, 48_000), 48_000).map((h) => formatTimecode(h.time));
    expect(heard.length).toBeGreaterThan(17);
    for (const t of [...times, time('23:59:59:24', '25')])
      expect(ltcBits(t).filter((b) => b === 0).length % 2).toBe(0);
  });
});

test('ArtTimeCode: nineteen bytes by hand, and nothing else is taken for it', () => {
  const bytes = [...'Art-Net\0'].map((c) => c.charCodeAt(0));
  const packet = Uint8Array.from([...bytes, 0, 0x97, 0, 14, 0, 0, 12, 30, 45, 1, 1]);
  expect(readArtTimeCode(packet)).toEqual(time('01:45:30:12', '25'));
  expect([...artTimeCode(time('01:45:30:12', '25'))]).toEqual([...packet]);
  expect(readArtTimeCode(packet.subarray(0, 18))).toBeUndefined();
  expect(readArtTimeCode(packet.map((b, i) => (i === 14 ? 25 : b)))).toBeUndefined();
  expect(readArtTimeCode(packet.map((b, i) => (i === 9 ? 0x50 : b)))).toBeUndefined();
});

describe('following', () => {
  const o = { offset_s: 10, runOn_s: 2, end_s: 200 };
  /** Times a frame of 25 apart, from a moment of the clock on. */
  const feed = (
    f: ReturnType<typeof freshFollowing>,
    from: string,
    frames: number,
    at_ms: number,
  ): number => {
    run(from, '25', frames).forEach((t, i) => heardTimecode(f, t, at_ms + i * 40));
    return at_ms + (frames - 1) * 40;
  };

  test('it locks in a fraction of a second, and the list plays where the timecode is', () => {
    const f = freshFollowing();
    const now = feed(f, '00:00:30:00', 5, 1000);
    expect(followState(f, now, 2)).toBe('locked');
    expect(timecodeNow(f, now, 2)).toBeCloseTo(30.16);
    expect(followDoes(f, null, now, o)).toEqual({ do: 'play', at_s: expect.closeTo(20.16) });
    expect(followDoes(f, { position_s: 20.15, runs: true }, now, o)).toEqual({ do: 'nothing' });
  });

  test('one time by itself moves nothing', () => {
    const f = freshFollowing();
    heardTimecode(f, time('00:00:30:00', '25'), 0);
    expect(followDoes(f, null, 10, o)).toEqual({ do: 'nothing' });
  });

  test('through a loss it runs on for as long as it may, and then stands where it is', () => {
    const f = freshFollowing();
    const now = feed(f, '00:00:30:00', 10, 0);
    const at = (ms: number) => ({ position_s: 20.36 + ms / 1000, runs: true });
    expect(followState(f, now + 1500, 2)).toBe('runs on');
    expect(followDoes(f, at(1500), now + 1500, o)).toEqual({ do: 'nothing' });
    expect(followState(f, now + 2500, 2)).toBe('lost');
    expect(followDoes(f, at(2500), now + 2500, o)).toEqual({
      do: 'stand',
      at_s: expect.closeTo(22.86),
    });
    expect(followDoes(f, { position_s: 22.86, runs: false }, now + 2600, o)).toEqual({
      do: 'nothing',
    });
  });

  test('a jump is a jump, once it is believed', () => {
    const f = freshFollowing();
    let now = feed(f, '00:00:30:00', 10, 0);
    now = feed(f, '00:02:00:00', 1, now + 40);
    expect(followDoes(f, { position_s: 20.4, runs: true }, now, o)).toEqual({ do: 'nothing' });
    now = feed(f, '00:02:00:01', 3, now + 40);
    expect(followDoes(f, { position_s: 20.5, runs: true }, now, o)).toEqual({
      do: 'play',
      at_s: expect.closeTo(110.12),
    });
  });

  test('timecode of another number leaves a list alone that is not on its track; one that is stands at its end', () => {
    const f = freshFollowing();
    const before = feed(f, '00:00:05:00', 5, 0);
    expect(followDoes(f, null, before, o)).toEqual({ do: 'nothing' });
    const behind = feed(f, '00:10:00:00', 5, before + 40);
    expect(followDoes(f, null, behind, o)).toEqual({ do: 'nothing' });
    expect(followDoes(f, { position_s: 150, runs: true }, behind, o)).toEqual({
      do: 'stand',
      at_s: 200,
    });
    expect(followDoes(f, { position_s: 200, runs: false }, behind, o)).toEqual({ do: 'nothing' });
    // One that begins again at its end has done so twice by then.
    expect(followDoes(f, null, behind, { ...o, loops: true })).toEqual({
      do: 'play',
      at_s: expect.closeTo(190.16),
    });
  });

  test.each(['25', '29.97 drop'] as const)(
    'midnight is no jump at %s: a track that begins before it goes on behind it, one behind it waits',
    (rate) => {
      const f = freshFollowing();
      const frame_ms = 1000 / FRAMES_A_SECOND[rate];
      const late = { offset_s: secondsOf(time('23:59:50:00', rate)), runOn_s: 2, end_s: 200 };
      const early = { offset_s: 10, runOn_s: 2, end_s: 200 };
      const start = framesOf(time('23:59:58:00', rate));
      for (let n = 0; n < 100; n++) {
        const now = n * frame_ms;
        heardTimecode(f, timecodeOf(start + n, rate), now);
        if (n < 5) continue;
        expect(followState(f, now, 2)).toBe('locked');
        expect(followDoes(f, null, now, late)).toEqual({
          do: 'play',
          at_s: expect.closeTo(8 + now / 1000, 1),
        });
        expect(followDoes(f, { position_s: 5, runs: true }, now, early)).toEqual({
          do: 'stand',
          at_s: 0,
        });
      }
    },
  );

  test('before the beginning of the track it waits there; a time that stands is stood at', () => {
    const f = freshFollowing();
    const now = feed(f, '00:00:05:00', 5, 0);
    expect(followDoes(f, { position_s: 3, runs: true }, now, o)).toEqual({ do: 'stand', at_s: 0 });
    expect(followDoes(f, { position_s: 0, runs: false }, now, o)).toEqual({ do: 'nothing' });
    heardTimecode(f, time('00:01:00:00', '25'), now + 40, { stands: true });
    expect(followDoes(f, null, now + 5000, o)).toEqual({ do: 'stand', at_s: 50 });
    expect(followDoes(f, { position_s: 50, runs: false }, now + 5000, o)).toEqual({
      do: 'nothing',
    });
  });
});

describe('linear timecode written block by block', () => {
  const heard = (
    rate: '24' | '25' | '29.97 drop' | '30',
    from: number,
    pace: number,
    seconds: number,
  ) => {
    const writer = new LtcWriter(rate);
    const state = freshLtc();
    const found: ReturnType<typeof readLtc> = [];
    const step = (FRAMES_A_SECOND[rate] * pace) / 48_000;
    for (let at = 0; at < seconds * 48_000; at += 2400) {
      const block = new Float32Array(2400);
      writer.add(block, from + at * step, step);
      found.push(...readLtc(state, block, 48_000));
    }
    return found.map((h) => framesOf(h.time));
  };

  test.each(['24', '25', '29.97 drop', '30'] as const)(
    '%s frames are read as they were written, without a gap at the seams',
    (rate) => {
      const from = 90_000.3;
      const frames = heard(rate, from, 1, 2);
      expect(frames.length).toBeGreaterThan(FRAMES_A_SECOND[rate] * 2 - 4);
      frames.forEach((f, i) => i > 0 && expect(f).toBe((frames[i - 1] ?? 0) + 1));
      expect(Math.abs((frames[0] ?? 0) - from)).toBeLessThan(3);
    },
  );

  test('at half its pace it is the same time, half as fast; before zero it is silent', () => {
    const frames = heard('25', 1000, 0.5, 2);
    expect(frames.length).toBeGreaterThan(20);
    expect(frames.length).toBeLessThan(27);
    const silent = new Float32Array(100);
    new LtcWriter('25').add(silent, -10, 0.0005);
    expect(silent.every((v) => v === 0)).toBe(true);
  });
});
