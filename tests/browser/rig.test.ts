/** Tonight's patch in the Rig: searching, patching by every way, the grid, the map, types, power, outputs, files. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { By, Key, type WebElement } from 'selenium-webdriver';
import { headFile } from '../../src/core/gdtf/golden';
import { readGdtf } from '../../src/core/gdtf/read';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(180_000);
let house: House;
let screen: Screen;
let script: Script;
let show = '';

interface Fixture {
  id: string;
  number: number;
  label: string;
  hang: string;
  typeId: string;
  mode: string;
  patch: { universe: number; address: number }[];
  circuitId?: string;
  transforms?: Record<string, unknown>;
}
interface Rows {
  fixtures: Fixture[];
  routes: { universe: number; wire: number; protocol: string; destination: string }[];
  types: { id: string; name: string }[];
  groups: { name: string; fixtures: string[] }[];
  circuits: { id: string; name: string }[];
}
const rows = async (): Promise<Rows> =>
  ((await script.ask(`/api/shows/${show}`)).json as { tables: Rows }).tables;
const fixture = async (number: number): Promise<Fixture | undefined> =>
  (await rows()).fixtures.find((f) => f.number === number);
const at = async (number: number): Promise<string> =>
  ((await fixture(number))?.patch ?? []).map((p) => `${p.universe}.${p.address}`).join(', ');
const dmx = async (universe: number, address: number): Promise<number> =>
  ((await script.ask(`/api/shows/${show}/stage`)).json as { universes: Record<string, number[]> })
    .universes[universe]?.[address - 1] ?? -1;
const tab = async (name: string): Promise<void> =>
  (
    await screen.driver.findElement(
      By.xpath(
        `//div[@role="tablist"][@aria-label="Below"]//button[starts-with(normalize-space(.), "${name}")]`,
      ),
    )
  ).click();
const universe = async (n: number): Promise<void> =>
  (await screen.find(`[data-universe="${n}"] button`)).click();
const cellOf = (number: number, column: string): Promise<WebElement> =>
  screen.find(`[data-fixture="${number}"] [data-column=${column}]`);

beforeAll(async () => {
  house = await openHouse();
  screen = await Screen.open(house, 'owner');
  script = await new Script(house).signIn('owner');
  await screen.fill('Make a new show', 'Patch night');
  await screen.press('Make show');
  await screen.says('main', 'The house is empty');
  show = await screen.showId();
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

test('a type is found whatever case, spaces and punctuation; a favourite is there again after a reload', async () => {
  await screen.pick('WASH19', 'Quillon Wash 19, Full, 17');
  await screen.says('[data-testid=patch-says]', '1 takes 1.1 to 1.17, 17 channels');
  await screen.driver.executeScript(
    'document.querySelector(\'[aria-label="Make Wash 19 a favourite"]\').click()',
  );
  await until(async () =>
    (
      (await script.ask('/api/me/preferences')).json as { types: { favourite: string[] } }
    ).types.favourite.includes('quillon-wash'),
  );
  await screen.driver.navigate().refresh();
  await screen.says('[role=group][aria-label=Favourites]', 'Wash 19');
});

test('the form patches with a group, and offers to run on when the universe is full', async () => {
  await screen.pick('tern par', 'Aldersund Tern par, RGBW, 4');
  await screen.fill('Quantity', '4');
  await screen.fill('First no.', '11');
  await screen.fill('Label', 'Rail #');
  await screen.fill('Address', '1.505');
  await screen.says('[data-testid=patch-says]', 'a universe ends at 512');
  await screen.press('Go on in universe 2');
  await screen.says('[data-testid=patch-says]', 'over 2 universes');
  await (
    await screen.driver.findElement(By.xpath('//label[normalize-space(.)="Make a group"]//input'))
  ).click();
  await screen.press('Patch 4 fixtures');
  await until(async () => (await at(14)) === '2.5');
  expect([await at(11), await at(12), await at(13)]).toEqual(['1.505', '1.509', '2.1']);
  expect((await rows()).groups.map((g) => [g.name, g.fixtures.length])).toEqual([['Rail', 4]]);
});

test('a double click on the map patches there; a type is carried from the list onto it', async () => {
  await (
    await screen.driver.findElement(By.xpath('//label[normalize-space(.)="Make a group"]//input'))
  ).click();
  await screen.pick('generic dimmer', 'Generic Dimmer, 8 bit');
  await screen.fill('Quantity', '6');
  await screen.fill('First no.', '1');
  await universe(1);
  const spot = await screen.cell(33);
  await screen.driver.actions({ async: true }).move(spot).doubleClick().perform();
  await until(async () => (await at(6)) === '1.38');

  await screen.fill('Quantity', '2');
  const option = await screen.find('[role=option][aria-label^="Generic Dimmer, 16 bit"]');
  const to = await screen.cell(65);
  await screen.driver
    .actions({ async: true })
    .move({ origin: option })
    .press()
    .move({ origin: option, x: 30, y: 4 })
    .move(to)
    .move({ x: to.x + 1, y: to.y })
    .release()
    .perform();
  await until(async () => (await at(8)) === '1.67');
});

test('units are dragged to where there is room; a drop onto others is refused, and nothing moves', async () => {
  await screen.dragCells(33, 129);
  await until(async () => (await at(1)) === '1.129');
  await screen.dragCells(129, 35);
  await new Promise((done) => setTimeout(done, 400));
  expect(await at(1)).toBe('1.129');
});

test('several are carried by keys, and across universes with the hand', async () => {
  await screen.command('1 thru 3');
  const map = await screen.find('[data-testid=address-map]');
  await screen.driver.executeScript('arguments[0].focus()', map);
  await screen.driver
    .actions()
    .keyDown(Key.ALT)
    .sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ARROW_DOWN, Key.ARROW_DOWN)
    .keyUp(Key.ALT)
    .perform();
  await screen.says('[data-testid=map-says]', 'Moves 1–3');
  await screen.driver.actions().sendKeys(Key.ENTER).perform();
  await until(async () => (await at(1)) === '1.289');
  expect(await at(3)).toBe('1.195');

  await universe(1);
  const [from, there] = [
    await screen.cell(289),
    await (await screen.find('[data-universe="2"]')).getRect(),
  ];
  // Held over the tab until it turns, in one stroke.
  const to = await screen.cell(289);
  await screen.driver
    .actions({ async: true })
    .move(from)
    .press()
    .move({ x: from.x + 9, y: from.y + 2 })
    .move({ x: Math.round(there.x + 20), y: Math.round(there.y + 20) })
    .pause(900)
    .move({ x: Math.round(there.x + 22), y: Math.round(there.y + 20) })
    .move(to)
    .release()
    .perform();
  await until(
    async () =>
      (await (await screen.find('[data-universe="2"] button')).getAttribute('aria-selected')) ===
      'true',
  );
  await until(async () => (await at(1)) === '2.289');
  expect(await at(2)).toBe('2.194');
});

test('the command line moves, renumbers, takes off and brings back, and says so before', async () => {
  await screen.typed('11 thru 14 patch 3.21');
  await screen.says('[data-testid=says]', 'move 11–14 to 3.21 · 16 addresses · nothing in the way');
  await screen.command('11 thru 14 patch 3.21');
  await until(async () => (await at(14)) === '3.33');
  await screen.command('14 patch off');
  await until(async () => (await at(14)) === '');
  await screen.says('[data-fixture="14"]', 'off the rig');
  await screen.command('14 patch back');
  await until(async () => (await at(14)) === '3.33');
  await screen.command('14 number 21');
  await until(async () => (await at(21)) === '3.33');
  await screen.typed('11 patch 3.30');
  await screen.says('[data-testid=says]', 'would sit on 13');
  await (await screen.find('#command')).sendKeys(Key.ESCAPE);
});

test('many cells at once: typed, filled down, counted on, pasted from a spreadsheet', async () => {
  await (await cellOf(1, 'hang')).click();
  await screen.driver.actions().keyDown(Key.SHIFT).perform();
  await (await cellOf(4, 'hang')).click();
  await screen.driver.actions().keyUp(Key.SHIFT).sendKeys(Key.ENTER).perform();
  await screen.driver.actions().sendKeys('Bar 9', Key.ENTER).perform();
  await until(async () => (await rows()).fixtures.filter((f) => f.hang === 'Bar 9').length === 4);

  await (await cellOf(1, 'label')).click();
  await screen.driver.actions().sendKeys(Key.ENTER).perform();
  await screen.driver.actions().sendKeys('Net 10', Key.ENTER).perform();
  await screen.says('[data-fixture="1"]', 'Net 10');
  await (await cellOf(1, 'label')).click();
  await screen.driver
    .actions()
    .keyDown(Key.SHIFT)
    .sendKeys(Key.ARROW_DOWN, Key.ARROW_DOWN)
    .keyUp(Key.SHIFT)
    .perform();
  await screen.press('Count on');
  await until(async () => (await fixture(3))?.label === 'Net 12');

  await (await cellOf(4, 'label')).click();
  await screen.driver.executeScript(
    `const d = new DataTransfer(); d.setData('text/plain', 'Bow\\t\\t\\t5.1\\nStern\\t\\t\\t5.2'); document.querySelector('[role=grid][aria-label=Fixtures]').dispatchEvent(new ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true }))`,
  );
  await until(async () => (await at(5)) === '5.2');
  expect([(await fixture(4))?.label, (await fixture(5))?.label]).toEqual(['Bow', 'Stern']);
});

test('an address that is taken gets a sentence in the grid, and nothing is written', async () => {
  await (await cellOf(6, 'address')).click();
  await screen.driver.actions().sendKeys(Key.ENTER).perform();
  await screen.driver.actions().sendKeys('5.1', Key.ENTER).perform();
  await screen.says('body', 'would sit on 4');
  expect(await at(6)).toBe('1.38');
});

test('limits bend what is sent, at once', async () => {
  await screen.command('6 at full');
  await until(async () => (await dmx(1, 38)) === 255);
  await (await cellOf(6, 'number')).click();
  const high = await screen.find('[aria-label="Intensity, highest"]');
  const changes = async (): Promise<number> =>
    ((await script.ask(`/api/shows/${show}`)).json as { seq: number }).seq;
  const before = await changes();
  await high.sendKeys(Key.ARROW_LEFT, Key.ARROW_LEFT, Key.ARROW_LEFT);
  await until(
    async () =>
      ((await fixture(6))?.transforms?.Dimmer as { max?: number } | undefined)?.max === 0.97,
  );
  // A run of key presses is one step.
  expect(await changes()).toBe(before + 1);
  await until(async () => (await dmx(1, 38)) === Math.round(0.97 * 255));
  await screen.says('[aria-label=Limits]', '0 – 97 %');
  await screen.says('[data-fixture="6"]', '0–97 %');
});

test('a type is swapped with a report, and the programming stays', async () => {
  await screen.command('record cue 1 "Bell"');
  await screen.command('clear');
  await screen.command('6');
  await screen.press('Swap type …');
  await screen.pick('tern par rgbw', 'Aldersund Tern par, RGBW, 4', '[role=dialog]');
  await screen.says('[data-testid=swap-report]', /Intensity Intensity kept 1/);
  await screen.press('Swap 1 fixture');
  await until(async () => (await fixture(6))?.typeId === 'aldersund-tern');
  await screen.command('goto 1 time 0');
  await until(async () => (await dmx(1, 38)) === Math.round(0.97 * 255));
});

test('the monitor shows bytes and where they come from; a forced byte is reset with the screen that forced it', async () => {
  await universe(1);
  await tab('DMX');
  await screen.says('[data-address="38"]', '247');
  await (await screen.find('[data-address="300"]')).click();
  await screen.press('Force');
  await until(async () => (await dmx(1, 300)) === 255);
  await screen.press('source');
  await screen.says('[aria-label=Sources]', 'address check by Yrsa Oddny');
  await screen.says('[aria-label=Sources]', 'default, intensity from cue 1');
  await screen.driver.navigate().refresh();
  await until(async () => (await dmx(1, 300)) === 0);
  await screen.find('[data-universe="1"] button');
});

test('parked, a unit stays where it is whatever is played', async () => {
  await screen.command('6 park');
  await screen.command('6 at 0');
  await new Promise((done) => setTimeout(done, 200));
  expect(await dmx(1, 38)).toBe(Math.round(0.97 * 255));
  await screen.command('6 park off');
  await until(async () => (await dmx(1, 38)) === 0);
  await screen.command('clear');
});

test('outputs: a route off stops its packets, counters run, the node answers a poll', async () => {
  await script.ask(`/api/shows/${show}/live`, { command: 'air', on: true });
  await tab('Outputs');
  await screen.says('[aria-label="Art-Net nodes"]', 'Simulated node');
  // How the output kept time: seconds come in, by what is chosen, for the hand and for who hears it.
  await screen.says('[data-testid=output-chart]', /late by \d+\.\d ms at most/);
  await screen.tab('Packets');
  await screen.says('[data-testid=output-chart] ul', 'Packets Frames');
  const chart = await screen.find('[data-testid=output-chart] [role=application]');
  await chart.sendKeys(Key.END);
  await screen.says(
    '[data-testid=output-chart] [aria-live]',
    /(now|ago): Packets \d+ a second, Frames \d+ a/,
  );
  const packets = async (): Promise<number> =>
    Number((await screen.words('main tbody tr td[data-column=packets]')).replaceAll(/\D/g, ''));
  await until(async () => (await packets()) > 0);
  const before = await packets();
  await until(async () => (await packets()) > before);
  await (await screen.find('[aria-label="Send universe 1 over sacn"]')).click();
  await until(async () => (await screen.words('main tbody tr td[data-column=packets]')) === '—');
  await (await screen.find('[aria-label="Send universe 1 over sacn"]')).click();
  await screen.says('main', 'universe 1 here is 0.0.0 there');
  // A run of universes in one line, and back in one undo.
  const routes = async (): Promise<string[]> =>
    (await rows()).routes
      .filter((r) => r.protocol === 'sacn' && r.destination === '10.0.0.20')
      .map((r) => `${r.universe} ${r.wire}`)
      .sort();
  await screen.fill('Universe, or 1-8', '21-24');
  await (await screen.find('select[name=to]')).sendKeys('one address');
  await screen.fill('IPv4 address', '10.0.0.20');
  await screen.fill('First there', '101');
  await screen.press('Send them there');
  await until(async () => (await routes()).join() === '21 101,22 102,23 103,24 104');
  await screen.command('undo');
  await until(async () => (await routes()).length === 0);
});

test('circuits and watts: an overload is found, with everything at full and in the cue', async () => {
  await tab('Power');
  await screen.fill('New circuit', 'D1');
  await screen.fill('Breaker, A', '2');
  await screen.press('Add');
  // A slip of the hand, mended where it stands.
  const name = await screen.find('[aria-label="Name of circuit D1"]');
  await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'D7', Key.ENTER);
  const again = await screen.find('[aria-label="Name of circuit D7"]');
  await again.sendKeys(Key.chord(Key.CONTROL, 'a'), 'D1', Key.ENTER);
  await screen.find('[aria-label="Name of circuit D1"]');
  await tab('Fixtures');
  await (await cellOf(1, 'circuit')).click();
  await screen.driver.actions().sendKeys(Key.ENTER).perform();
  await screen.driver.actions().sendKeys('D1', Key.ENTER).perform();
  await until(async () => (await fixture(1))?.circuitId !== undefined);
  await tab('Findings');
  await screen.says('[aria-label=Findings]', /Circuit D1 would draw 750.W with everything at full/);
});

test('watts over the cue list: by keys from cue to cue, against a breaker, and from a point to its cue', async () => {
  const { tables } = (await script.ask(`/api/shows/${show}`)).json as {
    tables: { lists: { id: string }[] };
  };
  const fixtureId = (await fixture(1))?.id;
  for (const [number, level] of [
    [7000, 1],
    [8000, 0.5],
  ])
    await script.ask(`/api/shows/${show}/edits`, {
      edit: 'record-cue',
      params: {
        listId: tables.lists[0]?.id,
        number,
        values: [{ fixtureId, attribute: 'Dimmer', level }],
      },
    });
  await tab('Power');
  const chart = await screen.find('[role=application][aria-label^="Watts over the cue list"]');
  const textOf = (): Promise<string> =>
    screen.driver.executeScript<string>(
      'return document.querySelector("[role=application] [aria-live]")?.textContent ?? ""',
    );
  const key = (name: string): Promise<void> => chart.sendKeys(name);
  await key(Key.END);
  await until(async () =>
    /^Cue 8: Phase 1 375 W, .*Breakers of a phase 460 W/.test(await textOf()),
  );
  await key(Key.ARROW_LEFT);
  await until(async () => (await textOf()).startsWith('Cue 7: Phase 1 750 W'));
  await key(Key.ENTER);
  await until(async () => (await screen.driver.getCurrentUrl()).endsWith('/book'));
  await screen.tab('Cue');
  await screen.says('[data-testid=foot-cue]', /LX 7/);
  await screen.place('rig');
});

test('a type with something wrong is said while it is typed; a right one is made and patched', async () => {
  await (await screen.find('[aria-label="Make a new type"]')).click();
  await screen.fill('Maker', 'Aldersund');
  await screen.fill('Name', 'Sandpiper');
  await screen.press('Channel');
  await screen.says('[data-testid=type-says]', 'nothing wrong with it');
  const places = await screen.find('[aria-label="Places of Pan"]');
  await places.sendKeys(Key.chord(Key.CONTROL, 'a'), '1');
  await screen.says('[data-testid=type-says]', 'both use channel 1');
  expect(await (await screen.button('Make the type')).isEnabled()).toBe(false);
  await places.sendKeys(Key.chord(Key.CONTROL, 'a'), '2');
  await screen.says('[data-testid=type-says]', 'nothing wrong with it');
  await screen.press('Make the type');
  await until(async () => (await rows()).types.some((t) => t.name === 'Sandpiper'));
  await screen.fill('Quantity', '1');
  await screen.fill('First no.', '90');
  await screen.fill('Address', '6.1');
  await screen.press('Patch 1 fixture');
  await until(async () => (await at(90)) === '6.1');
});

test('a CSV with problems lists them by row and brings nothing; mended, all of it comes', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'wingman-csv-'));
  const bad = path.join(folder, 'bad.csv');
  const good = path.join(folder, 'good.csv');
  writeFileSync(
    bad,
    'No.;Name;Type;Address\n301;Keel;Puffin;7.1\n301;=1+1;Dimmer;7.2\n302;Mast;Dimmer;7.999\n',
  );
  writeFileSync(
    good,
    'No.;Name;Type;Address;Position\n301;Keel;Dimmer;7.1;Bar 2\n302;Mast;Tern par;7.2;Bar 2\n',
  );
  const open = async (): Promise<void> => {
    await screen.press('Files');
    await (
      await screen.driver.findElement(
        By.xpath('//*[@role="menuitem"][contains(., "Take in files")]'),
      )
    ).click();
  };
  await open();
  await (await screen.find('[aria-label="Files to take in"]')).sendKeys(bad);
  await screen.says('[role=dialog]', 'a table of the patch');
  await screen.says(
    '[data-testid=import-problems]',
    /line 2, type There is no type “Puffin”.*line 3, label “=1\+1” begins like a formula.*line 4/,
  );
  expect(await (await screen.button('Take it in')).isEnabled()).toBe(false);
  await (await screen.find('[aria-label="Files to take in"]')).sendKeys(good);
  await screen.says('[data-testid=import-says]', 'Imported a patch: 2 new fixtures');
  await screen.press('Take it in');
  await until(async () => (await at(302)) === '7.2');
});

test('makers’ files: what is odd is said before, the type is patched, kept by the house, and had in another show', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'wingman-gdtf-'));
  const maker = path.join(folder, 'oriel.gdtf');
  const broken = path.join(folder, 'broken.gdtf');
  writeFileSync(maker, headFile());
  writeFileSync(broken, 'no archive');
  await (await screen.find('[aria-label="Take in makers’ files"]')).click();
  await (await screen.find('[aria-label="Files to take in"]')).sendKeys(`${maker}\n${broken}`);
  await screen.says('[role=dialog]', /oriel\.gdtf.*a fixture type \(GDTF\).*1 remark/);
  await screen.says('[aria-label="broken.gdtf"]', 'is nothing that Wingman takes into a show');
  await screen.press('Take in 1 file');
  await screen.says('[aria-label="oriel.gdtf"]', 'It is in');
  await screen.press('Done');
  await (await screen.find('[aria-label="Find a fixture type"]')).sendKeys('oriel');
  await screen.says('[aria-label="Fixture types"]', /Basic.*14 ch/);
  await (await screen.find('[aria-label^="Quillon Oriel 300 wash, Basic"]')).click();
  await screen.press('Patch 1 fixture');
  await until(async () =>
    (await rows()).fixtures.some((f) => f.typeId === 'house-5c1f6f0e-7d0a-4a53-9c11-aa0102030405'),
  );
  const out = await fetch(
    `${house.url}/api/shows/${show}/export/type.gdtf?type=house-5c1f6f0e-7d0a-4a53-9c11-aa0102030405`,
    { headers: { cookie: script.cookies } },
  );
  const again = readGdtf(new Uint8Array(await out.arrayBuffer()));
  expect(again).toMatchObject({ odd: [], type: { name: 'Oriel 300 wash', maker: 'Quillon' } });
  // The house has it for every show: one that never saw the file patches it.
  const { json } = await script.ask('/api/library');
  expect(json).toMatchObject({
    types: [{ name: 'Oriel 300 wash', revision: '2026-03-02', shows: [expect.any(String)] }],
  });
  const sunday = await script.showId('Sunday at Tidewater');
  const { type } = (await script.ask('/api/library/house-5c1f6f0e-7d0a-4a53-9c11-aa0102030405'))
    .json as { type: { id: string } };
  const patched = await script.ask(`/api/shows/${sunday}/edits`, {
    edit: 'patch-fixtures',
    params: { typeId: type.id, type, mode: 'Basic', quantity: 1, first: 901, off: true },
  });
  expect(patched.status).toBe(200);
  await (
    await screen.find('[aria-label="Find a fixture type"]')
  ).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
});

test('paper and files: four PDFs and the patch as CSV; nobody else gets them', async () => {
  const get = async (file: string, who = script): Promise<{ status: number }> =>
    who.ask(`/api/shows/${show}/export/${file}`);
  for (const by of ['number', 'universe', 'position', 'switches'])
    expect((await get(`patch.pdf?by=${by}`)).status).toBe(200);
  expect((await get('patch.csv')).status).toBe(200);
  expect((await get('patch.pdf?by=mood')).status).toBe(400);
  expect((await get('patch.csv', await new Script(house).signIn('viewer'))).status).toBe(404);
});

test('undo brings back what was imported away, step by step, and another screen sees it all', async () => {
  const count = (await rows()).fixtures.length;
  await screen.command('301');
  await screen.press('Delete 301');
  await screen.says('[role=dialog]', 'No cue, look or group uses it');
  await screen.press('Delete');
  await until(async () => (await rows()).fixtures.length === count - 1);
  await screen.command('undo');
  await until(async () => (await rows()).fixtures.length === count);
});
