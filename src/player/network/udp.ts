/** What sockets of the network have in common. */
import { createSocket, type RemoteInfo, type Socket } from 'node:dgram';
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

/** So often it is tried again to hear on a port that something else has. */
export const AGAIN_MS = 1000;

/** A port that is listened to. */
export interface Ear {
  /** Null while it cannot be had. */
  socket: () => Socket | null;
  /** Why nothing is heard, as the system says it; null while all is well. */
  problem: () => string | null;
  close: () => void;
}

/**
 * Listens to a port that others of this machine may listen to as well. What has it for itself may end, and an address that
 * is not there may come: until then it is tried again and again (artnet-port.test.ts).
 * @param opened is told of each socket that hears
 */
export function listen(
  at: { port: number; address?: string },
  heard: (packet: Buffer, from: RemoteInfo) => void,
  opened: (socket: Socket) => void = () => undefined,
): Ear {
  let socket: Socket | null = null;
  let problem: string | null = null;
  let again: NodeJS.Timeout | undefined;
  const open = (): void => {
    const made = createSocket({ type: 'udp4', reuseAddr: true });
    // What is sent before it is bound waits for that.
    socket = made;
    made.on('message', heard);
    made.on('error', (error) => {
      shut(made);
      if (socket !== made) return;
      socket = null;
      problem = error.message;
      again = setTimeout(open, AGAIN_MS).unref();
    });
    made.bind(at, () => {
      problem = null;
      opened(made);
    });
    made.unref();
  };
  open();
  return {
    socket: () => socket,
    problem: () => problem,
    close: () => {
      clearTimeout(again);
      const last = socket;
      socket = null;
      shut(last);
    },
  };
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
