/** Two states of a show side by side, in words: by section, item by item, each with the rows behind it. */
import { asRow, changeOf, fieldsOf, type Fields } from './fields-of.ts';
import { same } from '../same.ts';
import { numberRanges } from '../words.ts';
import { SECTIONS, type Section } from './define-table.ts';
import { Draft } from './draft.ts';
import { standing, withoutMissing } from './merge-fates.ts';
import { differences } from './past.ts';
import { quoted } from './plain-words.ts';
import { OWNED, ownersOf } from './references.ts';
import { settle } from './settle.ts';
import type { MutableShow, RowChange, Show } from './show.ts';
import { TABLES } from './tables.ts';
import { altered } from './undo.ts';
import { describeRow, fieldName, isHidden, isTime, sayField } from './words.ts';

/** One thing that differs, in words. */
export interface Line {
  label: string;
  before: string;
  after: string;
}
/** A row that differs between two shows. */
export interface Item {
  /** Unique in the comparison. */
  key: string;
  section: Section;
  title: string;
  how: 'added' | 'removed' | 'changed';
  lines: Line[];
  /** The rows behind it, as `table/id`. */
  rows: string[];
  /** For pictures: the cue whose look changes, or the palette. */
  cueId?: string;
  paletteId?: string;
}

const LINES_KEPT = 40;
const rowKey = (c: RowChange): string => `${c.table}/${c.id}`;

/** What is different in `to`, seen from `from`. */
export function compareShows(
  from: Show,
  to: Show,
  changes: readonly RowChange[] = differences(from, to),
): Item[] {
  const cells = new Map<string, RowChange[]>();
  const items: Item[] = [];
  for (const c of changes) {
    const key = cellsKey(c);
    if (key === undefined) items.push(...itemsOf(from, to, c));
    else {
      const own = cells.get(key) ?? [];
      own.push(c);
      cells.set(key, own);
    }
  }
  for (const [key, own] of cells) items.push(...itemOfCells(from, to, key, own));
  const order = (i: Item): number => SECTIONS.indexOf(i.section);
  return items.sort(
    (a, b) => order(a) - order(b) || a.title.localeCompare(b.title, 'en', { numeric: true }),
  );
}

/** What cells of one row are compared under: `values/cue`; undefined for other rows. */
function cellsKey(c: RowChange): string | undefined {
  const row = c.after ?? c.before;
  const { cells } = TABLES[c.table];
  return cells && row ? `${c.table}/${cells.of(row as never)}` : undefined;
}

const howOf = (changes: readonly RowChange[]): Item['how'] => {
  if (changes.every((c) => c.before === null)) return 'added';
  return changes.every((c) => c.after === null) ? 'removed' : 'changed';
};

/** All cells of one row that changed, as one item. */
function itemOfCells(from: Show, to: Show, key: string, own: readonly RowChange[]): Item[] {
  const [first] = own;
  const row = first && (first.after ?? first.before);
  const cells = first && TABLES[first.table].cells;
  if (!row || !cells) return [];
  const of = cells.of(row as never);
  const about = TABLES[first.table].about?.(row as never);
  return [
    {
      key,
      section: TABLES[first.table].section,
      title: cells.title(of, to) ?? cells.title(of, from) ?? `${first.table} of what is gone`,
      how: howOf(own),
      lines: cellLines(from, to, own),
      rows: own.map(rowKey),
      ...(about?.cueId === undefined ? {} : { cueId: about.cueId }),
    },
  ];
}

function itemsOf(from: Show, to: Show, c: RowChange): Item[] {
  const { section, pictured, says, timesApart } = TABLES[c.table];
  const row = c.after ?? c.before;
  const called = (row && says.called?.(row as never)) ?? '';
  const item: Item = {
    key: rowKey(c),
    rows: [rowKey(c)],
    ...(pictured ? { [pictured]: c.id } : {}),
    section,
    title: `${describeRow(c.after ? to : from, c.table, row)}${quoted(called)}`,
    how: howOf([c]),
    lines: [],
  };
  if (!c.before || !c.after) return [item];
  const fields = altered(c).filter((field) => !isHidden(c.table, field));
  const lines = (own: readonly string[]): Line[] => own.map((field) => lineOf(from, to, c, field));
  if (!timesApart) return [{ ...item, lines: lines(fields) }];
  // Times are what people look for on their own.
  const times = fields.filter((field) => isTime(c.table, field));
  const rest = fields.filter((field) => !isTime(c.table, field));
  return [
    ...(rest.length > 0 ? [{ ...item, lines: lines(rest) }] : []),
    ...(times.length > 0
      ? [{ ...item, key: `${item.key}/times`, section: 'times' as const, lines: lines(times) }]
      : []),
  ];
}

function lineOf(from: Show, to: Show, c: RowChange, field: string): Line {
  const label = fieldName(c.table, field);
  const before = sayField(from, c.table, field, fieldsOf(c.before)[field]);
  const after = sayField(to, c.table, field, fieldsOf(c.after)[field]);
  return before === after
    ? { label, before: 'as it was', after: 'changed' }
    : { label, before, after };
}

/** Cells of one row, with units that change alike in one line. */
function cellLines(from: Show, to: Show, own: readonly RowChange[]): Line[] {
  const alike = new Map<string, Line & { numbers: number[] }>();
  for (const c of own) {
    const { cells } = TABLES[c.table];
    const row = c.after ?? c.before;
    if (!row || !cells) continue;
    const before = cells.say(c.before as never, from);
    const after = cells.say(c.after as never, to);
    const number = cells.unit(row as never, to) ?? cells.unit(row as never, from) ?? 0;
    const label = cells.what(row as never);
    const key = `${label}|${before}|${after}`;
    const known = alike.get(key);
    if (known) known.numbers.push(number);
    else alike.set(key, { label, before, after, numbers: [number] });
  }
  const lines = [...alike.values()].map(({ label, numbers, ...line }): Line => ({
    label: `${numberRanges(numbers)} ${label}`,
    ...line,
  }));
  if (lines.length <= LINES_KEPT) return lines;
  const left = lines.length - LINES_KEPT + 1;
  return [...lines.slice(0, LINES_KEPT - 1), { label: `and ${left} more`, before: '', after: '' }];
}

/**
 * Takes items over from another state: times of a cue apart from the rest of it; what comes back or goes, with all that is
 * in it. What they lean on comes along, and numbers and addresses that are given by now are settled.
 * @param keys of items of `compareShows`
 * @returns changes to `from`, and in words what had to be settled
 */
export function takeOver(
  from: MutableShow,
  to: Show,
  keys: ReadonlySet<string>,
): { changes: RowChange[]; notes: string[] } {
  const all = differences(from, to);
  const chosen = all.flatMap((c) => chosenOf(c, keys));
  // Lists before their cues before what these set: each takes the next along.
  const whole = new Set(chosen.flatMap((c) => (c.before && c.after ? [] : [rowKey(c)])));
  const heldIn = (c: RowChange): boolean =>
    (!c.before || !c.after) &&
    [c.before, c.after].some(
      (row) => row && ownersOf(c.table, row).some((o) => whole.has(`${o.table}/${o.id}`)),
    );
  const taken = new Set(chosen.map(rowKey));
  for (const table of OWNED) {
    for (const c of all) {
      if (c.table !== table || taken.has(rowKey(c)) || !heldIn(c)) continue;
      taken.add(rowKey(c));
      whole.add(rowKey(c));
      chosen.push(c);
    }
  }
  const draft = new Draft(from);
  const notes: string[] = [];
  for (const c of chosen) draft.put(c.table, c.id, c.after);
  withoutMissing(draft, notes);
  standing(draft, [to, from], notes);
  settle(draft, to, notes);
  return { changes: draft.changes(), notes };
}

function chosenOf(c: RowChange, keys: ReadonlySet<string>): RowChange[] {
  const cells = cellsKey(c);
  if (cells !== undefined) return keys.has(cells) ? [c] : [];
  const [whole, times] = [keys.has(rowKey(c)), keys.has(`${rowKey(c)}/times`)];
  if (!TABLES[c.table].timesApart || !c.before || !c.after) return whole || times ? [c] : [];
  if (whole && times) return [c];
  if (!whole && !times) return [];
  const after: Fields = { ...c.before };
  for (const field of altered(c)) {
    if (isTime(c.table, field) !== times) continue;
    const value = fieldsOf(c.after)[field];
    if (value === undefined) delete after[field];
    else after[field] = value;
  }
  return same(c.before, after) ? [] : [changeOf(c.table, c.before, asRow(after))];
}
