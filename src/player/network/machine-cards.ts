/** The cards of this machine as they are at this moment. */
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { networkInterfaces } from 'node:os';
import type { Card } from '../../core/wires/cards.ts';

const CLASS = '/sys/class/net';
/** The states of an interface (RFC 2863, ifOperStatus) that say something of its cable. */
const STATES: Readonly<Record<string, Card['link']>> = {
  up: 'up',
  down: 'down',
  lowerlayerdown: 'down',
};

/** `up`, `down`, or `unknown` where the system does not say. */
function linkOf(name: string): Card['link'] {
  try {
    const state = readFileSync(`${CLASS}/${name}/operstate`, 'utf8').trim();
    return STATES[state] ?? 'unknown';
  } catch {
    return 'unknown';
  }
}

/** Also those that have no address: a cable may be missing. */
function namesOf(): string[] {
  try {
    return readdirSync(CLASS);
  } catch {
    return [];
  }
}

/** Looks at the cards; one that had an address once is known from then on, also while its cable is out. */
export function watchCards(): () => Card[] {
  const known = new Set<string>();
  return () => {
    const all = networkInterfaces();
    for (const [name, own = []] of Object.entries(all))
      if (own.some((i) => i.family === 'IPv4')) known.add(name);
    const names = new Set([...Object.keys(all), ...namesOf()]);
    // Without an address a card is shown where it is one that a cable goes into.
    const isReal = (name: string): boolean =>
      known.has(name) || existsSync(`${CLASS}/${name}/device`);
    return [...names]
      .filter(isReal)
      .map((name) => {
        const own = all[name] ?? [];
        const addresses = own
          .filter((i) => i.family === 'IPv4')
          .map(({ address, netmask }) => ({ address, netmask }));
        const isOwn = name === 'lo' || (own.length > 0 && own.every((i) => i.internal));
        return { name, addresses, link: linkOf(name), isOwn };
      })
      .sort((a, b) => a.name.localeCompare(b.name));
  };
}
