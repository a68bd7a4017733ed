/** Messages to and from other machines: OSC and MIDI out to the peers that ship with Wingman, OSC in from remote controls. */
import { createSocket, type Socket } from 'node:dgram';
import { readOsc } from '../core/output/osc.ts';
import type { Outside } from './cue-actions.ts';

/** A closed port answers at once on this machine; a peer elsewhere does not answer at all. */
const REFUSAL_MS = 40;

/** Sends to one peer; what the network says of it comes back as a sentence. */
function line(host: string, port: number, what: string): (bytes: Uint8Array) => Promise<string | undefined> {
  let socket: Socket | null = null;
  let problem: string | undefined;
  const open = (): Promise<Socket> =>
    new Promise((resolve, reject) => {
      const made = createSocket('udp4');
      made.on('error', (error) => {
        problem = error.message.includes('ECONNREFUSED') ? `nobody listens for ${what} at ${host}:${port}` : error.message;
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
      await new Promise<void>((resolve, reject) => out.send(bytes, (error) => (error ? reject(error) : resolve())));
      await new Promise((resolve) => setTimeout(resolve, REFUSAL_MS));
      return problem;
    } catch (error) {
      return problem ?? (error as Error).message;
    }
  };
}

export function outside(ports: { osc: number; midi: number }): Outside {
  return { osc: line('127.0.0.1', ports.osc, 'OSC'), midi: line('127.0.0.1', ports.midi, 'MIDI') };
}

/** Messages a second from all remotes together; more is noise or an attack. */
const REMOTE_RATE = 200;

/** Listens for remote controls. @returns closes it */
export function listenOsc(host: string, port: number, heard: (address: string, args: (number | string)[]) => void, problem: (text: string) => void): () => void {
  const socket = createSocket('udp4');
  let allowance = REMOTE_RATE;
  const refill = setInterval(() => (allowance = REMOTE_RATE), 1000);
  refill.unref();
  socket.on('message', (packet) => {
    if (allowance-- <= 0) return;
    const message = readOsc(packet);
    if (message) heard(message.address, message.args);
  });
  socket.on('error', (error) => problem(error.message));
  socket.bind(port, host);
  return () => {
    clearInterval(refill);
    socket.close();
  };
}
