/** Patch: new fixtures of a type on consecutive numbers and addresses. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { absolute, clashAt, formatPoint, fromAbsolute, nextFree, nextNumber, occupied, UNIVERSE_SLOTS } from '../rig/addresses.ts';
import { routesFor } from '../rig/defaults.ts';
import { libraryType } from '../rig/library.ts';
import { Address, FixtureNumber, LIMITS, Name, TypeRow, Universe, type FixtureRow, type PieceRow } from '../show/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, EDITORS, insertRow, plural } from './edit.ts';

const Params = z.object({
  /** A type of the show or of the shipped library. */
  typeId: z.string().min(1).max(120),
  mode: z.string().min(1).max(LIMITS.nameLength),
  quantity: z.number().int('A quantity is a whole number.').min(1, 'Patch at least one fixture.').max(LIMITS.patchQuantity, `At most ${LIMITS.patchQuantity} fixtures at once.`),
  first: FixtureNumber.optional(),
  /** A `#` counts up from 1; without one the count is added when there is more than one. */
  label: Name.optional(),
  universe: Universe.optional(),
  address: Address.optional(),
  /** Free channels between two units. */
  gap: z.number().int().min(0).max(511).default(0),
  /** Name of the bar or boom to hang on; the units are spread along it. */
  hang: z.string().max(LIMITS.nameLength).default(''),
  /** A type that the show does not have yet, written out in full (the demo's makers). */
  type: TypeRow.optional(),
});
type Params = z.input<typeof Params>;

function labelFor(pattern: string, index: number, quantity: number): string {
  if (pattern.includes('#')) return pattern.replaceAll('#', String(index + 1));
  return quantity === 1 ? pattern : `${pattern} ${index + 1}`;
}

/** Points spread evenly along a line of the plan, half a step in from its ends. */
function spread(piece: PieceRow | undefined, quantity: number): { x: number; y: number; z: number }[] {
  if (!piece) return Array.from({ length: quantity }, (_, i) => ({ x: -6 + (12 * (i + 0.5)) / quantity, y: 4.6, z: 0 }));
  const a = piece.points[0] ?? { x: 0, y: 0 };
  const b = piece.points.at(-1) ?? a;
  return Array.from({ length: quantity }, (_, i) => {
    const t = (i + 0.5) / quantity;
    return { x: round(a.x + (b.x - a.x) * t), y: round(a.y + (b.y - a.y) * t), z: piece.z };
  });
}
const round = (m: number): number => Math.round(m * 100) / 100;

/** Units on booms look across the stage, FOH units upstage. */
const rotationOn = (piece: PieceRow | undefined): number => (piece?.kind === 'boom' ? ((piece.points[0]?.x ?? 0) < 0 ? 90 : -90) : 0);

interface PatchPlace {
  number: number;
  universe: number;
  address: number;
}

/** Where the parameters would put the units, or why they cannot go there. */
function placeUnits(show: Show, footprint: number, p: Pick<Params, 'quantity' | 'first' | 'universe' | 'address' | 'gap'>): PatchPlace[] | ReturnType<typeof refuse> {
  const gap = p.gap ?? 0;
  const first = p.first ?? nextNumber(show, p.quantity);
  const taken = Array.from({ length: p.quantity }, (_, i) => first + i).filter((n) => show.fixtureByNumber(n));
  if (taken.length > 0) {
    const free = nextNumber(show, p.quantity, first);
    return refuse('clash', `Fixture ${taken[0]} exists already${taken.length > 1 ? `, and ${taken.length - 1} more of these numbers` : ''}. The next free run starts at ${free}.`, { first: `${taken[0]} is taken; ${free} is free.` });
  }
  if (first + p.quantity - 1 > LIMITS.fixtureNumber) return refuse('invalid', `Fixture numbers end at ${LIMITS.fixtureNumber}.`, { first: 'Too high for this quantity.' });

  const start = p.universe !== undefined && p.address !== undefined ? { universe: p.universe, address: p.address } : nextFree(show, footprint, p.quantity, gap, { universe: p.universe ?? 1, address: 1 });
  if (!start) return refuse('overflow', 'There is no free run of addresses for that many units.', { address: 'No room.' });
  const end = start.address + p.quantity * footprint + (p.quantity - 1) * gap - 1;
  if (end > UNIVERSE_SLOTS) {
    const fits = Math.floor((UNIVERSE_SLOTS - start.address + 1 + gap) / (footprint + gap));
    return refuse('overflow', `${plural(p.quantity, 'unit')} of ${plural(footprint, 'channel')} at ${formatPoint(start)} would end at ${end}; a universe ends at 512. ${fits > 0 ? `${plural(fits, 'unit')} would fit.` : 'None would fit.'}`, { address: `Ends at ${end}, past 512.` });
  }
  const ranges = occupied(show);
  const places: PatchPlace[] = [];
  for (let i = 0; i < p.quantity; i++) {
    const from = absolute(start) + i * (footprint + gap);
    const hit = clashAt(ranges, from, from + footprint - 1);
    if (hit) {
      const free = nextFree(show, footprint, p.quantity, gap, start) ?? nextFree(show, footprint, p.quantity, gap);
      const overlap = Math.min(from + footprint - 1, hit.to) - Math.max(from, hit.from) + 1;
      return refuse('clash', `${first + i} at ${formatPoint(fromAbsolute(from))} would sit on ${hit.fixture.number} (${hit.fixture.label}) for ${plural(overlap, 'address', 'addresses')}.${free ? ` The next free run starts at ${formatPoint(free)}.` : ''}`, { address: `Taken by ${hit.fixture.number}${free ? `; ${formatPoint(free)} is free` : ''}.` });
    }
    places.push({ number: first + i, ...fromAbsolute(from) });
  }
  return places;
}

export const patchFixtures = defineEdit<Params>({
  name: 'patch-fixtures',
  params: Params,
  roles: EDITORS,
  plan: (show, params, { newId }) => {
    const p = Params.parse(params);
    const known = show.types.get(p.typeId);
    const type = known ?? p.type ?? libraryType(p.typeId);
    if (!type) return refuse('not-found', 'This fixture type is not in the show or the library.', { typeId: 'Unknown type.' });
    const mode = type.modes.find((m) => m.name === p.mode);
    if (!mode) return refuse('not-found', `${type.maker} ${type.name} has no mode “${p.mode}”.`, { mode: 'Unknown mode.' });
    const piece = [...show.pieces.values()].find((row) => row.name !== '' && row.name === p.hang);
    if (p.hang !== '' && !piece) return refuse('not-found', `There is no bar called “${p.hang}” on the plan.`, { hang: 'Unknown bar.' });
    const places = placeUnits(show, mode.footprint, p);
    if (!Array.isArray(places)) return places;

    const changes: RowChange[] = known ? [] : [insertRow('types', type)];
    const positions = spread(piece, p.quantity);
    const label = p.label ?? type.name;
    places.forEach((place, i) => {
      const row: FixtureRow = {
        id: newId(),
        number: place.number,
        label: labelFor(label, i, p.quantity),
        typeId: type.id,
        mode: mode.name,
        patch: [{ universe: place.universe, address: place.address }],
        position: positions[i] ?? { x: 0, y: 0, z: 0 },
        rotation: rotationOn(piece),
        hang: p.hang,
        noGrandMaster: type.shape === 'house',
      };
      changes.push(insertRow('fixtures', row));
    });
    const routed = new Set([...show.routes.values()].map((r) => r.universe));
    const unrouted = [...new Set(places.map((place) => place.universe))].filter((u) => !routed.has(u));
    for (const universe of unrouted) for (const route of routesFor(universe)) changes.push(insertRow('routes', route));

    const firstPlace = places[0];
    const last = places.at(-1);
    const numbers = p.quantity === 1 ? `${firstPlace?.number}` : `${firstPlace?.number}–${last?.number}`;
    const routes = unrouted.length > 0 ? `; universe ${unrouted.join(', ')} now goes to the simulated node` : '';
    return { changes, summary: `Patched ${plural(p.quantity, 'fixture')}, ${numbers} ${type.name}, at ${firstPlace?.universe}.${firstPlace?.address}${routes}` };
  },
});
