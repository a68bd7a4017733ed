/** Universe discovery (E1.31-2018 clause 8): which universes a source sends, told every ten seconds. */
import {
  ACN_IDENTIFIER,
  FLAGS,
  put16,
  textAt,
  utf8Within,
  type SacnSource,
  hexOf,
  word16,
} from './bytes.ts';

/** Where sources say which universes they send (E1.31-2018, universe discovery). */
export const SACN_DISCOVERY_GROUP = '239.255.250.214';
/** Clause 8: a source tells its universes every 10 s. */
export const SACN_DISCOVERY_EVERY_MS = 10_000;
const PAGE = 512;
const HEADER = 120;

/** The list of universes of a source in pages of 512, sorted (clause 8.5). */
export function sacnDiscovery(source: SacnSource, universes: readonly number[]): Uint8Array[] {
  const sorted = [...new Set(universes)].sort((a, b) => a - b);
  const pages = Math.max(1, Math.ceil(sorted.length / PAGE));
  return Array.from({ length: pages }, (_, page) => {
    const list = sorted.slice(page * PAGE, (page + 1) * PAGE);
    const packet = new Uint8Array(HEADER + list.length * 2);
    put16(packet, 0, 0x0010);
    packet.set(ACN_IDENTIFIER, 4);
    put16(packet, 16, FLAGS | (packet.length - 16));
    put16(packet, 20, 0x0008);
    packet.set(source.cid.subarray(0, 16), 22);
    put16(packet, 38, FLAGS | (packet.length - 38));
    put16(packet, 42, 0x0002);
    packet.set(utf8Within(source.name, 63), 44);
    put16(packet, 112, FLAGS | (packet.length - 112));
    put16(packet, 116, 0x0001);
    packet[118] = page;
    packet[119] = pages - 1;
    list.forEach((universe, i) => put16(packet, HEADER + i * 2, universe));
    return packet;
  });
}

/** A page of what a source says it sends. */
export interface SacnDiscovered {
  cid: string;
  name: string;
  page: number;
  lastPage: number;
  universes: number[];
}

/** Reads one page; undefined for anything else. */
export function readSacnDiscovery(packet: Uint8Array): SacnDiscovered | undefined {
  if (packet.length < HEADER || ACN_IDENTIFIER.some((b, i) => packet[4 + i] !== b))
    return undefined;
  if (word16(packet, 20) !== 8 || word16(packet, 42) !== 2 || word16(packet, 116) !== 1)
    return undefined;
  const universes: number[] = [];
  for (let at = HEADER; at + 1 < packet.length && universes.length < PAGE; at += 2)
    universes.push(word16(packet, at));
  return {
    cid: hexOf(packet.subarray(22, 38)),
    name: textAt(packet, 44, 64),
    page: packet[118] ?? 0,
    lastPage: packet[119] ?? 0,
    universes,
  };
}
