/** Parts of another show brought into this one: cues, palettes, groups, looks, effects, fixtures, with fixtures mapped onto ours. */
import { changeOf } from '../show/fields-of.ts';
import { formatCueNumber, freeCueNumber, LAST_CUE } from '../cues/number.ts';
import { plural } from '../words.ts';
import { refuse, type Refusal } from '../refusal.ts';
import { nextNumber } from '../rig/addresses.ts';
import { modeOf } from '../fixtures/points.ts';
import { attributesOf } from '../rig/attributes.ts';
import { takeNumber } from '../show/numbers.ts';
import { valueId } from '../cues/rows.ts';
import type { AnyRow, TableName } from '../show/tables.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { LookItem } from '../looks/rows.ts';
import type { RowChange, Show } from '../show/show.ts';

export const MAPPINGS = ['number', 'type', 'position'] as const;
export type Mapping = (typeof MAPPINGS)[number];

/** Metres: nearer than this two units hang in the same place. */
const SAME_PLACE_M = 1.5;

/**
 * Which fixture of ours stands for which of theirs; null where none does.
 * By number; by type, in the order of numbers among units of one type; by position, the nearest free unit.
 */
export function mapFixtures(
  ours: Show,
  theirs: Show,
  by: Mapping,
  ids: Iterable<string> = theirs.fixtures.keys(),
): Map<string, string | null> {
  const map = new Map<string, string | null>();
  const wanted = [...ids]
    .flatMap((id) => theirs.fixtures.get(id) ?? [])
    .sort((a, b) => a.number - b.number);
  const free = new Set(ours.fixtures.keys());
  const typeName = (show: Show, f: FixtureRow): string => {
    const type = show.types.get(f.typeId);
    return type ? `${type.maker} ${type.name}`.toLowerCase() : '';
  };
  const byNumber = [...ours.fixtures.values()].sort((a, b) => a.number - b.number);
  for (const fixture of wanted) {
    let found: FixtureRow | undefined;
    if (by === 'number') found = ours.fixtureByNumber(fixture.number);
    else if (by === 'type')
      found = byNumber.find(
        (f) => free.has(f.id) && typeName(ours, f) === typeName(theirs, fixture),
      );
    else {
      const away = (f: FixtureRow): number =>
        Math.hypot(
          f.position.x - fixture.position.x,
          f.position.y - fixture.position.y,
          f.position.z - fixture.position.z,
        );
      found = byNumber
        .filter((f) => free.has(f.id) && away(f) <= SAME_PLACE_M)
        .sort((a, b) => away(a) - away(b))[0];
    }
    if (found) free.delete(found.id);
    map.set(fixture.id, found?.id ?? null);
  }
  return map;
}

export interface Wanted {
  cues: string[];
  /** Our list that the cues go into. */
  listId: string;
  palettes: string[];
  groups: string[];
  looks: string[];
  effects: string[];
  /** Fixtures to be made new, off the rig, where nothing of ours stands for them. */
  fixtures: string[];
}

/** Why a mapping cannot be followed: it leads to nothing, or two of theirs would write into one of ours. */
function unclearMapping(
  ours: Show,
  theirs: Show,
  mapping: ReadonlyMap<string, string | null>,
): Refusal | undefined {
  const taken = new Map<string, string>();
  for (const [id, own] of mapping) {
    if (own === null) continue;
    const here = ours.fixtures.get(own);
    if (!here)
      return refuse(
        'not-found',
        'A fixture that others should stand for has been deleted meanwhile. Choose the mapping again; nothing was changed.',
      );
    const other = taken.get(own);
    const number = (x: string): number | string => theirs.fixtures.get(x)?.number ?? '?';
    if (other !== undefined)
      return refuse(
        'clash',
        `Fixture ${here.number} here would stand for both ${number(other)} and ${number(id)} there. Choose one of them; nothing was changed.`,
      );
    taken.set(own, id);
  }
  return undefined;
}

/**
 * Row changes that bring them in. What a cue or look follows comes along: its palettes, looks and effects, unless ours
 * have one of that name and family already.
 * @param mapping theirs to ours; null or absent: left out
 */
export function importParts(
  ours: Show,
  theirs: Show,
  wanted: Wanted,
  mapping: ReadonlyMap<string, string | null>,
  newId: () => string,
): { changes: RowChange[]; summary: string; notes: string[] } | Refusal {
  if (wanted.cues.length > 0 && !ours.lists.has(wanted.listId))
    return refuse('not-found', 'The list that the cues should go into has been deleted.', {
      listId: 'Gone.',
    });
  const unclear = unclearMapping(ours, theirs, mapping);
  if (unclear) return unclear;
  const changes: RowChange[] = [];
  const notes: string[] = [];
  const add = (table: TableName, row: AnyRow): void =>
    void changes.push(changeOf(table, null, row));
  const fixtures = new Map(mapping);
  const counters = new Map<TableName, Set<number>>();
  const freeNumber = (table: TableName, wish: number): number => {
    const taken =
      counters.get(table) ??
      new Set(
        [...(ours[table] as ReadonlyMap<string, { number: number }>).values()].map((r) => r.number),
      );
    counters.set(table, taken);
    return takeNumber(taken, wish);
  };

  let newFixtures = 0;
  for (const id of wanted.fixtures) {
    const fixture = theirs.fixtures.get(id);
    if (!fixture || fixtures.get(id)) continue;
    const type = theirs.types.get(fixture.typeId);
    if (!type) continue;
    const ownType =
      ours.types.has(type.id) || changes.some((c) => c.table === 'types' && c.id === type.id);
    if (!ownType) add('types', type);
    const number = freeNumber(
      'fixtures',
      ours.fixtureByNumber(fixture.number) ? nextNumber(ours) : fixture.number,
    );
    const { circuitId, ...rest } = fixture;
    void circuitId;
    const row: FixtureRow = {
      ...rest,
      id: newId(),
      number,
      patch: [],
      ...(fixture.patch.length > 0 ? { wasAt: fixture.patch } : {}),
    };
    add('fixtures', row);
    fixtures.set(id, row.id);
    newFixtures++;
  }
  const fixtureHere = (id: string): FixtureRow | undefined => {
    const own = fixtures.get(id);
    if (!own) return undefined;
    return (
      ours.fixtures.get(own) ??
      (changes.find((c) => c.table === 'fixtures' && c.id === own)?.after as FixtureRow | undefined)
    );
  };
  const typesHere = {
    types: new Map([
      ...ours.types,
      ...changes.flatMap((c) => (c.table === 'types' && c.after ? [[c.id, c.after] as const] : [])),
    ]),
  };
  const able = (id: string, attribute: string): boolean => {
    const fixture = fixtureHere(id);
    const mode = fixture ? modeOf(typesHere, fixture) : undefined;
    return mode !== undefined && attributesOf(mode).includes(attribute);
  };

  const known = new Map<string, string | undefined>();
  /** Ours for theirs: the same name, or one that is brought in. */
  const bring = (
    table: 'groups' | 'palettes' | 'looks' | 'effects',
    id: string,
  ): string | undefined => {
    const key = `${table}/${id}`;
    if (known.has(key)) return known.get(key);
    const row = theirs[table].get(id);
    if (!row) return undefined;
    const twin = [
      ...(
        ours[table] as ReadonlyMap<string, { id: string; name: string; family?: string }>
      ).values(),
    ].find(
      (r) =>
        r.name.toLowerCase() === row.name.toLowerCase() &&
        r.family === (row as { family?: string }).family,
    );
    if (twin) {
      known.set(key, twin.id);
      notes.push(`${table.slice(0, -1)} “${row.name}” is here already; ours is used.`);
      return twin.id;
    }
    const own = newId();
    known.set(key, own);
    const number = freeNumber(table, row.number);
    const member = (m: string): string | undefined =>
      theirs.groups.has(m) ? bring('groups', m) : (fixtures.get(m) ?? undefined);
    const members = (list: readonly string[]): string[] => list.flatMap((m) => member(m) ?? []);
    if (table === 'groups')
      add('groups', {
        ...theirs.groups.get(id),
        id: own,
        number,
        fixtures: members(theirs.groups.get(id)?.fixtures ?? []),
      } as AnyRow);
    else if (table === 'palettes') {
      const palette = theirs.palettes.get(id);
      if (!palette) return undefined;
      const mapped = Object.fromEntries(
        Object.entries(palette.fixtures).flatMap(([f, values]) =>
          fixtures.get(f) ? [[fixtures.get(f) as string, values]] : [],
        ),
      );
      const groups = Object.fromEntries(
        Object.entries(palette.groups ?? {}).flatMap(([g, values]) => {
          const here = bring('groups', g);
          return here ? [[here, values]] : [];
        }),
      );
      const { order, ...rest } = palette;
      void order;
      add('palettes', {
        ...rest,
        id: own,
        number,
        fixtures: mapped,
        ...(palette.groups ? { groups } : {}),
      });
    } else if (table === 'effects')
      add('effects', { ...theirs.effects.get(id), id: own, number } as AnyRow);
    else {
      const items = (theirs.looks.get(id)?.items ?? []).flatMap((item): LookItem[] => {
        if (item.kind === 'level')
          return fixtures.get(item.fixtureId) && able(item.fixtureId, item.attribute)
            ? [{ ...item, fixtureId: fixtures.get(item.fixtureId) as string }]
            : [];
        if (item.kind === 'look') {
          const here = bring('looks', item.look);
          return here ? [{ ...item, look: here }] : [];
        }
        const those = members(item.members);
        if (those.length === 0) return [];
        if (item.kind === 'palette') {
          const here = bring('palettes', item.palette);
          return here ? [{ ...item, palette: here, members: those }] : [];
        }
        const here = bring('effects', item.effect);
        return here ? [{ ...item, effect: here, members: those }] : [];
      });
      add('looks', { ...theirs.looks.get(id), id: own, number, items } as AnyRow);
    }
    return own;
  };
  for (const table of ['groups', 'palettes', 'effects', 'looks'] as const)
    for (const id of wanted[table]) bring(table, id);

  const taken = new Set(ours.cuesOf(wanted.listId).map((c) => c.number));
  const cueIds = new Map<string, string>();
  const incoming = wanted.cues
    .flatMap((id) => theirs.cues.get(id) ?? [])
    .sort(
      (a, b) =>
        (theirs.lists.get(a.listId)?.number ?? 0) - (theirs.lists.get(b.listId)?.number ?? 0) ||
        a.number - b.number,
    );
  for (const cue of incoming) cueIds.set(cue.id, newId());
  const last = Math.max(0, ...taken);
  const lowest = Math.min(...incoming.map((c) => c.number));
  const shift = incoming.some((c) => taken.has(c.number))
    ? (Math.floor(last / 1000) + 1) * 1000 - Math.floor(lowest / 1000) * 1000
    : 0;
  // Cues of two lists may have one number.
  const numbers = new Map<string, number>();
  for (const cue of incoming) {
    const number = freeCueNumber(taken, cue.number + shift);
    taken.add(number);
    numbers.set(cue.id, number);
    if (number !== cue.number + shift)
      notes.push(
        `Cue ${formatCueNumber(cue.number)} “${cue.name}” comes in as ${formatCueNumber(number)}: another one that comes in has its number.`,
      );
  }
  if (Math.max(0, ...numbers.values()) > LAST_CUE)
    return refuse(
      'limit',
      `The cues would go beyond ${formatCueNumber(LAST_CUE)}, where cue numbers end. Bring them into another list, or renumber first; nothing was changed.`,
    );
  if (shift !== 0 && incoming[0])
    notes.push(
      `The cues go to the end, from ${formatCueNumber(lowest + shift)}: some of their numbers are taken here.`,
    );
  let left = 0;
  for (const cue of incoming) {
    const id = cueIds.get(cue.id) as string;
    const { link, actions, ...rest } = cue;
    const to = link ? cueIds.get(link.to) : undefined;
    if (link && !to)
      notes.push(
        `The link of cue ${formatCueNumber(cue.number)} leads out of what is brought in, and is left out.`,
      );
    if (actions && actions.length > 0)
      notes.push(
        `Actions of cue ${formatCueNumber(cue.number)} point at things of the other show, and are left out.`,
      );
    add('cues', {
      ...rest,
      id,
      listId: wanted.listId,
      number: numbers.get(cue.id) ?? cue.number,
      ...(link && to ? { link: { ...link, to } } : {}),
    });
    for (const value of theirs.valuesOf(cue.id).values()) {
      const own = fixtures.get(value.fixtureId);
      if (!own || !able(value.fixtureId, value.attribute)) {
        left++;
        continue;
      }
      const { palette, look, effect, ...plain } = value;
      const row = {
        ...plain,
        id: valueId(id, own, value.attribute),
        cueId: id,
        fixtureId: own,
      } as Record<string, unknown>;
      const [p, l, e] = [
        palette === undefined ? undefined : bring('palettes', palette),
        look === undefined ? undefined : bring('looks', look),
        effect === undefined ? undefined : bring('effects', effect.id),
      ];
      if (p) row.palette = p;
      if (l) row.look = l;
      if (e && effect) {
        const { group, ...use } = effect;
        const g = group === undefined ? undefined : bring('groups', group);
        row.effect = { ...use, id: e, ...(g ? { group: g } : {}) };
      }
      add('values', row as unknown as AnyRow);
    }
  }
  if (left > 0)
    notes.push(
      `${plural(left, 'value')} of fixtures that nothing here stands for ${left === 1 ? 'is' : 'are'} left out.`,
    );
  if (changes.length === 0)
    return refuse(
      'nothing',
      'Nothing of this would come in: choose something, and map its fixtures.',
    );
  const count = (table: TableName): number => changes.filter((c) => c.table === table).length;
  const parts = [
    [count('cues'), 'cue'],
    [count('palettes'), 'palette'],
    [count('groups'), 'group'],
    [count('looks'), 'look'],
    [count('effects'), 'effect'],
    [newFixtures, 'fixture'],
  ] as const;
  return {
    changes,
    summary: `Brought in ${parts
      .filter(([n]) => n > 0)
      .map(([n, word]) => plural(n, word))
      .join(', ')}`,
    notes: [...new Set(notes)],
  };
}
