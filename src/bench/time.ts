/** Along time: sound against light over minutes, the storyboard of a long track, two recordings compared, timecode that locks. */
import { randomUUID } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { By } from 'selenium-webdriver';
import { valueId } from '../core/cues/rows.ts';
import { unpackShow, type PackedShow } from '../core/formats/pack.ts';
import { writeShowFile } from '../core/formats/write-show-file.ts';
import { changeOf } from '../core/show/fields-of.ts';
import type { MutableShow } from '../core/show/show.ts';
import { align } from '../core/sounds/align.ts';
import { monoWav, WAV_HEAD_BYTES } from '../core/sounds/wav.ts';
import { SIMULATED_OUTPUT } from '../player/sounds/messages.ts';
import { freshLtc, ltcSound, readLtc } from '../core/timecode/ltc.ts';
import { followState, freshFollowing, heardTimecode } from '../core/timecode/follow.ts';
import { freshMtc, quarterFrame, readMtc } from '../core/timecode/mtc.ts';
import { timecodeOf } from '../core/timecode/rate.ts';
import { ribbonsOf } from '../ui/book/time/ribbon.ts';
import { frames, inBrowser } from './browser.ts';
import { Visitor } from './house.ts';
import { hr, quantile, row, sleep, type Row } from './numbers.ts';
import { besideStall, watchMachine } from './witness.ts';
import { routeTo, startReceiver } from './receivers.ts';

const RATE_HZ = 8000;
/** Seconds that are played; ten minutes unless somebody is in a hurry. */
const PLAYED_S = Number(process.env.WINGMAN_BENCH_SOUND_S ?? 600);
const SETTLE_S = 3;
const CLICK = 0.3;

/** A click each second, from the first on. */
function clicks(seconds: number): Uint8Array {
  const samples = new Float32Array(Math.round((seconds + 2) * RATE_HZ));
  for (let s = 1; s <= seconds; s++)
    for (let i = 0; i < RATE_HZ / 50; i++)
      samples[s * RATE_HZ + i] = 0.9 * Math.cos(i) * Math.exp(-i / 60);
  return monoWav(samples, RATE_HZ);
}

/** When each click of what would have been heard began, by the clock of the machine. */
function heardClicks(folder: string): number[] {
  const name =
    readdirSync(folder)
      .filter((f) => f.endsWith('.wav'))
      .sort()
      .at(-1) ?? '';
  const wav = readFileSync(join(folder, name));
  const { started_ms, rate_hz } = JSON.parse(
    readFileSync(join(folder, name.replace('.wav', '.json')), 'utf8'),
  ) as { started_ms: number; rate_hz: number };
  const found: number[] = [];
  let last = -rate_hz;
  for (let i = 0; WAV_HEAD_BYTES + i * 4 + 1 < wav.length; i++) {
    if (
      Math.abs(wav.readInt16LE(WAV_HEAD_BYTES + i * 4)) < CLICK * 32_767 ||
      i - last < rate_hz / 2
    )
      continue;
    last = i;
    found.push(started_ms + (i / rate_hz) * 1000);
  }
  return found;
}

/** A change within this of a moment in which the machine served nobody says nothing. */
const NEAR_STALL_MS = 100;
const WIDEST = 4;

/** How far something that comes each second is off the seconds that most of it keeps. */
function offGrid(times: readonly number[]): (at_ms: number) => number {
  const first = times[0] ?? 0;
  const off = (t: number): number => t - first - Math.round((t - first) / 1000) * 1000;
  const usual = quantile(times.map(off), 0.5);
  return (at_ms) => off(at_ms) - usual;
}

const mean = (of: readonly number[]): number =>
  of.reduce((a, b) => a + b, 0) / Math.max(1, of.length);

/** One unit that changes with every click, at the player’s simulated output and at a screen. */
async function soundAgainstLight(url: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const { id } = await owner.ask<{ id: string }>('/api/shows', { name: 'Clicks' });
  const edit = (what: string, params: unknown) =>
    owner.ask<{ changes: { id: string }[] }>(`/api/shows/${id}/edits`, {
      edit: what,
      params,
      editId: randomUUID(),
    });
  await edit('patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 1,
    first: 1,
    universe: 1,
    address: 1,
  });
  await edit('patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '16 bit',
    quantity: 1,
    first: 2,
    universe: 1,
    address: 11,
  });
  await edit('set-route', routeTo());
  const { packed } = await owner.ask<{ packed: PackedShow }>(`/api/shows/${id}?packed=1`);
  const show = unpackShow(packed);
  const [unit, other] = [...show.fixtures.values()].toSorted((a, b) => a.number - b.number);
  const [list] = [...show.lists.values()];
  const at: Record<string, number> = {};
  for (let n = 1; n <= PLAYED_S; n++) {
    const { changes } = await edit('record-cue', {
      listId: list?.id,
      number: n * 1000,
      up_s: 0,
      down_s: 0,
      values: [{ fixtureId: unit?.id, attribute: 'Dimmer', level: n % 2 }],
    });
    at[changes[0]?.id ?? ''] = n;
  }
  await edit('place-cues', { list: list?.id, at });
  const beside = (await edit('make-list', { name: 'Beside' })).changes[0]?.id;
  await edit('record-cue', {
    listId: beside,
    number: 1000,
    up_s: PLAYED_S,
    values: [{ fixtureId: other?.id, attribute: 'Dimmer', level: 1 }],
  });
  const wav = clicks(PLAYED_S);
  const began = performance.now();
  const answer = await fetch(`${url}/api/shows/${id}/sounds?name=Clicks`, {
    method: 'POST',
    headers: { cookie: owner.cookie, 'content-type': 'application/octet-stream' },
    body: wav as Uint8Array<ArrayBuffer>,
  });
  const brought_ms = performance.now() - began;
  const { sound } = (await answer.json()) as { sound: string };
  const time = { on: true, tempo: [], marks: [], sound: { sound, at_s: 0 } };
  await edit('change-list', { id: list?.id, set: { time } });
  await edit('change-show', { set: { soundOut: { at: 'both', device: SIMULATED_OUTPUT } } });
  const receiver = await startReceiver();
  const machine = watchMachine();
  const lit: number[] = [];
  // In the second half other light moves with every frame, and what is due waits for the next one.
  const half = Math.floor(PLAYED_S / 2);
  let moving_ms = Infinity;
  const live = (command: unknown) => owner.ask(`/api/shows/${id}/live`, command);
  await live({ command: 'air', on: true });
  const shown = await inBrowser(url, `/shows/${id}/run`, async (driver) => {
    await driver.executeScript("localStorage.setItem('wingman-run-sound', 'on')");
    await driver.get(`${url}/shows/${id}/book`);
    await driver.wait(
      async () => (await driver.findElements(By.xpath('//button[.="Time"]'))).length > 0,
      20_000,
    );
    await driver.findElement(By.xpath('//button[.="Time"]')).click();
    await sleep(SETTLE_S * 1000);
    // A person has touched the page: it may sound.
    await driver.findElement(By.xpath('//button[.="All of it"]')).click();
    receiver.on('message', (m: { at?: number }) => m.at !== undefined && lit.push(m.at));
    await live({ command: 'track', do: 'play', at_s: 0, list: list?.id });
    const off: number[] = [];
    for (let s = 0; s < PLAYED_S; s++) {
      await sleep(1000);
      if (s === half) {
        moving_ms = hr();
        await live({ command: 'go', list: beside });
      }
      if (s < SETTLE_S) continue;
      const label = await driver.findElements(By.css('[data-testid=sound-off]'));
      const said = Number.parseInt((await label[0]?.getText()) ?? '', 10);
      if (Number.isFinite(said)) off.push(said);
    }
    return off;
  });
  await live({ command: 'track', do: 'pause', list: list?.id });
  await sleep(1000);
  receiver.disconnect();
  const stalls = await machine();
  const heard = heardClicks(join(process.env.WINGMAN_DATA ?? '.', 'heard'));
  const pairs = lit.flatMap((t, i) => {
    const near = heard.find((h) => Math.abs(h - t) < 300);
    return near === undefined ? [] : [{ i, near, apart: near - t, moves: t > moving_ms }];
  });
  const signed = (moves: boolean): string => {
    const of = pairs.filter((p) => p.moves === moves).map((p) => p.apart);
    return `${quantile(of, 0.01).toFixed(1)} / ${quantile(of, 0.5).toFixed(1)} / ${quantile(of, 0.99).toFixed(1)}`;
  };
  const apart = pairs.map((p) => p.apart);
  const served = pairs.filter((p) => !besideStall(lit[p.i] ?? 0, stalls, NEAR_STALL_MS));
  const [lightOff, soundOff] = [offGrid(lit), offGrid(heard)];
  const widest = pairs
    .toSorted((a, b) => Math.abs(b.apart) - Math.abs(a.apart))
    .slice(0, WIDEST)
    .map(({ apart: by, i, near }) => {
      const [light, sound] = [lightOff(lit[i] ?? 0), soundOff(near)];
      return `${by.toFixed(0)} at change ${i} (light ${light.toFixed(0)}, sound ${sound.toFixed(0)} off its own seconds)`;
    });
  const tenth = Math.ceil(apart.length / 10);
  const drift = mean(apart.slice(-tenth)) - mean(apart.slice(0, tenth));
  return [
    row(
      'a sound of the player’s machine against light',
      apart.map(Math.abs),
      'ms',
      'p99 < 20',
      `${apart.length} changes of ${lit.length} in ${PLAYED_S} s, ${heard.length} clicks heard; sound after light (1st, 50th, 99th percentile): still ${signed(false)}, beside light that moves ${signed(true)}; widest: ${widest.join(', ')}`,
    ),
    row(
      'the same, where the machine served its processes',
      served.map((p) => Math.abs(p.apart)),
      'ms',
      'p99 < 20',
      `${served.length} changes; ${stalls.length} times a thread that only wakes was woken more than 15 ms late, ${Math.round(Math.max(0, ...stalls.map((s) => s.to_ms - s.from_ms)))} ms at most`,
    ),
    row('the same: how far they have drifted at its end', [drift], 'ms', '< 20'),
    row(
      'a sound at a screen against its track',
      shown ?? [],
      'ms',
      'p99 < 20',
      `${shown?.length ?? 0} looks, as the screen says`,
    ),
    row(
      'a sound of ten minutes brought and measured',
      [brought_ms],
      'ms',
      '',
      `${(wav.length / 1e6).toFixed(1)} MB`,
    ),
  ];
}

const CUES = 500;
const TRACK_S = 7200;
const MOMENTS = 900;

/** Five hundred cues over two hours, with the values of the demo’s. */
async function longTrack(url: string): Promise<{ show: MutableShow; list: string }> {
  const owner = await Visitor.signIn(url, 'owner');
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === 'The Night Ferry')?.id ?? '';
  const { packed } = await owner.ask<{ packed: PackedShow }>(`/api/shows/${id}?packed=1`);
  const show = unpackShow(packed);
  const [main] = [...show.lists.values()];
  const list = 'long';
  if (main) show.apply([changeOf('lists', null, { ...main, id: list, number: 99, name: 'Long' })]);
  const models = show.cuesOf(main?.id ?? '');
  for (let n = 0; n < CUES; n++) {
    const model = models[n % models.length];
    if (!model) continue;
    const cue = `long-${n}`;
    const { link, ...rest } = model;
    void link;
    show.apply([
      changeOf('cues', null, {
        ...rest,
        id: cue,
        listId: list,
        number: (n + 1) * 1000,
        at_s: (n * TRACK_S) / CUES,
      }),
      ...[...show.valuesOf(model.id).values()].map((v) =>
        changeOf('values', null, {
          ...v,
          id: valueId(cue, v.fixtureId, v.attribute),
          cueId: cue,
        }),
      ),
    ]);
  }
  return { show, list };
}

const SCREEN_MS = 6000;
const TRACK_NAME = 'Two hours';

/** That track on a screen: moved along and zoomed by the wheel, every frame. */
async function trackOnScreen(url: string, show: MutableShow, list: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const first = [...show.lists.values()].sort((a, b) => a.number - b.number)[0];
  const long = show.lists.get(list);
  if (!first || !long) return [];
  // The Book opens the first of its lists.
  const settings = show.settings.get('show');
  if (settings) show.apply([changeOf('settings', settings, { ...settings, name: TRACK_NAME })]);
  show.apply([
    changeOf('lists', first, { ...first, number: 98 }),
    changeOf('lists', long, { ...long, number: 1 }),
  ]);
  const file = await writeShowFile(show, [], {
    id: randomUUID(),
    name: TRACK_NAME,
    venue: '',
    seq: 0,
    origin: null,
    by: 'bench',
    made: new Date().toISOString(),
  });
  await owner.post('/api/shows/import', file as never);
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === TRACK_NAME)?.id ?? '';
  const seen = await inBrowser(url, `/shows/${id}/book`, async (driver) => {
    const tab = By.xpath('//*[@role="radio" or @role="tab"][normalize-space(.)="Time"]');
    await driver.wait(async () => (await driver.findElements(tab)).length > 0, 30_000);
    await driver.findElement(tab).click();
    await driver.wait(
      async () => (await driver.findElements(By.css('[data-testid=track-ribbon]'))).length > 0,
      30_000,
    );
    await sleep(2000);
    const wheel = (deltaX: string, deltaY: string): string =>
      `const el = document.querySelector('[data-testid=track]');
       el.dispatchEvent(new WheelEvent('wheel', { deltaX: ${deltaX}, deltaY: ${deltaY}, clientX: 700, bubbles: true, cancelable: true }));`;
    const heap = (): Promise<number> =>
      driver.executeScript<number>('return performance.memory.usedJSHeapSize / 1e6');
    const before = await heap();
    await frames(driver, 1000, wheel('0', '-40'));
    const moved = await frames(driver, SCREEN_MS, wheel('Math.sin(n / 60) * 30', '0'));
    const zoomed = await frames(driver, SCREEN_MS, wheel('0', 'Math.sin(n / 40) * 25'));
    return { moved, zoomed, heap: [before, await heap()] };
  });
  if (!seen) return [];
  return [
    row('500 cues over two hours, moved along: time between frames', seen.moved, 'ms', '16.7'),
    row('… zoomed', seen.zoomed, 'ms', '16.7'),
    row('… memory of the page, before and after', seen.heap, 'MB', ''),
  ];
}

/** Milliseconds until a machine that begins somewhere is locked to. */
function lockTimes(): { mtc: number[]; ltc: number[] } {
  const [mtc, ltc]: [number[], number[]] = [[], []];
  for (let n = 0; n < 40; n++) {
    const first = 90_000 + n * 37;
    const [state, follow] = [freshMtc(), freshFollowing()];
    for (let q = n % 8; q < 200; q++) {
      const now = (q - (n % 8)) * 10;
      const f = first + Math.floor(q / 8) * 2;
      const heard = readMtc(state, quarterFrame(q % 8, timecodeOf(f, '25')));
      if (heard) heardTimecode(follow, heard.time, now, heard);
      if (followState(follow, now, 2) !== 'locked') continue;
      mtc.push(now);
      break;
    }
    const [reader, other] = [freshLtc(), freshFollowing()];
    const sound = ltcSound(
      Array.from({ length: 50 }, (_, i) => timecodeOf(first + i, '25')),
      48_000,
    ).subarray(n * 41);
    for (let at = 0; at < sound.length; at += 1024) {
      const now = ((at + 1024) / 48_000) * 1000;
      for (const { time, way } of readLtc(reader, sound.subarray(at, at + 1024), 48_000))
        heardTimecode(other, time, now, { way, stands: false });
      if (followState(other, now, 2) !== 'locked') continue;
      ltc.push(now);
      break;
    }
  }
  return { mtc, ltc };
}

const timed = (times: number, act: () => unknown): number[] =>
  Array.from({ length: times }, () => {
    const start = performance.now();
    act();
    return performance.now() - start;
  });

export async function measureTime(url: string): Promise<Row[]> {
  // First, while its connections are fresh: what is computed after it keeps this process for seconds.
  const heard = await soundAgainstLight(url);
  const { show, list } = await longTrack(url);
  const noise = (n: number, seed: number): Uint8Array =>
    Uint8Array.from({ length: n }, (_, i) => (i % 65 < 3 ? 200 : ((i * 7919 + seed) >>> 3) % 60));
  const ten = { loudness: noise(60_000, 1), onsets: noise(60_000, 5) };
  const slower = { loudness: noise(63_000, 1), onsets: noise(63_000, 5) };
  const { mtc, ltc } = lockTimes();
  return [
    row(
      'the storyboard of 500 cues over two hours',
      timed(5, () => ribbonsOf(show, list, MOMENTS, TRACK_S)),
      'ms',
      '< 2000',
      'in a worker',
    ),
    row(
      'two recordings of ten minutes compared',
      timed(3, () => align(ten, slower)),
      'ms',
      '',
      'in a worker',
    ),
    ...(await trackOnScreen(url, show, list)),
    row('MIDI time code until it is locked to', mtc, 'ms', '< 1000'),
    row('linear timecode until it is locked to', ltc, 'ms', '< 1000', 'in blocks of 1024 samples'),
    ...heard,
  ];
}
