/** What a list goes by is one choice, which keeps its cues and what the other ways had been set to. */
import { apply, cue, exampleShow } from '../testing/example.ts';
import { followedBy, GOES, goesBy, goingBy } from './going.ts';

test('each way is chosen alone, and every other keeps how it was set', () => {
  const show = exampleShow();
  const ids = [1, 2, 3].map((n) => cue(show, n, { 1: n * 20 }));
  apply(show, 'place-cues', { list: 'main', at: { [ids[1] ?? '']: 12 }, keeps: 'beat' });
  const list = () => {
    const found = show.lists.get('main');
    if (!found) throw new Error('no list');
    return found;
  };
  const time = { on: true, tempo: [{ at_s: 1, bpm: 90, beats: 3 }], marks: [], end_s: 40 };
  const chase = { on: false, speed: { step_s: 0.4 }, share: 0.2, direction: 'bounce', count: 3 };
  apply(show, 'change-list', { id: 'main', set: { time, chase } });
  expect(goesBy(list())).toBe('time');
  for (const goes of [...GOES, ...GOES].reverse()) {
    apply(show, 'change-list', { id: 'main', set: goingBy(list(), goes) });
    expect(goesBy(list())).toBe(goes);
    expect([list().time?.on, list().chase?.on].filter(Boolean)).toHaveLength(
      goes === 'hand' ? 0 : 1,
    );
    expect(list().time).toMatchObject({ tempo: time.tempo, end_s: 40 });
    expect(list().chase).toMatchObject({ speed: { step_s: 0.4 }, direction: 'bounce', count: 3 });
    expect(show.cuesOf('main').map((c) => c.at_s)).toEqual([undefined, 12, undefined]);
  }
});

test('a list that never had a way of its own goes by hand, and gets a plain one where it is chosen', () => {
  expect(goesBy({})).toBe('hand');
  expect(goingBy({}, 'hand')).toEqual({});
  expect(goingBy({}, 'chase')).toMatchObject({ chase: { on: true, speed: { bpm: 60 } } });
  expect(goingBy({}, 'time')).toEqual({ time: { on: true, tempo: [], marks: [] } });
});

test('timecode leads a list that goes by its times, and no other; which it was is kept', () => {
  const timecode = { from: 'midi' as const, offset_s: 3600 };
  const led = { time: { on: true, tempo: [], marks: [], timecode } };
  expect(followedBy(led)).toEqual(timecode);
  for (const goes of ['hand', 'chase'] as const) {
    const other = { ...led, ...goingBy(led, goes) };
    expect([goesBy(other), followedBy(other)]).toEqual([goes, undefined]);
    expect(followedBy({ ...other, ...goingBy(other, 'time') })).toEqual(timecode);
  }
  expect(followedBy({})).toBeUndefined();
});
