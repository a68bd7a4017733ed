/** Slower and faster, a tone stays the tone that it is, and the sound stays where its clock has it. */
import type { Samples } from './samples.ts';
import { Stretch } from './stretch.ts';

const FILE_HZ = 44_100;
const OUT_HZ = 48_000;
const samplesOf = (wave: (s: number) => number): Samples => ({
  rate_hz: FILE_HZ,
  length: FILE_HZ * 20,
  read: (from, left, right) => {
    for (let i = 0; i < left.length; i++) left[i] = right[i] = wave((from + i) / FILE_HZ);
  },
});

/** Seconds of it, in blocks that fit no hop. */
function stretched(samples: Samples, rate: number, seconds: number, from_s = 1): Float32Array {
  const step = (FILE_HZ * rate) / OUT_HZ;
  const stretch = new Stretch(FILE_HZ / OUT_HZ);
  const out = new Float32Array(seconds * OUT_HZ);
  for (let done = 0; done < out.length;) {
    const left = out.subarray(done, Math.min(out.length, done + 733));
    stretch.fill(samples, from_s * FILE_HZ + done * step, step, OUT_HZ, [
      left,
      new Float32Array(left.length),
    ]);
    done += left.length;
  }
  return out;
}
/** Times a second that it rises through nothing. */
function pitch(out: Float32Array, seconds: number): number {
  let rises = 0;
  for (let i = 1; i < out.length; i++) if ((out[i - 1] ?? 0) <= 0 && (out[i] ?? 0) > 0) rises++;
  return rises / seconds;
}
const loudness = (out: Float32Array): number =>
  Math.sqrt(out.reduce((sum, v) => sum + v * v, 0) / out.length);

test.each([0.5, 0.75, 1.3])('at %s of its speed 440 Hz are 440 Hz, and as loud', (rate) => {
  const tone = samplesOf((s) => 0.5 * Math.sin(2 * Math.PI * 440 * s));
  const out = stretched(tone, rate, 3);
  expect(Math.abs(pitch(out, 3) - 440)).toBeLessThan(2);
  expect(loudness(out)).toBeCloseTo(0.5 / Math.SQRT2, 1);
  // No seam: from a sample to the next it never goes further than such a tone does.
  const steepest = 0.5 * 2 * Math.PI * (440 / OUT_HZ);
  const jumps = [...out].slice(1).map((v, i) => Math.abs(v - (out[i] ?? 0)));
  expect(jumps.reduce((a, b) => Math.max(a, b), 0)).toBeLessThan(steepest * 1.3);
});

test('two tones together keep both', () => {
  const chord = samplesOf(
    (s) => 0.3 * Math.sin(2 * Math.PI * 220 * s) + 0.3 * Math.sin(2 * Math.PI * 330 * s),
  );
  const out = stretched(chord, 0.6, 2);
  const share = (hz: number): number => {
    let [re, im] = [0, 0];
    out.forEach((v, i) => {
      re += v * Math.cos((2 * Math.PI * hz * i) / OUT_HZ);
      im += v * Math.sin((2 * Math.PI * hz * i) / OUT_HZ);
    });
    return (2 * Math.hypot(re, im)) / out.length;
  };
  expect(share(220)).toBeGreaterThan(0.15);
  expect(share(330)).toBeGreaterThan(0.15);
  expect(share(132)).toBeLessThan(0.05);
});

test('where it is, is where the clock has it, to a hundredth of a second and a little', () => {
  // Bursts a quarter of a second apart: at half the speed they come every half second.
  const bursts = samplesOf((s) => (s % 0.25 < 0.02 ? 0.8 * Math.sin(2 * Math.PI * 700 * s) : 0));
  const out = stretched(bursts, 0.5, 4);
  const begins: number[] = [];
  let last = -1;
  out.forEach((v, i) => {
    if (Math.abs(v) < 0.2) return;
    if (i - last > OUT_HZ * 0.2) begins.push(i / OUT_HZ);
    last = i;
  });
  expect(begins.length).toBeGreaterThanOrEqual(7);
  for (const b of begins) expect(Math.abs(b - Math.round(b / 0.5) * 0.5)).toBeLessThan(0.035);
});
