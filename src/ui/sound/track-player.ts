/**
 * The sound of one track at this screen: an audio element that is led after the player’s clock. Off by little it goes a hair
 * faster or slower, which nobody hears; off by much it jumps.
 */
import type { Heard } from '@/core/sounds/track-sound';

/** Further off than this it jumps, in seconds. */
const JUMP_S = 0.09;
/** Nearer than this it is let alone: a browser tells its place no finer. */
const NEAR_S = 0.003;
/** Of what it is off by, so much is made up for in a second. */
const LEAD = 0.6;
const MOST_LEAD = 0.02;
/** Fades are drawn over this, in seconds. */
const GLIDE_S = 0.03;
/** A browser takes a while until what it was told to jump to is heard: learned from the last times. */
const LEARN = 0.5;
/** What could not be had (a database that was away for a moment) is asked for again. */
const AGAIN_S = 2;

/** What is to be heard of a track now. */
export interface Wanted extends Heard {
  /** Of the track, times. */
  rate: number;
}

/** Plays one track, led after its clock. */
export class TrackPlayer {
  private readonly audio = new Audio();
  private readonly gain: GainNode;
  private lag_s = 0.02;
  private jumped = false;
  private failedAt_s: number | null = null;
  /** Positive is late. */
  off_s = 0;

  constructor(
    private readonly context: AudioContext,
    readonly url: string,
    /** Why it does not sound, in a sentence; null: it does. */
    private readonly onBlocked: (why: string | null) => void,
  ) {
    this.audio.preload = 'auto';
    this.audio.src = url;
    this.gain = context.createGain();
    this.gain.gain.value = 0;
    context.createMediaElementSource(this.audio).connect(this.gain).connect(context.destination);
    this.audio.onerror = () => {
      this.failedAt_s = context.currentTime;
      onBlocked('Its sound cannot be had or played at this screen.');
    };
    this.audio.onplaying = () => {
      this.failedAt_s = null;
      onBlocked(null);
    };
  }

  /** Ahead of the ear: what is played now is heard so much later. */
  private get latency_s(): number {
    return this.context.outputLatency || this.context.baseLatency || 0;
  }

  private begin(at_s: number): void {
    this.audio.currentTime = at_s + this.lag_s;
    this.jumped = true;
    if (!this.audio.paused) return;
    this.audio.play().catch((error: Error) => {
      if (error.name === 'NotAllowedError')
        this.onBlocked('Click anywhere in this window once, so that it may sound.');
    });
  }

  /** Whether it waits for what could not be had. */
  private waits(): boolean {
    const { failedAt_s, audio, context } = this;
    if (failedAt_s === null) return false;
    if (context.currentTime - failedAt_s < AGAIN_S) return true;
    this.failedAt_s = null;
    audio.load();
    return false;
  }

  /** Often: where it should be. Null: silent. */
  step(wanted: Wanted | null): void {
    const { audio, gain, context } = this;
    if (this.waits()) return;
    if (!wanted || wanted.rate <= 0) {
      gain.gain.setTargetAtTime(0, context.currentTime, GLIDE_S / 3);
      if (!audio.paused) audio.pause();
      this.off_s = 0;
      return;
    }
    gain.gain.setTargetAtTime(wanted.gain, context.currentTime, GLIDE_S / 3);
    const at_s = wanted.source_s + this.latency_s * wanted.rate;
    if (audio.paused) return this.begin(at_s);
    if (audio.seeking || audio.readyState < HTMLMediaElement.HAVE_FUTURE_DATA) return;
    const off_s = at_s - audio.currentTime;
    this.off_s = off_s;
    if (this.jumped) {
      // What the jump was off by is put in the next time.
      this.jumped = false;
      this.lag_s = Math.max(0, Math.min(0.5, this.lag_s + off_s * LEARN));
    }
    if (Math.abs(off_s) > JUMP_S) return this.begin(at_s);
    const lead =
      Math.abs(off_s) < NEAR_S ? 0 : Math.max(-MOST_LEAD, Math.min(MOST_LEAD, off_s * LEAD));
    // At its own pace it is not stretched: that would be heard. Slower it keeps its pitch.
    audio.preservesPitch = Math.abs(wanted.rate - 1) > 0.001;
    const next = wanted.rate * (1 + lead);
    if (Math.abs(audio.playbackRate - next) > 0.0005) audio.playbackRate = next;
  }

  close(): void {
    this.audio.onerror = null;
    this.audio.onplaying = null;
    this.audio.pause();
    this.audio.removeAttribute('src');
    this.audio.load();
    this.gain.disconnect();
  }
}
