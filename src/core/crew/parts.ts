/** Parts of a show that were given to somebody: what an edit would touch of others' parts. */
import { numberRanges } from '../words.ts';
import type { Role } from '../roles.ts';
import type { PartRow } from './rows.ts';
import type { RowChange, Show } from '../show/show.ts';

/**
 * Why somebody may not set these fixtures: they are another person's part. In a sentence, by the first of them.
 * @returns undefined where nothing stands against it
 */
export function settingInParts(
  show: Show,
  userId: string,
  fixtureIds: ReadonlySet<string>,
): string | undefined {
  for (const part of show.parts.values()) {
    const id = part.userId === userId ? undefined : part.fixtures.find((f) => fixtureIds.has(f));
    if (id !== undefined)
      return `Fixture ${show.fixtures.get(id)?.number ?? '?'} is in part “${part.name}”, which is ${part.userName}’s. Look at it, or ask ${part.userName}. Nothing was set.`;
  }
  return undefined;
}

/**
 * What these changes write in parts of others, in a sentence; undefined where they write nothing there. Values count by
 * their fixture and by their list, so that recording the whole stage into one's own list is told whose light it takes.
 * Whose a part is, and what is in it, is its person's to change, or an owner's.
 */
export function inOthersParts(
  show: Show,
  changes: readonly RowChange[],
  userId: string,
  role: Role,
): string | undefined {
  if (show.parts.size === 0 || userId === '') return undefined;
  for (const c of changes) {
    if (c.table === 'parts' && c.before && c.before.userId !== userId && role !== 'owner')
      return `Part “${c.before.name}” is ${c.before.userName}’s: they give it away, or an owner does. Ask ${c.before.userName} for it. Nothing was changed.`;
  }
  const others = [...show.parts.values()].filter((p) => p.userId !== userId);
  if (others.length === 0) return undefined;
  const byFixture = new Map(others.flatMap((p) => p.fixtures.map((id) => [id, p] as const)));
  const byList = new Map(others.flatMap((p) => p.lists.map((id) => [id, p] as const)));
  const listOfCue = new Map(
    changes.flatMap((c) =>
      c.table === 'cues' && c.after ? [[c.id, c.after.listId] as const] : [],
    ),
  );
  const touched = new Map<PartRow, { fixtures: Set<string>; lists: Set<string> }>();
  const touch = (part: PartRow | undefined, what: 'fixtures' | 'lists', id: string): void => {
    if (!part) return;
    const entry = touched.get(part) ?? { fixtures: new Set(), lists: new Set() };
    entry[what].add(id);
    touched.set(part, entry);
  };
  const touchList = (id: string | undefined): void => {
    if (id !== undefined) touch(byList.get(id), 'lists', id);
  };
  for (const c of changes) {
    if (c.table === 'fixtures') touch(byFixture.get(c.id), 'fixtures', c.id);
    else if (c.table === 'lists') touchList(c.id);
    else if (c.table === 'cues') {
      touchList(c.before?.listId);
      touchList(c.after?.listId);
    } else if (c.table === 'values') {
      const row = c.after ?? c.before;
      if (!row) continue;
      touch(byFixture.get(row.fixtureId), 'fixtures', row.fixtureId);
      touchList(show.cues.get(row.cueId)?.listId ?? listOfCue.get(row.cueId));
    }
  }
  const [first] = touched;
  if (!first) return undefined;
  const [part, what] = first;
  const numbers = [...what.fixtures].flatMap((id) => show.fixtures.get(id)?.number ?? []);
  const lists = [...what.lists]
    .flatMap((id) => show.lists.get(id)?.name ?? [])
    .map((name) => `list “${name}”`);
  const named = [
    ...(numbers.length > 0
      ? [`${numbers.length === 1 ? 'fixture' : 'fixtures'} ${numberRanges(numbers)}`]
      : []),
    ...lists,
  ].join(' and ');
  return `This changes ${named} of part “${part.name}”, which is ${part.userName}’s. Ask ${part.userName}, or take it out of the part first. Nothing was changed.`;
}
