/** What leaves the house, received on loopback: keep-alive, change of what is on air, termination. */
import { holds } from '../../core/testing/columns.ts';
import { createSocket, type Socket } from 'node:dgram';
import { Engine } from '../../core/playback/engine.ts';
import { compileSlots, slotIndex } from '../../core/playback/slots.ts';
import { readArtDmx } from '../../core/output/artnet.ts';
import { readSacn, readSacnPriorities, type SacnReceived } from '../../core/output/sacn.ts';
import { isArtSync, readSacnSync } from '../../core/output/sync.ts';
import type { RouteRow } from '../../core/routes/rows.ts';
import type { Card } from '../../core/wires/cards.ts';
import { WIRES, type Wires } from '../../core/wires/wires.ts';
import { apply, exampleShow, idOf } from '../../core/testing/example.ts';
import { slotKey } from '../../core/cues/rows.ts';
import type { Network } from './network.ts';
import { Output } from './output.ts';
import { ringMemory, ringOn } from './ring.ts';
import { sockets as makeSockets } from './sockets.ts';

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
/** Listeners read what has come: a socket that nobody reads drops what it has no room for. */
const heard = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
const settle = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 40));

async function house() {
  const [sacn, artnet, lights] = [await listener(), await listener(), await listener()];
  const output = new Output(
    {
      cid: '01020304-0506-4708-890a-0b0c0d0e0f10',
      sacnPort: lights.port,
      artnetPort: lights.port,
      nodeHost: '127.0.0.1',
      nodeSacnPort: sacn.port,
      nodeArtnetPort: artnet.port,
    },
    makeSockets,
  );
  await settle();
  const show = exampleShow();
  const slots = compileSlots(show);
  const engine = new Engine(slots);
  engine.tick(0);
  const slot = slotIndex(slots).get(slotKey(idOf(show, 1), 'Dimmer')) ?? -1;
  const routes = [...show.routes.values()];
  const seen = (): SacnReceived[] => sacn.got.flatMap((p) => readSacn(p) ?? []);
  return { output, engine, slot, routes, seen, sacn, artnet, lights };
}

test('a universe is sent when it changes and about once a second when it does not', async () => {
  const { output, engine, slot, routes, seen, artnet } = await house();
  output.take(engine, routes, 0, 0);
  for (let ms = 0; ms <= 2000; ms += 22) {
    engine.tick(ms / 1000);
    output.send(ms);
    await heard();
  }
  await settle();
  const idle = seen().filter((p) => p.universe === 1).length;
  expect(idle).toBe(3);
  engine.hold('mara', holds(slot, { level: 1, fade_s: 1 }), 2);
  for (let ms = 2000; ms <= 3000; ms += 22) {
    engine.tick(ms / 1000);
    output.send(ms);
    await heard();
  }
  await settle();
  expect(seen().filter((p) => p.universe === 1).length - idle).toBeGreaterThan(40);
  expect(seen().at(-1)?.slots[0]).toBeGreaterThan(240);
  expect(
    seen()
      .map((p) => p.sequence)
      .slice(0, 4),
  ).toEqual([1, 1, 2, 2]);
  expect(artnet.got.flatMap((p) => readArtDmx(p) ?? []).at(-1)?.slots[0]).toBe(
    seen()
      .filter((p) => p.universe === 1)
      .at(-1)?.slots[0],
  );
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
  expect(
    seen()
      .filter((p) => p.universe === 1)
      .at(-1)?.slots[0],
  ).toBe(255);
  output.take(null, [], 1000, 2000);
  output.send(2500);
  await settle();
  expect(
    seen()
      .filter((p) => p.universe === 1)
      .at(-1)?.slots[0],
  ).toBeCloseTo(127, -1);
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

test('a stream that is on its way out and is wanted again in the middle of that goes on and does not end', async () => {
  const { output, engine, routes, seen } = await house();
  const sacn = routes.filter((r) => r.protocol === 'sacn' && r.on);
  const [first, second] = [...new Set(sacn.map((r) => r.universe))];
  expect(second).toBeDefined();
  const only = (...universes: (number | undefined)[]) =>
    sacn.filter((r) => universes.includes(r.universe));
  output.take(engine, only(first, second), 0, 0);
  output.send(0);
  // Another show, without one of them.
  output.take(engine, only(first), 1000, 1000);
  output.send(1300);
  output.setRoutes(only(first, second));
  for (const ms of [1400, 2100, 2200, 3300]) output.send(ms);
  await settle();
  const ended = (universe: number | undefined): number =>
    seen().filter((p) => p.universe === universe && p.terminated).length;
  expect([ended(first), ended(second)]).toEqual([0, 0]);
  const numbers = seen()
    .filter((p) => p.universe === second)
    .map((p) => p.sequence);
  expect(numbers).toEqual(numbers.map((_, i) => (numbers[0] ?? 0) + i));
  output.close(() => undefined);
});

test('a route that is switched off ends its stream and leaves the others alone', async () => {
  const { output, engine, routes, seen, artnet } = await house();
  output.take(engine, routes, 0, 0);
  output.send(0);
  output.setRoutes(
    routes.map((r) => (r.protocol === 'sacn' && r.universe === 1 ? { ...r, on: false } : r)),
  );
  output.send(10);
  await settle();
  expect(
    seen()
      .filter((p) => p.terminated)
      .map((p) => p.universe),
  ).toEqual([1, 1, 1]);
  expect(
    seen()
      .filter((p) => p.universe === 2)
      .every((p) => !p.terminated),
  ).toBe(true);
  expect(artnet.got.length).toBeGreaterThanOrEqual(4);
  output.close(() => undefined);
});

test('stopping terminates what is on air, with the last look in every packet', async () => {
  const { output, engine, slot, routes, seen } = await house();
  engine.hold('mara', holds(slot, { level: 0.8 }), 0);
  engine.tick(0);
  output.take(engine, routes, 0, 0);
  output.send(0);
  await new Promise<void>((resolve) => output.close(resolve));
  await settle();
  const ended = seen().filter((p) => p.terminated);
  expect(ended.length).toBe(6);
  expect(ended.filter((p) => p.universe === 1).map((p) => p.slots[0])).toEqual([204, 204, 204]);
});

test('a route that is switched off ends with the last look too', async () => {
  const { output, engine, slot, routes, seen } = await house();
  engine.hold('mara', holds(slot, { level: 0.8 }), 0);
  engine.tick(0);
  output.take(engine, routes, 0, 0);
  output.send(0);
  output.setRoutes([]);
  await settle();
  expect(
    seen()
      .filter((p) => p.terminated && p.universe === 1)
      .map((p) => p.slots[0]),
  ).toEqual([204, 204, 204]);
  output.close(() => undefined);
});

test('lights are on the protocols’ own ports wherever the simulated node is; one stream is sent once', async () => {
  const { output, engine, routes, sacn, artnet, lights } = await house();
  const first = routes.filter((r) => r.universe === 1);
  const unicast = first.map((r) => ({ ...r, id: `u-${r.id}`, destination: '127.0.0.1' as const }));
  output.take(
    engine,
    [...first, ...unicast, ...unicast.map((r) => ({ ...r, id: `again-${r.id}` }))],
    0,
    0,
  );
  output.send(0);
  await settle();
  expect([sacn.got.length, artnet.got.length, lights.got.length]).toEqual([1, 1, 2]);
  expect(
    lights.got
      .flatMap((p) => [readSacn(p)?.universe, readArtDmx(p)?.portAddress])
      .filter((v) => v !== undefined)
      .sort(),
  ).toEqual([0, 1]);
  output.close(() => undefined);
});

describe('another show goes on air', () => {
  /** Two shows on one wire: a 16-bit head and a wheel in universe 1, and a universe that only the first has. */
  async function two() {
    const made = (pan: number, gobo: number, dimmer: number, universes: readonly number[]) => {
      const show = exampleShow();
      apply(show, 'change-fixtures', {
        fixtures: [...show.fixtures.values()].map((f) => ({ id: f.id, set: { patch: [] } })),
      });
      apply(show, 'patch-fixtures', {
        typeId: 'generic-spot-cmy',
        mode: 'Basic',
        quantity: 1,
        first: 301,
        universe: 1,
        address: 1,
      });
      if (universes.includes(2))
        apply(show, 'patch-fixtures', {
          typeId: 'generic-dimmer',
          mode: '8 bit',
          quantity: 1,
          first: 401,
          universe: 2,
          address: 9,
        });
      const slots = compileSlots(show);
      const index = slotIndex(slots);
      const engine = new Engine(slots);
      for (const [number, attribute, level] of [
        [301, 'Pan', pan],
        [301, 'Gobo1', gobo],
        [301, 'Dimmer', dimmer],
        [401, 'Dimmer', dimmer],
      ] as const) {
        const slot = index.get(slotKey(idOf(show, number), attribute));
        if (slot !== undefined) engine.hold('mara', holds([slot], { level }), 0);
      }
      engine.tick(0);
      const type = show.types.get('generic-spot-cmy');
      const at = (attribute: string): number =>
        (type?.modes
          .find((m) => m.name === 'Basic')
          ?.channels.find((c) => c.attribute === attribute)?.offset[0] ?? 0) - 1;
      return {
        engine,
        routes: universes.map((u) => ({
          id: `r${u}`,
          universe: u,
          protocol: 'sacn' as const,
          destination: 'node' as const,
          wire: u,
          priority: 100,
          on: true,
        })),
        at,
      };
    };
    const { output, seen } = await house();
    return { output, seen, one: made(0.248, 0.1, 1, [1, 2]), other: made(0.252, 0.9, 0.5, [1]) };
  }

  test('16-bit pairs change as values, wheels go at once, and what only the first had goes to nothing before it ends', async () => {
    const { output, seen, one, other } = await two();
    output.take(one.engine, one.routes, 0, 0);
    output.send(0);
    output.take(other.engine, other.routes, 1000, 100);
    for (let ms = 100; ms <= 1200; ms += 50) {
      output.send(ms);
      await heard();
    }
    await settle();
    const first = seen().filter((p) => p.universe === 1);
    const [pan, gobo] = [one.at('Pan'), one.at('Gobo1')];
    const word = (slots: Uint8Array): number => (slots[pan] ?? 0) * 256 + (slots[pan + 1] ?? 0);
    const words = first.map((p) => word(p.slots));
    expect([words[0], words.at(-1)]).toEqual([
      Math.round(0.248 * 65535),
      Math.round(0.252 * 65535),
    ]);
    // From one coarse step to the next and never back: bytes by themselves would swing by 256.
    words.slice(1).forEach((w, i) => expect(w - (words[i] ?? 0)).toBeGreaterThanOrEqual(0));
    words.slice(1).forEach((w, i) => expect(w - (words[i] ?? 0)).toBeLessThan(60));
    const wheel = first.map((p) => p.slots[gobo] ?? 0);
    expect(new Set(wheel)).toEqual(new Set([wheel[0], wheel.at(-1)]));
    expect(wheel[1]).toBe(wheel.at(-1));
    const second = seen().filter((p) => p.universe === 2);
    const light = second.map((p) => p.slots[8] ?? -1);
    expect(light[0]).toBe(255);
    light.slice(1).forEach((v, i) => expect(v).toBeLessThanOrEqual(light[i] ?? 0));
    expect(light.some((v) => v > 100 && v < 160)).toBe(true);
    expect(second.filter((p) => p.terminated).map((p) => p.slots[8])).toEqual([0, 0, 0]);
    expect(second.findIndex((p) => p.terminated)).toBe(second.length - 3);
    output.close(() => undefined);
  });

  test('and back in the middle of it, each stream goes on from what is on the wire', async () => {
    const { output, seen, one, other } = await two();
    output.take(one.engine, one.routes, 0, 0);
    output.send(0);
    output.take(other.engine, other.routes, 1000, 0);
    for (let ms = 50; ms <= 500; ms += 50) {
      output.send(ms);
      await heard();
    }
    output.take(one.engine, one.routes, 1000, 500);
    for (let ms = 500; ms <= 1600; ms += 50) {
      output.send(ms);
      await heard();
    }
    await settle();
    const light = seen()
      .filter((p) => p.universe === 2 && !p.terminated)
      .map((p) => p.slots[8] ?? -1);
    light.slice(1).forEach((v, i) => expect(Math.abs(v - (light[i] ?? 0))).toBeLessThan(20));
    expect([Math.min(...light) < 140, light.at(-1)]).toEqual([true, 255]);
    expect(seen().some((p) => p.terminated)).toBe(false);
    output.close(() => undefined);
  });

  test('off air, a head keeps looking where it looks while its light goes, and ends at nothing', async () => {
    const { output, seen, one } = await two();
    output.take(one.engine, one.routes, 0, 0);
    output.send(0);
    output.take(null, [], 1000, 0);
    for (let ms = 50; ms <= 1100; ms += 50) {
      output.send(ms);
      await heard();
    }
    await settle();
    const live = seen().filter((p) => p.universe === 1 && !p.terminated);
    const pan = one.at('Pan');
    expect(new Set(live.slice(0, -1).map((p) => p.slots[pan])).size).toBe(1);
    expect(live.at(-1)?.slots.every((b) => b === 0)).toBe(true);
    output.close(() => undefined);
  });
});

test('a player that takes over counts on from where the other may have been, line by line, and says where it is', async () => {
  const { output, engine, routes, seen } = await house();
  output.goOnFrom({ 'sacn/1': 254, 'sacn/2': 7 });
  output.take(engine, routes, 0, 0);
  for (let ms = 0; ms <= 1900; ms += 22) {
    engine.tick(ms / 1000);
    output.send(ms);
    await heard();
  }
  await settle();
  const sequences = (universe: number): number[] =>
    seen()
      .filter((p) => p.universe === universe)
      .map((p) => p.sequence);
  expect([sequences(1), sequences(2)]).toEqual([
    [255, 0, 1],
    [8, 9, 10],
  ]);
  expect(output.sequences()).toMatchObject({ 'sacn/1': 1, 'sacn/2': 10 });
  output.close(() => undefined);
});

test('Art-Net counts every packet in its own place, from one after another', async () => {
  const { output, engine, routes, artnet, slot } = await house();
  const [route] = routes;
  if (!route) throw new Error('no route');
  output.take(engine, [{ ...route, protocol: 'artnet', destination: 'node' }], 0, 0);
  for (let i = 1; i <= 3; i++) {
    engine.hold('mara', holds(slot, { level: i / 10, fade_s: 0 }), i * 0.025);
    engine.tick(i * 0.025);
    output.send(i * 25);
    await heard();
  }
  await settle();
  const counted = artnet.got.flatMap((p) => readArtDmx(p) ?? []).map((p) => p.sequence);
  expect(counted).toEqual([1, 2, 3]);
  expect(output.sequences()).toEqual({ 'artnet/1': 3 });
  output.close(() => undefined);
});

describe('what the house says of its network', () => {
  const LIGHTS: Card = {
    name: 'lights',
    addresses: [{ address: '127.0.0.1', netmask: '255.255.255.255' }],
    link: 'up',
    isOwn: false,
  };
  const network = (
    more: Partial<Wires> = {},
    asked: [number, string[]][] = [],
    cards: Card[] = [],
  ): Network => ({ cards, wires: { ...WIRES, ...more }, asked: new Map(asked) });
  const to = (
    routes: readonly RouteRow[],
    protocol: RouteRow['protocol'],
    destination: RouteRow['destination'],
  ): RouteRow[] =>
    routes.filter((r) => r.protocol === protocol).map((r) => ({ ...r, destination }));

  test('is on every packet at once, and the stream stays the same one', async () => {
    const { output, engine, routes, seen } = await house();
    output.take(engine, routes, 0, 0);
    output.send(0);
    output.setNetwork(network({ sourceName: 'Tidewater, stage left' }));
    output.send(30);
    await settle();
    const first = seen().filter((p) => p.universe === 1);
    expect(first.map((p) => [p.name, p.sequence, p.terminated])).toEqual([
      ['Wingman', 1, false],
      ['Tidewater, stage left', 2, false],
    ]);
    output.close(() => undefined);
  });

  test('sACN waits for a synchronisation that follows all data of a frame, and counts by itself', async () => {
    const { output, engine, slot, routes, sacn } = await house();
    output.setNetwork(network({ sync: 7962 }));
    output.take(engine, to(routes, 'sacn', 'node'), 0, 0);
    output.send(0);
    engine.hold('mara', holds(slot, { level: 1 }), 0.03);
    engine.tick(0.03);
    output.send(30);
    // Nothing is sent, so nothing is synchronised.
    output.send(60);
    await settle();
    const said = sacn.got.map((p) => {
      const sync = readSacnSync(p);
      const data = readSacn(p);
      return sync ? `sync ${sync.universe} ${sync.sequence}` : `${data?.universe} of ${data?.sync}`;
    });
    expect(said).toEqual(['1 of 7962', '2 of 7962', 'sync 7962 1', '1 of 7962', 'sync 7962 2']);
    output.close(() => undefined);
  });

  test('synchronised by another universe, also by one 256 or 257 further on, it is that one that waits', async () => {
    const { output, engine, slot, routes, sacn } = await house();
    output.take(engine, to(routes, 'sacn', 'node'), 0, 0);
    let at_ms = 0;
    for (const sync of [7962, 7962 + 256, 7962 + 257, 7962]) {
      output.setNetwork(network({ sync }));
      at_ms += 30;
      engine.hold('mara', holds(slot, { level: at_ms / 200 }), at_ms / 1000);
      engine.tick(at_ms / 1000);
      output.send(at_ms);
    }
    await settle();
    expect(sacn.got.flatMap((p) => readSacnSync(p)?.universe ?? [])).toEqual([
      7962, 8218, 8219, 7962,
    ]);
    output.close(() => undefined);
  });

  test('an ArtSync follows several Art-Net universes and never a single one; none waits for it alone', async () => {
    const { output, engine, slot, routes, artnet } = await house();
    output.setNetwork(network({ artSync: true }));
    output.take(engine, to(routes, 'artnet', 'node'), 0, 0);
    output.send(0);
    engine.hold('mara', holds(slot, { level: 1 }), 0.03);
    engine.tick(0.03);
    output.send(30);
    output.send(60);
    await settle();
    const said = (): string[] =>
      artnet.got.map((p) => (isArtSync(p) ? 'sync' : String(readArtDmx(p)?.portAddress)));
    expect(said()).toEqual(['0', '1', 'sync', '0', '1', 'sync']);
    // What goes beside it is its own universe as it stands, not another's.
    const bytes = (of: number): number[] => [
      ...(readArtDmx(artnet.got[of] ?? Buffer.of())?.slots ?? []),
    ];
    expect(bytes(1).some((b) => b !== 0)).toBe(true);
    expect(bytes(4)).toEqual(bytes(1));
    // A show with one universe has nothing to synchronise.
    output.take(engine, to(routes, 'artnet', 'node').slice(0, 1), 0, 100);
    output.send(100);
    await settle();
    expect(said().slice(6)).toEqual(['0']);
    output.close(() => undefined);
  });

  test('what addresses are worth goes before the first data, with each keep-alive, and in one count with it', async () => {
    const { output, engine, routes, sacn } = await house();
    const worth = new Uint8Array(512).fill(255).fill(0, 0, 3);
    output.setPriorities(new Map([[1, worth]]));
    output.take(engine, to(routes, 'sacn', 'node'), 0, 0);
    for (let ms = 0; ms <= 1000; ms += 20) {
      output.send(ms);
      await heard();
    }
    await settle();
    const first = sacn.got.flatMap((p) => {
      const each = readSacnPriorities(p);
      const read = each ?? readSacn(p);
      return read?.universe === 1 ? [{ kind: each ? 'each' : 'data', ...read }] : [];
    });
    expect(first.map((p) => `${p.kind} ${p.sequence}`)).toEqual([
      'each 1',
      'data 2',
      'each 3',
      'data 4',
    ]);
    expect([...(first[0]?.slots.subarray(0, 5) ?? [])]).toEqual([0, 0, 0, 100, 100]);
    output.close(() => undefined);
  });

  test('the same priorities again send nothing again', async () => {
    const { output, engine, routes, sacn } = await house();
    output.setPriorities(new Map([[1, new Uint8Array(512).fill(7)]]));
    output.take(engine, to(routes, 'sacn', 'node'), 0, 0);
    output.send(0);
    await settle();
    const before = sacn.got.length;
    output.setPriorities(new Map([[1, new Uint8Array(512).fill(7)]]));
    output.send(30);
    await settle();
    expect(sacn.got.length).toBe(before);
    output.setPriorities(new Map());
    output.send(60);
    await settle();
    expect(sacn.got.length).toBeGreaterThan(before);
    output.close(() => undefined);
  });

  test('Art-Net goes to the nodes that asked for its port address, and to nobody where none did', async () => {
    const { output, engine, routes, artnet, lights } = await house();
    const nodes = to(routes, 'artnet', 'nodes');
    output.take(engine, nodes, 0, 0);
    output.send(0);
    await settle();
    expect(artnet.got.length + lights.got.length).toBe(0);
    expect(output.counts().map((c) => c.problem)).toEqual([
      expect.stringContaining('No Art-Net node'),
      expect.stringContaining('No Art-Net node'),
    ]);
    output.setNetwork(network({}, [[0, ['127.0.0.1', '127.0.0.2']]]));
    output.send(30);
    await settle();
    // The simulated node is where it found room; others are on the protocol's own port.
    expect(artnet.got.flatMap((p) => readArtDmx(p)?.portAddress ?? [])).toEqual([0]);
    expect(output.counts().map((c) => [c.packets, c.problem === null])).toEqual([
      [2, true],
      [0, false],
    ]);
    output.close(() => undefined);
  });

  test('a card that was chosen is the one, also when it is not there; what goes to this machine needs none', async () => {
    const { output, engine, routes, sacn, lights } = await house();
    output.setNetwork(network({ card: 'lights' }, [], []));
    const alone = to(routes, 'sacn', '127.0.0.1').map((r) => ({ ...r, id: `u-${r.id}` as const }));
    output.take(engine, [...alone, ...to(routes, 'sacn', 'node')], 0, 0);
    output.send(0);
    await settle();
    expect([sacn.got.length, lights.got.length]).toEqual([2, 0]);
    expect(output.counts()[0]?.problem).toBe(
      'The card “lights” is not in this machine: nothing leaves.',
    );
    // What goes to the simulated node too is meant for lights all the same.
    expect(output.nowhere).toEqual({
      universes: [1, 2],
      of: 2,
      why: 'The card “lights” is not in this machine: nothing leaves.',
    });
    // It comes back, and is taken up again as the same stream.
    output.setNetwork(network({ card: 'lights' }, [], [LIGHTS]));
    output.send(30);
    await settle();
    expect(lights.got.flatMap((p) => readSacn(p)?.universe ?? [])).toEqual([1, 2]);
    expect(output.counts()[0]?.problem).toBeNull();
    expect(output.nowhere).toBeNull();
    output.setNetwork(network({ card: 'lights' }, [], [{ ...LIGHTS, link: 'down' }]));
    output.send(60);
    await settle();
    expect(lights.got.length).toBe(2);
    expect(output.counts()[0]?.problem).toBe('No cable in the card “lights”: nothing leaves.');
    output.close(() => undefined);
  });
});

test('a universe that is something else from now on goes over from what is on the wire, and the others do not', async () => {
  const { output, engine, routes, seen } = await house();
  output.take(engine, routes, 0, 0);
  output.send(0);
  engine.input(1, 'main', new Uint8Array(512).fill(200), true);
  engine.tick(0.01);
  output.fadeOver(1, 1000, 0);
  for (const ms of [10, 500, 1000, 1010]) {
    output.send(ms);
    await heard();
  }
  await settle();
  const first = seen().filter((p) => p.universe === 1);
  const levels = first.map((p) => p.slots[0] ?? -1);
  expect([levels[0], levels.at(-1)]).toEqual([0, 200]);
  expect(levels.some((l) => l > 80 && l < 120)).toBe(true);
  const second = seen().filter((p) => p.universe === 2);
  expect(new Set(second.map((p) => p.slots.join())).size).toBe(1);
  output.close(() => undefined);
});

test('through a thread of its own the same packets leave, in their order, and what fails is told', () => {
  const memory = ringMemory();
  const [writes, reads] = [ringOn(memory), ringOn(memory)];
  const packet = (n: number): Uint8Array => new Uint8Array(638).fill(n & 255);
  let read = 0;
  // Round it several times, in frames of several sizes.
  for (let n = 0, frame = 0; n < 10_000; frame++) {
    for (let i = 0; i < (frame * 37) % 400; i++)
      expect(writes.write(n & 31, packet(n++))).toBe(true);
    reads.readTo(writes.written(), (target, bytes) => {
      expect([target, bytes.length, bytes[0], bytes[637]]).toEqual([
        read & 31,
        638,
        read & 255,
        read & 255,
      ]);
      read++;
    });
  }
  expect(read).toBeGreaterThanOrEqual(10_000);
  // A reader that stands still loses nothing of what was there: what comes then is refused.
  let room = 0;
  while (writes.write(1, packet(room))) room++;
  let first: number | undefined;
  reads.readTo(writes.written(), (_, bytes) => (first ??= bytes[0]));
  expect([room > 1000, first]).toEqual([true, 0]);
});
