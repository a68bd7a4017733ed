/** Words that somebody typed outlive what happens around them: a GO, a reload, a house that is away, a row that goes. */
import { By, Key } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(180_000);
let house: House;
let owner: Screen;
let mara: Script;
let show = '';

interface Rows {
  tables: {
    cues: { id: string; number: number; name: string; note?: string }[];
    notes: { text: string; cueNumber?: number }[];
  };
}
const rows = async (): Promise<Rows['tables']> =>
  ((await mara.ask(`/api/shows/${show}`)).json as Rows).tables;
const cue = async (number: number) => (await rows()).cues.find((c) => c.number === number * 1000);
const field = (label: string) =>
  owner.driver.findElement(
    By.xpath(
      `//label[span[normalize-space(.)=${JSON.stringify(label)}]]/*[self::input or self::textarea]`,
    ),
  );

beforeAll(async () => {
  house = await openHouse();
  owner = await Screen.open(house, 'owner');
  mara = await new Script(house).signIn('programmer');
  await owner.openShow('The Night Ferry');
  show = await owner.showId();
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

test('a cue’s note that is being written stays with its cue while the show goes on', async () => {
  await owner.place('book');
  await owner.command('goto 3 time 0');
  await owner.tab('Cue');
  await owner.says('[data-testid=foot-cue]', 'LX 3');
  await (await field('Note for the programmer')).sendKeys('Bar two is late');
  expect(
    (
      await new Script(house)
        .signIn('owner')
        .then((s) => s.ask(`/api/shows/${show}/live`, { command: 'go' }))
    ).status,
  ).toBe(200);
  await owner.says('[data-testid=current-cue]', 'Ship’s bell');
  await owner.says('[data-testid=foot-cue]', /LX 3 .*being written/);
  await owner.driver.actions().sendKeys(' by a breath').perform();
  // Leaving the field writes it where it was begun, and the Book goes along again.
  await (await owner.find('[data-testid=foot-cue]')).click();
  await until(async () => (await cue(3))?.note === 'Bar two is late by a breath');
  await owner.says('[data-testid=foot-cue]', /^LX 4$/);
});

test('words about a cue that somebody deletes are offered to who wrote them', async () => {
  await owner.command('goto 5 time 0');
  await owner.says('[data-testid=foot-cue]', 'LX 5');
  await (await field('Note for the programmer')).sendKeys('Gone with the wind machine');
  await mara.ask(`/api/shows/${show}/edits`, {
    edit: 'delete-cue',
    params: { id: (await cue(5))?.id },
  });
  await owner.says('[data-testid=typed]', 'Gone with the wind machine');
  await owner.press('Let go');
  await until(async () => (await owner.count('[data-testid=typed]')) === 0);
  // A hand that slipped has it back.
  await owner.press('Bring it back');
  await owner.says('[data-testid=typed]', 'Gone with the wind machine');
  await owner.press('Let go');
  await until(async () => (await owner.count('[data-testid=typed]')) === 0);
  await mara.ask(`/api/shows/${show}/undo`, { way: 'undo' });
});

test('a name that the house did not take is kept through a reload, and asks about what came between', async () => {
  await owner.command('goto 7 time 0');
  await owner.says('[data-testid=foot-cue]', 'LX 7');
  const name = await field('Name');
  await owner.away(true);
  await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'Mine while away', Key.ENTER);
  await owner.says('[data-testid=unsent]', 'Not written yet');
  await owner.says('[data-testid=message-line]', 'kept');
  await mara.ask(`/api/shows/${show}/edits`, {
    edit: 'change-cue',
    params: { id: (await cue(7))?.id, set: { name: 'Mara’s meanwhile' } },
  });
  await owner.away(false);
  await owner.driver.navigate().refresh();
  await owner.says('[data-testid=unsent]', 'Kept on this screen');
  await owner.press('Write now');
  await owner.says('[role=dialog]', /Mara’s meanwhile/);
  await (await owner.find('[role=dialog] [aria-label=Close]')).click();
  await until(async () => (await owner.count('[data-testid=unsent]')) === 0);
  expect((await cue(7))?.name).toBe('Mara’s meanwhile');
});

test('a change that nobody came before is written at once when the house is back, and once only', async () => {
  await owner.tab('Cue');
  const name = await field('Name');
  await owner.away(true);
  await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'After the storm', Key.ENTER);
  await owner.says('[data-testid=unsent]', 'Not written yet');
  await owner.away(false);
  await owner.press('Write now');
  await until(async () => (await cue(7))?.name === 'After the storm');
  await until(async () => (await owner.count('[data-testid=unsent]')) === 0);
  await owner.driver.navigate().refresh();
  await owner.says('[data-testid=current-cue]', /\S/);
  expect(await owner.count('[data-testid=unsent]')).toBe(0);
});

test('a dialog that was open when the page was loaded anew has its words to give', async () => {
  await owner.driver.actions().keyDown(Key.CONTROL).sendKeys('r').keyUp(Key.CONTROL).perform();
  const title = (await owner.words('[role=dialog] h2')) || 'Record';
  const input = await owner.find('[role=dialog] input:not([type=checkbox]):not([type=radio])');
  await input.sendKeys(Key.chord(Key.CONTROL, 'a'), '77.5');
  await owner.driver.navigate().refresh();
  await owner.says('[data-testid=typed]', /You were typing.*77\.5/);
  await owner.says('[data-testid=typed]', title);
  await owner.driver.actions().keyDown(Key.CONTROL).sendKeys('r').keyUp(Key.CONTROL).perform();
  await owner.says('[data-testid=typed-before]', '77.5');
  await owner.press('Fill it in');
  expect(
    await (
      await owner.find('[role=dialog] input:not([type=checkbox]):not([type=radio])')
    ).getAttribute('value'),
  ).toBe('77.5');
  expect(await owner.count('[data-testid=typed-before]')).toBe(0);
  await owner.driver.actions().sendKeys(Key.ESCAPE).perform();
});

test('a designer’s note that was begun is there again after a reload, about the cue that it was begun about', async () => {
  await owner.driver.get(`${house.url}/shows/${show}/notes`);
  await owner.says('[data-testid=note-about]', 'cue 7');
  await (await owner.find('textarea')).sendKeys('Warmer on her face');
  await new Script(house)
    .signIn('owner')
    .then((s) => s.ask(`/api/shows/${show}/live`, { command: 'go' }));
  await owner.says('[data-testid=notes-now]', '8');
  await owner.driver.navigate().refresh();
  await owner.says('[data-testid=message-line]', 'is still here');
  await owner.says('[data-testid=note-about]', 'cue 7');
  await owner.press('Leave this note');
  await until(async () =>
    (await rows()).notes.some((n) => n.text === 'Warmer on her face' && n.cueNumber === 7000),
  );
  // The screen knows it too: until it does, it keeps what was typed.
  await until(async () => (await (await owner.find('textarea')).getAttribute('value')) === '');
  await owner.driver.navigate().refresh();
  await owner.says('[data-testid=note-about]', 'cue 8');
  expect(await (await owner.find('textarea')).getAttribute('value')).toBe('');
});
