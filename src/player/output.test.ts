/** What leaves the house, received on loopback: keep-alive, change of what is on air, termination. */
import { holds } from '../core/testing/columns.ts';
import { createSocket, type Socket } from 'node:dgram';
import { Engine } from '../core/playback/engine.ts';
import { compileSlots, slotIndex } from '../core/playback/slots.ts';
import { readArtDmx } from '../core/output/artnet.ts';
import { readSacn, type SacnReceived } from '../core/output/sacn.ts';
import { exampleShow, idOf } from '../core/testing/example.ts';
import { slotKey } from '../core/show/rows.ts';
import { Output } from './output.ts';

const sockets: Socket[] = [];
async function listener(): Promise<{ port: number; got: Buffer[] }> {
  const socket = createSocket('udp4');
  sockets.push(socket);
  const got: Buffer[] = [];
  socket.on('message', (m) => got.push(Buffer.from(m)));
  await new Promise<void>((resolve) => socket.bind(0, '127.0.0.1', resolve));
  return { port: socket.address().port, got };
}
afterEach(() => {
  for (const socket of sockets.splice(0)) socket.close();
});
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 40));

async function house() {
  const [sacn, artnet] = [await listener(), await listener()];
  const output = new Output({ cid: '01020304-0506-4708-890a-0b0c0d0e0f10', sourceName: 'Wingman', sacnPort: sacn.port, artnetPort: artnet.port, nodeHost: '127.0.0.1' });
  await settle();
  const show = exampleShow();
  const slots = compileSlots(show);
  const engine = new Engine(slots);
  engine.tick(0);
  const slot = slotIndex(slots).get(slotKey(idOf(show, 1), 'Dimmer')) ?? -1;
  const routes = [...show.routes.values()];
  const seen = (): SacnReceived[] => sacn.got.flatMap((p) => readSacn(p) ?? []);
  return { output, engine, slot, routes, seen, sacn, artnet };
}

test('a universe is sent when it changes and about once a second when it does not', async () => {
  const { output, engine, slot, routes, seen, artnet } = await house();
  output.take(engine, routes, 0, 0);
  for (let ms = 0; ms <= 2000; ms += 22) {
    engine.tick(ms / 1000);
    output.send(ms);
  }
  await settle();
  const idle = seen().filter((p) => p.universe === 1).length;
  expect(idle).toBe(3);
  engine.hold('mara', holds(slot, { level: 1, fade_s: 1 }), 2);
  for (let ms = 2000; ms <= 3000; ms += 22) {
    engine.tick(ms / 1000);
    output.send(ms);
  }
  await settle();
  expect(seen().filter((p) => p.universe === 1).length - idle).toBeGreaterThan(40);
  expect(seen().at(-1)?.slots[0]).toBeGreaterThan(240);
  expect(seen().map((p) => p.sequence).slice(0, 4)).toEqual([1, 1, 2, 2]);
  expect(artnet.got.flatMap((p) => readArtDmx(p) ?? []).at(-1)?.slots[0]).toBe(seen().filter((p) => p.universe === 1).at(-1)?.slots[0]);
  output.close(() => undefined);
});

test('going on air fades in, going off air fades out and terminates three times', async () => {
  const { output, engine, slot, routes, seen } = await house();
  engine.hold('mara', holds(slot, { level: 1 }), 0);
  engine.tick(0);
  output.take(engine, routes, 1000, 0);
  output.send(500);
  await settle();
  expect(seen().find((p) => p.universe === 1)?.slots[0]).toBeCloseTo(127, -1);
  output.send(1100);
  await settle();
  expect(seen().filter((p) => p.universe === 1).at(-1)?.slots[0]).toBe(255);
  output.take(null, [], 1000, 2000);
  output.send(2500);
  await settle();
  expect(seen().filter((p) => p.universe === 1).at(-1)?.slots[0]).toBeCloseTo(127, -1);
  output.send(3100);
  output.send(3200);
  await settle();
  expect(seen().filter((p) => p.universe === 1 && p.terminated).length).toBe(3);
  const count = seen().length;
  output.send(9000);
  await settle();
  expect(seen().length).toBe(count);
  output.close(() => undefined);
});

test('a route that is switched off ends its stream and leaves the others alone', async () => {
  const { output, engine, routes, seen, artnet } = await house();
  output.take(engine, routes, 0, 0);
  output.send(0);
  output.setRoutes(routes.map((r) => (r.protocol === 'sacn' && r.universe === 1 ? { ...r, on: false } : r)));
  output.send(10);
  await settle();
  expect(seen().filter((p) => p.terminated).map((p) => p.universe)).toEqual([1, 1, 1]);
  expect(seen().filter((p) => p.universe === 2).every((p) => !p.terminated)).toBe(true);
  expect(artnet.got.length).toBeGreaterThanOrEqual(4);
  output.close(() => undefined);
});

test('stopping terminates what is on air', async () => {
  const { output, engine, routes, seen } = await house();
  output.take(engine, routes, 0, 0);
  output.send(0);
  await new Promise<void>((resolve) => output.close(resolve));
  await settle();
  expect(seen().filter((p) => p.terminated).length).toBe(6);
});

test('a player that takes over counts on from where the other may have been, line by line, and says where it is', async () => {
  const { output, engine, routes, seen } = await house();
  output.goOnFrom({ 'sacn/1': 254, 'sacn/2': 7 });
  output.take(engine, routes, 0, 0);
  for (let ms = 0; ms <= 1900; ms += 22) {
    engine.tick(ms / 1000);
    output.send(ms);
  }
  await settle();
  const sequences = (universe: number): number[] => seen().filter((p) => p.universe === universe).map((p) => p.sequence);
  expect([sequences(1), sequences(2)]).toEqual([[255, 0, 1], [8, 9, 10]]);
  expect(output.sequences()).toMatchObject({ 'sacn/1': 1, 'sacn/2': 10 });
  output.close(() => undefined);
});
