/** A track at a screen: led after the clock, silent where it should be, and back by itself where its sound could not be had. */
import { TrackPlayer, type Wanted } from './track-player';

class FakeAudio {
  static made: FakeAudio[] = [];
  src = '';
  preload = '';
  paused = true;
  seeking = false;
  readyState = 4;
  currentTime = 0;
  playbackRate = 1;
  preservesPitch = false;
  loads = 0;
  blocked: string | null = null;
  onerror: (() => void) | null = null;
  onplaying: (() => void) | null = null;
  constructor() {
    FakeAudio.made.push(this);
  }
  play(): Promise<void> {
    if (this.blocked) return Promise.reject(Object.assign(new Error('no'), { name: this.blocked }));
    this.paused = false;
    this.onplaying?.();
    return Promise.resolve();
  }
  pause(): void {
    this.paused = true;
  }
  load(): void {
    this.loads++;
    this.paused = true;
  }
  removeAttribute(): void {
    this.src = '';
  }
}
const state = { currentTime: 0 };
const gain = { value: 0, to: 0 };
const context = {
  get currentTime() {
    return state.currentTime;
  },
  outputLatency: 0.02,
  baseLatency: 0,
  destination: {},
  createGain: () => ({
    gain: { value: 0, setTargetAtTime: (to: number) => void (gain.to = to) },
    connect: (to: unknown) => to,
    disconnect: () => undefined,
  }),
  createMediaElementSource: () => ({ connect: (to: unknown) => to }),
} as unknown as AudioContext;

const said: (string | null)[] = [];
function player() {
  said.splice(0);
  FakeAudio.made = [];
  state.currentTime = 0;
  const it = new TrackPlayer(context, '/sound', (why) => said.push(why));
  const [audio] = FakeAudio.made;
  if (!audio) throw new Error('no audio');
  return { it, audio };
}
const at = (source_s: number, more: Partial<Wanted> = {}): Wanted => ({
  source_s,
  left_s: 60,
  gain: 1,
  rate: 1,
  ...more,
});

const before = [globalThis.Audio, globalThis.HTMLMediaElement];
beforeAll(() => {
  Object.assign(globalThis, { Audio: FakeAudio, HTMLMediaElement: { HAVE_FUTURE_DATA: 3 } });
});
afterAll(() => {
  Object.assign(globalThis, { Audio: before[0], HTMLMediaElement: before[1] });
});

test('it begins where it should be heard, ahead by what the way to the ear takes', () => {
  const { it, audio } = player();
  it.step(at(10));
  expect([audio.paused, gain.to]).toEqual([false, 1]);
  expect(audio.currentTime).toBeCloseTo(10.04, 2);
});

test('off by a little it goes a hair faster or slower, off by much it jumps', () => {
  const { it, audio } = player();
  it.step(at(10));
  audio.currentTime = 10.02;
  it.step(at(10.03));
  expect(audio.playbackRate).toBeGreaterThan(1);
  expect(audio.playbackRate).toBeLessThanOrEqual(1.02);
  audio.currentTime = 10.1;
  it.step(at(10.05));
  expect(audio.playbackRate).toBeLessThan(1);
  it.step(at(30));
  expect(audio.currentTime).toBeGreaterThan(30);
  expect(audio.currentTime).toBeLessThan(30.2);
});

test('where it stands it is silent', () => {
  const { it, audio } = player();
  it.step(at(10));
  it.step(null);
  expect([audio.paused, gain.to]).toEqual([true, 0]);
  it.step(at(10, { rate: 0 }));
  expect(audio.paused).toBe(true);
});

test('what could not be had is said, asked for again, and forgotten when it sounds', () => {
  const { it, audio } = player();
  it.step(at(10));
  said.splice(0);
  audio.onerror?.();
  audio.paused = true;
  expect(said).toEqual([expect.stringContaining('cannot be had')]);
  for (const t of [0.5, 1, 1.9]) {
    state.currentTime = t;
    it.step(at(10 + t));
  }
  expect([audio.loads, audio.paused]).toEqual([0, true]);
  state.currentTime = 2.1;
  it.step(at(12.1));
  expect([audio.loads, audio.paused]).toEqual([1, false]);
  expect(audio.currentTime).toBeCloseTo(12.14, 1);
  expect(said.at(-1)).toBeNull();
});

test('a browser that wants a click says so; one that is closed says nothing any more', async () => {
  const { it, audio } = player();
  audio.blocked = 'NotAllowedError';
  it.step(at(1));
  await Promise.resolve();
  await Promise.resolve();
  expect(said.at(-1)).toContain('Click anywhere');
  it.close();
  expect([audio.onerror, audio.src]).toEqual([null, '']);
});
