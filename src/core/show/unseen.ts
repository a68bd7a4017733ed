/** Edits never overwrite unseen work: what others have changed of what an edit would write, since its author looked. */
import { asRow, changeOf, fieldsOf, type Fields } from './fields-of.ts';
import type { Unseen } from '../refusal.ts';
import { TABLES, type AnyRow } from './tables.ts';
import type { RowChange, Show } from './show.ts';
import { altered, type Change } from './undo.ts';
import { same } from '../same.ts';
import { describeRow, fieldName, sayField } from './words.ts';

/** What somebody decided of each thing that was done while they were away. */
export type Decided = Readonly<Record<string, 'mine' | 'theirs'>>;

/**
 * Judged per cue, fixture and attribute for values, per field for other rows.
 * @param since changes after the state that the author saw, oldest first
 * @param decided what the author has chosen already, by key, against the state after change `decidedAt`: `mine` is asked
 *   again where somebody has changed it since; `theirs` leaves it as it is by now
 * @returns what is still to be chosen, and the changes with others' work kept where that was chosen
 */
export function unseenBy(
  show: Show,
  planned: readonly RowChange[],
  since: readonly Change[],
  userId: string,
  decided: Decided = {},
  decidedAt = Infinity,
): { unseen: Unseen[]; changes: RowChange[] } {
  const others = since.filter((c) => c.userId !== userId);
  if (others.length === 0) return { unseen: [], changes: [...planned] };
  // By row: as the author saw it, and who touched which of its fields.
  const touched = new Map<
    string,
    { seen: AnyRow | null; by: { change: Change; row: RowChange }[] }
  >();
  for (const change of others) {
    for (const row of change.rows) {
      const key = `${row.table}/${row.id}`;
      const entry = touched.get(key) ?? { seen: row.before, by: [] };
      entry.by.push({ change, row });
      touched.set(key, entry);
    }
  }
  const unseen: Unseen[] = [];
  const changes: RowChange[] = [];
  for (const plan of planned) {
    const entry = touched.get(`${plan.table}/${plan.id}`);
    if (!entry || same(entry.seen, plan.before)) {
      changes.push(plan);
      continue;
    }
    const whole =
      TABLES[plan.table].cells !== undefined || !plan.before || !plan.after || entry.seen === null;
    const result = whole
      ? wholeRow(show, plan, entry, decided, decidedAt)
      : byField(show, plan, entry, decided, decidedAt);
    unseen.push(...result.unseen);
    if (result.change) changes.push(result.change);
  }
  return { unseen, changes };
}

interface Touched {
  seen: AnyRow | null;
  by: { change: Change; row: RowChange }[];
}

/** What others made of it after a choice was made; their first change since says what the chooser saw. */
const sinceChosen = (by: Touched['by'], decidedAt: number, field?: string): Touched['by'] =>
  by.filter(
    (b) => b.change.seq > decidedAt && (field === undefined || altered(b.row).includes(field)),
  );

function wholeRow(
  show: Show,
  plan: RowChange,
  { seen: first, by }: Touched,
  decided: Decided,
  decidedAt: number,
): { unseen: Unseen[]; change?: RowChange } {
  if (same(plan.before, plan.after)) return { unseen: [] };
  const key = `${plan.table}/${plan.id}`;
  if (decided[key] === 'theirs') return { unseen: [] };
  const [later] = decided[key] === 'mine' ? sinceChosen(by, decidedAt) : [];
  if (decided[key] === 'mine' && (!later || same(later.row.before, plan.before)))
    return { unseen: [], change: plan };
  const seen = later ? later.row.before : first;
  const say = (row: AnyRow | null): string =>
    TABLES[plan.table].cells?.say(row as never, show) ??
    (row === null ? 'not there' : 'as it stands');
  const last = by.at(-1)?.change;
  return {
    unseen: [
      {
        key,
        title: describeRow(show, plan.table, plan.before ?? plan.after ?? seen),
        seen: say(seen),
        now: say(plan.before),
        yours: plan.after === null ? 'deleted' : say(plan.after),
        who: last?.userName ?? 'somebody',
        at: last?.at ?? '',
      },
    ],
  };
}

function byField(
  show: Show,
  plan: RowChange,
  { seen, by }: Touched,
  decided: Decided,
  decidedAt: number,
): { unseen: Unseen[]; change?: RowChange } {
  const [was, now, next] = [fieldsOf(seen), fieldsOf(plan.before), fieldsOf(plan.after)];
  const unseen: Unseen[] = [];
  const after: Fields = { ...next };
  for (const field of altered(plan)) {
    // Nobody else touched this field, or it says again what the author saw.
    if (same(was[field], now[field])) continue;
    const key = `${plan.table}/${plan.id}/${field}`;
    if (decided[key] === 'theirs') {
      if (now[field] === undefined) delete after[field];
      else after[field] = now[field];
      continue;
    }
    const [later] = decided[key] === 'mine' ? sinceChosen(by, decidedAt, field) : [];
    const before = later ? fieldsOf(later.row.before)[field] : was[field];
    if (decided[key] === 'mine' && (!later || same(before, now[field]))) continue;
    const last =
      by.filter((b) => altered(b.row).includes(field)).at(-1)?.change ?? by.at(-1)?.change;
    const say = (v: unknown): string => sayField(show, plan.table, field, v);
    unseen.push({
      key,
      title: `${describeRow(show, plan.table, plan.before)}: ${fieldName(plan.table, field)}`,
      seen: say(before),
      now: say(now[field]),
      yours: say(next[field]),
      who: last?.userName ?? 'somebody',
      at: last?.at ?? '',
    });
  }
  return same(now, after)
    ? { unseen }
    : { unseen, change: changeOf(plan.table, plan.before, asRow(after)) };
}
