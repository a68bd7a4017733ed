/** Units that answered by RDM, and what the patch says of the places where they hang. */
import { modeOf } from '../fixtures/points.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import { footprintOf } from '../rig/attributes.ts';
import type { Finding } from '../rig/findings.ts';
import type { Show } from '../show/show.ts';
import type { Uid } from './packet.ts';

/** What a unit has said of itself. */
export interface RdmDevice {
  uid: Uid;
  /** The node it hangs at, and the Art-Net port address there. */
  node: string;
  portAddress: number;
  maker: string;
  model: string;
  software: string;
  /** 1-512; null where it takes none. */
  address: number | null;
  footprint: number;
  /** From 1; names are empty where it does not say. */
  mode: number;
  modes: { footprint: number; name: string }[];
  hours: number | null;
  lampHours: number | null;
  sensors: { name: string; value: number; unit: string }[];
  identifies: boolean;
  /** What is odd about its answers, in a sentence; null where nothing is. */
  odd: string | null;
}

/** What a device is to the show. */
export interface Compared {
  device: RdmDevice;
  /** Its universe in this show, by the Art-Net routes; null where none goes there. */
  universe: number | null;
  fixture: FixtureRow | null;
  verdict: 'right' | 'address' | 'mode' | 'stranger';
  /** What would put it right. */
  set: { address: number } | { mode: number } | null;
  /** In a sentence. */
  says: string;
}

const plain = (t: string): string => t.toLowerCase().replaceAll(/[^\p{L}\p{N}]/gu, '');

interface Place {
  fixture: FixtureRow;
  universe: number;
  address: number;
  footprint: number;
}

/** Where units are patched: the first break of each, which is where their address is set. */
function placesOf(show: Show): Place[] {
  return [...show.fixtures.values()].flatMap((fixture) => {
    const [point] = fixture.patch;
    const mode = modeOf(show, fixture);
    const footprint = mode && point ? footprintOf(mode, point.break ?? 1) : 0;
    return point && footprint > 0 ? [{ fixture, ...point, footprint }] : [];
  });
}

/** Whether a device could be this unit, by its names: both sides call things as their makers do. */
function isLike(show: Show, place: Place, device: RdmDevice): boolean {
  const type = show.types.get(place.fixture.typeId);
  const model = plain(device.model);
  return type !== undefined && model !== '' && plain(type.name) === model;
}

const called = (f: FixtureRow): string => `${f.number}${f.label ? ` ${f.label}` : ''}`;

/** A unit that this device could be, for which none answers: of its name first, else of its size. */
function missing(
  show: Show,
  places: readonly Place[],
  taken: ReadonlySet<string>,
  device: RdmDevice,
): Place | undefined {
  const free = places.filter((p) => !taken.has(p.fixture.id));
  const fits = (p: Place): boolean => p.footprint === device.footprint;
  return (
    free.find((p) => isLike(show, p, device) && fits(p)) ??
    free.find((p) => isLike(show, p, device)) ??
    free.find(fits)
  );
}

const modeFor = (device: RdmDevice, footprint: number): number =>
  device.modes.findIndex((m) => m.footprint === footprint) + 1;

/**
 * What hangs there against what is patched. A device at the address of a unit is that unit; of one that is at none it is
 * asked which unit of the universe does not answer.
 */
export function compareDevices(show: Show, devices: readonly RdmDevice[]): Compared[] {
  const universeOf = new Map<number, number>();
  for (const r of show.routes.values())
    if (r.protocol === 'artnet' && r.on && !universeOf.has(r.wire))
      universeOf.set(r.wire, r.universe);
  const places = placesOf(show);
  const at = (universe: number | null, device: RdmDevice): Place | undefined =>
    places.find((p) => p.universe === universe && p.address === device.address);
  const taken = new Set(
    devices.flatMap((d) => at(universeOf.get(d.portAddress) ?? null, d)?.fixture.id ?? []),
  );
  return devices.map((device) => {
    const universe = universeOf.get(device.portAddress) ?? null;
    const here = at(universe, device);
    if (here) return atItsPlace(show, device, universe, here);
    const inUniverse = places.filter((p) => p.universe === universe);
    const wanted = device.address === null ? undefined : missing(show, inUniverse, taken, device);
    if (wanted) taken.add(wanted.fixture.id);
    const base = { device, universe };
    if (!wanted)
      return { ...base, fixture: null, verdict: 'stranger', set: null, says: 'Not in the patch.' };
    return {
      ...base,
      fixture: wanted.fixture,
      verdict: 'address',
      set: { address: wanted.address },
      says: `It is at ${device.address}; unit ${called(wanted.fixture)}, which does not answer, is patched at ${wanted.address}.`,
    };
  });
}

/** Devices that are not as they are patched, as findings of the rig: where they are set is beside them. */
export const deviceFindings = (show: Show, devices: readonly RdmDevice[]): Finding[] =>
  compareDevices(show, devices)
    .filter((c) => c.set !== null)
    .map(({ device, fixture, says, verdict }) => ({
      key: `units/${device.uid}/${verdict}`,
      grave: false,
      about: 'units',
      text: `${device.model || device.uid}: ${says}`,
      fixtures: fixture ? [fixture.id] : [],
    }));

function atItsPlace(
  show: Show,
  device: RdmDevice,
  universe: number | null,
  { fixture, footprint }: Place,
): Compared {
  const base = { device, universe, fixture };
  if (footprint === device.footprint)
    return { ...base, verdict: 'right', set: null, says: `Unit ${called(fixture)}.` };
  const mode = modeFor(device, footprint);
  const name = modeOf(show, fixture)?.name ?? fixture.mode;
  const begin = `Unit ${called(fixture)} is patched as ${name}, ${footprint} channels; it is in a mode of ${device.footprint}`;
  return {
    ...base,
    verdict: 'mode',
    set: mode > 0 ? { mode } : null,
    says: mode > 0 ? `${begin}.` : `${begin}, and has none of ${footprint}.`,
  };
}
