/** What is heard of a track, sample by sample, against where its clock says that it is. */
import { TrackSound } from '../../core/sounds/rows.ts';
import type { TrackNow } from './messages.ts';
import { Mixer } from './mixer.ts';
import type { Samples } from './samples.ts';

const FILE_HZ = 22_050;
const OUT_HZ = 48_000;
const BLOCK = 4800;
/** A sound whose sample says where it is: a ramp over its ten seconds. */
const ramp: Samples = {
  rate_hz: FILE_HZ,
  length: FILE_HZ * 10,
  read: (from, left, right) => {
    for (let i = 0; i < left.length; i++) {
      const k = from + i;
      const v = k < 0 || k >= FILE_HZ * 10 ? 0 : k / FILE_HZ / 10;
      left[i] = v;
      right[i] = -v;
    }
  },
};
const FILE = {
  sha256: 'a'.repeat(64),
  bytes: 1,
  kind: 'wav' as const,
  length_s: 10,
  rate_hz: FILE_HZ,
  channels: 2,
};
const track = (set: Partial<TrackNow> = {}, sound: object = {}): TrackNow => ({
  key: 'waltz',
  file: FILE,
  sound: TrackSound.parse({ sound: 's', ...sound }),
  end_s: 60,
  position_s: 0,
  at_ms: 0,
  rate: 1,
  ...set,
});
/** Blocks of a tenth of a second; where in the file each sample is, in seconds. */
function play(mixer: Mixer, blocks: number, of: (n: number) => TrackNow, from_ms = 0) {
  const left: number[] = [];
  const right: number[] = [];
  for (let n = 0; n < blocks; n++) {
    const block = { left: new Float32Array(BLOCK), right: new Float32Array(BLOCK) };
    mixer.add(of(n), ramp, from_ms + n * 100, block);
    left.push(...block.left);
    right.push(...block.right);
  }
  return { at_s: left.map((v) => v * 10), left, right };
}

const off = (at_s: number[], want: (i: number) => number): number[] =>
  at_s.map((s, i) => Math.abs(s - want(i)));
const most = (of: number[], from: number): number =>
  of.slice(from).reduce((a, b) => Math.max(a, b), 0);
const steps = (at_s: number[]): number[] =>
  at_s.slice(1).map((s, i) => Math.abs(s - (at_s[i] ?? 0)));

test('every sample is where the clock is, to a tenth of a millisecond, over blocks without a seam', () => {
  const { at_s, right, left } = play(new Mixer(OUT_HZ), 30, () => track({ position_s: 2 }));
  expect(
    most(
      off(at_s, (i) => 2 + i / OUT_HZ),
      200,
    ),
  ).toBeLessThan(1e-4);
  expect(most(steps(at_s), 80)).toBeLessThan(1e-4);
  expect(right[5000]).toBeCloseTo(-(left[5000] ?? 0), 6);
});

test('slower goes through it at its rate; standing is silent at once, without a click', () => {
  const { at_s } = play(new Mixer(OUT_HZ), 10, () => track({ position_s: 4, rate: 0.5 }));
  // In grains that keep its pitch, each within a hundredth of a second and a little of its moment (stretch.test.ts).
  expect(Math.abs((at_s[40_000] ?? 0) - (4 + 40_000 / OUT_HZ / 2))).toBeLessThan(0.035);
  expect(most(steps(at_s), 1000)).toBeLessThan(0.01);
  const stands = play(new Mixer(OUT_HZ), 4, (n) =>
    n < 2 ? track({ position_s: 5 }) : track({ position_s: 5.2, at_ms: 200, rate: 0 }),
  );
  expect(stands.left.slice(2 * BLOCK + 70).every((v) => v === 0)).toBe(true);
  expect(Math.abs((stands.left[2 * BLOCK] ?? 0) - (stands.left[2 * BLOCK - 1] ?? 0))).toBeLessThan(
    0.02,
  );
});

test('off by a little it is led back without a jump, off by much it jumps', () => {
  const mixer = new Mixer(OUT_HZ);
  // The clock is found to be 12 ms further from the tenth block on.
  const { at_s } = play(mixer, 60, (n) => track({ position_s: 2 + (n < 10 ? 0 : 0.012) }));
  expect(most(steps(at_s), 1000)).toBeLessThan(1.05 / OUT_HZ);
  const last = at_s.length - 1;
  expect(Math.abs((at_s[last] ?? 0) - (2.012 + last / OUT_HZ))).toBeLessThan(0.002);
  const jumped = play(new Mixer(OUT_HZ), 6, (n) => track({ position_s: n < 3 ? 2 : 7 }));
  expect(
    Math.abs((jumped.at_s[3 * BLOCK + 300] ?? 0) - (7 + (3 * BLOCK + 300) / OUT_HZ)),
  ).toBeLessThan(1e-3);
});

test('it begins at its moment of the track, ends with its part, and loops to the end', () => {
  const part = { at_s: 1, from_s: 3, to_s: 3.25 };
  const once = play(new Mixer(OUT_HZ), 20, () => track({}, part));
  expect(once.left.slice(0, OUT_HZ - 2).every((v) => v === 0)).toBe(true);
  expect(Math.abs((once.at_s[Math.round(1.1 * OUT_HZ)] ?? 0) - 3.1)).toBeLessThan(0.002);
  expect(once.left.slice(Math.round(1.26 * OUT_HZ)).every((v) => v === 0)).toBe(true);
  const round = play(new Mixer(OUT_HZ), 40, () => track({ end_s: 3 }, { ...part, loop: true }));
  expect(Math.abs((round.at_s[Math.round(2.15 * OUT_HZ)] ?? 0) - 3.15)).toBeLessThan(0.002);
  expect(round.left.slice(Math.round(3.11 * OUT_HZ)).every((v) => v === 0)).toBe(true);
});

test('level and fades are drawn from frame to frame', () => {
  const { left } = play(new Mixer(OUT_HZ), 60, () =>
    track({ position_s: 0 }, { level_db: -20, fadeIn_s: 2, fadeOut_s: 2, to_s: 6 }),
  );
  const gain = (s: number): number => (left[Math.round(s * OUT_HZ)] ?? 0) / (s / 10);
  expect(gain(1)).toBeCloseTo(0.05, 3);
  expect(gain(3)).toBeCloseTo(0.1, 3);
  expect(gain(5)).toBeCloseTo(0.05, 3);
});

test('what is off by little is led back by half of that in a second, and never by more than nobody hears', () => {
  const mixer = new Mixer(OUT_HZ);
  play(mixer, 1, () => track());
  const offAfter = (blocks: number, late_ms: number, from: number): number => {
    play(mixer, blocks, () => track({ at_ms: -late_ms }), from * 100);
    return mixer.off_ms.get('waltz') ?? NaN;
  };
  // What is seen at the beginning of the last block: ten of them have led it by a twentieth each.
  expect(offAfter(11, 4, 1)).toBeCloseTo(4 * 0.95 ** 10, 1);
  // Far off it is led by six thousandths of the time and no more.
  const before = offAfter(1, 34, 12);
  expect(before).toBeGreaterThan(25);
  expect(before - offAfter(10, 34, 13)).toBeCloseTo(6, 0);
});
