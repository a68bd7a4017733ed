/** What a cell of the cue sheet says, and which rows have words that are looked for. */
import type { Family } from '../show/fields.ts';
import { formatCueNumber } from './number.ts';
import type { CueRow } from './rows.ts';
import { CELL, runsTo, type Column, type Sheet } from './sheet.ts';

/** A part of the cue sheet that is copied as text. */
export interface SheetInWords {
  sheet: Sheet;
  columns: readonly Column[];
  /** The cues of its rows, in their order. */
  cues: readonly CueRow[];
  family: Family;
}

/** A place in the sheet, from 0. */
export interface Spot {
  row: number;
  column: number;
}

const lx = (cue: CueRow | undefined): string => `LX ${formatCueNumber(cue?.number ?? 0)}`;

/** What is set at the cell where a value comes from. */
function whatIsSet({ sheet, family }: SheetInWords, source: number): string {
  const label = sheet.labels[sheet.label[source] as number] ?? '';
  if (label !== '') return label;
  if (family !== 'intensity') return 'a value';
  const percent = Math.round((sheet.level[source] as number) * 100);
  const several = ((sheet.flags[source] as number) & CELL.mixed) !== 0;
  return `${several ? 'up to ' : ''}${percent} %`;
}

const MORE: readonly (readonly [bit: number, words: string])[] = [
  [CELL.early, 'moves here already for the next cue'],
  [CELL.effect, 'with an effect'],
  [CELL.timed, 'in times of its own'],
];

/** A cell in a sentence: what shows there, where it is set, how far it carries. Empty outside of the sheet. */
export function cellWords(of: SheetInWords, { row, column }: Spot): string {
  const { sheet, columns, cues } = of;
  const cue = cues[row];
  const col = columns[column];
  if (!cue || !col) return '';
  const cell = row * sheet.columns + column;
  const flags = sheet.flags[cell] as number;
  const origin = sheet.origin[cell] as number;
  if (origin < 0) {
    const title = col.title && col.label !== col.title ? `, ${col.title}` : '';
    const released = (flags & CELL.release) !== 0;
    return `${col.label}${title} in ${lx(cue)}: ${released ? 'let go here' : 'nothing is set'}`;
  }
  const end = cues[runsTo(sheet, row, column)];
  const where = origin === row ? `set in ${lx(cue)}` : `tracks from ${lx(cues[origin])}`;
  const carries = end && end.number > cue.number ? `, carries to ${lx(end)}` : '';
  const more = MORE.filter(([bit]) => (flags & bit) !== 0).map(([, words]) => words);
  const what = whatIsSet(of, origin * sheet.columns + column);
  return `${col.label}: ${what} ${where}${carries}${more.length > 0 ? `; ${more.join(', ')}` : ''}`;
}

/** Rows whose number is this, or whose name, call or notes have these words. Nothing is found by no words. */
export function rowsWith(cues: readonly CueRow[], search: string): number[] {
  const wanted = search.trim().toLowerCase();
  if (wanted === '') return [];
  return cues.flatMap((c, i) => {
    const words = [c.name, c.call, c.note, c.operatorNote ?? '', c.designerNote ?? ''];
    const has =
      formatCueNumber(c.number) === wanted || words.join(' ').toLowerCase().includes(wanted);
    return has ? [i] : [];
  });
}

/** @returns whether a spot is in the box between two others, both ends in it */
export const within = (
  box: { row: number; column: number; toRow: number; toColumn: number },
  { row, column }: Spot,
): boolean =>
  row >= Math.min(box.row, box.toRow) &&
  row <= Math.max(box.row, box.toRow) &&
  column >= Math.min(box.column, box.toColumn) &&
  column <= Math.max(box.column, box.toColumn);
