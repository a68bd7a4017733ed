/** Palettes: recorded from what is held, applied to unlike fixtures, followed by cues, updated with the consequences said. */
import { Key } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';
const level = async (
  fixture: number,
  attribute = 'Dimmer',
): Promise<{ level: number; source: string } | undefined> =>
  (
    (await script.ask(`/api/shows/${show}/stage`)).json as {
      fixtures: Record<string, Record<string, { level: number; source: string }>>;
    }
  ).fixtures[fixture]?.[attribute];

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
  await screen.fill('Make a new show', 'Colour night');
  await screen.press('Make show');
  await screen.says('main', 'The house is empty');
  show = await screen.showId();
  const patch = (params: unknown): Promise<unknown> =>
    script.ask(`/api/shows/${show}/edits`, { edit: 'patch-fixtures', params });
  await patch({ typeId: 'aldersund-tern', mode: 'RGBW', quantity: 2, first: 11 });
  await patch({ typeId: 'aldersund-skerry', mode: 'Direct', quantity: 2, first: 21 });
  await screen.place('stage');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

test('a colour of one unit is kept as a palette and means the same on another kind', async () => {
  await screen.command('11 at full');
  await (await screen.find('button[aria-label="Port red"]')).click();
  await until(async () => ((await level(11, 'ColorAdd_B'))?.level ?? 1) < 0.3);
  await (await screen.find('[aria-label="Record a palette of what you hold"]')).click();
  await screen.driver.executeScript(
    "const s = document.querySelector('[role=dialog] select'); s.value = 'colour'; s.dispatchEvent(new Event('change', { bubbles: true }))",
  );
  await screen.fill('Name', 'Brick');
  await screen.press('Record palette');
  await screen.says('[aria-label=Palettes]', 'Brick');
  await screen.typed('21 palette 1');
  await screen.says(
    '[data-testid=says]',
    '1 fixture · colour follows palette 1 “Brick” · into your programmer',
  );
  await screen.command('21 palette 1');
  await until(
    async () =>
      ((await level(21, 'ColorAdd_R'))?.level ?? 0) > 0.9 &&
      ((await level(21, 'ColorAdd_C'))?.level ?? 1) < 0.2,
  );
});

test('a cue follows it; an update says which cues look different, and changes them all', async () => {
  await screen.command('record cue 1 "Red"');
  await screen.command('clear');
  await until(async () => (await level(21, 'ColorAdd_R'))?.source === 'cue 1, palette 1 Brick');
  await screen.command('11');
  await (await screen.find('button[aria-label="Moon steel"]')).click();
  await until(async () => ((await level(11, 'ColorAdd_B'))?.level ?? 0) > 0.5);
  await screen.tile(1, 'Update with what you hold');
  await screen.says('[data-testid=palette-consequences]', '1 Red');
  await screen.press('Update');
  await screen.command('clear');
  await until(async () => ((await level(21, 'ColorAdd_B'))?.level ?? 0) > 0.3);
});

test('a palette that says nothing for the selection says so; deleted, the cue keeps its look', async () => {
  await script.ask(`/api/shows/${show}/edits`, {
    edit: 'patch-fixtures',
    params: { typeId: 'generic-dimmer', mode: '8 bit', quantity: 1, first: 1 },
  });
  await screen.typed('1 palette 1');
  await screen.says('[data-testid=says]', 'Palette 1 “Brick” says nothing for 1');
  const before = (await level(21, 'ColorAdd_B'))?.level;
  await screen.typed('');
  await screen.tile(1, 'Delete');
  await screen.says('[role=dialog]', '1 use: 1 Red');
  await screen.press('Delete, they keep its levels');
  await until(async () => (await level(21, 'ColorAdd_B'))?.source === 'cue 1');
  expect((await level(21, 'ColorAdd_B'))?.level).toBeCloseTo(before ?? -1, 3);
});

test('tiles are put in order by the hand and by Alt with the arrows; a press stays a press', async () => {
  await script.ask(`/api/shows/${show}/edits`, { edit: 'add-standard-effects', params: {} });
  await screen.tab('Effects');
  await until(async () => (await screen.count('[data-tile]')) >= 4);
  const order = (): Promise<number[]> =>
    screen.driver.executeScript(
      "return [...document.querySelectorAll('[data-tile]')].map((e) => Number(e.dataset.tile))",
    );
  const [first = 0, second = 0, third = 0] = await order();
  const middle = async (tile: number): Promise<{ x: number; y: number }> => {
    const place = async () => (await screen.find(`[data-tile="${tile}"]`)).getRect();
    // Tiles glide to their places: a hand takes one that lies still.
    let r = await place();
    await until(async () => {
      const before = r;
      r = await place();
      return before.x === r.x && before.y === r.y;
    });
    return { x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2) };
  };
  const drag = async (from: number, to: number): Promise<void> => {
    const [a, b] = [await middle(from), await middle(to)];
    const steps = 8;
    let hand = screen.driver.actions({ async: true }).move(a).press();
    for (let i = 1; i <= steps; i++)
      hand = hand.move({
        x: Math.round(a.x + ((b.x - a.x) * i) / steps),
        y: Math.round(a.y + ((b.y - a.y) * i) / steps),
        duration: 30,
      });
    await hand.release().perform();
  };
  await drag(first, third);
  await until(async () => (await order()).slice(0, 3).join() === [second, third, first].join());
  await drag(first, second);
  await until(async () => (await order()).slice(0, 3).join() === [first, second, third].join());
  const tile = await screen.find(`[data-tile="${second}"]`);
  await tile.sendKeys(Key.chord(Key.ALT, Key.ARROW_RIGHT));
  await until(async () => (await order()).slice(0, 3).join() === [first, third, second].join());
  await tile.sendKeys(Key.chord(Key.ALT, Key.ARROW_LEFT));
  await until(async () => (await order()).slice(0, 3).join() === [first, second, third].join());
  // None of it has put an effect on anything.
  expect(await screen.count('[data-tile][aria-pressed=true]')).toBe(0);
});
