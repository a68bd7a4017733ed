/** Who is there on an Art-Net, by hand from the standard. */
import fc from 'fast-check';
import {
  ART_STYLE,
  artAddress,
  artPoll,
  artPollReply,
  isArtPoll,
  outputsOf,
  readArtAddress,
  readArtPollReply,
  type ArtNode,
  type ArtPort,
} from './art-poll.ts';

const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
const out = (portAddress: number, more: Partial<ArtPort> = {}): ArtPort => ({
  way: 'out',
  portAddress,
  active: true,
  merges: false,
  fault: '',
  ...more,
});
const NODE: ArtNode = {
  address: '10.0.0.20',
  shortName: 'Bow rack',
  longName: 'Bow rack, port side',
  report: '#0001 [0] fine',
  ports: [out(0x123), out(0x124)],
  style: ART_STYLE.node,
  rdm: false,
  mac: '',
  bindIndex: 0,
};

test('an ArtPoll, byte by byte', () => {
  expect(hex(artPoll())).toBe(
    `${Buffer.from('Art-Net').toString('hex')}00` + '0020' + '000e' + '0000',
  );
  expect(isArtPoll(artPoll())).toBe(true);
  expect(isArtPoll(artPollReply(NODE))).toBe(false);
});

test('an ArtPollReply has its fields where the standard puts them', () => {
  const packet = artPollReply(NODE);
  expect(packet.length).toBe(239);
  expect(hex(packet.subarray(8, 16))).toBe('0021' + '0a000014' + '3619');
  expect([packet[18], packet[19]]).toEqual([1, 2]);
  expect(Buffer.from(packet.subarray(26, 34)).toString()).toBe('Bow rack');
  expect([packet[172], packet[173]]).toEqual([0, 2]);
  expect([...packet.subarray(174, 178)]).toEqual([0x80, 0x80, 0, 0]);
  expect([...packet.subarray(190, 194)]).toEqual([3, 4, 0, 0]);
});

test('what a port does, what is wrong with it, and who we are stand there too', () => {
  const packet = artPollReply({
    ...NODE,
    style: ART_STYLE.controller,
    rdm: true,
    mac: '020a0b0c0d0e',
    bindIndex: 2,
    ports: [
      out(0x123, { merges: true }),
      out(0x124, { active: false, fault: 'short circuit' }),
      { way: 'in', portAddress: 0x125, active: true, merges: false, fault: 'receive errors' },
      { way: 'in', portAddress: 0x126, active: false, merges: false, fault: '' },
    ],
  });
  expect(packet[23]).toBe(2);
  expect([...packet.subarray(174, 176)]).toEqual([0xc0, 0xc0]);
  expect([...packet.subarray(178, 182)]).toEqual([0x84, 0, 0, 0]);
  expect([...packet.subarray(182, 186)]).toEqual([0x88, 0x04, 0, 0]);
  expect([...packet.subarray(186, 190)]).toEqual([5, 6, 0, 0]);
  expect(packet[200]).toBe(1);
  expect(hex(packet.subarray(201, 207))).toBe('020a0b0c0d0e');
  expect([packet[211], packet[212]]).toEqual([2, 8]);
});

test('what is replied is read, names cut at whole letters', () => {
  const names = fc.string({ maxLength: 10 }).filter((s) => !s.includes('\0'));
  const way = (w: 'out' | 'in', faults: readonly ArtPort['fault'][]) =>
    fc.uniqueArray(
      fc.record({
        way: fc.constant(w),
        portAddress: fc.integer({ min: 0, max: 15 }),
        active: fc.boolean(),
        merges: w === 'out' ? fc.boolean() : fc.constant(false),
        fault: fc.constantFrom(...faults),
      }),
      { maxLength: 4, selector: (p) => p.portAddress },
    );
  fc.assert(
    fc.property(
      names,
      fc.integer({ min: 0, max: 127 }),
      fc.integer({ min: 0, max: 15 }),
      way('out', ['', 'short circuit']),
      way('in', ['', 'receive errors']),
      fc.boolean(),
      (name, net, sub, outs, ins, rdm) => {
        // A reply without ports is of no net.
        fc.pre(outs.length + ins.length > 0);
        const ports = [...outs, ...ins].map((p) => ({
          ...p,
          portAddress: (net << 8) | (sub << 4) | p.portAddress,
        }));
        const node = { ...NODE, shortName: name, longName: name, ports, rdm, mac: '0a0000000001' };
        const read = readArtPollReply(artPollReply(node));
        expect(read).toEqual({ ...node, shortName: read?.shortName });
        expect(name.startsWith(read?.shortName.slice(0, 4) ?? '?')).toBe(true);
      },
    ),
  );
  expect(outputsOf({ ports: [out(7), { ...out(8), way: 'in' }] })).toEqual([7]);
});

test('other names leave all else as it is, byte by byte', () => {
  const packet = artAddress({ shortName: 'Stern', longName: 'Stern rack' }, 3);
  expect(packet.length).toBe(107);
  expect(hex(packet.subarray(8, 14))).toBe('0060' + '000e' + '7f' + '03');
  expect(Buffer.from(packet.subarray(14, 20)).toString()).toBe('Stern\0');
  expect(hex(packet.subarray(96, 107))).toBe('7f'.repeat(9) + '00' + '00');
  expect(readArtAddress(packet)).toEqual({
    bindIndex: 3,
    shortName: 'Stern',
    longName: 'Stern rack',
  });
});

test('anything else is not read', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 300 }),
      (bytes) =>
        readArtPollReply(bytes) === undefined &&
        readArtAddress(bytes) === undefined &&
        !isArtPoll(bytes),
    ),
  );
});
