/** A name for this house on the local network, by multicast DNS (RFC 6762): `wingman.local`, or the next one that is free. */
import multicastDns from 'multicast-dns';

/** Names that a house may have; the certificate has all of them. */
export const LOCAL_NAMES: readonly string[] = [
  'wingman.local',
  ...Array.from({ length: 8 }, (_, i) => `wingman-${i + 2}.local`),
];
/** So long another house is listened for. */
const PROBE_MS = 400;
/** Questions that are about an address. */
const ASKED = new Set<string>(['A', 'ANY']);
/** Seconds that an answer holds. */
const TTL_S = 120;

/** A name on the local network. */
export interface LocalName {
  /** Null where the network takes no such names, or all are taken. */
  name: string | null;
  close: () => void;
}

/** @param addresses of this machine, which are asked for at each question: a card may come later */
export async function localName(addresses: () => readonly string[]): Promise<LocalName> {
  let mdns: ReturnType<typeof multicastDns>;
  let failed = false;
  try {
    mdns = multicastDns();
  } catch {
    return { name: null, close: () => undefined };
  }
  // Without a network, or with the port in other hands, there is no name, and nothing else is amiss.
  mdns.on('error', () => (failed = true));
  const taken = new Set<string>();
  const own = new Set(addresses());
  mdns.on('response', ({ answers }) => {
    for (const a of answers)
      if (a.type === 'A' && !own.has(a.data)) taken.add(a.name.toLowerCase());
  });
  try {
    mdns.query(LOCAL_NAMES.map((name) => ({ name, type: 'A' as const })));
  } catch {
    failed = true;
  }
  await new Promise((done) => setTimeout(done, PROBE_MS));
  const close = (): void => {
    try {
      mdns.destroy();
    } catch {
      // It never opened.
    }
  };
  const name = failed ? undefined : LOCAL_NAMES.find((n) => !taken.has(n));
  if (name === undefined) {
    close();
    return { name: null, close: () => undefined };
  }
  mdns.on('query', ({ questions }) => {
    const isAsked = questions.some((q) => q.name.toLowerCase() === name && ASKED.has(q.type));
    if (isAsked)
      mdns.respond(
        addresses().map((data) => ({ name, type: 'A' as const, ttl: TTL_S, flush: true, data })),
      );
  });
  return { name, close };
}
