/** Universe discovery, by hand from E1.31. */
import fc from 'fast-check';
import { readSacnDiscovery, sacnDiscovery } from './sacn-discovery.ts';

const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
const CID = Uint8Array.from({ length: 16 }, (_, i) => i + 1);

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
      (bytes) => readSacnDiscovery(bytes) === undefined,
    ),
  );
});
