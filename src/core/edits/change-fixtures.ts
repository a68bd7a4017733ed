/** Change what is written about fixtures: number, label, address, hanging, transforms, circuit; one or many at once. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { clashAt, occupied } from '../rig/addresses.ts';
import {
  absolute,
  formatPoint,
  modeOf,
  UNIVERSE_SLOTS,
  widthAt,
  type Occupied,
} from '../fixtures/points.ts';
import { attributesOf, channelCount, footprintOf } from '../rig/attributes.ts';
import { FixtureRow } from '../fixtures/rows.ts';
import { RowId } from '../show/fields.ts';
import type { Mode } from '../types/rows.ts';
import type { RowChange } from '../show/show.ts';
import { defineEdit, EDITORS, replaceRow } from './edit.ts';
import { numberRanges } from '../words.ts';
import { routesForUnrouted } from './patch-fixtures.ts';

const Fields = FixtureRow.pick({
  number: true,
  label: true,
  patch: true,
  position: true,
  rotation: true,
  lean: true,
  hang: true,
  noGrandMaster: true,
  swapPanTilt: true,
})
  .partial()
  .extend({
    transforms: FixtureRow.shape.transforms,
    wheels: FixtureRow.shape.wheels,
    /** null takes it off its circuit. */
    circuitId: RowId.nullable().optional(),
    /** null: what the type draws. */
    watts: z
      .number()
      .min(0, 'A unit draws no less than nothing.')
      .max(100_000, 'A unit draws at most 100 000 W.')
      .nullable()
      .optional(),
  });
type Fields = z.infer<typeof Fields>;
const Params = z.object({
  fixtures: z
    .array(z.object({ id: RowId, set: Fields }))
    .min(1)
    .max(10_000),
});
type Params = z.infer<typeof Params>;

const WORDS: Record<string, string> = {
  number: 'number',
  label: 'label',
  patch: 'address',
  position: 'place',
  rotation: 'rotation',
  lean: 'lean',
  hang: 'hanging',
  noGrandMaster: 'grand master',
  transforms: 'limits and curves',
  swapPanTilt: 'pan and tilt',
  wheels: 'wheels',
  circuitId: 'circuit',
  watts: 'watts',
};

/** The row with the fields written over it; an address that it loses is remembered for when it comes back. */
function written(row: FixtureRow, { circuitId, watts, ...set }: Fields): FixtureRow {
  const next: FixtureRow = { ...row };
  for (const [key, value] of Object.entries(set))
    if (value !== undefined) (next as unknown as Record<string, unknown>)[key] = value;
  if (watts === null) delete next.watts;
  else if (watts !== undefined) next.watts = watts;
  if (circuitId === null) delete next.circuitId;
  else if (circuitId !== undefined) next.circuitId = circuitId;
  if (set.patch) {
    if (set.patch.length === 0 && row.patch.length > 0) next.wasAt = row.patch;
    else if (set.patch.length > 0) delete next.wasAt;
  }
  return next;
}

export const changeFixtures = defineEdit<Params>({
  name: 'change-fixtures',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const moving = new Set(p.fixtures.flatMap((f) => (f.set.patch ? [f.id] : [])));
    const ranges: Occupied[] = [...occupied(show, moving)];
    const numbers = new Set<number>();
    const renumbered = new Set(p.fixtures.map((f) => f.id));
    for (const f of show.fixtures.values()) if (!renumbered.has(f.id)) numbers.add(f.number);
    const changes: RowChange[] = [];
    const changed: FixtureRow[] = [];
    for (const { id, set } of p.fixtures) {
      const row = show.fixtures.get(id);
      if (!row)
        return refuse(
          'not-found',
          'One of these fixtures has been deleted meanwhile. Nothing was changed.',
        );
      const next = written(row, set);
      if (numbers.has(next.number))
        return refuse('clash', `Fixture ${next.number} exists already.`, {
          number: `${next.number} is taken.`,
        });
      numbers.add(next.number);
      if (set.circuitId && !show.circuits.has(set.circuitId))
        return refuse(
          'not-found',
          'This circuit has been deleted meanwhile. Nothing was changed.',
          { circuitId: 'Unknown circuit.' },
        );
      const mode = modeOf(show, row);
      const unknown = mode ? unknownTransform(mode, next) : undefined;
      if (unknown)
        return refuse('invalid', `${next.number} has no ${unknown} to limit or curve.`, {
          transforms: `No ${unknown}.`,
        });
      if (set.patch) {
        const problem = stand(next, mode, ranges);
        if (problem) return problem;
      }
      changes.push(replaceRow('fixtures', row, next));
      changed.push(next);
    }
    const fields = [...new Set(p.fixtures.flatMap((f) => Object.keys(f.set)))].map(
      (k) => WORDS[k] ?? k,
    );
    const routes = routesForUnrouted(
      show,
      p.fixtures.flatMap((f) => (f.set.patch ? [f.set.patch] : [])),
    );
    const routed =
      routes.universes.length > 0
        ? `; universe ${routes.universes.join(', ')} now goes to the simulated node`
        : '';
    const ranged = numberRanges(changed.map((f) => f.number));
    const offAll = p.fixtures.every((f) => f.set.patch?.length === 0);
    const only = fields.length === 1 && fields[0] === 'address';
    const start = changed[0]?.patch[0];
    const summary =
      only && offAll
        ? `Took ${ranged} off the rig; programming is kept`
        : only && start && changed.length > 0
          ? `Moved ${ranged} to ${formatPoint(start)}`
          : `Changed ${fields.join(' and ')} of fixture ${ranged}`;
    return { changes: [...changes, ...routes.changes], summary: summary + routed };
  },
});

function unknownTransform(mode: Mode, row: FixtureRow): string | undefined {
  if (!row.transforms) return undefined;
  const has = new Set(attributesOf(mode));
  return Object.keys(row.transforms).find((a) => !has.has(a));
}

/** Puts a fixture's addresses among the occupied ones, or says why not. */
function stand(
  next: FixtureRow,
  mode: Mode | undefined,
  ranges: Occupied[],
): ReturnType<typeof refuse> | undefined {
  for (const point of next.patch) {
    if (mode && point.break && footprintOf(mode, point.break) === 0)
      return refuse(
        'invalid',
        `${next.number} has no address ${point.break}; its mode has ${1 + (mode.breaks?.length ?? 0)}.`,
        { address: 'No such address.' },
      );
    const width = widthAt(mode, point);
    const from = absolute(point);
    if (point.address + width - 1 > UNIVERSE_SLOTS) {
      return refuse(
        'overflow',
        `${next.number} has ${mode ? channelCount(mode) : width} channels; at ${formatPoint(point)} it would end at ${point.address + width - 1}, past 512.`,
        { address: 'Past 512.' },
      );
    }
    const hit = clashAt(ranges, from, from + width - 1);
    if (hit) {
      const overlap = Math.min(from + width - 1, hit.to) - Math.max(from, hit.from) + 1;
      return refuse(
        'clash',
        `${next.number} at ${formatPoint(point)} would sit on ${hit.fixture.number} (${hit.fixture.label}) for ${overlap} ${overlap === 1 ? 'address' : 'addresses'}.`,
        { address: `Taken by ${hit.fixture.number}.` },
      );
    }
    insertInOrder(ranges, { from, to: from + width - 1, fixture: next });
  }
  return undefined;
}

function insertInOrder(ranges: Occupied[], range: Occupied): void {
  let low = 0;
  let high = ranges.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((ranges[middle]?.from ?? 0) < range.from) low = middle + 1;
    else high = middle;
  }
  ranges.splice(low, 0, range);
}
