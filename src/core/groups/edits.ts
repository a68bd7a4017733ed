/** Groups: fixtures and other groups in an order, under a name. */
import { rowFor } from '../show/row-for.ts';
import { numberAfter, numberTaken } from '../show/numbered.ts';
import { z } from 'zod';
import { containsItself, membersOf } from './members.ts';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { FixtureNumber, Name, RowId, idOf } from '../show/fields.ts';
import type { GroupRow } from './rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { listed, plural } from '../words.ts';
import { followed } from '../edits/follow.ts';

const Members = z.array(RowId).min(1, 'Select fixtures first.').max(10_000);
const RecordGroup = z.object({ number: FixtureNumber.optional(), name: Name, fixtures: Members });
type RecordGroup = z.infer<typeof RecordGroup>;

/** Why these cannot be a group's members, if they cannot. */
function wrongMembers(
  show: Show,
  id: string | undefined,
  members: readonly string[],
): Refusal | undefined {
  if (members.some((m) => !show.fixtures.has(m) && !show.groups.has(m)))
    return refuse(
      'not-found',
      'A selected fixture has been deleted meanwhile. Nothing was recorded.',
    );
  if (id !== undefined && containsItself(show, id, members)) {
    const group = show.groups.get(id);
    const by = members.map((m) => show.groups.get(m)).find((g) => g && g.id !== id);
    return refuse(
      'loop',
      `Group ${group?.number} “${group?.name}” would be in itself${by ? `, through group ${by.number} “${by.name}”` : ''}. Nothing was changed.`,
      { fixtures: 'In itself.' },
    );
  }
  return undefined;
}

/** `8 fixtures`, `8 fixtures through 2 groups`. */
function sayMembers(show: Show, members: readonly string[], group: GroupRow): string {
  const inner = members.filter((m) => show.groups.has(m)).length;
  return `${plural(membersOf(show, { ...group, fixtures: [...members] }).length, 'fixture')}${inner > 0 ? ` through ${plural(inner, 'group')}` : ''}`;
}

/** Keeps a selection as a group, with its order; an old number is written over. */
export const recordGroup = defineEdit({
  name: 'record-group',
  params: RecordGroup,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const groups = [...show.groups.values()];
    const number = p.number ?? numberAfter(groups);
    const old = groups.find((g) => g.number === number);
    const fixtures = [...new Set(p.fixtures)];
    const wrong = wrongMembers(show, old?.id, fixtures);
    if (wrong) return wrong;
    const row: GroupRow = { id: old?.id ?? newId(), number, name: p.name, fixtures };
    const changes = followed(show, [
      old ? replaceRow('groups', old, row) : insertRow('groups', row),
    ]);
    return {
      changes,
      summary: `${old ? 'Changed' : 'Made'} group ${number} “${p.name}” of ${sayMembers(show, fixtures, row)}${sayFollowed(changes)}`,
    };
  },
});

const sayFollowed = (changes: readonly RowChange[]): string => {
  const cues = new Set(
    changes.flatMap((c) => (c.table === 'values' ? [(c.after ?? c.before)?.cueId] : [])),
  ).size;
  return cues > 0 ? `; ${plural(cues, 'cue')} with its looks and effects went along` : '';
};

const Change = z.object({
  id: idOf('groups'),
  set: z.object({
    number: FixtureNumber.optional(),
    name: Name.optional(),
    fixtures: Members.optional(),
  }),
});
type Change = z.infer<typeof Change>;

/** Changes a group's name, number, members, or the rule by which it finds them. */
export const changeGroup = defineEdit({
  name: 'change-group',
  params: Change,
  roles: EDITORS,
  plan: (show, p) => {
    const old = rowFor(show, 'groups', p.id);
    if (isRefusal(old)) return old;
    const taken = numberTaken('Group', show.groups.values(), p.set.number, p.id);
    if (taken) return taken;
    const wrong = p.set.fixtures ? wrongMembers(show, p.id, p.set.fixtures) : undefined;
    if (wrong) return wrong;
    const row: GroupRow = {
      ...old,
      ...(p.set.number === undefined ? {} : { number: p.set.number }),
      ...(p.set.name === undefined ? {} : { name: p.set.name }),
      ...(p.set.fixtures === undefined ? {} : { fixtures: [...new Set(p.set.fixtures)] }),
    };
    const changes = followed(show, [replaceRow('groups', old, row)]);
    return {
      changes,
      summary: `Group ${row.number} “${row.name}” has ${sayMembers(show, row.fixtures, row)}${sayFollowed(changes)}`,
    };
  },
});

const Delete = z.object({ id: idOf('groups') });
type Delete = z.infer<typeof Delete>;

/** What holds a group, in words. */
export function groupUses(show: Show, id: string): string[] {
  return [
    ...[...show.groups.values()]
      .filter((g) => g.fixtures.includes(id))
      .map((g) => `group ${g.number} ${g.name}`),
    ...[...show.looks.values()]
      .filter((l) => l.items.some((i) => 'members' in i && i.members.includes(id)))
      .map((l) => `look ${l.number} ${l.name}`),
    ...[...show.palettes.values()]
      .filter((p) => p.groups?.[id])
      .map((p) => `palette ${p.number} ${p.name}`),
  ];
}

/** Deletes a group; palettes and looks that lean on it keep its members. */
export const deleteGroup = defineEdit({
  name: 'delete-group',
  params: Delete,
  roles: EDITORS,
  plan: (show, p) => {
    const group = rowFor(show, 'groups', p.id, 'already');
    if (isRefusal(group)) return group;
    // What holds it keeps its members: nothing that uses the group changes.
    const members = membersOf(show, group);
    const opened = (ids: readonly string[]): string[] => [
      ...new Set(ids.flatMap((id) => (id === p.id ? members : [id]))),
    ];
    const changes: RowChange[] = [deleteRow('groups', group)];
    for (const outer of show.groups.values())
      if (outer.fixtures.includes(p.id))
        changes.push(updateRow('groups', outer, { fixtures: opened(outer.fixtures) }));
    for (const look of show.looks.values()) {
      if (!look.items.some((i) => 'members' in i && i.members.includes(p.id))) continue;
      const items = look.items
        .map((i) => ('members' in i ? { ...i, members: opened(i.members) } : i))
        .filter((i) => !('members' in i) || i.members.length > 0);
      changes.push(updateRow('looks', look, { items }));
    }
    for (const palette of show.palettes.values()) {
      const own = palette.groups?.[p.id];
      if (!own) continue;
      const groups = { ...palette.groups };
      delete groups[p.id];
      changes.push(
        updateRow('palettes', palette, {
          groups,
          fixtures: {
            ...palette.fixtures,
            ...Object.fromEntries(members.map((id) => [id, { ...own, ...palette.fixtures[id] }])),
          },
        }),
      );
    }
    const uses = groupUses(show, p.id);
    return {
      changes,
      summary: `Deleted group ${group.number} “${group.name}”${uses.length > 0 ? `; ${listed(uses, 3)} keep its members` : ''}`,
    };
  },
});
