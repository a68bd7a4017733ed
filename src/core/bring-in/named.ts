/** Groups, palettes, looks and effects: ours of that name and family, or theirs brought in with all that they follow. */
import type { LookItem, LookRow } from '../looks/rows.ts';
import type { PaletteRow } from '../palettes/rows.ts';
import type { AnyRow } from '../show/tables.ts';
import { add, freeNumber, isAble, type Coming } from './coming.ts';

/** What people know by its name, so that a row of the same name asks whether it is the same. */
export const NAMED_TABLES = ['groups', 'palettes', 'effects', 'looks'] as const;
type NamedTable = (typeof NAMED_TABLES)[number];
/** What rows of these tables have in common; only palettes have a family. */
interface NamedRow {
  id: string;
  name: string;
  number: number;
  family?: string;
}

const rowsOf = (show: Coming['ours'], table: NamedTable): ReadonlyMap<string, NamedRow> =>
  show[table];

/** Ours that stands for members of theirs: groups within groups, and fixtures. */
function membersHere(c: Coming, ids: readonly string[]): string[] {
  return ids.flatMap((id) => {
    const own = c.theirs.groups.has(id) ? bring(c, 'groups', id) : c.fixtures.get(id);
    return own ?? [];
  });
}

/** A record by theirs as a record by ours, without what nothing stands for. */
const keyed = <V>(
  record: Readonly<Record<string, V>>,
  ownOf: (id: string) => string | null | undefined,
): Record<string, V> =>
  Object.fromEntries(
    Object.entries(record).flatMap(([id, value]) => {
      const own = ownOf(id);
      return own ? [[own, value] as const] : [];
    }),
  );

function paletteHere(c: Coming, { order: _order, ...palette }: PaletteRow): Omit<PaletteRow, 'id'> {
  return {
    ...palette,
    fixtures: keyed(palette.fixtures, (id) => c.fixtures.get(id)),
    ...(palette.groups ? { groups: keyed(palette.groups, (id) => bring(c, 'groups', id)) } : {}),
  };
}

function itemHere(c: Coming, item: LookItem): LookItem | undefined {
  if (item.kind === 'level') {
    const own = c.fixtures.get(item.fixtureId);
    return own && isAble(c, item.fixtureId, item.attribute)
      ? { ...item, fixtureId: own }
      : undefined;
  }
  if (item.kind === 'look') {
    const look = bring(c, 'looks', item.look);
    return look ? { ...item, look } : undefined;
  }
  const members = membersHere(c, item.members);
  if (members.length === 0) return undefined;
  if (item.kind === 'palette') {
    const palette = bring(c, 'palettes', item.palette);
    return palette ? { ...item, palette, members } : undefined;
  }
  const effect = bring(c, 'effects', item.effect);
  return effect ? { ...item, effect, members } : undefined;
}

const lookHere = (c: Coming, look: LookRow): Omit<LookRow, 'id'> => ({
  ...look,
  items: look.items.flatMap((item) => itemHere(c, item) ?? []),
});

/** The row as it stands here, before it has its own id and number. */
function rowHere(c: Coming, table: NamedTable, id: string): object | undefined {
  const { groups, palettes, effects, looks } = c.theirs;
  switch (table) {
    case 'groups': {
      const group = groups.get(id);
      return group && { ...group, fixtures: membersHere(c, group.fixtures) };
    }
    case 'palettes': {
      const palette = palettes.get(id);
      return palette && paletteHere(c, palette);
    }
    case 'effects':
      return effects.get(id);
    case 'looks': {
      const look = looks.get(id);
      return look && lookHere(c, look);
    }
  }
}

/** The id here of a row of theirs: ours of the same name, or one that is brought in; undefined where they have none. */
export function bring(c: Coming, table: NamedTable, id: string): string | undefined {
  const key = `${table}/${id}`;
  const known = c.known.get(key);
  if (known !== undefined) return known;
  const row = rowsOf(c.theirs, table).get(id);
  if (!row) return undefined;
  const twin = [...rowsOf(c.ours, table).values()].find(
    (r) => r.name.toLowerCase() === row.name.toLowerCase() && r.family === row.family,
  );
  if (twin) {
    c.known.set(key, twin.id);
    c.notes.push(`${table.slice(0, -1)} “${row.name}” is here already; ours is used.`);
    return twin.id;
  }
  const own = c.newId();
  // Known before what it follows is brought in: looks may come round to it.
  c.known.set(key, own);
  const number = freeNumber(c, table, row.number);
  add(c, table, { ...rowHere(c, table, id), id: own, number } as AnyRow);
  return own;
}
