import dgram from 'node:dgram';
import fc from 'fast-check';
import { Receiver } from 'sacn';
import {
  artnetFrame,
  artnetPacket,
  formatPortAddress,
  parsePortAddress,
  readArtDmx,
} from './artnet.ts';
import { isStale, readSacn, sacnFrame, sacnMulticast, sacnPacket, sacnTerminated } from './sacn.ts';

const CID = Uint8Array.from({ length: 16 }, (_, i) => i + 1);
const slotsOf = (f: (i: number) => number): Uint8Array =>
  Uint8Array.from({ length: 512 }, (_, i) => f(i) & 255);
const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');

test('an sACN packet, byte by byte (E1.31-2018 tables 4-1 to 4-3)', () => {
  const packet = sacnFrame(
    sacnPacket({ cid: CID, name: 'Wingman' }, 7, 110),
    slotsOf((i) => i),
    0,
  );
  expect(packet.length).toBe(638);
  const root = '0010' + '0000' + '4153432d45312e3137000000' + '726e' + '00000004' + hex(CID);
  const framing =
    '7258' +
    '00000002' +
    Buffer.from('Wingman').toString('hex').padEnd(128, '0') +
    '6e' +
    '0000' +
    '01' +
    '00' +
    '0007';
  const dmp = '720b' + '02' + 'a1' + '0000' + '0001' + '0201' + '00';
  expect(hex(packet.subarray(0, 126))).toBe(root + framing + dmp);
  expect(hex(packet.subarray(126))).toBe(hex(slotsOf((i) => i)));
});

test('sequence counts and wraps; termination sets its option alone', () => {
  const packet = sacnPacket({ cid: CID, name: 'Wingman' }, 1, 100);
  const slots = slotsOf(() => 0);
  for (let i = 0; i < 255; i++) sacnFrame(packet, slots, 0);
  expect(packet[111]).toBe(255);
  expect(sacnFrame(packet, slots, 0)[111]).toBe(0);
  sacnFrame(
    packet,
    slotsOf(() => 7),
    0,
  );
  const ended = sacnTerminated(packet);
  expect([ended[112], ended[111], ended[126], ended[637]]).toEqual([0x40, 2, 7, 7]);
  expect(sacnFrame(packet, slots, 0)[112]).toBe(0);
});

test('a long source name ends at a whole character within 63 bytes', () => {
  const packet = sacnPacket({ cid: CID, name: 'ø'.repeat(60) }, 1, 100);
  expect(packet[44 + 62]).toBe(0);
  expect(
    readSacn(
      sacnFrame(
        packet,
        slotsOf(() => 0),
        0,
      ),
    )?.name,
  ).toBe('ø'.repeat(31));
});

test('an independent receiver reads what is sent', async () => {
  const receiver = new Receiver({
    universes: [3],
    port: 15_568,
    iface: '127.0.0.1',
    reuseAddr: true,
  });
  const socket = dgram.createSocket('udp4');
  try {
    const got = new Promise<{
      payload: Record<number, number>;
      universe: number;
      priority: number;
      cid: Buffer;
      sourceName: string;
    }>((resolve) => {
      receiver.on('packet', (p: unknown) => resolve(p as never));
    });
    await new Promise<void>((resolve) => setTimeout(resolve, 100));
    const packet = sacnFrame(
      sacnPacket({ cid: CID, name: 'Wingman' }, 3, 120),
      slotsOf((i) => (i < 3 ? 255 - i * 51 : 0)),
      0,
    );
    socket.send(packet, 15_568, '127.0.0.1');
    const read = await got;
    expect(read.universe).toBe(3);
    expect(read.priority).toBe(120);
    expect(read.sourceName.replaceAll('\0', '')).toBe('Wingman');
    expect([1, 2, 3].map((a) => Math.round((read.payload[a] ?? 0) * 2.55))).toEqual([
      255, 204, 153,
    ]);
  } finally {
    socket.close();
    receiver.close();
  }
});

test('what is written is read, for every universe, priority and value', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 63999 }),
      fc.integer({ min: 0, max: 200 }),
      fc.uint8Array({ minLength: 512, maxLength: 512 }),
      (universe, priority, slots) => {
        const read = readSacn(
          sacnFrame(sacnPacket({ cid: CID, name: 'W' }, universe, priority), slots, 0),
        );
        return (
          read?.universe === universe &&
          read.priority === priority &&
          hex(read.slots) === hex(slots)
        );
      },
    ),
    { numRuns: 50 },
  );
});

test('what is not sACN is not read', () => {
  const good = sacnFrame(
    sacnPacket({ cid: CID, name: 'W' }, 1, 100),
    slotsOf(() => 1),
    0,
  );
  expect(readSacn(good)).toBeDefined();
  for (const at of [0, 4, 21, 43, 117]) {
    const bad = Uint8Array.from(good);
    bad[at] = 0xee;
    expect(readSacn(bad)).toBeUndefined();
  }
  expect(readSacn(good.subarray(0, 600))).toBeUndefined();
  expect(readSacn(new Uint8Array(3))).toBeUndefined();
});

test('packets 0 to 19 behind are stale, others are not (clause 6.7.2)', () => {
  expect([isStale(5, 5), isStale(4, 5), isStale(242, 5), isStale(250, 5)]).toEqual([
    true,
    true,
    true,
    true,
  ]);
  expect([isStale(6, 5), isStale(0, 255), isStale(100, 5), isStale(241, 5)]).toEqual([
    false,
    false,
    false,
    false,
  ]);
});

test('multicast group of a universe', () => {
  expect(sacnMulticast(1)).toBe('239.255.0.1');
  expect(sacnMulticast(63999)).toBe('239.255.249.255');
});

test('an ArtDmx packet, byte by byte (Art-Net 4)', () => {
  const packet = artnetFrame(
    artnetPacket(0x1234),
    slotsOf((i) => i * 3),
    0,
  );
  expect(hex(packet.subarray(0, 18))).toBe(
    '4172742d4e657400' + '0050' + '000e' + '01' + '00' + '34' + '12' + '0200',
  );
  expect(readArtDmx(packet)).toMatchObject({ portAddress: 0x1234, sequence: 1 });
  expect(hex(readArtDmx(packet)?.slots ?? new Uint8Array())).toBe(hex(slotsOf((i) => i * 3)));
});

test('the Art-Net sequence goes from 1 to 255 and never says 0', () => {
  const packet = artnetPacket(0);
  const seen = new Set<number>();
  for (let i = 0; i < 300; i++)
    seen.add(
      artnetFrame(
        packet,
        slotsOf(() => 0),
        0,
      )[12] ?? -1,
    );
  expect(seen.size).toBe(255);
  expect(seen.has(0)).toBe(false);
});

test('net, sub-net and universe of a port address', () => {
  expect(formatPortAddress(0)).toBe('0.0.0');
  expect(formatPortAddress(0x1234)).toBe('18.3.4');
  expect(['18.3.4', ' 7 ', '128.0.0', '0.16.0', 'x'].map(parsePortAddress)).toEqual([
    0x1234,
    7,
    undefined,
    undefined,
    undefined,
  ]);
});

test('what is not ArtDmx is not read', () => {
  const good = artnetFrame(
    artnetPacket(1),
    slotsOf(() => 1),
    0,
  );
  const poll = Uint8Array.from(good);
  poll[9] = 0x20;
  expect(readArtDmx(poll)).toBeUndefined();
  expect(readArtDmx(good.subarray(0, 100))).toBeUndefined();
});
