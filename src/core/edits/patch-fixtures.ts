/** Patch: new fixtures of a type on consecutive numbers and addresses. */
import { z } from 'zod';
import { isRefusal, refuse, type Refusal } from '../refusal.ts';
import { nextFree, nextNumber } from '../rig/addresses.ts';
import { formatPoint, fromAbsolute } from '../fixtures/points.ts';
import { channelCount } from '../rig/attributes.ts';
import { standardPalettes } from '../palettes/standard.ts';
import { routesFor } from '../rig/defaults.ts';
import { libraryType } from '../rig/library/index.ts';
import { placeUnits } from '../rig/place.ts';
import { Address, FixtureNumber, LIMITS, Name, Universe } from '../show/fields.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import type { Mode } from '../types/rows.ts';
import type { PieceRow } from '../plan/rows.ts';
import type { RowChange, Show } from '../show/show.ts';
import { defineEdit, EDITORS, insertRow } from './edit.ts';
import { plural } from '../words.ts';

const Params = z.object({
  /** A type of the show or of the shipped library. */
  typeId: z.string().min(1).max(120),
  mode: z.string().min(1).max(LIMITS.nameLength),
  quantity: z
    .number()
    .int('A quantity is a whole number.')
    .min(1, 'Patch at least one fixture.')
    .max(LIMITS.patchQuantity, `At most ${LIMITS.patchQuantity} fixtures at once.`),
  first: FixtureNumber.optional(),
  /** A `#` counts up from 1; without one the count is added when there is more than one. */
  label: Name.optional(),
  universe: Universe.optional(),
  address: Address.optional(),
  /** Instead of universe and address: 1 to 131072. */
  absolute: z
    .number()
    .int('An absolute address is a whole number.')
    .min(1, 'Absolute addresses count from 1.')
    .max(LIMITS.universes * 512, `Absolute addresses end at ${LIMITS.universes * 512}.`)
    .optional(),
  /** Free channels between two units. */
  gap: z
    .number()
    .int('A gap is a whole number.')
    .min(0, 'A gap is not negative.')
    .max(511)
    .default(0),
  /** When the universe is full, go on in the next one. */
  overflow: z.boolean().default(false),
  /** Off the rig: no address yet. */
  off: z.boolean().default(false),
  /** A group of what is patched comes by itself, under the label. */
  group: z.boolean().default(false),
  /** Standard palettes for what the units can do come by themselves, where the show has none of the name. */
  palettes: z.boolean().default(false),
  /** Name of the bar or boom to hang on; the units are spread along it. */
  hang: z.string().max(LIMITS.nameLength).default(''),
});
type Params = z.input<typeof Params>;

function labelFor(pattern: string, index: number, quantity: number): string {
  if (pattern.includes('#')) return pattern.replaceAll('#', String(index + 1));
  return quantity === 1 ? pattern : `${pattern} ${index + 1}`;
}

/** Metres between units that stand free: none hides another on the plan. */
const APART_M = 0.8;
const HALF_WIDTH_M = 6;
const BACK_M = 4.6;
const ROWS = 14;
const ROWS_MOST = 400;

/** Places on the floor, in rows from upstage to the audience, where nothing stands yet. */
function standingFree(show: Show, quantity: number): { x: number; y: number; z: number }[] {
  const near = (a: { x: number; y: number }, b: { x: number; y: number }): boolean =>
    Math.hypot(a.x - b.x, a.y - b.y) < APART_M * 0.75;
  const taken = [...show.fixtures.values()].map((f) => f.position);
  // A few of them share out a row that is empty.
  if (quantity <= (2 * HALF_WIDTH_M) / APART_M)
    for (let row = 0; row < ROWS; row++) {
      const line = Array.from({ length: quantity }, (_, i) => ({
        x: round(-HALF_WIDTH_M + (2 * HALF_WIDTH_M * (i + 0.5)) / quantity),
        y: round(BACK_M - row * APART_M),
        z: 0,
      }));
      if (!line.some((at) => taken.some((t) => near(t, at)))) return line;
    }
  const places: { x: number; y: number; z: number }[] = [];
  for (let row = 0; places.length < quantity; row++) {
    const y = BACK_M - row * APART_M;
    for (let x = -HALF_WIDTH_M; x <= HALF_WIDTH_M && places.length < quantity; x += APART_M) {
      const at = { x: round(x), y: round(y), z: 0 };
      if (row > ROWS_MOST || !taken.some((t) => near(t, at))) places.push(at);
    }
  }
  return places;
}

/** Points spread evenly along a line of the plan, half a step in from its ends. */
function spread(
  show: Show,
  piece: PieceRow | undefined,
  quantity: number,
): { x: number; y: number; z: number }[] {
  if (!piece) return standingFree(show, quantity);
  const a = piece.points[0] ?? { x: 0, y: 0 };
  const b = piece.points.at(-1) ?? a;
  return Array.from({ length: quantity }, (_, i) => {
    const t = (i + 0.5) / quantity;
    return { x: round(a.x + (b.x - a.x) * t), y: round(a.y + (b.y - a.y) * t), z: piece.z };
  });
}
const round = (m: number): number => Math.round(m * 100) / 100;

/** Units on booms look across the stage, FOH units upstage. */
const rotationOn = (piece: PieceRow | undefined): number =>
  piece?.kind === 'boom' ? ((piece.points[0]?.x ?? 0) < 0 ? 90 : -90) : 0;

interface Places {
  first: number;
  patches: PatchPoint[][];
}

/** Where the parameters would put the units, or why they cannot go there. */
function place(show: Show, mode: Mode, p: z.output<typeof Params>): Places | Refusal {
  const first = p.first ?? nextNumber(show, p.quantity);
  const taken = Array.from({ length: p.quantity }, (_, i) => first + i).filter((n) =>
    show.fixtureByNumber(n),
  );
  if (taken.length > 0) {
    const free = nextNumber(show, p.quantity, first);
    return refuse(
      'clash',
      `Fixture ${taken[0]} exists already${taken.length > 1 ? `, and ${taken.length - 1} more of these numbers` : ''}. The next free run starts at ${free}.`,
      { first: `${taken[0]} is taken; ${free} is free.` },
    );
  }
  if (first + p.quantity - 1 > LIMITS.fixtureNumber)
    return refuse('invalid', `Fixture numbers end at ${LIMITS.fixtureNumber}.`, {
      first: 'Too high for this quantity.',
    });
  if (p.off) return { first, patches: Array.from({ length: p.quantity }, () => []) };

  const given =
    p.absolute !== undefined
      ? fromAbsolute(p.absolute)
      : p.universe !== undefined && p.address !== undefined
        ? { universe: p.universe, address: p.address }
        : undefined;
  const start =
    given ??
    nextFree(show, mode.footprint, p.overflow ? 1 : p.quantity, p.gap, {
      universe: p.universe ?? 1,
      address: 1,
    });
  if (!start)
    return refuse('overflow', 'There is no free run of addresses for that many units.', {
      address: 'No room.',
    });
  const units = Array.from({ length: p.quantity }, (_, i) => ({ number: first + i, mode }));
  const patches = placeUnits(show, units, { start, gap: p.gap, overflow: p.overflow });
  return isRefusal(patches) ? patches : { first, patches };
}

/** Routes to the simulated node for universes that have none yet, so that what is patched is sent. */
export function routesForUnrouted(
  show: Show,
  patches: readonly (readonly PatchPoint[])[],
): { changes: RowChange[]; universes: number[] } {
  const routed = new Set([...show.routes.values()].map((r) => r.universe));
  const universes = [...new Set(patches.flat().map((point) => point.universe))].filter(
    (u) => !routed.has(u),
  );
  return {
    universes,
    changes: universes.flatMap((u) => routesFor(u).map((route) => insertRow('routes', route))),
  };
}

export const patchFixtures = defineEdit<Params>({
  name: 'patch-fixtures',
  params: Params,
  roles: EDITORS,
  plan: (show, params, { newId }) => {
    const p = Params.parse(params);
    const known = show.types.get(p.typeId);
    const type = known ?? libraryType(p.typeId);
    if (!type)
      return refuse('not-found', 'This fixture type is not in the show or the library.', {
        typeId: 'Unknown type.',
      });
    const mode = type.modes.find((m) => m.name === p.mode);
    if (!mode)
      return refuse('not-found', `${type.maker} ${type.name} has no mode “${p.mode}”.`, {
        mode: 'Unknown mode.',
      });
    const piece = [...show.pieces.values()].find((row) => row.name !== '' && row.name === p.hang);
    if (p.hang !== '' && !piece)
      return refuse('not-found', `There is no bar called “${p.hang}” on the plan.`, {
        hang: 'Unknown bar.',
      });
    const placed = place(show, mode, p);
    if (isRefusal(placed)) return placed;

    const changes: RowChange[] = known ? [] : [insertRow('types', type)];
    const positions = spread(show, piece, p.quantity);
    const label = p.label ?? type.name;
    const rows = placed.patches.map((patch, i): FixtureRow => ({
      id: newId(),
      number: placed.first + i,
      label: labelFor(label, i, p.quantity),
      typeId: type.id,
      mode: mode.name,
      patch,
      position: positions[i] ?? { x: 0, y: 0, z: 0 },
      rotation: rotationOn(piece),
      hang: p.hang,
      noGrandMaster: type.shape === 'house',
    }));
    for (const row of rows) changes.push(insertRow('fixtures', row));
    const routes = routesForUnrouted(show, placed.patches);
    changes.push(...routes.changes);
    let grouped = '';
    if (p.group) {
      const number = Math.max(0, ...[...show.groups.values()].map((g) => g.number)) + 1;
      const name = label.replaceAll('#', '').trim() || type.name;
      changes.push(
        insertRow('groups', { id: newId(), number, name, fixtures: rows.map((r) => r.id) }),
      );
      grouped = `; group ${number} “${name}”`;
    }

    const fresh = p.palettes ? standardPalettes(show, mode, newId) : [];
    changes.push(...fresh.map((row) => insertRow('palettes', row)));
    if (fresh.length > 0) grouped += `; ${plural(fresh.length, 'palette')}`;

    const numbers =
      p.quantity === 1 ? `${placed.first}` : `${placed.first}–${placed.first + p.quantity - 1}`;
    const start = placed.patches[0]?.[0];
    const routed =
      routes.universes.length > 0
        ? `; universe ${routes.universes.join(', ')} now goes to the simulated node`
        : '';
    return {
      changes,
      summary: `Patched ${plural(p.quantity, 'fixture')}, ${numbers} ${type.name}, ${start ? `at ${formatPoint(start)}` : 'off the rig'}${grouped}${routed}`,
    };
  },
});

/** `201–206 take 2.101 to 2.238, 23 channels each.` Said before it is done. */
export function sayPatch(rows: readonly FixtureRow[], mode: Mode): string {
  const first = rows[0];
  const last = rows.at(-1);
  if (!first || !last) return '';
  const numbers =
    rows.length === 1 ? `${first.number} takes` : `${first.number}–${last.number} take`;
  const channels = `${plural(channelCount(mode), 'channel')}${rows.length > 1 ? ' each' : ''}`;
  const start = first.patch[0];
  const end = last.patch[0];
  if (!start || !end)
    return `${rows.length === 1 ? `${first.number} is` : `${first.number}–${last.number} are`} patched off the rig, without an address.`;
  const more =
    first.patch.length > 1
      ? `; further addresses from ${first.patch.slice(1).map(formatPoint).join(' and ')}`
      : '';
  const universes = new Set(rows.flatMap((r) => r.patch.map((p) => p.universe))).size;
  return `${numbers} ${formatPoint(start)} to ${formatPoint({ universe: end.universe, address: end.address + mode.footprint - 1 })}, ${channels}${universes > 1 ? `, over ${universes} universes` : ''}${more}.`;
}
