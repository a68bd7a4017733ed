/** Receivers of what is sent, each in a process of its own, and the way of the first universe to one. */
import { fork, type ChildProcess } from 'node:child_process';
import { SACN_PORT } from '../core/output/bytes.ts';

/** Where receivers listen that have no address of their own. */
const RECEIVER = '127.0.0.3';

/** It listens when this comes back. */
export async function startReceiver(host = RECEIVER, port = SACN_PORT): Promise<ChildProcess> {
  const receiver = fork(new URL('./receiver.mjs', import.meta.url), [String(port), host], {
    execArgv: [],
  });
  await new Promise((resolve) => receiver.once('message', resolve));
  return receiver;
}

/** The first universe to a receiver, as `set-route` takes it. */
export const routeTo = (destination = RECEIVER) => ({
  set: { universe: 1, protocol: 'sacn', destination, wire: 1, priority: 100, on: true },
});
