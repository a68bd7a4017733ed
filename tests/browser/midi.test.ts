/** Hands over MIDI: the simulated desk in another window of the browser, real bytes both ways; and keys of the keyboard. */
import { By, Key } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';
let sheets = '';
let desk = '';

interface Hand {
  id: string;
  name: string;
  bindings: Record<string, { do: string }>;
}
const hands = async (): Promise<Hand[]> =>
  ((await script.ask(`/api/shows/${show}`)).json as { tables: { hands: Hand[] } }).tables.hands;
const bound = async (name: string): Promise<Record<string, { do: string }>> =>
  (await hands()).find((h) => h.name === name)?.bindings ?? {};
const live = (command: unknown) => script.ask(`/api/shows/${show}/live`, command);
const stage = async () =>
  (await script.ask(`/api/shows/${show}/stage`)).json as {
    lists: { cue: string | null }[];
    master: number;
  };
/** Chooses what the next part that moves shall do. */
const shall = async (what: string): Promise<void> => {
  const list = await screen.find('[aria-label="What it shall do"]');
  await list.findElement(By.xpath(`option[.=${JSON.stringify(what)}]`)).click();
  await screen.says('[data-testid=learning]', `“${what}”`);
};
const inDesk = (): Promise<void> => screen.driver.switchTo().window(desk);
const inSheets = (): Promise<void> => screen.driver.switchTo().window(sheets);

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
  show = await script.showId('The Night Ferry');
  await screen.openShow('The Night Ferry');
  await screen.place('sheets');
  sheets = await screen.driver.getWindowHandle();
  await screen.driver.switchTo().newWindow('window');
  desk = await screen.driver.getWindowHandle();
  await screen.driver.get(`${house.url}/desk`);
  await screen.says('main', 'Simulated desk');
  await inSheets();
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

const open = async (name: string): Promise<void> => {
  await until(async () => {
    const found = await screen.driver.findElements(
      By.xpath(
        `//nav[@aria-label="Sheets"]//button[span[normalize-space(.)=${JSON.stringify(name)}]]`,
      ),
    );
    await found[0]?.click();
    return found.length > 0;
  });
};
/** A fader of the desk is led to a value by many moves. */
async function slide(name: string, to: number): Promise<void> {
  await inDesk();
  const track = await screen.find(`[aria-label="${name}"]`);
  const r = await track.getRect();
  const way = r.height - 20;
  const now = Number(await track.getAttribute('aria-valuenow')) / 127;
  const at = (v: number): { x: number; y: number } => ({
    x: Math.round(r.x + r.width / 2),
    y: Math.round(r.y + 10 + way * (1 - v)),
  });
  let actions = screen.driver.actions({ async: true }).move(at(now)).press();
  for (const t of [0.2, 0.5, 0.8, 1])
    actions = actions.move({ ...at(now + (to - now) * t), duration: 25 });
  await actions.release().perform();
  await inSheets();
}
async function strike(name: string): Promise<void> {
  await inDesk();
  const key = await screen.find(`[aria-label="${name}"]`);
  await screen.driver
    .actions({ async: true })
    .move({ origin: key })
    .press()
    .pause(60)
    .release()
    .perform();
  await inSheets();
}
/** Until a fader of the desk stands there: its motor took it. */
const stands = (name: string, at: number): Promise<void> =>
  until(async () => {
    await inDesk();
    const now = await (await screen.find(`[aria-label="${name}"]`)).getAttribute('aria-valuenow');
    await inSheets();
    return now === String(at);
  });
const lit = async (name: string): Promise<boolean> => {
  await inDesk();
  const is =
    (await (await screen.find(`[aria-label="${name}"]`)).getAttribute('aria-pressed')) === 'true';
  await inSheets();
  return is;
};

test('a hand learns: touch the thing on the screen, move the thing in the hand', async () => {
  await screen.driver.findElement(By.css('[aria-label="New hand"]')).click();
  await screen.fill('Name', 'Fader wing');
  await until(async () => (await screen.words('[role=dialog]')).includes('Simulated desk'));
  await (await screen.find('[role=dialog] select[name=port]')).sendKeys('Simulated desk');
  await screen.fill('Its displays are written with', 'F0 7D 01 nn tt F7');
  await screen.press('Make it');
  await open('Band');
  await screen.press('Learn');
  const fader = await screen.find('[data-kind=fader] [role=slider]');
  const before = await fader.getAttribute('aria-valuenow');
  await fader.click();
  await screen.says('[data-testid=learning]', 'now move what shall play it');
  await slide('Fader 1', 0.4);
  await until(async () => (await bound('Fader wing'))['1:cc.1.1']?.do === 'piece');
  // Learning plays nothing.
  expect(await fader.getAttribute('aria-valuenow')).toBe(before);
  await shall('GO');
  await strike('Key 1');
  await until(async () => (await bound('Fader wing'))['1:note.1.36']?.do === 'list');
  await shall('Grand master');
  await slide('Fader 8', 0.9);
  await until(async () => (await bound('Fader wing'))['1:cc.1.8']?.do === 'master');
  await screen.press('Learned');
  // What it has just learned to lead takes it along: a finger that comes sooner would have it elsewhere than it looked.
  await stands('Fader 8', 127);
});

test('what it moves is played, and what plays is told back: motors stand, keys are lit', async () => {
  await slide('Fader 8', 0.5);
  await until(async () => Math.abs((await stage()).master - 0.5) < 0.02);
  await live({ command: 'master', level: 1 });
  await stands('Fader 8', 127);
  await live({ command: 'release-all', time: 0 });
  await until(async () => !(await lit('Key 1')));
  await strike('Key 1');
  await until(async () => (await stage()).lists[0]?.cue !== null);
  await until(() => lit('Key 1'));
  await inDesk();
  await screen.says('[aria-label=Bytes]', /in 90 24 7f/);
  await inSheets();
  // Its displays and the picture of the hand say what each part does.
  await inDesk();
  await screen.says('main', 'Grand master');
  await screen.says('[aria-label="Key 1"]', 'GO');
  await inSheets();
  await screen.says('[data-part="note.1.36"]', 'GO');
  await screen.says('[data-part="cc.1.8"]', 'Grand master');
});

test('a device that is pulled out is said, and heard again when it is back', async () => {
  await inDesk();
  await screen.driver.get(`${house.url}/node`);
  await inSheets();
  await screen.says('[data-hand-name="Fader wing"]', 'not connected');
  await inDesk();
  await screen.driver.get(`${house.url}/desk`);
  await inSheets();
  await until(async () => !(await screen.words('[data-hand-name="Fader wing"]')).includes('not'));
  // It is told again where everything stands.
  await stands('Fader 8', 127);
});

test('keys of this keyboard play as a hand, and not while somebody types', async () => {
  await screen.driver.findElement(By.css('[aria-label="New hand"]')).click();
  await screen.fill('Name', 'Keys here');
  await (await screen.find('[role=dialog] select[name=kind]')).sendKeys('a keyboard');
  await screen.press('Make it');
  // Its picture is there, in the place of the one before.
  await screen.find('[aria-label="Hand Keys here"]');
  await screen.press('Learn');
  await shall('Blackout');
  await (await screen.find('[aria-label="Hand Keys here"]')).click();
  await screen.driver.actions().keyDown(Key.SHIFT).sendKeys('B').keyUp(Key.SHIFT).perform();
  await until(async () => (await bound('Keys here'))['1:key.Shift+KeyB']?.do === 'blackout');
  await screen.press('Learned');
  const dark = async (): Promise<boolean> =>
    (await (await screen.find('[aria-label=Blackout]')).getAttribute('aria-pressed')) === 'true';
  await (await screen.find('[aria-label="Hand Keys here"]')).click();
  await screen.driver.actions().keyDown(Key.SHIFT).sendKeys('B').keyUp(Key.SHIFT).perform();
  await until(dark);
  await screen.driver.actions().keyDown(Key.SHIFT).sendKeys('B').keyUp(Key.SHIFT).perform();
  await until(async () => !(await dark()));
  const line = await screen.find('#command');
  await line.click();
  await line.sendKeys('B');
  expect(await line.getAttribute('value')).toBe('B');
  expect(await dark()).toBe(false);
  await line.clear();
});
