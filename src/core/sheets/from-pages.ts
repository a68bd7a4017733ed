/**
 * Control pages of earlier versions as sheets: a page keeps its id, so that who had it has the sheet, and links to it go
 * on. Held by `from-pages.test.ts`.
 */
import { z } from 'zod';
import { PLAYED_KINDS } from '../palettes/rows.ts';
import { Level, Name, RowId, Time } from '../show/fields.ts';
import type { PieceIs, PieceRow, SheetRow } from './rows.ts';

const Act = z.discriminatedUnion('do', [
  z.object({ do: z.literal('go'), list: RowId }),
  z.object({ do: z.literal('cue'), cue: RowId }),
  z.object({ do: z.literal('fader'), fader: RowId, level: Level, time_s: Time }),
  z.object({ do: z.literal('play'), kind: z.enum(PLAYED_KINDS), id: RowId }),
  z.object({ do: z.literal('release'), list: RowId }),
  z.object({ do: z.literal('release-all') }),
]);
const OldPage = z.object({
  id: RowId,
  number: z.number().int().min(1).max(999),
  name: Name,
  buttons: z.array(z.object({ label: Name, act: Act })).max(24),
  faders: z.array(RowId).max(8),
});
export type OldPage = z.infer<typeof OldPage>;

function isOf(act: z.infer<typeof Act>): PieceIs {
  switch (act.do) {
    case 'go':
      return { kind: 'list', list: act.list, press: 'go' };
    case 'release':
      return { kind: 'list', list: act.list, press: 'release' };
    case 'cue':
      return { kind: 'cue', cue: act.cue };
    case 'fader':
      return { kind: 'to', fader: act.fader, level: act.level, time_s: act.time_s };
    case 'play':
      return { kind: 'tile', of: act.kind, id: act.id, press: 'play' };
    case 'release-all':
      return { kind: 'release-all' };
  }
}

/** Buttons stand in rows of this many, as large as fingers in a hurry want them. */
const ACROSS = 4;
const BUTTON = { w: 8, h: 7 } as const;
const FADER = { w: 4 } as const;
const GAP = 0.5;

/** A page as its sheet and pieces. @throws where it is no page */
export function sheetOfPage(row: unknown): { sheet: SheetRow; pieces: PieceRow[] } {
  const page = OldPage.parse(row);
  const rows = Math.max(1, Math.ceil(page.buttons.length / ACROSS));
  const across = Math.min(ACROSS, page.buttons.length);
  const high = rows * (BUTTON.h + GAP) - GAP;
  const buttons = page.buttons.map(({ label, act }, i): PieceRow => ({
    id: `${page.id}-b${i + 1}`,
    sheet: page.id,
    x: (i % ACROSS) * (BUTTON.w + GAP),
    y: Math.floor(i / ACROSS) * (BUTTON.h + GAP),
    ...BUTTON,
    z: i,
    label: label.slice(0, 60),
    is: isOf(act),
  }));
  const left = across * (BUTTON.w + GAP);
  const faders = page.faders.map((fader, i): PieceRow => ({
    id: `${page.id}-f${i + 1}`,
    sheet: page.id,
    x: left + i * (FADER.w + GAP),
    y: 0,
    w: FADER.w,
    h: Math.max(high, 14),
    z: buttons.length + i,
    is: { kind: 'fader', fader, as: 'upright' },
  }));
  const wide = left + faders.length * (FADER.w + GAP) - GAP;
  return {
    sheet: {
      id: page.id,
      number: page.number,
      name: page.name,
      columns: Math.max(12, Math.ceil(wide)),
      rows: Math.max(7, Math.ceil(faders.length > 0 ? Math.max(high, 14) : high)),
    },
    pieces: [...buttons, ...faders],
  };
}

/** A change of a row as it is written in a log. */
export interface LoggedRow {
  table: string;
  id: string;
  before: Record<string, unknown> | null;
  after: Record<string, unknown> | null;
}

const rowsOf = (page: unknown): { table: string; row: SheetRow | PieceRow }[] => {
  if (page === null) return [];
  const { sheet, pieces } = sheetOfPage(page);
  return [{ table: 'sheets', row: sheet }, ...pieces.map((row) => ({ table: 'sheetpieces', row }))];
};

/** Logged rows of pages as rows of sheets; the others as they are, and the same list where there is none. */
export function withoutPages<R extends LoggedRow>(rows: readonly R[]): readonly R[] {
  if (!rows.some((r) => r.table === 'pages')) return rows;
  return rows.flatMap((r) => {
    if (r.table !== 'pages') return [r];
    const [before, after] = [rowsOf(r.before), rowsOf(r.after)];
    const ids = [...new Set([...before, ...after].map((x) => x.row.id))];
    return ids.flatMap((id) => {
      const [was, is] = [before.find((x) => x.row.id === id), after.find((x) => x.row.id === id)];
      const table = (was ?? is)?.table ?? 'sheets';
      return JSON.stringify(was?.row) === JSON.stringify(is?.row)
        ? []
        : [{ ...r, table, id, before: was?.row ?? null, after: is?.row ?? null }];
    });
  });
}
