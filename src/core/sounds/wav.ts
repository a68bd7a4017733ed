/** WAV files as they are written here: whole numbers of 16 bits (RIFF, Multimedia Programming Interface 1.0). */

export const WAV_HEAD_BYTES = 44;
const SAMPLE_BYTES = 2;
const FULL = 32_767;

/** A sample as it is written: -1…1, and what is beyond is cut. */
export const toInt16 = (v: number): number => Math.round(Math.max(-1, Math.min(1, v)) * FULL);

/**
 * What stands before the samples.
 * @param frames of each channel @param channels side by side
 */
export function wavHead(frames: number, rate_hz: number, channels: number): Uint8Array {
  const out = new Uint8Array(WAV_HEAD_BYTES);
  const view = new DataView(out.buffer);
  const text = (at: number, words: string): void =>
    [...words].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  const frame = channels * SAMPLE_BYTES;
  text(0, 'RIFF');
  view.setUint32(4, WAV_HEAD_BYTES - 8 + frames * frame, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, rate_hz, true);
  view.setUint32(28, rate_hz * frame, true);
  view.setUint16(32, frame, true);
  view.setUint16(34, SAMPLE_BYTES * 8, true);
  text(36, 'data');
  view.setUint32(40, frames * frame, true);
  return out;
}

/** One channel as a whole file. */
export function monoWav(samples: ArrayLike<number>, rate_hz: number): Uint8Array {
  const out = new Uint8Array(WAV_HEAD_BYTES + samples.length * SAMPLE_BYTES);
  out.set(wavHead(samples.length, rate_hz, 1));
  const view = new DataView(out.buffer);
  for (let i = 0; i < samples.length; i++)
    view.setInt16(WAV_HEAD_BYTES + i * SAMPLE_BYTES, toInt16(samples[i] ?? 0), true);
  return out;
}
