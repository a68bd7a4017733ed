/** Cues along the time of their list: laying them, the beat that moves, what a moment shows, and the lines that say so. */
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';
import fc from 'fast-check';
import { readCommand } from '../command/command.ts';
import type { CommandContext } from '../command/reader.ts';
import type { MutableShow } from '../show/show.ts';
import { NO_PROGRAMS } from '../playback/programs';
import { compileSlots, slotIndex } from '../playback/slots.ts';
import { bookFindings } from '../cues/findings.ts';
import { slotKey } from '../cues/rows.ts';
import { formatMoment } from './moment.ts';
import { levelAt, playedTo, type Rig } from './played-to.ts';
import { NO_TIME } from './rows.ts';
import { behindEnd, endOf, numberAtMoment, timedCues } from './timed.ts';

const MAIN = 'main';
const WALTZ = [{ at_s: 2, bpm: 90, beats: 3 }];

function number(): { show: MutableShow; ids: string[] } {
  const show = exampleShow();
  const ids = [1, 2, 3].map((n) => cue(show, n, { 1: n * 20 }, { up_s: 2, down_s: 2 }));
  return { show, ids };
}
const place = (show: MutableShow, at: Record<string, number | null>, keeps?: string) =>
  apply(show, 'place-cues', { list: MAIN, at, ...(keeps ? { keeps } : {}) });

test('moments are written as people read them', () => {
  expect([0, 72.5, 3725, 59.999].map(formatMoment)).toEqual([
    '0:00.00',
    '1:12.50',
    '1:02:05.00',
    '1:00.00',
  ]);
});

test('cues are laid on the track and taken off it; what tracks does not change', () => {
  const { show, ids } = number();
  const [a = '', b = '', c = ''] = ids;
  expect(place(show, { [a]: 4, [b]: 1.2345 }).summary).toBe('Moved 2 cues along the track');
  expect(timedCues(show, MAIN).map((x) => [x.number, x.at_s])).toEqual([
    [2000, 1.235],
    [1000, 4],
  ]);
  expect(place(show, { [c]: 72.5 }).summary).toBe('LX 3 comes at 1:12.50');
  expect(endOf(show, MAIN)).toBe(74.5);
  expect(place(show, { [b]: null }).summary).toBe('Took LX 2 off the track');
  expect(show.cues.get(b)).not.toHaveProperty('at_s');
});

test('behind the end of the track it is said that it never comes, when it is put there and before the show', () => {
  const { show, ids } = number();
  const [a = '', b = '', c = ''] = ids;
  const list = show.lists.get(MAIN);
  place(show, { [a]: 0, [b]: 2 });
  const end = (end_s?: number) =>
    apply(show, 'change-list', {
      id: MAIN,
      set: {
        time: { ...NO_TIME, ...list?.time, on: true, ...(end_s === undefined ? {} : { end_s }) },
      },
    });
  end(192);
  expect(place(show, { [c]: 192 }).summary).toBe('LX 3 comes at 3:12.00');
  expect(place(show, { [c]: 1200 }).summary).toBe(
    'LX 3 stands at 20:00.00, behind the end of the track at 3:12.00: it never comes',
  );
  expect(behindEnd(show, MAIN).map((x) => x.number)).toEqual([3000]);
  const findings = (): string[] =>
    bookFindings(show, MAIN).flatMap((f) => (f.key.startsWith('behind/') ? [f.text] : []));
  expect(findings()).toEqual([
    expect.stringMatching(
      /^Cue 3.* stands at 20:00\.00, behind the end of its track: it never comes\.$/,
    ),
  ]);
  expect(place(show, { [b]: 300, [c]: 4, [a]: 400 }).summary).toBe(
    'Moved 3 cues along the track; 2 of them behind its end at 3:12.00',
  );
  end();
  expect([behindEnd(show, MAIN), findings()]).toEqual([[], []]);
});

test('a track that is over as it begins is told not to begin again', () => {
  const { show, ids } = number();
  place(show, { [ids[0] ?? '']: 0 });
  const texts = (time: object): string[] => {
    const list = show.lists.get(MAIN);
    apply(show, 'change-list', { id: MAIN, set: { time: { ...NO_TIME, ...list?.time, ...time } } });
    return bookFindings(show, MAIN).flatMap((f) => (f.key.startsWith('short') ? [f.text] : []));
  };
  expect(texts({ on: true, end_s: 0.2, atEnd: 'loop' })).toEqual([
    'The track of “Main list” ends after 0.2 s: too soon to begin again, so it stands there.',
  ]);
  expect(texts({ end_s: 0.5 })).toEqual([]);
  expect(texts({ end_s: 0.2, atEnd: 'stop' })).toEqual([]);
});

test('a new cue at a moment is numbered between those around it; where none fits, behind all', () => {
  const { show, ids } = number();
  const [a = '', b = '', c = ''] = ids;
  expect(numberAtMoment(show, MAIN, 5)).toBe(500);
  // In time the list’s order is another: 2, 1, 3.
  place(show, { [a]: 8, [b]: 4, [c]: 12 });
  const at = (at_s: number) => numberAtMoment(show, MAIN, at_s);
  expect([at(1), at(4), at(6), at(9), at(20)]).toEqual([500, 2500, 2500, 1500, 4000]);
  apply(show, 'make-cues', { listId: MAIN, cues: [{ number: at(9), at_s: 9.00049 }] });
  expect(timedCues(show, MAIN).map((x) => [x.number, x.at_s])).toEqual([
    [2000, 4],
    [1000, 8],
    [1500, 9],
    [3000, 12],
  ]);
  apply(show, 'make-cues', { listId: MAIN, cues: [{ number: 1001 }] });
  expect(at(8)).toBe(4000);
});

test('before zero, after the longest track, another list’s cue, and no change are refused in a sentence', () => {
  const { show, ids } = number();
  const [a = ''] = ids;
  const no = (at: object, list = MAIN) => refused(show, 'place-cues', { list, at });
  expect(no({ [a]: -1 }).message).toContain('not before the beginning');
  expect(no({ [a]: 20_000 }).message).toContain('at most 3 hours');
  apply(show, 'make-list', { name: 'Other' });
  const other = [...show.lists.values()].find((l) => l.name === 'Other')?.id ?? '';
  expect(no({ [a]: 1 }, other).message).toContain('another list');
  expect(no({ [a]: 1 }, 'nowhere').code).toBe('not-found');
  expect(no({ nobody: 1 }).code).toBe('not-found');
  expect(no({}).code).toBe('invalid');
  place(show, { [a]: 1 });
  expect(no({ [a]: 1 }).code).toBe('nothing');
});

test('a new tempo takes the cues on the beat with it, leaves those on the clock, and says both; undone in one', () => {
  const { show, ids } = number();
  const [a = '', b = ''] = ids;
  apply(show, 'set-tempo', { list: MAIN, tempo: WALTZ });
  // Bar 3, and bar 3 again, but by the clock.
  place(show, { [a]: 6 }, 'beat');
  place(show, { [b]: 6 }, 'clock');
  const { summary, changes } = apply(show, 'set-tempo', {
    list: MAIN,
    tempo: [{ at_s: 2, bpm: 60, beats: 3 }],
  });
  expect(summary).toBe('Set the beat of “Main list”: 1 cue on the beat moved, 1 stayed');
  expect([show.cues.get(a)?.at_s, show.cues.get(b)?.at_s]).toEqual([8, 6]);
  expect(changes).toHaveLength(2);
  expect(refused(show, 'set-tempo', { list: MAIN, tempo: [WALTZ[0], WALTZ[0]] }).message).toContain(
    'one moment',
  );
  expect(
    refused(show, 'set-tempo', { list: MAIN, tempo: [{ at_s: 0, bpm: 0, beats: 4 }] }).message,
  ).toContain('at least 10 beats');
});

test('cues on the beat keep their order whatever the beat becomes, also where bars get shorter', () => {
  const tempo = fc.record({
    at_s: fc.integer({ min: 0, max: 50 }).map((n) => n / 10),
    bpm: fc.integer({ min: 40, max: 220 }),
    beats: fc.integer({ min: 2, max: 9 }),
  });
  fc.assert(
    fc.property(
      tempo,
      tempo,
      fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 3, maxLength: 3 }),
      (was, becomes, moments) => {
        const { show, ids } = number();
        apply(show, 'set-tempo', { list: MAIN, tempo: [was] });
        const sorted = [...moments].sort((a, b) => a - b);
        // Never before the beginning: what would be stays.
        ids.forEach((id, i) =>
          place(show, { [id]: was.at_s + 40 + (sorted[i] ?? 0) / 10 }, 'beat'),
        );
        const before = timedCues(show, MAIN).map((c) => c.id);
        apply(show, 'set-tempo', { list: MAIN, tempo: [becomes] });
        const at = before.map((id) => show.cues.get(id)?.at_s ?? -1);
        expect(at).toEqual([...at].sort((a, b) => a - b));
      },
    ),
    { numRuns: 60 },
  );
  const { show, ids } = number();
  const [a = '', b = ''] = ids;
  const of = (beats: number) => [{ at_s: 0, bpm: 60, beats }];
  apply(show, 'set-tempo', { list: MAIN, tempo: of(4) });
  // Bar 2, beat 4, and the beginning of bar 3.
  place(show, { [a]: 7, [b]: 8 }, 'beat');
  apply(show, 'set-tempo', { list: MAIN, tempo: of(3) });
  expect([show.cues.get(a)?.at_s, show.cues.get(b)?.at_s]).toEqual([6, 6]);
});

test('a moment shows every fade where it is, by the arithmetic of the clock', () => {
  const { show, ids } = number();
  const [a = '', b = '', c = ''] = ids;
  place(show, { [a]: 0, [b]: 1, [c]: 10 });
  const slots = compileSlots(show);
  const rig: Rig = {
    index: slotIndex(slots),
    family: slots.family,
    resting: slots.defaults,
    snap: slots.snap,
    find: () => -1,
    programs: NO_PROGRAMS,
  };
  const slot = rig.index.get(slotKey(idOf(show, 1), 'Dimmer')) ?? -1;
  const at = (t: number): number => {
    const way = playedTo(show, rig, MAIN, t).ways.get(slot);
    return way ? levelAt(way, t) : NaN;
  };
  // 0 to 20 % in two seconds; at one second, from 10 %, to 40 % in two.
  expect([at(0.5), at(1), at(2), at(3), at(9), at(11)].map((l) => Math.round(l * 1000))).toEqual([
    50, 100, 250, 400, 400, 500,
  ]);
  expect(playedTo(show, rig, MAIN, 0.5).cue?.id).toBe(a);
});

describe('lines', () => {
  const read = (show: MutableShow, text: string) =>
    readCommand(text, {
      show,
      selection: [],
      listId: MAIN,
      cueOn: () => null,
    } as unknown as CommandContext);

  test('a cue at a moment, a bar or a mark, and what Enter will do', () => {
    const { show, ids } = number();
    apply(show, 'set-tempo', { list: MAIN, tempo: WALTZ });
    place(show, { [ids[2] ?? '']: 200 });
    expect(read(show, 'cue 1 at 1:12.5')).toMatchObject({
      ok: true,
      says: expect.stringContaining('LX 1 moves to 1:12.50, bar 36'),
      intent: { edit: 'place-cues', params: { list: MAIN, at: { [ids[0] ?? '']: 72.5 } } },
    });
    expect(read(show, 'cue 1 at bar 33')).toMatchObject({
      says: expect.stringContaining('follows the beat · 1 later cue keeps its place'),
      intent: { params: { at: { [ids[0] ?? '']: 66 }, keeps: 'beat' } },
    });
    expect(read(show, 'cue 1 at none')).toMatchObject({ ok: true });
    expect(read(show, 'track play 0:30')).toMatchObject({
      intent: { command: { command: 'track', do: 'play', at_s: 30, list: MAIN } },
    });
    for (const wrong of [
      'cue 1 at',
      'cue 1 at bar 2.9',
      'cue 1 at mark Nowhere',
      'track',
      'track at 9:00:00',
      'track jump',
    ])
      expect([wrong, read(show, wrong).ok]).toEqual([wrong, false]);
  });
});
