/** A house written in the table, units on the address map, cells of the cue sheet: by mouse and keys, as people do. */
import { Key, Origin, type WebElement } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(240_000);
let house: House;
let owner: Script;
let screen: Screen;
let show = '';
const { CONTROL, SHIFT, ENTER, ESCAPE, DELETE } = Key;

interface Fixture {
  id: string;
  number: number;
  label: string;
  hang: string;
  patch: { universe: number; address: number }[];
  watts?: number;
}
interface Cue {
  id: string;
  listId: string;
  number: number;
  name: string;
  up_s: number;
  down_s: number;
  follow_s: number | null;
  call: string;
}
interface Rows {
  seq: number;
  tables: {
    fixtures: Fixture[];
    cues: Cue[];
    settings: { aside?: Record<string, { word: string }> }[];
    values: { cueId: string }[];
  };
}
const rows = async (): Promise<Rows> => (await owner.ask(`/api/shows/${show}`)).json;
const fixtures = async (): Promise<Fixture[]> =>
  (await rows()).tables.fixtures.sort((a, b) => a.number - b.number);
const fixture = async (number: number): Promise<Fixture | undefined> =>
  (await fixtures()).find((f) => f.number === number);
const places = async (number: number): Promise<string> =>
  ((await fixture(number))?.patch ?? []).map((p) => `${p.universe}.${p.address}`).join(', ');
const keys = (...text: string[]) =>
  screen.driver
    .actions()
    .sendKeys(...text)
    .perform();
/** A cell, scrolled to where it is drawn: the table draws only what is in sight. */
async function cell(number: number, column: string): Promise<WebElement> {
  const css = `[data-fixture="${number}"] [role=gridcell][data-column="${column}"]`;
  const before = (await fixtures()).filter((f) => f.number < number).length;
  await until(async () => {
    // Whole, under the head of the table.
    const seen = await screen.driver.executeScript<boolean>(
      "const c = document.querySelector(arguments[0])?.getBoundingClientRect(); const g = document.querySelector('[role=grid][aria-label=Fixtures]').getBoundingClientRect(); return c !== undefined && c.top > g.top + 32 && c.bottom < g.bottom",
      css,
    );
    if (seen) return true;
    await screen.driver.executeScript(
      "document.querySelector('[role=grid][aria-label=Fixtures]').scrollTop = Math.max(0, arguments[0] - 3) * 30",
      before,
    );
    return false;
  });
  return screen.find(css);
}
const undo = async (): Promise<void> =>
  void (await owner.ask(`/api/shows/${show}/undo`, { way: 'undo' }));
/** Chooses a column from one number to another, as far as the table has to be scrolled. */
async function block(column: string, from: number, to: number): Promise<void> {
  await (await cell(from, column)).click();
  await screen.driver
    .actions()
    .keyDown(SHIFT)
    .sendKeys(...Array.from({ length: to - from }, () => Key.ARROW_DOWN))
    .keyUp(SHIFT)
    .perform();
}

beforeAll(async () => {
  house = await openHouse();
  owner = await new Script(house).signIn('owner');
  show = ((await owner.ask('/api/shows', { name: 'The rebuilt house' })).json as { id: string }).id;
  screen = await Screen.open(house, 'owner');
  await screen.openShow('The rebuilt house');
  await screen.place('rig');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

test('a house of 36 dimmers is written in the table: labels, bars, watts, addresses; each entry one edit, undone by one step', async () => {
  await screen.command('patch 36 dimmer from 1 at 1.1');
  await until(async () => (await fixtures()).length === 36);
  await screen.find('[data-fixture="1"]');
  let { seq } = await rows();
  const once = async (): Promise<void> => {
    const now = (await rows()).seq;
    expect(now).toBe(seq + 1);
    seq = now;
  };
  await block('label', 1, 36);
  await keys('Circuit #', ENTER);
  await until(async () => (await fixture(36))?.label === 'Circuit 36');
  await once();
  for (const [from, to, bar] of [
    [1, 12, 'FOH bridge'],
    [13, 24, 'Bar 1'],
    [25, 36, 'Bar 2'],
  ] as const) {
    await block('hang', from, to);
    await keys(bar, ENTER);
    await until(async () => (await fixture(to))?.hang === bar);
    await once();
  }
  await block('watts', 1, 12);
  await keys('1200', ENTER);
  await until(async () => (await fixture(12))?.watts === 1200);
  await once();
  // An address for the first, counted on for the others.
  await (await cell(1, 'address')).click();
  await keys('2.101', ENTER);
  await until(async () => (await places(1)) === '2.101');
  await once();
  await block('address', 1, 36);
  await screen.driver
    .actions()
    .keyDown(CONTROL)
    .keyDown(SHIFT)
    .sendKeys('d')
    .keyUp(SHIFT)
    .keyUp(CONTROL)
    .perform();
  await until(async () => (await places(36)) === '2.136');
  await once();
  // Esc in the middle, a refusal, Enter twice: nothing more than was meant.
  await (await cell(5, 'label')).click();
  await keys('Not this', ESCAPE);
  await (await cell(5, 'address')).click();
  await keys('2.110', ENTER);
  await screen.says('[data-testid=message-line]', 'would sit on 10');
  await (await cell(6, 'label')).click();
  await keys('Sixth', ENTER, ENTER, ESCAPE);
  await until(async () => (await fixture(6))?.label === 'Sixth');
  await new Promise((done) => setTimeout(done, 300));
  expect((await rows()).seq).toBe(seq + 1);
  expect([(await fixture(5))?.label, await places(5)]).toEqual(['Circuit 5', '2.105']);
  for (let i = 0; i < 3; i++) await undo();
  await until(async () => (await places(36)) === '1.36' && (await places(1)) === '1.1');
  expect((await fixture(36))?.label).toBe('Circuit 36');
});

test('500 cells into three columns: what has no place is left out and said, the rest is one edit', async () => {
  const { seq } = await rows();
  const text = Array.from({ length: 100 }, (_, r) =>
    [`P${r + 1}`, 'x', 'y', '', 'z'].join('\t'),
  ).join('\n');
  await (await cell(30, 'label')).click();
  await screen.driver.executeScript(
    "const data = new DataTransfer(); data.setData('text/plain', arguments[0]); document.querySelector('[role=grid][aria-label=Fixtures]').dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))",
    text,
  );
  await until(async () =>
    /cells had no place|no address|swap the type/.test(
      await screen.words('[data-testid=message-line]'),
    ),
  );
  await new Promise((done) => setTimeout(done, 300));
  expect((await rows()).seq).toBeLessThanOrEqual(seq + 1);
});

test('on the map: a box selects, Delete takes off the rig, the menu puts back, and where the address is taken the next free one is offered', async () => {
  const [a, b] = [await screen.cell(1), await screen.cell(8)];
  const empty = await screen.cell(65);
  let actions = screen.driver.actions({ async: true }).move({ x: empty.x, y: empty.y }).press();
  for (let i = 1; i <= 8; i++)
    actions = actions.move({
      x: Math.round(empty.x + ((b.x + 4 - empty.x) * i) / 8),
      y: Math.round(empty.y + ((a.y - 6 - empty.y) * i) / 8),
      duration: 20,
    });
  await actions.release().perform();
  await screen.says('aside[aria-label=Fixture]', '8 selected');
  await keys(DELETE);
  await until(async () => (await places(8)) === '');
  await screen.command('patch 1 dimmer from 90 at 1.3');
  await until(async () => (await places(90)) === '1.3');
  await screen.command('3');
  await screen.driver
    .actions()
    .contextClick(await cell(3, 'label'))
    .perform();
  await screen.says('[aria-label="Fixture menu"]', 'Back on the rig');
  await screen.driver
    .findElement({ xpath: '//*[@role="menuitem"][normalize-space(.)="Back on the rig"]' })
    .click();
  await screen.says('[data-testid=back-says]', 'would sit on 90');
  await screen.press('Put it there');
  await until(async () => (await places(3)) !== '');
  expect(await places(3)).not.toBe('1.3');
  // By keys: arrows move the cursor, Shift takes more.
  const map = await screen.find('[data-testid=address-map]');
  await screen.driver.executeScript('arguments[0].focus()', map);
  await keys(Key.ARROW_RIGHT);
  await screen.driver
    .actions()
    .keyDown(SHIFT)
    .sendKeys(...Array.from({ length: 31 }, () => Key.ARROW_RIGHT))
    .keyUp(SHIFT)
    .perform();
  await until(async () => /selected/.test(await screen.words('aside[aria-label=Fixture]')));
});

test('several more addresses in one go, and new units that do what one does', async () => {
  await screen.command('20');
  await screen.press('Also at …');
  await (await screen.find('aside[aria-label=Fixture] form input')).sendKeys('3.1, 3.10, 3.20 x3');
  await screen.press('Add 5');
  await until(async () => (await places(20)) === '1.20, 3.1, 3.10, 3.20, 3.21, 3.22');
  await screen.command('20 at 60');
  await screen.command('record cue 1 "House"');
  await screen.command('clear');
  await screen.command('20');
  await screen.press('Copy to …');
  await screen.tab('New units');
  await screen.fill('How many', '3');
  await screen.fill('First number', '201');
  await screen.says(
    '[data-testid=copy-says]',
    /Patches 3 fixtures, 201–203.*copied the programming of 20 to 201–203/,
  );
  await screen.press('Patch and copy');
  await until(async () => (await fixture(203)) !== undefined);
  const { tables } = await rows();
  expect(tables.values.filter((v) => v.cueId === tables.cues[0]?.id)).toHaveLength(4);
});

test('the patch form is empty-handed after patching: a second Enter patches nothing', async () => {
  await screen.pick('dimmer', 'Generic Dimmer, 8 bit');
  const after = (await fixtures()).length + 1;
  await screen.press('Patch 1 fixture');
  await until(async () => (await fixtures()).length === after);
  await until(
    async () =>
      !(await (
        await screen.find('section[aria-label=Patch] form button[type=submit]')
      ).isEnabled()),
  );
  await keys(ENTER, ENTER);
  await new Promise((done) => setTimeout(done, 400));
  expect((await fixtures()).length).toBe(after);
});

test('a finding that is meant is put aside with a word, and taken up again', async () => {
  await owner.ask(`/api/shows/${show}/edits`, {
    edit: 'record-group',
    params: { name: 'Nobody', fixtures: [(await fixture(36))?.id] },
  });
  await owner.ask(`/api/shows/${show}/edits`, {
    edit: 'delete-fixtures',
    params: { ids: [(await fixture(36))?.id] },
  });
  await screen.tab('Fixtures');
  await (
    await screen.driver.findElement({
      xpath: '//*[@role="tab"][starts-with(normalize-space(.), "Findings")]',
    })
  ).click();
  await until(async () => (await screen.count('[aria-label=Findings] li')) > 0);
  const before = await screen.count('[aria-label=Findings] li');
  await screen.press('Put aside …');
  await (await screen.find('[aria-label="Why it is meant"]')).sendKeys('on tour', ENTER);
  await until(async () => (await screen.count('[aria-label=Findings] li')) === before - 1);
  expect(Object.values((await rows()).tables.settings[0]?.aside ?? {}).map((a) => a.word)).toEqual([
    'on tour',
  ]);
  await (await screen.driver.findElement({ xpath: '//summary[contains(., "put aside")]' })).click();
  await screen.press('Take up again');
  await until(async () => (await screen.count('[aria-label=Findings] li')) === before);
  await screen.tab('Fixtures');
});

describe('cells of the cue sheet', () => {
  const cues = async (): Promise<Cue[]> =>
    (await rows()).tables.cues.sort((a, b) => a.number - b.number);
  const named = async (name: string): Promise<Cue | undefined> =>
    (await cues()).find((c) => c.name === name);
  const row = (cue: string, what: string): Promise<WebElement> =>
    screen.find(`[data-sheet-cue="${cue}"] [data-cell=${what}]`);
  const type = async (cue: string, what: string, text: string, end = ENTER): Promise<void> => {
    await screen.driver
      .actions()
      .doubleClick(await row(cue, what))
      .perform();
    await screen.find('[data-testid=cue-sheet] input');
    await keys(text, end);
    await until(async () => (await screen.count('[data-testid=cue-sheet] input')) === 0);
  };
  beforeAll(async () => {
    await screen.command('make 5 cues from 2 "Scene #"');
    await screen.place('book');
    await screen.find('[data-sheet-cue="6"]');
  });

  test('a double click changes number, name, times and what lets it begin; Esc leaves it, a click elsewhere keeps it', async () => {
    await type('2', 'name', 'Overture');
    await until(async () => (await named('Overture')) !== undefined);
    await type('2', 'times', '1:30/15s');
    await until(async () => (await named('Overture'))?.up_s === 90);
    expect((await named('Overture'))?.down_s).toBe(15);
    await type('3', 'trigger', '4s');
    await until(async () => (await named('Overture'))?.follow_s === 4);
    await type('3', 'trigger', '“Cast off!”');
    await until(async () => (await named('Overture'))?.follow_s === null);
    expect((await cues()).find((c) => c.number === 3000)?.call).toBe('Cast off!');
    await type('6', 'number', '5.5');
    await until(async () => (await cues()).some((c) => c.number === 5500));
    const { seq } = await rows();
    await type('4', 'name', 'Not this', ESCAPE);
    await type('4', 'times', 'soon');
    await screen.says('[data-testid=message-line]', '“soon” is no time');
    expect((await rows()).seq).toBe(seq);
    await screen.driver
      .actions()
      .doubleClick(await row('4', 'name'))
      .perform();
    await screen.find('[data-testid=cue-sheet] input');
    await keys('Kept by a click');
    await (await screen.find('[data-testid=sheet-says]')).click();
    await until(async () => (await named('Kept by a click'))?.number === 4000);
    expect((await rows()).seq).toBe(seq + 1);
  });

  test('a time typed into one of many that are chosen is for all of them, and down a column from one to the next', async () => {
    const times = async (): Promise<number[]> => (await cues()).map((c) => c.up_s);
    await (await row('3', 'number')).click();
    await screen.driver
      .actions()
      .keyDown(Key.SHIFT)
      .click(await row('5', 'number'))
      .keyUp(Key.SHIFT)
      .perform();
    const before = (await rows()).seq;
    await type('4', 'times', '6/8');
    await until(async () => (await rows()).seq === before + 1);
    const typed = (await cues()).filter((c) => c.up_s === 6).map((c) => c.number);
    expect(typed).toEqual([3000, 4000, 5000]);
    // Half as long, all three at once.
    await type('4', 'times', '*0.5');
    await until(async () => (await times()).filter((t) => t === 3).length >= 3);
    expect((await cues()).find((c) => c.number === 5000)).toMatchObject({ up_s: 3, down_s: 4 });
    await (await row('2', 'number')).click();
    await screen.driver
      .actions()
      .doubleClick(await row('2', 'times'))
      .perform();
    await screen.find('[data-testid=cue-sheet] input');
    await keys('11', Key.ARROW_DOWN);
    await until(async () => (await times())[1] === 11 || (await times())[0] === 11);
    await screen.find('[data-testid=cue-sheet] input');
    await keys('12', ENTER);
    await until(async () => (await times()).includes(12));
    expect((await cues()).find((c) => c.number === 2000)?.up_s).toBe(11);
    expect((await cues()).find((c) => c.number === 3000)?.up_s).toBe(12);
  });

  test('a cue is dragged by its number to another place, back and forth; Esc leaves it', async () => {
    const order = async (): Promise<string[]> => (await cues()).map((c) => c.name);
    const before = await order();
    const grip = async (cue: string): Promise<{ x: number; y: number }> => {
      const r = await (await row(cue, 'number')).getRect();
      return { x: Math.round(r.x + 10), y: Math.round(r.y + r.height / 2) };
    };
    const first = (await cues())[0];
    const third = (await cues())[2];
    const say = (c: Cue | undefined): string => String((c?.number ?? 0) / 1000);
    const carry = async (from: string, to: string): Promise<void> => {
      const [a, b] = [await grip(from), await grip(to)];
      let actions = screen.driver.actions({ async: true }).move(a).press();
      // Past it and back, as a hand does.
      for (const y of [a.y + 9, (a.y + b.y) / 2, b.y + 20, b.y + 12, b.y + 10])
        actions = actions.move({ x: a.x, y: Math.round(y), duration: 50 });
      await actions.perform();
      await screen.find('[data-testid=cue-place]');
    };
    await carry(say(first), say(third));
    await screen.driver.actions().sendKeys(ESCAPE).perform();
    await screen.driver.actions().release().perform();
    expect(await order()).toEqual(before);
    await carry(say(first), say(third));
    await screen.driver.actions().release().perform();
    await until(async () => (await order())[2] === first?.name);
    await screen.command('undo');
    await until(async () => (await order()).join() === before.join());
  });

  test('a letter or digit begins a value; “full” and a palette’s name are understood, a click elsewhere keeps it', async () => {
    await owner.ask(`/api/shows/${show}/edits`, {
      edit: 'record-palette',
      params: { family: 'intensity', name: 'Glow', any: { level: 0.35 } },
    });
    const values = async (cue: number): Promise<number[]> => {
      const { tables } = (await owner.ask(`/api/shows/${show}`)).json as {
        tables: { cues: Cue[]; values: { cueId: string; level: number }[] };
      };
      return tables.values
        .filter((v) => v.cueId === tables.cues.find((c) => c.number === cue * 1000)?.id)
        .map((v) => v.level);
    };
    const sheet = await screen.find('[data-testid=sheet-cells]');
    const at = await screen.driver.executeScript<{ x: number; y: number }>(
      'const r = arguments[0].getBoundingClientRect(); const row = document.querySelector(\'[data-sheet-cue="2"]\').getBoundingClientRect(); return { x: r.left + 10, y: row.top + row.height / 2 }',
      sheet,
    );
    const pick = () =>
      screen.driver
        .actions()
        .move({ x: Math.round(at.x), y: Math.round(at.y), origin: Origin.VIEWPORT })
        .click()
        .perform();
    await pick();
    await keys('f', 'ull', ENTER);
    await until(async () => (await values(2)).includes(1));
    await pick();
    await keys('Glow');
    await (await screen.find('[data-testid=sheet-says]')).click();
    await until(async () => (await values(2)).includes(0.35));
    await pick();
    const { seq } = await rows();
    await keys('9', ESCAPE);
    // The menu by key: of the cells that are chosen, and of the cue when none is; whatever text is selected elsewhere.
    await screen.driver.executeScript(
      "getSelection().selectAllChildren(document.querySelector('[data-testid=sheet-says]'))",
    );
    const menuKey = () =>
      screen.driver.actions().keyDown(SHIFT).sendKeys(Key.F10).keyUp(SHIFT).perform();
    await menuKey();
    await until(async () => (await screen.words('[role=menu]')).includes('Type a value'));
    await keys(ESCAPE);
    await until(async () => (await screen.count('[role=menu]')) === 0);
    await keys(ESCAPE);
    await screen.driver.executeScript("document.querySelector('[data-testid=cue-sheet]').focus()");
    await menuKey();
    await until(async () => (await screen.words('[role=menu]')).includes('Copy'));
    await keys(ESCAPE);
    await pick();
    await keys(ENTER, ENTER);
    await new Promise((done) => setTimeout(done, 300));
    expect((await rows()).seq).toBe(seq);
  });
});
