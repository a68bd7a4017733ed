/** The clock by itself: everything fading on N universes, sent to a receiver on loopback. */
import { NO_PROGRAMS } from '../core/playback/programs.ts';
import { moves } from '../core/testing/columns.ts';
import { Clock } from '../player/clock-client.ts';
import type { FromClock } from '../player/clock-messages.ts';
import { makeType, mode } from '../core/rig/make-type.ts';
import { compileSlots } from '../core/playback/slots.ts';
import { MutableShow, type RowChange } from '../core/show/show.ts';
import type { FixtureRow } from '../core/fixtures/rows.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import { freeUdp } from '../player/network/udp.ts';
import { quantile, sleep, type Row } from './numbers.ts';
import { startReceiver } from './receivers.ts';

const SECONDS = 8;
const WASH = makeType({
  id: 'bench-wash',
  maker: 'Generic',
  name: 'Wash',
  shape: 'head',
  watts: 1,
  modes: [
    mode('m', [
      'Pan:16',
      'Tilt:16',
      'Dimmer:16',
      'ColorAdd_R',
      'ColorAdd_G',
      'ColorAdd_B',
      'ColorAdd_W',
      'Zoom',
      'Iris',
      'Focus1',
    ]),
  ],
});
const WIDTH = 13;

/** Universes filled with 39 heads of 13 channels each: every channel of every universe but five moves. */
function fullShow(universes: number): MutableShow {
  const show = new MutableShow();
  const rows: RowChange[] = [{ table: 'types', id: WASH.id, before: null, after: WASH }];
  for (let universe = 1, number = 1; universe <= universes; universe++) {
    for (let address = 1; address + WIDTH - 1 <= 512; address += WIDTH, number++) {
      const row: FixtureRow = {
        id: `f${number}`,
        number,
        label: 'Wash',
        typeId: WASH.id,
        mode: 'm',
        patch: [{ universe, address }],
        position: { x: 0, y: 0, z: 0 },
        rotation: 0,
        hang: '',
        noGrandMaster: false,
      };
      rows.push({ table: 'fixtures', id: row.id, before: null, after: row });
    }
  }
  show.apply(rows);
  return show;
}

/** Frame compute and lateness with everything fading, while the main thread is kept busy as sockets would keep it. */
export async function measureOutput(universes: number): Promise<Row[]> {
  const port = await freeUdp();
  const receiver = await startReceiver('127.0.0.1', port);
  const show = fullShow(universes);
  const slots = compileSlots(show);
  const routes = Array.from({ length: universes }, (_, i): RouteRow => ({
    id: `r${i}`,
    universe: i + 1,
    protocol: 'sacn',
    destination: 'node',
    wire: i + 1,
    priority: 100,
    on: true,
  }));
  let shared = (): void => undefined;
  const ready = new Promise<void>((resolve) => (shared = resolve));
  const clock = new Clock(
    new URL('./clock.mjs', import.meta.url),
    {
      cid: '00000000-0000-4000-8000-000000000000',
      sacnPort: port,
      artnetPort: port + 1,
      nodeHost: '127.0.0.1',
      nodeSacnPort: port,
      nodeArtnetPort: port + 1,
    },
    (m: FromClock) => m.is === 'shared' && shared(),
    (e) => {
      throw e;
    },
  );
  clock.tell({
    do: 'open',
    configs: [],
    showId: 's',
    slots,
    version: 1,
    saved: null,
    routes,
    priorities: new Map(),
    programs: NO_PROGRAMS,
  });
  await ready;
  clock.tell({ do: 'air', showId: 's', fade_s: 0 });
  const n = slots.keys.length;
  const all = slots.keys.map((_, i) => i);
  const go = (level: number): void =>
    clock.tell({
      do: 'move',
      showId: 's',
      listId: 'main',
      moves: moves(all, { level, up_s: SECONDS * 4 }),
      follow_s: null,
    });
  go(1);
  await sleep(600);
  const start = (await clock.stats()).frames;
  const until = performance.now() + SECONDS * 1000;
  while (performance.now() < until) {
    // A tenth of the main thread's time is spent, in pieces of two milliseconds.
    const busy = performance.now() + 2;
    while (performance.now() < busy);
    await sleep(18);
  }
  const stats = await clock.stats();
  const frames = stats.frames - start;
  const compute = stats.compute_ms.slice(-frames);
  const late = stats.late_ms.slice(-frames);
  clock.tell({
    do: 'move',
    showId: 's',
    listId: 'main',
    moves: moves([], { level: 0 }),
    follow_s: null,
  });
  const got = await new Promise<number>((resolve) => {
    receiver.on(
      'message',
      (m: { packets?: number }) => m.packets !== undefined && resolve(m.packets),
    );
    receiver.send('count');
  });
  await clock.stop();
  receiver.disconnect();
  const name = `${universes} universes, ${n.toLocaleString('en')} slots all fading`;
  return [
    {
      what: `${name}: frame`,
      median: quantile(compute, 0.5),
      p99: quantile(compute, 0.99),
      unit: 'ms',
      wanted: universes === 256 ? 'p99 <= 11' : '',
      note: `${(frames / SECONDS).toFixed(1)} frames/s, ${got} of ${stats.packets} packets received`,
    },
    {
      what: `${name}: late by`,
      median: quantile(late, 0.5),
      p99: quantile(late, 0.99),
      unit: 'ms',
      wanted: 'p99 <= 5',
    },
  ];
}
