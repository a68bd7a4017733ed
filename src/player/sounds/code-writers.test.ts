/** Timecode as sound over blocks: read back it says where the track is, also where it is counted otherwise from a moment on. */
import { freshLtc, readLtc } from '../../core/timecode/ltc.ts';
import { formatTimecode } from '../../core/timecode/rate.ts';
import { CodeWriters } from './code-writers.ts';
import type { CodeNow } from './messages.ts';

const HZ = 48_000;
const BLOCK = 960;

/** What is read of blocks of 20 ms. */
function heard(blocks: number, of: (block: number) => CodeNow): string[] {
  const writers = new CodeWriters();
  const reader = freshLtc();
  const times: string[] = [];
  for (let n = 0; n < blocks; n++) {
    const out = new Float32Array(BLOCK);
    writers.add(of(n), out, n * 20, HZ);
    for (const { time } of readLtc(reader, out, HZ))
      times.push(`${time.rate} ${formatTimecode(time)}`);
  }
  return times;
}
const now = (set: Partial<CodeNow> = {}): CodeNow => ({
  key: 'main',
  frames: '25',
  offset_s: 3600,
  position_s: 10,
  at_ms: 0,
  rate: 1,
  ...set,
});

test('an hour of offset and ten seconds on the track are 01:00:10, and it goes on frame by frame', () => {
  const times = heard(100, () => now());
  expect(times[3]).toMatch(/^25 01:00:10:0/);
  expect(times.at(-1)).toMatch(/^25 01:00:11:2/);
  expect(new Set(times).size).toBe(times.length);
});

test('counted in thirties from a moment on, it is the same moment in thirties', () => {
  const times = heard(200, (n) => now(n < 100 ? {} : { frames: '30' }));
  const after = times.filter((t) => t.startsWith('30 '));
  expect(after.length).toBeGreaterThan(40);
  expect(after[2]).toMatch(/^30 01:00:12:0/);
  expect(after.at(-1)).toMatch(/^30 01:00:13:2/);
});

test('two lists are written each by itself, and one that stands is silent', () => {
  const writers = new CodeWriters();
  const out = new Float32Array(BLOCK);
  writers.add(now({ rate: 0 }), out, 0, HZ);
  expect(out.every((v) => v === 0)).toBe(true);
  writers.add(now(), out, 0, HZ);
  const alone = out.slice();
  writers.add(now({ key: 'other', position_s: 50 }), out, 0, HZ);
  expect(out).not.toEqual(alone);
});
