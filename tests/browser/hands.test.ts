/** Faders and sliders under a real pointer, while frames and other people’s edits arrive: the level follows the hand, every time. */
import { By, Key, Origin, type WebElement } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(300_000);
let house: House;
let owner: Script;
let screen: Screen;
let show = '';
let noise: NodeJS.Timeout;
const live = (command: unknown) => owner.ask(`/api/shows/${show}/live`, command);
interface Stage {
  master: number;
  lists: { cue: string | null; running: boolean }[];
}
const stage = async (): Promise<Stage> => (await owner.ask(`/api/shows/${show}/stage`)).json;

beforeAll(async () => {
  house = await openHouse();
  owner = await new Script(house).signIn('owner');
  show = await owner.showId('The Night Ferry');
  screen = await Screen.open(house, 'owner');
  await screen.openShow('The Night Ferry');
  await screen.place('run');
  await screen.find('[aria-label="Faders"] [data-fader]');
  // Light that moves all the time, and somebody who writes notes meanwhile.
  await live({ command: 'goto', cue: '12', time: 120 });
  let n = 0;
  const other = await new Script(house).signIn('programmer');
  noise = setInterval(
    () =>
      void other.ask(`/api/shows/${show}/edits`, {
        edit: 'add-note',
        params: { kind: 'other', text: `note ${n++}` },
      }),
    400,
  );
});
afterAll(async () => {
  clearInterval(noise);
  await Screen.closeAll();
  await house?.stop();
});

/** Pixels a step and pause between steps: slow, as people do, and torn. */
const SPEEDS = [
  { steps: 14, ms: 2 },
  { steps: 7, ms: 2 },
  { steps: 3, ms: 0 },
] as const;

async function drag(
  knob: { x: number; y: number },
  dx: number,
  dy: number,
  { steps, ms }: (typeof SPEEDS)[number],
): Promise<void> {
  let actions = screen.driver
    .actions({ async: true })
    .move({ ...at(knob), duration: 0 })
    .press();
  for (let i = 1; i <= steps; i++)
    actions = actions.move({
      ...at({ x: knob.x + (dx * i) / steps, y: knob.y + (dy * i) / steps }),
      duration: ms,
    });
  await actions.release().perform();
}
const at = ({ x, y }: { x: number; y: number }): { x: number; y: number; origin: Origin } => ({
  x: Math.round(x),
  y: Math.round(y),
  origin: Origin.VIEWPORT,
});
const boxOf = (
  element: WebElement,
): Promise<{ left: number; top: number; width: number; height: number }> =>
  screen.driver.executeScript(
    'const r = arguments[0].getBoundingClientRect(); return { left: r.left, top: r.top, width: r.width, height: r.height };',
    element,
  );
const valueOf = async (element: WebElement): Promise<number> =>
  Number(await element.getAttribute('aria-valuenow'));
const KNOB = 15;

/** Each with a time limit of its own: a slow machine takes a second and a half for a drag. */
const FADERS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '10', 'grand'];

test('all faders of the show are tried', async () => {
  const faders = await screen.driver.findElements(By.css('[aria-label="Faders"] [data-fader]'));
  expect(await Promise.all(faders.map((f) => f.getAttribute('data-fader')))).toEqual(FADERS);
});

test.each(FADERS)(
  'fader %s, four drags each way at three speeds: none is torn away, each ends where the hand ends',
  async (which) => {
    const fader = await screen.find(`[aria-label="Faders"] [data-fader="${which}"]`);
    const box = await boxOf(fader);
    const way = box.height - KNOB;
    for (let n = 0; n < 8; n++) {
      const from = await valueOf(fader);
      const up = n % 2 === 0;
      const px = Math.round(way * (up ? 0.62 : -0.58));
      const wanted = Math.round(Math.min(1, Math.max(0, from / 100 + px / way)) * 100);
      await drag(
        { x: box.left + box.width / 2, y: box.top + box.height - KNOB / 2 - (from / 100) * way },
        0,
        -px,
        SPEEDS[n % 3] ?? SPEEDS[0],
      );
      await until(async () => Math.abs((await valueOf(fader)) - wanted) <= 1).catch(async () => {
        throw new Error(
          `drag ${n}: from ${from} to ${wanted}, but it is at ${await valueOf(fader)}`,
        );
      });
    }
    if (which === 'grand') await live({ command: 'master', level: 1 });
  },
);

test('a drag that ends outside of the window ends; a second press elsewhere takes nothing over', async () => {
  const grand = await screen.find('[data-fader=grand]');
  await until(async () => (await valueOf(grand)) === 100);
  const box = await boxOf(grand);
  const x = box.left + box.width / 2;
  await screen.driver
    .actions({ async: true })
    .move({ ...at({ x, y: box.top + KNOB / 2 }), duration: 0 })
    .press()
    .move({ ...at({ x, y: box.top + 60 }), duration: 60 })
    .move({ ...at({ x: 1279, y: box.top + 60 }), duration: 60 })
    .release()
    .perform();
  const left = await valueOf(grand);
  expect(left).toBeLessThan(100);
  await screen.driver
    .actions({ async: true })
    .move({ ...at({ x, y: box.top + 10 }), duration: 60 })
    .move({ ...at({ x, y: box.top + box.height - 5 }), duration: 60 })
    .perform();
  await new Promise((done) => setTimeout(done, 300));
  expect(await valueOf(grand)).toBe(left);
  await live({ command: 'master', level: 1 });
});

interface Finger {
  x: number;
  y: number;
  id: number;
}
const touch = (
  type: 'touchStart' | 'touchMove' | 'touchEnd' | 'touchCancel',
  touchPoints: readonly Finger[],
) =>
  (screen.driver as chrome.Driver).sendDevToolsCommand('Input.dispatchTouchEvent', {
    type,
    touchPoints,
  });

test('two fingers on two faders lead both at once; one that the system takes away ends where it was, and the flash under another goes out', async () => {
  const [one, two] = [await screen.find('[data-fader="3"]'), await screen.find('[data-fader="6"]')];
  for (const fader of [3, 6]) await live({ command: 'fader', fader, level: 0.2, take: true });
  await until(async () => (await valueOf(one)) === 20 && (await valueOf(two)) === 20);
  const [a, b] = [await boxOf(one), await boxOf(two)];
  const way = a.height - KNOB;
  const from = (box: typeof a, id: number): Finger => ({
    x: box.left + box.width / 2,
    y: box.top + box.height - KNOB / 2 - 0.2 * way,
    id,
  });
  const [f1, f2] = [from(a, 1), from(b, 2)];
  await touch('touchStart', [f1]);
  await touch('touchStart', [f1, f2]);
  for (let i = 1; i <= 10; i++) {
    await touch('touchMove', [
      { ...f1, y: f1.y - (way * 0.6 * i) / 10 },
      { ...f2, y: f2.y - (way * 0.3 * i) / 10 },
    ]);
  }
  await until(async () => (await valueOf(one)) === 80 && (await valueOf(two)) === 50).catch(
    async () =>
      Promise.reject(
        new Error(`two fingers lead to ${await valueOf(one)} and ${await valueOf(two)}`),
      ),
  );
  await touch('touchEnd', []);
  await new Promise((done) => setTimeout(done, 200));
  // Taken away by the system: the level stays where the finger was, and the next touch begins anew.
  const high = { ...f1, y: f1.y - way * 0.6 };
  await touch('touchStart', [high]);
  await touch('touchMove', [{ ...high, y: high.y + way * 0.3 }]);
  await until(async () => Math.abs((await valueOf(one)) - 50) <= 1);
  await touch('touchCancel', []);
  await touch('touchStart', [{ ...f2, id: 3 }]);
  await touch('touchEnd', []);
  await new Promise((done) => setTimeout(done, 300));
  expect([await valueOf(one), await valueOf(two)]).toEqual([expect.closeTo(50, 0), 50]);
  const flash = await screen.find('[aria-label="Flash House"]');
  const f = await boxOf(flash);
  await live({ command: 'fader', fader: 3, level: 0, take: true });
  await touch('touchStart', [{ x: f.left + f.width / 2, y: f.top + f.height / 2, id: 4 }]);
  await until(async () => ((await flash.getAttribute('class')) ?? '').includes('bg-lime'));
  await touch('touchCancel', []);
  await until(async () => !((await flash.getAttribute('class')) ?? '').includes('bg-lime'));
  await live({ command: 'fader', fader: 6, level: 0, take: true });
});

test('by hand: one drag leads one cue in and ends with it, however far and often the hand goes; nothing beside it moves', async () => {
  await live({ command: 'goto', cue: '3', time: 0 });
  await until(async () => (await stage()).lists[0]?.running === false);
  const knob = await screen.find('[data-testid=by-hand]');
  const box = await boxOf(knob);
  const y = box.top + box.height / 2;
  await screen.driver.executeScript(
    "window.places = []; document.addEventListener('pointermove', () => { const r = arguments[0].getBoundingClientRect(); window.places.push([r.left, r.top, r.width, r.height].join()); }, true)",
    knob,
  );
  let actions = screen.driver
    .actions({ async: true })
    .move({ ...at({ x: box.left + 7, y }), duration: 0 })
    .press();
  for (let i = 1; i <= 12; i++)
    actions = actions.move({ ...at({ x: box.left + 7 + i * 3, y }), duration: 60 });
  // On to its end, and back and forth with the button still down.
  for (let round = 0; round < 5; round++) {
    for (const x of [box.left + box.width + 40, box.left + 40, box.left - 20, box.left + 60])
      actions = actions.move({ ...at({ x, y }), duration: 60 });
  }
  await actions.release().perform();
  await until(async () => (await stage()).lists[0]?.cue === '4');
  await new Promise((done) => setTimeout(done, 300));
  expect((await stage()).lists[0]).toMatchObject({ cue: '4', running: false });
  const places = await screen.driver.executeScript<string[]>('return window.places');
  expect(places.length).toBeGreaterThan(20);
  expect([...new Set(places)]).toEqual([[box.left, box.top, box.width, box.height].join()]);
  // A new touch leads the next one in.
  await until(async () => (await valueOf(knob)) === 0);
  await drag({ x: box.left + 7, y }, box.width, 0, SPEEDS[1]);
  await until(async () => (await stage()).lists[0]?.cue === '5');
});

test('the sliders and numbers of Stage, the spine and Run follow the hand as well, four drags each way at three speeds', async () => {
  await live({ command: 'goto', cue: '3', time: 0 });
  await screen.place('stage');
  await screen.command('101');
  const level = async (attribute: string): Promise<number> =>
    ((await stage()) as unknown as { fixtures: Record<string, Record<string, { level: number }>> })
      .fixtures['101']?.[attribute]?.level ?? -1;
  const lying = await screen.find('section[aria-label=Intensity] [role=slider]');
  await screen.command('101 at 50');
  await until(async () => (await valueOf(lying)) === 50);
  const box = await boxOf(lying);
  for (let n = 0; n < 8; n++) {
    const from = await valueOf(lying);
    const px = Math.round(box.width * (n % 2 === 0 ? 0.31 : -0.29));
    await drag(
      { x: box.left + (from / 100) * box.width, y: box.top + box.height / 2 },
      px,
      0,
      SPEEDS[n % 3] ?? SPEEDS[0],
    );
    const wanted = Math.round(Math.min(1, Math.max(0, from / 100 + px / box.width)) * 100);
    await until(
      async () =>
        Math.abs((await valueOf(lying)) - wanted) <= 1 &&
        Math.abs((await level('Dimmer')) * 100 - wanted) <= 1,
    ).catch(async () =>
      Promise.reject(
        new Error(
          `intensity, drag ${n}: from ${from} to ${wanted}, but it is at ${await valueOf(lying)}`,
        ),
      ),
    );
  }
  await live({ command: 'clear' });
  /** Numbers that are dragged: a pixel is a step. */
  const number = async (css: string, back: unknown): Promise<void> => {
    const scrub = await screen.find(css);
    await live(back);
    await until(async () => (await valueOf(scrub)) === 100);
    for (let n = 0; n < 8; n++) {
      const from = await valueOf(scrub);
      const r = await boxOf(scrub);
      const px = n % 2 === 0 ? -37 : 31;
      await drag(
        { x: r.left + r.width / 2, y: r.top + r.height / 2 },
        px,
        0,
        SPEEDS[n % 3] ?? SPEEDS[0],
      );
      const wanted = Math.min(100, Math.max(0, from + px));
      await until(async () => Math.abs((await valueOf(scrub)) - wanted) <= 1).catch(async () =>
        Promise.reject(
          new Error(
            `${css}, drag ${n}: from ${from} to ${wanted}, but it is at ${await valueOf(scrub)}`,
          ),
        ),
      );
    }
    await live(back);
  };
  await number('aside [role=slider][aria-label="Grand master"]', { command: 'master', level: 1 });
  await screen.place('run');
  const lanterns = (
    (await owner.ask(`/api/shows/${show}`)).json as {
      tables: { lists: { id: string; name: string }[] };
    }
  ).tables.lists.find((l) => l.name === 'Lanterns')?.id;
  await number('[role=slider][aria-label="Lanterns, master"]', {
    command: 'list-master',
    list: lanterns,
    level: 1,
  });
});

test('a name of 120 characters and 40 faders break no place, at either size', async () => {
  const edit = async (name: string, params: unknown): Promise<void> =>
    void expect((await owner.ask(`/api/shows/${show}/edits`, { edit: name, params })).status).toBe(
      200,
    );
  const { tables } = (await owner.ask(`/api/shows/${show}`)).json as {
    tables: Record<
      'cues' | 'groups' | 'fixtures' | 'palettes' | 'looks' | 'lists',
      { id: string; number: number; listId?: string }[]
    >;
  };
  const long = 'Thelongestnameofahundredandtwentycharacters'.repeat(3).slice(0, 120);
  const words = 'a very long name of many words '.repeat(4).slice(0, 120).trim();
  const [first, second] = tables.lists.sort((a, b) => a.number - b.number);
  const cues = tables.cues
    .filter((c) => c.listId === first?.id)
    .sort((a, b) => a.number - b.number);
  await edit('change-show', { set: { name: words, venue: long } });
  await edit('change-cue', { id: cues[2]?.id, set: { name: long } });
  await edit('change-cue', { id: cues[3]?.id, set: { name: words, call: long } });
  await edit('change-list', { id: second?.id, set: { name: long } });
  await edit('change-fixtures', {
    fixtures: [{ id: tables.fixtures[0]?.id, set: { label: long } }],
  });
  await edit('change-group', { id: tables.groups[0]?.id, set: { name: long } });
  await edit('change-palette', { id: tables.palettes[0]?.id, set: { name: long } });
  for (let n = 11; n <= 40; n++) {
    await edit('set-fader', {
      set: {
        number: n,
        name: n === 40 ? long : `Fader ${n}`,
        holds: { kind: 'group', id: tables.groups[1]?.id },
        mode: 'proportional',
        flash: 'full',
      },
    });
    // Not faster than a person may.
    await new Promise((done) => setTimeout(done, 60));
  }
  await live({ command: 'goto', cue: '3', time: 0 });
  const size = (width: number, height: number) =>
    (screen.driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false,
    });
  for (const [width, height] of [
    [1280, 800],
    [1024, 768],
  ] as const) {
    await size(width, height);
    for (const place of ['rig', 'stage', 'book', 'run', 'crew']) {
      await screen.place(place);
      await screen.says('[data-testid=current-cue]', long.slice(0, 12));
      const wide = await screen.driver.executeScript<string[]>(
        "const out = []; if (document.documentElement.scrollWidth > innerWidth) out.push('page'); for (const e of document.querySelectorAll('aside, header, footer, main > *')) { const r = e.getBoundingClientRect(); if (r.right > innerWidth + 1 || r.left < -1) out.push(e.tagName + ' ' + (e.getAttribute('aria-label') ?? e.className.slice(0, 40))); } for (const e of document.querySelectorAll('header a, header button')) { const r = e.getBoundingClientRect(); if (r.width > 0 && r.right > innerWidth + 1) out.push('cut: ' + e.textContent); } return out",
      );
      expect([place, width, wide]).toEqual([place, width, []]);
    }
    await screen.place('run');
    // Every fader is a page or a few away, and none is cut.
    const seen = new Set<string>();
    for (let turn = 0; turn < 20; turn++) {
      for (const name of await screen.driver.executeScript<string[]>(
        "const box = document.querySelector('[aria-label=Faders]').getBoundingClientRect(); return [...document.querySelectorAll('[aria-label=Faders] [data-fader]')].filter((f) => { const r = f.getBoundingClientRect(); return r.width >= 24 && r.right <= box.right + 1; }).map((f) => f.getAttribute('data-fader'))",
      ))
        seen.add(name);
      const more = await screen.find('[aria-label="Faders after"]');
      if (!(await more.isEnabled())) break;
      await more.click();
    }
    expect(seen.size).toBe(41);
  }
  await size(1280, 800);
});

test('a letter typed anywhere outside of a field changes no light and no mode: it begins a line', async () => {
  interface Mine {
    highlight: boolean;
    blind: boolean;
  }
  const pressed = 'habgsrlcpx';
  for (const place of ['rig', 'stage', 'book', 'run', 'crew']) {
    await screen.place(place);
    for (const letter of pressed) {
      await screen.driver.executeScript('document.activeElement?.blur()');
      await screen.driver.actions().sendKeys(letter).perform();
      await until(
        async () => (await (await screen.find('#command')).getAttribute('value')) === letter,
      ).catch(async () => {
        throw new Error(
          `${letter} in ${place}: the line says “${await (await screen.find('#command')).getAttribute('value')}”`,
        );
      });
      await (await screen.find('#command')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
      expect(await screen.count('[role=dialog]')).toBe(0);
    }
  }
  await screen.place('stage');
  const state = await screen.driver.executeScript<Mine>(
    "return { highlight: document.querySelector('[aria-label=Highlight]')?.getAttribute('aria-pressed') === 'true', blind: document.querySelector('[role=radio][aria-checked=true]')?.title.startsWith('Blind') ?? false }",
  );
  expect(state).toEqual({ highlight: false, blind: false });
});

describe('cells of the fixture table', () => {
  const seq = async (): Promise<number> =>
    ((await owner.ask(`/api/shows/${show}`)).json as { seq: number }).seq;
  const label = async (number: number): Promise<string> =>
    (
      (await owner.ask(`/api/shows/${show}`)).json as {
        tables: { fixtures: { number: number; label: string }[] };
      }
    ).tables.fixtures.find((f) => f.number === number)?.label ?? '';
  const cell = (number: number, column: string): Promise<WebElement> =>
    screen.find(`[data-fixture="${number}"] [data-column="${column}"]`);
  beforeAll(async () => {
    clearInterval(noise);
    await screen.place('rig');
    await screen.find('[data-fixture="1"]');
  });

  test('Enter keeps once, Esc leaves all as it was, a click elsewhere keeps; each entry is one edit', async () => {
    await (await cell(1, 'label')).click();
    let before = await seq();
    await screen.driver.actions().sendKeys('Quay rail').perform();
    expect(await screen.count('[role=grid] input')).toBe(1);
    await screen.driver.actions().sendKeys('\uE007').perform();
    await until(async () => (await label(1)) === 'Quay rail');
    expect(await seq()).toBe(before + 1);
    before = await seq();
    await screen.driver
      .actions()
      .doubleClick(await cell(1, 'label'))
      .perform();
    await screen.driver.actions().sendKeys('Not this', '\uE00C').perform();
    await until(async () => (await screen.count('[role=grid] input')) === 0);
    await new Promise((done) => setTimeout(done, 300));
    expect([await label(1), await seq()]).toEqual(['Quay rail', before]);
    await screen.driver
      .actions()
      .doubleClick(await cell(2, 'label'))
      .perform();
    await screen.driver.actions().sendKeys('Quay steps').perform();
    await (await cell(5, 'label')).click();
    await until(async () => (await label(2)) === 'Quay steps');
    expect(await seq()).toBe(before + 1);
    expect(await label(5)).not.toContain('Quay steps');
  });

  test('what is typed goes into the column of a block, # counts up, and what others do meanwhile moves nothing under the hand', async () => {
    await (await cell(3, 'label')).click();
    await screen.driver
      .actions()
      .keyDown('\uE008')
      .click(await cell(5, 'label'))
      .keyUp('\uE008')
      .perform();
    await screen.driver.actions().sendKeys('Rail #').perform();
    const before = await seq();
    await owner.ask(`/api/shows/${show}/edits`, {
      edit: 'patch-fixtures',
      params: {
        typeId: 'generic-dimmer',
        mode: '8 bit',
        quantity: 1,
        first: 901,
        universe: 9,
        address: 1,
      },
    });
    await screen.driver.actions().sendKeys('\uE007').perform();
    await until(async () => (await label(5)) === 'Rail 3');
    expect([await label(3), await label(4), await seq()]).toEqual(['Rail 1', 'Rail 2', before + 2]);
  });
});
