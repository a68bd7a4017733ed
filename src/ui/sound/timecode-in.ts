/** Linear timecode at an audio input of this screen: read here, and told to the player, for lists that follow it. */
'use client';
import { create } from 'zustand';
import { freshLtc, readLtc } from '@/core/timecode/ltc';
import { live } from '../state/commands';
import { keep } from '../parts/keep';

const INPUT = 'wingman-ltc-input';
const OFF = 'off';

interface LtcIn {
  /** An input of this screen, by the browser’s id; null: none is listened to. */
  input: string | null;
  /** Why nothing is heard, in a sentence. */
  problem: string | null;
  /** When the last frame was read here; null while none was. */
  read_ms: number | null;
}
/** Linear timecode at an input of this browser. */
export const useLtcIn = create<LtcIn>(() => ({ input: null, problem: null, read_ms: null }));

const GONE = 'This audio input has gone. It is listened to again as soon as it is back.';

interface Listening {
  stop: () => void;
}
let listening: Listening | null = null;

/** As it comes off the cable: what makes speech clearer makes this unreadable. */
const asItIs = (input: string): MediaTrackConstraints => ({
  echoCancellation: false,
  noiseSuppression: false,
  autoGainControl: false,
  ...(input === '' ? {} : { deviceId: { exact: input } }),
});

/** @param gone the input is there no more: its cable was pulled, or its right taken */
async function open(input: string, gone: () => void): Promise<Listening> {
  const stream = await navigator.mediaDevices.getUserMedia({ audio: asItIs(input) });
  const context = new AudioContext();
  const stop = (): void => {
    for (const track of stream.getTracks()) {
      track.onended = null;
      track.stop();
    }
    void context.close();
  };
  try {
    for (const track of stream.getTracks()) track.onended = gone;
    await read(stream, context);
  } catch (error) {
    stop();
    throw error;
  }
  return { stop };
}

async function read(stream: MediaStream, context: AudioContext): Promise<void> {
  await context.audioWorklet.addModule('/worklets/tap.js');
  const tap = new AudioWorkletNode(context, 'tap', { numberOfOutputs: 0 });
  const state = freshLtc();
  tap.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
    const heard = readLtc(state, data, context.sampleRate);
    // Of several in one block the last says where it is.
    const last = heard.at(-1);
    if (!last) return;
    useLtcIn.setState({ read_ms: performance.now(), problem: null });
    void live({ command: 'timecode', ...last.time, way: last.way, stands: false, from: 'ltc' });
  };
  context.createMediaStreamSource(stream).connect(tap);
  await context.resume();
}

/** An input that went, or was not there yet, is listened to as soon as it is there. */
function lookAgain(): void {
  const { input } = useLtcIn.getState();
  if (input !== null && !listening) void listenTo(input);
}
let looks = false;

/** @param input the browser’s id of it, empty: its own choice; null: listens no more */
export async function listenTo(input: string | null): Promise<void> {
  listening?.stop();
  listening = null;
  keep.setItem(INPUT, input ?? OFF);
  useLtcIn.setState({ input, problem: null, read_ms: null });
  if (input === null) return;
  if (!('mediaDevices' in navigator)) {
    useLtcIn.setState({
      problem:
        'This browser lets no page hear at this address: it wants https, or this machine itself.',
    });
    return;
  }
  if (!looks) navigator.mediaDevices.addEventListener('devicechange', lookAgain);
  looks = true;
  try {
    const opened: Listening = await open(input, () => {
      if (listening !== opened) return;
      opened.stop();
      listening = null;
      useLtcIn.setState({ problem: GONE, read_ms: null });
    });
    if (useLtcIn.getState().input === input) listening = opened;
    else opened.stop();
  } catch (error) {
    const isRefused = error instanceof DOMException && error.name === 'NotAllowedError';
    useLtcIn.setState({
      problem: isRefused
        ? 'The browser does not let this page hear. Its settings decide.'
        : 'This audio input cannot be opened.',
    });
  }
}

/** What was listened to before goes on, after the page was loaded again. */
export function listenAgain(): void {
  const input = keep.getItem(INPUT);
  if (input !== null && input !== OFF && !listening) void listenTo(input);
}

/** Inputs of this browser, once the person has allowed them. */
export async function inputDevices(): Promise<{ id: string; name: string }[]> {
  const all = await navigator.mediaDevices?.enumerateDevices().catch(() => []);
  return (all ?? [])
    .filter((d) => d.kind === 'audioinput' && d.deviceId !== '')
    .map((d, i) => ({ id: d.deviceId, name: d.label || `Input ${i + 1}` }));
}
