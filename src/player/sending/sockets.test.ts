/** Sockets on cards that cannot be had, as when an address is of no card for a while. */
import dgram from 'node:dgram';
import { EventEmitter } from 'node:events';
import { AGAIN_MS } from '../network/udp.ts';
import { sockets } from './sockets.ts';

const CARD = { from: '10.20.0.5', host: '10.20.0.9', port: 5568 };
const packet = Uint8Array.of(1);

/** Sockets that write down what they do; `has` says whether the card has its address. */
function machine() {
  const did: string[] = [];
  const card = { has: false };
  let made = 0;
  jest.spyOn(dgram, 'createSocket').mockImplementation((() => {
    const name = `s${++made}`;
    const socket = Object.assign(new EventEmitter(), {
      bind(_: unknown, bound: () => void) {
        did.push(`${name} bind`);
        if (card.has) bound();
        else socket.emit('error', new Error('no such address'));
      },
      setMulticastTTL: () => undefined,
      setBroadcast: () => undefined,
      setSendBufferSize: () => undefined,
      setMulticastInterface: () => undefined,
      unref: () => undefined,
      close: () => void did.push(`${name} closed`),
      send: (
        ...[, , , , , sent]: [unknown, unknown, unknown, unknown, unknown, (error: null) => void]
      ) => {
        did.push(`${name} sent`);
        sent(null);
      },
    });
    return socket;
  }) as never);
  return { did, card };
}
beforeEach(() => jest.useFakeTimers());
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});

test('what cannot be had is closed and said with each packet, tried again each second, and used when it is there', () => {
  const { did, card } = machine();
  const failed: (string | null)[] = [];
  const post = sockets((_, problem) => failed.push(problem));
  const target = post.target(CARD);
  for (let i = 0; i < 3; i++) post.put(target, packet);
  expect([did, failed]).toEqual([
    ['s1 bind', 's1 closed'],
    ['no such address', 'no such address', 'no such address'],
  ]);
  jest.advanceTimersByTime(AGAIN_MS);
  post.put(target, packet);
  expect([did.slice(2), failed.length]).toEqual([['s2 bind', 's2 closed'], 4]);
  card.has = true;
  post.put(target, packet);
  expect(failed.length).toBe(5);
  jest.advanceTimersByTime(AGAIN_MS);
  post.put(target, packet);
  post.put(target, packet);
  // That it leaves again is said once.
  expect([did.slice(4), failed.slice(5)]).toEqual([['s3 bind', 's3 sent', 's3 sent'], [null]]);
});

test('when cards come or go, sockets on cards are opened anew, once what was put has left; the machine’s own stays', () => {
  const { did, card } = machine();
  card.has = true;
  const post = sockets(() => undefined);
  const [on, own] = [post.target(CARD), post.target({ ...CARD, from: null })];
  post.put(on, packet);
  post.put(own, packet);
  post.renew();
  expect(did.filter((d) => d.endsWith('closed'))).toEqual([]);
  post.flush();
  post.put(on, packet);
  post.put(own, packet);
  expect(did.slice(2)).toEqual([
    's1 sent',
    's2 sent',
    's1 closed',
    's3 bind',
    's3 sent',
    's2 sent',
  ]);
});
