/**
 * Undo is the reverse of a change. It is refused, with the names of what has changed since and by whom, where it
 * would overwrite later work: judged per field of a row, not per show.
 */
import { listed } from '../words.ts';
import { asRow, changeOf, fieldsOf, type Fields } from './fields-of.ts';
import { same } from '../same.ts';
import { refuse, type Result } from '../refusal.ts';
import { doublesAfter } from './numbers.ts';
import { danglingAfter, leanersOn, leansOn } from './references.ts';
import { TABLES, type TableName } from './tables.ts';
import type { RowChange, Show } from './show.ts';
import { describeRow } from './words.ts';

/** One entry of a show's log. */
export interface Change {
  seq: number;
  editId: string;
  userId: string;
  userName: string;
  /** ISO 8601, UTC. */
  at: string;
  /** The edit's name, or `undo` / `redo`. */
  edit: string;
  summary: string;
  /** The entry that an undo or redo reverses. */
  reverts: number | null;
  rows: RowChange[];
}

/** A change without its rows. */
export type ChangeHead = Pick<Change, 'seq' | 'userId' | 'edit' | 'reverts' | 'summary'>;

/** The reverse of row changes: applied after them it gives the rows back. */
export const reverse = (rows: readonly RowChange[]): RowChange[] =>
  [...rows].reverse().map((c) => changeOf(c.table, c.after, c.before));

type Turn = Pick<Change, 'seq' | 'reverts'>;

/** Entries that are not in force, kept while a log is read: what is reversed is out, and what that had reversed is in again. */
class InForce {
  readonly gone = new Set<number>();
  private readonly reverted = new Map<number, number>();

  add({ seq, reverts }: Turn): void {
    if (reverts === null) return;
    this.reverted.set(seq, reverts);
    let out = true;
    for (let of: number | undefined = reverts; of !== undefined; of = this.reverted.get(of)) {
      if (out) this.gone.add(of);
      else this.gone.delete(of);
      out = !out;
    }
  }

  /** The change at the end of a chain of undos and redos. */
  rootOf(seq: number): number {
    const of = this.reverted.get(seq);
    return of === undefined ? seq : this.rootOf(of);
  }
}

/** Entries that are not in force: undone, and not done again since. An undo that is itself reversed is out of force in its turn. */
export function undoneIn(log: readonly Turn[]): ReadonlySet<number> {
  const state = new InForce();
  for (const c of log) state.add(c);
  return state.gone;
}

/** What a person can undo and redo: the newest entry of each, from that person's own entries in order, with every undo and redo of anybody. */
export function undoState(own: readonly ChangeHead[]): {
  undo: ChangeHead | undefined;
  redo: ChangeHead | undefined;
  done: ChangeHead[];
  undone: ChangeHead[];
} {
  const state = new InForce();
  const done: ChangeHead[] = [];
  const undone: { original: ChangeHead; by: ChangeHead }[] = [];
  /** Undone before something new was done: no longer offered, but the history can still do it again. */
  const past: ChangeHead[] = [];
  const take = (from: ChangeHead[], seq: number): ChangeHead | undefined => {
    const at = from.findIndex((c) => c.seq === seq);
    return at < 0 ? undefined : from.splice(at, 1)[0];
  };
  for (const change of own) {
    state.add(change);
    if (change.reverts === null) {
      done.push(change);
      past.push(...undone.splice(0).map((u) => u.original));
      continue;
    }
    // Also one in the middle, and also by somebody else.
    const root = state.rootOf(change.seq);
    if (state.gone.has(root)) {
      const original = take(done, root);
      if (original) undone.push({ original, by: change });
    } else {
      const at = undone.findIndex((u) => u.original.seq === root);
      const original = at < 0 ? take(past, root) : undone.splice(at, 1)[0]?.original;
      if (original) done.push(original);
    }
  }
  return {
    undo: done.at(-1),
    redo: undone.at(-1)?.by,
    done,
    undone: undone.map((u) => u.original),
  };
}

/** What a change reversed says: of an undo, that it is done again. @param whose the name of whoever made the change, where somebody else reverses it */
export function sayReversed(summary: string, whose = ''): string {
  const [, was, original] = /^(Undid|Redid)(?: .+?’s)?: (.*)$/s.exec(summary) ?? [];
  return `${was === 'Undid' ? 'Redid' : 'Undid'}${whose && !was ? ` ${whose}’s` : ''}: ${original ?? summary}`;
}

/** Fields whose values a change altered. */
export function altered(change: RowChange): string[] {
  const [before, after] = [fieldsOf(change.before), fieldsOf(change.after)];
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (k) => !same(before[k], after[k]),
  );
}

/**
 * Reverses `change` on the show as it is now. An update gives back only the fields that it altered, so later work on
 * other fields of the row stays.
 * @param later entries after `change`, to name who has changed what since
 */
export function planReverse(
  show: Show,
  change: Pick<Change, 'rows' | 'summary'>,
  later: readonly Change[],
): Result<RowChange[]> {
  const result: RowChange[] = [];
  const conflicts: string[] = [];
  const blame = (c: RowChange, fields: string[]): void => {
    const touching = later.filter((l) =>
      l.rows.some(
        (r) =>
          r.table === c.table &&
          r.id === c.id &&
          (r.before === null || r.after === null || altered(r).some((f) => fields.includes(f))),
      ),
    );
    const who = touching.at(-1)?.userName ?? 'somebody';
    conflicts.push(
      `${describeRow(show, c.table, show[c.table].get(c.id) ?? c.after ?? c.before)} (by ${who})`,
    );
  };

  for (const c of [...change.rows].reverse()) {
    const now = show[c.table].get(c.id) ?? null;
    const fields = altered(c);
    // What is nobody's work stands in nobody's way: that somebody liked a cue meanwhile (history.test.ts).
    if (TABLES[c.table].light && (!same(now, c.after) || !c.before)) continue;
    if (c.before === null || c.after === null) {
      if (same(now, c.after)) result.push(changeOf(c.table, now, c.before));
      else blame(c, fields);
      continue;
    }
    const [row, before, after] = [fieldsOf(now), fieldsOf(c.before), fieldsOf(c.after)];
    if (!now || fields.some((f) => !same(row[f], after[f]))) {
      blame(c, fields);
      continue;
    }
    const back: Fields = { ...row };
    for (const field of fields) {
      if (field in before) back[field] = before[field];
      else delete back[field];
    }
    result.push(changeOf(c.table, now, asRow(back)));
  }

  if (conflicts.length > 0) {
    const named = [...new Set(conflicts)];
    return refuse(
      'conflict',
      `“${change.summary}” cannot be undone: ${listed(named, 3)} changed since. Nothing was changed.`,
    );
  }
  const kept = withoutShared(show, result);
  const dangling = danglingAfter(show, kept) ?? doublesAfter(show, kept);
  if (dangling)
    return refuse(
      'conflict',
      `“${change.summary}” cannot be undone: ${dangling}. Nothing was changed.`,
    );
  return kept;
}

/** What came into the show with this change and others have come to lean on stays: it is nobody's work. A type, for one. */
function withoutShared(show: Show, changes: readonly RowChange[]): RowChange[] {
  const leaving = new Set(changes.flatMap((c) => (c.after === null ? [`${c.table}/${c.id}`] : [])));
  const isUsed = (table: TableName, id: string): boolean =>
    leanersOn(table).some((leaner) =>
      [...show[leaner].values()].some(
        (row) =>
          !leaving.has(`${leaner}/${row.id}`) &&
          leansOn(leaner, row).some((lean) => lean.table === table && lean.id === id),
      ),
    );
  return changes.filter(
    (c) => !(TABLES[c.table].shared && c.after === null && isUsed(c.table, c.id)),
  );
}
