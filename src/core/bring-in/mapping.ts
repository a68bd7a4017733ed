/** Which fixture of this show stands for which of another. */
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Show } from '../show/show.ts';

/** By what a fixture of another show is held to be one of ours. */
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
