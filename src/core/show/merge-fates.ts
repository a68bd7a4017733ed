/**
 * Merging where one side deleted what the other went on with. What owns rows (a list, a script, a cue, a fixture) is
 * decided as a whole, with all that is its own; what something still leans on stays.
 */
import { same } from '../same.ts';
import { plural } from '../words.ts';
import type { Draft } from './draft.ts';
import { leanersOn, leansOn, OWNED, OWNERS, ownersOf, withoutMembers } from './references.ts';
import type { Show } from './show.ts';
import { TABLES, rowsIn, tablesThat, type AnyRow, type TableName } from './tables.ts';
import { describeRow } from './words.ts';

/** Whose of two shows. */
export type Side = 'ours' | 'theirs';
/** Asks, or follows a rule. @returns the side that is taken; ours where nobody has decided */
export type Decide = (
  table: TableName,
  id: string,
  path: string[],
  row: AnyRow,
  words: { title: string; base: string; ours: string; theirs: string },
) => Side;

/** Stays as this side has it, or goes. */
type Fate = { keeper: Side } | 'gone';

/** Owned rows whose changes are work on what they belong to. */
const WORK = OWNED.filter((table) => !TABLES[table].light);

/** The rows that a row belongs to, and those that these belong to. */
function aboveIn(show: Show, table: TableName, row: AnyRow): string[] {
  return ownersOf(table, row).flatMap(({ table: of, id }) => {
    const owner = show[of].get(id);
    return [`${of}/${id}`, ...(owner ? aboveIn(show, of, owner) : [])];
  });
}

/** Owners that a side has worked on since, by what it changed in them. What goes along with a deletion is no work. */
function workedOn(base: Show, side: Show): Set<string> {
  const worked = new Set<string>();
  for (const table of OWNERS)
    for (const [id, row] of rowsIn(side, table))
      if (!same(rowsIn(base, table).get(id) ?? null, row)) worked.add(`${table}/${id}`);
  for (const table of WORK) {
    for (const id of new Set([...rowsIn(base, table).keys(), ...rowsIn(side, table).keys()])) {
      const [b, s] = [rowsIn(base, table).get(id) ?? null, rowsIn(side, table).get(id) ?? null];
      const row = s ?? b;
      if (!row || b === s || same(b, s)) continue;
      const wentAlong = !s && ownersOf(table, row).some((o) => !rowsIn(side, o.table).has(o.id));
      if (!wentAlong) for (const key of aboveIn(side, table, row)) worked.add(key);
    }
  }
  return worked;
}

/** What becomes of owners that one side deleted. */
export class Fates {
  readonly of = new Map<string, Fate>();

  constructor(
    private readonly base: Show,
    ours: Show,
    theirs: Show,
    private readonly decide: Decide,
  ) {
    const gone = OWNERS.some((table) =>
      [...rowsIn(base, table).keys()].some(
        (id) => rowsIn(ours, table).has(id) !== rowsIn(theirs, table).has(id),
      ),
    );
    if (!gone) return;
    const worked = { ours: workedOn(base, ours), theirs: workedOn(base, theirs) };
    for (const table of OWNERS) {
      for (const id of rowsIn(base, table).keys()) {
        if (rowsIn(ours, table).has(id) === rowsIn(theirs, table).has(id)) continue;
        const keeper: Side = rowsIn(ours, table).has(id) ? 'ours' : 'theirs';
        const row = rowsIn(keeper === 'ours' ? ours : theirs, table).get(id);
        if (!row || this.ofOwner(table, row)) continue;
        const isWork = worked[keeper].has(`${table}/${id}`);
        this.of.set(`${table}/${id}`, isWork ? this.ask(table, id, row, keeper) : 'gone');
      }
      // An owner that is itself owned goes the way of its own owner, also where it came to it since: cues of a list.
      for (const show of [ours, theirs, base])
        for (const row of show[table].values()) {
          const owner = this.ofOwner(table, row);
          if (owner && !this.of.has(`${table}/${row.id}`)) this.of.set(`${table}/${row.id}`, owner);
        }
    }
  }

  private ofOwner(table: TableName, row: AnyRow): Fate | undefined {
    return ownersOf(table, row)
      .map((o) => this.of.get(`${o.table}/${o.id}`))
      .find((fate) => fate !== undefined);
  }

  /** One side deleted what the other went on with. */
  private ask(table: TableName, id: string, row: AnyRow, keeper: Side): Fate {
    const was = rowsIn(this.base, table).get(id);
    const kept = same(was, row) ? 'worked on since' : 'changed';
    const side = this.decide(table, id, [], row, {
      title: describeRow(this.base, table, was ?? row),
      base: 'as it was',
      ours: keeper === 'ours' ? kept : 'deleted',
      theirs: keeper === 'theirs' ? kept : 'deleted',
    });
    return side === keeper ? { keeper } : 'gone';
  }

  /** The row as it is after the merge, null where it goes; undefined where its own change decides. */
  decided(
    table: TableName,
    id: string,
    b: AnyRow | null,
    o: AnyRow | null,
    t: AnyRow | null,
  ): AnyRow | null | undefined {
    if (this.of.size === 0) return undefined;
    const own = this.of.get(`${table}/${id}`);
    const row = o ?? t ?? b;
    const owners = row ? ownersOf(table, row) : [];
    const fates = own
      ? [own]
      : owners.flatMap((owner) => this.of.get(`${owner.table}/${owner.id}`) ?? []);
    if (fates.length === 0) return undefined;
    let found: AnyRow | null = null;
    for (const fate of fates) {
      if (fate === 'gone') return null;
      found ??= fate.keeper === 'ours' ? o : t;
    }
    // Each side deleted one of the two that hold it, and both stay.
    return found ?? (new Set(fates.map((f) => f !== 'gone' && f.keeper)).size > 1 ? b : null);
  }

  /** Rows that stay against a deletion. */
  kept(): { table: TableName; id: string; keeper: Side }[] {
    return [...this.of].flatMap(([key, fate]) =>
      fate === 'gone' ? [] : [{ ...keyed(key), keeper: fate.keeper }],
    );
  }
}

const keyed = (key: string): { table: TableName; id: string } => {
  const at = key.indexOf('/');
  return { table: key.slice(0, at) as TableName, id: key.slice(at + 1) };
};

const WITH_MEMBERS = tablesThat((t) => t.members);
const LOOSENED = tablesThat((t) => t.loosened);

/** What stays against a deletion keeps its places among members: in groups, palettes, looks, layouts and parts. */
export function rejoin(
  draft: Draft,
  sides: Readonly<Record<Side, Show>>,
  kept: ReturnType<Fates['kept']>,
): void {
  for (const { table: of, id, keeper } of kept) {
    for (const table of WITH_MEMBERS) {
      const members = (TABLES[table].members ?? []).filter((m) => m.to.some((to) => to === of));
      if (members.length === 0) continue;
      for (const from of rowsIn(sides[keeper], table).values()) {
        const now = rowsIn(draft.after, table).get(from.id);
        if (!now) continue;
        const again = members.reduce<AnyRow>(
          (row, m) => m.rejoin(row as never, from as never, id),
          now,
        );
        if (again !== now) draft.put(table, from.id, again);
      }
    }
  }
}

/** Members that are gone are no members, and a link to a cue that is gone leads nowhere. */
export function withoutMissing(draft: Draft, notes: string[]): void {
  const { after } = draft;
  for (const table of WITH_MEMBERS) {
    for (const row of [...after[table].values()]) {
      const left = withoutMembers(table, row, (to, id) => after[to].has(id));
      if (left !== row) draft.put(table, row.id, left);
    }
  }
  for (const table of LOOSENED) {
    const { loosened, sayLoosened } = TABLES[table];
    for (const row of [...after[table].values()]) {
      const left = loosened?.(row as never, (to, id) => after[to].has(id)) ?? row;
      if (left === row) continue;
      draft.put(table, row.id, left);
      if (sayLoosened) notes.push(sayLoosened(row as never, after));
    }
  }
}

/** What something leans on stays or comes along, from the first of `shows` that has it, and that is said. @param though why it might not be there */
export function standing(draft: Draft, shows: readonly Show[], notes: string[], though = ''): void {
  const { after } = draft;
  const stays = new Map<string, number>();
  const count = (key: string): void => {
    const uses = stays.get(key);
    if (uses !== undefined) stays.set(key, uses + 1);
  };
  const stand = (table: TableName, row: AnyRow): void => {
    for (const lean of leansOn(table, row)) {
      const key = `${lean.table}/${lean.id}`;
      if (after[lean.table].has(lean.id) || (lean.or && after[lean.or].has(lean.id))) {
        count(key);
        continue;
      }
      const back = shows.map((s) => s[lean.table].get(lean.id)).find((r) => r !== undefined);
      if (!back) continue;
      draft.put(lean.table, lean.id, back);
      stays.set(key, 0);
      stand(lean.table, back);
      count(key);
    }
  };
  for (const c of draft.changes()) if (c.after) stand(c.table, c.after);
  // A deletion of theirs may take away what a row of ours leans on that is as it was.
  const gone = new Set(draft.changes().flatMap((c) => (c.after === null ? [c.table] : [])));
  const leaning = new Set(
    [...gone].flatMap((table) => (OWNERS.includes(table) ? [] : leanersOn(table))),
  );
  for (const table of leaning)
    for (const row of [...after[table].values()]) if (!draft.has(table, row.id)) stand(table, row);
  for (const [key, uses] of stays) {
    const { table, id } = keyed(key);
    const row = after[table].get(id);
    if (row)
      notes.push(
        `${describeRow(after, table, row)} is kept${though}: ${plural(uses, 'thing')} ${uses === 1 ? 'uses' : 'use'} it.`.replace(
          /^./,
          (c) => c.toUpperCase(),
        ),
      );
  }
}
