/** Making pictures at size: a colour dragged over 1,000 units, a palette that 500 cues follow, the stage in space. */
import { randomUUID } from 'node:crypto';
import { By } from 'selenium-webdriver';
import { hueSaturation } from '../core/color/mix.ts';
import { newShowRows } from '../core/rig/defaults.ts';
import { EFFECT_LIBRARY } from '../core/effects/library.ts';
import { planEdit } from '../core/edits/plan-edit.ts';
import { Engine } from '../core/playback/engine.ts';
import { columns } from '../core/playback/moves.ts';
import { compileEffects, waveFinder } from '../core/playback/programs.ts';
import { compileSlots, slotIndex } from '../core/playback/slots.ts';
import { MutableShow } from '../core/show/show.ts';
import { libraryType } from '../core/rig/library/index.ts';
import { isRefusal } from '../core/refusal.ts';
import { slotKey, valueId, type CueRow } from '../core/cues/rows.ts';
import type { PaletteRow } from '../core/palettes/rows.ts';
import type { RowChange } from '../core/show/show.ts';
import type { Database } from '../store/database.ts';
import { createShow } from '../store/shows.ts';
import { frames, inBrowser } from './browser.ts';
import { Visitor } from './house.ts';
import { onWire } from './on-wire.ts';
import { hr, quantile, type Row, sleep, row } from './numbers.ts';

const UNITS = 1000;
const STEPS = 150;
const CUES = 500;
const FOLLOWING = 20;
const UPDATES = 25;

/** Steps of a colour, one a frame of a screen. */
async function colourOnWire(url: string): Promise<{ rows: Row[]; showId: string }> {
  const { times, showId } = await onWire(url, 'A thousand pars', {
    patch: { typeId: 'generic-rgbw', mode: 'RGBW', quantity: UNITS },
    begin: (send, fixtures) => {
      send({ command: 'select', fixtures: fixtures.map((f) => f.id) });
      send({ command: 'set', attribute: 'Dimmer', level: 1 });
      send({ command: 'colour', ...hueSaturation(215, 0.8) });
    },
    // From a red to a blue and back, a little different each time: the first unit's red changes with every step.
    step: (send, i) =>
      send({
        command: 'colour',
        ...hueSaturation((i % 2 === 0 ? 8 : 215) + ((i * 7) % 12), 0.8),
      }),
    steps: STEPS,
    between: () => 16 + Math.random() * 6,
  });
  return {
    showId,
    rows: [
      row(
        `a colour over ${UNITS} units: a step to its first packet`,
        times,
        'ms',
        '<= 47.7',
        `${times.length} of ${STEPS} steps, each on the wire; one DMX frame is 22.7 ms`,
      ),
    ],
  };
}

/** The same by hand: the colour field dragged every frame with all of them selected. */
async function colourOnScreen(url: string, showId: string): Promise<Row[]> {
  const times = await inBrowser(url, `/shows/${showId}/stage`, async (driver) => {
    await driver.wait(
      async () => (await driver.findElements(By.css('[data-testid=plan]'))).length > 0,
      30_000,
    );
    await sleep(1500);
    const line = await driver.findElement(By.css('#command'));
    await line.sendKeys('all at full\n');
    await driver.wait(
      async () =>
        (await driver.findElements(By.css('[aria-label="Hue and saturation"]'))).length > 0,
      20_000,
    );
    await sleep(2000);
    return frames(
      driver,
      4000,
      "const pad = document.querySelector('[aria-label=\"Hue and saturation\"]'); const r = pad.getBoundingClientRect(); const at = { clientX: r.left + 10 + (n * 5) % (r.width - 20), clientY: r.top + 20 + (n * 2) % (r.height - 40), buttons: 1, pointerId: 1, bubbles: true }; pad.dispatchEvent(new PointerEvent('pointermove', at));",
    );
  });
  return times
    ? [
        row(
          `a colour dragged over ${UNITS} selected units: time between frames`,
          times,
          'ms',
          '16.7 ms',
          `${Math.round(1000 / quantile(times, 0.5))} frames a second at the median`,
        ),
      ]
    : [];
}

/** One edit of a palette that 500 cues follow, asked by one to the change on another's socket. */
async function paletteUpdate(url: string, db: Database): Promise<Row[]> {
  const user = await db
    .selectFrom('user')
    .select('id')
    .where('email', '=', 'owner@tidewater.example')
    .executeTakeFirstOrThrow();
  const type = libraryType('generic-rgbw');
  if (!type) throw new Error('no type');
  const palette: PaletteRow = {
    id: 'p1',
    number: 1,
    family: 'colour',
    name: 'Followed',
    fixtures: {},
    types: {},
    any: { colour: hueSaturation(200, 0.5) },
  };
  const rows: RowChange[] = [
    ...newShowRows('Five hundred cues'),
    { table: 'types', id: type.id, before: null, after: type },
    { table: 'palettes', id: 'p1', before: null, after: palette },
  ];
  for (let i = 0; i < 100; i++)
    rows.push({
      table: 'fixtures',
      id: `f${i}`,
      before: null,
      after: {
        id: `f${i}`,
        number: i + 1,
        label: `Par ${i + 1}`,
        typeId: type.id,
        mode: 'RGBW',
        patch: [{ universe: 1, address: 1 + i * 4 }],
        position: { x: 0, y: 0, z: 6 },
        rotation: 0,
        hang: '',
        noGrandMaster: false,
      },
    });
  for (let c = 0; c < CUES; c++) {
    const cue: CueRow = {
      id: `c${c}`,
      listId: 'main',
      number: (c + 1) * 1000,
      name: `Cue ${c + 1}`,
      up_s: 3,
      down_s: 3,
      delay_s: 0,
      family_s: {},
      note: '',
      call: '',
      follow_s: null,
    };
    rows.push({ table: 'cues', id: cue.id, before: null, after: cue });
    for (let v = 0; v < FOLLOWING; v++) {
      for (const attribute of ['ColorAdd_R', 'ColorAdd_G', 'ColorAdd_B', 'ColorAdd_W']) {
        const fixtureId = `f${(c * 3 + v) % 100}`;
        rows.push({
          table: 'values',
          id: valueId(cue.id, fixtureId, attribute),
          before: null,
          after: {
            id: valueId(cue.id, fixtureId, attribute),
            cueId: cue.id,
            fixtureId,
            attribute,
            level: 0.5,
            palette: 'p1',
          },
        });
      }
    }
  }
  const made = await createShow(db, user.id, 'Five hundred cues', '', rows);
  if (isRefusal(made)) throw new Error(made.message);
  const owner = await Visitor.signIn(url, 'owner');
  let arrived: (() => void) | null = null;
  const socket = await owner.socket(made.id, (m) => {
    if (m.type === 'change') arrived?.();
  });
  socket.send(
    JSON.stringify({ type: 'command', id: 1, command: { command: 'goto', cue: '250', time: 0 } }),
  );
  await sleep(500);
  const times: number[] = [];
  for (let i = 0; i < UPDATES; i++) {
    const there = new Promise<void>((resolve) => (arrived = resolve));
    const start = hr();
    await owner.ask(`/api/shows/${made.id}/edits`, {
      edit: 'record-palette',
      params: { id: 'p1', family: 'colour', any: { colour: hueSaturation((i * 13) % 360, 0.6) } },
      editId: randomUUID(),
    });
    await there;
    times.push(hr() - start);
  }
  socket.close();
  // The first one reads the show into the web process.
  return [
    row(
      `a palette that ${CUES} cues follow: asked to the other screen`,
      times.slice(1),
      'ms',
      '< 100',
      `${CUES * FOLLOWING * 4} values follow it; the first took ${(times[0] ?? NaN).toFixed(0)} ms`,
    ),
  ];
}

/** The demo's 72 fixtures in space while a long fade runs. */
async function inSpace(url: string): Promise<Row[]> {
  const owner = await Visitor.signIn(url, 'owner');
  const { shows } = await owner.ask<{ shows: { id: string; name: string }[] }>('/api/shows');
  const id = shows.find((s) => s.name === 'The Night Ferry')?.id ?? '';
  await owner.ask(`/api/shows/${id}/live`, { command: 'goto', cue: '20', time: 0 });
  const seen = await inBrowser(url, `/shows/${id}/stage`, async (driver) => {
    const space = By.xpath("//button[normalize-space()='Space']");
    await driver.wait(async () => (await driver.findElements(space)).length > 0, 30_000);
    await driver.findElement(space).click();
    await driver.wait(
      async () =>
        ((await driver.executeScript<number>('return window.wingmanSpace?.frames ?? 0')) ?? 0) > 0,
      30_000,
    );
    await sleep(3000);
    await owner.ask(`/api/shows/${id}/live`, { command: 'goto', cue: '8', time: 15 });
    // While it begins, it finds how many pixels it keeps up with.
    await sleep(5000);
    return driver.executeAsyncScript<{ frames: number; ms: number[]; ratio: number }>(
      'const done = arguments[0]; const s = window.wingmanSpace; s.ms.length = 0; const before = s.frames; setTimeout(() => done({ frames: s.frames - before, ms: s.ms.slice(), ratio: s.ratio }), 5000);',
    );
  });
  return seen
    ? [
        row(
          'the stage in space, 72 units fading: a frame',
          seen.ms,
          'ms',
          '33 ms',
          `${(seen.frames / 5).toFixed(0)} frames a second, at ${seen.ratio} of the screen’s pixels each way, without a graphics processor`,
        ),
      ]
    : [];
}

const TRIED_UNITS = 100;
const TRIED_STEPS = 80;
/** Longer than a change takes to arrive, so that each packet is of its own step. */
const TRIED_MS = 260;

/** An effect's step dragged while it is tried: two steps at one level, so that nothing but the drag moves. */
async function stepOnWire(url: string): Promise<Row[]> {
  const tried = (level: number): object => ({
    id: 'try-measured',
    number: 900,
    name: 'Measured',
    tracks: [
      {
        attribute: 'Dimmer',
        wave: 'steps',
        mode: 'absolute',
        size: 1,
        base: 0,
        width: 1,
        offset: 0,
        steps: [0.4, 0.6].map((takes) => ({ level, share: 1, takes })),
      },
    ],
    speed: { round_s: 3 },
    direction: 'forward',
    spread: { turns: 1, groups: 0, blocks: 1, wings: 1 },
  });
  const { times } = await onWire(url, 'A hundred in an effect', {
    patch: { typeId: 'generic-rgbw', mode: 'RGBW', quantity: TRIED_UNITS },
    begin: (send, fixtures) => {
      send({ command: 'select', fixtures: fixtures.map((f) => f.id) });
      send({ command: 'colour', ...hueSaturation(20, 0.5) });
      send({ command: 'try-effect', effect: tried(0.5) });
    },
    step: (send, i) => send({ command: 'try-effect', effect: tried(i % 2 === 0 ? 0.8 : 0.3) }),
    steps: TRIED_STEPS,
    between: () => TRIED_MS + Math.random() * 23,
  });
  return [
    row(
      `an effect over ${TRIED_UNITS} units: a step dragged to its first packet`,
      times,
      'ms',
      '<= 45.4',
      `${times.length} of ${TRIED_STEPS} on the wire; two DMX frames`,
    ),
  ];
}

export async function measureEffects(url: string): Promise<Row[]> {
  return [...effectFrames(), ...(await stepOnWire(url))];
}

const RUNNING_UNITS = 500;
const RUNNING = 20;
const RUNNING_FRAMES = 3000;

/** Units with three lanes each, in effects of their own: rendering alone, without sending. */
function effectFrames(): Row[] {
  const show = new MutableShow();
  show.apply(newShowRows('Five hundred running'));
  let edits = 0;
  const plan = (edit: string, params: unknown): void => {
    const planned = planEdit(show, 'owner', edit, params, `m${edits++}`);
    if (isRefusal(planned)) throw new Error(planned.message);
    show.apply(planned.changes);
  };
  plan('patch-fixtures', {
    typeId: 'quillon-wash',
    mode: 'Short',
    quantity: RUNNING_UNITS,
    first: 1,
    universe: 1,
    address: 1,
    overflow: true,
  });
  const lift = EFFECT_LIBRARY.find((e) => e.name === 'Lift-off');
  if (!lift) throw new Error('The library has no lift-off.');
  for (let n = 0; n < RUNNING; n++)
    plan('set-effect', {
      as: `running-${n}`,
      set: { ...lift, name: `Running ${n}`, speed: { round_s: 2 + n / 10 } },
    });
  const slots = compileSlots(show);
  const index = slotIndex(slots);
  const programs = compileEffects(show, 120);
  const find = waveFinder(programs);
  const engine = new Engine(slots);
  engine.setPrograms(programs);
  const drafts = [...show.fixtures.values()].flatMap((f, i) =>
    ['Tilt', 'Dimmer'].flatMap((attribute) => {
      const slot = index.get(slotKey(f.id, attribute));
      const wave = find(`running-${i % RUNNING}`, attribute, f.id);
      return slot === undefined
        ? []
        : [{ slot, level: 0.5, up: 0, down: 0, delay: 0, curve: 0, wave, phase: (i % 40) / 40 }];
    }),
  );
  engine.move('main', columns(drafts), 0);
  const times: number[] = [];
  for (let i = 1; i <= RUNNING_FRAMES; i++) {
    const began = hr();
    engine.tick(i / 44);
    times.push(hr() - began);
  }
  return [
    row(
      `${RUNNING_UNITS} units in ${RUNNING} running effects: a frame rendered`,
      times,
      'ms',
      '',
      `${drafts.length} slots move in every frame`,
    ),
  ];
}

export async function measureStage(url: string, db: Database): Promise<Row[]> {
  const wire = await colourOnWire(url);
  return [
    ...wire.rows,
    ...(await colourOnScreen(url, wire.showId)),
    ...(await paletteUpdate(url, db)),
    ...(await inSpace(url)),
  ];
}
