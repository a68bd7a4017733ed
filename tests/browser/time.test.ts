/** A list along its time, in the Book and against the wire: laid by hand and by lines, jumped in, looped, tapped. */
import { By, Key, type WebElement } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(120_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';
let list = '';

interface CueRow {
  actions?: { do: string }[];
  id: string;
  number: number;
  name: string;
  listId: string;
  at_s?: number;
  keeps?: string;
  up_s: number;
}
interface ListRow {
  id: string;
  name: string;
  time?: {
    on: boolean;
    timecode?: { offset_s: number };
    tempo: { bpm: number }[];
    marks: { name: string; at_s: number }[];
  };
}
const tables = async () =>
  (
    (await script.ask(`/api/shows/${show}`)).json as {
      tables: { cues: CueRow[]; lists: ListRow[] };
    }
  ).tables;
const cueOf = async (number: number): Promise<CueRow> => {
  const found = (await tables()).cues.find((c) => c.listId === list && c.number === number * 1000);
  if (!found) throw new Error(`no cue ${number}`);
  return found;
};
const live = (command: unknown) => script.ask(`/api/shows/${show}/live`, command);
const edit = async (name: string, params: unknown): Promise<string> => {
  const { status, json } = await script.ask(`/api/shows/${show}/edits`, { edit: name, params });
  expect([name, status, json]).toEqual([name, 200, json]);
  return (json as { changes: { id: string }[] }).changes[0]?.id ?? '';
};
interface Stage {
  fixtures: Record<string, Record<string, { level: number }>>;
  lists: { id: string; cue: string | null }[];
}
const stage = async (): Promise<Stage> => (await script.ask(`/api/shows/${show}/stage`)).json;
const onCue = async (): Promise<string | null> =>
  (await stage()).lists.find((l) => l.id === list)?.cue ?? null;
/** What the unit shows, 0…1; and its byte, which its curve bends. */
const level = async (): Promise<number> => (await stage()).fixtures['1']?.Dimmer?.level ?? NaN;
const wire = async (): Promise<number> =>
  (
    (await script.ask('/api/sim/node')).json as {
      universes: { protocol: string; universe: number; slots: number[] }[];
    }
  ).universes.find((u) => u.protocol === 'sacn' && u.universe === 1)?.slots[0] ?? -1;
const shows = (wanted: number): Promise<void> =>
  until(async () => Math.abs((await level()) - wanted) < 0.005);

/** Ten cues of one unit, two seconds apart, each a level of its own. */
beforeAll(async () => {
  house = await openHouse();
  script = await new Script(house).signIn('owner');
  show = await script.showId('The Night Ferry');
  list = await edit('make-list', { name: 'Ten steps' });
  const { json } = await script.ask(`/api/shows/${show}`);
  const unit = (
    json as { tables: { fixtures: { id: string; number: number }[] } }
  ).tables.fixtures.find((f) => f.number === 1);
  for (let n = 1; n <= 10; n++)
    await edit('record-cue', {
      listId: list,
      number: n * 1000,
      name: `Step ${n}`,
      up_s: 1,
      values: [{ fixtureId: unit?.id, attribute: 'Dimmer', level: n / 10 }],
    });
  await live({ command: 'release-all', time: 0 });
  screen = await Screen.open(house, 'owner');
  await screen.openShow('The Night Ferry');
  await screen.place('book');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

const menu = async (words: string): Promise<void> => {
  const item = By.xpath(
    `//*[@role="menuitem"][contains(normalize-space(.), ${JSON.stringify(words)})]`,
  );
  await until(async () => (await screen.driver.findElements(item)).length > 0);
  await screen.driver.findElement(item).click();
};
/** Many moves from one place to another, past it and back. */
async function drag(css: string, by: number): Promise<void> {
  const r = await (await screen.find(css)).getRect();
  const from = { x: Math.round(r.x + r.width / 2), y: Math.round(r.y + r.height / 2) };
  let actions = screen.driver.actions({ async: true }).move(from).press();
  for (const t of [0.1, 0.4, 0.8, 1.15, 1.05, 1])
    actions = actions.move({ x: Math.round(from.x + by * t), y: from.y + 3, duration: 25 });
  await actions.release().perform();
}
const start = (n: number): string => `[data-track-cue="${n}"] [role=button]`;

/** The field of a label. */
const labelled = async (label: string): Promise<WebElement> =>
  screen.driver.findElement(
    By.id(
      await screen.driver
        .findElement(By.xpath(`//label[normalize-space(.)=${JSON.stringify(label)}]`))
        .getAttribute('for')
        .then((id) => id ?? ''),
    ),
  );

test('an empty track says how to begin; cues are laid on it by lines and by presses', async () => {
  await screen.press('Main list');
  await menu('Ten steps');
  await screen.tab('Time');
  await screen.says('[data-testid=time-panel]', 'No cue of this list stands on its track yet');
  await screen.command('cue 1 at 0');
  await until(async () => (await cueOf(1)).at_s === 0);
  await screen.typed('cue 2 at 1:75');
  await screen.says('[data-testid=says]', /no time/);
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
  for (let n = 2; n <= 9; n++) await screen.command(`cue ${n} at ${(n - 1) * 2}`);
  await until(async () => (await cueOf(9)).at_s === 16);
  await screen.press('All of it');
  await (await screen.find('[data-testid=track-ruler]')).click();
  await screen.press('Tap 10 here');
  await until(async () => (await cueOf(10)).at_s !== undefined);
  await screen.command('cue 10 at 0:18');
  await until(async () => (await cueOf(10)).at_s === 18);
});

test('a list without a cue is tapped from nothing: new ones come at the cursor, in their order', async () => {
  const empty = await edit('make-list', { name: 'From nothing' });
  await screen.press('Ten steps');
  await menu('From nothing');
  await screen.says('[data-testid=time-panel]', 'No cue of this list stands on its track yet');
  const own = async () =>
    (
      (await script.ask(`/api/shows/${show}`)).json as {
        tables: { cues: { listId: string; number: number; at_s?: number }[] };
      }
    ).tables.cues.filter((c) => c.listId === empty);
  await screen.press('New cue here');
  await until(async () => (await own()).length === 1);
  const cursor = (await own())[0]?.at_s ?? -1;
  expect(cursor).toBeGreaterThanOrEqual(0);
  await screen.command('insert cue at 0:30 "Bell"');
  await until(async () => (await own()).length === 2);
  await screen.press('New cue here');
  await until(async () => (await own()).length === 3);
  expect((await own()).map((c) => [c.number, c.at_s]).sort()).toEqual([
    [1000, cursor],
    [1500, cursor],
    [2000, 30],
  ]);
  for (let i = 0; i < 3; i++) await screen.command('undo');
  await until(async () => (await own()).length === 0);
  await screen.press('From nothing');
  await menu('Ten steps');
});

test('played along its time every step is on the wire; a jump is as if it had been played to there', async () => {
  await screen.press('Play from the cursor');
  await live({ command: 'track', do: 'play', at_s: 3.2, list });
  // From 10 to 20 % in a second from 2 s on, then 30 % from 4 s on.
  await until(async () => Number(await onCue()) >= 3);
  // It goes on while this looks: at 30 % it is there, or past it.
  await until(async () => (await level()) > 0.295);
  const low = await wire();
  await screen.press('Leave time');
  await live({ command: 'track', do: 'pause', at_s: 16.5, list });
  await shows(0.85);
  await until(async () => (await wire()) > low + 60);
  await screen.says('[data-testid=track-clock]', '0:16.50');
  // Backwards, into the middle of another fade.
  await live({ command: 'track', do: 'pause', at_s: 2.25, list });
  await shows(0.125);
  await until(async () => (await wire()) < low);
  expect(await onCue()).toBe('2');
});

test('a start is dragged there and back, with others, and undone in one; the end of a fade as well', async () => {
  await screen.driver
    .findElement(By.css('[aria-label="What is dragged comes to rest"]'))
    .sendKeys('to nothing');
  await drag(start(5), 40);
  await until(async () => ((await cueOf(5)).at_s ?? 0) > 8.2);
  await drag(start(5), -40);
  await until(async () => Math.abs(((await cueOf(5)).at_s ?? 0) - 8) < 0.25);
  // Two of them keep their distance.
  const before = [(await cueOf(7)).at_s ?? 0, (await cueOf(8)).at_s ?? 0];
  await (await screen.find(start(7))).click();
  await screen.driver
    .actions()
    .keyDown(Key.CONTROL)
    .click(await screen.find(start(8)))
    .keyUp(Key.CONTROL)
    .perform();
  await drag(start(8), 30);
  await until(async () => ((await cueOf(8)).at_s ?? 0) > (before[1] ?? 0));
  const after = [(await cueOf(7)).at_s ?? 0, (await cueOf(8)).at_s ?? 0];
  expect((after[1] ?? 0) - (after[0] ?? 0)).toBeCloseTo(2, 2);
  await script.ask(`/api/shows/${show}/undo`, { way: 'undo' });
  await until(
    async () => ((await cueOf(7)).at_s ?? 0) === before[0] && (await cueOf(8)).at_s === before[1],
  );
  await drag('[data-track-cue="3"] [role=slider]', 30);
  await until(async () => (await cueOf(3)).up_s > 1.2);
});

test('an action is put at the cursor, led along beneath the cues and back, opened, and undone', async () => {
  await (await screen.find('[data-testid=track-ruler]')).click();
  await screen.press('Action here …');
  await (await screen.find('[role=dialog] select[name=kind]')).sendKeys('Release all looks');
  await screen.press('Put it there');
  const made = async () =>
    (await tables()).cues.find(
      (c) => c.listId === list && c.actions?.some((a) => a.do === 'release-looks'),
    );
  await until(async () => (await made()) !== undefined);
  const chip = `[data-alongside="${(await made())?.id ?? ''}/0"]`;
  const at = (await made())?.at_s ?? 0;
  await drag(chip, 60);
  await until(async () => ((await made())?.at_s ?? 0) > at + 0.2);
  await drag(chip, -60);
  await until(async () => Math.abs(((await made())?.at_s ?? 0) - at) < 0.25);
  await (await screen.find(chip)).click();
  await screen.says('[role=dialog]', 'beside its light');
  await screen.says('[role=dialog]', 'New action');
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
  await until(async () => (await screen.count('[role=dialog]')) === 0);
  for (let i = 0; i < 3; i++) await script.ask(`/api/shows/${show}/undo`, { way: 'undo' });
  await until(async () => (await made()) === undefined);
});

test('the beat is typed; cues on the beat move with a new one, those on the clock stay, and both are said before', async () => {
  await edit('set-tempo', { list, tempo: [{ at_s: 0, bpm: 120, beats: 4 }] });
  await edit('place-cues', { list, at: { [(await cueOf(9)).id]: 16 }, keeps: 'beat' });
  await screen.press('Beat 120, 4 to a bar');
  const field = await screen.find('[aria-label="Beats a minute, of tempo 1"]');
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '60');
  await screen.says('[data-testid=beat-moves]', /With it moves: 9 to 0:32.00. 9 stay/);
  await screen.press('Set it');
  await until(async () => (await cueOf(9)).at_s === 32);
  await screen.command('cue 9 at bar 3');
  await until(async () => (await cueOf(9)).at_s === 8);
});

test('a mark is named and gone to by its name; a passage drawn on the ruler is looped', async () => {
  await live({ command: 'track', do: 'leave', list });
  await screen.press('Mark here');
  await (await screen.find('[aria-label="Name of the mark"]')).sendKeys('Verse', Key.ENTER);
  await screen.says('[aria-label=Marks]', 'Verse');
  const rows = await tables();
  expect(rows.lists.find((l) => l.id === list)?.time?.marks.map((m) => m.name)).toEqual(['Verse']);
  await screen.command('track at mark Verse');
  await drag('[data-testid=track-ruler]', 160);
  await screen.press('Loop the passage');
  await screen.says('[data-testid=time-panel]', 'Loop no more');
  await screen.press('Loop no more');
  await screen.press('Leave time');
});

test('timecode leads it: locked, a jump, a loss; shown in the frame; and the machine in a window of the browser', async () => {
  await live({ command: 'remotes', on: true });
  await (await screen.find('[aria-label="Timecode in"]')).sendKeys('MIDI');
  const field = await screen.find('[aria-label="Timecode at the beginning of the track"]');
  await field.sendKeys(Key.chord(Key.CONTROL, 'a'), '01:00:00:00', Key.ENTER);
  await until(
    async () =>
      (await tables()).lists.find((l) => l.id === list)?.time?.timecode?.offset_s === 3600,
  );
  const main = await screen.driver.getWindowHandle();
  await screen.driver.switchTo().newWindow('window');
  const machine = await screen.driver.getWindowHandle();
  await screen.driver.get(`${house.url}/desk`);
  await screen.says('[aria-label="Timecode machine"]', '01:00:00:00');
  await screen.press('30 s on');
  await screen.press('30 s back');
  await screen.press('Play');
  await until(async () => (await onCue()) === '2');
  await screen.driver.switchTo().window(main);
  await screen.says('[data-testid=timecode-state]', 'locked');
  await screen.says('[data-testid=timecode-mark]', 'locked');
  await screen.driver.switchTo().window(machine);
  await screen.press('Drop out for 3 s');
  await screen.driver.switchTo().window(main);
  await screen.says('[data-testid=timecode-state]', /runs on without|lost/);
  await screen.says('[data-testid=timecode-state]', 'locked');
  await (await screen.find('[aria-label="Timecode in"]')).sendKeys('no timecode');
  await screen.driver.switchTo().window(machine);
  await screen.driver.close();
  await screen.driver.switchTo().window(main);
  await live({ command: 'track', do: 'leave', list });
});

test('a list gives timecode while it runs, and tells a jump', async () => {
  await (await screen.find('[aria-label="Timecode out"]')).sendKeys('gives MIDI time and Art');
  const given = async () =>
    ((await script.ask('/api/sim/node')).json as { timecode: { midi: string; artnet: string } })
      .timecode;
  await live({ command: 'track', do: 'play', at_s: 5, list });
  await until(async () => /^00:00:0[5-9]/.test((await given()).midi ?? ''));
  await until(async () => /^00:00:0[5-9]/.test((await given()).artnet ?? ''));
  await live({ command: 'track', do: 'pause', at_s: 20, list });
  await until(async () => (await given()).midi === '00:00:20:00');
  // From an hour on, at thirty frames a second, as the other house wants it.
  await screen.press('Track');
  await screen.fill('Timecode that it gives at its beginning', '01:00:00:00');
  await (await labelled('Frames a second')).sendKeys('30');
  await screen.fill('It ends at', '1:30');
  await screen.press('Set it');
  await until(async () => (await screen.count('[role=dialog]')) === 0);
  await live({ command: 'track', do: 'play', at_s: 5, list });
  await until(async () => /^01:00:0[5-9]/.test((await given()).midi ?? ''));
  await until(async () => /^01:00:0[5-9]/.test((await given()).artnet ?? ''));
  await live({ command: 'track', do: 'pause', at_s: 20.5, list });
  await until(async () => (await given()).midi === '01:00:20:15');
  await live({ command: 'track', do: 'leave', list });
});

test('the calendar says what comes next, leaves it out once, and lets a list go when its moment has come', async () => {
  await screen.press('Calendar');
  await screen.says('[role=dialog]', 'Nothing goes by itself');
  await screen.press('Another occasion');
  await screen.fill('Name', 'Foyer');
  await (await labelled('List')).sendKeys('Ten steps');
  const soon = new Date(Date.now() + 12_000);
  const time = [soon.getHours(), soon.getMinutes(), soon.getSeconds()]
    .map((n) => String(n).padStart(2, '0'))
    .join(':');
  await screen.fill('Time of day', time);
  await live({ command: 'release', list, time: 0 });
  await screen.press('Make it');
  await screen.says('[aria-label="What comes next"]', 'Foyer: GO on Ten steps');
  await until(async () => (await onCue()) === '1', 30_000);
  // Today's has come, and stands there a while: the next one is tomorrow's.
  await screen.says('[aria-label="What comes next"]', 'has come');
  await screen.press('Skip it once');
  await screen.says('[aria-label="What comes next"]', 'Do it after all');
  // Another time, on two days of the week, in December alone; what was skipped stays so.
  await (await screen.find('[aria-label="Change Foyer"]')).click();
  await screen.fill('Time of day', '25:00');
  await screen.press('Change it');
  await screen.says('[role=dialog]', 'Like 19:30 or 19:30:15.');
  await screen.fill('Time of day', '18:45');
  await screen.press('Sat');
  await screen.press('Fri');
  await (await labelled('From, the first day')).sendKeys('12012030');
  await (await labelled('To, the last day')).sendKeys('11302030');
  await screen.press('Change it');
  await screen.says('[role=dialog]', 'It ends before it begins.');
  await (await labelled('To, the last day')).sendKeys('12312030');
  await screen.press('Change it');
  await screen.says(
    '[data-occasion=Foyer]',
    'GO on Ten steps, 18:45:00, Fri Sat, 1 Dec 2030 to 31 Dec 2030',
  );
  const { tables } = (await script.ask(`/api/shows/${show}`)).json as {
    tables: { occasions: { skipped: string[]; days: number[] }[] };
  };
  expect(tables.occasions).toMatchObject([{ days: [5, 6], skipped: [expect.any(String)] }]);
  await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
});

test('a viewer sees the track and moves nothing of it', async () => {
  const viewer = await Screen.open(house, 'viewer');
  await viewer.openShow('The Night Ferry');
  await viewer.place('book');
  await viewer.press('Main list');
  const item = By.xpath('//*[@role="menuitem"][contains(normalize-space(.), "Ten steps")]');
  await until(async () => (await viewer.driver.findElements(item)).length > 0);
  await viewer.driver.findElement(item).click();
  await viewer.tab('Time');
  await viewer.find('[data-track-cue="5"]');
  for (const name of ['Play from the cursor', 'Mark here', 'Stand there'])
    expect([name, await (await viewer.button(name)).isEnabled()]).toEqual([name, false]);
});
