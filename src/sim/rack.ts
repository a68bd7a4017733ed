/** The simulated node as an Art-Net device: its names, its ports, what it answers. */
import {
  ART_STYLE,
  artPollReply,
  inReplies,
  SHORT_NAME_BYTES,
  type ArtNames,
  type ArtPort,
} from '../core/output/art-poll.ts';
import { utf8Within } from '../core/output/bytes.ts';
import type { Faults } from '../core/wires/faults.ts';
import { LOST_MS, type Heard } from './sources.ts';

const ADDRESS = '127.0.0.1';
const MAC = '020000000001';
/** What it offers while nobody sends. */
const FIRST_PORTS = [0, 1, 2, 3];

/** A node that answers polls. */
export interface Rack {
  names: ArtNames;
  /** A name that it was given; an empty one stays as it is. */
  rename: (names: ArtNames) => void;
  replies: (heard: Iterable<Heard>, faults: Faults, now_ms: number) => Uint8Array[];
}

/** The simulated node’s answers to ArtPoll and ArtAddress. */
export function makeRack(): Rack {
  const rack: Rack = {
    names: { shortName: 'Simulated node', longName: 'Wingman simulated node' },
    rename: ({ shortName, longName }) => {
      const { names } = rack;
      rack.names = {
        shortName:
          shortName === ''
            ? names.shortName
            : new TextDecoder().decode(utf8Within(shortName, SHORT_NAME_BYTES)),
        longName: longName === '' ? names.longName : longName,
      };
    },
    replies: (heard, faults, now_ms) => repliesOf(rack.names, [...heard], faults, now_ms),
  };
  return rack;
}

function repliesOf(
  names: ArtNames,
  heard: readonly Heard[],
  { deadPort }: Faults,
  now_ms: number,
): Uint8Array[] {
  const artnet = heard.filter((h) => h.protocol === 'artnet');
  const all = artnet.length > 0 ? artnet.map((h) => h.universe) : FIRST_PORTS;
  const portOf = (portAddress: number): ArtPort => {
    const live = artnet.filter((h) => h.universe === portAddress && now_ms - h.last_ms < LOST_MS);
    const isDead = portAddress === deadPort;
    return {
      way: 'out',
      portAddress,
      active: live.length > 0 && !isDead,
      merges: live.length > 1,
      fault: isDead ? 'short circuit' : '',
    };
  };
  const groups = inReplies(all);
  return groups.map((group, i) =>
    artPollReply({
      address: ADDRESS,
      ...names,
      report: `#0001 [${artnet.length}] ${artnet.length > 0 ? 'receiving' : 'waiting'}`,
      ports: group.map(portOf),
      style: ART_STYLE.node,
      rdm: true,
      mac: MAC,
      bindIndex: i + 1,
    }),
  );
}
