/** Free ports, TCP and UDP, on loopback. */
import { createSocket } from 'node:dgram';
import { createServer } from 'node:net';

/** A TCP port that nobody listens on. */
export function freePort(host = '127.0.0.1'): Promise<number> {
  return new Promise((resolve, reject) => {
    const server = createServer();
    server.on('error', reject);
    server.listen(0, host, () => {
      const address = server.address();
      server.close(() => (address && typeof address === 'object' ? resolve(address.port) : reject(new Error('no port'))));
    });
  });
}

export function isFree(port: number, host: string): Promise<boolean> {
  return new Promise((resolve) => {
    const server = createServer();
    server.on('error', () => resolve(false));
    server.listen(port, host, () => server.close(() => resolve(true)));
  });
}

const udpIsFree = (port: number): Promise<boolean> =>
  new Promise((resolve) => {
    const socket = createSocket('udp4');
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
