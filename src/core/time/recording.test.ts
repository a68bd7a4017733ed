/** A list laid along a new recording: what keeps to the beat moves with the music, what keeps to the clock stays, in one edit. */
import fc from 'fast-check';
import { evenly } from '../testing/evenly.ts';
import { changeOf } from '../show/fields-of.ts';
import type { MutableShow } from '../show/show.ts';
import { apply, cue, exampleShow, refused } from '../testing/example.ts';
import type { Pair } from '../sounds/align.ts';
import { laidOn } from './recording.ts';
import { barBeatAt, secondsAt } from './tempo.ts';
import { endOf, hasTrack } from './timed.ts';

const MAIN = 'main';
const FILE = { bytes: 10, kind: 'wav' as const, rate_hz: 8000, channels: 1 };
const TEMPO = [{ at_s: 2, bpm: 120, beats: 4 }];

function number(): { show: MutableShow; ids: string[] } {
  const show = exampleShow();
  show.apply([
    changeOf('sounds', null, {
      id: 'old',
      name: 'Take 3',
      file: { ...FILE, sha256: 'a'.repeat(64), length_s: 90 },
    }),
    changeOf('sounds', null, {
      id: 'new',
      name: 'Take 4',
      file: { ...FILE, sha256: 'b'.repeat(64), length_s: 100 },
    }),
  ]);
  const time = {
    on: true,
    tempo: TEMPO,
    marks: [{ at_s: 42, name: 'Verse' }],
    sound: { sound: 'old', at_s: 0 },
  };
  apply(show, 'change-list', { id: MAIN, set: { time } });
  const ids = [1, 2, 3, 4].map((n) => cue(show, n, { 1: n * 20 }, { up_s: 2, down_s: 2 }));
  const [a = '', b = '', c = '', d = ''] = ids;
  apply(show, 'place-cues', { list: MAIN, at: { [a]: 10, [b]: 42, [c]: 62 }, keeps: 'beat' });
  apply(show, 'place-cues', { list: MAIN, at: { [d]: 70 }, keeps: 'clock' });
  return { show, ids };
}
/** A second later, and from the bar at 42 s on a tenth slower. */
const PAIRS: Pair[] = [
  [0, 1],
  [42, 43],
  [90, 43 + 48 * 1.1],
];
const lay = (show: MutableShow, pairs = PAIRS, sound: object = { sound: 'new' }) =>
  apply(show, 'lay-recording', { list: MAIN, sound, pairs });

test('beat, marks and cues on the beat go with the music; those on the clock stay; bars keep their numbers', () => {
  const { show, ids } = number();
  const before = ids.slice(0, 3).map((id) => barBeatAt(TEMPO, show.cues.get(id)?.at_s ?? 0));
  expect(lay(show).summary).toBe('Laid “Main list” along “Take 4”: 3 cues moved, 1 stayed');
  const at = ids.map((id) => show.cues.get(id)?.at_s);
  expect(at).toEqual([11, 43, 65, 70]);
  const time = show.lists.get(MAIN)?.time;
  expect(time?.sound).toEqual({ sound: 'new', at_s: 0 });
  expect(time?.tempo).toEqual([
    { at_s: 3, bpm: 120, beats: 4 },
    { at_s: 43, bpm: 109.091, beats: 4 },
  ]);
  expect(time?.marks).toEqual([{ at_s: 43, name: 'Verse' }]);
  ids.slice(0, 3).forEach((id, i) => {
    const now = barBeatAt(time?.tempo ?? [], show.cues.get(id)?.at_s ?? 0);
    expect([now?.bar, now?.beat]).toEqual([before[i]?.bar, before[i]?.beat]);
  });
});

test('without a beat cues go through the comparison alone', () => {
  const { show, ids } = number();
  apply(show, 'set-tempo', { list: MAIN, tempo: [] });
  lay(show);
  expect(ids.map((id) => show.cues.get(id)?.at_s)).toEqual([11, 43, 65, 70]);
});

test('a recording that is the same moves nothing, and a bar is never lost, whatever the way', () => {
  const { show } = number();
  const same = laidOn(show, MAIN, [
    [0, 0],
    [90, 90],
  ]);
  expect(same.cues.every(({ cue: c, to_s }) => c.at_s === to_s)).toBe(true);
  expect(same.time.tempo).toEqual(TEMPO);
  fc.assert(
    fc.property(
      fc.array(fc.tuple(evenly(0.5, 20), evenly(0.7, 1.4)), { minLength: 1, maxLength: 8 }),
      (parts) => {
        const pairs: [number, number][] = [[0, 0.5]];
        for (const [span, stretch] of parts) {
          const [x, y] = pairs.at(-1) ?? [0, 0];
          pairs.push([x + span, y + span * stretch]);
        }
        const { time } = laidOn(show, MAIN, pairs);
        const last = pairs.at(-1)?.[0] ?? 0;
        for (let bar = 1; bar <= 20; bar++) {
          const old = secondsAt(TEMPO, { bar, beat: 1, part: 0 }) ?? 0;
          const now = secondsAt(time.tempo, { bar, beat: 1, part: 0 });
          if (now === undefined || old > last) continue;
          const back = barBeatAt(time.tempo, now + 0.01);
          if (back?.bar !== bar) return false;
        }
        return true;
      },
    ),
    { numRuns: 60 },
  );
});

test('what is no way from one to the other is refused in a sentence, and changes nothing', () => {
  const { show } = number();
  const no = (pairs: unknown, sound: object = { sound: 'new' }, list = MAIN) =>
    refused(show, 'lay-recording', { list, sound, pairs });
  expect(no([]).message).toContain('at least one moment');
  expect(
    no([
      [5, 5],
      [5, 6],
    ]).message,
  ).toContain('one after another');
  expect(
    no([
      [5, 5],
      [6, 4],
    ]).message,
  ).toContain('one after another');
  expect(no(PAIRS, { sound: 'nowhere' }).code).toBe('not-found');
  expect(no(PAIRS, { sound: 'new', from_s: 5, to_s: 2 }).code).toBe('invalid');
  expect(no(PAIRS, { sound: 'new' }, 'nowhere').code).toBe('not-found');
});

test('a track goes to the end of its sound, and a sound alone is a track to tap cues onto', () => {
  const { show, ids } = number();
  expect(endOf(show, MAIN)).toBe(90);
  apply(show, 'place-cues', { list: MAIN, at: Object.fromEntries(ids.map((id) => [id, null])) });
  expect(hasTrack(show, MAIN)).toBe(true);
  const time = show.lists.get(MAIN)?.time;
  apply(show, 'change-list', {
    id: MAIN,
    set: { time: { ...time, sound: { sound: 'old', at_s: 5, from_s: 30, to_s: 60 } } },
  });
  expect(endOf(show, MAIN)).toBe(35);
});

test('a sound that a list lies along is not deleted, and a list lies along no sound that is not there', () => {
  const { show } = number();
  expect(refused(show, 'delete-sound', { id: 'old' }).message).toContain(
    '“Main list” lies along this sound',
  );
  expect(apply(show, 'delete-sound', { id: 'new' }).summary).toContain(
    'Deleted the sound “Take 4”',
  );
  const time = show.lists.get(MAIN)?.time;
  expect(
    refused(show, 'change-list', {
      id: MAIN,
      set: { time: { ...time, sound: { sound: 'new', at_s: 0 } } },
    }).code,
  ).toBeDefined();
});
