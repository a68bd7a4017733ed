/** Timecode at an input of this screen: what comes is told, and an input that goes is said to and comes back by itself. */
import { ltcSound } from '@/core/timecode/ltc';
import type { Timecode } from '@/core/timecode/rate';
import { live } from '../state/commands';
import { listenTo, useLtcIn } from './timecode-in';

jest.mock('../state/commands', () => ({ live: jest.fn(() => Promise.resolve({ ok: true })) }));
const said = live as unknown as jest.Mock;

interface Track {
  onended: (() => void) | null;
  stopped: boolean;
  stop: () => void;
}
const made: Track[] = [];
let tap: { port: { onmessage: ((e: { data: Float32Array }) => void) | null } } | null = null;
const contexts = { open: 0 };
let fails: string | null = null;
let changed: () => void = () => undefined;

class FakeContext {
  sampleRate = 48_000;
  audioWorklet = {
    addModule: () =>
      fails === 'module' ? Promise.reject(new Error('no module')) : Promise.resolve(),
  };
  constructor() {
    contexts.open++;
  }
  createMediaStreamSource = () => ({ connect: () => undefined });
  resume = () => Promise.resolve();
  close = () => {
    contexts.open--;
    return Promise.resolve();
  };
}
function FakeTap(): object {
  tap = { port: { onmessage: null } };
  return tap;
}
const getUserMedia = jest.fn(() => {
  if (fails === 'gone') return Promise.reject(new Error('not found'));
  if (fails === 'refused')
    return Promise.reject(new DOMException('not allowed', 'NotAllowedError'));
  const track: Track = { onended: null, stopped: false, stop: () => void (track.stopped = true) };
  made.push(track);
  return Promise.resolve({ getTracks: () => [track] });
});
beforeAll(() => {
  const stored = new Map<string, string>();
  Object.assign(globalThis, {
    AudioContext: FakeContext,
    AudioWorkletNode: FakeTap,
    localStorage: {
      getItem: (k: string) => stored.get(k) ?? null,
      setItem: (k: string, v: string) => void stored.set(k, v),
    },
  });
  Object.defineProperty(globalThis, 'navigator', {
    configurable: true,
    value: {
      mediaDevices: {
        getUserMedia,
        addEventListener: (_: string, heard: () => void) => (changed = heard),
      },
    },
  });
});
beforeEach(() => {
  fails = null;
  made.splice(0);
  said.mockClear();
  getUserMedia.mockClear();
});
afterEach(() => listenTo(null));
const settle = (): Promise<void> => new Promise((done) => setImmediate(done));

test('frames of the cable are told to the player', async () => {
  await listenTo('desk');
  const times = Array.from({ length: 20 }, (_, f): Timecode => ({
    h: 1,
    m: 2,
    s: 3,
    f: f + 4,
    rate: '25',
  }));
  const sound = ltcSound(times, 48_000);
  tap?.port.onmessage?.({ data: sound });
  expect(said).toHaveBeenLastCalledWith(
    expect.objectContaining({ command: 'timecode', from: 'ltc', h: 1, m: 2, rate: '25', way: 1 }),
  );
  expect(useLtcIn.getState()).toMatchObject({ problem: null, read_ms: expect.any(Number) });
});

test('an input that goes is said to, closed, and listened to again when something is plugged in', async () => {
  await listenTo('desk');
  const [first] = made;
  first?.onended?.();
  expect(useLtcIn.getState()).toMatchObject({
    input: 'desk',
    problem: expect.stringContaining('has gone'),
    read_ms: null,
  });
  expect([first?.stopped, contexts.open]).toEqual([true, 0]);
  // Something else was plugged in.
  fails = 'gone';
  changed();
  await settle();
  expect(useLtcIn.getState().problem).toContain('cannot be opened');
  fails = null;
  changed();
  await settle();
  expect([useLtcIn.getState().problem, made.length, contexts.open]).toEqual([null, 2, 1]);
  // While it is listened to, what else comes and goes changes nothing.
  changed();
  await settle();
  expect(made).toHaveLength(2);
});

test('an input that is not there yet is taken when it comes; one that nobody wants any more is not', async () => {
  fails = 'gone';
  await listenTo('desk');
  fails = null;
  await listenTo(null);
  changed();
  await settle();
  expect(getUserMedia).toHaveBeenCalledTimes(1);
});

test('what fails half way leaves no microphone on', async () => {
  fails = 'module';
  await listenTo('desk');
  expect([made[0]?.stopped, contexts.open]).toEqual([true, 0]);
  fails = 'refused';
  await listenTo('desk');
  expect(useLtcIn.getState().problem).toContain('does not let this page hear');
});
