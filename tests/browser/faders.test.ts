/** What plays without a cue list: a wash under a fader in one dialog, palettes as a list and by themselves, keys under faders; all read from the wire. */
import { By, Key, type WebElement } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';

const edit = (name: string, params: unknown) =>
  script.ask(`/api/shows/${show}/edits`, { edit: name, params });
const live = (command: unknown) => script.ask(`/api/shows/${show}/live`, command);
interface Node {
  universes: { protocol: string; universe: number; slots: number[] }[];
}
/** What arrived at the node last, by address from 1. */
const wire = async (address: number): Promise<number> =>
  ((await script.ask('/api/sim/node')).json as Node).universes.find(
    (u) => u.protocol === 'sacn' && u.universe === 1,
  )?.slots[address - 1] ?? -1;
const arrives = (address: number, byte: number): Promise<void> =>
  until(async () => Math.abs((await wire(address)) - byte) <= 1);
type Rows = Record<
  'lists' | 'cues' | 'faders' | 'palettes' | 'fixtures',
  { id: string; name: string; number: number; listId?: string }[]
>;
const rows = async (): Promise<Rows> =>
  ((await script.ask(`/api/shows/${show}`)).json as { tables: Rows }).tables;

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
  await screen.fill('Make a new show', 'Winter fair');
  await screen.press('Make show');
  await screen.says('main', 'The house is empty');
  show = await screen.showId();
  await edit('patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 8,
    first: 1,
    universe: 1,
    address: 1,
  });
  await edit('patch-fixtures', {
    typeId: 'generic-rgbw',
    mode: 'RGBW',
    quantity: 4,
    first: 11,
    universe: 1,
    address: 101,
  });
  await live({ command: 'air', on: true });
  await screen.place('stage');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

const rect = async (
  el: WebElement,
): Promise<{ x: number; y: number; width: number; height: number }> => el.getRect();

/** A fader is led to a level by a hand: many moves, past it and back. */
async function lead(number: number, to: number): Promise<void> {
  const track = await screen.find(`[data-fader="${number}"]`);
  const r = await rect(track);
  const KNOB = 15;
  const y = (level: number): number => Math.round(r.y + (r.height - KNOB) * (1 - level) + KNOB / 2);
  const x = Math.round(r.x + r.width / 2);
  const now = Number(await track.getAttribute('aria-valuenow')) / 100;
  let actions = screen.driver
    .actions({ async: true })
    .move({ x, y: y(now) })
    .press();
  for (const level of [
    now + (to - now) * 0.3,
    now + (to - now) * 0.7,
    to,
    Math.min(1, to + 0.1),
    to,
  ])
    actions = actions.move({ x, y: y(level), duration: 60 });
  await actions.release().perform();
}

test('a wash comes under a fader in one dialog, and follows the hand at once', async () => {
  await screen.command('1 thru 4 at full');
  await screen.driver.actions().keyDown(Key.CONTROL).sendKeys('r').keyUp(Key.CONTROL).perform();
  await screen.find('[role=dialog]');
  await (
    await screen.driver.findElement(
      By.xpath(
        '//label[normalize-space(.)="List"]/following-sibling::select/option[contains(., "a new list")]',
      ),
    )
  ).click();
  await screen.fill('Name of the list', 'Front wash');
  await screen.says('[data-testid=consequences]', 'on fader 1');
  await screen.press('Record it, under a fader');
  await until(async () => (await rows()).faders.length === 1);
  // One step, one undo.
  await screen.command('undo');
  await until(async () => {
    const { faders, lists } = await rows();
    return faders.length === 0 && !lists.some((l) => l.name === 'Front wash');
  });
  await screen.command('redo');
  await until(async () => (await rows()).faders.length === 1);
  await screen.command('clear');
  await arrives(1, 0);
  await screen.place('run');
  await lead(1, 0.5);
  await arrives(1, 128);
  await arrives(4, 128);
  expect(await wire(5)).toBe(0);
  await lead(1, 1);
  await arrives(2, 255);
  await lead(1, 0);
  await arrives(1, 0);
});

test('a look comes under a fader from its own dialog; its colour over the travel by choice', async () => {
  await screen.place('stage');
  await screen.command('11 thru 14 at full colour "Ember"');
  await screen.tab('Looks');
  await (await screen.find('[aria-label="Record a look of what you hold"]')).click();
  await screen.find('[role=dialog]');
  await screen.fill('Name', 'Embers');
  await (
    await screen.driver.findElement(By.xpath('//label[contains(., "Under the first free fader")]'))
  ).click();
  await screen.press('Record look');
  await until(async () => (await rows()).faders.length === 2);
  await screen.command('clear');
  await screen.place('run');
  if (!(await screen.words('[data-testid=run-lock]')).includes('Open'))
    await (await screen.find('[data-testid=run-lock]')).click();
  await (await screen.find('[aria-label="Change fader Embers"]')).click();
  await (
    await screen.driver.findElement(
      By.xpath(
        '//label[contains(., "Colour, position and beam come")]/following-sibling::select/option[contains(., "travel")]',
      ),
    )
  ).click();
  await screen.press('Change it');
  await until(async () => (await screen.count('[role=dialog]')) === 0);
  // Red, green, blue and white of the first: what shows at full is what the look says; half way it is half of it.
  await lead(2, 1);
  await until(async () => (await wire(101)) > 200);
  const whole = [await wire(102), await wire(103)];
  await lead(2, 0);
  await arrives(101, 0);
  expect(Math.min(...whole)).toBeLessThan(200);
});

test('F1 is the key under the first fader for as long as it is down, in every place', async () => {
  await screen.place('book');
  await screen.driver.executeScript('document.activeElement?.blur()');
  await screen.driver.actions().keyDown(Key.F1).perform();
  await arrives(1, 255);
  await screen.driver.actions().keyUp(Key.F1).perform();
  await arrives(1, 0);
  await screen.driver
    .actions()
    .keyDown(Key.ALT)
    .keyDown(Key.SHIFT)
    .sendKeys('1')
    .keyUp(Key.SHIFT)
    .keyUp(Key.ALT)
    .perform();
  await arrives(1, 255);
  await live({ command: 'fader', fader: 1, level: 0, take: true });
  await arrives(1, 0);
});

test('a list of palettes in one line, each in its time', async () => {
  const { fixtures } = await rows();
  for (const [name, level] of [
    ['Low', 0.2],
    ['Mid', 0.5],
    ['High', 0.8],
  ] as const)
    await edit('record-palette', {
      family: 'intensity',
      name,
      values: fixtures
        .filter((f) => f.number >= 5 && f.number <= 8)
        .map((f) => ({ fixtureId: f.id, attribute: 'Dimmer', level })),
    });
  await screen.command('make list of palettes 1 thru 3 time 0 "Steps"');
  await until(async () => (await rows()).lists.some((l) => l.name === 'Steps'));
  const { lists, cues } = await rows();
  const list = lists.find((l) => l.name === 'Steps');
  expect(cues.filter((c) => c.listId === list?.id).map((c) => c.name)).toEqual([
    'Low',
    'Mid',
    'High',
  ]);
  for (const byte of [51, 128, 204]) {
    await screen.command(`list ${list?.number} go`);
    await arrives(5, byte);
    await arrives(8, byte);
  }
  await screen.command(`list ${list?.number} release time 0`);
  await arrives(5, 0);
});

test('a tile plays by itself on its units, is seen in Run, and lets go; the programmer stays empty', async () => {
  await screen.place('stage');
  await screen.tab('Intensity');
  await screen.press('Play');
  const tile = await screen.shelfTile(3);
  await tile.click();
  await arrives(6, 204);
  await until(async () => (await tile.getAttribute('data-played')) === 'true');
  await screen.says('[data-testid=programmer-count]', 'empty');
  await screen.place('run');
  await screen.says('[aria-label="Played by themselves"]', 'High');
  await (await screen.find('[aria-label="Played by themselves"] button')).click();
  await arrives(6, 0);
  await until(async () => (await screen.count('[aria-label="Played by themselves"]')) === 0);
});

test('a guarded unit stays where it is through a cue; a hand moves it; let off it goes along', async () => {
  await edit('record-cue', {
    listId: (await rows()).lists.find((l) => l.number === 1)?.id,
    number: 1000,
    up_s: 0,
    values: (await rows()).fixtures
      .filter((f) => f.number <= 2)
      .map((f) => ({ fixtureId: f.id, attribute: 'Dimmer', level: 0.4 })),
  });
  // A list stands in the cue that is recorded.
  await live({ command: 'release', time: 0 });
  await arrives(2, 0);
  await screen.place('stage');
  await screen.command('1 guard');
  await screen.says('[data-testid=standing]', '1 guarded');
  await live({ command: 'go' });
  await arrives(2, 102);
  expect(await wire(1)).toBe(0);
  await screen.command('1 at 80');
  await arrives(1, 204);
  await screen.command('clear');
  await arrives(1, 0);
  await screen.command('1 guard off time 0');
  await arrives(1, 102);
  expect(await screen.count('[data-testid=standing]')).toBe(0);
  await screen.command('release all time 0');
});

test('pages of faders have names', async () => {
  await edit('put-on-fader', {
    holds: { kind: 'palette', id: (await rows()).palettes[0]?.id },
    number: 9,
  });
  await screen.place('run');
  if (!(await screen.words('[data-testid=run-lock]')).includes('Open'))
    await (await screen.find('[data-testid=run-lock]')).click();
  await (await screen.find('[aria-label^="Pages of faders"]')).click();
  await (
    await screen.driver.findElement(
      By.xpath('//*[@role="menuitem"][starts-with(normalize-space(.), "Name this page")]'),
    )
  ).click();
  await screen.find('[role=dialog]');
  await screen.fill('Name', 'Washes');
  await screen.press('Save');
  await screen.says('[aria-label="Faders"]', 'Washes · 9–16');
});
