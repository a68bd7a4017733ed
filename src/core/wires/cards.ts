/** Network cards of a machine: what they are called, where they are, and whether a cable is in them. */

export interface CardAddress {
  address: string;
  netmask: string;
}

/** A network card of the machine. */
export interface Card {
  /** As the machine calls it. */
  name: string;
  /** Its IPv4 addresses; none while it has not been given one. */
  addresses: readonly CardAddress[];
  link: 'up' | 'down' | 'unknown';
  /** It leads back to this machine. */
  isOwn: boolean;
}

const numberOf = (address: string): number =>
  address.split('.').reduce((sum, part) => sum * 256 + Number(part), 0);
const textOf = (n: number): string =>
  [24, 16, 8, 0].map((shift) => Math.floor(n / 2 ** shift) % 256).join('.');

/** The address that everybody on a card hears (RFC 919). */
export function broadcastOf({ address, netmask }: CardAddress): string {
  const mask = numberOf(netmask);
  const net = numberOf(address) - (numberOf(address) % (2 ** 32 - mask));
  return textOf(net + (2 ** 32 - 1 - mask));
}

const isOn = ({ address, netmask }: CardAddress, other: string): boolean => {
  const size = 2 ** 32 - numberOf(netmask);
  return Math.floor(numberOf(address) / size) === Math.floor(numberOf(other) / size);
};

/** The card on whose network an address is; undefined where it is behind a router, or nowhere. */
export const cardTowards = (cards: readonly Card[], address: string): Card | undefined =>
  cards.find((c) => c.addresses.some((a) => isOn(a, address)));

/** Cards by which lights could be reached. */
export const usable = (cards: readonly Card[]): Card[] => cards.filter((c) => !c.isOwn);

/** `eth1, 10.0.0.2`, `eth1, no address`. */
export const sayCard = ({ name, addresses }: Card): string =>
  `${name}, ${addresses[0]?.address ?? 'no address'}`;

/** Where packets leave: bound to an address of a card, or as the machine decides. */
export type Leaves =
  | { by: 'machine' }
  | { by: 'card'; address: CardAddress }
  /** They do not, and why. */
  | { by: 'nothing'; problem: string };

const BY_MACHINE: Leaves = { by: 'machine' };

/** The address of a card, or what keeps it from being used, as the beginning of a sentence. */
function addressBy(cards: readonly Card[], card: string): CardAddress | string {
  const found = cards.find((c) => c.name === card);
  if (!found) return `The card “${card}” is not in this machine`;
  // Without a cable the system takes the address away too.
  if (found.link === 'down') return `No cable in the card “${card}”`;
  return found.addresses[0] ?? `The card “${card}” has no address`;
}

/** @param card the name that was chosen; null: the machine decides */
export function leavesBy(cards: readonly Card[], card: string | null): Leaves {
  if (card === null) return BY_MACHINE;
  const address = addressBy(cards, card);
  return typeof address === 'string'
    ? { by: 'nothing', problem: `${address}: nothing leaves.` }
    : { by: 'card', address };
}

/** Why nothing can be heard by a card; null where it can. @param card absent: by any */
export function deafBy(cards: readonly Card[], card: string | undefined): string | null {
  const address = card === undefined ? undefined : addressBy(cards, card);
  return typeof address === 'string' ? `${address}: nothing is heard.` : null;
}

/**
 * Whether a packet came by a card, as far as its sender tells: it is on the card's network, or on none that this machine
 * knows, as behind a router. A system does not say by which card a packet came.
 */
export function cameBy(cards: readonly Card[], card: string, sender: string): boolean {
  const towards = cardTowards(cards, sender);
  return towards === undefined || towards.name === card;
}
