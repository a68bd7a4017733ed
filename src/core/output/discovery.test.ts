import fc from 'fast-check';
import {
  artPoll,
  artPollReply,
  isArtPoll,
  readArtPollReply,
  readSacnDiscovery,
  sacnDiscovery,
} from './discovery.ts';

const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
const CID = Uint8Array.from({ length: 16 }, (_, i) => i + 1);

test('an ArtPoll, byte by byte', () => {
  expect(hex(artPoll())).toBe(
    `${Buffer.from('Art-Net').toString('hex')}00` + '0020' + '000e' + '0000',
  );
  expect(isArtPoll(artPoll())).toBe(true);
  expect(
    isArtPoll(
      artPollReply({ address: '10.0.0.1', shortName: '', longName: '', report: '', outputs: [] }),
    ),
  ).toBe(false);
});

test('an ArtPollReply has its fields where the standard puts them', () => {
  const packet = artPollReply({
    address: '10.0.0.20',
    shortName: 'Bow rack',
    longName: 'Bow rack, port side',
    report: '#0001 [0] fine',
    outputs: [0x123, 0x124],
  });
  expect(packet.length).toBe(239);
  expect(hex(packet.subarray(8, 16))).toBe('0021' + '0a000014' + '3619');
  expect([packet[18], packet[19]]).toEqual([1, 2]);
  expect(Buffer.from(packet.subarray(26, 34)).toString()).toBe('Bow rack');
  expect([packet[172], packet[173]]).toEqual([0, 2]);
  expect([...packet.subarray(174, 178)]).toEqual([0x80, 0x80, 0, 0]);
  expect([...packet.subarray(190, 194)]).toEqual([3, 4, 0, 0]);
});

test('what is replied is read, names cut at whole letters', () => {
  const names = fc.string({ maxLength: 10 }).filter((s) => !s.includes('\0'));
  fc.assert(
    fc.property(
      names,
      fc.integer({ min: 0, max: 127 }),
      fc.integer({ min: 0, max: 15 }),
      fc.uniqueArray(fc.integer({ min: 0, max: 15 }), { maxLength: 4 }),
      (name, net, sub, ports) => {
        const outputs = ports.map((p) => (net << 8) | (sub << 4) | p);
        const read = readArtPollReply(
          artPollReply({
            address: '192.0.2.7',
            shortName: name,
            longName: name,
            report: '',
            outputs,
          }),
        );
        return (
          read?.address === '192.0.2.7' &&
          JSON.stringify(read.outputs) === JSON.stringify(outputs) &&
          name.startsWith(read.shortName.slice(0, 4))
        );
      },
    ),
  );
});

test('a universe discovery page, byte by byte (E1.31-2018 table 4-3)', () => {
  const [packet] = sacnDiscovery({ cid: CID, name: 'Wingman' }, [7, 1]);
  const head = '0010' + '0000' + '4153432d45312e3137000000' + '706c' + '00000008' + hex(CID);
  const framing =
    '7056' + '00000002' + Buffer.from('Wingman').toString('hex').padEnd(128, '0') + '00000000';
  const list = '700c' + '00000001' + '00' + '00' + '0001' + '0007';
  expect(hex(packet ?? new Uint8Array())).toBe(head + framing + list);
});

test('many universes go in pages of 512, sorted, and come back whole', () => {
  const universes = Array.from({ length: 1100 }, (_, i) => 1100 - i);
  const pages = sacnDiscovery({ cid: CID, name: 'Wingman' }, universes).map((p) =>
    readSacnDiscovery(p),
  );
  expect(pages.map((p) => [p?.page, p?.lastPage, p?.universes.length])).toEqual([
    [0, 2, 512],
    [1, 2, 512],
    [2, 2, 76],
  ]);
  expect(pages.flatMap((p) => p?.universes ?? [])).toEqual([...universes].reverse());
});

test('anything else is not read', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 300 }),
      (bytes) =>
        readArtPollReply(bytes) === undefined &&
        readSacnDiscovery(bytes) === undefined &&
        !isArtPoll(bytes),
    ),
  );
});
