/**
 * The network as the player on air sees it: its cards, what the house has said of them, who else is there, and what comes
 * in. Whatever changes is told to the clock, which sends.
 */
import type { NetworkState } from '../../core/live/messages.ts';
import type { ArtNames } from '../../core/output/art-poll.ts';
import { usable, type Card } from '../../core/wires/cards.ts';
import { WIRES, type Wires } from '../../core/wires/wires.ts';
import type { Network } from '../sending/network.ts';
import { artnetPort, type ArtnetPort } from './artnet-port.ts';
import {
  artnetPortAt,
  discover,
  type Discovery,
  type DiscoverySettings,
  type Sending,
} from './discovery.ts';
import { inTurn } from './in-turn.ts';
import { makeRdm, type Rdm } from './rdm.ts';
import { universesIn, type UniversesHeard, type UniversesIn } from './universes-in.ts';

const LOOK_MS = 1000;
/** Universes of ours that others say they send, and that are listened to for who wins. */
const MOST_CONTESTED = 64;
const CONTESTED = 'contested';
const TURNS = 'turns';

/** Who is told what comes from the network. */
export interface NetworkHooks extends UniversesHeard {
  sending: () => Sending;
  /** Every Art-Net packet, for those who want something of it beside light. */
  artnet: (packet: Uint8Array) => void;
  /** To the clock. */
  tell: (network: Network) => void;
}
/** What a house is on its network with. */
export interface NetworkNeeds extends DiscoverySettings {
  wires: () => Promise<Wires>;
  cards: () => Card[];
  failed: (error: unknown) => void;
}

/** A house on its network. */
export interface AtNetwork {
  /** This player is on air from now on: before that it hears nothing, and takes nothing from the one that is. */
  begin: () => Promise<void>;
  /** The house has said something else. */
  readAgain: () => Promise<void>;
  state: () => NetworkState;
  rename: (address: string, bindIndex: number, names: ArtNames) => boolean;
  universes: () => UniversesIn | null;
  /** All of this machine, as they were seen last. */
  cards: () => readonly Card[];
  /** What hangs at the nodes; null before this player is on air. */
  rdm: () => Rdm | null;
  close: () => void;
}

interface Open {
  artnet: ArtnetPort;
  discovery: Discovery;
  universes: UniversesIn;
  rdm: Rdm;
  looking: NodeJS.Timeout;
}

/** Who else sends sACN universes that this house sends. */
function contention(sending: () => Sending) {
  /** Ours that somebody was heard to send, whether they say so or not. */
  let heardToo: number[] = [];
  /** Those that we send and somebody else sends, or says they send, too. */
  const contested = (discovery: Discovery | undefined): string[] => {
    const ours = new Set(sending().sacn);
    const others = (discovery?.sources() ?? []).filter((s) => !s.own);
    const both = [
      ...heardToo.filter((u) => ours.has(u)),
      ...others.flatMap((s) => s.universes.filter((u) => ours.has(u))),
    ];
    return [...new Set(both)].slice(0, MOST_CONTESTED).map((u) => `sacn/${u}`);
  };
  return {
    /** Listens to some of ours at a time, and to all that others were heard in. */
    look: ({ universes, discovery }: Open, now_ms: number): void => {
      const { sacn } = sending();
      heardToo = sacn.filter((u) => universes.sources(`sacn/${u}`).length > 0);
      const turn = [...inTurn(sacn, now_ms), ...heardToo.slice(0, MOST_CONTESTED)];
      universes.want(TURNS, new Set(turn.map((u) => `sacn/${u}`)), now_ms, 'multicast');
      universes.want(CONTESTED, new Set(contested(discovery)), now_ms);
    },
    seen: (open: Open | null): NetworkState['contested'] =>
      contested(open?.discovery).map((port) => ({
        universe: Number(port.split('/')[1]),
        others: (open?.universes.sources(port) ?? []).map(({ name, address, priority }) => ({
          name,
          address,
          priority,
        })),
      })),
  };
}

/** Wires the parts; nothing is heard before `begin`. */
export function makeNetwork(needs: NetworkNeeds, hooks: NetworkHooks): AtNetwork {
  let wires = WIRES;
  let cards: Card[] = [];
  let told = '';
  let open: Open | null = null;

  const tell = (): void => {
    const asked = open?.discovery.asked() ?? new Map<number, string[]>();
    const key = JSON.stringify([cards, wires, [...asked]]);
    if (key === told) return;
    told = key;
    hooks.tell({ cards, wires, asked });
  };
  const others = contention(hooks.sending);
  const look = (): void => {
    cards = needs.cards();
    if (open) others.look(open, performance.now());
    tell();
  };
  const readAgain = async (): Promise<void> => {
    wires = await needs.wires().catch((error: unknown) => {
      needs.failed(error);
      return wires;
    });
    tell();
  };

  const begin = (): Open => {
    const artnet = artnetPort(needs.artnetPort);
    artnet.hear(hooks.artnet);
    const universes = universesIn(
      {
        cid: needs.cid.replaceAll('-', ''),
        sacnPort: needs.sacnPort,
        artnet,
        cards: () => cards,
        isOurs: (portAddress) => hooks.sending().artnetWires.includes(portAddress),
      },
      hooks,
    );
    const discovery = discover({
      ...needs,
      artnet,
      network: () => ({ cards, wires }),
      sending: hooks.sending,
      // Light that goes to nodes that ask does not wait for the next look.
      changed: tell,
    });
    const looking = setInterval(look, LOOK_MS);
    looking.unref();
    const rdm = makeRdm({
      artnet,
      cid: needs.cid,
      nodes: discovery.nodes,
      portAt: (address) => artnetPortAt(needs, address),
    });
    return { artnet, universes, discovery, rdm, looking };
  };

  return {
    begin: async () => {
      cards = needs.cards();
      open ??= begin();
      await readAgain();
    },
    readAgain,
    state: () => ({
      wires,
      cards: usable(cards),
      nodes: open?.discovery.nodes() ?? [],
      sources: open?.discovery.sources() ?? [],
      deaf: open?.discovery.deaf() ?? [],
      contested: others.seen(open),
    }),
    rename: (address, bindIndex, names) => {
      const isThere = open?.discovery
        .nodes()
        .some((n) => n.address === address && n.bindIndex === bindIndex);
      if (isThere) open?.discovery.rename(address, bindIndex, names);
      return isThere ?? false;
    },
    universes: () => open?.universes ?? null,
    cards: () => cards,
    rdm: () => open?.rdm ?? null,
    close: () => {
      if (!open) return;
      clearInterval(open.looking);
      open.discovery.close();
      open.universes.close();
      open.artnet.close();
      open = null;
    },
  };
}
