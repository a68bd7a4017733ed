/** Keys as the table says them: each pressed in each place does what it says and nothing else on stage; modes end one by one; lists are written by keys alone. */
import { Key } from 'selenium-webdriver';
import { KEYS, type KeyId } from '@/ui/frame/key-table';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(300_000);
let house: House;
let owner: Script;
let screen: Screen;
let show = '';
const PLACES = ['rig', 'stage', 'book', 'run', 'crew'] as const;
const live = (command: unknown) => owner.ask(`/api/shows/${show}/live`, command);

interface Stage {
  master: number;
  blackout: boolean;
  faders: { number: number; level: number }[];
  lists: { cue: string | null; running: boolean; active?: boolean }[];
  fixtures: Record<string, Record<string, { level: number }>>;
}
const stage = async (): Promise<Stage> => (await owner.ask(`/api/shows/${show}/stage`)).json;
/** What an audience sees: levels of all lights, where the lists are, the masters. */
async function picture(): Promise<string> {
  const { master, blackout, lists, fixtures } = await stage();
  return JSON.stringify({
    master,
    blackout,
    lists: lists.map((l) => l.cue),
    levels: Object.entries(fixtures).map(([n, f]) => [
      n,
      Object.entries(f).map(([a, v]) => [a, Math.round(v.level * 500)]),
    ]),
  });
}
const lit = async (number: number): Promise<number> =>
  (await stage()).fixtures[number]?.Dimmer?.level ?? 0;
const faderNow = async (number: number): Promise<number | undefined> =>
  (await stage()).faders.find((f) => f.number === number)?.level;
const cueNow = async (): Promise<string | null> => (await stage()).lists[0]?.cue ?? null;
const modes = (): Promise<string[]> =>
  screen.driver.executeScript(
    "return [...document.querySelectorAll('[data-mode]')].map((m) => m.getAttribute('data-mode'))",
  );

beforeAll(async () => {
  house = await openHouse();
  owner = await new Script(house).signIn('owner');
  show = await owner.showId('The Night Ferry');
  screen = await Screen.open(house, 'owner');
  await screen.openShow('The Night Ferry');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

const NAMED: Record<string, string> = {
  Escape: Key.ESCAPE,
  PageDown: Key.PAGE_DOWN,
  PageUp: Key.PAGE_UP,
  F1: Key.F1,
  F2: Key.F2,
  Insert: Key.INSERT,
  F9: Key.F9,
  F10: Key.F10,
  F12: Key.F12,
  '?': '?',
};
async function press(key: string): Promise<void> {
  const parts = key.split('+');
  const last = parts.at(-1) ?? '';
  const held = parts
    .slice(0, -1)
    .map((p) => ({ $mod: Key.CONTROL, Alt: Key.ALT, Shift: Key.SHIFT })[p] ?? '');
  const main = NAMED[last] ?? last.replace(/^(Key|Digit)/, '').toLowerCase();
  await screen.driver.executeScript('document.activeElement?.blur()');
  let actions = screen.driver.actions();
  for (const h of held) actions = actions.keyDown(h);
  actions = actions.sendKeys(main);
  for (const h of held) actions = actions.keyUp(h);
  await actions.perform();
}
const still = (): Promise<void> => new Promise((done) => setTimeout(done, 90));

/** Closes what a key opened, ends modes, empties the line. */
async function tidy(place: string): Promise<void> {
  await until(async () => {
    if ((await screen.count('[role=dialog]')) === 0) return true;
    await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
    return false;
  });
  for (let i = 0; i < 6 && (await modes()).length > 0; i++) {
    await press('Escape');
    await still();
  }
  if (!(await screen.driver.getCurrentUrl()).endsWith(`/${place}`)) await screen.place(place);
  await (await screen.find('#command')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
}

/** What keys that change light bring about, and how that is taken back. */
const BRINGS: Partial<
  Record<KeyId, { seen: () => Promise<boolean>; back: () => Promise<unknown> }>
> = {
  go: {
    seen: async () => (await cueNow()) === '4',
    back: () => live({ command: 'goto', cue: '3', time: 0 }),
  },
  back: {
    seen: async () => (await cueNow()) === '2',
    back: () => live({ command: 'goto', cue: '3', time: 0 }),
  },
  cut: {
    seen: async () => (await cueNow()) === '4',
    back: () => live({ command: 'goto', cue: '3', time: 0 }),
  },
  'release-all': {
    seen: async () => (await cueNow()) === null,
    back: () => live({ command: 'goto', cue: '3', time: 0 }),
  },
  highlight: {
    seen: async () => (await lit(9)) === 1 && (await modes()).includes('highlight'),
    back: () => live({ command: 'highlight', on: false }),
  },
  home: { seen: async () => (await lit(9)) === 1, back: () => live({ command: 'clear' }) },
  'hold-focus': {
    seen: async () => (await lit(9)) === 1,
    back: () => live({ command: 'focus', fixtures: [9], level: 1, on: false }),
  },
  blind: {
    seen: async () => (await modes()).includes('blind'),
    back: () => live({ command: 'blind', on: false }),
  },
  // The first fader takes away: its key brings up nothing.
  'fader-key-1': { seen: () => Promise.resolve(true), back: () => Promise.resolve() },
  'fader-full-1': {
    seen: async () => (await faderNow(1)) === 0,
    back: () => live({ command: 'fader', fader: 1, level: 1, take: true }),
  },
  // With nothing held, nothing running and nothing cleared these bring about nothing.
  pause: {
    seen: () => Promise.resolve(true),
    back: () => live({ command: 'goto', cue: '3', time: 0 }),
  },
  letgo: { seen: () => Promise.resolve(true), back: () => live({ command: 'clear' }) },
};

describe.each(PLACES)('in %s', (place) => {
  let before = '';
  beforeAll(async () => {
    await live({ command: 'clear' });
    await live({ command: 'goto', cue: '3', time: 0 });
    await screen.place(place);
    await screen.command('9');
    await until(async () => (await cueNow()) === '3');
    await still();
    before = await picture();
  });

  test.each(
    // Of eight faders the first stands for all.
    KEYS.filter(
      (k) => k.id !== 'lock' && k.id !== 'bring-back' && !/^fader-.*-[2-8]$/.test(k.id),
    ).map((k) => [k.id, k.key, 'light' in k] as const),
  )('%s (%s) does what the table says, and nothing else on stage', async (id, key, light) => {
    const brings = BRINGS[id];
    await press(key);
    if (light) {
      await until(() => brings?.seen() ?? true).catch(() =>
        Promise.reject(new Error(`${id} in ${place} did not do what it says`)),
      );
      await brings?.back();
    } else await still();
    await tidy(place);
    if (id === 'next' || id === 'previous' || id === 'whole') await screen.command('9');
    if (id === 'lit') await live({ command: 'clear' });
    await until(async () => (await picture()) === before).catch(async () =>
      Promise.reject(
        new Error(`${id} in ${place} changed the stage: ${await picture()} instead of ${before}`),
      ),
    );
  });

  test('letters and digits begin a line and change nothing else', async () => {
    for (const letter of 'abcdefghijklmnopqrstuvwxyz0123456789') {
      await press(letter);
      await until(
        async () => (await (await screen.find('#command')).getAttribute('value')) === letter,
      ).catch(async () => Promise.reject(new Error(`${letter} in ${place}`)));
      await (await screen.find('#command')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
    }
    expect([await picture(), await modes(), await screen.count('[role=dialog]')]).toEqual([
      before,
      [],
      0,
    ]);
  });
});

test('modes are seen in every place in the order in which they were begun, and Esc ends the last, one at a time', async () => {
  await screen.place('stage');
  await screen.command('9');
  await press('Alt+KeyH');
  await until(async () => (await modes()).join() === 'highlight');
  await (await screen.find('[data-cue="9"]')).click();
  await press('Alt+KeyA');
  await until(async () => (await modes()).join() === 'highlight,look,tool');
  for (const place of PLACES) {
    await screen.place(place);
    expect(await modes()).toEqual(['highlight', 'look', 'tool']);
  }
  await screen.place('stage');
  for (const left of ['highlight,look', 'highlight', '']) {
    await press('Escape');
    await until(async () => (await modes()).join() === left);
  }
  await until(async () => (await lit(9)) < 1);
  // With nothing left to end, Esc leads to the line.
  await press('Escape');
  expect(await screen.driver.executeScript('return document.activeElement?.id')).toBe('command');
});

test('a page that its machine held up for seconds has lost nobody: what was on stays on', async () => {
  const heldUp = (ms: number): Promise<unknown> =>
    screen.driver.executeScript(
      'const end = performance.now() + arguments[0]; while (performance.now() < end);',
      ms,
    );
  await screen.command('9');
  await press('Alt+KeyH');
  await until(async () => (await lit(9)) === 1 && (await modes()).join() === 'highlight');
  for (const ms of [2200, 3500, 5000]) {
    await heldUp(ms);
    // As long as a lost connection would take to be seen.
    await new Promise((done) => setTimeout(done, 1200));
    expect([await modes(), await lit(9)]).toEqual([['highlight'], 1]);
  }
  await press('Escape');
  await until(async () => (await lit(9)) < 1);
});

test('blind with values held is not ended by Esc alone: they would show', async () => {
  await live({ command: 'clear' });
  await press('Alt+Shift+KeyB');
  await screen.command('12 at full');
  await until(async () =>
    (await screen.words('[data-testid=programmer-count]')).startsWith('1 value'),
  );
  const dark = await lit(12);
  await press('Escape');
  await screen.says(
    '[data-testid=message-line]',
    'Blind ends: 1 value that you hold would show on stage',
  );
  await screen.press('Stay blind');
  expect([await lit(12), await modes()]).toEqual([dark, ['blind']]);
  await press('Escape');
  await screen.press('Go live');
  await until(async () => (await lit(12)) === 1);
  await live({ command: 'clear' });
});

test('messages stand in their own line, over nothing, and can be read later', async () => {
  await screen.command('goto 3 time 0');
  await screen.command('name cue 9 Skerry lights');
  await screen.says('[data-testid=message-line]', 'name: “Skerry light” → “Skerry lights”');
  await screen.typed('goto 99');
  await screen.says('[data-testid=says]', 'There is no cue 99');
  const box = await screen.driver.executeScript<{ line: number; main: number }>(
    "return { line: document.querySelector('[data-testid=message-line]').getBoundingClientRect().top, main: document.querySelector('main').getBoundingClientRect().bottom }",
  );
  expect(box.line).toBeGreaterThanOrEqual(box.main - 1);
  await (await screen.find('[data-testid=message-line] [aria-label^="Messages before"]')).click();
  await screen.says('ol[aria-label="Messages before"]', 'Skerry lights');
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
});

test('a key is found by a word, given to something else, kept with the person, and never taken twice', async () => {
  await press('Shift+?');
  await (await screen.find('[aria-label="Search keys and lines"]')).sendKeys('highlight');
  await until(async () => (await screen.count('[data-key]')) === 1);
  const chip = async () => screen.find('[data-key=highlight]');
  for (const [key, why] of [
    ['g', 'types, or moves in a table'],
    [Key.F12, '“GO” already'],
  ] as const) {
    await (await chip()).click();
    await screen.driver.actions().sendKeys(key).perform();
    await screen.says('[role=dialog] [role=alert]', why);
  }
  await (await chip()).click();
  await screen.driver.actions().sendKeys(Key.INSERT).perform();
  await until(async () => (await (await chip()).getText()) === 'Insert');
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
  await until(async () => (await screen.count('[role=dialog]')) === 0);
  await screen.command('9');
  await press('Insert');
  await until(async () => (await lit(9)) === 1);
  await press('Insert');
  await until(async () => (await lit(9)) < 1);
  await press('Alt+KeyH');
  await still();
  expect(await modes()).toEqual([]);
  await screen.driver.navigate().refresh();
  await screen.says('[data-testid=air]', /On air/);
  await screen.command('9');
  await until(async () => {
    await press('Insert');
    await still();
    return (await modes()).includes('highlight');
  });
  await press('Escape');
  await press('Shift+?');
  await (await screen.find('[aria-label="Search keys and lines"]')).sendKeys('highlight');
  await screen.press('Alt H again');
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
});

test('twelve cues into a second list, by keys alone; the first list stays as it was', async () => {
  interface Rows {
    tables: {
      lists: { id: string; number: number }[];
      cues: { id: string; listId: string; number: number; name: string; up_s: number }[];
    };
  }
  const rows = async (): Promise<Rows['tables']> =>
    ((await owner.ask(`/api/shows/${show}`)).json as Rows).tables;
  const of = async (list: number): Promise<Rows['tables']['cues']> => {
    const { lists, cues } = await rows();
    return cues
      .filter((c) => c.listId === lists.find((l) => l.number === list)?.id)
      .sort((a, b) => a.number - b.number);
  };
  const keys = (text: string) => screen.driver.actions().sendKeys(text).perform();
  const [main, before] = [await of(1), (await of(2)).length];
  await screen.place('stage');
  await live({ command: 'clear' });
  await screen.driver.executeScript('document.activeElement?.blur()');
  for (let n = 1; n <= 6; n++) {
    await keys(`${n} at ${n * 10}${Key.ENTER}`);
    await until(async () => (await (await screen.find('#command')).getAttribute('value')) === '');
    await keys(`list 2 record cue ${20 + n} "Lamp ${n}" time ${n}`);
    await screen.says(
      '[data-testid=says]',
      new RegExp(`values? into cue ${20 + n} “Lamp ${n}” of list 2 “Lanterns” · new`),
    );
    await screen.says('[data-testid=also]', 'no other cue looks different');
    await keys(Key.ENTER);
    await screen.says('[data-testid=message-line]', `Recorded list 2 cue ${20 + n}`);
    await until(async () => (await of(2)).length === before + n);
  }
  // The other six where the list is shown: found by a word, then without naming it.
  await press('$mod+KeyK');
  await screen.find('[cmdk-input]');
  await keys('show list 2');
  await until(async () =>
    (await screen.words('[cmdk-item][data-selected=true]')).includes('Show list 2'),
  );
  await keys(Key.ENTER);
  await until(async () => (await screen.driver.getCurrentUrl()).endsWith('/book'));
  await screen.find('[data-sheet-cue="26"]');
  await screen.driver.executeScript('document.activeElement?.blur()');
  for (let n = 7; n <= 12; n++) {
    await keys(`${n} at ${n * 5}${Key.ENTER}`);
    await until(async () => (await (await screen.find('#command')).getAttribute('value')) === '');
    await keys(`record cue ${20 + n} "Lamp ${n}"`);
    await screen.says('[data-testid=says]', 'of list 2 “Lanterns”');
    await keys(Key.ENTER);
    await until(async () => (await of(2)).length === before + n);
  }
  const made = (await of(2)).filter((c) => c.number > 20_000);
  expect(made.map((c) => [c.number, c.name])).toEqual(
    Array.from({ length: 12 }, (_, i) => [(21 + i) * 1000, `Lamp ${i + 1}`]),
  );
  expect(made.slice(0, 6).map((c) => c.up_s)).toEqual([1, 2, 3, 4, 5, 6]);
  expect(await of(1)).toEqual(main);
  await keys('goto 22 time 0');
  await screen.says('[data-testid=says]', 'go to cue 22 “Lamp 2” of list 2 “Lanterns”');
  await keys(Key.ENTER);
  await until(async () => (await stage()).lists[1]?.cue === '22');
  await live({ command: 'clear' });
});
