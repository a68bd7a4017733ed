/**
 * The Art-Net port of this machine: one socket for all who listen, since a packet to this machine alone reaches one socket
 * only. Devices on this machine itself, which have the port too, are asked from a port of its own, and answer there.
 */
import type { RemoteInfo } from 'node:dgram';
import { listen } from './udp.ts';

/** Hears every packet, and from whom. */
export type ArtnetListener = (
  packet: Uint8Array,
  from: Pick<RemoteInfo, 'address' | 'port'>,
) => void;

/** The one Art-Net socket of this machine. */
export interface ArtnetPort {
  hear: (listener: ArtnetListener) => void;
  send: (packet: Uint8Array, host: string, port?: number) => void;
  /** Why nothing is heard; null while all is well. */
  problem: () => string | null;
  close: () => void;
}

const OWN_NET = '127.';
const BUFFER_BYTES = 4 * 1024 * 1024;

/** Opens it; what goes wrong is said by `problem`, and tried again. */
export function artnetPort(port: number): ArtnetPort {
  const listeners: ArtnetListener[] = [];
  const heard = (packet: Buffer, from: RemoteInfo): void => {
    for (const listener of listeners) listener(packet, from);
  };
  const ear = listen({ port }, heard, (socket) => {
    try {
      socket.setBroadcast(true);
      socket.setRecvBufferSize(BUFFER_BYTES);
    } catch {
      // A smaller buffer than wished for still receives.
    }
  });
  const own = listen({ port: 0, address: '127.0.0.1' }, heard);
  return {
    hear: (listener) => void listeners.push(listener),
    // An address that cannot be reached is a fact of the house's network, not a fault of the question.
    send: (packet, host, to = port) =>
      (host.startsWith(OWN_NET) ? own : ear).socket()?.send(packet, to, host, () => undefined),
    problem: () => {
      const said = ear.problem();
      return said === null ? null : `Art-Net is not heard: ${said}.`;
    },
    close: () => {
      ear.close();
      own.close();
    },
  };
}
