/** Free ports, TCP and UDP, on loopback. */
import { createSocket } from 'node:dgram';
import { readFileSync } from 'node:fs';
import { createServer } from 'node:net';

/** A TCP port that nobody listens on. */
export function freePort(host = '127.0.0.1'): Promise<number> {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, host, () => {
      const address = server.address();
      server.close(() =>
        address && typeof address === 'object'
          ? resolve(address.port)
          : reject(new Error('no port')),
      );
    });
  });
}

/** A port that nobody else gets, until the process that it is meant for listens there. */
export interface HeldPort {
  release: () => Promise<void>;
}

/**
 * Takes a TCP port at once and keeps it while everything else gets ready: a database takes seconds, and in them another
 * Wingman, or any connection that leaves this machine, could get the port (ports.test.ts).
 * @returns null where somebody listens there
 */
export function holdPort(port: number, host: string): Promise<HeldPort | null> {
  return new Promise((resolve) => {
    const server = createServer((early) => early.destroy());
    server.on('error', () => resolve(null));
    server.listen(port, host, () =>
      resolve({ release: () => new Promise((done) => server.close(() => done())) }),
    );
  });
}

/** Whether somebody listens on this port of 127.0.0.1 itself; listeners on all addresses share it. */
function isListenedTo(port: number): boolean {
  try {
    const local = `0100007F:${port.toString(16).toUpperCase().padStart(4, '0')}`;
    return readFileSync('/proc/net/udp', 'utf8').includes(` ${local} `);
  } catch {
    return false;
  }
}

/** Free for one more listener of 127.0.0.1: players listen on all addresses of the protocols' ports, which takes nothing away. */
const udpIsFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    if (isListenedTo(port)) {
      resolve(false);
      return;
    }
    const socket = createSocket({ type: 'udp4', reuseAddr: true });
    socket.on('error', () => {
      socket.close();
      resolve(false);
    });
    socket.bind(port, '127.0.0.1', () => socket.close(() => resolve(true)));
  });

/** The wanted UDP port, or the next free one above it; says so when it had to move. */
export async function udpPort(wanted: number, what: string): Promise<number> {
  for (let port = wanted; port < wanted + 200 && port < 65536; port++) {
    if (!(await udpIsFree(port))) continue;
    if (port !== wanted) console.log(`UDP port ${wanted} (${what}) is taken; using ${port}.`);
    return port;
  }
  throw new Error(`No UDP port from ${wanted} to ${wanted + 199} is free for ${what}.`);
}
