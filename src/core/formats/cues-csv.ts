/** A cue list as comma-separated values: its numbers, names, times, calls and notes. Levels are not in it. */
import Papa from 'papaparse';
import { formatTime, seconds, timeProblem } from '../cues/clock.ts';
import { formatCueNumber, parseCueNumber } from '../cues/number.ts';
import { sectionAt } from '../script/parse.ts';
import { CLOCK_TIME } from '../cues/rows.ts';
import { LIMITS } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import { columnsOf, harmless, type CsvTable } from './csv-table.ts';

/** What a table of cues may have. */
export const CUE_FIELDS = [
  { key: 'number', label: 'Cue', words: ['cue', 'number', 'no', 'nr', 'q', 'lx', 'cuenumber'] },
  { key: 'name', label: 'Name', words: ['name', 'label', 'title', 'description', 'cuename'] },
  { key: 'up', label: 'Up', words: ['up', 'uptime', 'fade', 'time', 'in', 'fadetime'] },
  { key: 'down', label: 'Down', words: ['down', 'downtime', 'out'] },
  { key: 'delay', label: 'Delay', words: ['delay', 'wait'] },
  { key: 'follow', label: 'Follow', words: ['follow', 'followtime', 'autofollow'] },
  { key: 'after', label: 'After', words: ['after', 'afterend'] },
  { key: 'clock', label: 'Time of day', words: ['timeofday', 'clock'] },
  { key: 'call', label: 'Called on', words: ['calledon', 'call', 'trigger', 'cueline', 'word'] },
  { key: 'note', label: 'Note', words: ['note', 'notes', 'comment'] },
  { key: 'operatorNote', label: 'Operator note', words: ['operatornote', 'operator'] },
  { key: 'designerNote', label: 'Designer note', words: ['designernote', 'designer'] },
] as const;
export type CueField = (typeof CUE_FIELDS)[number]['key'];

/** One cue as a line of a table gives it; times in seconds, the number in thousandths. */
export interface CueLine {
  line: number;
  number: number;
  name?: string;
  up_s?: number;
  down_s?: number;
  delay_s?: number;
  follow_s?: number | null;
  after_s?: number | null;
  clock?: string | null;
  call?: string;
  note?: string;
  operatorNote?: string | null;
  designerNote?: string | null;
}
/** Why a line of a table of cues cannot be taken. */
export interface CueProblem {
  line: number;
  text: string;
}

/** Every row, or why not. A row with something wrong is left out as a whole. */
export function readCueLines(table: CsvTable): { ready: CueLine[]; problems: CueProblem[] } {
  const columns = columnsOf(table.header, CUE_FIELDS) as Partial<Record<CueField, number>>;
  const ready: CueLine[] = [];
  const problems: CueProblem[] = [];
  if (columns.number === undefined)
    return { ready, problems: [{ line: 1, text: 'No column is named “Cue” or “Number”.' }] };
  const seen = new Map<number, number>();
  for (const { line, cells } of table.rows) {
    const wrong: string[] = [];
    const cell = (field: CueField): string | undefined =>
      columns[field] === undefined ? undefined : (cells[columns[field]] ?? '').trim();
    const time = (field: CueField): number | undefined => {
      const text = cell(field);
      if (text === undefined || text === '') return undefined;
      const value = seconds(text);
      if (value === undefined || value > LIMITS.time_s)
        wrong.push(timeProblem(text) ?? 'A time is at most 10 hours.');
      return value;
    };
    const text = (field: CueField, most: number): string | undefined => {
      const t = cell(field);
      if (t !== undefined && t.length > most)
        wrong.push(
          `${CUE_FIELDS.find((f) => f.key === field)?.label} is longer than ${most} characters.`,
        );
      return t;
    };
    const given = cell('number') ?? '';
    const number = parseCueNumber(given.replace(/^(lx|q)\s*/i, ''));
    if (number === undefined) {
      problems.push({ line, text: `“${given}” is not a cue number.` });
      continue;
    }
    const twice = seen.get(number);
    if (twice !== undefined)
      wrong.push(`Cue ${formatCueNumber(number)} stands on line ${twice} already.`);
    seen.set(number, line);
    // `5/7` in one column is up and down.
    const both = /^([\d.,:]+)\s*\/\s*([\d.,:]+)$/.exec(cell('up') ?? '');
    const [up, down] = both
      ? [seconds(both[1] ?? ''), seconds(both[2] ?? '')]
      : [time('up'), time('down')];
    if (both && (up === undefined || down === undefined))
      wrong.push(`“${cell('up')}” is no pair of times.`);
    const [follow, after, delay] = [time('follow'), time('after'), time('delay')];
    const clock = cell('clock');
    if (clock && !CLOCK_TIME.test(clock))
      wrong.push(`“${clock}” is no time of day; they look like 19:30:00.`);
    const row: CueLine = { line, number };
    const name = text('name', LIMITS.nameLength);
    if (name !== undefined) row.name = name;
    if (up !== undefined) row.up_s = up;
    if (down !== undefined || up !== undefined) row.down_s = down ?? up ?? 0;
    if (delay !== undefined) row.delay_s = delay;
    if (columns.follow !== undefined) row.follow_s = follow ?? null;
    if (columns.after !== undefined) row.after_s = after ?? null;
    if (clock !== undefined) row.clock = clock === '' ? null : clock;
    const call = text('call', LIMITS.nameLength);
    if (call !== undefined) row.call = call;
    const note = text('note', LIMITS.noteLength);
    if (note !== undefined) row.note = note;
    for (const field of ['operatorNote', 'designerNote'] as const) {
      const t = text(field, LIMITS.noteLength);
      if (t !== undefined) row[field] = t === '' ? null : t;
    }
    if (wrong.length > 0) problems.push(...wrong.map((w) => ({ line, text: w })));
    else ready.push(row);
  }
  return { ready, problems };
}

/** A cue list as a table: numbers, names, times, triggers, calls, notes. */
export function writeCuesCsv(show: Show, listId: string): string {
  const places = new Map(
    [...show.calls.values()].flatMap((call) => {
      const script = show.scripts.get(call.scriptId);
      return script ? [[call.cueId, sectionAt(script, call.from)] as const] : [];
    }),
  );
  const rows = show.cuesOf(listId).map((c) => {
    const place = places.get(c.id);
    return [
      formatCueNumber(c.number),
      c.name,
      formatTime(c.up_s),
      formatTime(c.down_s),
      formatTime(c.delay_s),
      c.follow_s === null ? '' : formatTime(c.follow_s),
      c.after_s === undefined ? '' : formatTime(c.after_s),
      c.clock ?? '',
      c.call,
      c.note,
      c.operatorNote ?? '',
      c.designerNote ?? '',
      place?.act ?? '',
      place?.scene ?? '',
      place ? String(place.page) : '',
    ].map(harmless);
  });
  return Papa.unparse([[...CUE_FIELDS.map((f) => f.label), 'Act', 'Scene', 'Page'], ...rows], {
    newline: '\r\n',
  });
}
