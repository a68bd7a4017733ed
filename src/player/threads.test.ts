/** From the player to the wire through its two threads, as they are built: `clock.ts` keeps time, `sending/sender.ts` sends. */
import { build } from 'esbuild';
import { createSocket, type Socket } from 'node:dgram';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { readSacn, type SacnReceived } from '../core/output/sacn.ts';
import { compileEffects } from '../core/playback/programs.ts';
import { compileSlots, slotIndex } from '../core/playback/slots.ts';
import { slotKey } from '../core/cues/rows.ts';
import { exampleShow, idOf } from '../core/testing/example.ts';
import { holds } from '../core/testing/columns.ts';
import { until } from '../core/testing/until.ts';
import { Clock } from './clock-client.ts';
import type { FromClock } from './clock-messages.ts';
import { mailbox } from './sending/mailbox.ts';

const THREADS = { clock: './clock.ts', sender: './sending/sender.ts' };
let folder: string;
const file = (thread: keyof typeof THREADS): URL => pathToFileURL(join(folder, `${thread}.mjs`));

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'wingman-threads-'));
  await build({
    entryPoints: Object.entries(THREADS).map(([out, from]) => ({
      in: resolve(__dirname, from),
      out,
    })),
    outdir: folder,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
  });
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const ears: Socket[] = [];
async function ear(): Promise<{ port: number; got: Buffer[] }> {
  const socket = createSocket('udp4');
  ears.push(socket);
  const got: Buffer[] = [];
  socket.on('message', (m) => got.push(Buffer.from(m)));
  await new Promise<void>((done) => socket.bind(0, '127.0.0.1', done));
  return { port: socket.address().port, got };
}
afterEach(() => {
  for (const socket of ears.splice(0)) socket.close();
});

describe('the thread that sends', () => {
  const packet = (n: number): Uint8Array => Uint8Array.of(n >> 8, n & 255, 7);

  test('brings packets to where they go, in their order, once their frame is complete; what was put leaves before it ends', async () => {
    const [one, two] = [await ear(), await ear()];
    const post = mailbox(file('sender'), () => undefined);
    const at = [one, two].map(({ port }) => post.target({ from: null, host: '127.0.0.1', port }));
    expect(post.target({ from: null, host: '127.0.0.1', port: two.port })).toBe(at[1]);
    for (let n = 0; n < 300; n++) {
      post.put(at[n % 2] ?? -1, packet(n));
      if (n % 20 === 19) {
        post.flush();
        // What nobody has time to read is dropped by the system, which is not what is asked here.
        await until(() => one.got.length + two.got.length === n + 1);
      }
    }
    for (const [i, { got }] of [one, two].entries())
      expect(got.map((m) => (m[0] ?? 0) * 256 + (m[1] ?? 0))).toEqual(
        Array.from({ length: 150 }, (_, k) => k * 2 + i),
      );
    post.renew();
    post.put(at[0] ?? -1, packet(300));
    await post.close();
    await until(() => one.got.length === 151);
    expect([...(one.got.at(-1) ?? [])]).toEqual([1, 44, 7]);
  });

  test('what does not leave is counted, and said now and then', async () => {
    const failed: [number, string | null, number][] = [];
    const post = mailbox(file('sender'), (...it) => failed.push(it));
    // An address of no card of this machine.
    const nowhere = post.target({ from: '203.0.113.9', host: '127.0.0.1', port: 9 });
    let put = 0;
    const frame = (): void => {
      post.put(nowhere, packet(put++));
      post.flush();
    };
    await until(() => (frame(), failed.length > 0));
    const before = put;
    await until(() => (frame(), failed.length > 1));
    // One sentence for all that failed meanwhile, and none is counted twice.
    const times = failed.reduce((sum, [, , n]) => sum + n, 0);
    expect(times).toBeGreaterThan(before);
    expect(times).toBeLessThanOrEqual(put);
    expect(failed.every(([target]) => target === nowhere)).toBe(true);
    expect(failed.at(-1)?.[1]).toMatch(/EADDRNOTAVAIL/);
    await post.close();
  });

  test('a thread that does not keep up is said at once, and the frame goes on', async () => {
    const failed: [number, string | null, number][] = [];
    const post = mailbox(file('sender'), (...it) => failed.push(it));
    const at = post.target({ from: null, host: '127.0.0.1', port: (await ear()).port });
    // Nothing is taken before the frame is complete.
    for (let n = 0; n < 2050; n++) post.put(at, packet(n));
    expect(failed).toEqual([
      [at, 'This machine does not get its packets out in time.', 1],
      [at, 'This machine does not get its packets out in time.', 1],
    ]);
    await post.close();
  });
});

describe('the clock', () => {
  const show = exampleShow();
  const slots = compileSlots(show);
  const dimmer = slotIndex(slots).get(slotKey(idOf(show, 1), 'Dimmer')) ?? -1;

  async function started() {
    const lights = await ear();
    const said: FromClock[] = [];
    const died: Error[] = [];
    const clock = new Clock(
      file('clock'),
      {
        cid: '01020304-0506-4708-890a-0b0c0d0e0f10',
        sacnPort: lights.port,
        artnetPort: lights.port,
        nodeHost: '127.0.0.1',
        nodeSacnPort: lights.port,
        nodeArtnetPort: lights.port,
      },
      (message) => said.push(message),
      (error) => died.push(error),
    );
    clock.tell({
      do: 'open',
      showId: 'harbour',
      slots,
      version: 4,
      saved: null,
      routes: [...show.routes.values()],
      priorities: new Map(),
      programs: compileEffects(show, 120),
      configs: [],
    });
    await clock.frame('harbour');
    return {
      clock,
      died,
      shared: () => said.find((m) => m.is === 'shared')?.shared,
      lights,
      seen: (): SacnReceived[] =>
        lights.got.flatMap((p) => readSacn(p) ?? []).filter((p) => p.universe === 1),
    };
  }

  test('what a frame shows can be read by the player when it has said so', async () => {
    const { clock, shared } = await started();
    expect(shared()?.merged[dimmer]).toBe(0);
    clock.tell({
      do: 'hold',
      showId: 'harbour',
      userId: 'tam',
      holds: holds(dimmer, { level: 0.5 }),
    });
    await clock.frame('harbour');
    expect(shared()?.merged[dimmer]).toBeCloseTo(0.5, 5);
    const copy = await clock.copy('harbour');
    expect(copy).toMatchObject({ keys: slots.keys, master: 1, blackout: false });
    expect(await clock.copy('another')).toBeNull();
    await clock.stop();
  });

  test('the show on air reaches the wire forty-four times a second, and its seconds are kept', async () => {
    const { clock, lights, seen } = await started();
    expect(lights.got).toHaveLength(0);
    clock.tell({ do: 'air', showId: 'harbour', fade_s: 0 });
    clock.tell({
      do: 'hold',
      showId: 'harbour',
      userId: 'tam',
      holds: holds(dimmer, { level: 1 }),
    });
    await until(() => (seen().at(-1)?.slots[0] ?? 0) === 255);
    await until(async () => (await clock.seconds(-1)).length >= 2);
    const [first, second] = await clock.seconds(-1);
    expect((await clock.seconds(first?.second ?? 0))[0]).toEqual(second);
    const stats = await clock.stats();
    expect(stats.frames).toBeGreaterThan(44);
    expect(stats.lines.reduce((sum, l) => sum + l.packets, 0)).toBe(stats.packets);
    await clock.stop();
    // Its end is said on the wire, before the thread is gone (E1.31, 6.7.1).
    await until(() => seen().at(-1)?.terminated === true);
  });
});
