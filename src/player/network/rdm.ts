/**
 * RDM over Art-Net: asks nodes who hangs at their ports, and each unit what it is. Nothing is asked before somebody wants to
 * know: it takes time on the wire.
 */
import type { NodeSeen, RdmState } from '../../core/live/messages.ts';
import { outputsOf } from '../../core/output/art-poll.ts';
import { artTodRequest, readArtTodData } from '../../core/output/art-rdm.ts';
import type { RdmDevice } from '../../core/rdm/devices.ts';
import { COMMAND, type Uid } from '../../core/rdm/packet.ts';
import {
  PARAMETER,
  readDeviceInfo,
  readHours,
  readMode,
  readSensorKind,
  readSensorValue,
  readText,
} from '../../core/rdm/parameters.ts';
import { refuse, type Refusal } from '../../core/refusal.ts';
import { RdmWire, type Place, type Said, type WireNeeds } from './rdm-wire.ts';

/** Tables come within this. */
const TABLES_MS = 1500;
/** Of what liars say there is no end; of what people have there is. */
const MOST_UNITS = 2000;
const MOST_MODES = 40;
const MOST_SENSORS = 8;

interface RdmNeeds extends Pick<WireNeeds, 'artnet' | 'portAt'> {
  cid: string;
  nodes: () => readonly NodeSeen[];
  /** Waits; tests have a clock of their own. */
  wait?: WireNeeds['wait'];
}

/** Devices with RDM that hang on the house’s nodes. */
export interface Rdm {
  state: () => RdmState;
  look: () => Promise<void>;
  set: (uid: Uid, what: 'identify' | 'address' | 'mode', value: number) => Promise<Refusal | null>;
}

const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
const WAYS = {
  identify: (v: number) => ({ parameter: PARAMETER.identify, data: Uint8Array.of(v > 0 ? 1 : 0) }),
  address: (v: number) => ({ parameter: PARAMETER.address, data: Uint8Array.of(v >> 8, v & 255) }),
  mode: (v: number) => ({ parameter: PARAMETER.mode, data: Uint8Array.of(v) }),
} as const;

async function modesOf(wire: RdmWire, uid: Uid, count: number): Promise<RdmDevice['modes']> {
  const modes: RdmDevice['modes'] = [];
  for (let n = 1; n <= Math.min(count, MOST_MODES); n++) {
    const mode = await wire.get(uid, PARAMETER.modeDescription, readMode, Uint8Array.of(n));
    modes.push({ footprint: mode?.footprint ?? 0, name: mode?.name ?? '' });
  }
  return modes;
}

async function sensorsOf(wire: RdmWire, uid: Uid, count: number): Promise<RdmDevice['sensors']> {
  const sensors: RdmDevice['sensors'] = [];
  for (let n = 0; n < Math.min(count, MOST_SENSORS); n++) {
    const which = Uint8Array.of(n);
    const kind = await wire.get(uid, PARAMETER.sensorDefinition, readSensorKind, which);
    const value = await wire.get(uid, PARAMETER.sensorValue, readSensorValue, which);
    if (kind && value !== undefined)
      sensors.push({ name: kind.name, unit: kind.unit, value: value * kind.scale });
  }
  return sensors;
}

/** Why a unit is not known, where it said nothing that can be read. */
function oddly(said: Said): string {
  if (said.is === 'silent') return 'It does not answer.';
  return said.is === 'no'
    ? `It says nothing of itself: ${said.why}.`
    : 'What it says of itself cannot be.';
}

/** Asks a unit all that it can say; `devices` has it from its first answer on, and more with each of them. */
async function readDevice(
  wire: RdmWire,
  devices: Map<Uid, RdmDevice>,
  uid: Uid,
  place: Place,
): Promise<void> {
  const said = await wire.ask(uid, COMMAND.get, PARAMETER.deviceInfo);
  const info = said.is === 'said' ? readDeviceInfo(said.data) : undefined;
  const before = devices.get(uid);
  devices.set(uid, {
    uid,
    ...place,
    maker: before?.maker ?? '',
    model: before?.model ?? '',
    software: before?.software ?? '',
    address: info?.address ?? null,
    footprint: info?.footprint ?? 0,
    mode: info?.mode ?? 0,
    modes: before?.modes ?? [],
    hours: before?.hours ?? null,
    lampHours: before?.lampHours ?? null,
    sensors: before?.sensors ?? [],
    identifies: before?.identifies ?? false,
    odd: info ? null : oddly(said),
  });
  if (!info) return;
  const more: Partial<RdmDevice> = {
    model: (await wire.get(uid, PARAMETER.model, readText)) ?? `model ${info.model}`,
    maker: (await wire.get(uid, PARAMETER.maker, readText)) ?? '',
    software: (await wire.get(uid, PARAMETER.software, readText)) ?? '',
    modes: await modesOf(wire, uid, info.modes),
    hours: (await wire.get(uid, PARAMETER.hours, readHours)) ?? null,
    lampHours: (await wire.get(uid, PARAMETER.lampHours, readHours)) ?? null,
    sensors: await sensorsOf(wire, uid, info.sensors),
    identifies: (await wire.get(uid, PARAMETER.identify, (d) => d[0] === 1)) ?? false,
  };
  const now = devices.get(uid);
  if (now) devices.set(uid, { ...now, ...more });
}

/** By node and port address: who hangs there, as the nodes' tables say. */
type Tables = Map<string, Set<Uid>>;

function placesIn(tables: Tables): Map<Uid, Place> {
  const places = new Map<Uid, Place>();
  for (const [key, uids] of tables) {
    const [node = '', portAddress] = key.split('/');
    for (const uid of uids)
      if (places.size < MOST_UNITS && !places.has(uid))
        places.set(uid, { node, portAddress: Number(portAddress) });
  }
  return places;
}

/** None of them known yet. */
export function makeRdm({ artnet, portAt, cid, nodes, wait = sleep }: RdmNeeds): Rdm {
  const devices = new Map<Uid, RdmDevice>();
  let places = new Map<Uid, Place>();
  let tables: Tables = new Map();
  let looking = false;
  let looked = false;
  const wire = new RdmWire({
    artnet,
    portAt,
    wait,
    // A maker's number that is for experiments (E1.20 clause 5.1), and this house.
    own: `7ff0:${cid.replaceAll('-', '').slice(0, 8)}`,
    placeOf: (uid) => places.get(uid),
  });
  artnet.hear((packet, from) => {
    const table = looking ? readArtTodData(packet) : undefined;
    if (!table) return;
    const key = `${from.address}/${table.portAddress}`;
    const uids = tables.get(key) ?? new Set<Uid>();
    for (const uid of table.uids) if (uids.size < MOST_UNITS) uids.add(uid);
    tables.set(key, uids);
  });
  const read = async (uid: Uid): Promise<void> => {
    const place = places.get(uid);
    if (place) await readDevice(wire, devices, uid, place);
  };
  const askTables = (): void => {
    tables = new Map();
    for (const node of nodes())
      if (node.rdm)
        for (const portAddress of outputsOf(node))
          artnet.send(artTodRequest(portAddress), node.address, portAt(node.address));
  };
  return {
    state: () => ({
      looking,
      looked,
      devices: [...devices.values()].sort(
        (a, b) => a.portAddress - b.portAddress || (a.address ?? 0) - (b.address ?? 0),
      ),
    }),
    look: async () => {
      if (looking) return;
      looking = true;
      try {
        askTables();
        await wait(TABLES_MS);
        places = placesIn(tables);
        for (const uid of devices.keys()) if (!places.has(uid)) devices.delete(uid);
        await Promise.all([...places.keys()].map(read));
      } finally {
        looking = false;
        looked = true;
      }
    },
    set: async (uid, what, value) => {
      if (!places.has(uid))
        return refuse('not-found', 'No unit of this name answers now. Nothing was changed.');
      const { parameter, data } = WAYS[what](value);
      const said = await wire.ask(uid, COMMAND.set, parameter, data);
      if (said.is === 'silent')
        return refuse('unavailable', 'The unit does not answer; it may be as it was.');
      if (said.is === 'no')
        return refuse('invalid', `The unit refuses: ${said.why}. Nothing was changed.`);
      await read(uid);
      return null;
    },
  };
}
