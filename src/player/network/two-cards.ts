/**
 * Run in a network namespace of its own by two-cards.test.ts: two real cards (`lights`, `office`), what leaves by each as the
 * system counts it, and a cable that is pulled. Prints what it saw as JSON.
 */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { Engine } from '../../core/playback/engine.ts';
import { compileSlots } from '../../core/playback/slots.ts';
import { exampleShow } from '../../core/testing/example.ts';
import { usable } from '../../core/wires/cards.ts';
import { WIRES } from '../../core/wires/wires.ts';
import { Output } from '../sending/output.ts';
import { sockets } from '../sending/sockets.ts';
import { watchCards } from './machine-cards.ts';

const FRAME_MS = 25;
const FRAMES = 40;
const KEEP_ALIVE_MS = 1000;
const SETTLE_MS = 150;

const ip = (...args: string[]): void => void execFileSync('ip', args);
const sleep = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));
const sentBy = (card: string): number =>
  Number(readFileSync(`/sys/class/net/${card}/statistics/tx_packets`, 'utf8'));

const machineCards = watchCards();
const show = exampleShow();
const engine = new Engine(compileSlots(show));
engine.tick(0);
const output = new Output(
  {
    cid: '01020304-0506-4708-890a-0b0c0d0e0f10',
    sacnPort: 5568,
    artnetPort: 6454,
    nodeHost: '127.0.0.1',
    nodeSacnPort: 5568,
    nodeArtnetPort: 6454,
  },
  sockets,
);
let now_ms = 0;

/** So many frames, each due, and what left by either card meanwhile. */
async function frames(): Promise<{ lights: number; office: number; problem: string | null }> {
  const before = [sentBy('lights'), sentBy('office')] as const;
  for (let i = 0; i < FRAMES; i++) {
    output.send((now_ms += KEEP_ALIVE_MS));
    await sleep(FRAME_MS / 10);
  }
  await sleep(SETTLE_MS);
  return {
    lights: sentBy('lights') - before[0],
    office: sentBy('office') - before[1],
    problem: output.counts().find((c) => c.problem !== null)?.problem ?? null,
  };
}
const chosen = (card: string | null): void =>
  output.setNetwork({ cards: machineCards(), wires: { ...WIRES, card }, asked: new Map() });

const one = [...show.routes.values()].filter((r) => r.universe === 1);
const multicast = one
  .filter((r) => r.protocol === 'sacn')
  .map((r) => ({ ...r, destination: 'multicast' as const }));
const broadcast = one
  .filter((r) => r.protocol === 'artnet')
  .map((r) => ({ ...r, destination: 'broadcast' as const }));

const seen: Record<string, unknown> = { cards: usable(machineCards()) };
chosen('lights');
output.take(engine, multicast, 0, 0);
await sleep(SETTLE_MS);
seen.multicastByLights = await frames();
chosen('office');
await sleep(SETTLE_MS);
seen.multicastByOffice = await frames();
output.setRoutes(broadcast.map((r) => ({ ...r, card: 'lights' })));
await sleep(SETTLE_MS);
seen.broadcastByLights = await frames();
ip('link', 'set', 'lights-end', 'down');
await sleep(SETTLE_MS);
chosen('office');
seen.pulled = await frames();
ip('link', 'set', 'lights-end', 'up');
await sleep(SETTLE_MS);
chosen('office');
await sleep(SETTLE_MS);
seen.backAgain = await frames();
console.log(JSON.stringify(seen));
output.close(() => process.exit(0));
