/** What a table of groups knows of itself. */
import type { FixtureRow } from '../fixtures/rows.ts';
import { defineTable, listOf, ref } from '../show/define-table.ts';
import { quoted } from '../show/plain-words.ts';
import { numberRanges } from '../words.ts';
import { GroupRow } from './rows.ts';

/** Numbers of fixtures; how many there are, where some of them are groups. */
export function sayMembers(
  ids: readonly string[],
  show: { readonly fixtures: ReadonlyMap<string, FixtureRow> },
): string {
  if (ids.length === 0) return 'nothing';
  const numbers = ids.flatMap((id) => show.fixtures.get(id)?.number ?? []);
  return numbers.length === ids.length ? numberRanges(numbers) : `${ids.length} members`;
}

export const groups = defineTable({
  name: 'groups',
  one: 'group',
  row: GroupRow,
  section: 'palettes',
  refs: [ref(['fixtures', 'groups'], (g: GroupRow) => g.fixtures)],
  members: [listOf<GroupRow, 'fixtures' | 'groups'>(['fixtures', 'groups'], 'fixtures')],
  number: {},
  means: true,
  says: { row: (g) => `group${quoted(g.name)}`, key: (g) => g.name },
  fields: { fixtures: { say: sayMembers } },
});
