/** Samples of a file that is ready: two channels, at its own rate. */
export interface Samples {
  rate_hz: number;
  /** Frames of it. */
  length: number;
  /** Fills both from a frame on; beyond its ends is silence. */
  read: (from: number, left: Float32Array, right: Float32Array) => void;
}
