/**
 * RDM over Art-Net: asks nodes who hangs at their ports, and each unit what it is. One question at a time goes to a node;
 * what does not answer is asked again twice. Nothing is asked before somebody wants to know: it takes time on the wire.
 */
import type { NodeSeen, RdmState } from '../../core/live/messages.ts';
import { outputsOf } from '../../core/output/art-poll.ts';
import { artRdm, artTodRequest, readArtRdm, readArtTodData } from '../../core/output/art-rdm.ts';
import {
  COMMAND,
  rdmPacket,
  readRdm,
  RESPONSE,
  type RdmMessage,
  type Uid,
} from '../../core/rdm/packet.ts';
import {
  PARAMETER,
  readDeviceInfo,
  readHours,
  readMode,
  readSensorKind,
  readSensorValue,
  readText,
  reasonOf,
} from '../../core/rdm/parameters.ts';
import type { RdmDevice } from '../../core/rdm/devices.ts';
import { refuse, type Refusal } from '../../core/refusal.ts';
import type { ArtnetPort } from './artnet-port.ts';

const ANSWER_MS = 600;
const TRIES = 3;
/** Tables come within this. */
const TABLES_MS = 1500;
/** Of what liars say there is no end; of what people have there is. */
const MOST_UNITS = 2000;
const MOST_MODES = 40;
const MOST_SENSORS = 8;
const MOST_PARTS = 16;
/** A unit that needs time says how many tenths of a second. */
const TENTH_MS = 100;
const MOST_WAIT_MS = 5000;

interface RdmNeeds {
  artnet: Pick<ArtnetPort, 'hear' | 'send'>;
  cid: string;
  nodes: () => readonly NodeSeen[];
  portAt: (address: string) => number;
  /** Waits; tests have a clock of their own. */
  wait?: (ms: number) => Promise<void>;
}

type Said = { is: 'said'; data: Uint8Array } | { is: 'no'; why: string } | { is: 'silent' };
const SILENT: Said = { is: 'silent' };

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

export function makeRdm(needs: RdmNeeds): Rdm {
  const { artnet, wait = sleep } = needs;
  /** A maker's number that is for experiments (E1.20 clause 5.1), and this house. */
  const own: Uid = `7ff0:${needs.cid.replaceAll('-', '').slice(0, 8)}`;
  const devices = new Map<Uid, RdmDevice>();
  const places = new Map<Uid, { node: string; portAddress: number }>();
  const waiting = new Map<number, { of: Uid; done: (m: RdmMessage) => void }>();
  const lines = new Map<string, Promise<unknown>>();
  let transaction = 0;
  let looking = false;
  let looked = false;
  /** By port address: who hangs there by the tables that came. */
  let tables = new Map<string, Set<Uid>>();

  artnet.hear((packet, from) => {
    const table = readArtTodData(packet);
    if (table) {
      if (!looking) return;
      const key = `${from.address}/${table.portAddress}`;
      const uids = tables.get(key) ?? new Set<Uid>();
      for (const uid of table.uids) if (uids.size < MOST_UNITS) uids.add(uid);
      tables.set(key, uids);
      return;
    }
    const message = readArtRdm(packet);
    const said = message && readRdm(message.rdm);
    if (!said || said.to !== own) return;
    const asked = waiting.get(said.transaction);
    // Another one's answer to this question is no answer.
    if (asked?.of === said.from) asked.done(said);
  });

  /** One question, until it is answered or given up. */
  const once = async (
    place: { node: string; portAddress: number },
    uid: Uid,
    command: number,
    parameter: number,
    data: Uint8Array,
  ): Promise<RdmMessage | null> => {
    for (let i = 0; i < TRIES; i++) {
      transaction = (transaction + 1) & 255;
      const number = transaction;
      const answer = new Promise<RdmMessage | null>((done) => {
        waiting.set(number, { of: uid, done });
        void wait(ANSWER_MS).then(() => done(null));
      });
      artnet.send(
        artRdm(
          place.portAddress,
          rdmPacket({ to: uid, from: own, transaction: number, port: 1, command, parameter, data }),
        ),
        place.node,
        needs.portAt(place.node),
      );
      const said = await answer;
      waiting.delete(number);
      if (said?.parameter === parameter && said.command === command + 1) return said;
    }
    return null;
  };
  /** A question with all that belongs to its answer: parts of it, and time that the unit asked for. */
  const wholly = async (
    uid: Uid,
    command: number,
    parameter: number,
    data: Uint8Array,
  ): Promise<Said> => {
    const place = places.get(uid);
    if (!place) return SILENT;
    const parts: number[] = [];
    for (let part = 0; part < MOST_PARTS; part++) {
      const said = await once(place, uid, command, parameter, data);
      if (!said) return SILENT;
      if (said.port === RESPONSE.nack) return { is: 'no', why: reasonOf(said.data) };
      if (said.port === RESPONSE.timer) {
        const tenths = ((said.data[0] ?? 0) << 8) | (said.data[1] ?? 0);
        await wait(Math.min(MOST_WAIT_MS, tenths * TENTH_MS));
        continue;
      }
      parts.push(...said.data);
      if (said.port !== RESPONSE.overflow) return { is: 'said', data: Uint8Array.from(parts) };
    }
    return { is: 'no', why: 'its answer has no end' };
  };
  /** Questions to a node stand in a line: a port has one wire. */
  const ask = (
    uid: Uid,
    command: number,
    parameter: number,
    data: Uint8Array = new Uint8Array(),
  ): Promise<Said> => {
    const node = places.get(uid)?.node ?? '';
    const next = (lines.get(node) ?? Promise.resolve()).then(() =>
      wholly(uid, command, parameter, data),
    );
    lines.set(node, next);
    return next;
  };
  const get = async <T>(
    uid: Uid,
    parameter: number,
    read: (d: Uint8Array) => T,
    data?: Uint8Array,
  ): Promise<T | undefined> => {
    const said = await ask(uid, COMMAND.get, parameter, data);
    return said.is === 'said' ? read(said.data) : undefined;
  };

  const modesOf = async (uid: Uid, count: number): Promise<RdmDevice['modes']> => {
    const modes: RdmDevice['modes'] = [];
    for (let n = 1; n <= Math.min(count, MOST_MODES); n++) {
      const mode = await get(uid, PARAMETER.modeDescription, readMode, Uint8Array.of(n));
      modes.push({ footprint: mode?.footprint ?? 0, name: mode?.name ?? '' });
    }
    return modes;
  };
  const sensorsOf = async (uid: Uid, count: number): Promise<RdmDevice['sensors']> => {
    const sensors: RdmDevice['sensors'] = [];
    for (let n = 0; n < Math.min(count, MOST_SENSORS); n++) {
      const kind = await get(uid, PARAMETER.sensorDefinition, readSensorKind, Uint8Array.of(n));
      const value = await get(uid, PARAMETER.sensorValue, readSensorValue, Uint8Array.of(n));
      if (kind && value !== undefined)
        sensors.push({ name: kind.name, unit: kind.unit, value: value * kind.scale });
    }
    return sensors;
  };
  const read = async (uid: Uid): Promise<void> => {
    const place = places.get(uid);
    if (!place) return;
    const said = await ask(uid, COMMAND.get, PARAMETER.deviceInfo);
    const info = said.is === 'said' ? readDeviceInfo(said.data) : undefined;
    const odd = info
      ? null
      : said.is === 'silent'
        ? 'It does not answer.'
        : said.is === 'no'
          ? `It says nothing of itself: ${said.why}.`
          : 'What it says of itself cannot be.';
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
      odd,
    });
    if (!info) return;
    const put = (more: Partial<RdmDevice>): void => {
      const now = devices.get(uid);
      if (now) devices.set(uid, { ...now, ...more });
    };
    put({
      model: (await get(uid, PARAMETER.model, readText)) ?? `model ${info.model}`,
      maker: (await get(uid, PARAMETER.maker, readText)) ?? '',
      software: (await get(uid, PARAMETER.software, readText)) ?? '',
      modes: await modesOf(uid, info.modes),
      hours: (await get(uid, PARAMETER.hours, readHours)) ?? null,
      lampHours: (await get(uid, PARAMETER.lampHours, readHours)) ?? null,
      sensors: await sensorsOf(uid, info.sensors),
      identifies: (await get(uid, PARAMETER.identify, (d) => d[0] === 1)) ?? false,
    });
  };

  const look = async (): Promise<void> => {
    if (looking) return;
    looking = true;
    tables = new Map();
    try {
      for (const node of needs.nodes())
        if (node.rdm)
          for (const portAddress of outputsOf(node))
            artnet.send(artTodRequest(portAddress), node.address, needs.portAt(node.address));
      await wait(TABLES_MS);
      places.clear();
      for (const [key, uids] of tables) {
        const [node = '', portAddress] = key.split('/');
        for (const uid of uids)
          if (places.size < MOST_UNITS && !places.has(uid))
            places.set(uid, { node, portAddress: Number(portAddress) });
      }
      for (const uid of devices.keys()) if (!places.has(uid)) devices.delete(uid);
      await Promise.all([...places.keys()].map(read));
    } finally {
      looking = false;
      looked = true;
    }
  };

  return {
    state: () => ({
      looking,
      looked,
      devices: [...devices.values()].sort(
        (a, b) => a.portAddress - b.portAddress || (a.address ?? 0) - (b.address ?? 0),
      ),
    }),
    look,
    set: async (uid, what, value) => {
      if (!places.has(uid))
        return refuse('not-found', 'No unit of this name answers now. Nothing was changed.');
      const { parameter, data } = WAYS[what](value);
      const said = await ask(uid, COMMAND.set, parameter, data);
      if (said.is === 'silent')
        return refuse('unavailable', 'The unit does not answer; it may be as it was.');
      if (said.is === 'no')
        return refuse('invalid', `The unit refuses: ${said.why}. Nothing was changed.`);
      await read(uid);
      return null;
    },
  };
}
