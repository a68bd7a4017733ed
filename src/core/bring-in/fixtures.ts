/** Fixtures made new, off the rig, where nothing of ours stands for theirs; their types come along. */
import { nextNumber } from '../rig/addresses.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { add, freeNumber, type Coming } from './coming.ts';

/** @returns how many */
export function bringFixtures(c: Coming, ids: readonly string[]): number {
  let made = 0;
  for (const id of ids) {
    const fixture = c.theirs.fixtures.get(id);
    const type = fixture && c.theirs.types.get(fixture.typeId);
    if (!fixture || !type || c.fixtures.get(id)) continue;
    if (!c.types.has(type.id)) {
      add(c, 'types', type);
      c.types.set(type.id, type);
    }
    const wish = c.ours.fixtureByNumber(fixture.number) ? nextNumber(c.ours) : fixture.number;
    // Circuits are the house's that it comes from.
    const { circuitId, ...rest } = fixture;
    void circuitId;
    const row: FixtureRow = {
      ...rest,
      id: c.newId(),
      number: freeNumber(c, 'fixtures', wish),
      patch: [],
      ...(fixture.patch.length > 0 ? { wasAt: fixture.patch } : {}),
    };
    add(c, 'fixtures', row);
    c.fixtures.set(id, row.id);
    c.made.set(row.id, row);
    made++;
  }
  return made;
}
