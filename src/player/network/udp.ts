/** What sockets of the network have in common. */
import { createSocket, type Socket } from 'node:dgram';
import { networkInterfaces } from 'node:os';

/** IPv4 addresses of this machine. */
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

/** Closes a socket, also one that is closed already. */
export function shut(socket: Socket | null): void {
  try {
    socket?.close();
  } catch {
    // It never opened.
  }
}

/** A port of this machine that nobody has, for what is tried or measured. */
export const freeUdp = (): Promise<number> =>
  new Promise((resolve) => {
    const socket = createSocket('udp4');
    socket.bind(0, '127.0.0.1', () => {
      const { port } = socket.address();
      socket.close(() => resolve(port));
    });
  });
