/** Units are asked one question at a time; what lies, is late or refuses is said, and costs the others nothing. */
import type { NodeSeen } from '../../core/live/messages.ts';
import { artRdm, artTodData, readArtRdm, readArtTodRequest } from '../../core/output/art-rdm.ts';
import { rdmPacket, readRdm, RESPONSE, type RdmMessage } from '../../core/rdm/packet.ts';
import { PARAMETER } from '../../core/rdm/parameters.ts';
import { answerTo, type Responder } from '../../core/rdm/responder.ts';
import type { ArtnetListener } from './artnet-port.ts';
import { makeRdm } from './rdm.ts';

const NODE = '10.0.0.20';
const unit = (n: number): Responder => ({
  uid: `7ff1:${String(n).padStart(8, '0')}`,
  maker: 'Aldersund',
  model: 'Eider wash',
  modelNumber: 7,
  modes: [
    { name: 'Basic', footprint: 5 },
    { name: 'Wide', footprint: 13 },
  ],
  mode: 1,
  address: n * 20,
  hours: 7,
  lampHours: 5,
  temperature_C: 40,
  identifies: false,
});

/** @param lies what is made of an answer; undefined: nothing comes */
function rig(
  units: readonly Responder[],
  lies: (answer: RdmMessage, asked: RdmMessage) => readonly (RdmMessage | Uint8Array)[] = (a) => [
    a,
  ],
) {
  const listeners: ArtnetListener[] = [];
  const asked: RdmMessage[] = [];
  const hears = (packet: Uint8Array): void =>
    listeners.forEach((l) => l(packet, { address: NODE, port: 6454 }));
  const rdm = makeRdm({
    cid: '01020304-0506-4708-890a-0b0c0d0e0f10',
    nodes: () => [
      {
        address: NODE,
        rdm: true,
        ports: [{ way: 'out', portAddress: 3, active: true, merges: false, fault: '' }],
      } as unknown as NodeSeen,
    ],
    portAt: () => 6454,
    // Time passes when nothing else is left to do.
    wait: () => new Promise((done) => setTimeout(done, 4)),
    artnet: {
      hear: (l) => void listeners.push(l),
      send: (packet) => {
        if (readArtTodRequest(packet))
          for (const table of artTodData(
            3,
            1,
            units.map((u) => u.uid),
          ))
            hears(table);
        const message = readArtRdm(packet);
        const question = message && readRdm(message.rdm);
        if (!message || !question) return;
        asked.push(question);
        for (const u of units) {
          const answer = answerTo(u, message.rdm);
          const read = answer && readRdm(answer);
          if (read)
            for (const said of lies(read, question))
              hears(artRdm(3, said instanceof Uint8Array ? said : rdmPacket(said)));
        }
      },
    },
  });
  return { rdm, asked };
}

test('nobody is asked before somebody wants to know; then everybody, and what they are is said', async () => {
  const { rdm, asked } = rig([unit(1), unit(2)]);
  expect([asked.length, rdm.state().looked]).toEqual([0, false]);
  await rdm.look();
  expect(rdm.state()).toMatchObject({ looking: false, looked: true });
  expect(rdm.state().devices).toMatchObject([
    {
      uid: unit(1).uid,
      portAddress: 3,
      node: NODE,
      maker: 'Aldersund',
      model: 'Eider wash',
      address: 20,
      footprint: 5,
      mode: 1,
      modes: [{ name: 'Basic' }, { name: 'Wide' }],
      hours: 7,
      sensors: [{ name: 'Temperature', value: 40, unit: '°C' }],
      odd: null,
    },
    { address: 40 },
  ]);
});

test('an address and a mode are set, and what the unit says afterwards is shown', async () => {
  const units = [unit(1)];
  const { rdm } = rig(units);
  await rdm.look();
  expect(await rdm.set(unit(1).uid, 'mode', 2)).toBeNull();
  expect(await rdm.set(unit(1).uid, 'address', 301)).toBeNull();
  expect(rdm.state().devices).toMatchObject([{ address: 301, mode: 2, footprint: 13 }]);
  expect(await rdm.set(unit(1).uid, 'address', 505)).toMatchObject({
    message: 'The unit refuses: the value is out of its range. Nothing was changed.',
  });
  expect(rdm.state().devices).toMatchObject([{ address: 301 }]);
  expect(await rdm.set('7ff1:99999999', 'address', 1)).toMatchObject({ code: 'not-found' });
});

test('asked again, it still is what it said of itself before, until it has said it again', async () => {
  let isMute = false;
  const { rdm } = rig([unit(1)], (a) =>
    isMute && a.parameter !== PARAMETER.deviceInfo ? [] : [a],
  );
  await rdm.look();
  const [before] = rdm.state().devices;
  isMute = true;
  const looking = rdm.look();
  const seen: (typeof before)[] = [];
  while (rdm.state().looking) {
    seen.push(rdm.state().devices[0]);
    await new Promise((done) => setTimeout(done, 1));
  }
  await looking;
  expect(new Set(seen.map((d) => JSON.stringify(d)))).toEqual(new Set([JSON.stringify(before)]));
});

test('a packet that is lost is asked for again; a unit that never answers is said to be silent', async () => {
  let n = 0;
  const flaky = rig([unit(1)], (a) => (n++ % 2 === 0 ? [] : [a]));
  await flaky.rdm.look();
  expect(flaky.rdm.state().devices).toMatchObject([{ odd: null, address: 20 }]);
  const dead = rig([unit(1), unit(2)], (a) => (a.from === unit(1).uid ? [] : [a]));
  await dead.rdm.look();
  expect(dead.rdm.state().devices.map((d) => [d.uid, d.odd])).toEqual(
    expect.arrayContaining([
      [unit(1).uid, 'It does not answer.'],
      [unit(2).uid, null],
    ]),
  );
});

test.each<[string, (a: RdmMessage) => readonly (RdmMessage | Uint8Array)[], string]>([
  ['answers for another', (a) => [{ ...a, from: '7ff1:0000ffff' }], 'It does not answer.'],
  ['answers something else', (a) => [{ ...a, parameter: 0x1234 }], 'It does not answer.'],
  [
    'sums wrongly',
    (a) => {
      const packet = rdmPacket(a);
      packet[packet.length - 1] = ((packet.at(-1) ?? 0) + 1) & 255;
      return [packet];
    },
    'It does not answer.',
  ],
  [
    'is larger than a universe',
    (a) =>
      a.parameter === PARAMETER.deviceInfo
        ? [{ ...a, data: Uint8Array.from(a.data, (b, i) => (i === 10 ? 9 : b)) }]
        : [a],
    'What it says of itself cannot be.',
  ],
  [
    'goes on for ever',
    (a) => [{ ...a, port: RESPONSE.overflow }],
    'It says nothing of itself: its answer has no end.',
  ],
])('a unit that %s is not believed', async (_, lies, says) => {
  const { rdm } = rig([unit(1)], lies);
  await rdm.look();
  expect(rdm.state().devices).toMatchObject([{ odd: says, footprint: 0 }]);
});

test('what a unit does not say of itself is left open, and the rest is shown', async () => {
  const mute = new Set<number>([PARAMETER.modeDescription, PARAMETER.hours, PARAMETER.model]);
  const { rdm } = rig([unit(1)], (a) => (mute.has(a.parameter) ? [] : [a]));
  await rdm.look();
  expect(rdm.state().devices).toMatchObject([
    {
      model: 'model 7',
      maker: 'Aldersund',
      footprint: 5,
      modes: [
        { footprint: 0, name: '' },
        { footprint: 0, name: '' },
      ],
      hours: null,
      lampHours: 5,
      odd: null,
    },
  ]);
});

test('an answer in parts is put together, and one that needs time is waited for', async () => {
  const seen = new Set<number>();
  const { rdm } = rig([unit(1)], (a) => {
    if (a.parameter !== PARAMETER.model) return [a];
    if (!seen.has(1)) {
      seen.add(1);
      return [{ ...a, port: RESPONSE.timer, data: Uint8Array.of(0, 1) }];
    }
    if (!seen.has(2)) {
      seen.add(2);
      return [{ ...a, port: RESPONSE.overflow, data: a.data.subarray(0, 5) }];
    }
    return [{ ...a, data: a.data.subarray(5) }];
  });
  await rdm.look();
  expect(rdm.state().devices).toMatchObject([{ model: 'Eider wash' }]);
});
