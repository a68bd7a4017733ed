/** Screens that other people can use: every place, page and dialog, by night and by day, has no serious finding. */
import AxeBuilder from '@axe-core/webdriverjs';
import { By, Key, type WebElement } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(600_000);
let house: House;
let screen: Screen;
let show = '';

const SERIOUS = new Set(['serious', 'critical']);

/** What a theme can spoil: whatever else is found stands in the page by night and by day alike. */
const BY_THEME = ['color-contrast'];
let theme: 'night' | 'day' = 'night';

/** In the page itself: there are no frames, and a window of its own would take the focus. */
const axe = (of: Screen, rules?: string[]): AxeBuilder =>
  new AxeBuilder(of.driver).setLegacyMode(true).options({
    resultTypes: ['violations'],
    ...(rules && { runOnly: rules }),
  });

/** What axe finds on what is shown, as sentences; by day only what the day can spoil. */
async function findings(where: string, within = 'html'): Promise<string[]> {
  const { violations } = await axe(screen, theme === 'day' ? BY_THEME : undefined)
    .include(within)
    .analyze();
  return violations
    .filter((v) => SERIOUS.has(v.impact ?? ''))
    .map((v) => `${where}: ${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`);
}

const texts = async (css: string): Promise<string[]> =>
  screen.driver.executeScript<string[]>(
    'return [...document.querySelectorAll(arguments[0])].map((e) => e.textContent.trim())',
    css,
  );

async function go(path: string): Promise<void> {
  await screen.driver.get(`${house.url}${path}`);
  await screen.says('body', /\S/);
  await until(async () => (await screen.words('body')).length > 20);
}

const nth = async (css: string, i: number): Promise<WebElement | undefined> =>
  (await screen.driver.findElements(By.css(css)))[i];

/** Looks at the dialog that is opening, and leaves it; nothing where none opens. */
async function dialogNow(where: string): Promise<string[]> {
  const asks = await until(async () => (await screen.count('[role=dialog]')) > 0, 1500).then(
    () => true,
    () => false,
  );
  if (!asks) return [];
  // What lies behind it was looked at before; three dialogs are looked at with it, below.
  const found = await findings(where, '[role=dialog]');
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
  await until(async () => (await screen.count('[role=dialog]')) === 0);
  return found;
}

/** Opens what asks in a dialog (its words end in an ellipsis). */
async function dialogs(where: string, seen: Set<string>): Promise<string[]> {
  const found: string[] = [];
  const opener = 'main button:not(:disabled)';
  for (const [i, name] of (await texts(opener)).entries()) {
    if (!name.endsWith('…') || seen.has(name)) continue;
    const button = await nth(opener, i);
    if (!button || !(await button.isDisplayed())) continue;
    seen.add(name);
    await button.click();
    found.push(...(await dialogNow(`${where} > ${name}`)));
  }
  return found;
}

/** The same behind the menus of the bars. */
async function menus(where: string, seen: Set<string>): Promise<string[]> {
  const found: string[] = [];
  const trigger = ':is(main, header) button[aria-haspopup=menu]:not(:disabled)';
  const item = '[role=menuitem]:not([data-disabled])';
  for (let i = 0; i < (await screen.count(trigger)); i++) {
    const open = async (): Promise<boolean> => {
      const button = await nth(trigger, i);
      if (!button || !(await button.isDisplayed()) || (await button.getCssValue('opacity')) === '0')
        return false;
      await button.click();
      return until(async () => (await screen.count('[role=menu]')) > 0, 1500).then(
        () => true,
        () => false,
      );
    };
    if (!(await open())) continue;
    // What lies behind an open menu is put out of reach by it, and comes back with it.
    found.push(...(await findings(`${where} > menu ${i}`, '[role=menu]')));
    const names = await texts(item);
    await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
    for (const [n, name] of names.entries()) {
      if (!name.endsWith('…') || seen.has(name)) continue;
      seen.add(name);
      await until(async () => (await screen.count('[role=menu]')) === 0);
      if (!(await open())) continue;
      await (await nth(item, n))?.click();
      found.push(...(await dialogNow(`${where} > ${name}`)));
    }
  }
  return found;
}

async function look(): Promise<void> {
  await screen.driver.executeAsyncScript(
    `const done = arguments[1];
     fetch('/api/me/preferences').then((r) => r.json())
       .then((p) => fetch('/api/me/preferences', { method: 'PUT', headers: { 'content-type': 'application/json' },
         body: JSON.stringify({ ...p, look: { theme: arguments[0], light: 1 } }) }))
       .then(() => done());`,
    theme,
  );
}

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  show = await (await new Script(house).signIn('owner')).showId('The Night Ferry');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

describe.each(['night', 'day'] as const)('by %s', (now) => {
  beforeAll(async () => {
    theme = now;
    await look();
  });

  test.each(['rig', 'stage', 'book', 'run', 'sheets', 'crew'])(
    '%s, its tabs and dialogs',
    async (place) => {
      await go(`/shows/${show}/${place}`);
      await screen.says('[data-testid=air]', /air|rehearsal/i);
      await until(
        async () =>
          (await screen.driver.executeScript('return document.documentElement.dataset.theme')) ===
          theme,
      );
      const found = await findings(place);
      // The dialogs are made of the same parts and tokens by day.
      if (theme === 'day') {
        expect(found).toEqual([]);
        return;
      }
      const seen = new Set<string>();
      found.push(...(await menus(place, seen)));
      const tabs = await texts('main [role=tab]');
      for (const [i, name] of tabs.entries()) {
        const tab = (await screen.driver.findElements(By.css('main [role=tab]')))[i];
        if (!tab) continue;
        await tab.click();
        found.push(...(await findings(`${place} > ${name}`, 'main')));
        found.push(...(await dialogs(`${place} > ${name}`, seen)));
      }
      expect(found).toEqual([]);
    },
  );

  test.each([
    ['help', '?'],
    ['palette', Key.chord(Key.CONTROL, 'k')],
    ['record', Key.chord(Key.CONTROL, 'r')],
  ])('the dialog of %s', async (name, key) => {
    await go(`/shows/${show}/run`);
    await screen.says('[data-testid=air]', /air|rehearsal/i);
    await (await screen.find('body')).sendKeys(key);
    await screen.find('[role=dialog]');
    expect(await findings(name)).toEqual([]);
  });

  test.each(['focus', 'notes', 'page', 'sheet', 'go', 'booth', 'caller', 'monitor'])(
    'the page %s',
    async (page) => {
      await go(`/shows/${show}/${page}`);
      expect(await findings(page)).toEqual([]);
    },
  );

  test.each(['/', '/house', '/node', '/desk', '/reference'])('%s', async (path) => {
    await go(path);
    expect(await findings(path)).toEqual([]);
  });

  test('every sheet in use, one while it is arranged, and a hand while it learns', async () => {
    await go(`/shows/${show}/sheets`);
    await screen.find('[data-sheet]');
    const found: string[] = [];
    for (let i = 0; i < (await screen.count('[data-sheet]')); i++) {
      await (await nth('[data-sheet]', i))?.click();
      await screen.find('[data-piece]');
      found.push(...(await findings(`sheet ${i}`)));
    }
    await screen.press('Arrange');
    await (await screen.find('[role=option]')).click();
    await screen.find('[aria-label="What is chosen"] h2');
    found.push(...(await findings('arranging')));
    await screen.press('Areas …');
    await screen.find('[data-testid=area-floor]');
    found.push(...(await findings('areas')));
    await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
    await screen.press('Done');
    await (await screen.find('[aria-label="New sheet"]')).click();
    found.push(...(await dialogNow('new sheet')));
    await (await screen.find('[aria-label="New hand"]')).click();
    await screen.fill('Name', `Wing by ${theme}`);
    await screen.press('Make it');
    await screen.press('Learn');
    found.push(...(await findings('a hand')));
    expect(found).toEqual([]);
  });

  test('a list along its time, its beat, the calendar, and the windows', async () => {
    await go(`/shows/${show}/book`);
    await screen.tab('Time');
    await screen.find('[data-testid=track-ruler]');
    const found = await findings('time');
    for (const dialog of ['Set the beat', 'Calendar']) {
      await screen.press(dialog);
      found.push(...(await dialogNow(dialog)));
    }
    await screen.driver.actions().keyDown(Key.ALT).sendKeys('w').keyUp(Key.ALT).perform();
    found.push(...(await dialogNow('windows')));
    await screen.tab('Sheet');
    expect(found).toEqual([]);
  });

  test('an effect while it is worked on', async () => {
    await go(`/shows/${show}/stage`);
    await screen.tab('Effects');
    await (await screen.find('[aria-label="Make an effect"]')).click();
    await (await screen.find('[aria-label="Begin from"] button[title="Lift-off"]')).click();
    await (await screen.find('[data-grip="step/0/0"]')).click();
    const found = await findings('effect');
    await screen.press('Leave it');
    expect(found).toEqual([]);
  });
});

test('whoever comes has a sign-in page that can be read', async () => {
  const guest = await Screen.openAt(house, '/sign-in');
  const { violations } = await axe(guest).analyze();
  expect(violations.filter((v) => SERIOUS.has(v.impact ?? '')).map((v) => v.id)).toEqual([]);
});
