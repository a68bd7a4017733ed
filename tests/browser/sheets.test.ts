/** Sheets: made in one step, arranged by hand, played by pointer, fingers and keys; who lights a spot; a volunteer's phone. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By, Key } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let mara: Script;
let show = '';

interface Place {
  x: number;
  y: number;
}
interface Row {
  id: string;
  name: string;
  number: number;
  sheet: string;
  x: number;
  y: number;
  w: number;
  h: number;
  is: { kind: string };
  position: Place;
}
type Tables = Record<
  'sheets' | 'sheetpieces' | 'areas' | 'groups' | 'fixtures' | 'faders' | 'looks' | 'lists',
  Row[]
>;
const tables = async (): Promise<Tables> =>
  ((await script.ask(`/api/shows/${show}`)).json as { tables: Tables }).tables;
const edit = (name: string, params: unknown, by = script) =>
  by.ask(`/api/shows/${show}/edits`, { edit: name, params });
const live = (command: unknown, of = show) => script.ask(`/api/shows/${of}/live`, command);
interface Node {
  universes: { protocol: string; universe: number; slots: number[] }[];
}
const wire = async (universe: number, address: number): Promise<number> =>
  ((await script.ask('/api/sim/node')).json as Node).universes.find(
    (u) => u.protocol === 'sacn' && u.universe === universe,
  )?.slots[address - 1] ?? -1;
const arrives = (universe: number, address: number, byte: number): Promise<void> =>
  until(async () => Math.abs((await wire(universe, address)) - byte) <= 1);
/** Numbers of the selected units in their order, as the plan on a sheet says them. */
const selected = async (): Promise<number[]> => {
  const plan = await screen.find('[data-testid=sheet-plan]');
  const words = (await plan.getAttribute('aria-label')) ?? '';
  return [...(words.split('selected: ')[1] ?? '').matchAll(/\d+/g)].map((m) => Number(m[0]));
};

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
  mara = await new Script(house).signIn('programmer');
  show = await script.showId('The Night Ferry');
  await screen.openShow('The Night Ferry');
  await screen.place('sheets');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

const inChosen = async (): Promise<number> => {
  const words = await screen.words('[aria-label="What is chosen"] h2');
  const many = /^(\d+) pieces$/.exec(words);
  if (many) return Number(many[1]);
  return words === '' ? 0 : 1;
};
const open = async (name: string): Promise<void> => {
  await until(async () => {
    const buttons = await screen.driver.findElements(
      By.xpath(
        `//nav[@aria-label="Sheets"]//button[span[normalize-space(.)=${JSON.stringify(name)}]]`,
      ),
    );
    await buttons[0]?.click();
    return buttons.length > 0;
  });
};
const arranging = async (on: boolean): Promise<void> => screen.press(on ? 'Arrange' : 'Done');
/** The middle of a piece on the screen. */
async function middle(css: string): Promise<{ x: number; y: number }> {
  const r = await (await screen.find(css)).getRect();
  return { x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2) };
}
const onSheetPlan = (x: number, y: number): Promise<{ x: number; y: number }> =>
  screen.onPlan(x, y, '[data-testid=sheet-plan]');
/** A drag of many moves, past its end and back. */
async function drag(from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
  const way = (t: number) => ({
    x: Math.round(from.x + (to.x - from.x) * t),
    y: Math.round(from.y + (to.y - from.y) * t),
  });
  let actions = screen.driver.actions({ async: true }).move(from).press();
  for (const t of [0.1, 0.3, 0.6, 0.9, 1.1, 1.05, 1])
    actions = actions.move({ ...way(t), duration: 20 });
  await actions.release().perform();
}
const touch = (type: string, points: { x: number; y: number; id: number }[]): Promise<unknown> =>
  (screen.driver as chrome.Driver).sendDevToolsCommand('Input.dispatchTouchEvent', {
    type,
    touchPoints: points,
  });

describe('the plan on a sheet', () => {
  test('a touch of a unit selects it, a box all that it goes round, both ways', async () => {
    await open('The house');
    const { fixtures } = await tables();
    const place = (n: number) =>
      (fixtures.find((f) => f.number === n) as unknown as { position: { x: number; y: number } })
        .position;
    const at = await onSheetPlan(place(9).x, place(9).y);
    await screen.driver.actions({ async: true }).move(at).click().perform();
    await until(async () => (await selected()).join() === '9');
    const [a, b] = [
      await onSheetPlan(place(1).x - 0.6, place(1).y - 0.5),
      await onSheetPlan(place(3).x + 0.4, place(3).y + 0.5),
    ];
    await drag(a, b);
    await until(async () => (await selected()).join() === '1,2,3');
    await drag(b, a);
    await until(async () => (await selected()).join() === '1,2,3');
  });

  test('who lights this spot: those who do are selected by how much, the same as by the line; areas as well', async () => {
    await live({ command: 'goto', cue: '5', time: 0 });
    await new Promise((done) => setTimeout(done, 600));
    await screen.press('Who lights this spot?');
    const spot = await onSheetPlan(0.4, 2.1);
    await screen.driver.actions({ async: true }).move(spot).click().perform();
    await screen.says(
      '[data-testid=message-line]',
      /\d+ units put light there · .* gives \d+ % of it/,
    );
    const byTouch = await selected();
    expect(byTouch.length).toBeGreaterThan(2);
    const shares = await screen.driver.executeScript<number[]>(
      'return [...document.querySelectorAll("[data-share]")].map((e) => parseInt(e.textContent))',
    );
    expect(Math.max(...shares)).toBeLessThanOrEqual(100);
    await screen.press('Select');
    await screen.command('clear');
    await screen.command('lights on 0.4 2.1');
    await until(async () => (await selected()).length > 0);
    // The finger is some centimetres off: the brightest are the same.
    expect((await selected()).slice(0, 2).sort()).toEqual(byTouch.slice(0, 2).sort());
    await screen.command('lights on "Quay"');
    await screen.says('[data-testid=message-line]', /./);
    const area = (await tables()).areas.find((x) => x.name === 'Quay') as unknown as {
      corners: { x: number; y: number }[];
    };
    const [corner] = area.corners;
    const inside = await onSheetPlan((corner?.x ?? 0) + 0.35, (corner?.y ?? 0) + 0.35);
    await screen.driver.actions({ async: true }).move(inside).click().perform();
    await screen.says('[data-testid=message-line]', 'light on “Quay”');
  });

  test('in use nothing is moved: a drag over a piece leaves it where it lies', async () => {
    const before = (await tables()).sheetpieces;
    const look = await middle('[data-kind=tile]');
    await drag(look, { x: look.x - 200, y: look.y + 200 });
    expect((await tables()).sheetpieces).toEqual(before);
  });
});

describe('arranging', () => {
  test('pieces are dragged onto a sheet, moved, sized, copied and taken off, each by one undo', async () => {
    await screen.driver.findElement(By.css('[aria-label="New sheet"]')).click();
    const template = await screen.find('[role=dialog] select');
    await template.sendKeys('Empty');
    await screen.fill('Name', 'Harbour');
    await screen.press('Make it');
    await screen.says('[data-testid=sheet]', /^$/);
    const own = async (): Promise<Row[]> => {
      const t = await tables();
      const id = t.sheets.find((s) => s.name === 'Harbour')?.id;
      return t.sheetpieces.filter((p) => p.sheet === id);
    };
    await (await screen.find('[aria-label="Which pieces"]')).sendKeys('Groups');
    const { groups } = await tables();
    const group = groups.find((g) => g.name === 'Deck')?.id ?? '';
    const board = await (await screen.find('[data-testid=sheet]')).getRect();
    const step = Number(await (await screen.find('[data-testid=sheet]')).getAttribute('data-step'));
    await drag(await middle(`[data-thing="groups/${group}"]`), {
      x: Math.round(board.x + step * 14),
      y: Math.round(board.y + step * 12),
    });
    await until(async () => (await own()).length === 1);
    const [first] = await own();
    if (!first) throw new Error('no piece');
    expect(first.is.kind).toBe('group');
    // From the plan: a unit from where it hangs, two that are selected together; what lands there is what was taken.
    await (await screen.find('[aria-label="Which pieces"]')).sendKeys('The plan');
    const { fixtures } = await tables();
    const at = async (number: number): Promise<Place> => {
      const shelf = await screen.find('[data-testid=shelf-plan]');
      const [scale = 1, ox = 0, oy = 0] = ((await shelf.getAttribute('data-view')) ?? '')
        .split(',')
        .map(Number);
      const { x, y } = await shelf.getRect();
      const hung = fixtures.find((f) => f.number === number)?.position ?? { x: 0, y: 0 };
      return { x: Math.round(x + ox + hung.x * scale), y: Math.round(y + oy - hung.y * scale) };
    };
    const narrow = await screen.find('[data-testid=sheet]');
    const put = async (step_x: number, step_y: number): Promise<Place> => {
      const r = await narrow.getRect();
      const s = Number(await narrow.getAttribute('data-step'));
      return { x: Math.round(r.x + s * step_x), y: Math.round(r.y + s * step_y) };
    };
    const numberOf = (p: Row): number | undefined =>
      fixtures.find((f) => f.id === (p.is as { fixture?: string }).fixture)?.number;
    await drag(await at(5), await put(30, 20));
    await until(async () => (await own()).length === 2);
    expect((await own()).map(numberOf)).toContain(5);
    // These are dark, and not among those that were selected before, which come along.
    for (const number of [99, 98]) {
      const { x, y } = await at(number);
      await screen.driver
        .actions()
        .keyDown(Key.CONTROL)
        .move({ x, y })
        .click()
        .keyUp(Key.CONTROL)
        .perform();
    }
    await drag(await at(98), await put(4, 20));
    await until(async () => (await own()).map(numberOf).includes(98));
    const pair = (await own()).filter((p) => [98, 99].includes(numberOf(p) ?? 0));
    expect(pair.sort((a, b) => a.y - b.y || a.x - b.x).map(numberOf)).toEqual([99, 98]);
    // Each drag is one edit.
    await script.ask(`/api/shows/${show}/undo`, { way: 'undo' });
    await script.ask(`/api/shows/${show}/undo`, { way: 'undo' });
    await until(async () => (await own()).length === 1);
    await (await screen.find('[aria-label="Which pieces"]')).sendKeys('Groups');
    // Moved while somebody else edits.
    const here = await middle(`[data-piece="${first.id}"]`);
    await edit('change-show', { set: { venue: 'Tidewater Hall · stage' } }, mara);
    await drag(here, { x: Math.round(here.x + step * 10), y: Math.round(here.y + step * 3) });
    await until(async () => (await own())[0]?.x === first.x + 10);
    expect((await own())[0]?.y).toBe(first.y + 3);
    const corner = await middle(`[data-corner="${first.id}"]`);
    await drag(corner, { x: Math.round(corner.x + step * 4), y: Math.round(corner.y + step * 2) });
    await until(async () => (await own())[0]?.w === first.w + 4);
    expect((await own())[0]?.h).toBe(first.h + 2);
    // Arrow keys step, with Shift by tenths; Ctrl D copies.
    const piece = await screen.find(`[data-piece="${first.id}"]`);
    await piece.sendKeys(Key.ARROW_LEFT, Key.ARROW_LEFT);
    await until(async () => (await own())[0]?.x === first.x + 8);
    await screen.driver
      .actions()
      .keyDown(Key.SHIFT)
      .sendKeys(Key.ARROW_RIGHT)
      .keyUp(Key.SHIFT)
      .perform();
    await until(async () => Math.abs(((await own())[0]?.x ?? 0) - (first.x + 8.1)) < 0.01);
    await screen.driver.actions().keyDown(Key.CONTROL).sendKeys('d').keyUp(Key.CONTROL).perform();
    await until(async () => (await own()).length === 2);
    // A box round both, taken off; each of it is undone in one.
    await drag(
      { x: Math.round(board.x + 4), y: Math.round(board.y + 4) },
      { x: Math.round(board.x + board.width - 6), y: Math.round(board.y + board.height - 6) },
    );
    await until(async () => (await inChosen()) === 2);
    await screen.driver.actions().sendKeys(Key.DELETE).perform();
    await until(async () => (await own()).length === 0);
    const undo = async (): Promise<void> => {
      await screen.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
    };
    await undo();
    await until(async () => (await own()).length === 2);
    await undo();
    await until(async () => (await own()).length === 1);
    await undo();
    await until(async () => (await own())[0]?.x === first.x + 8);
    await arranging(false);
  });

  test('a picture of one’s own is added from the shelf, made safe, and deleted again from there', async () => {
    const folder = mkdtempSync(join(process.env.WINGMAN_SCRATCH ?? tmpdir(), 'pictures-'));
    const file = join(folder, 'anchor.svg');
    writeFileSync(
      file,
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>window.ran = 1</script><circle cx="4" cy="4" r="3"/></svg>',
    );
    await arranging(true);
    await (await screen.find('[aria-label="Which pieces"]')).sendKeys('Pictures');
    await screen.says('[aria-label="Pieces to put on"]', 'Add a picture …');
    await (await screen.find('[aria-label="Picture of your own"]')).sendKeys(file);
    const pieces = async (): Promise<Row[]> =>
      (await tables()).sheetpieces.filter((p) => p.is.kind === 'picture');
    await until(async () => (await pieces()).length === 1);
    await screen.find('[data-testid=sheet] [data-kind=picture] img');
    expect(await screen.driver.executeScript('return window.ran ?? null')).toBeNull();
    const item = await screen.find('[data-thing^="pictures/"]');
    await screen.driver.actions({ async: true }).contextClick(item).perform();
    await screen.driver.findElement(By.xpath('//*[.="Delete this picture"]')).click();
    await screen.says('[data-testid=message-line]', 'which was on 1 piece of sheets');
    await until(async () => (await screen.count('[data-thing^="pictures/"]')) === 0);
    // The piece says what is missing; undo brings the picture back to it.
    await script.ask(`/api/shows/${show}/undo`, { way: 'undo' });
    await until(async () => (await screen.count('[data-kind=picture] img')) === 1);
    const [piece] = await pieces();
    await edit('delete-pieces', { ids: [piece?.id] });
    await arranging(false);
  });

  test('what a piece stands for was deleted: it says so, and is pointed anew', async () => {
    const { sheets } = await tables();
    const sheet = sheets.find((s) => s.name === 'Harbour')?.id ?? '';
    await edit('record-group', {
      number: 77,
      name: 'Gone soon',
      fixtures: [(await tables()).fixtures[0]?.id],
    });
    const group = (await tables()).groups.find((g) => g.name === 'Gone soon')?.id ?? '';
    await edit('put-pieces', {
      sheet,
      pieces: [{ x: 0, y: 0, w: 8, h: 5, z: 50, label: 'Bow', is: { kind: 'group', group } }],
    });
    await screen.find('[data-piece-name=Bow]');
    await edit('delete-group', { id: group });
    await screen.says('[data-piece-name=Bow]', 'its group has been deleted');
    await arranging(true);
    await screen.driver
      .actions({ async: true })
      .move(await middle('[role=option][aria-label=Bow]'))
      .click()
      .perform();
    const about = await screen.find('[aria-label="What is chosen"] select');
    await about.sendKeys('Keys');
    await until(async () => {
      const t = await tables();
      const bow = t.sheetpieces.find((p) => p.sheet === sheet && p.x === 0) as unknown as {
        is: { group: string };
      };
      return t.groups.find((g) => g.id === bow?.is.group)?.name === 'Keys';
    });
    await arranging(false);
    await until(async () => !(await screen.words('[data-piece-name=Bow]')).includes('deleted'));
  });

  test('an area is drawn over the floor, and named', async () => {
    await arranging(true);
    await screen.press('Areas …');
    const floor = await (await screen.find('[data-testid=area-floor]')).getRect();
    const before = (await tables()).areas.length;
    await drag(
      { x: Math.round(floor.x + floor.width * 0.3), y: Math.round(floor.y + floor.height * 0.85) },
      { x: Math.round(floor.x + floor.width * 0.45), y: Math.round(floor.y + floor.height * 0.7) },
    );
    await until(async () => (await tables()).areas.length === before + 1);
    const field = await screen.find(`[role=dialog] li:nth-child(${before + 1}) input`);
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Front of house', Key.ENTER);
    await until(async () => (await tables()).areas.some((a) => a.name === 'Front of house'));
    await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
    await arranging(false);
  });
});

describe('playing', () => {
  test('two faders under two fingers at once, a key that holds, and a touch that is torn away', async () => {
    await open('Band');
    await live({ command: 'release-all', time: 0 });
    const tracks = await screen.driver.findElements(By.css('[data-kind=fader] [role=slider]'));
    const value = async (i: number): Promise<number> =>
      Number(await tracks[i]?.getAttribute('aria-valuenow'));
    const at = async (i: number) => {
      const r = await tracks[i]?.getRect();
      if (!r) throw new Error('no fader');
      return { x: r.x + r.width / 2, y: r.y + r.height / 2 };
    };
    const [third, fourth] = [await at(2), await at(3)];
    const before = [await value(2), await value(3)];
    await touch('touchStart', [{ ...third, id: 1 }]);
    await touch('touchStart', [
      { ...third, id: 1 },
      { ...fourth, id: 2 },
    ]);
    for (const by of [10, 30, 60, 80])
      await touch('touchMove', [
        { x: third.x, y: third.y - by, id: 1 },
        { x: fourth.x, y: fourth.y - by / 2, id: 2 },
      ]);
    await until(
      async () => (await value(2)) > (before[0] ?? 0) && (await value(3)) > (before[1] ?? 0),
    );
    expect(await value(2)).toBeGreaterThan(await value(3));
    await touch('touchEnd', []);
    await live({ command: 'release-all', time: 0 });

    // Longer than a touch that asks what a piece is: the key holds, and no menu comes.
    const [, , key] = await screen.driver.findElements(By.css('[data-piece-name=Flash] button'));
    if (!key) throw new Error('no key');
    const r = await key.getRect();
    const finger = { x: r.x + r.width / 2, y: r.y + r.height / 2, id: 1 };
    const pressed = async (): Promise<boolean> =>
      (await key.getAttribute('aria-pressed')) === 'true';
    await touch('touchStart', [finger]);
    await until(pressed);
    await new Promise((done) => setTimeout(done, 1200));
    expect([await pressed(), await screen.count('[role=menu]')]).toEqual([true, 0]);
    await touch('touchCancel', []);
    await until(async () => !(await pressed()));
  });

  test('a time that is pressed first is the time of what comes next', async () => {
    await open('The house');
    const look = await screen.find('[data-kind=tile] button');
    const on = async (): Promise<boolean> => (await look.getAttribute('aria-pressed')) === 'true';
    await (await screen.find('[data-piece-name="0 s"] button')).click();
    await screen.says('main', 'what is pressed next takes 0 s');
    await look.click();
    await until(on);
    await screen.says('[data-kind=tile]', 'on stage');
    await look.click();
    await until(async () => !(await on()));
    await (await screen.find('[data-piece-name="0 s"] button')).click();
    await screen.says('main', 'a touch plays or selects');
  });

  test('a level slid over a group is on the wire, and a run says what it is about', async () => {
    await open('House light');
    const run = await screen.find('[data-kind=level] [role=slider]');
    const r = await run.getRect();
    const level = async (): Promise<number> => Number(await run.getAttribute('aria-valuenow'));
    const before = await level();
    await drag(
      { x: Math.round(r.x + 4), y: Math.round(r.y + r.height / 2) },
      { x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2) },
    );
    // It moves by as much as the hand does, from where it was.
    await until(async () => Math.abs((await level()) - Math.min(100, before + 50)) <= 3);
    // Whole percents do not say which byte; full does.
    await drag(
      { x: Math.round(r.x + 4), y: Math.round(r.y + r.height / 2) },
      { x: Math.round(r.x + r.width * 0.75), y: Math.round(r.y + r.height / 2) },
    );
    await until(async () => (await level()) === 100);
    await arrives(1, 101, 255);
    await (await screen.find('[data-piece-name=Out] button')).click();
    await until(async () => (await wire(1, 101)) < 128, 10_000);
    await screen.command('clear');
  });

  test('what a piece is and where its level comes from, at the right button', async () => {
    await open('Checks');
    const unit = await screen.find('[data-kind=unit]');
    await screen.driver.actions({ async: true }).contextClick(unit).perform();
    await screen.says(
      '[aria-label="About this piece"]',
      /Unit 1, Shoreline 26 .* from .*, at 1\.1/,
    );
    await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
    await until(async () => (await screen.count('[aria-label="About this piece"]')) === 0);
    // On the plan it is the unit under the hand; nothing is selected by asking.
    await open('The house');
    const plan = await screen.find('[data-testid=sheet-plan]');
    const [scale = 1, ox = 0, oy = 0] = ((await plan.getAttribute('data-view')) ?? '')
      .split(',')
      .map(Number);
    const { x, y } = await plan.getRect();
    const one = (await tables()).fixtures.find((f) => f.number === 1);
    const at = one?.position ?? { x: 0, y: 0 };
    await screen.driver
      .actions({ async: true })
      .move({ x: Math.round(x + ox + at.x * scale), y: Math.round(y + oy - at.y * scale) })
      .press(2)
      .release(2)
      .perform();
    await screen.says(
      '[aria-label="About this piece"]',
      /1 FOH 1 .*Shoreline 26 .* from .*, at 1\.1/,
    );
    await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
  });
});

describe('from the stage onto a sheet', () => {
  test('a group goes there by its menu, to the first free place, and is shown', async () => {
    await screen.place('stage');
    const group = await screen.driver.findElement(
      By.xpath('//section[@aria-label="Groups"]//li[.//span[normalize-space(.)="Movers"]]'),
    );
    await screen.driver.actions({ async: true }).contextClick(group).perform();
    await until(async () => (await screen.words('[role=menu]')).includes('Put on a sheet …'));
    await screen.driver
      .findElement(By.xpath('//*[@role="menuitem"][normalize-space(.)="Put on a sheet …"]'))
      .click();
    await screen.says('[role=dialog]', 'Put Movers on a sheet');
    const before = await tables();
    const band = before.sheets.find((s) => s.name === 'Band');
    await (await screen.find(`[data-put-on="${band?.id ?? ''}"]`)).click();
    const movers = before.groups.find((g) => g.name === 'Movers')?.id;
    await until(async () =>
      (await tables()).sheetpieces.some(
        (p) =>
          p.sheet === band?.id &&
          p.is.kind === 'group' &&
          (p.is as { group?: string }).group === movers,
      ),
    );
    const { sheetpieces } = await tables();
    const [put] = sheetpieces.filter(
      (p) => p.sheet === band?.id && !before.sheetpieces.some((o) => o.id === p.id),
    );
    if (!put) throw new Error('nothing was put on it');
    // Over nothing else.
    const over = sheetpieces.filter(
      (p) =>
        p.id !== put.id &&
        p.sheet === band?.id &&
        p.x < put.x + put.w &&
        put.x < p.x + p.w &&
        p.y < put.y + put.h &&
        put.y < p.y + p.h,
    );
    expect(over).toEqual([]);
    await screen.press('Show it');
    await until(async () => (await screen.driver.getCurrentUrl()).endsWith('/sheets'));
    await until(async () => (await screen.count(`[data-piece="${put.id}"]`)) === 1);
  });

  test('given to all volunteers, a sheet is theirs; taken back, it is not', async () => {
    const volunteer = await new Script(house).signIn('volunteer');
    const sunday = await script.showId('Sunday at Tidewater');
    const made = await script.ask(`/api/shows/${sunday}/edits`, {
      edit: 'set-sheet',
      params: { set: { name: 'For all', columns: 48, rows: 34, given: ['volunteer'] } },
    });
    const id = (made.json as { changes: { id: string }[] }).changes[0]?.id ?? '';
    const theirs = async (): Promise<string[]> =>
      ((await volunteer.ask(`/api/shows/${sunday}/sheets`)).json as { sheets: string[] }).sheets;
    expect(await theirs()).toContain(id);
    await script.ask(`/api/shows/${sunday}/edits`, {
      edit: 'set-sheet',
      params: { id, set: { name: 'For all', columns: 48, rows: 34 } },
    });
    expect(await theirs()).not.toContain(id);
    await script.ask(`/api/shows/${sunday}/edits`, { edit: 'delete-sheet', params: { id } });
  });
});

describe('whose hands', () => {
  test('a viewer sees a sheet and plays nothing of it; a volunteer has no other than theirs', async () => {
    const viewer = await new Script(house).signIn('viewer');
    const volunteer = await new Script(house).signIn('volunteer');
    const sunday = await script.showId('Sunday at Tidewater');
    const { sheetpieces } = await tables();
    const cue = sheetpieces.find((p) => p.is.kind === 'list')?.id;
    expect(
      (await viewer.ask(`/api/shows/${show}/live`, { command: 'touch', piece: cue })).status,
    ).toBe(403);
    expect((await edit('delete-sheet', { id: 'x' }, viewer)).status).toBe(403);
    const made = await script.ask(`/api/shows/${sunday}/edits`, {
      edit: 'set-sheet',
      params: {
        set: { name: 'Not yours', columns: 48, rows: 34 },
        pieces: [{ x: 0, y: 0, w: 8, h: 5, z: 0, is: { kind: 'release-all' } }],
      },
    });
    const piece = (made.json as { changes: { table: string; id: string }[] }).changes.find(
      (c) => c.table === 'sheetpieces',
    )?.id;
    await live({ command: 'remotes', on: true }, sunday);
    expect(
      (await volunteer.ask(`/api/shows/${sunday}/live`, { command: 'touch', piece })).status,
    ).toBe(404);
    const told = (await volunteer.ask(`/api/shows/${sunday}/sheets`)).json as {
      rows: { table: string; after: { name?: string } }[];
    };
    expect(told.rows.filter((r) => r.table === 'sheets').map((r) => r.after.name)).toEqual([
      'The service',
    ]);
    expect(told.rows.some((r) => r.table === 'fixtures' || r.table === 'values')).toBe(false);
  });

  test('on a phone the pieces stand one under another, large enough for a thumb', async () => {
    const phone = await Screen.open(house, 'volunteer');
    await (phone.driver as chrome.Driver).sendDevToolsCommand(
      'Emulation.setDeviceMetricsOverride',
      {
        width: 390,
        height: 844,
        deviceScaleFactor: 1,
        mobile: true,
      },
    );
    await phone.says('header', 'The service');
    await until(async () => (await phone.count('[data-piece] button')) === 8);
    const sizes = await phone.driver.executeScript<number[][]>(
      'return [...document.querySelectorAll("[data-piece] button")].map((b) => { const r = b.getBoundingClientRect(); return [r.left, r.right, r.height]; })',
    );
    expect(sizes.length).toBe(8);
    for (const [left = 0, right = 0, height = 0] of sizes) {
      expect([left >= 0, right <= 390, height >= 44]).toEqual([true, true, true]);
    }
    await phone.close();
  });
});
