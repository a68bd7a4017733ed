/** RDM, by hand from E1.20 and Art-Net 4; what lies, and what is not RDM at all. */
import fc from 'fast-check';
import {
  artRdm,
  artTodData,
  artTodFlush,
  artTodRequest,
  readArtRdm,
  readArtTodData,
  readArtTodFlush,
  readArtTodRequest,
} from '../output/art-rdm';
import { apply, exampleShow, idOf } from '../testing/example';
import { compareDevices, deviceFindings, type RdmDevice } from './devices';
import { COMMAND, isUid, rdmPacket, readRdm, RESPONSE, uidBytes, uidText } from './packet';
import {
  PARAMETER,
  readDeviceInfo,
  readMode,
  readSensorKind,
  readSensorValue,
  readText,
} from './parameters';
import { answerTo, type Responder } from './responder';

const hex = (bytes: Uint8Array): string => Buffer.from(bytes).toString('hex');
const of = (text: string): Uint8Array => Uint8Array.from(Buffer.from(text, 'hex'));
const DESK = '7ff0:01020304';
const UNIT = '7ff1:00000007';

test('a question, byte by byte, with its checksum (E1.20 clause 6.2)', () => {
  const packet = rdmPacket({
    to: UNIT,
    from: DESK,
    transaction: 5,
    port: 1,
    command: COMMAND.get,
    parameter: PARAMETER.deviceInfo,
    data: new Uint8Array(),
  });
  const body =
    'cc01' +
    '18' +
    '7ff100000007' +
    '7ff001020304' +
    '05' +
    '01' +
    '00' +
    '0000' +
    '20' +
    '0060' +
    '00';
  const sum = [...of(body)].reduce((a, b) => a + b, 0);
  expect(hex(packet)).toBe(body + sum.toString(16).padStart(4, '0'));
});

const Message = fc.record({
  to: fc.uint8Array({ minLength: 6, maxLength: 6 }).map(uidText),
  from: fc.uint8Array({ minLength: 6, maxLength: 6 }).map(uidText),
  transaction: fc.integer({ min: 0, max: 255 }),
  port: fc.integer({ min: 0, max: 255 }),
  command: fc.integer({ min: 0, max: 255 }),
  parameter: fc.integer({ min: 0, max: 0xffff }),
  data: fc.uint8Array({ maxLength: 231 }),
});

test('what is written is read, also through Art-Net; one changed byte is noticed', () => {
  fc.assert(
    fc.property(Message, fc.nat(), fc.integer({ min: 1, max: 255 }), (message, place, change) => {
      const packet = rdmPacket(message);
      expect(readRdm(packet)).toEqual(message);
      const carried = readArtRdm(artRdm(0x123, packet));
      expect([carried?.portAddress, hex(carried?.rdm ?? of(''))]).toEqual([0x123, hex(packet)]);
      const broken = Uint8Array.from(packet);
      const at = place % broken.length;
      broken[at] = ((broken[at] ?? 0) + change) & 255;
      expect(readRdm(broken)).toBeUndefined();
    }),
  );
  expect(isUid(uidText(uidBytes(UNIT)))).toBe(true);
});

test('a message carries 231 bytes and none more (E1.20 clause 6.2.11): what it cannot carry is left out', () => {
  const long = rdmPacket({
    to: UNIT,
    from: DESK,
    transaction: 1,
    port: 1,
    command: COMMAND.setResponse,
    parameter: PARAMETER.deviceInfo,
    data: new Uint8Array(300).fill(7),
  });
  expect(readRdm(long)?.data).toHaveLength(231);
  expect([long.length, long[2], long[23]]).toEqual([257, 255, 231]);
});

test('who hangs there is asked and told, byte by byte, in packets of 200', () => {
  const request = artTodRequest(0x123);
  expect([request.length, hex(request.subarray(8, 12)), hex(request.subarray(20, 25))]).toEqual([
    56,
    '0080000e',
    '0001000123',
  ]);
  expect(readArtTodRequest(request)).toEqual([0x123]);
  expect(readArtTodFlush(artTodFlush(0x123))).toBe(0x123);
  const [only] = artTodData(0x123, 2, [UNIT]);
  expect(hex(only?.subarray(8) ?? of(''))).toBe(
    '0081' +
      '000e' +
      '01' +
      '02' +
      '000000000000' +
      '00' +
      '01' +
      '00' +
      '23' +
      '0001' +
      '00' +
      '01' +
      '7ff100000007',
  );
  const uids = Array.from(
    { length: 450 },
    (_, i) => `7ff1:${(i + 1).toString(16).padStart(8, '0')}`,
  );
  const packets = artTodData(1, 1, uids).map((p) => readArtTodData(p));
  expect(packets.map((p) => [p?.block, p?.total, p?.uids.length])).toEqual([
    [0, 450, 200],
    [1, 450, 200],
    [2, 450, 50],
  ]);
  expect(packets.flatMap((p) => p?.uids ?? [])).toEqual(uids);
});

test('anything else is not read, and a table that says more than it has gives what it has', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
      expect([readArtTodData(bytes), readArtTodRequest(bytes), readArtRdm(bytes)]).toEqual([
        undefined,
        undefined,
        undefined,
      ]);
      readRdm(Uint8Array.from([0xcc, 0x01, ...bytes]));
      readDeviceInfo(bytes);
      readMode(bytes);
      readSensorKind(bytes);
      readSensorValue(bytes);
      expect(readText(bytes).length).toBeLessThanOrEqual(32);
    }),
  );
  const [table] = artTodData(1, 1, [UNIT]);
  if (table) table[27] = 200;
  expect(readArtTodData(table ?? of(''))?.uids).toEqual([UNIT]);
});

describe('a device says', () => {
  const info =
    '0100' + '0007' + '0101' + '00000001' + '000e' + '02' + '03' + '00c9' + '0000' + '01';
  test('its footprint, mode, address and sensors', () => {
    expect(readDeviceInfo(of(info))).toEqual({
      model: 7,
      footprint: 14,
      mode: 2,
      modes: 3,
      address: 201,
      sensors: 1,
    });
  });
  test.each([
    ['too little', info.slice(0, 30)],
    ['a footprint of more than a universe', info.replace('000e', '0300')],
    ['a mode that it does not have', info.replace('0203', '0903')],
    ['an address past the end', info.replace('00c9', '0c90')],
  ])('%s, and is not believed', (_, text) => {
    expect(readDeviceInfo(of(text))).toBeUndefined();
  });
  test('a temperature below zero, in tenths', () => {
    const kind = of(
      '00' + '00' + '01' + '01' + '0000000000000000' + '00' + hex(Buffer.from('Lamp\u0007')),
    );
    expect(readSensorKind(kind)).toEqual({ name: 'Lamp', unit: '°C', scale: 0.1 });
    expect(readSensorValue(of('00ffce000000000000'))).toBe(-50);
  });
});

describe('a simulated unit', () => {
  const unit = (): Responder => ({
    uid: UNIT,
    maker: 'Aldersund',
    model: 'Eider wash',
    modelNumber: 7,
    modes: [
      { name: 'Basic', footprint: 5 },
      { name: 'Wide', footprint: 13 },
    ],
    mode: 1,
    address: 10,
    hours: 100_000,
    lampHours: 5,
    temperature_C: 40,
    identifies: false,
  });
  const asks = (r: Responder, command: number, parameter: number, data: number[] = []) => {
    const answer = answerTo(
      r,
      rdmPacket({
        to: r.uid,
        from: DESK,
        transaction: 9,
        port: 1,
        command,
        parameter,
        data: Uint8Array.from(data),
      }),
    );
    return answer && readRdm(answer);
  };
  test('answers its asker, says what it is, and takes an address and a mode', () => {
    const r = unit();
    const said = asks(r, COMMAND.get, PARAMETER.deviceInfo);
    expect(said).toMatchObject({
      to: DESK,
      from: UNIT,
      transaction: 9,
      command: COMMAND.getResponse,
    });
    expect(readDeviceInfo(said?.data ?? of(''))).toMatchObject({ footprint: 5, address: 10 });
    asks(r, COMMAND.set, PARAMETER.mode, [2]);
    asks(r, COMMAND.set, PARAMETER.address, [1, 44]);
    expect([r.mode, r.address]).toEqual([2, 300]);
    const mode = asks(r, COMMAND.get, PARAMETER.modeDescription, [2]);
    expect(readMode(mode?.data ?? of(''))).toEqual({ mode: 2, footprint: 13, name: 'Wide' });
  });
  test.each([
    ['an address past the end', PARAMETER.address, [2, 0]],
    ['no mode of its own', PARAMETER.mode, [3]],
    ['something unknown', 0x7fff, []],
  ])('refuses %s and stays as it was', (_, parameter, data) => {
    const r = unit();
    expect(asks(r, COMMAND.set, parameter, data)?.port).toBe(RESPONSE.nack);
    expect(r).toEqual(unit());
  });
  test('has one sensor, of its temperature in whole degrees (E1.20 clauses 10.7.1, 10.7.2), and no second', () => {
    const r = unit();
    const told = (parameter: number, sensor: number) =>
      hex(asks(r, COMMAND.get, parameter, [sensor])?.data ?? of(''));
    // Number, type, unit, prefix; the range and what is usual; nothing is recorded; its name.
    expect(told(PARAMETER.sensorDefinition, 0)).toBe(
      '00' +
        '00' +
        '01' +
        '00' +
        '0000' +
        '0078' +
        '0000' +
        '005a' +
        '00' +
        hex(Buffer.from('Temperature')),
    );
    expect(told(PARAMETER.sensorValue, 0)).toBe('00' + '0028' + '000000000000');
    for (const parameter of [PARAMETER.sensorDefinition, PARAMETER.sensorValue])
      expect(asks(r, COMMAND.get, parameter, [1])).toMatchObject({
        port: RESPONSE.nack,
        data: of('0006'),
      });
  });
  test('does not hear what is for another', () => {
    const other = rdmPacket({
      to: '7ff1:00000008',
      from: DESK,
      transaction: 1,
      port: 1,
      command: COMMAND.get,
      parameter: PARAMETER.model,
      data: of(''),
    });
    expect(answerTo(unit(), other)).toBeUndefined();
  });
});

describe('what hangs there against what is patched', () => {
  const show = exampleShow();
  apply(show, 'set-route', {
    set: {
      universe: 2,
      protocol: 'artnet',
      destination: 'nodes',
      wire: 77,
      priority: 100,
      on: true,
    },
  });
  const head = show.fixtures.get(idOf(show, 101));
  const type = head && show.types.get(head.typeId);
  const point = head?.patch[0];
  if (!type || !point) throw new Error('no head');
  const mode = type.modes.find((m) => m.name === head.mode);
  const device = (more: Partial<RdmDevice> = {}): RdmDevice => ({
    uid: UNIT,
    node: '10.0.0.20',
    portAddress: 77,
    maker: type.maker,
    model: type.name,
    software: '1',
    address: point.address,
    footprint: mode?.footprint ?? 0,
    mode: 1,
    modes: type.modes.map((m) => ({ name: m.name, footprint: m.footprint })),
    hours: 1,
    lampHours: 1,
    sensors: [],
    identifies: false,
    odd: null,
    ...more,
  });
  test('at its place and of its size it is right', () => {
    expect(compareDevices(show, [device()])).toMatchObject([
      { verdict: 'right', set: null, universe: 2, fixture: { number: 101 } },
    ]);
  });
  test('at none, it is the unit of its kind that does not answer', () => {
    expect(compareDevices(show, [device({ address: 400 })])).toMatchObject([
      { verdict: 'address', set: { address: point.address }, fixture: { number: 101 } },
    ]);
  });
  test('of another size it is in another mode, and is put into the one that fits, if it has one', () => {
    expect(compareDevices(show, [device({ footprint: 500 })])).toMatchObject([
      { verdict: 'mode', set: { mode: type.modes.findIndex((m) => m.name === head.mode) + 1 } },
    ]);
    expect(compareDevices(show, [device({ footprint: 500, modes: [] })])).toMatchObject([
      { verdict: 'mode', set: null },
    ]);
  });
  test('what is not as it is patched is a finding, with the unit that it is of', () => {
    expect(deviceFindings(show, [device()])).toEqual([]);
    expect(deviceFindings(show, [device({ address: 400 })])).toMatchObject([
      { about: 'units', fixtures: [head.id], text: expect.stringContaining('patched at') },
    ]);
  });
  test('one unit is not offered to two devices; what nobody patched is a stranger', () => {
    const two = compareDevices(show, [
      device({ address: 400 }),
      device({ uid: '7ff1:00000009', address: 430, model: 'Unknown', footprint: 511 }),
      device({ uid: '7ff1:0000000a', portAddress: 500 }),
    ]);
    const given = two.flatMap((c) => c.fixture?.id ?? []);
    expect(new Set(given).size).toBe(given.length);
    expect(two.slice(1).map((c) => c.verdict)).toEqual(['stranger', 'stranger']);
  });
});
