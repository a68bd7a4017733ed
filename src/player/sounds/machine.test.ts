/** What the process for sound is told of a show, and what it is not. */
import { apply, cue, exampleShow } from '../../core/testing/example.ts';
import { changeOf } from '../../core/show/fields-of.ts';
import type { LiveShow } from '../live-show.ts';
import { LIGHT_AFTER_MS } from '../../core/sounds/track-sound.ts';
import { monotonic, type FromSound, type ToSound, type TrackNow } from './messages.ts';
import { makeSoundMachine } from './machine.ts';

const FILE = {
  sha256: 'b'.repeat(64),
  bytes: 9,
  kind: 'mp3' as const,
  length_s: 90,
  rate_hz: 44_100,
  channels: 2,
};

interface Place {
  position_s: number;
  runs: boolean;
  rate: number;
}

function stage() {
  const show = exampleShow();
  const first = cue(show, 1, { 1: 50 });
  apply(show, 'place-cues', { list: 'main', at: { [first]: 2 } });
  show.apply([changeOf('sounds', null, { id: 'waltz', name: 'Waltz', file: FILE })]);
  const list = show.lists.get('main');
  apply(show, 'change-list', {
    id: 'main',
    set: {
      time: { ...list?.time, on: true, tempo: [], marks: [], sound: { sound: 'waltz', at_s: 0 } },
    },
  });
  let at: () => Place | null = () => null;
  const live = { show, lists: { onTrack: () => at() } } as unknown as LiveShow;
  const sent: ToSound[] = [];
  let ends = (): void => undefined;
  let hears = (_: FromSound): void => undefined;
  const times: unknown[] = [];
  let starts = 0;
  const told: unknown[] = [];
  const machine = makeSoundMachine(
    (heard: (m: FromSound) => void, ended) => {
      starts++;
      hears = heard;
      ends = ended;
      return { send: (m) => void sent.push(m), stop: () => undefined };
    },
    (s) => told.push(s),
    (t) => times.push(t),
  );
  const heardAtPlayer = (device?: string): void =>
    void apply(show, 'change-show', {
      set: { soundOut: { at: 'player', ...(device ? { device } : {}) } },
    });
  return {
    show,
    live,
    machine,
    sent,
    told,
    hears: (m: FromSound) => hears(m),
    times,
    starts: () => starts,
    ends: () => ends(),
    stands: (to: Place | null) => (at = () => to),
    goes: (place: () => Place) => (at = place),
    heardAtPlayer,
    tracks: (): TrackNow[] => sent.flatMap((m) => (m.do === 'tracks' ? m.tracks : [])),
  };
}

test('nothing is started while screens sound; then device, files and tracks are told, each once', () => {
  const s = stage();
  s.machine.tick(s.live);
  expect(s.starts()).toBe(0);
  s.heardAtPlayer('Desk');
  s.machine.tick(s.live);
  s.machine.tick(s.live);
  expect(s.sent).toEqual([
    { do: 'device', name: 'Desk' },
    { do: 'ready', files: [FILE] },
  ]);
});

test('a track is told when it goes, jumps, stands and changes its rate; while it just goes on, it is not', () => {
  const s = stage();
  s.heardAtPlayer();
  const start = performance.now();
  const goes = (from: number, rate = 1): void =>
    void s.goes(() => ({
      position_s: from + ((performance.now() - start) / 1000) * rate,
      runs: true,
      rate,
    }));
  goes(5);
  s.machine.tick(s.live);
  expect(s.tracks()).toMatchObject([{ key: 'main', rate: 1, end_s: 90, file: FILE }]);
  goes(5);
  s.machine.tick(s.live);
  expect(s.tracks()).toHaveLength(1);
  goes(30);
  s.machine.tick(s.live);
  expect(s.tracks()).toHaveLength(2);
  s.stands({ position_s: 31, runs: false, rate: 1 });
  s.machine.tick(s.live);
  expect(s.tracks().at(-1)).toMatchObject({ rate: 0, position_s: 31 });
  s.stands(null);
  s.machine.tick(s.live);
  expect(s.sent.at(-1)).toEqual({ do: 'tracks', tracks: [] });
});

test('a place that took long to be found is found again, so that it goes with its moment', () => {
  const s = stage();
  s.heardAtPlayer();
  const start = monotonic();
  let asked = 0;
  s.goes(() => {
    const position_s = (monotonic() - start) / 1000;
    // The machine stands still in between, twice.
    const until = monotonic() + (asked++ < 2 ? 25 : 0);
    while (monotonic() < until);
    return { position_s, runs: true, rate: 1 };
  });
  s.machine.tick(s.live);
  const [track] = s.tracks();
  const off = (track?.at_ms ?? 0) - LIGHT_AFTER_MS - start - (track?.position_s ?? 0) * 1000;
  expect(Math.abs(off)).toBeLessThan(3);
});

test('off air and back at screens it is told to be silent; a process that ended is started again, later, and said', () => {
  const s = stage();
  s.heardAtPlayer();
  s.stands({ position_s: 5, runs: true, rate: 1 });
  s.machine.tick(s.live);
  s.machine.tick(undefined);
  expect(s.sent.at(-1)).toEqual({ do: 'tracks', tracks: [] });
  s.ends();
  expect(s.told.at(-1)).toMatchObject({ problem: expect.stringContaining('started again') });
  s.machine.tick(s.live);
  expect(s.starts()).toBe(1);
});

test('what a cue starts is heard here only where the show says so', () => {
  const s = stage();
  expect(s.machine.play(s.show, 'waltz')).toBe(false);
  s.heardAtPlayer();
  s.machine.tick(s.live);
  expect(s.machine.play(s.show, 'waltz')).toBe(true);
  expect(s.sent.at(-1)).toMatchObject({ do: 'once', file: FILE });
  expect(s.machine.play(s.show, 'nothing')).toBe(false);
});

test('a list that gives timecode as sound does so by an output of its own, whether music is heard here or not', () => {
  const s = stage();
  const time = s.show.lists.get('main')?.time;
  const gives = { to: ['ltc'], rate: '25', offset_s: 3600 };
  apply(s.show, 'change-list', { id: 'main', set: { time: { ...time, gives } } });
  apply(s.show, 'change-show', { set: { soundOut: { at: 'screens', code: 'Line 2' } } });
  s.stands({ position_s: 5, runs: true, rate: 1 });
  s.machine.tick(s.live);
  expect(s.sent).toMatchObject([
    { do: 'code-device', name: 'Line 2' },
    { do: 'codes', codes: [{ key: 'main', frames: '25', offset_s: 3600, rate: 1 }] },
  ]);
  s.stands({ position_s: 6, runs: false, rate: 1 });
  s.machine.tick(s.live);
  expect(s.sent.at(-1)).toMatchObject({ do: 'codes', codes: [{ rate: 0 }] });
  s.machine.tick(undefined);
  expect(s.sent.at(-1)).toEqual({ do: 'codes', codes: [] });
});

test('a list that follows linear timecode wants to know which inputs there are, before one is chosen', () => {
  const s = stage();
  const list = s.show.lists.get('main');
  const timecode = { from: 'ltc' as const, offset_s: 0, runOn_s: 2 };
  apply(s.show, 'change-list', { id: 'main', set: { time: { ...list?.time, timecode } } });
  s.machine.tick(s.live);
  expect([s.starts(), s.sent]).toEqual([1, []]);
  // Off air there is nothing to know.
  const other = stage();
  other.machine.tick(undefined);
  expect(other.starts()).toBe(0);
});

test('timecode is heard at the input that was chosen while a list wants it so, and handed on', () => {
  const s = stage();
  const follow = (from: 'ltc' | 'midi'): void => {
    const list = s.show.lists.get('main');
    const timecode = { from, offset_s: 0, runOn_s: 2 };
    apply(s.show, 'change-list', { id: 'main', set: { time: { ...list?.time, timecode } } });
  };
  apply(s.show, 'change-show', { set: { soundOut: { at: 'screens', codeIn: 'Line' } } });
  follow('midi');
  s.machine.tick(s.live);
  expect(s.starts()).toBe(0);
  follow('ltc');
  s.machine.tick(s.live);
  s.machine.tick(s.live);
  expect(s.sent.filter((m) => m.do === 'code-input')).toEqual([{ do: 'code-input', name: 'Line' }]);
  const time = { h: 1, m: 0, s: 0, f: 5, rate: '25' as const };
  s.hears({ is: 'time', time, way: 1 });
  expect(s.times).toEqual([{ is: 'time', time, way: 1 }]);
  expect(s.told).toEqual([]);
  follow('midi');
  s.machine.tick(s.live);
  expect(s.sent.at(-1)).toEqual({ do: 'code-input', name: null });
});
