/** The music of “The ledger waltz”: our own, made of sines here, as long as the number and no larger than it must be. */

import { monoWav } from '../src/core/sounds/wav.ts';

const RATE_HZ = 8000;
const BPM = 92;
const BEATS = 3;
const BARS = 98;
const END_S = 192;
const A4_HZ = 440;
const LOUDER = 2.2;

/** Semitones from A4: a bar’s bass, its chord, and its melody, beat by beat; null is a rest. */
interface Bar {
  bass: number;
  chord: readonly number[];
  tune: readonly (number | null)[];
}
const VERSE: readonly Bar[] = [
  { bass: -24, chord: [-9, -5], tune: [3, null, 2] },
  { bass: -19, chord: [-10, -7], tune: [0, 2, 3] },
  { bass: -17, chord: [-9, -5], tune: [7, null, 5] },
  { bass: -22, chord: [-10, -5], tune: [5, 3, 2] },
  { bass: -24, chord: [-9, -5], tune: [3, null, 0] },
  { bass: -16, chord: [-9, -4], tune: [8, 7, 5] },
  { bass: -17, chord: [-10, -5], tune: [7, null, 2] },
  { bass: -24, chord: [-9, -5], tune: [0, null, null] },
];
const CHORUS: readonly Bar[] = [
  { bass: -21, chord: [-9, -5, 0], tune: [12, null, 10] },
  { bass: -14, chord: [-10, -5, -2], tune: [8, 10, 12] },
  { bass: -19, chord: [-7, -4, 0], tune: [15, null, 12] },
  { bass: -17, chord: [-9, -5, -2], tune: [14, 12, 10] },
  { bass: -21, chord: [-9, -5, 0], tune: [12, null, 8] },
  { bass: -16, chord: [-9, -4, 0], tune: [8, 10, 8] },
  { bass: -17, chord: [-10, -5, -2], tune: [7, 8, 10] },
  { bass: -21, chord: [-9, -5, 0], tune: [12, null, null] },
];
/** From which bar on which part is played, and how loud. */
const PARTS: readonly (readonly [bar: number, part: readonly Bar[], loud: number])[] = [
  [1, VERSE, 0.45],
  [9, VERSE, 0.7],
  [33, CHORUS, 1],
  [57, VERSE, 0.55],
  [73, CHORUS, 1],
];

const hz = (semitones: number): number => A4_HZ * 2 ** (semitones / 12);
const beatAt = (bar: number, beat: number): number => ((bar * BEATS + beat) * 60) / BPM;

/** A note with a beginning that is heard and an end that is not. */
function note(
  out: Float32Array,
  at_s: number,
  semitones: number,
  length_s: number,
  loud: number,
): void {
  const [from, count] = [Math.round(at_s * RATE_HZ), Math.round(length_s * RATE_HZ)];
  const w = (2 * Math.PI * hz(semitones)) / RATE_HZ;
  for (let i = 0; i < count && from + i < out.length; i++) {
    const t = i / RATE_HZ;
    const swell = Math.min(1, t / 0.012) * Math.exp(-t * (2.2 / length_s));
    const tone = Math.sin(w * i) + 0.35 * Math.sin(2 * w * i) + 0.12 * Math.sin(3 * w * i);
    out[from + i] = (out[from + i] ?? 0) + loud * swell * tone;
  }
}

/** The waltz, 16 bits at 8 kHz on one channel, as a WAV. @returns about 3 MB */
export function waltzWav(): Uint8Array {
  const out = new Float32Array(END_S * RATE_HZ);
  for (let bar = 0; bar < BARS; bar++) {
    const [first, part, loud] = PARTS.findLast(([from]) => from <= bar + 1) ??
      PARTS[0] ?? [1, VERSE, 1];
    const now = part[(bar + 1 - first) % part.length];
    if (!now) continue;
    // It swells over each eight bars, and slackens at the very end.
    const swell =
      loud *
      (0.75 + 0.25 * Math.sin((Math.PI * ((bar + 1 - first) % 8)) / 8)) *
      Math.min(1, (BARS - bar) / 6);
    note(out, beatAt(bar, 0), now.bass, 0.6, 0.3 * swell);
    for (const beat of [1, 2])
      for (const c of now.chord) note(out, beatAt(bar, beat), c - 12, 0.4, 0.09 * swell);
    now.tune.forEach((t, beat) => {
      if (t !== null)
        note(
          out,
          beatAt(bar, beat),
          t - 12,
          beat === 0 && now.tune[1] === null ? 1.2 : 0.6,
          0.16 * swell,
        );
    });
  }
  return monoWav(
    out.map((v) => Math.tanh(v * LOUDER)),
    RATE_HZ,
  );
}
