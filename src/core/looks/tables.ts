/** What a table of looks knows of itself. */
import { defineTable, ref, type There } from '../show/define-table.ts';
import { numbered } from '../show/plain-words.ts';
import { LookRow, type LookItem } from './rows.ts';

const membersOf = (item: LookItem): readonly string[] => ('members' in item ? item.members : []);

function without(look: LookRow, there: There): LookRow {
  const items = look.items.flatMap((item): LookItem[] => {
    if (item.kind === 'look') return [item];
    if (item.kind === 'level') return there(item.fixtureId) ? [item] : [];
    const members = item.members.filter(there);
    if (members.length === item.members.length) return [item];
    return members.length > 0 ? [{ ...item, members }] : [];
  });
  return items.length === look.items.length && items.every((item, i) => item === look.items[i])
    ? look
    : { ...look, items };
}

/** One item of another state of the look, for one fixture, laid into these. */
function withItem(items: readonly LookItem[], item: LookItem, id: string): readonly LookItem[] {
  if (item.kind === 'look') return items;
  if (item.kind === 'level') {
    const there = items.some(
      (i) => i.kind === 'level' && i.fixtureId === id && i.attribute === item.attribute,
    );
    return item.fixtureId !== id || there ? items : [...items, item];
  }
  if (!item.members.includes(id)) return items;
  const at = items.findIndex(
    (i) =>
      (i.kind === 'palette' && item.kind === 'palette' && i.palette === item.palette) ||
      (i.kind === 'effect' && item.kind === 'effect' && i.effect === item.effect),
  );
  const known = items[at];
  if (!known || !('members' in known)) return [...items, { ...item, members: [id] }];
  if (known.members.includes(id)) return items;
  return items.with(at, { ...known, members: [...known.members, id] });
}

export const looks = defineTable({
  name: 'looks',
  one: 'look',
  row: LookRow,
  section: 'palettes',
  refs: [
    ref('fixtures', (l: LookRow) =>
      l.items.map((i) => (i.kind === 'level' ? i.fixtureId : undefined)),
    ),
    ref(['fixtures', 'groups'], (l: LookRow) => l.items.flatMap(membersOf)),
    ref('palettes', (l: LookRow) =>
      l.items.map((i) => (i.kind === 'palette' ? i.palette : undefined)),
    ),
    ref('effects', (l: LookRow) =>
      l.items.map((i) => (i.kind === 'effect' ? i.effect : undefined)),
    ),
    ref('looks', (l: LookRow) => l.items.map((i) => (i.kind === 'look' ? i.look : undefined))),
  ],
  members: [
    {
      to: ['fixtures', 'groups'],
      without,
      rejoin: (now, from, id) => {
        const items = from.items.reduce<readonly LookItem[]>(
          (all, item) => withItem(all, item, id),
          now.items,
        );
        return items === now.items ? now : { ...now, items: [...items] };
      },
    },
  ],
  number: {},
  means: true,
  says: { row: (l) => numbered('look', l) },
});
