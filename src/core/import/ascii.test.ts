/** ASCII cues: a file written by hand from the standard, odd ones, and a list out and in again. */
import fc from 'fast-check';
import { stateAt } from '../cues/tracking';
import { readAscii, levelIn } from '../ascii/read';
import { writeAscii } from '../ascii/write';
import { Oddities } from '../formats/odd';
import { idsFrom } from '../edits/define-edit';
import { planEdit } from '../edits/plan-edit';
import { formatPoints } from '../fixtures/points';
import { isRefusal } from '../refusal';
import { newShowRows } from '../rig/defaults';
import { MutableShow } from '../show/show';
import { proposeImport } from './import';
import type { Proposed } from './proposed';

const FILE = `IDENT 3:0
MANUFACTURER Somebody
! a remark
CLEAR ALL
PATCH 1 1<1@FL 2<2@50 3<513
  4<4
$own 1 2 3
 5 6 7
CUE 1
TEXT House to half ! beside it
UP 5
DOWN 3.5 1
CHAN 1@FL 2/50
chan 3@HFF
CUE 2.5 1
UP 1:30
FOLLOWON 4
CHAN 1@FL 3@FL
PART 1
TEXT Slow ones
UP 20 2
CHAN 4 @ 30
CUE 3
LINK 1
CHAN 3@FL
GROUP 7
TEXT Warm
CHAN 1@FL 2@40
SUB 12
CHAN 3@80 4@20
ENDDATA
CUE 99
`;

let show: MutableShow;
let n = 0;
beforeEach(() => {
  show = new MutableShow();
  show.apply(newShowRows('Ascii'));
});
function propose(text: string | Uint8Array, into = show, list?: string): Proposed {
  const editId = `a${n++}`;
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text;
  const proposed = proposeImport({ name: 'old desk.asc', bytes }, undefined, {
    show: into,
    role: 'owner',
    editId,
    newId: idsFrom(editId).newId,
    options: { list },
  });
  if (isRefusal(proposed)) throw new Error(proposed.message);
  return proposed;
}
function take(text: string | Uint8Array, into = show, list?: string): Proposed {
  const proposed = propose(text, into, list);
  into.apply(proposed.changes);
  return proposed;
}
const cue = (number: number, s = show) => s.cuesOf('main').find((c) => c.number === number);
/** `1:100 3:50`, as it stands on stage at a cue. */
const stage = (number: number, s = show): string =>
  [...stateAt(s, 'main', number).values()]
    .map(
      ({ value }) =>
        [
          s.fixtures.get(value.fixtureId)?.number ?? 0,
          Math.round((value.level ?? 0) * 100),
        ] as const,
    )
    .filter(([, level]) => level > 0)
    .sort((a, b) => a[0] - b[0])
    .map(([channel, level]) => `${channel}:${level}`)
    .join(' ');

test('patch, cues as what changes, times, delays, parts, links, follow-ons, groups, submasters', () => {
  const proposed = take(FILE);
  expect(proposed.summary).toBe('Took in ASCII cues: 3 cues, 4 new channels, 1 group, 1 submaster');
  expect([1, 2, 3, 4].map((c) => formatPoints(show.fixtureByNumber(c)?.patch ?? []))).toEqual([
    '1.1',
    '1.2',
    '2.1',
    '1.4',
  ]);
  expect(show.fixtureByNumber(2)?.transforms?.Dimmer).toEqual({ max: 0.5 });
  expect([1000, 2500, 3000].map((q) => stage(q))).toEqual([
    '1:100 2:50 3:100',
    '1:100 3:100 4:30',
    '3:100',
  ]);
  // Levels that stay are not set again.
  expect([1000, 2500, 3000].map((q) => show.valuesOf(cue(q)?.id ?? '').size)).toEqual([3, 2, 2]);
  expect(cue(1000)).toMatchObject({
    name: 'House to half',
    up_s: 5,
    down_s: 3.5,
    delay_s: 0,
    follow_s: null,
  });
  expect(cue(2500)).toMatchObject({
    up_s: 90,
    down_s: 90,
    follow_s: 4,
    parts: [{ number: 1, name: 'Slow ones', up_s: 20, delay_s: 2 }],
  });
  expect(cue(3000)?.link).toEqual({ to: cue(1000)?.id });
  const parts = [...show.valuesOf(cue(2500)?.id ?? '').values()].map((v) => [
    show.fixtures.get(v.fixtureId)?.number,
    v.level,
    v.part,
  ]);
  expect(parts).toContainEqual([4, 0.3, 1]);
  expect(parts).toContainEqual([2, 0, undefined]);
  expect([...show.groups.values()].map((g) => [g.number, g.name, g.fixtures.length])).toEqual([
    [7, 'Warm', 2],
  ]);
  expect([...show.faders.values()].map((f) => [f.number, f.name, f.holds.kind])).toEqual([
    [12, 'Submaster 12', 'look'],
  ]);
  expect(proposed.problems.map((p) => p.where)).toEqual(['clear', '“$own”']);
});

test('a delay of what goes down is that of its values', () => {
  take('IDENT 3:0\nCUE 1\nCHAN 1@FL\nCUE 2\nUP 5\nDOWN 5 2\nCHAN 1@50 2@FL\n');
  const values = [...show.valuesOf(cue(2000)?.id ?? '').values()].map((v) => [
    show.fixtures.get(v.fixtureId)?.number,
    v.delay_s,
  ]);
  expect(values).toEqual([
    [1, 2],
    [2, undefined],
  ]);
});

test('units that are here stand for their channels; what is there already is left as it is, and said', () => {
  const patched = planEdit(
    show,
    'owner',
    'patch-fixtures',
    { typeId: 'generic-rgbw', mode: 'RGBW', quantity: 1, first: 1, universe: 1, address: 1 },
    'x',
  );
  if (isRefusal(patched)) throw new Error(patched.message);
  show.apply(patched.changes);
  const proposed = take(FILE);
  expect(proposed.problems.map((p) => `${p.where}: ${p.text}`).join('\n')).toMatch(
    /channel 2: its dimmer 2 \(1\.2\) is taken[^]*channel 4/,
  );
  expect(stage(1000)).toBe('1:100 2:50 3:100');
  // A list with cues is left alone: a new one is made, or the one that is asked for takes what it has not.
  expect(propose(FILE).items[0]).toMatchObject({ what: 'list', name: 'old desk', does: 'new' });
  const again = propose(FILE, show, 'main');
  expect(again.problems.map((p) => p.text)).toContain('cue 2.5 is there already and was left out');
});

test.each([
  ['tabs and CRLF', FILE.replaceAll('\n', '\r\n').replaceAll(' ', '\t')],
  [
    'short words',
    FILE.replaceAll('CHAN', 'Ch')
      .replaceAll('FOLLOWON', 'Fol')
      .replaceAll('PATCH', 'Pat')
      .replaceAll('GROUP', 'Gr'),
  ],
])('%s are read the same', (_, text) => {
  take(text);
  expect([1000, 2500, 3000].map((q) => stage(q))).toEqual([
    '1:100 2:50 3:100',
    '1:100 3:100 4:30',
    '3:100',
  ]);
});

test('another code page, and lines that say nothing', () => {
  const { problems } = take(
    Buffer.from(
      'IDENT 3:0\nCUE 1\nTEXT D\xe4mmerung\nCHAN 1@FL 2@999 x@1 3@\nUP soon\nLINK x\nWIBBLE 3\n$own 1\n  of its maker\nCUE zero\nCHAN 9@FL\nSUB 1\nUP 3\n',
      'latin1',
    ),
  );
  expect(problems.map((p) => `${p.where}: ${p.text}`)).toEqual([
    'line 4: “2@999” is no channel at a level; it was left out',
    'line 4: “x@1” is no channel at a level; it was left out',
    'line 4: “3@” is no channel at a level; it was left out',
    'line 5: “soon” is no time; it is as cues usually are',
    'line 6: “x” is no cue’s number; nothing is linked',
    'line 7: “WIBBLE 3” is nothing of ASCII cues; it was left out',
    '“$own”: is a word of another program and was left out',
    'line 10: “zero” is no cue’s number; the cue was left out',
    'line 11: has levels outside of a cue, group or submaster; they were left out',
    'times: of groups and submasters have no place here and were left out',
  ]);
  expect(cue(1000)?.name).toBe('Dämmerung');
  expect(stage(1000)).toBe('1:100');
});

test('levels', () => {
  expect(
    ['FL', 'ff', 'Full', '50', '00', '100', 'H80', 'hff', '101', 'x', ''].map(levelIn),
  ).toEqual([1, 1, 1, 0.5, 0, 1, 128 / 255, 1, undefined, undefined, undefined]);
});

test('ten thousand cues, and no more', () => {
  const many = Array.from(
    { length: 10_002 },
    (_, i) => `CUE ${i + 1}\nCHAN ${(i % 5) + 1}@FL`,
  ).join('\n');
  const proposed = take(`IDENT 3:0\n${many}\n`);
  expect(show.cuesOf('main')).toHaveLength(10_000);
  expect(proposed.problems.map((p) => p.text)).toContain(
    'has more than 10000 cues; the rest was left out',
  );
});

test('a list out and into another show is on stage what it was, cue by cue', () => {
  take(FILE);
  const other = new MutableShow();
  other.apply(newShowRows('Other'));
  take(writeAscii(show, 'main'), other);
  for (const q of [1000, 2500, 3000]) {
    expect(stage(q, other)).toBe(stage(q));
    const [a, b] = [cue(q), cue(q, other)];
    expect([b?.name, b?.up_s, b?.down_s, b?.follow_s, b?.parts]).toEqual([
      a?.name,
      a?.up_s,
      a?.down_s,
      a?.follow_s,
      a?.parts,
    ]);
  }
  expect(cue(3000, other)?.link?.to).toBe(cue(1000, other)?.id);
  expect(
    [...other.fixtures.values()].map((f) => [
      f.number,
      formatPoints(f.patch),
      f.transforms?.Dimmer?.max !== undefined,
    ]),
  ).toEqual(
    [...show.fixtures.values()].map((f) => [
      f.number,
      formatPoints(f.patch),
      f.transforms?.Dimmer?.max !== undefined,
    ]),
  );
});

test('taken into a list that has cues, each is its whole state there as well', () => {
  take(FILE);
  const lit = stage(1000);
  // Channel 1 is lit by what is there before it, and out where its cue does not name it; the file knows no channel 3.
  const text = 'IDENT 3:0\nCUE 1.2\nCHAN 2@50\nCUE 1.4\nCHAN 1@FL 2@50\nENDDATA\n';
  take(text, show, 'main');
  expect(lit).toContain('1:100');
  expect([stage(1000), stage(1200), stage(1400)]).toEqual([lit, '2:50 3:100', '1:100 2:50 3:100']);
});

test('groups and submasters that left and come back are known', () => {
  take(FILE);
  const [groups, faders] = [show.groups.size, show.faders.size];
  const again = take(writeAscii(show, 'main'));
  expect([show.groups.size, show.faders.size]).toEqual([groups, faders]);
  expect(again.items.filter((i) => i.does === 'same').map((i) => i.what)).toEqual(
    expect.arrayContaining(['group', 'fader']),
  );
});

test('what goes out in a part goes out in it when it comes back', () => {
  take('IDENT 3:0\nCUE 1\nCHAN 1@FL 2@FL\nCUE 2\nUP 1\nPART 1\nUP 9\nCHAN 2@0\nENDDATA\n');
  const other = new MutableShow();
  other.apply(newShowRows('Other'));
  take(writeAscii(show, 'main'), other);
  const partsIn = (s: MutableShow): unknown[] =>
    [...s.valuesOf(cue(2000, s)?.id ?? '').values()].map((v) => [
      s.fixtures.get(v.fixtureId)?.number,
      v.level,
      v.part,
    ]);
  expect(partsIn(other)).toEqual(partsIn(show));
  expect(partsIn(show)).toContainEqual([2, 0, 1]);
});

test('noise is never more than remarks', () => {
  const words = fc.constantFrom(
    'CUE',
    'CHAN',
    'PATCH',
    'UP',
    'PART',
    'LINK',
    'SUB',
    'GROUP',
    '1',
    '2.5',
    '@',
    'FL',
    '1@50',
    '1<2',
    '\n',
    ':',
    '$x',
    '!',
    '99999999999',
    '-1',
    'é',
  );
  fc.assert(
    fc.property(fc.array(words, { maxLength: 60 }), (all) => {
      const odd = new Oddities();
      expect(() => readAscii(all.join(' '), odd)).not.toThrow();
      const proposed = proposeImport(
        { name: 'x.asc', bytes: new TextEncoder().encode(all.join(' ')) },
        undefined,
        { show, role: 'owner', editId: 'z', newId: idsFrom('z').newId, options: { kind: 'ascii' } },
      );
      if (!isRefusal(proposed)) expect(proposed.changes.length).toBeGreaterThan(0);
    }),
  );
});
