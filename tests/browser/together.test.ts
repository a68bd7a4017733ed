/** Three people in one production: what concerns each is in their inbox, where each is, what is called, noted and answered. */
import { By } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(240_000);
let house: House;
let owner: Screen;
let programmer: Screen;
let designer: Screen;
let boss: Script;
let mara: Script;
let iden: Script;
let show = '';

interface Rows {
  tables: { cues: { id: string; number: number; name: string; listId: string; up_s: number }[]; lists: { id: string; number: number }[]; fixtures: { id: string; number: number }[]; parts: { id: string }[]; notes: { id: string; text: string }[] };
}
const rows = async (): Promise<Rows['tables']> => ((await boss.ask(`/api/shows/${show}`)).json as Rows).tables;
const cueId = async (number: number): Promise<string> => {
  const { cues, lists } = await rows();
  const first = lists.sort((a, b) => a.number - b.number)[0]?.id;
  return cues.find((c) => c.number === number * 1000 && c.listId === first)?.id ?? '';
};
const edit = (who: Script, name: string, params: unknown) => who.ask(`/api/shows/${show}/edits`, { edit: name, params });
const live = (who: Script, command: unknown) => who.ask(`/api/shows/${show}/live`, command);

beforeAll(async () => {
  house = await openHouse();
  [boss, mara, iden] = await Promise.all(['owner', 'programmer', 'viewer'].map((who) => new Script(house).signIn(who))) as [Script, Script, Script];
  show = await boss.showId('The Night Ferry');
  [owner, programmer, designer] = [await Screen.open(house, 'owner'), await Screen.open(house, 'programmer'), await Screen.open(house, 'viewer')];
  for (const screen of [owner, programmer, designer]) await screen.openShow('The Night Ferry');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

describe('the inbox', () => {
  const inbox = async (screen: Screen): Promise<void> => {
    if ((await screen.count('ol[aria-label=Inbox]')) === 0) await (await screen.find('[data-testid=inbox]')).click();
    await screen.find('ol[aria-label=Inbox]');
  };

  test('what others did with one’s work is said, counts, is read, and leads to the place in question', async () => {
    await edit(mara, 'change-cue', { id: await cueId(7), set: { up_s: 6 } });
    const changes = (await boss.ask(`/api/shows/${show}/changes?after=0`)).json as { changes: { seq: number }[] };
    await boss.ask(`/api/shows/${show}/undo`, { seq: changes.changes.at(-1)?.seq });
    await programmer.says('[data-testid=message-line]', 'Yrsa Oddny undid');
    await edit(iden, 'add-note', { cueId: await cueId(7), kind: 'slow', text: 'the turn of the tide' });
    await programmer.says('[data-testid=inbox-count]', '2');
    await programmer.place('rig');
    await inbox(programmer);
    await programmer.says('ol[aria-label=Inbox]', /Iden Vale noted about cue 7, too slow: “the turn of the tide”.*Yrsa Oddny undid “.*”, which was yours/);
    await programmer.driver.findElement(By.xpath('//li[@data-inbox="note"]//button[contains(., "turn of the tide")]')).click();
    await until(async () => (await programmer.driver.getCurrentUrl()).endsWith('/book'));
    await until(async () => (await programmer.count('[data-sheet-cue="7"][aria-selected=true]')) === 1);
    await until(async () => (await programmer.count('[data-testid=inbox-count]')) === 0);
    // Nobody else was told.
    expect(await designer.count('[data-testid=inbox-count]')).toBe(0);
  });

  test('an ask waits there for somebody who is not here, and is answered where it is read', async () => {
    const { fixtures } = await rows();
    const me = ((await mara.ask('/api/me')).json as { userId: string }).userId;
    await edit(mara, 'set-part', { set: { name: 'The sides', userId: me, userName: 'Mara Kell', fixtures: fixtures.filter((f) => f.number <= 4).map((f) => f.id), lists: [] } });
    await programmer.close();
    const part = (await rows()).parts[0]?.id;
    await until(async () => ((await live(boss, { command: 'ask', part })).json as { message?: string }).message?.includes('waits in their inbox') ?? false);
    programmer = await Screen.open(house, 'programmer');
    await programmer.says('[data-testid=inbox-count]', '1');
    await programmer.openShow('The Night Ferry');
    await inbox(programmer);
    await programmer.press('Give it');
    await owner.says('[data-testid=message-line]', 'Mara Kell gave you part “The sides”');
    await until(async () => (await programmer.count('li[data-inbox=asked] button')) === 1);
    await edit(boss, 'delete-part', { id: part });
  });

  test('on another show and on a phone it counts as well; a role that changed and a show that is gone are read there', async () => {
    const phone = await Screen.open(house, 'operator');
    const { id } = (await boss.ask('/api/shows', { name: 'Short life' })).json as { id: string };
    await boss.ask(`/api/shows/${id}/members`, { email: 'operator@tidewater.example', role: 'operator' }, { method: 'PUT' });
    await phone.driver.get(`${house.url}/shows/${show}/focus`);
    await phone.says('[data-testid=inbox-count]', '1');
    await boss.ask(`/api/shows/${id}/state`, { to: 'deleted' });
    await phone.says('[data-testid=inbox-count]', '2');
    await inbox(phone);
    await phone.says('ol[aria-label=Inbox]', /Yrsa Oddny has deleted “Short life”\..*Yrsa Oddny has made you operator of this show/);
    await phone.close();
  });
});

describe('who is where', () => {
  const hands = (screen: Screen) => screen.driver.executeScript<string[]>("return [...document.querySelectorAll('[data-testid=hand]')].map((h) => h.title)");

  test('a cell, a field, a tile or a dialog that somebody writes in has their mark on others’ screens, while they do', async () => {
    for (const screen of [owner, programmer]) await screen.place('book');
    const name = await owner.find('[data-sheet-cue="3"] [data-cell=name]');
    await owner.driver.actions().doubleClick(name).perform();
    await until(async () => (await hands(programmer)).includes('Name of cue 3'));
    // It stands at the cell.
    const at = await programmer.driver.executeScript<{ mark: number; row: number }>("const m = document.querySelector('[data-testid=hand]').getBoundingClientRect(); const r = document.querySelector('[data-sheet-cue=\"3\"]').getBoundingClientRect(); return { mark: m.top + m.height / 2, row: r.top }");
    expect(Math.abs(at.mark - at.row)).toBeLessThan(12);
    await owner.driver.actions().sendKeys('\uE00C').perform();
    await until(async () => (await hands(programmer)).length === 0);
    for (const screen of [owner, programmer]) await screen.place('stage');
    await owner.tile(1, 'Rename');
    await until(async () => (await hands(programmer)).some((h) => h.startsWith('Rename palette 1')));
    await (await programmer.find('[data-person]:not([title*="Mara"])')).click();
    await programmer.says('[data-radix-popper-content-wrapper]', /Rename palette 1/);
    await programmer.driver.actions().sendKeys('\uE00C').perform();
    await owner.driver.actions().sendKeys('\uE00C').perform();
    await until(async () => (await hands(programmer)).length === 0);
  });

  test('following takes place, view, selection, layout and scroll along, says so to both, and ends with the first thing that one does', async () => {
    const me = ((await boss.ask('/api/me')).json as { userId: string }).userId;
    await programmer.place('book');
    await programmer.command('5');
    await until(async () => (await programmer.words('[data-testid=says]')) === '');
    await (await programmer.find(`[data-person="${me}"]`)).click();
    await programmer.press('Follow what they see');
    await owner.says('[data-testid=followed-by]', 'Mara follows');
    await owner.tab('List');
    await owner.command('1 thru 4');
    await until(async () => (await programmer.driver.getCurrentUrl()).endsWith('/stage'));
    await until(async () => (await programmer.count('[aria-label="Fixtures as a list"]')) === 1);
    const lit = () => programmer.driver.executeScript<number>("return document.querySelectorAll('[aria-label=\"Fixtures as a list\"] [aria-selected=true]').length");
    await until(async () => (await lit()) === 4);
    await owner.driver.executeScript("document.querySelector('[data-scroll=list]').scrollTop = 320");
    await until(async () => (await programmer.driver.executeScript<number>("return document.querySelector('[data-scroll=list]').scrollTop")) === 320);
    await owner.place('rig');
    await owner.tab('Power');
    await until(async () => (await programmer.driver.getCurrentUrl()).endsWith('/rig'));
    await until(async () => (await programmer.driver.executeScript<boolean>("return [...document.querySelectorAll('[role=tab][aria-selected=true], [role=tab][data-state=active]')].some((t) => t.textContent.includes('Power'))")));
    // The first thing that she does herself ends it, and what she had selected is hers again.
    await (await programmer.find('[data-testid=show-name]')).click();
    await until(async () => (await programmer.count('[data-testid=following]')) === 0 && (await owner.count('[data-testid=followed-by]')) === 0);
    await owner.place('crew');
    await new Promise((done) => setTimeout(done, 600));
    expect(await programmer.driver.getCurrentUrl()).toMatch(/\/rig$/);
    await programmer.place('stage');
    await until(async () => (await lit()) === 1);
    await owner.command('clear');
  });
});
