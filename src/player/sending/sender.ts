/** The thread that sends: takes packets out of the ring and puts them on the network. Nothing else runs here. */
import { parentPort, workerData } from 'node:worker_threads';
import type { FromSender, ToSender } from './mailbox.ts';
import { ringOn } from './ring.ts';
import { sockets } from './sockets.ts';

/** So often at most it is told what fails. */
const TELL_MS = 250;

const port = parentPort;
if (!port) throw new Error('Packets are sent in a worker thread.');
const say = (message: FromSender): void => port.postMessage(message);
const ring = ringOn(workerData as SharedArrayBuffer);
/** By destination: what it said last, and how often it failed since that was told. */
const news = new Map<number, { problem: string | null; times: number; told: string | null }>();

const post = sockets((target, problem, times) => {
  const known = news.get(target);
  if (known) {
    known.problem = problem;
    known.times += times;
  } else if (problem !== null) news.set(target, { problem, times, told: null });
});
const telling = setInterval(() => {
  for (const [target, it] of news) {
    if (it.times === 0 && it.problem === it.told) continue;
    say({ is: 'failed', target, problem: it.problem, times: it.times });
    it.told = it.problem;
    it.times = 0;
  }
}, TELL_MS);

/** By the clock’s number of a destination: ours. */
const numbers: number[] = [];
const take = (target: number, packet: Uint8Array): void => post.put(numbers[target] ?? -1, packet);

port.on('message', (message: ToSender) => {
  if (message.do === 'target') numbers[message.number] = post.target(message.to);
  else if (message.do === 'send') {
    ring.readTo(message.upTo, take);
    post.flush();
  } else if (message.do === 'renew') post.renew();
  else {
    clearInterval(telling);
    void post.close().then(() => say({ is: 'closed' }));
  }
});
