/** Cards: whose network an address is on, whom a broadcast reaches, and what leaves by a card that is not there. */
import fc from 'fast-check';
import { broadcastOf, cardTowards, leavesBy, sayCard, usable, type Card } from './cards';

const LIGHTS: Card = {
  name: 'eth1',
  addresses: [{ address: '10.20.0.5', netmask: '255.255.0.0' }],
  link: 'up',
  isOwn: false,
};
const OFFICE: Card = {
  name: 'eth0',
  addresses: [{ address: '192.168.4.130', netmask: '255.255.255.128' }],
  link: 'up',
  isOwn: false,
};
const OWN: Card = {
  name: 'lo',
  addresses: [{ address: '127.0.0.1', netmask: '255.0.0.0' }],
  link: 'unknown',
  isOwn: true,
};
const CARDS = [OWN, OFFICE, LIGHTS];

test.each([
  ['10.20.0.5', '255.255.0.0', '10.20.255.255'],
  ['192.168.4.130', '255.255.255.128', '192.168.4.255'],
  ['192.168.4.20', '255.255.255.128', '192.168.4.127'],
  ['2.0.0.9', '255.0.0.0', '2.255.255.255'],
  ['10.1.2.3', '255.255.255.255', '10.1.2.3'],
])('%s with %s shouts to %s', (address, netmask, says) => {
  expect(broadcastOf({ address, netmask })).toBe(says);
});

test('a broadcast address is always on the network of its card', () => {
  fc.assert(
    fc.property(
      fc.ipV4().filter((a) => /^\d+\.\d+\.\d+\.\d+$/.test(a)),
      fc.integer({ min: 0, max: 32 }),
      (address, bits) => {
        const mask = 2 ** 32 - 2 ** (32 - bits);
        const netmask = [24, 16, 8, 0].map((s) => Math.floor(mask / 2 ** s) % 256).join('.');
        const card = { ...LIGHTS, addresses: [{ address, netmask }] };
        return cardTowards([card], broadcastOf({ address, netmask })) === card;
      },
    ),
  );
});

test('an address is on one card’s network, or behind a router', () => {
  expect(cardTowards(CARDS, '10.20.9.9')?.name).toBe('eth1');
  expect(cardTowards(CARDS, '192.168.4.140')?.name).toBe('eth0');
  expect(cardTowards(CARDS, '192.168.4.20')).toBeUndefined();
  expect(usable(CARDS).map(sayCard)).toEqual(['eth0, 192.168.4.130', 'eth1, 10.20.0.5']);
});

test('what has no card leaves as the machine decides; what has one, by it or not at all', () => {
  expect(leavesBy(CARDS, null)).toEqual({ by: 'machine' });
  expect(leavesBy(CARDS, 'eth1')).toEqual({ by: 'card', address: LIGHTS.addresses[0] });
  expect(leavesBy([OWN, OFFICE], 'eth1')).toEqual({
    by: 'nothing',
    problem: 'The card “eth1” is not in this machine: nothing leaves.',
  });
  expect(leavesBy([{ ...LIGHTS, addresses: [] }], 'eth1')).toMatchObject({
    problem: expect.stringContaining('no address'),
  });
  expect(leavesBy([{ ...LIGHTS, addresses: [], link: 'down' }], 'eth1')).toMatchObject({
    problem: expect.stringContaining('No cable'),
  });
});
