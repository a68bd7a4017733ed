/** Change what is written about fixtures: number, label, address, hanging, grand master; one or many at once. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { absolute, clashAt, formatPoint, modeOf, occupied, UNIVERSE_SLOTS, type Occupied } from '../rig/addresses.ts';
import { FixtureRow, RowId } from '../show/rows.ts';
import { defineEdit, EDITORS, numberRanges, updateRow } from './edit.ts';

const Fields = FixtureRow.pick({ number: true, label: true, patch: true, position: true, rotation: true, hang: true, noGrandMaster: true }).partial();
const Params = z.object({ fixtures: z.array(z.object({ id: RowId, set: Fields })).min(1).max(10_000) });
type Params = z.infer<typeof Params>;

export const changeFixtures = defineEdit<Params>({
  name: 'change-fixtures',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const moving = new Set(p.fixtures.map((f) => f.id));
    const rows = p.fixtures.map((f) => ({ row: show.fixtures.get(f.id), set: f.set }));
    const ranges: Occupied[] = occupied(show, moving);
    const numbers = new Set([...show.fixtures.values()].filter((f) => !moving.has(f.id)).map((f) => f.number));
    const changes = [];
    const changed: FixtureRow[] = [];
    for (const { row, set } of rows) {
      if (!row) return refuse('not-found', 'One of these fixtures has been deleted meanwhile. Nothing was changed.');
      const next = { ...row, ...set };
      if (numbers.has(next.number)) return refuse('clash', `Fixture ${next.number} exists already.`, { number: `${next.number} is taken.` });
      numbers.add(next.number);
      const footprint = modeOf(show, row)?.footprint ?? 1;
      for (const point of next.patch) {
        const from = absolute(point);
        if (point.address + footprint - 1 > UNIVERSE_SLOTS) {
          return refuse('overflow', `${next.number} has ${footprint} channels; at ${formatPoint(point)} it would end at ${point.address + footprint - 1}, past 512.`, { address: 'Past 512.' });
        }
        const hit = clashAt(ranges, from, from + footprint - 1);
        if (hit) return refuse('clash', `${next.number} at ${formatPoint(point)} would sit on ${hit.fixture.number} (${hit.fixture.label}).`, { address: `Taken by ${hit.fixture.number}.` });
        ranges.push({ from, to: from + footprint - 1, fixture: next });
        ranges.sort((a, b) => a.from - b.from);
      }
      changes.push(updateRow('fixtures', row, set));
      changed.push(next);
    }
    const words: Record<string, string> = { number: 'number', label: 'label', patch: 'address', position: 'place', rotation: 'rotation', hang: 'hanging', noGrandMaster: 'grand master' };
    const fields = [...new Set(p.fixtures.flatMap((f) => Object.keys(f.set)))].map((k) => words[k] ?? k);
    return { changes, summary: `Changed ${fields.join(' and ')} of fixture ${numberRanges(changed.map((f) => f.number))}` };
  },
});
