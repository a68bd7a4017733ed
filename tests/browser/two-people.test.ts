/** Two people in one show: every edit and the running cue at once, undo for both, roles, and who is on the board. */
import { By } from 'selenium-webdriver';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(180_000);
let house: House;
let owner: Screen;
let programmer: Screen;
let show = '';

beforeAll(async () => {
  house = await openHouse();
  owner = await Screen.open(house, 'owner');
  programmer = await Screen.open(house, 'programmer');
  await owner.openShow('The Night Ferry');
  await programmer.openShow('The Night Ferry');
  show = await owner.showId();
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

test('both see who is here', async () => {
  await owner.says('[aria-label="People here"]', /YO.*MK|MK.*YO/);
  await programmer.says('[aria-label="People here"]', /YO.*MK|MK.*YO/);
});

test('the running cue is on both screens at once', async () => {
  await owner.command('goto 3 time 0');
  await programmer.says('[data-testid=current-cue]', 'Quay at dusk');
  await (await owner.find('[data-testid=go]')).click();
  for (const screen of [owner, programmer])
    await screen.says('[data-testid=current-cue]', 'Ship’s bell');
  await programmer.says('aside[aria-label="Cue spine"]', 'On the board: Yrsa Oddny');
});

test('a GO of somebody who is not on the board is refused with the name of who is', async () => {
  const script = await new Script(house).signIn('programmer');
  expect(await script.ask(`/api/shows/${show}/live`, { command: 'go' })).toMatchObject({
    status: 409,
    json: {
      error: { code: 'board', message: expect.stringContaining('Yrsa Oddny is on the board') },
    },
  });
  // Asked for, it is handed over.
  await (await programmer.find('[aria-label="The board"]')).click();
  await programmer.press('Ask for it');
  await owner.says('[data-testid=message-line]', 'Mara Kell asks for the board');
  await owner.press('Hand over');
  await (await programmer.find('[role=dialog] [aria-label=Close]')).click();
  await programmer.says('aside[aria-label="Cue spine"]', 'On the board: you');
  await owner.says('aside[aria-label="Cue spine"]', 'On the board: Mara Kell');
});

test('a list’s own board is asked of whoever is on the show’s, and every GO names who plays before it is pressed', async () => {
  const lanterns = (what: string) =>
    By.xpath(`//li[@data-board][contains(., "Lanterns")]//button[normalize-space(.)="${what}"]`);
  await owner.says('[data-testid=go]', 'Mara Kell is on the board');
  await owner.place('run');
  await owner.says('section[aria-label="Other lists"] header', 'Mara Kell plays them');
  await owner.typed('list 2 go');
  await owner.says('[data-testid=also]', 'Mara Kell is on the board: ask for it first');
  await owner.typed(' ');
  await (await owner.find('[aria-label="The board"]')).click();
  await owner.driver.findElement(lanterns('Ask for a board of its own')).click();
  await programmer.says('[data-testid=message-line]', 'asks for the board of list “Lanterns”');
  await programmer.press('Hand over');
  await until(
    async () => (await owner.driver.findElements(lanterns('Back to the show'))).length > 0,
  );
  await (await owner.find('[role=dialog] [aria-label=Close]')).click();
  await owner.says('[data-list="Lanterns"]', 'yours to play');
  await programmer.place('run');
  await programmer.says('[data-list="Lanterns"]', 'Yrsa Oddny plays it');
  await programmer.says('aside[aria-label="Cue spine"]', 'On the board: you');
  await (await owner.find('[aria-label="The board"]')).click();
  await until(
    async () => (await owner.driver.findElements(lanterns('Back to the show'))).length > 0,
  );
  await owner.driver.findElement(lanterns('Back to the show')).click();
  await programmer.says('[data-testid=message-line]', 'it is yours with the show’s');
  await (await owner.find('[role=dialog] [aria-label=Close]')).click();
  await owner.says('section[aria-label=Faders]', 'Mara Kell plays them');
  for (const screen of [owner, programmer]) await screen.place('stage');
});

test('an edit of one is on the other’s screen', async () => {
  await owner.command('name cue 5 Everybody aboard');
  await programmer.says('aside[aria-label="Cue spine"]', 'Everybody aboard');
  await programmer.place('rig');
  await programmer.command('patch 2 dimmer from 301 at 4.201');
  await owner.place('rig');
  const filter = await owner.find('[aria-label="Filter fixtures"]');
  await filter.sendKeys('301');
  await owner.says('[data-fixture="301"]', '4.201');
});

test('each undoes their own; nobody undoes what another has built on', async () => {
  await (await programmer.find('[aria-label^="Undo your last edit"]')).click();
  await until(async () => (await owner.count('[data-fixture="301"]')) === 0);
  await programmer.command('name cue 5 All aboard!');
  await owner.says('aside[aria-label="Cue spine"]', 'All aboard!');
  await (await owner.find('[aria-label^="Undo your last edit"]')).click();
  await owner.says('[data-testid=message-line]', 'by Mara Kell');
  await owner.says('aside[aria-label="Cue spine"]', 'All aboard!');
});

test('a show is put on air or kept in rehearsal, and every frame says which', async () => {
  await programmer.says('[data-testid=air]', 'On air to the simulated node only');
  await (await owner.find('[data-testid=air]')).click();
  await owner.says('[role=dialog]', 'its light fades to nothing');
  await owner.press('Take off air');
  for (const screen of [owner, programmer]) await screen.says('[data-testid=air]', 'In rehearsal');
  const script = await new Script(house).signIn('viewer');
  await until(async () =>
    (
      (await script.ask('/api/sim/node')).json as {
        universes: { protocol: string; state: string }[];
      }
    ).universes
      .filter((u) => u.protocol === 'sacn')
      .every((u) => u.state === 'terminated'),
  );
  await (await owner.find('[data-testid=air]')).click();
  await owner.says('[role=dialog]', 'Nothing is on air now.');
  await owner.press('Put on air');
  await programmer.says('[data-testid=air]', 'On air');
});

test('a viewer looks: every edit and live command is refused, and the screen says so', async () => {
  const viewer = await new Script(house).signIn('viewer');
  expect(
    (
      await viewer.ask(`/api/shows/${show}/edits`, {
        edit: 'change-show',
        params: { set: { name: 'Mine' } },
      })
    ).json,
  ).toMatchObject({ error: { code: 'forbidden' } });
  for (const command of [
    { command: 'go' },
    { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 1 },
    { command: 'type', text: '1 at full' },
    { command: 'air', on: false },
    { command: 'board', do: 'take' },
  ]) {
    expect(await viewer.ask(`/api/shows/${show}/live`, command)).toMatchObject({
      status: 403,
      json: { error: { code: 'forbidden' } },
    });
  }
  expect(
    (
      await viewer.ask(
        `/api/shows/${show}/members`,
        { email: 'viewer@tidewater.example', role: 'owner' },
        { method: 'PUT' },
      )
    ).status,
  ).toBe(403);
  expect((await viewer.ask(`/api/shows/${show}`)).status).toBe(200);
});

test('a role that is taken away counts at once on an open screen', async () => {
  const boss = await new Script(house).signIn('owner');
  await boss.ask(
    `/api/shows/${show}/members`,
    { email: 'programmer@tidewater.example', role: 'viewer' },
    { method: 'PUT' },
  );
  await programmer.says('[data-testid=message-line]', 'You are viewer of this show now');
  expect(await (await programmer.find('#command')).isEnabled()).toBe(false);
  await boss.ask(
    `/api/shows/${show}/members`,
    { email: 'programmer@tidewater.example', role: 'programmer' },
    { method: 'PUT' },
  );
});

describe('light of somebody who goes', () => {
  const rook = async (): Promise<Screen> => {
    const screen = await Screen.open(house, 'operator');
    await screen.openShow('The Night Ferry');
    return screen;
  };
  const strip = '[data-testid=left-light]';

  test('whoever signs out is shown out at once; the others read whose light stays, and take it over', async () => {
    const screen = await rook();
    await screen.command('101 at 60');
    await owner.place('stage');
    await screen.driver.executeScript(
      "document.querySelector('[aria-label=\"Your screen\"]').dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, button: 0 }))",
    );
    const out = By.xpath('//*[@role="menuitem"][normalize-space(.)="Sign out"]');
    await until(async () => (await screen.driver.findElements(out)).length > 0);
    await screen.driver.findElement(out).click();
    await owner.says(
      strip,
      /has signed out and holds 1 value of 1 unit on stage: it goes in \d+ s/,
    );
    await programmer.says(strip, 'has signed out');
    await owner.press('Take it over');
    await until(async () => (await owner.count(strip)) + (await programmer.count(strip)) === 0);
    await owner.says('[data-testid=message-line]', 'You hold 1 value that');
    await owner.command('clear');
  });

  test('a role that is taken away ends the screen and asks those who are here; what is left stays in sight until somebody lets it go', async () => {
    const screen = await rook();
    await screen.command('101 at 40');
    const script = await new Script(house).signIn('owner');
    const role = (to: string | null) =>
      script.ask(
        `/api/shows/${show}/members`,
        { email: 'operator@tidewater.example', role: to },
        { method: 'PUT' },
      );
    await role('viewer');
    await programmer.says(strip, 'may not play any more');
    await programmer.press('Leave it until I say');
    await programmer.says('[data-testid=left-standing]', 'Light of');
    expect(await programmer.count(strip)).toBe(0);
    await (await owner.find('[data-testid=left-standing]')).click();
    await owner.press('Let go in 3 s');
    await until(async () => (await programmer.count('[data-testid=left-standing]')) === 0);
    await role(null);
    await until(async () => new URL(await screen.driver.getCurrentUrl()).pathname === '/');
    await role('operator');
  });
});
