/** Control pages of earlier versions become sheets, and what was told of them goes along. */
import { sheetOfPage, withoutPages, type LoggedRow, type OldPage } from './from-pages.ts';
import { PieceRow, SheetRow } from './rows.ts';

const PAGE: OldPage = {
  id: 'p1',
  number: 3,
  name: 'The service',
  buttons: [
    { label: 'Next', act: { do: 'go', list: 'main' } },
    { label: 'Hymn', act: { do: 'cue', cue: 'c3' } },
    { label: 'Band', act: { do: 'fader', fader: 'f1', level: 0.8, time_s: 2 } },
    { label: 'Dusk', act: { do: 'play', kind: 'look', id: 'l1' } },
    { label: 'Out', act: { do: 'release', list: 'main' } },
    { label: 'All out', act: { do: 'release-all' } },
  ],
  faders: ['f1', 'f2'],
};

test('every button and fader is a piece that does the same, on a sheet that keeps the page’s id', () => {
  const { sheet, pieces } = sheetOfPage(PAGE);
  expect(SheetRow.parse(sheet)).toMatchObject({ id: 'p1', number: 3, name: 'The service' });
  expect(pieces.map((p) => PieceRow.parse(p).is)).toEqual([
    { kind: 'list', list: 'main', press: 'go' },
    { kind: 'cue', cue: 'c3' },
    { kind: 'to', fader: 'f1', level: 0.8, time_s: 2 },
    { kind: 'tile', of: 'look', id: 'l1', press: 'play' },
    { kind: 'list', list: 'main', press: 'release' },
    { kind: 'release-all' },
    { kind: 'fader', fader: 'f1', as: 'upright' },
    { kind: 'fader', fader: 'f2', as: 'upright' },
  ]);
  expect(pieces.slice(0, 6).map((p) => p.label)).toEqual(PAGE.buttons.map((b) => b.label));
});

test('no two of them lie over each other, and all lie on the sheet', () => {
  const { sheet, pieces } = sheetOfPage(PAGE);
  for (const [i, a] of pieces.entries()) {
    expect([a.x + a.w <= sheet.columns, a.y + a.h <= sheet.rows]).toEqual([true, true]);
    for (const b of pieces.slice(i + 1))
      expect(a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h).toBe(false);
  }
});

test('a page that was made is a sheet that was made, a changed button a changed piece', () => {
  const made: LoggedRow[] = [
    { table: 'pages', id: 'p1', before: null, after: PAGE },
    { table: 'cues', id: 'c3', before: null, after: { id: 'c3' } },
  ];
  const rows = withoutPages(made);
  expect(rows.map((r) => r.table)).toEqual([
    'sheets',
    ...Array<string>(8).fill('sheetpieces'),
    'cues',
  ]);
  expect(rows.every((r) => r.before === null)).toBe(true);
  const [first, ...others] = PAGE.buttons;
  const after = { ...PAGE, buttons: [{ ...first, label: 'On' }, ...others.slice(0, -1)] };
  const changed = withoutPages([{ table: 'pages', id: 'p1', before: PAGE, after }]);
  const byId = new Map(changed.map((r) => [r.id, r]));
  expect(byId.get('p1-b1')?.after).toMatchObject({ label: 'On' });
  expect(byId.get('p1-b6')).toMatchObject({ table: 'sheetpieces', after: null });
  expect(byId.has('p1-b2')).toBe(false);
  const untouched: LoggedRow[] = [{ table: 'cues', id: 'c', before: null, after: {} }];
  expect(withoutPages(untouched)).toBe(untouched);
});
