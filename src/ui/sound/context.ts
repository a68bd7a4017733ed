/** The sound output of this screen: one for all that sounds here, and which device it is. Kept with the browser. */
import { create } from 'zustand';
import { keep } from '../parts/keep';
import { notice } from '../state/messages';

const DEVICE = 'wingman-sound-device';
const MISSING =
  'The sound output that was chosen for this screen is not there: it sounds at the browser’s own.';
let context: AudioContext | null = null;

interface WithSink extends AudioContext {
  setSinkId?: (id: string) => Promise<void>;
}

interface Output {
  /** The browser's id of what was chosen; empty: its own choice. */
  device: string;
  /** Why it sounds elsewhere, in a sentence. */
  problem: string | null;
}
/** The output of this browser’s sound. */
export const useOutput = create<Output>(() => ({
  device: keep.getItem(DEVICE) ?? '',
  problem: null,
}));

function found(problem: string | null): void {
  if (useOutput.getState().problem === problem) return;
  useOutput.setState({ problem });
  if (problem !== null) notice.warning(problem, { id: 'sound-output' });
}

/** Sounds by the device that was chosen; where that is not there by the browser's own, and that is said. */
async function sendToChosen(): Promise<void> {
  const at: WithSink | null = context;
  const { device } = useOutput.getState();
  if (!at?.setSinkId) return;
  const isThere = await at.setSinkId(device).then(
    () => true,
    () => false,
  );
  if (useOutput.getState().device !== device) return;
  found(isThere ? null : MISSING);
  if (!isThere) await at.setSinkId('').catch(() => undefined);
}

/** A device has come or gone. */
async function lookAgain(): Promise<void> {
  const { device } = useOutput.getState();
  if (device === '' || !context) return;
  const there = await outputDevices();
  // A browser that names none to this page is asked by trying.
  if (there.length === 0 || there.some((d) => d.id === device)) return sendToChosen();
  found(MISSING);
  await (context as WithSink).setSinkId?.('').catch(() => undefined);
}

/** Made when the first thing sounds: before a person has touched the page none may run. */
export function soundContext(): AudioContext {
  if (!context) {
    context = new AudioContext({ latencyHint: 'interactive' });
    navigator.mediaDevices?.addEventListener('devicechange', () => void lookAgain());
    if (useOutput.getState().device !== '') void sendToChosen();
  }
  if (context.state === 'suspended') void context.resume().catch(() => undefined);
  return context;
}

/** Chooses it, also for the next time. */
export async function chooseDevice(device: string): Promise<void> {
  keep.setItem(DEVICE, device);
  useOutput.setState({ device, problem: null });
  soundContext();
  await sendToChosen();
}

/** Outputs of this screen; a browser names them only to pages that may hear. */
export async function outputDevices(): Promise<{ id: string; name: string }[]> {
  const all = await navigator.mediaDevices?.enumerateDevices().catch(() => []);
  return (all ?? [])
    .filter((d) => d.kind === 'audiooutput' && d.deviceId !== 'default' && d.deviceId !== '')
    .map((d, i) => ({ id: d.deviceId, name: d.label || `Output ${i + 1}` }));
}
