/** What sockets of the network have in common. */
import type { Socket } from 'node:dgram';
import { networkInterfaces } from 'node:os';

export const ownAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flat()
    .flatMap((i) => (i?.family === 'IPv4' ? [i.address] : []));

/**
 * Has a socket hear a group on every card, also on one that comes later or comes again (universes-in.test.ts).
 * @returns to be called with the addresses that this machine has now
 */
export function staysIn(socket: Socket, group: string): (addresses: readonly string[]) => void {
  let joined: ReadonlySet<string> = new Set();
  const join = (address: string): boolean => {
    try {
      socket.addMembership(group, address);
      return true;
    } catch (error) {
      // It is there already; a card that takes no multicast hears none.
      return (error as NodeJS.ErrnoException).code === 'EADDRINUSE';
    }
  };
  return (addresses) => {
    joined = new Set(addresses.filter((a) => joined.has(a) || join(a)));
  };
}

export function shut(socket: Socket | null): void {
  try {
    socket?.close();
  } catch {
    // It never opened.
  }
}
