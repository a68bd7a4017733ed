/** What the sheet's cells say, and what is found in it. */
import { apply, cue, exampleShow, idOf } from '../testing/example.ts';
import { columnsOf, sheetOf } from './sheet.ts';
import { cellWords, rowsWith, within, type SheetInWords } from './sheet-words.ts';

const show = exampleShow();
cue(show, 1, { 1: 50, 2: 20 });
cue(show, 2, { 2: 80 });
cue(show, 3, { 3: 70 });
cue(show, 4, { 1: null });
const cues = show.cuesOf('main');
const columns = columnsOf(show, 'intensity', new Set());
const of: SheetInWords = {
  sheet: sheetOf(show, cues, columns, 'intensity'),
  columns,
  cues,
  family: 'intensity',
};
const says = (number: number, fixture: number): string =>
  cellWords(of, {
    row: cues.findIndex((c) => c.number === number * 1000),
    column: columns.findIndex((c) => c.id === idOf(show, fixture)),
  });

test('a cell says what shows, where it is set and how far it carries', () => {
  expect(says(1, 1)).toMatch(/: 50 % set in LX 1, carries to LX 3$/);
  expect(says(2, 1)).toMatch(/: 50 % tracks from LX 1, carries to LX 3$/);
  expect(says(2, 2)).toMatch(/: 80 % set in LX 2, carries to LX 4$/);
  expect(says(4, 2)).toMatch(/: 80 % tracks from LX 2$/);
});

test('nothing is not the same as let go', () => {
  expect(says(1, 3)).toMatch(/ in LX 1: nothing is set$/);
  expect(says(4, 1)).toMatch(/ in LX 4: let go here$/);
});

test('outside of the sheet nothing is said', () => {
  expect(cellWords(of, { row: 99, column: 0 })).toBe('');
  expect(cellWords(of, { row: 0, column: 999 })).toBe('');
});

test('a value in times of its own says so', () => {
  const timed = exampleShow();
  cue(timed, 1, { 1: 50 });
  apply(timed, 'set-values', {
    cells: [
      {
        cueId: timed.cuesOf('main')[0]?.id,
        fixtureId: idOf(timed, 1),
        attribute: 'Dimmer',
        times: { fade_s: 9 },
      },
    ],
  });
  const own = timed.cuesOf('main');
  const over = columnsOf(timed, 'intensity', new Set());
  const sheet = sheetOf(timed, own, over, 'intensity');
  const column = over.findIndex((c) => c.id === idOf(timed, 1));
  expect(
    cellWords({ sheet, columns: over, cues: own, family: 'intensity' }, { row: 0, column }),
  ).toMatch(/; in times of its own$/);
});

test('cues are found by their number, and by words in name, call and notes', () => {
  const written = cues.map((c, i) => ({
    ...c,
    name: ['Preset', 'Quay', 'Storm', 'Calm'][i] ?? '',
    operatorNote: i === 2 ? 'wait for the bell' : undefined,
  }));
  expect(rowsWith(written, ' quay ')).toEqual([1]);
  expect(rowsWith(written, 'BELL')).toEqual([2]);
  expect(rowsWith(written, '4')).toEqual([3]);
  expect(rowsWith(written, '  ')).toEqual([]);
});

test('a box has both of its ends, whichever way it was drawn', () => {
  const box = { row: 4, column: 1, toRow: 2, toColumn: 3 };
  expect([2, 3, 4].every((row) => within(box, { row, column: 1 }))).toBe(true);
  expect(within(box, { row: 1, column: 1 })).toBe(false);
  expect(within(box, { row: 3, column: 0 })).toBe(false);
  expect(within(box, { row: 3, column: 4 })).toBe(false);
});
