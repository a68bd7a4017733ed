/** Universes of other desks as they come: by multicast, to this machine alone, over Art-Net; each packet counts once. */
import { createSocket, type Socket } from 'node:dgram';
import { artnetFrame, artnetPacket } from '../../core/output/artnet.ts';
import { sacnFrame, sacnMulticast, sacnPacket, sacnTerminated } from '../../core/output/sacn.ts';
import { until } from '../../core/testing/until.ts';
import type { ArtnetListener } from './artnet-port.ts';
import type { Card } from '../../core/wires/cards.ts';
import { freeUdp } from './udp.ts';
import { universesIn, type UniversesIn } from './universes-in.ts';

const OWN = 'ff'.repeat(16);
const UNIVERSE = 41_000 + (process.pid % 20_000);
const PORT = `sacn/${UNIVERSE}`;
const cid = (n: number): Uint8Array => new Uint8Array(16).fill(n);

let mouth: Socket;
let ins: UniversesIn | null = null;
beforeEach(async () => {
  mouth = createSocket('udp4');
  await new Promise<void>((done) => mouth.bind(0, '127.0.0.1', done));
  mouth.setMulticastInterface('127.0.0.1');
  mouth.setMulticastTTL(0);
});
afterEach(() => {
  ins?.close();
  mouth.close();
});

async function hearing(
  wanted: readonly string[] = [PORT],
  isOurs = false,
  cards: readonly Card[] = [LO],
) {
  const sacnPort = await freeUdp();
  const shows: string[] = [];
  const moved: string[] = [];
  const gone: string[] = [];
  const listeners: ArtnetListener[] = [];
  ins = universesIn(
    {
      cid: OWN,
      sacnPort,
      isOurs: () => isOurs,
      cards: () => cards,
      artnet: {
        hear: (l) => void listeners.push(l),
        send: () => undefined,
        problem: () => null,
        close: () => undefined,
      },
    },
    {
      shows: (port, slots) => shows.push(`${port} ${slots[0]}`),
      moved: (_, all) => moved.push(...all.map((m) => m.control)),
      gone: (port) => gone.push(port),
    },
  );
  ins.want('test', new Set(wanted), 0);
  await settle();
  const say = (packet: Uint8Array, host: string): void =>
    void mouth.send(Uint8Array.from(packet), sacnPort, host);
  const art = (packet: Uint8Array, address: string): void =>
    listeners.forEach((l) => l(packet, { address, port: 6454 }));
  return { ins, shows, moved, gone, say, art };
}
const card = (name: string, address: string, netmask: string): Card => ({
  name,
  addresses: [{ address, netmask }],
  link: 'up',
  isOwn: name === 'lo',
});
const LO = card('lo', '127.0.0.1', '255.0.0.0');
const settle = (): Promise<void> => new Promise((done) => setTimeout(done, 60));
const level = (n: number): Uint8Array => new Uint8Array(512).fill(n);

test.each([
  ['by multicast', sacnMulticast(UNIVERSE)],
  ['to this machine alone', '127.0.0.1'],
])('sACN %s is heard, each packet once, until it ends', async (_, host) => {
  const h = await hearing();
  const packet = sacnPacket({ cid: cid(1), name: 'House desk' }, UNIVERSE, 100);
  for (const n of [10, 11, 12]) h.say(sacnFrame(packet, level(n), 0), host);
  await until(() => h.shows.length >= 3);
  expect(h.shows).toEqual([10, 11, 12].map((n) => `${PORT} ${n}`));
  expect(h.ins.shown(PORT)).toMatchObject({ name: 'House desk', priority: 100 });
  expect(h.ins.names('test')).toEqual([PORT]);
  h.say(sacnTerminated(packet), host);
  await until(() => h.gone.length > 0);
  expect([h.gone, h.ins.shown(PORT)]).toEqual([[PORT], null]);
});

test('what we send ourselves is no desk, nor is a preview, nor another universe', async () => {
  const h = await hearing();
  const own = sacnPacket({ cid: cid(0xff), name: 'Us' }, UNIVERSE, 100);
  h.say(sacnFrame(own, level(9), 0), '127.0.0.1');
  const preview = sacnFrame(sacnPacket({ cid: cid(2), name: 'P' }, UNIVERSE, 100), level(8), 0);
  preview[112] = 0x80;
  h.say(preview, '127.0.0.1');
  h.say(sacnFrame(sacnPacket({ cid: cid(3), name: 'O' }, 7, 100), level(7), 0), '127.0.0.1');
  await settle();
  expect(h.shows).toEqual([]);
});

test('Art-Net is heard from others; what comes back of our own universe from this machine is ours', async () => {
  const packet = (n: number): Uint8Array => artnetFrame(artnetPacket(4), level(n), 0);
  const h = await hearing(['artnet/0.0.4'], true);
  h.art(packet(20), '127.0.0.1');
  h.art(packet(21), '10.20.0.9');
  expect(h.shows).toEqual(['artnet/0.0.4 21']);
  h.art(packet(22), '10.20.0.9');
  expect(h.moved.length).toBe(512);
});

test('several want the same universe: it is heard as long as one of them does', async () => {
  const h = await hearing();
  h.ins.want('other', new Set([PORT]), 0);
  h.ins.want('test', new Set(), 0);
  const packet = sacnPacket({ cid: cid(1), name: 'House desk' }, UNIVERSE, 100);
  h.say(sacnFrame(packet, level(10), 0), '127.0.0.1');
  await until(() => h.shows.length > 0);
  expect([h.ins.names('test'), h.ins.names('other')]).toEqual([[], [PORT]]);
  h.ins.want('other', new Set(), 0);
  h.say(sacnFrame(packet, level(11), 0), '127.0.0.1');
  await settle();
  expect(h.shows).toEqual([`${PORT} 10`]);
});

test('by a card comes what is of its network, or of none that is known here; by any card everything', async () => {
  const cards = [
    LO,
    card('lights', '10.20.0.5', '255.255.0.0'),
    card('office', '192.168.4.130', '255.255.255.128'),
  ];
  const h = await hearing(
    ['artnet/0.0.4', 'artnet/0.0.4 by lights', 'artnet/0.0.4 by office'],
    false,
    cards,
  );
  for (const address of ['10.20.7.7', '192.168.4.200', '2.0.0.9'])
    h.art(artnetFrame(artnetPacket(4), level(20), 0), address);
  const heard = (as: string): string[] => h.ins.sources(as).map((s) => s.address);
  expect(heard('artnet/0.0.4')).toEqual(['10.20.7.7', '192.168.4.200', '2.0.0.9']);
  expect(heard('artnet/0.0.4 by lights')).toEqual(['10.20.7.7', '2.0.0.9']);
  expect(heard('artnet/0.0.4 by office')).toEqual(['192.168.4.200', '2.0.0.9']);
  // Each has its own that counts.
  expect(h.ins.shown('artnet/0.0.4 by office')).toMatchObject({ address: '192.168.4.200' });
});

test('sACN by a card is of that card, and ends there alone', async () => {
  const office = card('office', '192.168.4.130', '255.255.255.128');
  const h = await hearing([`${PORT} by lo`, `${PORT} by office`], false, [LO, office]);
  const packet = sacnPacket({ cid: cid(1), name: 'House desk' }, UNIVERSE, 100);
  h.say(sacnFrame(packet, level(10), 0), sacnMulticast(UNIVERSE));
  await until(() => h.shows.length > 0);
  expect(h.shows).toEqual([`${PORT} by lo 10`]);
  h.say(sacnTerminated(packet), sacnMulticast(UNIVERSE));
  await until(() => h.gone.length > 0);
  expect(h.gone).toEqual([`${PORT} by lo`]);
});

test('a card that comes later, as when its cable was out at the beginning, is listened to from then on', async () => {
  const cards: Card[] = [];
  const h = await hearing([PORT], false, cards);
  const packet = sacnPacket({ cid: cid(1), name: 'House desk' }, UNIVERSE, 100);
  h.say(sacnFrame(packet, level(10), 0), sacnMulticast(UNIVERSE));
  await settle();
  expect(h.shows).toEqual([]);
  cards.push(LO);
  h.ins.want('test', new Set([PORT]), 1000);
  h.say(sacnFrame(packet, level(11), 0), sacnMulticast(UNIVERSE));
  await until(() => h.shows.length > 0);
  expect(h.shows).toEqual([`${PORT} 11`]);
});
