/**
 * The shape of a sound: what is drawn of it, and what beats and comparisons are found in. Four bytes for each step of
 * 10 ms: the lowest and the highest sample (-127 to 127), its loudness and how much begins there (0 to 255).
 */

export const STEPS_A_SECOND = 100;
/** Bytes of one step of a drawn recording. */
export const STEP_BYTES = 4;
/** Each zoom has a quarter of the steps of the one before. */
export const ZOOMS = 6;
const PER_ZOOM = 4;
/** What a kick is below, and a cymbal above. */
const LOW_HZ = 200;
/** Of loudness, so that quiet passages have beginnings as well. */
const COMPRESS = 200;
const ONSET_SCALE = 60;
/** Louder than anything within these steps before: something begins. */
const BEFORE_STEPS = 3;

/** Sound as samples, -1…1, a column for each channel. */
export interface Pcm {
  channels: readonly Float32Array[];
  rate_hz: number;
}

const toByte = (v: number): number => Math.max(-127, Math.min(127, Math.round(v * 127))) & 0xff;
const level = (v: number): number => Math.max(0, Math.min(255, Math.round(v)));

/** Takes samples as they come and gives the shape at their end: no more than 4 bytes for 10 ms are held. */
export class Shaper {
  private out = new Uint8Array(1 << 16);
  private steps = 0;
  private samples = 0;
  private step = { low: 1, high: -1, sum: 0, count: 0, bass: 0, treble: 0 };
  private smooth = 0;
  private rate_hz = 0;
  private readonly loud = { bass: [0, 0, 0], treble: [0, 0, 0] };

  /** Samples so far, of one channel. */
  get length(): number {
    return this.samples;
  }

  take({ channels, rate_hz }: Pcm): void {
    const [first] = channels;
    if (!first) return;
    this.rate_hz = rate_hz;
    const alpha = 1 - Math.exp((-2 * Math.PI * LOW_HZ) / rate_hz);
    const { step } = this;
    const n = channels.length;
    for (let i = 0; i < first.length; i++) {
      let mono = 0;
      for (let c = 0; c < n; c++) {
        const v = channels[c]?.[i] ?? 0;
        mono += v;
        if (v < step.low) step.low = v;
        if (v > step.high) step.high = v;
      }
      mono /= n;
      // What is no number is silence: it would stay in the filter for good.
      if (!(Math.abs(mono) <= 1e6)) mono = 0;
      this.smooth += alpha * (mono - this.smooth);
      const rest = mono - this.smooth;
      step.sum += mono * mono;
      step.bass += this.smooth * this.smooth;
      step.treble += rest * rest;
      step.count++;
      this.samples++;
      // Where a rate is no multiple of the steps, some of them have a sample more.
      if (this.samples * STEPS_A_SECOND >= (this.steps + 1) * rate_hz) this.close();
    }
  }

  private rise(of: number[], energy: number): number {
    const now = Math.log1p(COMPRESS * Math.sqrt(energy / Math.max(1, this.step.count)));
    const before = Math.max(...of);
    of.push(now);
    if (of.length > BEFORE_STEPS) of.shift();
    return Math.max(0, now - before);
  }

  private close(): void {
    const { step } = this;
    const at = this.steps * STEP_BYTES;
    if (at + STEP_BYTES > this.out.length) {
      const next = new Uint8Array(this.out.length * 2);
      next.set(this.out);
      this.out = next;
    }
    const onset = this.rise(this.loud.bass, step.bass) + this.rise(this.loud.treble, step.treble);
    this.out[at] = toByte(step.low > step.high ? 0 : step.low);
    this.out[at + 1] = toByte(step.low > step.high ? 0 : step.high);
    this.out[at + 2] = level(255 * Math.sqrt(step.sum / Math.max(1, step.count)));
    this.out[at + 3] = level(ONSET_SCALE * onset);
    this.steps++;
    Object.assign(step, { low: 1, high: -1, sum: 0, count: 0, bass: 0, treble: 0 });
  }

  end(): Uint8Array {
    if (this.step.count > 0) this.close();
    return this.out.slice(0, this.steps * STEP_BYTES);
  }

  get length_s(): number {
    return this.rate_hz > 0 ? this.samples / this.rate_hz : 0;
  }
}

const signed = (byte: number): number => (byte << 24) >> 24;

/** The shape at a quarter of the steps. */
function coarser(shape: Uint8Array): Uint8Array {
  const steps = shape.length / STEP_BYTES;
  const out = new Uint8Array(Math.ceil(steps / PER_ZOOM) * STEP_BYTES);
  for (let i = 0; i < steps; i += PER_ZOOM) {
    let [low, high, sum, onset] = [127, -127, 0, 0];
    const end = Math.min(steps, i + PER_ZOOM);
    for (let k = i; k < end; k++) {
      const at = k * STEP_BYTES;
      low = Math.min(low, signed(shape[at] ?? 0));
      high = Math.max(high, signed(shape[at + 1] ?? 0));
      sum += (shape[at + 2] ?? 0) ** 2;
      onset = Math.max(onset, shape[at + 3] ?? 0);
    }
    const at = (i / PER_ZOOM) * STEP_BYTES;
    out[at] = low & 0xff;
    out[at + 1] = high & 0xff;
    out[at + 2] = level(Math.sqrt(sum / (end - i)));
    out[at + 3] = onset;
  }
  return out;
}

/** The shape at every zoom, the finest first. */
export function zoomsOf(shape: Uint8Array): Uint8Array[] {
  const zooms = [shape];
  for (let z = 1; z < ZOOMS; z++) zooms.push(coarser(zooms[z - 1] ?? shape));
  return zooms;
}

/** Steps a second at a zoom. */
export const stepsAt = (zoom: number): number => STEPS_A_SECOND / PER_ZOOM ** zoom;

/** The coarsest zoom that has a step for each pixel. @param scale pixels a second */
export function zoomFor(scale: number): number {
  let zoom = ZOOMS - 1;
  while (zoom > 0 && stepsAt(zoom) < scale) zoom--;
  return zoom;
}

/** What of a step is drawn: -1 to 1, and its loudness, 0 to 1. Beyond the end it is silence. */
export const stepOf = (
  shape: Uint8Array,
  step: number,
): { low: number; high: number; loud: number } => {
  const at = step * STEP_BYTES;
  return {
    low: signed(shape[at] ?? 0) / 127,
    high: signed(shape[at + 1] ?? 0) / 127,
    loud: (shape[at + 2] ?? 0) / 255,
  };
};

/** How much begins at each step, 0 to 255; and how loud it is. */
export const onsetsOf = (shape: Uint8Array): Uint8Array =>
  Uint8Array.from({ length: shape.length / STEP_BYTES }, (_, i) => shape[i * STEP_BYTES + 3] ?? 0);
/** How loud each step of ten milliseconds is, 0 to 255. */
export const loudnessOf = (shape: Uint8Array): Uint8Array =>
  Uint8Array.from({ length: shape.length / STEP_BYTES }, (_, i) => shape[i * STEP_BYTES + 2] ?? 0);
