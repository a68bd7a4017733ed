/** Effects as they are made: on stage from the first press, dragged with a hand, kept or left, with the levels read from what plays. */
import { By, Key, type WebElement } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';

type Levels = Record<string, Record<string, { level: number; source: string }>>;
const stage = async (): Promise<Levels> =>
  ((await script.ask(`/api/shows/${show}/stage`)).json as { fixtures: Levels }).fixtures;
const at = async (n: number, attribute = 'Dimmer'): Promise<number> =>
  (await stage())[n]?.[attribute]?.level ?? NaN;

interface Effect {
  name: string;
  number: number;
  speed: object;
  tracks: {
    attribute: string;
    mode: string;
    steps?: { level: number; share: number; takes?: number; palette?: string }[];
  }[];
}
const effects = async (): Promise<Effect[]> =>
  ((await script.ask(`/api/shows/${show}`)).json as { tables: { effects: Effect[] } }).tables
    .effects;

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
  await screen.fill('Make a new show', 'Lift-off night');
  await screen.press('Make show');
  await screen.says('main', 'The house is empty');
  show = await screen.showId();
  await script.ask(`/api/shows/${show}/edits`, {
    edit: 'patch-fixtures',
    params: { typeId: 'quillon-wash', mode: 'Short', quantity: 8, first: 101 },
  });
  await screen.place('stage');
  await screen.tab('Effects');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

const make = async (): Promise<void> =>
  (await screen.find('[aria-label="Make an effect"]')).click();
const dots = (): Promise<WebElement[]> =>
  screen.driver.findElements(By.css('[data-grip^="step/"]'));

/** Drags from the middle of a dot in many small moves, and back a little before it lets go. */
async function drag(dot: WebElement, dx: number, dy: number): Promise<void> {
  const MOVES = 12;
  const r = await dot.getRect();
  const from = { x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2) };
  let hand = screen.driver.actions({ async: true }).move(from).press();
  for (let i = 1; i <= MOVES + 2; i++) {
    const part = Math.min(1.1, i / MOVES);
    hand = hand.move({
      x: Math.round(from.x + dx * part),
      y: Math.round(from.y + dy * part),
      duration: 20,
    });
  }
  await hand
    .move({ x: from.x + dx, y: from.y + dy, duration: 20 })
    .release()
    .perform();
}

test('a slow rise with light and a fast return in the dark: three presses, and it is on stage', async () => {
  await screen.command('101 thru 108');
  await make();
  await (await screen.find('[aria-label="Begin from"] button[title="Lift-off"]')).click();
  await screen.says('[aria-label=Effect]', 'on 8 units');
  const tilts = new Set<string>();
  const lit = new Set<boolean>();
  await until(async () => {
    const now = await stage();
    tilts.add((now[101]?.Tilt?.level ?? 0).toFixed(2));
    lit.add((now[101]?.Dimmer?.level ?? 0) > 0.5);
    return tilts.size > 4 && lit.size === 2;
  });
  expect(await effects()).toEqual([]);
});

test('a dot is dragged anywhere, and what plays follows', async () => {
  const [first] = await dots();
  if (!first) throw new Error('no dot');
  await drag(first, -60, 12);
  await screen.says('[aria-label=Effect]', 'of the round, moving for');
  const dot = await screen.find('[data-grip="step/0/0"]');
  const said = await dot.getAttribute('aria-valuenow');
  expect(Number(said)).toBeLessThan(95);
  // Back and forth by keys, which go the same way.
  await dot.sendKeys(Key.ARROW_UP, Key.ARROW_UP);
  await until(async () => Number(await dot.getAttribute('aria-valuenow')) === Number(said) + 2);
});

test('it is kept with what was dragged, runs on, and is one step of undo', async () => {
  await screen.press('Keep');
  await until(async () => (await effects()).length === 1);
  const [lift] = await effects();
  expect(lift?.name).toBe('Lift-off');
  expect(lift?.tracks.map((t) => t.attribute)).toEqual(['Tilt', 'Dimmer']);
  const [rise, back] = lift?.tracks[0]?.steps ?? [];
  expect(rise?.takes).toBeLessThan(0.6);
  expect((rise?.takes ?? 0) + (back?.takes ?? 0)).toBeCloseTo(1, 2);
  await until(async () => ((await stage())[101]?.Tilt?.source ?? '').includes('Lift-off'));
});

test('what is changed and left leaves everything as it was', async () => {
  const before = await effects();
  await screen.tile(1, 'Open and change');
  await (
    await screen.find('[aria-label="A round takes"]')
  ).sendKeys(Key.ENTER, Key.chord(Key.CONTROL, 'a'), '9', Key.ENTER);
  await (await screen.find('[aria-label="Name of the effect"]')).sendKeys(' slower');
  await screen.press('Leave it');
  await until(async () => (await screen.count('[aria-label=Effect]')) === 0);
  expect(await effects()).toEqual(before);
  await screen.command('clear');
  await until(async () => (await at(101)) === 0);
});

test('a lane of colour goes from palette to palette, each unit to its own', async () => {
  const { tables } = (await script.ask(`/api/shows/${show}`)).json as {
    tables: { fixtures: { id: string; number: number }[] };
  };
  for (const [name, blue] of [
    ['Port', 0],
    ['Moon', 1],
  ] as const)
    await script.ask(`/api/shows/${show}/edits`, {
      edit: 'record-palette',
      params: {
        family: 'colour',
        name,
        values: tables.fixtures.flatMap(({ id }) =>
          (['R', 'G', 'B', 'W'] as const).map((c) => ({
            fixtureId: id,
            attribute: `ColorAdd_${c}`,
            level: c === 'B' ? blue : 1 - blue,
          })),
        ),
      },
    });
  await screen.command('101 thru 108 at full');
  await make();
  await screen.press('Lane');
  await (
    await screen.driver.findElement(
      By.xpath('//*[@role="menuitem"][contains(., "Colour, from palette")]'),
    )
  ).click();
  const blues = new Set<string>();
  await until(async () => {
    blues.add((await at(101, 'ColorAdd_B')).toFixed(1));
    return blues.size > 3;
  });
  await screen.press('Leave it');
  await screen.command('clear');
});

test('a reload in the middle of it loses nothing', async () => {
  await screen.command('101 thru 104');
  await make();
  const name = await screen.find('[aria-label="Name of the effect"]');
  await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Half done');
  await screen.driver.navigate().refresh();
  await until(
    async () =>
      (await (await screen.find('[aria-label="Name of the effect"]')).getAttribute('value')) ===
      'Half done',
  );
  await until(async () => ((await stage())[101]?.Dimmer?.source ?? '').includes('programmer'));
  // In another place it plays on, which is said there.
  await screen.place('run');
  await screen.says('[data-testid=tried]', 'Half done: tried, not kept');
  await screen.place('stage');
  await screen.press('Leave it');
  await until(async () => (await at(101)) === 0);
});
