/** Sheets of a whole show: useful ones in one step, and what a volunteer is told of theirs. */
import { nightFerryRows } from './night-ferry.ts';
import { PLAYED_KINDS } from '../src/core/palettes/rows.ts';
import { nameOf, piecesOf, playedFrom, pointsAtNothing } from '../src/core/sheets/pieces.ts';
import { rowsShown } from '../src/core/sheets/shown.ts';
import { sheetFrom, TEMPLATES } from '../src/core/sheets/templates.ts';
import { MutableShow } from '../src/core/show/show.ts';
import { apply, sheet } from '../src/core/testing/example.ts';

describe('of a whole show', () => {
  const ferry = new MutableShow();
  ferry.apply(nightFerryRows());

  test.each(TEMPLATES)(
    'a sheet of “%s” is made in one step, with nothing that points at nothing',
    (t) => {
      const show = ferry.clone();
      const made = sheetFrom(show, t, 'New one');
      apply(show, 'set-sheet', made);
      const row = [...show.sheets.values()].find((s) => s.name === 'New one');
      const pieces = piecesOf(show, row?.id ?? '');
      expect(pieces).toHaveLength(made.pieces.length);
      if (t !== 'empty') expect(pieces.length).toBeGreaterThan(3);
      for (const p of pieces) {
        expect(pointsAtNothing(show, p.is)).toBeUndefined();
        expect(p.x + p.w).toBeLessThanOrEqual(row?.columns ?? 0);
        expect(p.y + p.h).toBeLessThanOrEqual(row?.rows ?? 0);
      }
    },
  );

  test('a sheet of the rig has its bars from upstage to the audience, and what hangs nowhere behind them', () => {
    const { pieces } = sheetFrom(ferry, 'rig', 'Rig');
    const words = pieces.flatMap(({ is }) => (is.kind === 'words' ? [is.text] : []));
    expect(words).toEqual([
      'Bar 4',
      'Floor',
      'Bar 3',
      'Boom R',
      'Boom L',
      'Bar 2',
      'Bar 1',
      'FOH bridge',
      'Elsewhere',
    ]);
  });

  test('a sheet of the faders has keys for those whose key does something', () => {
    const { pieces } = sheetFrom(ferry, 'faders', 'Faders');
    const names = (as: string): (string | undefined)[] =>
      pieces.flatMap(({ is }) =>
        is.kind === 'fader' && is.as === as ? [ferry.faders.get(is.fader)?.name] : [],
      );
    expect(names('upright')).toHaveLength(ferry.faders.size);
    // FOH and Sides take light away, Pace paces, Shimmer is an effect.
    for (const name of ['FOH', 'Pace', 'Shimmer']) expect(names('flash')).not.toContain(name);
    for (const name of ['Storm', 'Band']) expect(names('flash')).toContain(name);
  });

  test('every unit of the rig hangs where it stands', () => {
    const bars = [...ferry.pieces.values()].filter((p) => p.kind === 'bar');
    for (const { number, hang, position } of ferry.fixtures.values()) {
      const bar = bars.find((b) => b.name === hang);
      if (!bar || hang === 'FOH bridge') continue;
      const away = Math.abs(position.y - (bar.points[0]?.y ?? 0));
      expect([number, away < 1]).toEqual([number, true]);
    }
  });

  test('what a volunteer is shown has names, and nothing of what they stand for', () => {
    const [list] = ferry.lists.keys();
    const ids = PLAYED_KINDS.map((of) => ({
      kind: 'tile',
      of,
      id: [
        ...ferry[({ palette: 'palettes', look: 'looks', effect: 'effects' } as const)[of]].keys(),
      ][0],
      press: 'play',
    }));
    const show = ferry.clone();
    const made = sheet(show, 'Door', [...ids, { kind: 'list', list, press: 'go' }]);
    const { lists } = playedFrom(show, [made.sheet]);
    const asked = show.cuesOf(list ?? '')[3];
    const rows = rowsShown(show, [made.sheet], lists, [asked?.id ?? '', 'none']);
    const count = (table: string): number => rows.filter((r) => r.table === table).length;
    expect([count('cues'), count('values'), count('fixtures'), count('lists')]).toEqual([
      1, 0, 0, 1,
    ]);
    const cueRow = rows.find((r) => r.table === 'cues')?.after;
    expect(cueRow).not.toHaveProperty('call');
    for (const r of rows) {
      if (r.table === 'palettes') expect(r.after).toMatchObject({ fixtures: {} });
      if (r.table === 'looks') expect(r.after).toMatchObject({ items: [] });
      if (r.table === 'effects') expect(r.after).toMatchObject({ tracks: [] });
    }
    const seen = new MutableShow();
    seen.apply(rows);
    for (const p of piecesOf(show, made.sheet)) expect(nameOf(seen, p)).toBe(nameOf(show, p));
  });
});
