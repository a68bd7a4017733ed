/** Short tones for those who cannot look: stand by, go. No recording is needed. */
import { create } from 'zustand';
import { keep } from '../parts/keep';

const KEY = 'wingman-call-sound';
/** Whether a call is heard here. */
export const useCallSound = create<{ on: boolean }>(() => ({ on: keep.getItem(KEY) !== 'off' }));
/** Says so. */
export function setCallSound(on: boolean): void {
  keep.setItem(KEY, on ? 'on' : 'off');
  useCallSound.setState({ on });
}

const TONES = { standby: [520, 520], go: [880], withdrawn: [330] } as const;
let context: AudioContext | undefined;

/** A browser lets no page sound before somebody has touched it; then the light alone tells. */
export function sound(what: keyof typeof TONES): void {
  if (!useCallSound.getState().on || typeof AudioContext === 'undefined') return;
  context ??= new AudioContext();
  if (context.state === 'suspended') void context.resume();
  TONES[what].forEach((hz, i) => {
    if (!context) return;
    const [tone, level] = [context.createOscillator(), context.createGain()];
    const at = context.currentTime + i * 0.22;
    tone.frequency.value = hz;
    level.gain.setValueAtTime(0.0001, at);
    level.gain.exponentialRampToValueAtTime(0.25, at + 0.015);
    level.gain.exponentialRampToValueAtTime(0.0001, at + (what === 'go' ? 0.5 : 0.18));
    tone.connect(level).connect(context.destination);
    tone.start(at);
    tone.stop(at + 0.6);
  });
}
