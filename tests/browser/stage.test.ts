/** Making pictures: selecting, setting, spreading, aiming, looks, effects, blind, arranging, together with somebody else. */
import { Key } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';

interface Stage {
  fixtures: Record<string, Record<string, { level: number; source: string }>>;
  lists: { cue: string | null }[];
}
interface Rows {
  tables: {
    fixtures: {
      id: string;
      number: number;
      hang: string;
      position: { x: number; y: number; z: number };
    }[];
    looks: { name: string; items: { kind: string }[] }[];
    layouts: { name: string; background?: object; places?: object }[];
    groups: { name: string; fixtures: string[] }[];
    pieces: { name: string }[];
    values: { effect?: object; look?: string }[];
  };
}
const stage = async (): Promise<Stage> => (await script.ask(`/api/shows/${show}/stage`)).json;
const level = async (fixture: number, attribute = 'Dimmer'): Promise<number> =>
  (await stage()).fixtures[fixture]?.[attribute]?.level ?? NaN;
const source = async (fixture: number, attribute = 'Dimmer'): Promise<string> =>
  (await stage()).fixtures[fixture]?.[attribute]?.source ?? '';
const rows = async (): Promise<Rows['tables']> =>
  ((await script.ask(`/api/shows/${show}`)).json as Rows).tables;
const selected = (text: string): Promise<void> => screen.says('[data-testid=selected-count]', text);
const near = (a: number, b: number, by = 0.01): boolean => Math.abs(a - b) < by;

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner', { space: true });
  script = await new Script(house).signIn('owner');
  await screen.openShow('The Night Ferry');
  show = await screen.showId();
  await screen.place('stage');
  await screen.says('[data-testid=programmer-count]', 'empty');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

beforeEach(async () => {
  // A failed test leaves nothing open for the next one.
  for (let i = 0; i < 2; i++) await (await screen.find('body')).sendKeys(Key.ESCAPE);
  if ((await (await screen.find('#command')).getAttribute('value')) !== '')
    await (await screen.find('#command')).sendKeys(Key.ESCAPE);
});

test('a box, a lasso, a group, numbers and the list all select; parts of it and one by one', async () => {
  await screen.dragOnPlan({ x: -6.6, y: -2 }, { x: 6.6, y: -2.8 });
  await selected('8 selected');
  await screen.press('Odd');
  await selected('4 selected');
  await (await screen.find('[aria-label="The next one"]')).click();
  await selected('1 of 4');
  await (await screen.find('body')).sendKeys(Key.PAGE_DOWN);
  await selected('2 of 4');
  await screen.press('All');
  await selected('4 selected');
  await (await screen.find('[aria-label=Lasso]')).click();
  const corners = await Promise.all(
    [
      [-6.4, 4.2],
      [6.4, 4.2],
      [6.4, 3.1],
      [-6.4, 3.1],
    ].map(([x, y]) => screen.onPlan(x ?? 0, y ?? 0)),
  );
  const [first, ...rest] = corners;
  let hand = screen.driver
    .actions({ async: true })
    .move(first ?? { x: 0, y: 0 })
    .press();
  for (const p of rest) hand = hand.move(p);
  await hand.release().perform();
  await selected('10 selected');
  await (await screen.find('[aria-label=Select]')).click();
  await screen.tab('List');
  await (await screen.find('[aria-label="Fixtures as a list"] [role=option]')).click();
  await selected('1 selected');
  await screen.tab('Plan');
  await screen.command('type tern par every 3');
  await selected('4 selected');
});

test('the same colour on unlike units, with what remains said as ΔE', async () => {
  await screen.command('41 + 81 + 111 at full');
  await (await screen.find('button[aria-label="Blood"]')).click();
  await until(
    async () => (await level(41, 'ColorAdd_R')) > 0.9 && (await level(111, 'ColorSub_M')) > 0.9,
  );
  await screen.says('section[aria-label=Colour]', /is ΔE \d+ off/);
  await screen.command('41 + 81 + 111 white 3200');
  await until(
    async () =>
      near(await level(111, 'ColorSub_C'), 0, 0.05) && (await level(111, 'ColorSub_Y')) > 0.3,
  );
  await screen.says('section[aria-label=Colour]', /White 3\d\d\d/);
  await (
    await screen.find('[aria-label="White value"]')
  ).sendKeys(Key.ENTER, Key.chord(Key.CONTROL, 'a'), '5600', Key.ENTER);
  await screen.says('section[aria-label=Colour]', /5[56]\d\d/);
});

test('a value is typed as it is, as more, as times; a fan is spread from its button', async () => {
  await screen.command('1 thru 8 at 50');
  const value = async (text: string): Promise<void> => {
    const field = await screen.find('[aria-label="Intensity value"]');
    await screen.driver.actions({ async: true }).doubleClick(field).perform();
    await (
      await screen.find('input[aria-label="Intensity value"]')
    ).sendKeys(Key.chord(Key.CONTROL, 'a'), text, Key.ENTER);
  };
  await value('+10');
  await until(async () => near(await level(1), 0.6));
  await value('*0.5');
  await until(async () => near(await level(1), 0.3));
  const fan = await screen.find('[aria-label="Fan intensity"]');
  await fan.sendKeys(Key.ENTER);
  await screen.fill('From, %', '20');
  await screen.fill('To', '80');
  await screen.press('Spread intensity');
  await until(
    async () =>
      near(await level(1), 0.2) && near(await level(8), 0.8) && near(await level(4), 0.457),
  );
  await screen.driver
    .actions({ async: true })
    .move({ origin: fan })
    .press()
    .move({ origin: fan, x: -30, y: 0 })
    .move({ origin: fan, x: -70, y: 0 })
    .release()
    .perform();
  await until(async () => (await level(8)) < 0.7 && (await level(1)) > 0.25);
});

test('times of what is held, one for all and spread', async () => {
  await (await screen.find('[aria-label="Times of intensity"]')).click();
  await screen.fill('To', '4');
  await screen.press('Spread');
  await (await screen.find('body')).sendKeys(Key.ESCAPE);
  await screen.says('[aria-label="Times of intensity"]', '0.0–4.0 s');
  await screen.command('1 thru 8 time 2 delay 1');
  await screen.says('[aria-label="Times of intensity"]', /2\.0 s.*\+1\.0/);
});

test('heads look where the plan is clicked, along a line, the other way round; what cannot is said', async () => {
  await screen.command('101 thru 104 at full');
  const before = await level(101, 'Pan');
  await (await screen.find('button[title^="Click where they should look"]')).click();
  const at = await screen.onPlan(2, 3);
  await screen.driver.actions({ async: true }).move(at).press().release().perform();
  await until(async () => !near(await level(101, 'Pan'), before, 0.005));
  await (await screen.find('body')).sendKeys(Key.ESCAPE);
  const pan = await level(101, 'Pan');
  await (await screen.find('[aria-label=Flip]')).click();
  await until(async () => near(Math.abs((await level(101, 'Pan')) - pan) * 540, 180, 1));
  await (await screen.find('button[title^="Drag a line"]')).click();
  await screen.dragOnPlan({ x: -3, y: 2 }, { x: 3, y: 2 });
  await until(
    async () =>
      !near(await level(101, 'Tilt'), await level(102, 'Tilt'), 1e-9) ||
      (await source(101, 'Pan')).includes('programmer'),
  );
  await (await screen.find('[aria-label="Times of position"]')).click();
  await (await screen.find('[role=dialog][aria-label="Times of position"] select')).sendKeys('Pan');
  await screen.fill('Fade, s', `3${Key.ENTER}`);
  await (await screen.find('body')).sendKeys(Key.ESCAPE);
  await screen.says('[aria-label="Times of position"]', '0.0–3.0 s');
  await screen.typed('111 aim at 0 -200 190');
  await (await screen.find('#command')).sendKeys(Key.ENTER);
  await screen.says('[data-testid=message-line]', '111 cannot look there');
  expect(await (await screen.find('#command')).getAttribute('value')).toBe('111 aim at 0 -200 190');
});

test('a stage point is a palette that heads find from wherever they hang', async () => {
  await screen.command('clear');
  await screen.command('101 + 103 aim at 1 4 1.6');
  await screen.command('record position palette 90 "Crow’s nest" for any');
  await screen.tab('Position');
  await screen.shelfTile(90);
  await screen.says('[data-tile="90"]', 'Crow’s nest');
  await screen.command('101 palette 90');
  const before = await level(101, 'Pan');
  await screen.command('101 place -5.5 1.6');
  await until(async () => !near(await level(101, 'Pan'), before, 0.01));
  await (await screen.find('[aria-label="Undo your last edit (Ctrl Z)"]')).click();
  await until(async () => near(await level(101, 'Pan'), before, 1e-4));
  await screen.command('clear');
});

test('a palette is updated with the cues that look different, before and after', async () => {
  await screen.command('clear');
  await screen.command('61 at full');
  await screen.command('61 white 3000');
  await screen.tab('Colour');
  await screen.tile(5, 'Update with what you hold');
  await screen.says('[data-testid=palette-consequences]', '8 Open water');
  expect(
    await screen.count('[data-testid=palette-consequences] svg[aria-label=After]'),
  ).toBeGreaterThan(0);
  await screen.press('Leave it');
  await screen.tile(1, 'Find its uses');
  await screen.says('[role=dialog]', 'values');
  await (await screen.find('[role=dialog] [aria-label=Close]')).click();
  await screen.command('clear');
});

test('a look is recorded, goes into a cue by reference, and its tweak reaches the cue', async () => {
  await screen.command('11 thru 14 at 40');
  await screen.command('19 + 20 at 60');
  await screen.tab('Looks');
  await (await screen.find('[aria-label="Record a look of what you hold"]')).click();
  await screen.fill('Name', 'Deck glow');
  await screen.press('Record look');
  await until(async () => (await rows()).looks.some((l) => l.name === 'Deck glow'));
  await screen.command('clear');
  await screen.command('goto 22 time 0');
  await (await screen.shelfTile(6)).click();
  await until(async () => (await source(11)).includes('look 6 Deck glow'));
  await screen.command('record cue 23 "Glow" time 0');
  await until(async () => (await source(11)) === 'cue 23, look 6 Deck glow');
  await screen.tile(6, 'Open and tweak');
  await screen.says('[role=dialog]', '11–14 intensity 40 %');
  await screen.says('[role=dialog]', 'cue 23 Glow');
  await (await screen.find('[aria-label="Take out 19–20 intensity 60 %"]')).click();
  await screen.says('[data-testid=palette-consequences]', '23 Glow');
  await screen.press('Leave it as it was');
  await screen.command('11 thru 14 at 70');
  await screen.command('update look 6');
  await screen.command('clear');
  await until(async () => near(await level(11), 0.7));
});

test('an effect runs over the selection, is changed under way, and is taken off again', async () => {
  await screen.command('27 thru 36 at 50');
  await screen.tab('Effects');
  await (await screen.shelfTile(3)).click();
  await until(async () => (await source(27)).includes('effect 3 Wave'));
  const seen = new Set<string>();
  await until(async () => {
    seen.add((await level(27)).toFixed(1));
    return seen.size > 3;
  });
  await screen.tile(3, 'Open and change');
  await screen.says('[aria-label=Effect]', 'effect 3 · on 10 units');
  await (
    await screen.find('[aria-label="Rounds a second"]')
  ).sendKeys(Key.ENTER, Key.chord(Key.CONTROL, 'a'), '2', Key.ENTER);
  await screen.press('Keep');
  await until(async () => (await screen.count('[aria-label=Effect]')) === 0);
  await (await screen.shelfTile(3)).click();
  await until(async () => !(await source(27)).includes('effect'));
  await screen.command('clear');
});

test('blind: what is set is kept, shown here, and not on stage; a reload loses nothing', async () => {
  await screen.command('goto 2 time 0');
  await (await screen.find('body')).sendKeys(Key.chord(Key.ALT, Key.SHIFT, 'b'));
  await screen.says('main', 'Blind: the stage with what you hold on it');
  await screen.command('9 at full');
  await screen.says('[data-testid=programmer-count]', '1 value, 1 fixture');
  expect(await level(9)).toBe(0);
  await screen.driver.navigate().refresh();
  await screen.says('[data-testid=programmer-count]', '1 value, 1 fixture');
  await screen.says('main', 'Blind: the stage');
  await screen.press('Live');
  await until(async () => near(await level(9), 1));
  await screen.command('clear');
  await until(async () => near(await level(9), 0));
  await screen.command('bring back');
  await until(async () => near(await level(9), 1));
  await screen.command('clear');
});

test('what is lit is taken, line by line it is let go, one family is kept', async () => {
  await screen.command('goto 9 time 0');
  await until(async () => (await stage()).lists[0]?.cue === '9');
  await screen.command('9 + 111 take lit');
  await (await screen.find('[aria-label="What is held, line by line"]')).click();
  await screen.says('[aria-label="What is held"]', 'Special 1');
  await screen.driver.executeScript(
    'document.querySelector(\'[aria-label="Let go of 9"]\').click()',
  );
  await until(
    async () => !(await screen.words('[aria-label="What is held"]')).includes('Special 1'),
  );
  await screen.command('keep position');
  await screen.says('[data-testid=programmer-count]', '2 values, 1 fixture');
  await (await screen.find('[aria-label="What is held, line by line"]')).click();
  await screen.command('clear');
});

test('arranging: a unit is dragged onto a bar, units are put in line, a bar takes what hangs on it along', async () => {
  await screen.press('Arrange');
  const unit = async (n: number) => (await rows()).fixtures.find((f) => f.number === n);
  const start = (await unit(113))?.position ?? { x: 0, y: 0 };
  await screen.dragOnPlan(start, { x: -1.6, y: 3.7 });
  await until(async () => (await unit(113))?.hang === 'Bar 2');
  expect((await unit(113))?.position.y).toBe(3.6);
  await screen.command('9 + 10 + 113');
  await screen.press('↔ line');
  await until(async () => (await unit(9))?.position.y === (await unit(113))?.position.y);
  await screen.command('all none');
  const house_ = (await unit(1))?.position ?? { x: 0, y: 0 };
  await screen.dragOnPlan({ x: 0, y: -2.4 }, { x: 0, y: -2.9 });
  await until(async () => near((await unit(1))?.position.y ?? 0, house_.y - 0.5, 0.1));
  await screen.press('+ Bar');
  await screen.dragOnPlan({ x: -3, y: -1.6 }, { x: 3, y: -1.6 });
  await until(async () => (await rows()).pieces.some((p) => p.name === 'Bar 5'));
  await screen.press('Arrange');
});

test('a layout of its own, with a picture under it; what is no picture is refused', async () => {
  await screen.command('41 thru 46');
  await screen.driver.executeScript(
    "const s = document.querySelector('[aria-label=Layout]'); s.value = '+'; s.dispatchEvent(new Event('change', { bubbles: true }))",
  );
  await screen.fill('Name', 'Front row');
  await screen.press('Make layout');
  await until(async () => Object.keys((await rows()).layouts[0]?.places ?? {}).length === 6);
  expect(await (await screen.find('[data-testid=plan]')).getAttribute('aria-label')).toContain(
    '6 fixtures',
  );
  await screen.press('Arrange');
  const png =
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  const give = async (type: string, body: string): Promise<void> =>
    screen.driver.executeScript(
      "const bytes = Uint8Array.from(atob(arguments[1]), (c) => c.charCodeAt(0)); const d = new DataTransfer(); d.items.add(new File([bytes], 'ground.png', { type: arguments[0] })); const f = document.querySelector('input[type=file]'); f.files = d.files; f.dispatchEvent(new Event('change', { bubbles: true }))",
      type,
      body,
    );
  await give('image/png', png);
  await until(async () => (await rows()).layouts[0]?.background !== undefined);
  await give('image/png', 'bm8gcGljdHVyZQ==');
  await screen.says('[data-testid=message-line]', 'no picture that can be read');
  await screen.press('Arrange');
  await screen.driver.executeScript(
    "const s = document.querySelector('[aria-label=Layout]'); s.value = ''; s.dispatchEvent(new Event('change', { bubbles: true }))",
  );
});

test('groups are changed in place, hold others, and never themselves', async () => {
  await screen.driver.executeScript(
    'document.querySelector(\'[aria-label="Change group Washes"]\').click()',
  );
  await screen.says('[role=dialog]', 'Order matters');
  const spots = (await rows()).groups.find((g) => g.name === 'Movers');
  expect(spots?.fixtures.length).toBe(2);
  await screen.driver.executeScript(
    "const s = [...document.querySelectorAll('[role=dialog] select')].at(-1); s.value = [...s.options].find((o) => o.textContent.includes('Movers')).value; s.dispatchEvent(new Event('change', { bubbles: true }))",
  );
  await screen.press('Save');
  await screen.says('[data-testid=message-line]', 'would be in itself, through group 16 “Movers”');
  await screen.press('Leave it');
});

test('the stage in space draws the same light; a click on its floor aims', async () => {
  await screen.command('101 thru 104 at full');
  await screen.tab('Space');
  await screen.find('[data-testid=space] canvas');
  await until(
    async () =>
      ((await screen.driver.executeScript<number>('return window.wingmanSpace?.frames ?? 0')) ??
        0) > 3,
  );
  const before = await level(102, 'Tilt');
  await (await screen.find('button[title^="Click where they should look"]')).click();
  await screen.says('main', 'Click where the selected heads');
  const space = await screen.find('[data-testid=space]');
  await screen.driver
    .actions({ async: true })
    .move({ origin: space, x: 30, y: 90 })
    .press()
    .release()
    .perform();
  await until(async () => !near(await level(102, 'Tilt'), before, 0.003));
  await (await screen.find('body')).sendKeys(Key.ESCAPE);
  await screen.tab('Plan');
  await screen.command('clear');
});

test('a stage that was turned by hand stays so while the rig changes, and after a look at the plan', async () => {
  await screen.tab('Space');
  const look = async (): Promise<string | null> =>
    (await screen.find('[data-testid=space] canvas')).getAttribute('data-look');
  await until(async () => (await look()) !== null);
  const before = await look();
  const space = await screen.find('[data-testid=space]');
  let hand = screen.driver.actions({ async: true }).move({ origin: space, x: -60, y: 0 }).press();
  for (let x = -50; x <= 90; x += 10) hand = hand.move({ origin: space, x, y: 12, duration: 20 });
  await hand.release().perform();
  await until(async () => (await look()) !== before);
  const turned = await look();
  await screen.driver.executeScript(
    "document.querySelector('[data-testid=space] canvas').dataset.before = 'yes'",
  );
  const unit = (await rows()).fixtures.find((f) => f.number === 102);
  const position = { x: 1, y: 1, z: 5, ...unit?.position };
  await script.ask(`/api/shows/${show}/edits`, {
    edit: 'change-fixtures',
    params: {
      fixtures: [{ id: unit?.id, set: { position: { ...position, x: position.x + 0.1 } } }],
    },
  });
  await until(
    async () => (await screen.count('[data-testid=space] canvas:not([data-before])')) > 0,
  );
  await until(async () => (await look()) !== null);
  expect(await look()).toBe(turned);
  await screen.tab('Plan');
  await screen.tab('Space');
  await until(async () => (await look()) !== null);
  expect(await look()).toBe(turned);
  await screen.press('Front');
  await until(async () => (await look()) === before);
  await screen.tab('Plan');
});

test('all kinds of tiles are in sight beside the plan, each where it can be pressed', async () => {
  const hidden = await screen.driver.executeScript<string[]>(
    `const kinds = [...document.querySelectorAll('[aria-label=Shelf] button')];
    return kinds.filter((kind) => {
      const r = kind.getBoundingClientRect();
      const top = document.elementFromPoint(r.right - 4, r.y + r.height / 2);
      return !kind.contains(top);
    }).map((kind) => kind.textContent);`,
  );
  expect(await screen.count('[aria-label=Shelf] button')).toBe(6);
  expect(hidden).toEqual([]);
});

test('where no place is, it says so, though every object has something of that name', async () => {
  const here = await screen.driver.getCurrentUrl();
  for (const place of ['nowhere', 'constructor']) {
    await screen.driver.get(`${house.url}/shows/${show}/${place}`);
    await screen.says('main', 'There is nothing here');
  }
  await screen.driver.get(here);
  await screen.find('[data-testid=programmer-count]');
});

test('a line is completed with Tab, and comes back after a reload', async () => {
  await screen.typed('group ');
  await (await screen.find('#command')).sendKeys('"Spo', Key.TAB);
  expect(await (await screen.find('#command')).getAttribute('value')).toBe('group "Spots" ');
  await (await screen.find('#command')).sendKeys(Key.ENTER);
  await selected('4 selected');
  await screen.driver.navigate().refresh();
  await selected('4 selected');
  await (await screen.find('#command')).sendKeys(Key.ARROW_UP);
  expect(await (await screen.find('#command')).getAttribute('value')).toBe('group "Spots" ');
  await (await screen.find('#command')).sendKeys(Key.ESCAPE);
});

test('somebody else’s hands are seen: what they hold, line by line, and that they are there', async () => {
  const other = await Screen.open(house, 'programmer');
  await other.openShow('The Night Ferry');
  await other.place('stage');
  await other.command('12 thru 14 at 33');
  await screen.says('[aria-label="Your programmer"]', 'holds 3 values');
  await (await screen.find('[aria-label="What is held, line by line"]')).click();
  await screen.driver.executeScript(
    "const s = document.querySelector('[aria-label=\"Whose programmer\"]'); s.value = s.options[1].value; s.dispatchEvent(new Event('change', { bubbles: true }))",
  );
  await screen.says('[aria-label="What is held"]', /12 Deck 2 Intensity by hand 33 %/);
  expect(await screen.count('[aria-label^="Let go of 12"]')).toBe(0);
  await other.command('clear');
  await until(async () => !(await screen.words('[aria-label="What is held"]')).includes('Deck 2'));
  await other.close();
});
