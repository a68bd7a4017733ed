/** Who else is on the network: a desk that sends one of our universes is found, whether it says so or not. */
import { createSocket, type Socket } from 'node:dgram';
import { sacnFrame, sacnMulticast, sacnPacket, sacnTerminated } from '../../core/output/sacn.ts';
import { until } from '../../core/testing/until.ts';
import type { Card } from '../../core/wires/cards.ts';
import { WIRES } from '../../core/wires/wires.ts';
import { makeNetwork, type AtNetwork } from './network.ts';
import { freeUdp } from './udp.ts';

const OURS = 42_000 + (process.pid % 20_000);
const LO: Card = {
  name: 'lo',
  addresses: [{ address: '127.0.0.1', netmask: '255.0.0.0' }],
  link: 'up',
  isOwn: true,
};
const CID = 'abababab-abab-abab-abab-abababababab';

const opened = (): Promise<Socket> => {
  const socket = createSocket('udp4');
  return new Promise((done) => socket.bind(0, '127.0.0.1', () => done(socket)));
};
let network: AtNetwork;
let sacnPort = 0;
let mouth: Socket;
beforeAll(async () => {
  sacnPort = await freeUdp();
  mouth = await opened();
  mouth.setMulticastInterface('127.0.0.1');
  mouth.setMulticastTTL(0);
  network = makeNetwork(
    {
      cid: CID,
      sacnPort,
      artnetPort: await freeUdp(),
      nodeHost: '127.0.0.1',
      nodeSacnPort: await freeUdp(),
      nodeArtnetPort: await freeUdp(),
      wires: () => Promise.resolve(WIRES),
      cards: () => [LO],
      failed: () => undefined,
    },
    {
      sending: () => ({
        sacn: [OURS, OURS + 1],
        sacnHosts: [],
        toNode: true,
        artnetWires: [],
        artnetHosts: [],
      }),
      artnet: () => undefined,
      tell: () => undefined,
      moved: () => undefined,
      gone: () => undefined,
      shows: () => undefined,
    },
  );
  await network.begin();
});
afterAll(() => {
  network.close();
  mouth.close();
});

test('a desk that does not announce what it sends is found, with its priority, and forgotten when it ends', async () => {
  const packet = sacnPacket({ cid: new Uint8Array(16).fill(7), name: 'Visiting desk' }, OURS, 150);
  const own = sacnPacket(
    { cid: Uint8Array.from(Buffer.from(CID.replaceAll('-', ''), 'hex')), name: 'Wingman' },
    OURS + 1,
    100,
  );
  const say = (bytes: Uint8Array, universe: number): void =>
    mouth.send(bytes, sacnPort, sacnMulticast(universe));
  const sending = setInterval(() => {
    say(sacnFrame(packet, new Uint8Array(512), 0), OURS);
    // What we send ourselves comes back by multicast, and is nobody else’s.
    say(sacnFrame(own, new Uint8Array(512), 0), OURS + 1);
  }, 80);
  try {
    await until(() => network.state().contested.some((c) => c.others.length > 0));
    expect(network.state().contested).toEqual([
      { universe: OURS, others: [{ name: 'Visiting desk', address: '127.0.0.1', priority: 150 }] },
    ]);
  } finally {
    clearInterval(sending);
  }
  say(sacnTerminated(packet), OURS);
  await until(() => network.state().contested.length === 0);
});
