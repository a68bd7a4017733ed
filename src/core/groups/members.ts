/** Groups can hold other groups: their members in order, each fixture once. */
import type { GroupRow } from './rows.ts';
import type { Show } from '../show/show.ts';

/** What a group’s members are found in. */
export type GroupSource = Pick<Show, 'fixtures' | 'groups'>;

/** Fixture ids that these stand for: fixtures as they are, groups by what is in them. What is gone is left out. */
export function fixturesIn(source: GroupSource, ids: Iterable<string>): string[] {
  const found = new Set<string>();
  const entered = new Set<string>();
  const enter = (id: string): void => {
    if (source.fixtures.has(id)) found.add(id);
    const group = source.groups.get(id);
    if (!group || entered.has(id)) return;
    entered.add(id);
    for (const member of group.fixtures) enter(member);
  };
  for (const id of ids) enter(id);
  return [...found];
}

/** Fixtures of a group in its order, also through groups in it. */
export const membersOf = (source: GroupSource, group: GroupRow): string[] =>
  fixturesIn(source, group.fixtures);

/** Whether a group is in itself, directly or through others, if it had these members. */
export function containsItself(
  source: GroupSource,
  id: string,
  members: readonly string[],
): boolean {
  const entered = new Set<string>();
  const reaches = (at: string): boolean => {
    if (at === id) return true;
    if (entered.has(at)) return false;
    entered.add(at);
    return source.groups.get(at)?.fixtures.some(reaches) ?? false;
  };
  return members.some(reaches);
}

/** Groups that hold this one, directly or through others, and itself. */
export function groupsAround(source: GroupSource, id: string): string[] {
  return [...source.groups.values()]
    .filter((g) => g.id === id || containsItself(source, id, g.fixtures))
    .map((g) => g.id);
}
