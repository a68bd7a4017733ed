/** Several universes as one moment, and what each address is worth, by hand from the standards. */
import fc from 'fast-check';
import {
  readSacn,
  readSacnPriorities,
  sacnFrame,
  sacnPacket,
  sacnPriorities,
  sacnTerminated,
} from './sacn.ts';
import { artSync, isArtSync, readSacnSync, sacnSync, sacnSyncNext } from './sync.ts';

const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
const CID = Uint8Array.from({ length: 16 }, (_, i) => i + 1);

test('a synchronisation packet, byte by byte (E1.31-2018 clause 6.3)', () => {
  const packet = sacnSyncNext(sacnSync(CID, 7962));
  expect(hex(packet)).toBe(
    '0010' +
      '0000' +
      '4153432d45312e3137000000' +
      '7021' +
      '00000008' +
      hex(CID) +
      '700b' +
      '00000001' +
      '01' +
      '1f1a' +
      '0000',
  );
  expect(readSacnSync(packet)).toEqual({ cid: hex(CID), sequence: 1, universe: 7962 });
  for (let i = 0; i < 255; i++) sacnSyncNext(packet);
  expect(readSacnSync(packet)?.sequence).toBe(0);
  expect(readSacn(packet)).toBeUndefined();
});

test('data that waits for it says so, and does not stand still without it', () => {
  const dark = new Uint8Array(512);
  const packet = sacnFrame(sacnPacket({ cid: CID, name: 'Wingman' }, 7, 100, 7962), dark, 0);
  expect(hex(packet.subarray(108, 113))).toBe('64' + '1f1a' + '01' + '20');
  expect(readSacn(packet)?.sync).toBe(7962);
  expect(sacnTerminated(packet)[112]).toBe(0x60);
});

test('priorities by address have a start code of their own, and are no levels', () => {
  const each = Uint8Array.from({ length: 512 }, (_, i) => (i < 10 ? 0 : 120));
  const packet = sacnPriorities({ cid: CID, name: 'Wingman' }, 7, 100, each);
  expect([packet.length, packet[125], packet[126], packet[136]]).toEqual([638, 0xdd, 0, 120]);
  expect(readSacn(packet)).toBeUndefined();
  expect(readSacnPriorities(packet)?.slots).toEqual(each);
});

test('an ArtSync, byte by byte', () => {
  expect(hex(artSync())).toBe(
    `${Buffer.from('Art-Net').toString('hex')}00` + '0052' + '000e' + '0000',
  );
  expect(isArtSync(artSync())).toBe(true);
});

test('anything else is not read', () => {
  fc.assert(
    fc.property(
      fc.uint8Array({ maxLength: 700 }),
      (bytes) => readSacnSync(bytes) === undefined && !isArtSync(bytes),
    ),
  );
});
