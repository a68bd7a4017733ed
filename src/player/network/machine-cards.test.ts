/** Cards of a machine as its system tells of them, here one that is made up: `eth0` with its cable in and out, `docker0`, `lo`. */
interface Address {
  family: 'IPv4' | 'IPv6';
  address: string;
  netmask: string;
  internal: boolean;
}
const machine: { addresses: Record<string, Address[]>; states: Record<string, string> } = {
  addresses: {},
  states: {},
};
const DEVICES = new Set(['/sys/class/net/eth0/device', '/sys/class/net/eth1/device']);
jest.mock('node:os', () => ({ networkInterfaces: () => machine.addresses }));
jest.mock('node:fs', () => ({
  existsSync: (path: string) => DEVICES.has(path),
  readdirSync: () => Object.keys(machine.states),
  readFileSync: (path: string) => {
    const state = machine.states[path.split('/')[4] ?? ''];
    if (state === undefined) throw new Error('no such file');
    return `${state}\n`;
  },
}));
import { watchCards } from './machine-cards.ts';

const ip = (address: string, internal = false): Address => ({
  family: 'IPv4',
  address,
  netmask: '255.255.255.0',
  internal,
});
const six: Address = { ...ip('fe80::1'), family: 'IPv6' };
beforeEach(() => {
  machine.addresses = { lo: [ip('127.0.0.1', true)], eth0: [six, ip('10.0.0.7')] };
  machine.states = { lo: 'unknown', eth0: 'up', eth1: 'lowerlayerdown', docker0: 'down' };
});

test('a card has its addresses of the fourth version, its link, and whether it is the machine itself', () => {
  expect(watchCards()()).toEqual([
    {
      name: 'eth0',
      addresses: [{ address: '10.0.0.7', netmask: '255.255.255.0' }],
      link: 'up',
      isOwn: false,
    },
    // A cable goes into it, and is out.
    { name: 'eth1', addresses: [], link: 'down', isOwn: false },
    {
      name: 'lo',
      addresses: [{ address: '127.0.0.1', netmask: '255.255.255.0' }],
      link: 'unknown',
      isOwn: true,
    },
  ]);
});

test('one that loses its address is still known; what never had one and takes no cable is not shown', () => {
  machine.addresses.wlan0 = [ip('10.0.1.4')];
  machine.states.wlan0 = 'up';
  const look = watchCards();
  expect(look().map((c) => c.name)).toEqual(['eth0', 'eth1', 'lo', 'wlan0']);
  delete machine.addresses.wlan0;
  machine.states.wlan0 = 'dormant';
  expect(look().find((c) => c.name === 'wlan0')).toEqual({
    name: 'wlan0',
    addresses: [],
    link: 'unknown',
    isOwn: false,
  });
  expect(watchCards()().map((c) => c.name)).toEqual(['eth0', 'eth1', 'lo']);
});

test('one that the system says nothing of is shown with its address, and its link is not known', () => {
  machine.states = {};
  expect(watchCards()().find((c) => c.name === 'eth0')).toMatchObject({ link: 'unknown' });
});
