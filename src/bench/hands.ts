/** Hands and sheets: from a finger to its first packet, a sheet of five hundred live units, memory of a screen that stays open. */
import { createSocket } from 'node:dgram';
import { randomUUID } from 'node:crypto';
import type { WebDriver } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome.js';
import { frames, inBrowser } from './browser.ts';
import { Visitor } from './house.ts';
import { quantile, type Row, sleep, row } from './numbers.ts';
import { onWire, type Edit } from './on-wire.ts';

const UNITS = 100;
const STEPS = 200;
const PATCH = { typeId: 'generic-rgbw', mode: 'RGBW', quantity: UNITS };
/** A hand that moves: not in step with the frames of the output. */
const between = (): number => 60 + Math.random() * 23;

const CONTROL = 0xb0;

/** A fader of a device at the player’s machine: the grand master, over units at full. */
async function midiToPacket(url: string): Promise<Row> {
  const owner = await Visitor.signIn(url, 'owner');
  const { midiInPort } = await owner.ask<{ midiInPort: number }>('/api/sim/node');
  const socket = createSocket('udp4');
  const { times } = await onWire(url, 'A hundred under a wing', {
    patch: PATCH,
    begin: async (send, fixtures, edit) => {
      const { changes } = await edit('set-hand', {
        set: { name: 'Wing', kind: 'midi', at: 'player', port: '', pages: [''] },
      });
      await edit('bind', {
        hand: changes[0]?.id,
        page: 1,
        control: 'cc.1.7',
        act: { do: 'master' },
      });
      send({ command: 'remotes', on: true });
      send({ command: 'select', fixtures: fixtures.map((f) => f.id) });
      send({ command: 'set', attribute: 'Dimmer', level: 1 });
    },
    step: (_, i) =>
      socket.send(Uint8Array.of(CONTROL, 7, 10 + ((i * 37) % 110)), midiInPort, '127.0.0.1'),
    steps: STEPS,
    between,
  });
  socket.close();
  return row(
    'a MIDI fader at the player to its first packet',
    times,
    'ms',
    'p99 < 35',
    `${times.length} of ${STEPS} steps; one DMX frame is 22.7 ms`,
  );
}

/** A fader on a sheet, touched on a screen. */
async function touchToPacket(url: string): Promise<Row> {
  let piece = '';
  const { times } = await onWire(url, 'A hundred under a finger', {
    patch: PATCH,
    begin: async (send, fixtures, edit) => {
      const { changes } = await edit('set-sheet', {
        set: { name: 'Faders', columns: 24, rows: 24 },
        pieces: [{ x: 0, y: 0, w: 4, h: 9, z: 1, is: { kind: 'master', as: 'upright' } }],
      });
      piece = changes[1]?.id ?? '';
      send({ command: 'select', fixtures: fixtures.map((f) => f.id) });
      send({ command: 'set', attribute: 'Dimmer', level: 1 });
    },
    step: (send, i) => send({ command: 'touch', piece, level: 0.1 + ((i * 37) % 80) / 100 }),
    steps: STEPS,
    between,
  });
  return row(
    'a fader of a sheet touched to its first packet',
    times,
    'ms',
    'p99 < 35',
    `${times.length} of ${STEPS} steps, from the socket`,
  );
}

const LIVE_UNITS = 500;
/** Seconds that the sheet stays open while its memory is watched; an hour with WINGMAN_BENCH_OPEN_S=3600. */
const OPEN_S = Number(process.env.WINGMAN_BENCH_OPEN_S ?? 180);
const FADE_S = 20;
const ACROSS = 25;

async function heapMB(driver: WebDriver): Promise<number> {
  const chromium = driver as chrome.Driver;
  await chromium.sendDevToolsCommand('HeapProfiler.collectGarbage', {});
  // Its types say text; it is what the browser answered.
  const heap: unknown = await chromium.sendAndGetDevToolsCommand('Runtime.getHeapUsage', {});
  return (heap as { usedSize: number }).usedSize / 1_048_576;
}

/** Every unit a piece of its own, while all of them fade for as long as it is looked at. */
async function liveUnits(url: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const { id } = await owner.ask<{ id: string }>('/api/shows', { name: 'Five hundred on a sheet' });
  const edit: Edit = (what, params) =>
    owner.ask(`/api/shows/${id}/edits`, { edit: what, params, editId: randomUUID() });
  await edit('patch-fixtures', {
    ...PATCH,
    quantity: LIVE_UNITS,
    first: 1,
    universe: 1,
    address: 1,
    overflow: true,
  });
  const { tables } = await owner.ask<{ tables: { fixtures: { id: string }[] } }>(
    `/api/shows/${id}`,
  );
  const { changes } = await edit('set-sheet', {
    set: { name: 'All', columns: 100, rows: 80 },
    pieces: tables.fixtures.map((f, i) => ({
      x: (i % ACROSS) * 4,
      y: Math.floor(i / ACROSS) * 4,
      w: 4,
      h: 4,
      z: i,
      is: { kind: 'unit', fixture: f.id },
    })),
  });
  const sheet = changes[0]?.id ?? '';
  const command = (c: unknown): Promise<unknown> => owner.ask(`/api/shows/${id}/live`, c);
  const fixtures = tables.fixtures.map((_, i) => i + 1);
  const fade = (level: number): Promise<unknown> =>
    command({ command: 'set', fixtures, attribute: 'Dimmer', level, fade_s: FADE_S });
  const seen = await inBrowser(url, `/shows/${id}/sheet#${sheet}`, async (driver) => {
    await driver.wait(
      async () =>
        (await driver.executeScript<number>(
          "return document.querySelectorAll('[data-kind=unit]').length",
        )) >= LIVE_UNITS,
      60_000,
    );
    await fade(1);
    await sleep(3000);
    const times = await frames(driver, 6000, '');
    const before = await heapMB(driver);
    const heaps: number[] = [];
    for (let open_s = 0; open_s < OPEN_S; open_s += FADE_S) {
      await fade((open_s / FADE_S) % 2);
      await sleep(FADE_S * 1000);
      // Twelve looks in all: a heap that is asked for collects its garbage, which nobody else does so often.
      if (Math.floor((open_s * 12) / OPEN_S) >= heaps.length) heaps.push(await heapMB(driver));
    }
    return { times, before, heaps };
  });
  if (!seen) return [];
  const { times, before, heaps } = seen;
  return [
    row(
      `a sheet of ${LIVE_UNITS} live units, all fading: time between frames`,
      times,
      'ms',
      '33 ms',
      `${Math.round(1000 / quantile(times, 0.5))} frames a second at the median, without a graphics processor`,
    ),
    row(
      `the same sheet: memory of the page while it fades for ${Math.round(OPEN_S / 60)} minutes`,
      heaps,
      'MB',
      '',
      `${before.toFixed(1)} MB at the beginning, then ${heaps.map((mb) => mb.toFixed(1)).join(', ')}`,
    ),
  ];
}

export async function measureHands(url: string): Promise<Row[]> {
  return [await midiToPacket(url), await touchToPacket(url), ...(await liveUnits(url))];
}
