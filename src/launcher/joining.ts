/** A second machine on one database: whether it can reach the player that is on air. */
import { get as plainGet } from 'node:http';
import { get as secureGet } from 'node:https';
import { isLoopback } from '../core/loopback.ts';
import type { Database } from '../store/database.ts';
import { machineHere, playerOnAir } from '../store/players.ts';

const ANSWER_MS = 3000;

/** Whether something answers over HTTP, whatever it says. */
export const answers = (url: string): Promise<boolean> =>
  fetch(url, { signal: AbortSignal.timeout(ANSWER_MS) }).then(
    (r) => r.arrayBuffer().then(() => true),
    () => false,
  );

/** The status of an answer over HTTP or TLS. A house’s own certificate is not asked for here: this is the same machine. @throws where nobody answers */
export const statusAt = (url: string): Promise<number> =>
  new Promise((done, failed) => {
    const get = url.startsWith('https:') ? secureGet : plainGet;
    get(url, { rejectUnauthorized: false, timeout: ANSWER_MS }, (response) => {
      response.resume();
      done(response.statusCode ?? 0);
    }).on('error', failed);
  });

/** Why no page of this machine could play, in sentences; null where it can. A player that is on air on another machine must be reachable from here. */
export async function whyNotJoin(db: Database): Promise<string | null> {
  const there = await playerOnAir(db);
  if (!there || there.machine === machineHere()) return null;
  const name = there.machine.split('/')[0] || 'another machine';
  const colon = there.address.lastIndexOf(':');
  if (isLoopback(there.address.slice(0, colon)))
    return `The player that is on air runs on ${name}, and takes connections from that machine alone (${there.address}). Start it there with WINGMAN_PLAYER_HOST set to its address on the network, then start this one again. Nothing was started here.`;
  if (!(await answers(`http://${there.address}/health`)))
    return `The player that is on air runs on ${name}, at ${there.address}, and cannot be reached from here. See to the network or the firewall between the two, then start this one again. Nothing was started here.`;
  return null;
}
