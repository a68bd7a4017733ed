/**
 * Merging where one side deleted what the other went on with. A list, a script, a cue and a fixture are each decided as a
 * whole, with all that is theirs; what something still leans on stays.
 */
import { plural } from '../words.ts';
import type { Draft } from './draft.ts';
import type { AnyRow, RowOf, TableName } from './tables.ts';
import type { LookItem } from '../looks/rows.ts';
import type { ValueRow } from '../cues/rows.ts';
import { LEANERS, leansOn } from './references.ts';
import type { Show } from './show.ts';
import { same } from '../same.ts';
import { describeRow } from './words.ts';

export type Side = 'ours' | 'theirs';
/** Asks, or follows a rule. @returns the side that is taken; ours where nobody has decided */
export type Decide = (
  table: TableName,
  id: string,
  path: string[],
  row: AnyRow,
  words: { title: string; base: string; ours: string; theirs: string },
) => Side;

/** What holds other rows, and what it holds goes and stays with it. */
const HOLDERS = ['lists', 'scripts', 'fixtures', 'cues'] as const;
type Holder = (typeof HOLDERS)[number];
/** Stays as this side has it, or goes. */
type Fate = { keeper: Side } | 'gone';

export function holdersOf(table: TableName, row: AnyRow): [Holder, string][] {
  switch (table) {
    case 'cues':
      return [['lists', (row as RowOf['cues']).listId]];
    case 'faders': {
      const { holds } = row as RowOf['faders'];
      return holds.kind === 'list' ? [['lists', holds.id]] : [];
    }
    case 'values':
      return [
        ['cues', (row as ValueRow).cueId],
        ['fixtures', (row as ValueRow).fixtureId],
      ];
    case 'calls':
      return [
        ['cues', (row as RowOf['calls']).cueId],
        ['scripts', (row as RowOf['calls']).scriptId],
      ];
    case 'prompts':
      return [['scripts', (row as RowOf['prompts']).scriptId]];
    case 'likes':
      return [['cues', (row as RowOf['likes']).cueId]];
    default:
      return [];
  }
}

/** Holders that a side has worked on since, by what it changed in them. What goes along with a deletion is no work. */
function workedOn(base: Show, side: Show): Set<string> {
  const worked = new Set<string>();
  for (const table of HOLDERS)
    for (const [id, row] of side[table])
      if (!same(base[table].get(id) ?? null, row)) worked.add(`${table}/${id}`);
  for (const table of ['values', 'calls', 'cues', 'faders'] as const) {
    const [was, now] = [base[table], side[table]] as ReadonlyMap<string, AnyRow>[];
    for (const id of new Set([...(was?.keys() ?? []), ...(now?.keys() ?? [])])) {
      const [b, s] = [was?.get(id) ?? null, now?.get(id) ?? null];
      const row = s ?? b;
      if (!row || b === s || same(b, s)) continue;
      const holders = holdersOf(table, row);
      if (!s && holders.some(([t, h]) => !side[t].has(h))) continue;
      for (const [t, h] of holders) {
        worked.add(`${t}/${h}`);
        if (t === 'cues') worked.add(`lists/${side.cues.get(h)?.listId ?? ''}`);
      }
    }
  }
  return worked;
}

/** What becomes of lists, scripts, fixtures and cues that one side deleted. */
export class Fates {
  readonly of = new Map<string, Fate>();

  constructor(base: Show, ours: Show, theirs: Show, decide: Decide) {
    const gone = HOLDERS.some((table) =>
      [...base[table].keys()].some((id) => ours[table].has(id) !== theirs[table].has(id)),
    );
    if (!gone) return;
    const worked = { ours: workedOn(base, ours), theirs: workedOn(base, theirs) };
    for (const table of HOLDERS) {
      for (const id of base[table].keys()) {
        const keeper: Side = ours[table].has(id) ? 'ours' : 'theirs';
        const row = (keeper === 'ours' ? ours : theirs)[table].get(id);
        if (!row || (ours[table].has(id) && theirs[table].has(id))) continue;
        const list =
          table === 'cues' ? this.of.get(`lists/${(row as RowOf['cues']).listId}`) : undefined;
        if (list) continue;
        this.of.set(
          `${table}/${id}`,
          this.decide(table, id, row, base, keeper, worked[keeper].has(`${table}/${id}`), decide),
        );
      }
    }
    // All cues of a list go the way of the list, also those that came to it since.
    for (const show of [ours, theirs, base]) {
      for (const cue of show.cues.values()) {
        const list = this.of.get(`lists/${cue.listId}`);
        if (list && !this.of.has(`cues/${cue.id}`)) this.of.set(`cues/${cue.id}`, list);
      }
    }
  }

  private decide(
    table: Holder,
    id: string,
    row: AnyRow,
    base: Show,
    keeper: Side,
    worked: boolean,
    decide: Decide,
  ): Fate {
    if (!worked) return 'gone';
    const was = base[table].get(id);
    const kept = same(was, row) ? 'worked on since' : 'changed';
    const side = decide(table, id, [], row, {
      title: describeRow(base, table, was ?? row),
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
    const fates = own
      ? [own]
      : row
        ? holdersOf(table, row).flatMap(([h, holder]) => this.of.get(`${h}/${holder}`) ?? [])
        : [];
    if (fates.length === 0) return undefined;
    let found: AnyRow | null = null;
    for (const fate of fates) {
      if (fate === 'gone') return null;
      found ??= fate.keeper === 'ours' ? o : t;
    }
    // Each side deleted one of the two that hold it, and both stay.
    return found ?? (new Set(fates.map((f) => f !== 'gone' && f.keeper)).size > 1 ? b : null);
  }

  keptFixtures(): { id: string; keeper: Side }[] {
    return [...this.of].flatMap(([key, fate]) =>
      key.startsWith('fixtures/') && fate !== 'gone'
        ? [{ id: key.slice('fixtures/'.length), keeper: fate.keeper }]
        : [],
    );
  }
}

/** A fixture that stays against a deletion keeps its places in groups, palettes, looks, layouts and parts. */
export function rejoin(
  draft: Draft,
  sides: Record<Side, Show>,
  kept: readonly { id: string; keeper: Side }[],
): void {
  for (const { id, keeper } of kept) {
    const from = sides[keeper];
    for (const table of ['groups', 'parts'] as const) {
      for (const row of from[table].values()) {
        const now = draft.after[table].get(row.id);
        if (now && row.fixtures.includes(id) && !now.fixtures.includes(id))
          draft.put(table, row.id, { ...now, fixtures: [...now.fixtures, id] });
      }
    }
    for (const row of from.palettes.values()) {
      const now = draft.after.palettes.get(row.id);
      const own = row.fixtures[id];
      if (now && own && !now.fixtures[id])
        draft.put('palettes', row.id, { ...now, fixtures: { ...now.fixtures, [id]: own } });
    }
    for (const row of from.layouts.values()) {
      const now = draft.after.layouts.get(row.id);
      const place = row.places?.[id];
      if (now && place && !now.places?.[id])
        draft.put('layouts', row.id, { ...now, places: { ...now.places, [id]: place } });
    }
    for (const row of from.looks.values()) {
      const now = draft.after.looks.get(row.id);
      if (now) draft.put('looks', row.id, { ...now, items: withFixture(now.items, row.items, id) });
    }
  }
}

function withFixture(now: readonly LookItem[], from: readonly LookItem[], id: string): LookItem[] {
  const items = [...now];
  for (const item of from) {
    if (item.kind === 'look') continue;
    if (item.kind === 'level') {
      if (
        item.fixtureId === id &&
        !items.some(
          (i) => i.kind === 'level' && i.fixtureId === id && i.attribute === item.attribute,
        )
      )
        items.push(item);
      continue;
    }
    if (!item.members.includes(id)) continue;
    const at = items.findIndex(
      (i) =>
        (i.kind === 'palette' && item.kind === 'palette' && i.palette === item.palette) ||
        (i.kind === 'effect' && item.kind === 'effect' && i.effect === item.effect),
    );
    const there = items[at];
    if (there && 'members' in there)
      items[at] = there.members.includes(id)
        ? there
        : { ...there, members: [...there.members, id] };
    else items.push({ ...item, members: [id] });
  }
  return items;
}

/** Members that are gone are no members, and a link to a cue that is gone leads nowhere. */
export function withoutMissing(draft: Draft, notes: string[]): void {
  const { after } = draft;
  const there = (id: string): boolean => after.fixtures.has(id) || after.groups.has(id);
  for (const row of [...after.groups.values()])
    if (!row.fixtures.every(there))
      draft.put('groups', row.id, { ...row, fixtures: row.fixtures.filter(there) });
  for (const row of [...after.looks.values()]) {
    const items = row.items.flatMap((i): LookItem[] => {
      if (i.kind === 'look') return [i];
      if (i.kind === 'level') return after.fixtures.has(i.fixtureId) ? [i] : [];
      const members = i.members.filter(there);
      return members.length > 0 ? [{ ...i, members }] : [];
    });
    draft.put('looks', row.id, { ...row, items });
  }
  for (const cue of [...after.cues.values()]) {
    if (!cue.link || after.cues.has(cue.link.to)) continue;
    const { link, ...rest } = cue;
    void link;
    draft.put('cues', cue.id, rest);
    notes.push(
      `The link of ${describeRow(after, 'cues', cue)} is gone: the cue that it led to is.`,
    );
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
    for (const lean of leansOn(table, row as never)) {
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
    [...gone].flatMap((table) =>
      (HOLDERS as readonly TableName[]).includes(table) ? [] : (LEANERS[table] ?? []),
    ),
  );
  for (const table of leaning)
    for (const row of [...(after[table] as ReadonlyMap<string, AnyRow>).values()])
      if (!draft.has(table, row.id)) stand(table, row);
  for (const [key, uses] of stays) {
    const [table, id] = key.split(/\/(.*)/s) as [TableName, string];
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
