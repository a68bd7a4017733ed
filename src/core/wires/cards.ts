/** Network cards of a machine: what they are called, where they are, and whether a cable is in them. */

export interface CardAddress {
  address: string;
  netmask: string;
}

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

/** @param card the name that was chosen; null: the machine decides */
export function leavesBy(cards: readonly Card[], card: string | null): Leaves {
  if (card === null) return BY_MACHINE;
  const found = cards.find((c) => c.name === card);
  if (!found)
    return { by: 'nothing', problem: `The card “${card}” is not in this machine: nothing leaves.` };
  // Without a cable the system takes the address away too.
  if (found.link === 'down')
    return { by: 'nothing', problem: `No cable in the card “${card}”: nothing leaves.` };
  const [address] = found.addresses;
  if (!address)
    return { by: 'nothing', problem: `The card “${card}” has no address: nothing leaves.` };
  return { by: 'card', address };
}
