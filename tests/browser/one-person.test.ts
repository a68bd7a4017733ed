/** From an empty house to a cue on the wire, by one person with keyboard and mouse. */
import { By, Key, Origin } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(180_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

interface Stage {
  fixtures: Record<string, Record<string, { level: number; source: string }>>;
  universes: Record<string, number[]>;
  lists: { cue: string | null; next: string | null; running: boolean }[];
}
const stage = async (): Promise<Stage> => (await script.ask(`/api/shows/${show}/stage`)).json;
const level = async (fixture: number, attribute = 'Dimmer'): Promise<number> =>
  (await stage()).fixtures[fixture]?.[attribute]?.level ?? NaN;
interface Node {
  universes: { protocol: string; universe: number; state: string; slots: number[] }[];
}
const received = async (protocol: string, universe: number): Promise<number[]> =>
  ((await script.ask('/api/sim/node')).json as Node).universes.find(
    (u) => u.protocol === protocol && u.universe === universe,
  )?.slots ?? [];

test('a new show is made, and its name stays in sight', async () => {
  await screen.fill('Make a new show', 'Harbour lights');
  await screen.press('Make show');
  await screen.says('[data-testid=show-name]', 'Harbour lights');
  await screen.says('main', 'The house is empty');
  await screen.says('[data-testid=air]', 'In rehearsal');
  show = await screen.showId();
});

test('generic types are patched from the form: table and plan show them', async () => {
  for (const [type, quantity, first, label, address] of [
    ['Generic Dimmer, 8 bit', '8', '1', 'FOH #', '1.1'],
    ['Generic RGBW par, RGBW, 4', '4', '11', 'Par #', '1.101'],
    ['Generic Moving wash, 16 bit, 17', '2', '101', 'Wash #', '2.1'],
  ] as const) {
    await screen.pick(type.split(',')[0] ?? '', type);
    await screen.fill('Quantity', quantity);
    await screen.fill('First no.', first);
    await screen.fill('Label', label);
    await screen.fill('Address', address);
    await screen.says('[data-testid=patch-says]', `take ${address} to`);
    await screen.press(`Patch ${quantity} fixtures`);
    await until(async () => (await screen.count(`[data-fixture="${first}"]`)) === 1);
  }
  await screen.says('[data-fixture="12"]', /Par 2.*1\.105/);
  await screen.press('Plan');
  expect(await (await screen.find('[data-testid=plan]')).getAttribute('aria-label')).toContain(
    '14 fixtures',
  );
  await screen.press('Map');
});

test('a clash is said before it happens, and nothing is patched', async () => {
  await screen.pick('generic rgb par', 'Generic RGB par, RGB, 3');
  await screen.fill('Quantity', '1');
  await screen.fill('Address', '1.103');
  await screen.says('[data-testid=patch-says]', 'would sit on 11');
  expect(await (await screen.button('Patch 1 fixture')).isEnabled()).toBe(false);
  await screen.fill('Address', '1.511');
  await screen.says('[data-testid=patch-says]', 'a universe ends at 512');
});

test('the command line says in words what Enter will do, and does it', async () => {
  await screen.place('stage');
  await screen.typed('5 thru 8 at 70 time 4');
  await screen.says(
    '[data-testid=says]',
    '4 fixtures · intensity 70 % in 4 s · into your programmer',
  );
  await screen.command('1 thru 8 at full');
  await screen.says('[data-testid=selected-count]', '8 selected');
  await until(async () => (await level(8)) === 1);
  await screen.command('1 + 3 at 50');
  await until(async () => Math.abs((await level(3)) - 0.5) < 0.001);
  await screen.says('[data-testid=programmer-count]', '8 values, 8 fixtures');
});

test.each([
  ['1 thru at full', 'needs a last number'],
  ['99 at full', 'no fixture 99'],
  ['1 at 300', 'from 0 to 100'],
  ['record cue 2.5.5', 'not a cue number'],
])('“%s” gets a sentence and changes nothing', async (line, words) => {
  const before = await stage();
  await screen.typed(line);
  await screen.says('[data-testid=says]', words);
  await (await screen.find('#command')).sendKeys(Key.ENTER);
  expect(await (await screen.find('#command')).getAttribute('value')).toBe(line);
  expect((await stage()).fixtures).toEqual(before.fixtures);
  await (await screen.find('#command')).sendKeys(Key.ESCAPE);
});

test('a click on the plan selects; controls set colour, pan and tilt', async () => {
  await screen.command('101');
  await screen.says('[data-testid=selected-count]', '1 selected');
  await screen.command('at full');
  await (await screen.find('button[aria-label="Port red"]')).click();
  await until(
    async () => (await level(101, 'ColorAdd_R')) > 0.9 && (await level(101, 'ColorAdd_B')) < 0.3,
  );
  const pad = await screen.find('[aria-label="Pan and tilt"]');
  await screen.driver.actions().move({ origin: pad, x: 26, y: -26 }).press().release().perform();
  await until(
    async () =>
      Math.abs((await level(101, 'Pan')) - 0.75) < 0.02 &&
      Math.abs((await level(101, 'Tilt')) - 0.75) < 0.02,
  );

  const plan = await screen.find('[data-testid=plan]');
  await screen.driver.actions().move({ origin: plan, x: 0, y: 0 }).press().release().perform();
  await screen.says('aside[aria-label=Controls]', 'Nothing selected');
  await screen.command('11 at full');
  await until(async () => (await level(11)) === 1);
  await screen.driver.actions().move({ origin: Origin.POINTER, x: 1, y: 1 }).perform();
});

test('the virtual intensity dims an RGBW par without changing its hue', async () => {
  const at = async (address: number): Promise<number> =>
    (await stage()).universes[1]?.[address - 1] ?? NaN;
  await screen.command('11 red at 100');
  await screen.command('11 green at 50');
  await screen.command('11 at 50');
  await until(async () => (await at(101)) === 128 && (await at(102)) === 64);
});

test('cues are recorded with names and times, store only what changes, and track', async () => {
  await screen.command('clear');
  await screen.command('1 thru 4 at 60');
  await screen.command('record cue 1 "Quay" time 0');
  await screen.says('[data-testid=current-cue]', 'Quay');
  await screen.says('[data-testid=programmer-count]', 'empty');
  await screen.command('5 thru 8 at 80');
  await (await screen.find('body')).sendKeys(Key.chord(Key.CONTROL, 'r'));
  await screen.says('[role=dialog]', 'Record a cue');
  await screen.fill('Name', 'All aboard');
  await screen.fill('Up, seconds', '2');
  await screen.fill('Down, seconds', '1');
  await screen.press('Record cue 2');
  await screen.says('[data-testid=current-cue]', 'All aboard');
  await screen.command('1 at 10');
  await screen.command('record cue 2.5 "Bell" time 0.5');
  await screen.says('[data-testid=current-cue]', 'Bell');
  await screen.place('book');
  await screen.says('[data-sheet-cue="2.5"]', 'Bell');
  const { tables } = (await script.ask(`/api/shows/${show}`)).json as {
    tables: {
      cues: { id: string; number: number; up_s: number; down_s: number }[];
      values: { cueId: string }[];
    };
  };
  const stored = tables.cues
    .sort((a, b) => a.number - b.number)
    .map((c) => [c.number, c.up_s, c.down_s, tables.values.filter((v) => v.cueId === c.id).length]);
  expect(stored).toEqual([
    [1000, 0, 0, 4],
    [2000, 2, 1, 4],
    [2500, 0.5, 0.5, 1],
  ]);
  expect((await stage()).fixtures[2]?.Dimmer).toEqual({
    level: expect.closeTo(0.6, 3),
    source: 'tracks from cue 1',
  });
});

test('go to a cue from the spine, GO with a fade that counts down, back', async () => {
  // A click looks, in the Book at its row, in Stage at what the cue shows; nothing plays.
  await (await screen.find('[data-cue="1"]')).click();
  await screen.place('stage');
  expect(await screen.count('[data-testid=cue-card]')).toBe(0);
  await (await screen.find('[data-cue="1"]')).click();
  await screen.says('[aria-label=Modes]', 'Looking at cue 1');
  await screen.says('[data-testid=cue-card]', 'Looked at, not on stage');
  await screen.says('[data-testid=current-cue]', 'Bell');
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
  await until(async () => (await screen.count('[data-testid=cue-card]')) === 0);
  const first = await screen.find('[data-cue="1"]');
  await screen.driver.actions().contextClick(first).perform();
  await screen.find('[role=menuitem]');
  for (const item of await screen.driver.findElements(By.css('[role=menuitem]'))) {
    if (!(await item.getText()).startsWith('Go to cue 1')) continue;
    await item.click();
    break;
  }
  await screen.says('[data-testid=current-cue]', 'Quay');
  await until(async () => (await level(5)) === 0);
  await (await screen.find('[data-testid=go]')).click();
  await screen.says('[data-testid=current-cue]', /All aboard.*s left/);
  await until(async () => {
    const now = await level(5);
    return now > 0.05 && now < 0.75;
  });
  await screen.says('[data-testid=current-cue]', 'done');
  expect(await level(5)).toBeCloseTo(0.8, 3);
  await screen.press('Back');
  await screen.says('[data-testid=current-cue]', 'Quay');
  await until(async () => (await level(5)) === 0);
});

test('a second GO at the end, and a cue that is not there, are answered in words', async () => {
  await screen.command('goto 2.5 time 0');
  await until(async () => (await stage()).lists[0]?.cue === '2.5');
  expect(await (await screen.find('[data-testid=go]')).isEnabled()).toBe(false);
  const end = await script.ask(`/api/shows/${show}/live`, { command: 'go' });
  expect(end).toMatchObject({
    status: 409,
    json: { error: { code: 'end', message: expect.stringContaining('last cue') } },
  });
});

test('on air, the frames arrive at the simulated node as sACN and Art-Net, and its page shows them', async () => {
  await (await screen.find('[data-testid=air]')).click();
  await screen.says(
    '[role=dialog]',
    '“The Night Ferry” is on air (in no cue, dark). In 2 s the light fades over to “Harbour lights”',
  );
  await screen.press('Put on air');
  await screen.says('[data-testid=air]', 'On air to the simulated node only');
  await screen.command('goto 2 time 0');
  await until(async () => (await received('sacn', 1))[4] === Math.round(0.8 * 255));
  expect((await received('artnet', 0)).slice(0, 8)).toEqual(
    (await stage()).universes[1]?.slice(0, 8),
  );
  await screen.driver.get(`${house.url}/node`);
  await screen.says('[data-received=sacn-1]', 'receiving');
  await screen.says('[data-received=artnet-0]', '0.0.0');
  await screen.driver.get(`${house.url}/shows/${show}/stage`);
  await screen.says('[data-testid=air]', 'On air');
});

test('what the top bar says of the output is true at once when routes change while it is on air', async () => {
  await screen.says('[data-testid=air]', 'On air to the simulated node only');
  const routes = async (): Promise<{ id: string; destination: string }[]> =>
    (
      (await script.ask(`/api/shows/${show}`)).json as {
        tables: { routes: { id: string; destination: string }[] };
      }
    ).tables.routes;
  expect(
    (
      await script.ask(`/api/shows/${show}/edits`, {
        edit: 'set-route',
        params: {
          set: {
            universe: 1,
            protocol: 'sacn',
            destination: '127.0.0.1',
            wire: 1,
            priority: 100,
            on: true,
          },
        },
      })
    ).status,
  ).toBe(200);
  await screen.says('[data-testid=air]', /On air · 2 universes/);
  await script.ask(`/api/shows/${show}/edits`, {
    edit: 'delete-route',
    params: { id: (await routes()).find((r) => r.destination === '127.0.0.1')?.id },
  });
  await screen.says('[data-testid=air]', 'On air to the simulated node only');
});

test('help, palette, undo by key: the keyboard does it', async () => {
  await screen.command('name cue 2 All aboard, all');
  await screen.says('[data-testid=current-cue]', 'All aboard, all');
  const body = await screen.find('main');
  await body.click();
  await screen.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
  await screen.says('[data-testid=current-cue]', /All aboard(?!, all)/);
  await screen.driver.actions().keyDown(Key.SHIFT).sendKeys('?').keyUp(Key.SHIFT).perform();
  await screen.says('[role=dialog]', 'Letters and digits typed outside of a field');
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
  await until(async () => (await screen.count('[role=dialog]')) === 0);
  await screen.driver.actions().keyDown(Key.CONTROL).sendKeys('k').keyUp(Key.CONTROL).perform();
  await (await screen.find('[cmdk-input]')).sendKeys('cue 1 quay', Key.ENTER);
  await screen.says('[data-testid=current-cue]', 'Quay');
});

test('what is held survives a reload', async () => {
  await screen.command('7 at 33');
  await screen.says('[data-testid=programmer-count]', '1 value');
  await screen.driver.navigate().refresh();
  await screen.says('[data-testid=programmer-count]', '1 value, 1 fixture');
  expect(await level(7)).toBeCloseTo(0.33, 2);
});
