/** The sound output of this screen: one for all that sounds here, and which device it is. Kept with the browser. */
import { keep } from '../parts/keep';

const DEVICE = 'wingman-sound-device';
let context: AudioContext | null = null;

interface WithSink extends AudioContext {
  setSinkId?: (id: string) => Promise<void>;
}

/** Made when the first thing sounds: before a person has touched the page none may run. */
export function soundContext(): AudioContext {
  if (!context) {
    context = new AudioContext({ latencyHint: 'interactive' });
    const device = keep.getItem(DEVICE);
    if (device) void (context as WithSink).setSinkId?.(device).catch(() => undefined);
  }
  if (context.state === 'suspended') void context.resume().catch(() => undefined);
  return context;
}

export const chosenDevice = (): string => keep.getItem(DEVICE) ?? '';

export async function chooseDevice(id: string): Promise<void> {
  keep.setItem(DEVICE, id);
  await (soundContext() as WithSink).setSinkId?.(id);
}

/** Outputs of this screen; a browser names them only to pages that may hear. */
export async function outputDevices(): Promise<{ id: string; name: string }[]> {
  const all = await navigator.mediaDevices?.enumerateDevices().catch(() => []);
  return (all ?? [])
    .filter((d) => d.kind === 'audiooutput' && d.deviceId !== 'default' && d.deviceId !== '')
    .map((d, i) => ({ id: d.deviceId, name: d.label || `Output ${i + 1}` }));
}
