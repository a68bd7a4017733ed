/** The cue sheet, its cells as they are typed, what is odd about a list, and lists as files. */
import fc from 'fast-check';
import { readCueLines, writeCuesCsv } from '../formats/cues-csv.ts';
import { readCsv } from '../formats/csv-table.ts';
import { isRefusal } from '../refusal.ts';
import { sectionTotals } from '../script/totals.ts';
import { slotKey } from './rows.ts';
import type { MutableShow } from '../show/show.ts';
import { apply, cue, exampleShow, idOf, refused } from '../testing/example.ts';
import { cellValues, readCell } from './cell-text.ts';
import { bookFindings } from './findings.ts';
import { CELL, columnsOf, runsTo, sheetOf } from './sheet.ts';
import { trackedAt } from './tracking.ts';

const NONE = new Set<string>();
/** One column as text: a number is set, | tracks, . is nothing, x lets go. */
function drawn(show: MutableShow, fixture: number): string {
  const cues = show.cuesOf('main');
  const columns = columnsOf(show, 'intensity', NONE);
  const sheet = sheetOf(show, cues, columns, 'intensity');
  const c = columns.findIndex((x) => x.id === idOf(show, fixture));
  return cues
    .map((_, r) => {
      const flags = sheet.flags[r * sheet.columns + c] ?? 0;
      if (flags & CELL.release) return 'x';
      if (flags & CELL.set)
        return String(Math.round((sheet.level[r * sheet.columns + c] ?? 0) * 100));
      return flags & CELL.above && sheet.complete[r] === 0 ? '|' : '.';
    })
    .join(' ');
}

describe('the sheet', () => {
  const show = exampleShow();
  cue(show, 1, { 1: 50, 2: 20 });
  cue(show, 2, { 2: 80 });
  cue(show, 3, { 3: 70 });
  cue(show, 4, { 1: null });
  cue(show, 5, { 4: 5 });
  test.each([
    [1, '50 | | x .'],
    [2, '20 80 | | |'],
    [3, '. . 70 | |'],
    [5, '. . . . .'],
  ])('fixture %s is %s', (fixture, line) => expect(drawn(show, fixture)).toBe(line));

  test('a block is a bracket: nothing tracks through, what it lets go of ends', () => {
    const blocked = exampleShow();
    cue(blocked, 1, { 1: 50 });
    cue(blocked, 2, { 2: 10 });
    apply(blocked, 'block-cue', { ids: [blocked.cuesOf('main')[1]?.id], on: true });
    cue(blocked, 1, { 3: 40 });
    cue(blocked, 3, { 4: 1 });
    expect([1, 2, 3].map((f) => drawn(blocked, f))).toEqual(['50 50 |', '. 10 |', '40 . .']);
  });

  test('a line runs from where it is set to the cue before the next', () => {
    const columns = columnsOf(show, 'intensity', NONE);
    const sheet = sheetOf(show, show.cuesOf('main'), columns, 'intensity');
    const at = (f: number): number => columns.findIndex((c) => c.id === idOf(show, f));
    expect([
      sheet.origin[2 * sheet.columns + at(1)],
      runsTo(sheet, 0, at(1)),
      runsTo(sheet, 1, at(2)),
    ]).toEqual([0, 2, 4]);
  });

  test('a group is one column until it is unfolded; units that differ are told', () => {
    const grouped = exampleShow();
    apply(grouped, 'record-group', {
      name: 'Front',
      fixtures: [idOf(grouped, 1), idOf(grouped, 2)],
    });
    cue(grouped, 1, { 1: 50, 2: 30 });
    const group = [...grouped.groups.keys()][0] ?? '';
    expect(
      columnsOf(grouped, 'intensity', NONE)
        .map((c) => c.label)
        .slice(0, 2),
    ).toEqual(['Front', '3']);
    expect(
      columnsOf(grouped, 'intensity', new Set([group]))
        .map((c) => c.label)
        .slice(0, 3),
    ).toEqual(['1', '2', '3']);
    const sheet = sheetOf(
      grouped,
      grouped.cuesOf('main'),
      columnsOf(grouped, 'intensity', NONE),
      'intensity',
    );
    expect([sheet.level[0], (sheet.flags[0] ?? 0) & CELL.mixed]).toEqual([0.5, CELL.mixed]);
  });

  test('names of palettes stand in the cells, colours as they are seen', () => {
    const named = exampleShow();
    apply(named, 'record-palette', {
      family: 'colour',
      name: 'Dusk',
      any: { colour: { x: 0.2, y: 0.1 } },
    });
    const palette = [...named.palettes.values()][0];
    cue(named, 1, {});
    const cueId = named.cuesOf('main')[0]?.id ?? '';
    if (!palette) throw new Error('no palette');
    apply(named, 'set-values', {
      cells: cellValues(named, 'colour', [idOf(named, 11)], { kind: 'palette', palette }).map(
        (v) => ({ cueId, ...v }),
      ),
    });
    const columns = columnsOf(named, 'colour', NONE);
    const sheet = sheetOf(named, named.cuesOf('main'), columns, 'colour');
    const c = columns.findIndex((x) => x.id === idOf(named, 11));
    expect(sheet.labels[sheet.label[c] ?? 0]).toBe('Dusk');
    expect((sheet.swatch[c] ?? 0) & 0xff).toBeGreaterThan(((sheet.swatch[c] ?? 0) >> 8) & 0xff);
  });

  test('in every cell the origin is the cue that tracking gives', () => {
    const sets = fc.array(
      fc.record({
        at: fc.integer({ min: 1, max: 7 }),
        fixture: fc.integer({ min: 1, max: 4 }),
        percent: fc.option(fc.integer({ min: 0, max: 100 }), { nil: null }),
        block: fc.boolean(),
      }),
      { maxLength: 30 },
    );
    fc.assert(
      fc.property(sets, (list) => {
        const s = exampleShow();
        apply(s, 'make-cues', {
          listId: 'main',
          cues: [1, 2, 3, 4, 5, 6, 7].map((n) => ({ number: n * 1000 })),
        });
        for (const e of list) {
          try {
            if (e.block) apply(s, 'block-cue', { ids: [s.cuesOf('main')[e.at - 1]?.id], on: true });
            else cue(s, e.at, { [e.fixture]: e.percent });
          } catch {
            // Nothing to write is fine here.
          }
        }
        const cues = s.cuesOf('main');
        const columns = columnsOf(s, 'intensity', NONE);
        const sheet = sheetOf(s, cues, columns, 'intensity');
        cues.forEach((c, r) =>
          columns.forEach((column, i) => {
            const tracked = trackedAt(
              s,
              'main',
              c.number,
              slotKey(column.fixtures[0] ?? '', 'Dimmer'),
            );
            expect(sheet.origin[r * sheet.columns + i]).toBe(
              tracked ? cues.indexOf(tracked.cue) : -1,
            );
          }),
        );
      }),
      { numRuns: 60 },
    );
  });
});

describe('what is typed into a cell', () => {
  const show = exampleShow();
  apply(show, 'record-palette', {
    family: 'colour',
    name: 'Dusk',
    any: { colour: { x: 0.2, y: 0.1 } },
  });
  apply(show, 'record-palette', {
    family: 'intensity',
    name: 'Glow',
    number: 12,
    any: { level: 0.3 },
  });
  test.each([
    ['intensity', '50', { kind: 'level', level: 0.5 }],
    ['intensity', 'full', { kind: 'level', level: 1 }],
    ['intensity', '12,5 %', { kind: 'level', level: 0.125 }],
    ['intensity', 'glo', { kind: 'palette', palette: expect.objectContaining({ name: 'Glow' }) }],
    ['intensity', 'p12', { kind: 'palette', palette: expect.objectContaining({ name: 'Glow' }) }],
    ['colour', 'dusk', { kind: 'palette', palette: expect.objectContaining({ name: 'Dusk' }) }],
    ['colour', 'release', { kind: 'release' }],
    ['intensity', '', { kind: 'remove' }],
    ['intensity', '130', { kind: 'problem', message: 'A level is at most 100 %.' }],
    ['colour', '50', { kind: 'problem', message: '“50” is not a colour palette.' }],
    ['colour', 'glow', { kind: 'problem', message: '“glow” is not a colour palette.' }],
  ] as const)('%s: “%s”', (family, text, expected) =>
    expect(readCell(show, family, text)).toEqual(expected),
  );
  test('a palette reaches whom it can', () => {
    const said = readCell(show, 'colour', 'dusk');
    if (said.kind === 'problem') throw new Error(said.message);
    expect(
      new Set(
        cellValues(show, 'colour', [idOf(show, 1), idOf(show, 11)], said).map((v) => v.fixtureId),
      ),
    ).toEqual(new Set([idOf(show, 11)]));
  });
});

describe('findings of a list', () => {
  const texts = (show: MutableShow): string[] =>
    bookFindings(show, 'main')
      .filter((f) => ['times', 'cues', 'actions', 'script'].includes(f.about))
      .map((f) => f.text);
  test('early follows, endless rounds, cues that change nothing, references to what is gone', () => {
    const show = exampleShow();
    const ids = [1, 2, 3, 4].map((n) =>
      cue(show, n, n === 4 ? {} : { [n]: 50 }, { up_s: 5, down_s: 5, name: `C${n}` }),
    );
    apply(show, 'change-cue', {
      id: ids[0],
      set: { follow_s: 2, actions: [{ do: 'sound', sound: 'gone' }] },
    });
    apply(show, 'change-cue', { id: ids[2], set: { after_s: 1, link: { to: ids[2] } } });
    expect(texts(show)).toEqual([
      'Cue 1 “C1” points at a sound that is gone.',
      'The cue after cue 1 “C1” follows after 2 s, before its fades of 5 s have ended.',
      'Cue 3 “C3” goes round by itself every 6 s until somebody presses GO elsewhere.',
      'Cue 4 “C4” changes nothing.',
    ]);
  });
  test('script and list that differ, and calls that a later draft has lost', () => {
    const show = exampleShow();
    const text = 'ACT ONE\n\nScene 1\n\nHere the bell. There the lamp. And then the rope.';
    const [one, two] = [cue(show, 1, { 1: 50 }), cue(show, 2, { 2: 50 }), cue(show, 3, { 3: 50 })];
    apply(show, 'import-script', { title: 'Ferry', format: 'plain', text });
    const scriptId = [...show.scripts.keys()][0];
    const put = (cueId: string | undefined, word: string): void =>
      void apply(show, 'set-call', {
        scriptId,
        cueId,
        from: text.indexOf(word),
        to: text.indexOf(word) + word.length,
      });
    put(one, 'rope');
    put(two, 'bell');
    expect(texts(show)).toEqual([
      'Cue 1 is called after a later cue: script and list differ in their order.',
      'Cue 3 waits for GO and is called nowhere in “Ferry”.',
    ]);
    apply(show, 'import-script', {
      id: scriptId,
      title: 'Ferry',
      format: 'plain',
      text: 'Quite another play.',
    });
    expect(bookFindings(show, 'main')[0]).toMatchObject({ grave: true, about: 'script' });
    const cues = show.cuesOf('main');
    expect(
      sectionTotals(
        show,
        cues,
        cues[0] ??
          (() => {
            throw new Error('no cue');
          })(),
      ),
    ).toEqual([]);
  });
});

describe('cue lists as files', () => {
  const table = (text: string) => {
    const read = readCsv(Buffer.from(text));
    if (isRefusal(read)) throw new Error(read.message);
    return read;
  };
  test('what is written is read back into another list', () => {
    const show = exampleShow();
    const id = cue(show, 2.5, { 1: 50 }, { up_s: 95, down_s: 7, name: 'Bell, “struck”' });
    apply(show, 'change-cue', {
      id,
      set: { after_s: 1.5, call: '=A bell', clock: '19:30:00', operatorNote: 'Slow' },
    });
    const { ready, problems } = readCueLines(table(writeCuesCsv(show, 'main')));
    expect(problems).toEqual([]);
    apply(show, 'make-list', { name: 'Copy' });
    const copy = [...show.lists.values()].find((l) => l.name === 'Copy')?.id ?? '';
    apply(show, 'import-cues', {
      listId: copy,
      cues: ready.map(({ line, ...c }) => (void line, c)),
    });
    expect(show.cuesOf(copy)[0]).toMatchObject({
      number: 2500,
      name: 'Bell, “struck”',
      up_s: 95,
      down_s: 7,
      after_s: 1.5,
      clock: '19:30:00',
      operatorNote: 'Slow',
      call: "'=A bell",
    });
    expect(
      refused(show, 'import-cues', {
        listId: copy,
        cues: ready.map(({ line, ...c }) => (void line, c)),
      }).code,
    ).toBe('nothing');
  });
  test('rows with something wrong are told by line and left out', () => {
    const { ready, problems } = readCueLines(
      table(
        'Cue,Name,Time,Follow\n1,House,5/7,\n2.5.5,Bad,3,\n3,Late,1:75,\n3,Twice,2,\n4,Minus,-3,\n5,Fine,1:30,2\n',
      ),
    );
    expect(ready.map((c) => [c.number, c.up_s, c.down_s, c.follow_s])).toEqual([
      [1000, 5, 7, null],
      [5000, 90, 90, 2],
    ]);
    expect(problems.map((p) => [p.line, p.text])).toEqual([
      [3, '“2.5.5” is not a cue number.'],
      [4, '“1:75” is no time: seconds and minutes go to 59.'],
      [5, 'Cue 3 stands on line 4 already.'],
      [6, 'A time is not negative.'],
    ]);
  });
});
