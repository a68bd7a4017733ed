/** What sockets of the network have in common. */
import type { Socket } from 'node:dgram';
import { networkInterfaces } from 'node:os';

export const ownAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flat()
    .flatMap((i) => (i?.family === 'IPv4' ? [i.address] : []));

/** Hears a group on every card. */
export function joinEverywhere(socket: Socket, group: string): void {
  for (const address of ownAddresses()) {
    try {
      socket.addMembership(group, address);
    } catch {
      // A card that takes no multicast hears none.
    }
  }
}

export function shut(socket: Socket | null): void {
  try {
    socket?.close();
  } catch {
    // It never opened.
  }
}
