/** How this screen runs a show: locked against editing, playing sounds, and which keys are GO. Kept with the browser. */
import { create } from 'zustand';
import type { Report } from '@/core/live/messages';
import { keep } from '../parts/keep';
import { useScreen } from './store';

interface RunState {
  /** In Run, edits are refused until it is opened on purpose. */
  locked: boolean;
  /** This screen plays the sounds of cues. */
  sound: boolean;
  /** `KeyboardEvent.code` of a foot switch or any other key that is GO in Run, besides the space bar. */
  goKey: string | null;
  /** The place that is open. */
  place: string;
  /** The page of faders that keys are for: the first of those in sight. */
  faderPage: number;
  /** The last report of a cue's actions that somebody here has seen. */
  seenReport: Report | null;
}

const SOUND = 'wingman-run-sound';
const GO_KEY = 'wingman-run-go-key';

/** How this screen runs a show. */
export const useRun = create<RunState>(() => ({
  locked: true,
  sound: keep.getItem(SOUND) === 'on',
  goKey: keep.getItem(GO_KEY),
  place: '',
  faderPage: 1,
  seenReport: null,
}));

/** Reports after the last one that was seen: all of them where that one has gone, as old ones do (run.test.ts). */
export function freshReports(reports: readonly Report[], seen: Report | null): readonly Report[] {
  const at = reports.findLastIndex(
    (r) => r.at === seen?.at && r.cue === seen.cue && r.text === seen.text,
  );
  return reports.slice(at + 1);
}

/** Whether sounds of cues are heard here. */
export function setSound(on: boolean): void {
  keep.setItem(SOUND, on ? 'on' : 'off');
  useRun.setState({ sound: on });
}

/** The key that is GO here; null: none. */
export function setGoKey(code: string | null): void {
  keep.setItem(GO_KEY, code ?? '');
  useRun.setState({ goKey: code });
}

/** Why this screen does not edit now, if it does not. */
export const lockedHere = (): string | undefined => {
  const { locked, place } = useRun.getState();
  const { past, screenLocked } = useScreen.getState();
  if (screenLocked) return 'This screen is locked. Give your PIN first; nothing was changed.';
  if (past)
    return 'You are looking at the show as it was. Go back to now first; nothing was changed.';
  return locked && place === 'run'
    ? 'Run is locked against editing. Open the lock at the top first; nothing was changed.'
    : undefined;
};
