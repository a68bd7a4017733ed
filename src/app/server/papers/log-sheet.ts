/** What was done in a show, on paper and as a table: its changes, or what was played, called and said. */
import Papa from 'papaparse';
import type { Content } from 'pdfmake/interfaces';
import { showName, type Show } from '@/core/show/show';
import type { Database } from '@/store/database';
import { readJournal } from '@/store/journal';
import { mono, plainText, RULED, type Paper } from './paper';

/** What may be printed of what happened. */
export const LOGS = ['history', 'journal'] as const;
export type Log = (typeof LOGS)[number];
const TITLES: Record<Log, string> = { history: 'History', journal: 'Log' };
/** Lines that go on paper; a table has all of them. */
const ON_PAPER = 2000;
const IN_TABLE = 50_000;

interface Line {
  /** ISO 8601, UTC. */
  at: string;
  who: string;
  what: string;
  from: string;
  late_s: string;
  called_by: string;
}

/** Newest first. */
export async function readLog(
  db: Database,
  showId: string,
  what: Log,
  most = IN_TABLE,
): Promise<Line[]> {
  if (what === 'history') {
    const rows = await db
      .selectFrom('changes')
      .select(['at', 'user_name', 'summary'])
      .where('show_id', '=', showId)
      .orderBy('seq', 'desc')
      .limit(most)
      .execute();
    return rows.map((r) => ({
      at: r.at.toISOString(),
      who: r.user_name,
      what: r.summary,
      from: '',
      late_s: '',
      called_by: '',
    }));
  }
  const text = (v: unknown): string => (typeof v === 'string' ? v : '');
  return (await readJournal(db, showId, { limit: most })).map((e) => ({
    at: e.at,
    who: e.userName,
    what: e.text,
    from: text(e.data.from),
    late_s: typeof e.data.late_ms === 'number' ? (e.data.late_ms / 1000).toFixed(2) : '',
    called_by: text(e.data.calledBy),
  }));
}

/** A cell that begins like a formula is a text all the same, in every program that opens it. */
const safe = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

/** The log as comma-separated values. */
export function logTable(lines: readonly Line[], what: Log): string {
  const columns =
    what === 'history'
      ? (['at', 'who', 'what'] as const)
      : (['at', 'who', 'what', 'from', 'late_s', 'called_by'] as const);
  return Papa.unparse(
    lines.map((l) => Object.fromEntries(columns.map((c) => [c, safe(l[c])]))),
    { columns: [...columns], newline: '\r\n' },
  );
}

/** The log for paper, newest first, as much as anybody prints. */
export function logPaper(show: Show, lines: readonly Line[], what: Log): Paper {
  const shown = lines.slice(0, ON_PAPER);
  const late = (l: Line): string =>
    [l.what, l.late_s === '' ? '' : `(${l.late_s} s after ${l.called_by || 'the'} call)`]
      .filter(Boolean)
      .join(' ');
  const body = shown.map((l): Content[] => [
    mono(l.at.slice(0, 19).replace('T', ' '), { fontSize: 7.5 }),
    plainText(l.who, { fontSize: 8.5 }),
    plainText(what === 'history' ? l.what : late(l), { fontSize: 8.5 }),
  ]);
  return {
    title: TITLES[what],
    show: showName(show),
    venue: show.settings.get('show')?.venue ?? '',
    about: `newest first${lines.length > ON_PAPER ? `, the last ${ON_PAPER} of more` : `, ${lines.length}`}`,
    content: [
      {
        table: {
          headerRows: 1,
          widths: [88, 92, '*'],
          body: [
            ['When (UTC)', 'Who', 'What'].map((t) => plainText(t, { bold: true, fontSize: 8 })),
            ...body,
          ],
          dontBreakRows: true,
        },
        layout: RULED,
      },
    ],
  };
}
