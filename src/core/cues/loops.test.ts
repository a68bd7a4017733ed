/** Where cues lead that go by themselves, as a table. */
import type { CueRow } from './rows.ts';
import { cueFollowing, cueTotal, goesOnAfter, rounds } from './loops.ts';

const plain = (n: number, more: Partial<CueRow> = {}): CueRow => ({
  id: `c${n}`,
  listId: 'main',
  number: n * 1000,
  name: '',
  up_s: 3,
  down_s: 2,
  delay_s: 0,
  family_s: {},
  note: '',
  call: '',
  follow_s: null,
  ...more,
});

test.each<[what: string, cue: Partial<CueRow>, total: number]>([
  ['the longer of up and down', {}, 3],
  ['with its delay', { delay_s: 2 }, 5],
  ['a family that takes longer', { family_s: { colour: 8 } }, 8],
  [
    'a family with a delay of its own',
    { family_s: { colour: 8 }, familyDelay_s: { colour: 4 } },
    12,
  ],
  ['a family with a delay and the cue’s time', { familyDelay_s: { colour: 4 } }, 7],
  [
    'a part’s family',
    {
      parts: [
        { number: 1, name: '', up_s: 1, down_s: 1, delay_s: 5, family_s: { colour: 6 }, note: '' },
      ],
    },
    11,
  ],
  [
    'a part that ends later',
    { parts: [{ number: 1, name: '', up_s: 6, down_s: 1, delay_s: 5, family_s: {}, note: '' }] },
    11,
  ],
])('a cue takes %s', (_what, cue, total) => expect(cueTotal(plain(1, cue))).toBe(total));

test.each<[what: string, cue: Partial<CueRow>, expected: number | undefined]>([
  ['waits', {}, undefined],
  ['follows its GO', { follow_s: 1 }, 1],
  ['follows its end', { after_s: 1 }, 4],
])('a cue that %s', (_what, cue, expected) =>
  expect(goesOnAfter(plain(1, cue), cueTotal)).toBe(expected),
);

test.each<
  [what: string, from: number, cues: CueRow[], atEnd: 'stop' | 'loop', expected: number | undefined]
>([
  ['the next in order', 1, [plain(1), plain(2)], 'stop', 2],
  ['its link', 1, [plain(1, { link: { to: 'c3' } }), plain(2), plain(3)], 'stop', 3],
  [
    'the next in order when its link is gone',
    1,
    [plain(1, { link: { to: 'c9' } }), plain(2)],
    'stop',
    2,
  ],
  ['nothing at the end', 2, [plain(1), plain(2)], 'stop', undefined],
  ['the first again', 2, [plain(1), plain(2)], 'loop', 1],
])('after a cue comes %s', (_what, from, cues, atEnd, expected) => {
  const cue = cues.find((c) => c.number === from * 1000);
  expect(cue && cueFollowing({ atEnd }, cues, cue)?.number).toBe(
    expected === undefined ? undefined : expected * 1000,
  );
});

test.each<
  [
    what: string,
    cues: CueRow[],
    atEnd: 'stop' | 'loop',
    expected: [first: number, time: number, counted: boolean][],
  ]
>([
  ['a chain that ends', [plain(1, { follow_s: 1 }), plain(2)], 'stop', []],
  [
    'a chain that waits somewhere',
    [plain(1, { follow_s: 1 }), plain(2), plain(3, { follow_s: 1, link: { to: 'c1' } })],
    'stop',
    [],
  ],
  [
    'a round of two',
    [plain(1), plain(2, { follow_s: 1 }), plain(3, { after_s: 2, link: { to: 'c2' } })],
    'stop',
    [[2, 6, false]],
  ],
  [
    'a cue that follows itself',
    [plain(1, { follow_s: 4, link: { to: 'c1' } })],
    'stop',
    [[1, 4, false]],
  ],
  [
    'a round that counts',
    [plain(1, { follow_s: 1 }), plain(2, { follow_s: 1, link: { to: 'c1', times: 3 } })],
    'stop',
    [[1, 2, true]],
  ],
  [
    'a list that begins again',
    [plain(1, { follow_s: 1 }), plain(2, { follow_s: 2 })],
    'loop',
    [[1, 3, false]],
  ],
  [
    'in no time',
    [plain(1, { follow_s: 0 }), plain(2, { follow_s: 0, link: { to: 'c1' } })],
    'stop',
    [[1, 0, false]],
  ],
])('rounds of %s', (_what, cues, atEnd, expected) =>
  expect(
    rounds({ atEnd }, cues, cueTotal).map((r) => [
      (r.cues[0]?.number ?? 0) / 1000,
      r.time_s,
      r.counted,
    ]),
  ).toEqual(expected),
);
