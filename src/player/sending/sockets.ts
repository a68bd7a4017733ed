/** Packets onto the network: one socket for each card, and one for what leaves as the machine decides. */
import { createSocket, type Socket } from 'node:dgram';
import { AGAIN_MS, shut } from '../network/udp.ts';
import { numbered, type Destination, type Failed, type Post } from './post.ts';

const MULTICAST_HOPS = 8;
const BUFFER_BYTES = 4 * 1024 * 1024;
/** Sends are handed to the kernel at once; closing lets those that were not go first. */
const LAST_SENDS_MS = 20;

interface Line extends Destination {
  /** Told of each packet whether it left; one function for a destination, not one for a packet. */
  sent: (error: Error | null) => void;
}

/** Destinations are addresses, never names: no look-up, which would cost a turn of the event loop per packet. */
const unbound = (): Socket =>
  createSocket({ type: 'udp4', lookup: (host, _options, done) => done(null, host, 4) });

/** Has a socket leave by a card; null: as the machine decides. @param failed told why it cannot, also at once */
function bind(socket: Socket, from: string | null, failed: (error: Error) => void): void {
  socket.on('error', (error) => {
    failed(error);
    shut(socket);
  });
  socket.bind({ port: 0, ...(from === null ? {} : { address: from }) }, () => {
    try {
      socket.setMulticastTTL(MULTICAST_HOPS);
      socket.setBroadcast(true);
      socket.setSendBufferSize(BUFFER_BYTES);
      if (from !== null) socket.setMulticastInterface(from);
    } catch (error) {
      socket.emit('error', error);
    }
  });
  socket.unref();
}

/** Packets into UDP sockets, one for each card. */
export function sockets(failed: Failed): Post {
  const lines: Line[] = [];
  let open = new Map<string | null, Socket | Error>();
  let stale: Socket[] = [];

  const opened = (from: string | null): Socket | Error => {
    const known = open.get(from);
    if (known) return known;
    const socket = unbound();
    // Before it is bound: that an address is of no card any more is said while it is (threads.test.ts).
    open.set(from, socket);
    bind(socket, from, (error) => {
      if (open.get(from) !== socket) return;
      open.set(from, error);
      // An address may come with no card that comes (sockets.test.ts).
      setTimeout(() => {
        if (open.get(from) === error) open.delete(from);
      }, AGAIN_MS).unref();
    });
    return open.get(from) ?? socket;
  };

  const target = numbered((number, to) => {
    let isBad = false;
    const sent = (error: Error | null): void => {
      if (!error && !isBad) return;
      isBad = error !== null;
      failed(number, error?.message ?? null, error ? 1 : 0);
    };
    lines[number] = { ...to, sent };
    opened(to.from);
  });
  return {
    target,
    put: (number, packet) => {
      const line = lines[number];
      if (!line) return;
      const socket = opened(line.from);
      if (socket instanceof Error) {
        line.sent(socket);
        return;
      }
      try {
        socket.send(packet, 0, packet.length, line.port, line.host, line.sent);
      } catch (error) {
        line.sent(error as Error);
      }
    },
    flush: () => {
      for (const socket of stale.splice(0)) shut(socket);
    },
    renew: () => {
      // What was put and has not left yet goes first.
      stale = [...open].flatMap(([from, s]) => (from === null || s instanceof Error ? [] : [s]));
      const own = open.get(null);
      open = new Map(own && !(own instanceof Error) ? [[null, own]] : []);
    },
    close: () =>
      new Promise((done) =>
        setTimeout(() => {
          for (const socket of [...open.values(), ...stale])
            if (!(socket instanceof Error)) shut(socket);
          done();
        }, LAST_SENDS_MS),
      ),
  };
}
