/** The Book and Run: a scene is written from a script, changed in the sheet, checked, and run. */
import { createSocket } from 'node:dgram';
import { By, Key } from 'selenium-webdriver';
import { oscMessage } from '../../src/core/output/osc.ts';
import { openHouse, Screen, Script, until, type House } from './wingman.ts';

let house: House;
let owner: Screen;
let script: Script;
let showId: string;

const SCENE = `ACT ONE

Scene 1 — The landing stage

([LX 1]Water. Nobody.)

KEEPER
[LX 2]Who goes there with a lantern?

LISS
[LX 3]Only the one who lit it.

KEEPER
Then [LX 4]come closer. Slower!

([LX 5]A wind comes up.)

LISS
[LX 6]Hold the rail. It [LX 7]remembers you.

KEEPER
[LX 8]Nobody does. Not even the [LX 9]tide.

LISS
[LX 10]Dawn, then. Good night.
`;

beforeAll(async () => {
  house = await openHouse();
  script = await new Script(house).signIn('owner');
  const made = await script.ask('/api/shows', { name: 'The Landing Stage' });
  showId = (made.json as { id: string }).id;
  owner = await Screen.open(house, 'owner');
  await owner.openShow('The Landing Stage');
}, 180_000);
afterAll(async () => {
  await Screen.closeAll();
  await house.stop();
}, 60_000);

const stage = async (): Promise<{
  fixtures: Record<string, Record<string, { level: number; source: string }>>;
  lists: { name: string; cue: string | null; next: string | null }[];
}> => (await script.ask(`/api/shows/${showId}/stage`)).json;
const rows = async (): Promise<{
  cues: { id: string; number: number; name: string; call: string; block?: boolean; up_s: number }[];
  calls: { quote: string; check?: string }[];
}> => {
  const { json } = await script.ask(`/api/shows/${showId}`);
  return (json as { tables: never }).tables;
};
const level = async (fixture: number): Promise<number> =>
  Math.round(((await stage()).fixtures[fixture]?.Dimmer?.level ?? 0) * 100);

async function menu(name: string, entry: string): Promise<void> {
  await owner.press(name);
  const item = By.xpath(
    `//*[@role="menuitem"][starts-with(normalize-space(.), ${JSON.stringify(entry)})]`,
  );
  await until(async () => (await owner.driver.findElements(item)).length > 0);
  await owner.driver.findElement(item).click();
}

/** The middle of a word of the script, in pixels of the page. */
async function word(text: string): Promise<{ x: number; y: number }> {
  const at = await owner.driver.executeScript<{ x: number; y: number } | null>(
    `for (const span of document.querySelectorAll('[data-testid=script-page] [data-from]')) {
       const node = span.firstChild; const i = node ? node.data.indexOf(arguments[0]) : -1;
       if (i < 0) continue;
       span.scrollIntoView({ block: 'center' });
       const range = document.createRange(); range.setStart(node, i); range.setEnd(node, i + arguments[0].length);
       const r = range.getBoundingClientRect(); return { x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2) };
     } return null;`,
    text,
  );
  if (!at) throw new Error(`The script does not say “${text}”.`);
  return at;
}

/** The middle of a cell of the sheet. */
async function cell(row: number, column: number): Promise<{ x: number; y: number }> {
  const canvas = await owner.find('[data-testid=sheet-cells]');
  const r = await canvas.getRect();
  const wide = Number(await canvas.getAttribute('data-wide'));
  return { x: Math.round(r.x + (column + 0.5) * wide), y: Math.round(r.y + row * 32 + 16) };
}
const keys = async (...k: string[]): Promise<void> => {
  for (const key of k) await owner.driver.actions().sendKeys(key).perform();
};

test('a script is pasted, and the cues that it names are made and called on their words', async () => {
  await owner.command('patch 8 dimmer from 1 at 1.1');
  await owner.place('book');
  await owner.press('Take in a script …');
  await owner.fill('Title', 'The Landing Stage');
  const text = await owner.find('textarea[aria-label="The script’s text"]');
  await owner.driver.executeScript(
    `const el = arguments[0]; Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set.call(el, arguments[1]); el.dispatchEvent(new Event('input', { bubbles: true }));`,
    text,
    SCENE,
  );
  await owner.says('[role=dialog]', '1 act, 1 scene, 1 page, 10 named cues');
  await owner.press('Take it in');
  await owner.says('[data-testid=script-page]', 'Who goes there with a lantern?');
  await owner.press('Cues');
  const skeleton = By.xpath(
    '//*[@role="menuitem"][starts-with(normalize-space(.), "Many empty cues")]',
  );
  await until(async () => (await owner.driver.findElements(skeleton)).length > 0);
  await owner.driver.findElement(skeleton).click();
  await owner.tab('From the script');
  await owner.says('[data-testid=planned]', 'Makes 10 cues that the script names, put 10 calls');
  await owner.press('Make them');
  await until(async () => (await owner.count('[data-call-of]')) === 10);
  expect((await rows()).cues.map((c) => c.number / 1000).sort((a, b) => a - b)).toEqual([
    1, 2, 3, 4, 5, 6, 7, 8, 9, 10,
  ]);
}, 60_000);

test('ten cues are recorded; before each write it is said which others look different', async () => {
  for (let n = 1; n <= 10; n++) {
    await owner.command(`${((n - 1) % 8) + 1} at ${n * 10}`);
    await owner.typed(`record cue ${n} time 0.5`);
    await owner.says('[data-testid=says]', `1 value into cue ${n}`);
    await owner.command(`record cue ${n} time 0.5`);
  }
  await owner.command('clear');
  await owner.command('goto 2 time 0');
  await owner.command('1 at 35');
  await owner.says(
    'section[aria-label="Before you record"]',
    'also changes what is seen in LX 3, 4, 5, 6 and 2 more',
  );
  // The first two of them, before and after.
  expect(await owner.count('[data-testid=record-pictures] svg')).toBe(4);
  await (await owner.driver.findElement(By.xpath('//label[contains(., "This cue only")]'))).click();
  await owner.says('section[aria-label="Before you record"]', 'No other cue looks different');
  await (await owner.find('[data-testid=record-here]')).click();
  await owner.says('section[aria-label="Before you record"]', 'You hold nothing');
  await until(async () => (await level(1)) === 35);
  await owner.command('goto 3 time 0');
  await until(async () => (await level(1)) === 10);
}, 120_000);

test('in the sheet a value is typed into cells, found by its line, taken out, and undone', async () => {
  await owner.driver
    .actions({ async: true })
    .move(await cell(3, 4))
    .click()
    .perform();
  await owner.says('#sheet-says', 'nothing is set');
  await keys('7', '7', Key.ENTER);
  await owner.says('#sheet-says', '5: 77 % set in LX 4');
  await keys(Key.ARROW_UP, Key.ARROW_UP);
  await owner.says('#sheet-says', 'in LX 2: nothing is set');
  // Two cues by three fixtures at once.
  await owner.driver
    .actions()
    .keyDown(Key.SHIFT)
    .sendKeys(Key.ARROW_DOWN, Key.ARROW_RIGHT, Key.ARROW_RIGHT)
    .keyUp(Key.SHIFT)
    .perform();
  await keys('2', '0', Key.ENTER);
  await owner.says('#sheet-says', '7: 20 % set in LX 3');
  await keys(Key.DELETE);
  await owner.says('#sheet-says', 'in LX 3: nothing is set');
  await owner.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
  await owner.says('#sheet-says', '7: 20 % set in LX 3');
  await owner.driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform();
  await owner.says('#sheet-says', 'nothing is set');
  await keys('9', '9', '9', Key.ENTER);
  await owner.says('[data-testid=message-line]', 'A level is at most 100 %');
  await keys(Key.ESCAPE);
}, 60_000);

test('cues are moved, blocked, timed and deleted from the menu, each with a word on what tracks', async () => {
  await (await owner.find('[data-sheet-cue="2"]')).click();
  await owner.says('[data-testid=book-follow]', 'Stays here');
  await menu('Cues', 'Move LX 2');
  await owner.says(
    '[data-testid=planned]',
    /Moves cue 2 after 10, as 11; \d+ values that tracked on went into/,
  );
  await owner.press('Move');
  await until(async () => (await rows()).cues.some((c) => c.number === 11_000));
  await owner.press('Stays here');
  await (await owner.find('[data-sheet-cue="5"]')).click();
  await menu('Cues', 'Block LX 5');
  await until(async () => (await rows()).cues.find((c) => c.number === 5000)?.block === true);
  await owner.driver.actions().keyDown(Key.SHIFT).perform();
  await (await owner.find('[data-sheet-cue="7"]')).click();
  await owner.driver.actions().keyUp(Key.SHIFT).perform();
  await menu('Cues', 'Times of 3 cues');
  await owner.fill('Up', '1:75');
  await owner.says('[role=dialog]', 'seconds and minutes go to 59');
  await owner.fill('Up', '0.4');
  await owner.press('Set them');
  await until(async () => (await rows()).cues.filter((c) => c.up_s === 0.4).length === 3);
  await (await owner.find('[data-sheet-cue="11"]')).click();
  await menu('Cues', 'Delete LX 11');
  await owner.says('[data-testid=planned]', 'Deletes cue 11');
  await owner.press('Delete');
  await until(async () => !(await rows()).cues.some((c) => c.number === 11_000));
  await owner.command('undo');
  await until(async () => (await rows()).cues.some((c) => c.number === 11_000));
  await owner.says('[data-testid=book-follow]', 'Goes along');
}, 90_000);

test('a cue is dropped on a word, and a later draft keeps the calls and lists those that need a look', async () => {
  await (await owner.find('[data-sheet-cue="11"]')).click();
  await owner.driver
    .actions({ async: true })
    .move(await word('night'))
    .click()
    .perform();
  await owner.says('[role=dialog][aria-label="A cue on these words"]', 'On “night”');
  await owner.press('Move LX 11 here');
  await until(async () => (await rows()).cues.find((c) => c.number === 11_000)?.call === 'night');
  const later = (await rows()).calls.length;
  await (await owner.find('[aria-label="Script: drafts and calls"]')).click();
  const item = By.xpath(
    '//*[@role="menuitem"][starts-with(normalize-space(.), "Take in a script")]',
  );
  await until(async () => (await owner.driver.findElements(item)).length > 0);
  await owner.driver.findElement(item).click();
  const text = await owner.find('textarea[aria-label="The script’s text"]');
  await owner.driver.executeScript(
    `const el = arguments[0]; const next = el.value.replace('Who goes there with a lantern', 'Halt! Who walks here in the dark').replace('KEEPER\\n', 'THE KEEPER\\n'); Object.getOwnPropertyDescriptor(HTMLTextAreaElement.prototype, 'value').set.call(el, next); el.dispatchEvent(new Event('input', { bubbles: true }));`,
    text,
  );
  await owner.says('[data-testid=planned]', /\d+ calls found again/);
  await owner.press('Take it in');
  await owner.says('[data-testid=script-page]', 'Halt! Who walks here');
  expect((await rows()).calls.length).toBe(later);
  await owner.press('Stays here');
}, 60_000);

test('calls are hung one after the other: the next cue is offered by itself, and the clicked word is marked', async () => {
  await owner.command('make 2 cues from 13 "Late #"');
  await until(async () => (await rows()).cues.some((c) => c.number === 14_000));
  const called = async (number: number): Promise<string | undefined> =>
    (await rows()).cues.find((c) => c.number === number * 1000)?.call;
  await (await owner.find('[data-sheet-cue="13"]')).click();
  // By the word alone, Enter, and the next word.
  for (const [name, number] of [
    ['Slower', 13],
    ['rail', 14],
  ] as const) {
    await owner.driver
      .actions({ async: true })
      .move(await word(name))
      .click()
      .perform();
    await owner.says(
      '[role=dialog][aria-label="A cue on these words"]',
      new RegExp(`On “${name}.*” Call LX ${number} Late ${number - 12} here`),
    );
    expect(await owner.words('[data-marked]')).toContain(name);
    await keys(Key.ENTER);
    await until(async () => (await called(number))?.startsWith(name) === true);
    expect(await owner.count('[data-marked]')).toBe(0);
  }
  await owner.command('delete cue 13');
  await owner.command('delete cue 14');
  await until(async () => !(await rows()).cues.some((c) => c.number === 14_000));
}, 60_000);

test('a cue is taken from its menu, changed, and put back; as it was it is no change', async () => {
  await owner.command('clear');
  await (await owner.find('[data-sheet-cue="5"]')).click();
  await menu('Cues', 'Take LX 5 into my programmer');
  await owner.says('[data-testid=taken]', 'Put LX 5 back');
  await (await owner.find('[data-testid=taken]')).click();
  await owner.find('[role=dialog]');
  await owner.says('[role=dialog]', 'back into 5');
  await owner.says('[data-testid=consequences]', 'shows all of this already');
  await keys(Key.ESCAPE);
  await until(async () => (await owner.count('[role=dialog]')) === 0);
  await owner.command('1 at 37');
  await (await owner.find('[data-testid=taken]')).click();
  await owner.find('[role=dialog]');
  await owner.press('Record into cue 5');
  await until(async () => (await owner.count('[data-testid=taken]')) === 0);
  const { cues } = await rows();
  const fifth = cues.find((c) => c.number === 5000)?.id;
  const { tables } = (await script.ask(`/api/shows/${showId}`)).json as {
    tables: { values: { cueId: string; level: number }[] };
  };
  expect(tables.values.filter((v) => v.cueId === fifth).map((v) => v.level)).toContain(0.37);
  await owner.command('undo');
  await owner.command('clear');
}, 60_000);

test('a script is edited with its lines, its calls in the margin, a search, and what differs from before', async () => {
  await (await owner.find('[aria-label="Script: drafts and calls"]')).click();
  const item = By.xpath(
    '//*[@role="menuitem"][starts-with(normalize-space(.), "Take in a script")]',
  );
  await until(async () => (await owner.driver.findElements(item)).length > 0);
  await owner.driver.findElement(item).click();
  const editor = await owner.find('[data-testid=script-editor] .cm-content');
  await owner.says('[data-testid=script-editor] .cm-lineNumbers', /1 2 3/);
  await owner.says('[data-testid=script-editor] .cm-calls', /LX \d/);
  const marks = await owner.count('.cm-calls .cm-gutterElement:not(:empty)');
  await editor.click();
  await editor.sendKeys(Key.chord(Key.CONTROL, Key.HOME), 'A page of weather, first.', Key.ENTER);
  // Calls go along with their words, and the new line is marked as new.
  expect(await owner.count('.cm-calls .cm-gutterElement:not(:empty)')).toBe(marks);
  await owner.says('.cm-changedLine, .cm-insertedLine', 'A page of weather, first.');
  await owner.says('[data-testid=planned]', /calls found again/);
  await editor.sendKeys(Key.chord(Key.CONTROL, 'f'));
  await (await owner.find('.cm-search input')).sendKeys('weather');
  await until(async () => (await owner.count('.cm-searchMatch')) > 0);
  // Esc leaves the search, and the dialog with what was typed stays.
  await keys(Key.ESCAPE);
  await until(async () => (await owner.count('.cm-search')) === 0);
  await owner.says('[role=dialog]', 'A page of weather, first.');
  await until(async () => {
    await editor.sendKeys(Key.chord(Key.CONTROL, 'z'));
    return !(await owner.words('[role=dialog]')).includes('weather');
  });
  // A whole later draft, pasted with the cursor in the middle of the one before, takes its place.
  await owner.driver.executeScript(
    `const paste = new DataTransfer(); paste.setData('text/plain', 'A new first line of all.\\n' + arguments[1]); arguments[0].dispatchEvent(new ClipboardEvent('paste', { clipboardData: paste, bubbles: true, cancelable: true }));`,
    editor,
    SCENE,
  );
  await owner.says('[role=dialog]', 'in the place of the draft before');
  const field = await owner.find('textarea[aria-label="The script’s text"]');
  expect((await field.getAttribute('value'))?.split('Who goes there').length).toBeLessThanOrEqual(
    2,
  );
  await editor.sendKeys(Key.chord(Key.CONTROL, 'z'));
  await until(
    async () => !((await field.getAttribute('value')) ?? '').includes('A new first line'),
  );
  await editor.sendKeys('Under the stars. ');
  await owner.press('Take it in');
  await owner.says('[data-testid=script-page]', 'Under the stars.');
}, 90_000);

test('the checks are looked through with a way to each, and a rehearsal plays the whole list', async () => {
  await owner.command('make 1 cue from 12');
  await menu('Files', 'Check before the show');
  await owner.says('[data-testid=book-findings]', 'Cue 12 changes nothing.');
  await owner.says(
    '[data-testid=book-findings]',
    'Cue 12 waits for GO and is called nowhere in “The Landing Stage”.',
  );
  await owner.tab('Rehearsal in fast motion');
  await owner.press('Play it through');
  await owner.says('[data-testid=rehearsed]', /Played \d+ cues/, 60_000);
  await keys(Key.ESCAPE);
}, 90_000);

test.each([
  ['cues.pdf', 'application/pdf'],
  ['tracking.pdf?family=intensity', 'application/pdf'],
  ['script.pdf', 'application/pdf'],
  ['cues.csv', 'text/csv; charset=utf-8'],
])('%s comes as paper or file', async (file, type) => {
  const cookie = (await owner.driver.manage().getCookies())
    .map((c) => `${c.name}=${c.value}`)
    .join('; ');
  const response = await fetch(`${house.url}/api/shows/${showId}/export/${file}`, {
    headers: { cookie },
  });
  expect([response.status, response.headers.get('content-type')]).toEqual([200, type]);
  expect((await response.arrayBuffer()).byteLength).toBeGreaterThan(
    type.includes('pdf') ? 8000 : 300,
  );
});

test('Run: the scene is run with the space bar; the word to listen for, the time left, the script going along', async () => {
  await owner.command('goto 1 time 0');
  await owner.place('run');
  await owner.says('[aria-label="On stage"]', '1');
  await owner.says('[data-testid=trigger]', '“Only”');
  for (const [now, call] of [
    ['3', '“come”'],
    ['4', '“A”'],
    ['5', '“Hold”'],
  ] as const) {
    await keys(' ');
    await owner.says('[aria-label="On stage"]', new RegExp(`stage ${now}\\b`, 'i'));
    await owner.says('[data-testid=trigger]', call);
    await new Promise((done) => setTimeout(done, 120));
  }
  // A click on another cue in the spine makes it the next one; GO plays it.
  await (await owner.find('[data-cue="9"]')).click();
  await owner.says('[aria-label=Next]', /chosen by hand/i);
  await keys(' ');
  await owner.says('[aria-label="On stage"]', /stage 9\b/i);
  await until(async () => (await level(1)) === 90);
}, 60_000);

test('Run is locked against editing until it is opened', async () => {
  await owner.typed('delete cue 3');
  await (await owner.find('#command')).sendKeys(Key.ENTER);
  await owner.says('[data-testid=message-line]', 'Run is locked against editing');
  await (await owner.find('#command')).sendKeys(Key.ESCAPE);
  expect((await rows()).cues.some((c) => c.number === 3000)).toBe(true);
  await (await owner.find('[data-testid=run-lock]')).click();
  await owner.says('[data-testid=run-lock]', 'Open for editing');
}, 30_000);

test('a fader is made, moved by key and line, flashes, and waits to be picked up after a release', async () => {
  await script.ask(`/api/shows/${showId}/edits`, {
    edit: 'make-list',
    params: { name: 'Practicals' },
  });
  await owner.says('[aria-label="Other lists"]', 'Practicals');
  const lists = (
    (await script.ask(`/api/shows/${showId}`)).json as {
      tables: { lists: { id: string; name: string }[] };
    }
  ).tables.lists;
  const list = lists.find((l) => l.name === 'Practicals')?.id;
  const fixtures = (
    (await script.ask(`/api/shows/${showId}`)).json as {
      tables: { fixtures: { id: string; number: number }[] };
    }
  ).tables.fixtures;
  const eighth = fixtures.find((f) => f.number === 8)?.id;
  await script.ask(`/api/shows/${showId}/edits`, {
    edit: 'record-cue',
    params: {
      listId: list,
      number: 1000,
      up_s: 0,
      values: [{ fixtureId: eighth, attribute: 'Dimmer', level: 1 }],
    },
  });
  await (await owner.find('[aria-label="New fader"]')).click();
  await owner.fill('Name', 'Lamps');
  await (
    await owner.driver.findElement(
      By.xpath(
        '//label[normalize-space(.)="Which"]/following-sibling::select/option[contains(., "Practicals")]',
      ),
    )
  ).click();
  await (
    await owner.driver.findElement(By.xpath('//label[contains(., "Starts when raised")]'))
  ).click();
  await owner.press('Make it');
  const slider = await owner.find('[data-fader="1"]');
  await slider.sendKeys(Key.END);
  await owner.says('[data-list=Practicals]', '1');
  await until(async () => (await level(8)) === 100);
  await owner.command('fader 1 at 80');
  await until(async () => (await slider.getAttribute('aria-valuenow')) === '80');
  const row = await owner.find('[data-list=Practicals]');
  await (await row.findElement(By.xpath('.//button[normalize-space(.)="Release"]'))).click();
  await until(async () =>
    ((await slider.getAttribute('aria-valuetext')) ?? '').includes('waits to be moved across'),
  );
  await slider.sendKeys(Key.HOME);
  await until(async () => (await slider.getAttribute('aria-valuenow')) === '0');
  await slider.sendKeys(Key.PAGE_UP);
  await until(async () => (await slider.getAttribute('aria-valuetext')) === 'Lamps 10 %');
  await owner.command('release all time 0');
}, 60_000);

test('remote controls play over OSC while they are switched on, and only then', async () => {
  const { oscPort } = (await script.ask('/api/sim/node')).json as { oscPort: number };
  await script.ask(`/api/shows/${showId}/live`, { command: 'air', on: true });
  await owner.command('goto 3 time 0');
  const socket = createSocket('udp4');
  const send = (address: string): Promise<void> =>
    new Promise((done) => socket.send(oscMessage(address, []), oscPort, '127.0.0.1', () => done()));
  await send('/wingman/go');
  await new Promise((done) => setTimeout(done, 400));
  expect((await stage()).lists[0]?.cue).toBe('3');
  await owner.press('Remotes off');
  await owner.says('main', 'Remotes on');
  await until(async () => {
    await send('/wingman/go');
    await new Promise((done) => setTimeout(done, 150));
    return (await stage()).lists[0]?.cue === '4';
  });
  socket.close();
}, 40_000);

test('a sound of the show may be played, and nothing of another origin', async () => {
  const policy = (await fetch(`${house.url}/sign-in`)).headers.get('content-security-policy') ?? '';
  expect(policy).toContain("media-src 'self' data:");
  expect(policy).toContain("default-src 'self'");
});

test('actions of a cue reach the simulated peers; one that fails is told and stops nothing', async () => {
  const { cues } = await rows();
  await script.ask(`/api/shows/${showId}/edits`, {
    edit: 'change-cue',
    params: {
      id: cues.find((c) => c.number === 6000)?.id,
      set: {
        actions: [
          { do: 'osc', address: '/bell', args: [3] },
          { do: 'midi', kind: 'note-on', channel: 2, number: 61, value: 90 },
          { do: 'fader', fader: 'gone', level: 1, time_s: 0 },
        ],
      },
    },
  });
  await owner.command('goto 5 time 0');
  await owner.says('[aria-label=Next]', 'Sends OSC /bell 3');
  await owner.command('go');
  await owner.says(
    '[data-testid=reports]',
    'LX 6: Its action is for a fader that has been deleted',
  );
  await owner.says('[aria-label="On stage"]', /stage 6\b/i);
  await until(async () => {
    const { messages } = (await script.ask('/api/sim/node')).json as {
      messages: { text: string }[];
    };
    return (
      messages.some((m) => m.text === '/bell 3') &&
      messages.some((m) => m.text === 'note-on channel 2 number 61 value 90')
    );
  });
}, 40_000);

test('lines typed faster than the house answers are recorded as they were typed, each with its own values', async () => {
  await owner.place('stage');
  await owner.command('clear');
  const line = await owner.find('#command');
  // One burst of keys, as somebody types who does not look up.
  await line.sendKeys(
    ...[1, 2, 3, 4, 5, 6].flatMap((n) => [
      `${n} at ${n * 11}`,
      Key.ENTER,
      `record cue ${100 + n}`,
      Key.ENTER,
    ]),
  );
  await until(async () => (await rows()).cues.filter((c) => c.number > 100_000).length === 6);
  const { cues, values, fixtures } = (
    (await script.ask(`/api/shows/${showId}`)).json as {
      tables: {
        cues: { id: string; number: number }[];
        values: { cueId: string; fixtureId: string; level: number }[];
        fixtures: { id: string; number: number }[];
      };
    }
  ).tables;
  const number = new Map(fixtures.map((f) => [f.id, f.number]));
  const recorded = cues
    .filter((c) => c.number > 100_000)
    .sort((a, b) => a.number - b.number)
    .map((c) =>
      values
        .filter((v) => v.cueId === c.id)
        .map((v) => [number.get(v.fixtureId), Math.round(v.level * 100)]),
    );
  expect(recorded).toEqual([1, 2, 3, 4, 5, 6].map((n) => [[n, n * 11]]));
}, 40_000);
