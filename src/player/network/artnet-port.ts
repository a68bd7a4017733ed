/**
 * The Art-Net port of this machine: one socket for all who listen, since a packet to this machine alone reaches one socket
 * only. Devices on this machine itself, which have the port too, are asked from a port of its own, and answer there.
 */
import { createSocket, type RemoteInfo, type Socket } from 'node:dgram';
import { shut } from './udp.ts';

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
  let problem: string | null = null;
  const socket: Socket = createSocket({ type: 'udp4', reuseAddr: true });
  socket.on('error', (error) => {
    problem = `Art-Net is not heard: ${error.message}.`;
  });
  const own = createSocket({ type: 'udp4' });
  own.on('error', () => undefined);
  own.bind(0, '127.0.0.1');
  own.unref();
  for (const each of [socket, own])
    each.on('message', (packet, from) => {
      for (const listener of listeners) listener(packet, from);
    });
  socket.bind(port, () => {
    try {
      socket.setBroadcast(true);
      socket.setRecvBufferSize(BUFFER_BYTES);
    } catch {
      // A smaller buffer than wished for still receives.
    }
  });
  socket.unref();
  return {
    hear: (listener) => void listeners.push(listener),
    // An address that cannot be reached is a fact of the house's network, not a fault of the question.
    send: (packet, host, to = port) => {
      if (host.startsWith(OWN_NET)) own.send(packet, to, host, () => undefined);
      else if (problem === null) socket.send(packet, to, host, () => undefined);
    },
    problem: () => problem,
    close: () => {
      for (const each of [socket, own]) shut(each);
    },
  };
}
