/** Nodes are asked and answered: who puts what out, and what a flood of questions gets. */
import {
  ART_STYLE,
  artPoll,
  artPollReply,
  isArtPoll,
  readArtPollReply,
  type ArtNode,
} from '../../core/output/art-poll.ts';
import type { Card } from '../../core/wires/cards.ts';
import { WIRES } from '../../core/wires/wires.ts';
import type { ArtnetListener } from './artnet-port.ts';
import { discover, type Discovery } from './discovery.ts';

const LIGHTS: Card = {
  name: 'lights',
  addresses: [{ address: '10.20.0.5', netmask: '255.255.0.0' }],
  link: 'up',
  isOwn: false,
};
const NODE: ArtNode = {
  address: '10.20.0.9',
  shortName: 'Bow rack',
  longName: '',
  report: '',
  ports: [0x123, 0x124].map((portAddress) => ({
    way: 'out',
    portAddress,
    active: false,
    merges: false,
    fault: '',
  })),
  style: ART_STYLE.node,
  rdm: false,
  mac: '',
  bindIndex: 1,
};
let open: Discovery | null = null;
afterEach(() => {
  open?.close();
  open = null;
});

function network(artnetWires: number[] = []) {
  const listeners: ArtnetListener[] = [];
  const sent: { packet: Uint8Array; host: string; port: number | undefined }[] = [];
  let changes = 0;
  open = discover({
    cid: '01020304-0506-4708-890a-0b0c0d0e0f10',
    sacnPort: 0,
    artnetPort: 6454,
    nodeHost: '127.0.0.1',
    nodeSacnPort: 5570,
    nodeArtnetPort: 6460,
    artnet: {
      hear: (l) => void listeners.push(l),
      send: (packet, host, port) => void sent.push({ packet, host, port }),
      problem: () => null,
      close: () => undefined,
    },
    network: () => ({ cards: [LIGHTS], wires: { ...WIRES, sourceName: 'Tidewater' } }),
    sending: () => ({
      sacn: [],
      sacnHosts: [],
      toNode: false,
      artnetWires,
      artnetHosts: ['10.99.0.1'],
    }),
    changed: () => changes++,
  });
  const hears = (packet: Uint8Array, address = NODE.address, port = 6454): void =>
    listeners.forEach((l) => l(packet, { address, port }));
  return { discovery: open, sent, hears, changes: () => changes };
}

test('everybody on each card is asked, the simulated node, and addresses that get light for themselves', () => {
  const { sent } = network();
  expect(sent.every((s) => isArtPoll(s.packet))).toBe(true);
  expect(sent.map((s) => `${s.host}:${s.port ?? 6454}`)).toEqual([
    '127.0.0.1:6460',
    '10.20.255.255:6454',
    '10.99.0.1:6454',
  ]);
});

test('who puts a port address out gets it, is said to be on its card, and is told of at once, once', () => {
  const { discovery, hears, changes } = network();
  hears(artPollReply(NODE));
  hears(artPollReply(NODE));
  hears(artPollReply({ ...NODE, ports: NODE.ports.slice(0, 1) }), '10.20.0.12');
  expect([...discovery.asked()]).toEqual([
    [0x123, ['10.20.0.12', '10.20.0.9']],
    [0x124, ['10.20.0.9']],
  ]);
  expect(discovery.nodes().map((n) => [n.address, n.card])).toEqual([
    ['10.20.0.12', 'lights'],
    ['10.20.0.9', 'lights'],
  ]);
  expect(changes()).toBe(2);
});

test('a poll is answered with all that we send, in fours, to where it came from and to the protocol’s own port', () => {
  const { sent, hears } = network([0, 1, 2, 3, 4, 0x123]);
  sent.length = 0;
  hears(artPoll(), '10.20.0.77', 50_000);
  const replies = sent.map((s) => ({
    ...readArtPollReply(s.packet),
    to: `${s.host}:${s.port ?? 6454}`,
  }));
  expect(replies.map((r) => [r.to, r.ports?.map((p) => p.portAddress).join()])).toEqual([
    ['10.20.0.77:50000', '0,1,2,3'],
    ['10.20.0.77:6454', '0,1,2,3'],
    ['10.20.0.77:50000', '4'],
    ['10.20.0.77:6454', '4'],
    ['10.20.0.77:50000', '291'],
    ['10.20.0.77:6454', '291'],
  ]);
  expect(replies[0]).toMatchObject({
    address: '10.20.0.5',
    shortName: 'Tidewater',
    style: ART_STYLE.controller,
  });
});

test('a flood of polls is not made larger, and a flood of nodes is not remembered', () => {
  const { discovery, sent, hears } = network([0]);
  sent.length = 0;
  for (let i = 0; i < 1000; i++) hears(artPoll(), '10.20.0.77');
  expect(sent.length).toBeLessThan(30);
  for (let i = 0; i < 5000; i++) hears(artPollReply(NODE), `10.20.${i >> 8}.${i & 255}`);
  expect(discovery.nodes().length).toBeLessThan(1000);
});

test('a device is given other names where it is', () => {
  const { discovery, sent } = network();
  sent.length = 0;
  discovery.rename('10.20.0.9', 2, { shortName: 'Stern', longName: '' });
  discovery.rename('127.0.0.1', 1, { shortName: 'Stern', longName: '' });
  expect(sent.map((s) => `${s.host}:${s.port}`)).toEqual(['10.20.0.9:6454', '127.0.0.1:6460']);
});
