/** Messages to and from other machines: OSC and MIDI out to the peers that ship with Wingman, OSC in from remote controls. */
import { createSocket, type Socket } from 'node:dgram';
import { readOsc } from '../core/output/osc.ts';
import type { Outside } from './cue-actions.ts';
import { AGAIN_MS, shut } from './network/udp.ts';
import type { Where } from './osc-subscribers.ts';

/** A closed port answers at once on this machine; a peer elsewhere does not answer at all. */
const REFUSAL_MS = 40;

/** Sends to one peer; what the network says of it comes back as a sentence. */
function line(
  host: string,
  port: number,
  what: string,
): (bytes: Uint8Array) => Promise<string | undefined> {
  let socket: Socket | null = null;
  let problem: string | undefined;
  const open = (): Promise<Socket> =>
    new Promise((resolve, reject) => {
      const made = createSocket('udp4');
      made.on('error', (error) => {
        problem = error.message.includes('ECONNREFUSED')
          ? `nobody listens for ${what} at ${host}:${port}`
          : error.message;
        made.removeAllListeners('message');
        if (socket === made) socket = null;
        made.close();
        reject(error);
      });
      made.connect(port, host, () => resolve(made));
    });
  return async (bytes) => {
    problem = undefined;
    try {
      socket ??= await open();
      const out = socket;
      await new Promise<void>((resolve, reject) =>
        out.send(bytes, (error) => (error ? reject(error) : resolve())),
      );
      await new Promise((resolve) => setTimeout(resolve, REFUSAL_MS));
      return problem;
    } catch (error) {
      return problem ?? (error as Error).message;
    }
  };
}

/** Lines to the peers of this machine, for what cues send. */
export function outside(ports: { osc: number; midi: number }): Outside {
  return { osc: line('127.0.0.1', ports.osc, 'OSC'), midi: line('127.0.0.1', ports.midi, 'MIDI') };
}

/** Messages a second from all remotes together; more is noise or an attack. */
const REMOTE_RATE = 200;

/** Where remote controls are heard. */
export interface Ears {
  /** Null while they are not. */
  port: number | null;
  /** Why it is not the port that was wanted, or none. */
  problem: string | null;
}
const PORTS_TRIED = 20;
const LAST_PORT = 65_535;

/** Raw MIDI bytes from programs on this machine, as if a device were plugged into it: for trying, and for tests. */
export function listenMidi(port: number, heard: (bytes: readonly number[]) => void): () => void {
  const socket = createSocket('udp4');
  // Another program has the port: there is no such device then.
  socket.on('error', () => undefined);
  socket.on('message', (packet) => {
    if (packet.length > 0 && packet.length <= MIDI_BYTES) heard([...packet]);
  });
  socket.bind(port, '127.0.0.1');
  socket.unref();
  return () => shut(socket);
}
/** Longer than any message that a hand sends. */
const MIDI_BYTES = 256;

/** Listens for remote controls on the first free port from `first` on. @param wanted the port that was asked for; another one is told @returns where it is, and closes it */
export function listenOsc(host: string, first: number, heard: Heard, wanted = first): Listening {
  let ears: Ears = { port: null, problem: null };
  let open_: Open | null = null;
  let closed = false;
  let again: NodeJS.Timeout | undefined;
  const open = (port: number): void => {
    if (closed) return;
    open_ = listenOn(host, port, heard, (bound, error) => {
      if (bound)
        ears = {
          port,
          problem:
            port === wanted
              ? null
              : `UDP port ${wanted} is taken on this machine: remote controls are heard on ${port} instead.`,
        };
      else if (error.code === 'EADDRINUSE' && port < Math.min(first + PORTS_TRIED, LAST_PORT))
        open(port + 1);
      else {
        ears = {
          port: null,
          problem:
            error.code === 'EADDRINUSE'
              ? `No UDP port from ${first} to ${port} is free: remote controls are not heard.`
              : `Remote controls are not heard: ${error.message}.`,
        };
        // A network that comes up after the house, or a program that ends, gives them back.
        again = setTimeout(() => open(first), AGAIN_MS).unref();
      }
    });
  };
  open(first);
  return {
    ears: () => ears,
    send: (packet, to) => open_?.send(packet, to),
    close: () => {
      closed = true;
      clearTimeout(again);
      open_?.close();
    },
  };
}

type Heard = (address: string, args: (number | string)[], from: Where) => void;
interface Open {
  /** To where a remote control is, from the port that it speaks to. */
  send: (packet: Uint8Array, to: Where) => void;
  close: () => void;
}
/** A line with what was heard on it. */
export interface Listening extends Open {
  ears: () => Ears;
}

type Told = (bound: boolean, error: NodeJS.ErrnoException) => void;
const NO_ERROR: NodeJS.ErrnoException = new Error('none');

function listenOn(host: string, port: number, heard: Heard, told: Told): Open {
  const socket = createSocket('udp4');
  let allowance = REMOTE_RATE;
  const refill = setInterval(() => (allowance = REMOTE_RATE), 1000);
  refill.unref();
  socket.on('message', (packet, { address, port: from }) => {
    if (allowance-- <= 0) return;
    const message = readOsc(packet);
    if (message) heard(message.address, message.args, { address, port: from });
  });
  const end = (): void => {
    clearInterval(refill);
    socket.removeAllListeners('error');
    socket.on('error', () => undefined);
    shut(socket);
  };
  socket.on('error', (error) => {
    end();
    told(false, error);
  });
  socket.bind(port, host, () => told(true, NO_ERROR));
  return {
    // What a remote control does not take is no fault of ours.
    send: (packet, to) => socket.send(packet, to.port, to.address, () => undefined),
    close: end,
  };
}
