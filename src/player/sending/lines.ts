/** Streams that leave the house: what each one is, where it goes, and the packet that it is. */
import { UNIVERSE_SLOTS } from '../../core/dmx.ts';
import { artnetPacket } from '../../core/output/artnet.ts';
import type { SacnSource } from '../../core/output/bytes.ts';
import { sacnMulticast, sacnPacket, sacnPriorities } from '../../core/output/sacn.ts';
import { AS_ROUTE } from '../../core/crew/worth.ts';
import type { RouteRow } from '../../core/routes/rows.ts';
import type { Nowhere } from '../../core/live/messages.ts';
import { broadcastOf, leavesBy } from '../../core/wires/cards.ts';
import type { ClockSettings, LineCount } from '../clock-messages.ts';
import type { AirFade } from './air-fade.ts';
import type { Network } from './network.ts';
import type { Destination } from './post.ts';

/** One universe on its way to one place. */
export interface Line {
  protocol: RouteRow['protocol'];
  /** In the engine's order; -1 where the engine does not have it, and the stream is on its way out. */
  page: number;
  /** Two lines of one name are one stream. */
  name: string;
  /** Number on the wire. */
  wire: number;
  /** Of the show. */
  universe: number;
  /** It is meant to leave this machine. */
  isForLights: boolean;
  packet: Uint8Array;
  /** What each address is worth, as a packet of its own; null where all are worth the same. */
  each: Uint8Array | null;
  eachSent_ms: number;
  /** Where it goes, as numbers of the post; none where nothing leaves. */
  targets: readonly number[];
  count: LineCount;
  /** On its way from what was on air before. */
  fade: AirFade | null;
}

/** Place of the sequence in a packet: E1.31 clause 6.7.2, Art-Net 4 ArtDmx. */
export const SEQUENCE_AT = { sacn: 111, artnet: 12 } as const;
const DATA_AT = { sacn: 126, artnet: 18 } as const;
const LIMITED_BROADCAST = '255.255.255.255';

/** What is on the wire. */
export const bytesOf = ({ packet, protocol }: Line): Uint8Array =>
  packet.subarray(DATA_AT[protocol], DATA_AT[protocol] + UNIVERSE_SLOTS);

/** A stream is the same one as long as it goes from the same card to the same place under the same number. */
const nameOf = (route: RouteRow): string =>
  `${route.protocol}/${route.destination}/${route.card ?? ''}/${route.wire}`;

/** Lights are on the protocols' own ports, always; the simulated node is where it found room. */
function portOf(settings: ClockSettings, protocol: RouteRow['protocol'], toNode: boolean): number {
  const { sacnPort, artnetPort, nodeSacnPort, nodeArtnetPort } = settings;
  if (toNode) return protocol === 'sacn' ? nodeSacnPort : nodeArtnetPort;
  return protocol === 'sacn' ? sacnPort : artnetPort;
}

/** Where a route goes at this moment, or why it goes nowhere. */
function destinationsOf(
  route: RouteRow,
  settings: ClockSettings,
  { cards, wires, asked }: Network,
): Destination[] | string {
  const { protocol, destination, wire } = route;
  const to = (from: string | null, host: string): Destination => ({
    from,
    host,
    port: portOf(settings, protocol, host === settings.nodeHost && destination !== host),
  });
  // The simulated node is on this machine, whatever the cards are.
  if (destination === 'node') return [to(null, settings.nodeHost)];
  const leaves = leavesBy(cards, route.card ?? wires.card);
  if (leaves.by === 'nothing') return leaves.problem;
  const from = leaves.by === 'card' ? leaves.address.address : null;
  if (destination === 'multicast') return [to(from, sacnMulticast(wire))];
  if (destination === 'broadcast')
    return [to(from, leaves.by === 'card' ? broadcastOf(leaves.address) : LIMITED_BROADCAST)];
  if (destination !== 'nodes') return [to(from, destination)];
  const nodes = asked.get(wire) ?? [];
  if (nodes.length === 0)
    return 'No Art-Net node has said that it puts this port address out: nothing leaves.';
  return nodes.map((host) => to(host === settings.nodeHost ? null : from, host));
}

/** What lines are made of. */
export interface LineNeeds {
  settings: ClockSettings;
  network: Network;
  source: SacnSource;
  /** What addresses of a universe are worth that are not worth what its route says; 255: what it says. */
  priorities: ReadonlyMap<number, Uint8Array>;
  target: (to: Destination) => number;
}

function eachOf(route: RouteRow, { priorities, source }: LineNeeds): Uint8Array | null {
  const worth = priorities.get(route.universe);
  if (route.protocol !== 'sacn' || !worth) return null;
  const each = worth.map((p) => (p === AS_ROUTE ? route.priority : p));
  return sacnPriorities(source, route.wire, route.priority, each);
}

/** @param count of the route, where it had one already @param page of the engine */
export function lineOf(
  route: RouteRow,
  page: number,
  count: LineCount | undefined,
  needs: LineNeeds,
): Line {
  const { wires } = needs.network;
  const places = destinationsOf(route, needs.settings, needs.network);
  const own = count ?? { routeId: route.id, packets: 0, errors: 0, problem: null };
  own.problem = typeof places === 'string' ? places : null;
  return {
    protocol: route.protocol,
    page,
    name: nameOf(route),
    wire: route.wire,
    universe: route.universe,
    isForLights: route.destination !== 'node',
    packet:
      route.protocol === 'sacn'
        ? sacnPacket(needs.source, route.wire, route.priority, wires.sync)
        : artnetPacket(route.wire),
    each: eachOf(route, needs),
    eachSent_ms: -Infinity,
    targets: typeof places === 'string' ? [] : places.map(needs.target),
    count: own,
    fade: null,
  };
}

/** What is meant for lights and reaches none, by any of its lines; null where all of it leaves. */
export function nowhereOf(lines: readonly Line[]): Nowhere | null {
  const forLights = lines.filter((l) => l.isForLights);
  const leaves = new Set(forLights.flatMap((l) => (l.targets.length > 0 ? [l.universe] : [])));
  const lost = forLights.filter((l) => !leaves.has(l.universe));
  const why = lost[0]?.count.problem;
  if (!why) return null;
  const universes = [...new Set(lost.map((l) => l.universe))].sort((a, b) => a - b);
  return { universes, of: new Set(forLights.map((l) => l.universe)).size, why };
}

/** Where synchronisation of these routes goes: to its group by each card, and to each address that gets data alone. */
export function syncDestinations(
  routes: readonly RouteRow[],
  protocol: RouteRow['protocol'],
  { settings, network }: Pick<LineNeeds, 'settings' | 'network'>,
): Destination[] {
  return routes
    .filter((r) => r.on && r.protocol === protocol)
    .flatMap((r) => {
      const places = destinationsOf(r, settings, network);
      if (typeof places === 'string') return [];
      if (r.destination !== 'multicast') return places;
      return places.map((p) => ({ ...p, host: sacnMulticast(network.wires.sync) }));
    });
}
