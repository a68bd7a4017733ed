/** Several people in one show, with three browsers: invited, seen, asked, told, and never surprised. */
import { createSocket } from 'node:dgram';
import { By, Key } from 'selenium-webdriver';
import { WebSocket } from 'ws';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(240_000);
let house: House;
let owner: Screen;
let programmer: Screen;
let boss: Script;
let mara: Script;
let show = '';

type Shows = { shows: { id: string; name: string }[] };
interface Entry {
  kind: string;
  userName: string;
  text: string;
  data: Record<string, unknown>;
}
const showNamed = async (who: Script, name: string): Promise<string> =>
  ((await who.ask('/api/shows')).json as Shows).shows.find((s) => s.name === name)?.id ?? '';
const live = (who: Script, command: unknown, id = show) =>
  who.ask(`/api/shows/${id}/live`, command);
const edit = (who: Script, name: string, params: unknown, id = show) =>
  who.ask(`/api/shows/${id}/edits`, { edit: name, params });
const journal = async (kind: string): Promise<Entry[]> =>
  ((await boss.ask(`/api/shows/${show}/journal?kind=${kind}`)).json as { entries: Entry[] })
    .entries;
interface Rows {
  tables: {
    cues: { id: string; number: number; name: string; listId: string }[];
    fixtures: { id: string; number: number }[];
    notes: { id: string }[];
    parts: { id: string; fixtures: string[] }[];
    lists: { id: string; number: number }[];
  };
}
const rows = async (id = show): Promise<Rows['tables']> =>
  ((await boss.ask(`/api/shows/${id}`)).json as Rows).tables;
const cueId = async (number: number, id = show): Promise<string> => {
  const { cues, lists } = await rows(id);
  const first = lists.sort((a, b) => a.number - b.number)[0]?.id;
  return cues.find((c) => c.number === number * 1000 && c.listId === first)?.id ?? '';
};
const crew = async (screen: Screen, view: string): Promise<void> => {
  await screen.place('crew');
  await screen.tab(view);
};

beforeAll(async () => {
  house = await openHouse();
  boss = await new Script(house).signIn('owner');
  mara = await new Script(house).signIn('programmer');
  show = await showNamed(boss, 'The Night Ferry');
  owner = await Screen.open(house, 'owner');
  programmer = await Screen.open(house, 'programmer');
  await owner.openShow('The Night Ferry');
  await programmer.openShow('The Night Ferry');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

describe('people', () => {
  test('an invitation by link brings somebody new in, once', async () => {
    await crew(owner, 'People');
    await owner.press('Invite by link …');
    await owner.press('Make the link');
    const link = await (await owner.find('[data-testid=invitation-link]')).getAttribute('value');
    expect(link).toMatch(/\/invitation\/[\w-]{32}$/);
    await (await owner.find('[role=dialog] [aria-label=Close]')).click();
    const guest = await Screen.openAt(house, new URL(link ?? '').pathname);
    await guest.says('h1', 'You are invited to “The Night Ferry”');
    await guest.fill('Your name', 'Ossian Ray');
    await guest.fill('E-mail', 'ossian@tidewater.example');
    await guest.fill('A password, at least 8 characters', 'short');
    await guest.press('Come in');
    await guest.says('main', 'at least 8 characters.');
    await guest.fill('A password, at least 8 characters', 'a long one');
    await guest.press('Come in');
    await guest.says('[data-testid=show-name]', 'The Night Ferry');
    await owner.says('section[aria-label=People]', 'Ossian Ray');
    await owner.says('[aria-label="People here"]', 'OR');
    await guest.driver.get(link ?? '');
    await guest.says('h1', 'This link does not open');
    await guest.says('main', 'used already');
    await guest.close();
  });

  test('somebody who has an account signs in on the invitation, and goes on; who is signed in as another goes on as themselves', async () => {
    const invite = async (): Promise<string> =>
      (
        (await boss.ask(`/api/shows/${show}/invitations`, { role: 'viewer' })).json as {
          path: string;
        }
      ).path;
    const { id } = (await boss.ask('/api/shows', { name: 'Another' })).json as { id: string };
    const path = (
      (await boss.ask(`/api/shows/${id}/invitations`, { role: 'viewer' })).json as { path: string }
    ).path;
    const guest = await Screen.openAt(house, path);
    await guest.tab('I have an account');
    await guest.fill('E-mail', 'operator@tidewater.example');
    await guest.fill('Your password', 'wrong one');
    await guest.press('Sign in, and come in');
    await guest.says('[role=alert]', 'do not belong together');
    await guest.fill('Your password', 'tidewater');
    await guest.press('Sign in, and come in');
    await guest.says('[data-testid=show-name]', 'Another');
    // In already: said, and the way to one's shows.
    await guest.driver.get(`${house.url}${await invite()}`);
    await guest.press('Come in as Tam Brevik');
    await guest.says('[role=alert]', 'You are in “The Night Ferry” already, as operator');
    await guest.press('Not Tam Brevik: sign out, and go on here');
    await guest.says('main', 'I have an account');
    await guest.close();
    await boss.ask(`/api/shows/${id}/state`, { to: 'deleted' });
  });

  test('who is here is seen: where, on which cue; and one goes along with them', async () => {
    await programmer.place('book');
    await (await programmer.find('[data-sheet-cue="9"]')).click();
    await owner.says('aside [data-cue="9"] [data-testid=others-here]', 'MK');
    await (await owner.find('[data-person][title^="Mara Kell"]')).click();
    await owner.says('[role=dialog]', 'in the Book, looking at cue 9');
    await owner.press('Follow what they see');
    await until(async () => (await owner.driver.getCurrentUrl()).endsWith('/book'));
    await owner.says('[data-testid=following]', 'With Mara');
    await programmer.place('rig');
    await until(async () => (await owner.driver.getCurrentUrl()).endsWith('/rig'));
    await (await owner.find('[data-testid=following]')).click();
    await programmer.place('stage');
    await new Promise((done) => setTimeout(done, 400));
    expect(await owner.driver.getCurrentUrl()).toMatch(/\/rig$/);
  });

  test('a locked screen shows and takes nothing, on the server too, until its PIN is given', async () => {
    const screen = await Screen.open(house, 'operator');
    await screen.openShow('The Night Ferry');
    const menu = async (entry: string): Promise<void> => {
      await (await screen.find('[aria-label="Your screen"]')).click();
      const item = By.xpath(
        `//*[@role="menuitem"][starts-with(normalize-space(.), ${JSON.stringify(entry)})]`,
      );
      await until(async () => (await screen.driver.findElements(item)).length > 0);
      await screen.driver.findElement(item).click();
    };
    await menu('Set a PIN');
    await screen.fill('New PIN, 4 to 8 digits', '4711');
    await screen.press('Keep this PIN');
    await until(async () => (await screen.count('[role=dialog]')) === 0);
    await menu('Lock this screen');
    await screen.says('[data-testid=locked]', 'Locked by Tam Brevik');
    const posted = await screen.driver.executeAsyncScript<number>(
      `const done = arguments[arguments.length - 1]; fetch('/api/shows/${show}/live', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"command":"go"}' }).then((r) => done(r.status))`,
    );
    expect(posted).toBe(423);
    await screen.driver.navigate().refresh();
    await screen.says('[data-testid=locked]', 'Locked by Tam Brevik');
    await (await screen.find('#pin')).sendKeys('0000', Key.ENTER);
    await screen.says('[data-testid=locked]', 'This is not your PIN.');
    await (await screen.find('#pin')).sendKeys('4711', Key.ENTER);
    await until(async () => (await screen.count('[data-testid=locked]')) === 0);
    // Over an open dialog, in every place: it has the focus and keeps it; no key and no pointer gets beneath.
    const before = (
      (await boss.ask(`/api/shows/${show}/stage`)).json as { lists: { cue: string | null }[] }
    ).lists[0]?.cue;
    for (const place of ['rig', 'stage', 'book', 'run', 'crew']) {
      await screen.place(place);
      await screen.driver.actions().keyDown(Key.ALT).sendKeys('b').keyUp(Key.ALT).perform();
      await until(async () => (await screen.count('[role=dialog]')) === 1);
      await screen.driver.executeScript(
        "void fetch('/api/me/lock', { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })",
      );
      await until(async () => (await screen.count('[data-testid=locked]')) === 1);
      await until(async () =>
        screen.driver.executeScript<boolean>("return document.activeElement?.id === 'pin'"),
      );
      for (let i = 0; i < 7; i++) {
        await screen.driver.actions().sendKeys(Key.TAB).perform();
        expect(
          await screen.driver.executeScript<boolean>(
            "return document.querySelector('[data-testid=locked]').contains(document.activeElement)",
          ),
        ).toBe(true);
      }
      await screen.driver.actions().sendKeys(Key.ESCAPE, Key.F12, Key.F9, 'g', 'o').perform();
      const beneath = await screen.driver.executeScript<string[]>(
        "return [...document.querySelectorAll('button, a, input')].filter((e) => !e.closest('[data-testid=locked]')).flatMap((e) => { const r = e.getBoundingClientRect(); const at = r.width > 0 ? document.elementFromPoint(r.left + r.width / 2, r.top + r.height / 2) : null; return at && !at.closest('[data-testid=locked]') ? [e.textContent || e.ariaLabel || e.tagName] : []; })",
      );
      expect([place, beneath, await screen.count('[data-testid=locked]')]).toEqual([place, [], 1]);
      const pin = await screen.find('#pin');
      await pin.sendKeys(Key.chord(Key.CONTROL, 'a'), '4711', Key.ENTER);
      await until(async () => (await screen.count('[data-testid=locked]')) === 0);
      await until(async () => {
        if ((await screen.count('[role=dialog]')) === 0) return true;
        await screen.driver.actions().sendKeys(Key.ESCAPE).perform();
        return false;
      });
    }
    expect(
      ((await boss.ask(`/api/shows/${show}/stage`)).json as { lists: { cue: string | null }[] })
        .lists[0]?.cue,
    ).toBe(before);
    // Signed out everywhere, an open screen is shown out at once.
    const script = await new Script(house).signIn('operator');
    expect((await script.ask('/api/me/sign-out-everywhere', {})).status).toBe(200);
    await until(async () => new URL(await screen.driver.getCurrentUrl()).pathname === '/sign-in');
    expect((await script.ask('/api/shows')).status).toBe(401);
    await screen.close();
  });
});

describe('programming together', () => {
  test('two who write one field: both are shown, and what is chosen is written', async () => {
    await programmer.place('book');
    await (await programmer.find('[data-sheet-cue="10"]')).click();
    await programmer.tab('Cue');
    const field = await programmer.find('input[value="The ledger"]');
    await field.click();
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), 'The log book');
    expect(
      (await edit(boss, 'change-cue', { id: await cueId(10), set: { name: 'Columns of figures' } }))
        .status,
    ).toBe(200);
    await owner.says('aside[aria-label="Cue spine"]', 'Columns of figures');
    await field.sendKeys(Key.TAB);
    await programmer.says('[role=dialog]', 'Yrsa Oddny changed this meanwhile');
    await programmer.says(
      '[role=dialog]',
      /you saw: “The ledger”.*“Columns of figures”.*“The log book”/,
    );
    expect((await rows()).cues.find((c) => c.number === 10_000)?.name).toBe('Columns of figures');
    await programmer.press('Write all of mine');
    await programmer.press('Go on');
    await owner.says('aside[aria-label="Cue spine"]', 'The log book');
  });

  test('a line that was begun before somebody else’s change asks as well', async () => {
    await programmer.typed('name cue 11 Mara’s fog');
    expect(
      (await edit(boss, 'change-cue', { id: await cueId(11), set: { name: 'Yrsa’s fog' } })).status,
    ).toBe(200);
    await programmer.says('aside[aria-label="Cue spine"]', 'Yrsa’s fog');
    await (await programmer.find('#command')).sendKeys(Key.ENTER);
    await programmer.says(
      '[role=dialog]',
      /Yrsa Oddny changed this meanwhile.*“Yrsa’s fog”.*“Mara’s fog”/,
    );
    await programmer.press('Leave all as it is now');
    await programmer.press('Go on');
    await until(async () => (await programmer.count('[role=dialog]')) === 0);
    expect((await rows()).cues.find((c) => c.number === 11_000)?.name).toBe('Yrsa’s fog');
  });

  test('every mix of mine and theirs ends as it was chosen; a third change while the dialog is open is asked again where mine would write over it', async () => {
    await programmer.place('rig');
    const labels = async (): Promise<string[]> => {
      const { tables } = (await boss.ask(`/api/shows/${show}`)).json as {
        tables: { fixtures: { number: number; label: string }[] };
      };
      return [1, 2].map((n) => tables.fixtures.find((f) => f.number === n)?.label ?? '');
    };
    const ids = async (): Promise<string[]> => {
      const { tables } = (await boss.ask(`/api/shows/${show}`)).json as {
        tables: { fixtures: { number: number; id: string }[] };
      };
      return [1, 2].map((n) => tables.fixtures.find((f) => f.number === n)?.id ?? '');
    };
    const [one, two] = await ids();
    const theirs = (id: string | undefined, label: string) =>
      edit(boss, 'change-fixtures', { fixtures: [{ id, set: { label } }] });
    const choose = async (title: string, side: 'Write mine' | 'Leave'): Promise<void> =>
      programmer.driver
        .findElement(
          By.xpath(
            `//*[@role="dialog"]//li[contains(., ${JSON.stringify(title)})]//button[starts-with(normalize-space(.), ${JSON.stringify(side)})]`,
          ),
        )
        .click();
    let round = 0;
    for (const [a, b] of [
      ['Write mine', 'Write mine'],
      ['Write mine', 'Leave'],
      ['Leave', 'Write mine'],
      ['Leave', 'Leave'],
    ] as const) {
      round++;
      const at = (n: number) =>
        programmer.find(`[data-fixture="${n}"] [role=gridcell][data-column="label"]`);
      await (await at(1)).click();
      await programmer.driver
        .actions()
        .keyDown(Key.SHIFT)
        .click(await at(2))
        .keyUp(Key.SHIFT)
        .perform();
      await programmer.driver.actions().sendKeys(`Mine ${round}.#`).perform();
      await theirs(one, `Theirs ${round}.1`);
      await theirs(two, `Theirs ${round}.2`);
      await programmer.driver.actions().sendKeys(Key.ENTER).perform();
      await programmer.says('[role=dialog]', `“Theirs ${round}.2”`);
      await theirs(two, `Third ${round}`);
      await choose(`Theirs ${round}.1`, a);
      await choose(`Theirs ${round}.2`, b);
      await programmer.press('Go on');
      if (b === 'Write mine') {
        await programmer.says(
          '[role=dialog]',
          new RegExp(`you saw: “Theirs ${round}.2”.*“Third ${round}”.*“Mine ${round}.2”`),
        );
        await choose(`Third ${round}`, 'Write mine');
        await programmer.press('Go on');
      }
      await until(async () => (await programmer.count('[role=dialog]')) === 0);
      await until(
        async () =>
          (await labels()).join() ===
          [
            a === 'Leave' ? `Theirs ${round}.1` : `Mine ${round}.1`,
            b === 'Leave' ? `Third ${round}` : `Mine ${round}.2`,
          ].join(),
      ).catch(async () => Promise.reject(new Error(`${a}, ${b}: ${(await labels()).join()}`)));
    }
    await programmer.place('book');
  });

  test('who holds the same light is told on both screens', async () => {
    await owner.command('12 at 30');
    await programmer.command('12 at 60');
    await programmer.says(
      '[data-testid=message-line]',
      'Yrsa Oddny holds intensity of 12 too. Your touch is the latest',
    );
    await owner.says('[data-testid=message-line]', 'Mara Kell has taken hold of intensity of 12');
    await owner.command('clear');
    await programmer.command('clear');
  });

  test('a part that was given to somebody is refused to others by name, and asked for', async () => {
    const { fixtures } = await rows();
    const me = ((await boss.ask('/api/me')).json as { userId: string }).userId;
    expect(
      (
        await edit(boss, 'set-part', {
          set: {
            name: 'The sides',
            userId: me,
            userName: 'Yrsa Oddny',
            fixtures: fixtures.filter((f) => f.number >= 1 && f.number <= 4).map((f) => f.id),
            lists: [],
          },
        })
      ).status,
    ).toBe(200);
    await programmer.typed('2 at 50');
    await programmer.says(
      '[data-testid=also]',
      'Fixture 2 is in part “The sides”, which is Yrsa Oddny’s',
    );
    await (await programmer.find('#command')).sendKeys(Key.ENTER);
    await programmer.says('[data-testid=message-line]', 'part “The sides”, which is Yrsa Oddny’s');
    await (await programmer.find('#command')).sendKeys(Key.chord(Key.CONTROL, 'a'), Key.BACK_SPACE);
    await crew(programmer, 'People');
    // Nobody takes it: it is asked for, kept, asked for again, and given where the question came.
    const part = (await rows()).parts[0];
    expect((await edit(mara, 'delete-part', { id: part?.id })).json).toMatchObject({
      error: { code: 'part', message: expect.stringContaining('Ask Yrsa Oddny for it') },
    });
    await programmer.press('Ask for it');
    await owner.says('[data-testid=message-line]', 'Mara Kell asks for part “The sides”');
    await owner.press('Keep it');
    await programmer.says(
      '[data-testid=message-line]',
      'Yrsa Oddny keeps part “The sides” for now',
    );
    await programmer.press('Ask for it');
    await owner.press('Give it');
    await programmer.says('section[aria-label="The show"]', /The sides 4 fixtures yours/);
    // One by one.
    await programmer.press('Change');
    await (await programmer.find('[role=dialog] [aria-label="Fixture 1"]')).click();
    await (await programmer.find('[aria-label="Find fixtures"]')).sendKeys('5');
    await (await programmer.find('[role=dialog] [aria-label="Fixture 5"]')).click();
    await programmer.says('[data-testid=part-fixtures]', /^2–5 \(4\)$/);
    await (await programmer.find('[role=dialog] button[type=submit]')).click();
    await until(
      async () =>
        (await rows()).parts[0]?.fixtures.length === 4 &&
        (await programmer.count('[role=dialog]')) === 0,
    );
    await programmer.press('Give back');
    await programmer.says('section[aria-label="The show"]', 'Everybody programs everything');
  });
});

describe('history and versions', () => {
  test('by cue; the show as it was, from which nothing is edited; one old change undone', async () => {
    await edit(mara, 'change-cue', { id: await cueId(14), set: { name: 'Made for history' } });
    await crew(owner, 'History');
    await owner.fill('Cue', '14');
    await owner.says('section[aria-label=History]', /Mara Kell.*cue 14/);
    await owner.fill('Cue', '10');
    await until(async () => !(await owner.words('section[aria-label=History]')).includes('cue 14'));
    await owner.fill('Cue', Key.BACK_SPACE);
    const oldest = By.css(
      'section[aria-label=History] li[data-change="1"] [aria-label^="Look at the show"]',
    );
    await until(async () => (await owner.driver.findElements(oldest)).length > 0);
    await owner.driver.findElement(oldest).click();
    await owner.says('[data-testid=past]', 'You look at the show as it was');
    await owner.says('aside [data-cue="14"]', /^(?!.*history)/);
    await owner.typed('name cue 14 From the past');
    await (await owner.find('#command')).sendKeys(Key.ENTER);
    await owner.says('[data-testid=message-line]', 'Go back to now first');
    await owner.press('Back to now');
    await owner.says('aside [data-cue="14"]', 'Made for history');
    await (
      await owner.find('section[aria-label=History] li:first-child [aria-label^="Undo only"]')
    ).click();
    await owner.says('[data-testid=message-line]', 'Undid Mara Kell’s');
    await programmer.says('aside [data-cue="14"]', /^(?!.*history)/);
  });

  test('a named version is compared in words, and a part of it taken over', async () => {
    await crew(owner, 'Versions');
    await (await owner.find('input[placeholder="after dress"]')).sendKeys('after dress');
    await owner.press('Keep version');
    await owner.says('section[aria-label=Versions]', 'after dress');
    await edit(mara, 'change-cue', { id: await cueId(15), set: { name: 'Worse', up_s: 33 } });
    await (await owner.find('[data-version="after dress"] button')).click();
    await owner.says('[data-testid=compared]', /Cues 1 .*“Worse”.*Times 1 .*→ 33 s/);
    await (await owner.find('[data-testid=compared] section[aria-label=Times] li input')).click();
    await owner.press('Take these over');
    await owner.says('[data-testid=message-line]', 'Took one thing over from “after dress”');
    await owner.says('[data-testid=compared]', /Cues 1 (?!.*Times)/);
    await owner.press('Go back in whole …');
    await owner.press('Go back');
    await owner.says('[data-testid=compared]', 'No difference');
    await owner.says('section[aria-label=Versions]', 'before: Went back to “after dress”');
  });

  test('a copy that was worked on apart is merged; what both changed is decided by rule', async () => {
    const made = (
      (await mara.ask(`/api/shows/${show}/copy`, { name: 'Ferry at home' })).json as { id: string }
    ).id;
    await edit(mara, 'change-cue', { id: await cueId(16), set: { up_s: 21 } }, made);
    await edit(mara, 'change-cue', { id: await cueId(17), set: { name: 'From home' } }, made);
    await edit(boss, 'change-cue', { id: await cueId(16), set: { up_s: 12 } });
    await crew(programmer, 'Working apart');
    const choice = await programmer.find('section[aria-label="Come together"] select');
    await until(async () => (await choice.getText()).includes('Ferry at home'));
    await choice.sendKeys('Ferry at home');
    await programmer.press('Merge …');
    await programmer.says('[data-testid=merge-open]', '1 conflict to decide');
    await programmer.says('section[aria-label=Conflicts]', /cue 16: up.*12 s.*21 s/);
    await programmer.says('section[aria-label="What comes in"]', 'From home');
    await programmer.press('the copy’s');
    await programmer.says('[data-testid=merge-open]', 'nothing is undecided');
    await programmer.press('Merge, all of it');
    await owner.says('aside[aria-label="Cue spine"]', 'From home');
    expect((await rows()).cues.find((c) => c.number === 16_000)).toMatchObject({ up_s: 21 });
  });
});

describe('remotes', () => {
  test('a phone focuses while remotes are on, and says when they are off', async () => {
    const phone = await Screen.open(house, 'programmer');
    await phone.driver.get(`${house.url}/shows/${show}/focus`);
    await phone.says('[data-testid=remotes]', 'remotes off');
    for (const k of ['1', '0', '3']) await (await phone.find(`[data-key="${k}"]`)).click();
    await phone.press('Find');
    await phone.says('[data-testid=focus-number]', '103');
    expect(await (await phone.button('Full')).isEnabled()).toBe(false);
    await live(boss, { command: 'board', do: 'take' });
    await live(boss, { command: 'remotes', on: true });
    await phone.says('[data-testid=remotes]', 'remotes on');
    await phone.press('Full');
    await owner.says('[data-testid=standing]', '1 held, remotes on');
    await (await phone.find('[aria-label="The next one"]')).click();
    await phone.says('[data-testid=focus-number]', '104');
    await phone.press('1 held: let all off');
    await owner.says('[data-testid=standing]', /^remotes on/);
    await phone.close();
  });

  test('a designer calls the next cue and leaves a note, which the programmer works off', async () => {
    // No cue follows by itself here, however slowly this goes.
    const tablet = await Screen.open(house, 'viewer');
    await tablet.driver.get(`${house.url}/shows/${show}/notes`);
    await live(boss, { command: 'goto', cue: '2', time: 0 });
    await tablet.says('[data-testid=notes-now]', '2');
    await tablet.press('Call 3');
    await owner.says('[data-testid=called]', 'LX 3 called by Iden Vale');
    await new Promise((done) => setTimeout(done, 300));
    await live(boss, { command: 'go' });
    const [go] = await journal('go');
    expect(go).toMatchObject({
      userName: 'Yrsa Oddny',
      text: expect.stringContaining('GO: cue 3'),
      data: { calledBy: 'Iden Vale', from: 'a program' },
    });
    expect(go?.data.late_ms).toBeGreaterThanOrEqual(300);
    await tablet.says('[data-testid=note-about]', 'cue 3');
    // The show goes on while it is written: words and cue stay.
    await (await tablet.find('textarea')).sendKeys('wait for');
    await live(boss, { command: 'go' });
    await tablet.says('[data-testid=notes-now]', '4');
    await (await tablet.find('textarea')).sendKeys(' the rope');
    await tablet.says('[data-testid=note-about]', 'cue 3');
    await tablet.press('Too fast');
    await programmer.place('book');
    await programmer.tab('Notes 1');
    await programmer.says('[data-note]', 'too fast: wait for the rope');
    await (await programmer.find('[data-note] [aria-label="Worked off"]')).click();
    await tablet.says('section[aria-label=Notes]', 'No open notes');
    await tablet.close();
  });

  test('a volunteer has a sheet with large buttons, and nothing else of the show', async () => {
    const sunday = await showNamed(boss, 'Sunday at Tidewater');
    const nell = await new Script(house).signIn('volunteer');
    const screen = await Screen.open(house, 'volunteer');
    await screen.says('header', 'The service');
    await screen.driver.get(`${house.url}/shows/${sunday}/book`);
    await until(async () => (await screen.driver.getCurrentUrl()).endsWith('/page'));
    await screen.says('header', 'The service');
    const hymn = () => screen.find('[data-piece-name="First hymn"] button');
    expect(await (await hymn()).isEnabled()).toBe(false);
    await live(boss, { command: 'remotes', on: true }, sunday);
    await screen.says('[data-testid=remotes]', 'remotes on');
    await until(async () => (await hymn()).isEnabled());
    await (await hymn()).click();
    await until(
      async () =>
        ((await boss.ask(`/api/shows/${sunday}/stage`)).json as { lists: { cue: string }[] })
          .lists[0]?.cue === '3',
    );
    await until(async () => (await (await hymn()).getAttribute('aria-pressed')) === 'true');
    for (const path of [
      '',
      '/changes?after=0',
      '/members',
      '/stage',
      '/export/show.wingman',
      '/versions',
      '/journal',
    ])
      expect((await nell.ask(`/api/shows/${sunday}${path}`)).status).toBe(403);
    for (const command of [
      { command: 'go' },
      { command: 'master', level: 0 },
      { command: 'type', text: '1 at full' },
      { command: 'remotes', on: false },
    ])
      expect((await live(nell, command, sunday)).status).toBe(403);
    expect((await edit(nell, 'make-list', { name: 'Mine' }, sunday)).status).toBe(403);
    expect((await nell.ask(`/api/shows/${show}`)).status).toBe(404);
    await screen.close();
  });
});

describe('who may not', () => {
  test('a viewer’s GO over HTTP, socket and OSC is refused and written down, and nobody else is disturbed', async () => {
    const iden = await new Script(house).signIn('viewer');
    await live(boss, { command: 'remotes', on: false });
    const before = (
      (await boss.ask(`/api/shows/${show}/stage`)).json as { lists: { cue: string }[] }
    ).lists[0]?.cue;
    expect((await live(iden, { command: 'go' })).status).toBe(403);
    const { ticket } = (await iden.ask(`/api/shows/${show}/ticket`, {})).json as { ticket: string };
    const socket = new WebSocket(`${house.url.replace('http', 'ws')}/live?ticket=${ticket}`);
    const reply = await new Promise<{ ok: boolean; code: string }>((done, failed) => {
      socket.on('error', failed);
      socket.on('open', () =>
        socket.send(JSON.stringify({ type: 'command', id: 7, command: { command: 'go' } })),
      );
      socket.on('message', (data: Buffer, binary) => {
        if (binary) return;
        const message = JSON.parse(data.toString()) as { id?: number; ok: boolean; code: string };
        if (message.id === 7) done(message);
      });
    });
    socket.close();
    expect(reply).toMatchObject({ ok: false, code: 'forbidden' });
    const { oscPort } = (await iden.ask('/api/sim/node')).json as { oscPort: number };
    const osc = createSocket('udp4');
    await new Promise<void>((done) =>
      osc.send(Buffer.from('/wingman/go\0,\0\0\0', 'latin1'), oscPort, '127.0.0.1', () => done()),
    );
    osc.close();
    await until(
      async () =>
        (await journal('refused')).filter((e) =>
          /Remote controls are off|A viewer can look/.test(e.text),
        ).length >= 3,
    );
    expect(
      ((await boss.ask(`/api/shows/${show}/stage`)).json as { lists: { cue: string }[] }).lists[0]
        ?.cue,
    ).toBe(before);
  });

  test('posts and sockets of another site, shows of others, and made-up files and links are refused', async () => {
    const cross = { headers: { origin: 'https://elsewhere.example' } };
    expect(
      (
        await boss.ask(
          `/api/shows/${show}/edits`,
          { edit: 'make-list', params: { name: 'X' } },
          cross,
        )
      ).status,
    ).toBe(403);
    expect((await boss.ask('/api/shows/import', 'not a file', cross)).status).toBe(403);
    const { ticket } = (await boss.ask(`/api/shows/${show}/ticket`, {})).json as { ticket: string };
    const status = await new Promise<number>((done) => {
      const socket = new WebSocket(`${house.url.replace('http', 'ws')}/live?ticket=${ticket}`, {
        origin: 'https://elsewhere.example',
      });
      socket.on('unexpected-response', (_, response) => done(response.statusCode ?? 0));
      socket.on('error', () => undefined);
    });
    expect(status).toBe(403);
    const made = ((await boss.ask('/api/shows', { name: 'Private' })).json as { id: string }).id;
    for (const path of ['', '/versions', '/journal', '/export/show.wingman', '/members'])
      expect((await mara.ask(`/api/shows/${made}${path}`)).status).toBe(404);
    expect(
      (await mara.ask(`/api/shows/${show}/merge`, { from: { show: made }, preview: true })).status,
    ).toBe(404);
    expect((await mara.ask('/api/shows/import', 'not a file')).json).toMatchObject({
      error: { message: expect.stringContaining('not a Wingman show file') },
    });
    expect((await mara.ask(`/api/invitations/${'x'.repeat(32)}`)).status).toBe(404);
    expect((await mara.ask(`/api/shows/${show}/invitations`, { role: 'owner' })).status).toBe(403);
    expect((await mara.ask(`/api/shows/${show}/state`, { to: 'deleted' })).status).toBe(403);
  });

  test('forty edits a second from one person are slowed down; others go on', async () => {
    const start = Date.now();
    const many = await Promise.all(
      Array.from({ length: 400 }, (_, i) =>
        edit(mara, 'add-note', { kind: 'other', text: `note ${i}` }),
      ),
    );
    const took_s = (Date.now() - start) / 1000;
    const refused = many.filter((m) => m.status === 429);
    const made = many.filter((m) => m.status === 200).length;
    expect(made + refused.length).toBe(400);
    // So many at once, so many a second after that.
    expect(made).toBeLessThanOrEqual(60 + 20 * took_s + 1);
    for (const r of refused)
      expect(r.json).toMatchObject({
        error: { code: 'rate', message: expect.stringContaining('edits a second come from you') },
      });
    expect((await edit(boss, 'add-note', { kind: 'dark' })).status).toBe(200);
    expect((await rows()).notes).toHaveLength(made + 2);
  });

  test('a role that is withdrawn in the middle of a drag ends the drag, and leaves the board free', async () => {
    await live(boss, { command: 'board', do: 'leave' });
    await programmer.place('run');
    await live(mara, { command: 'board', do: 'take' });
    await programmer.says('aside[aria-label="Cue spine"]', 'On the board: you');
    const master = await programmer.find('[aria-label="Grand master"]');
    await programmer.driver
      .actions({ async: true })
      .move({ origin: master })
      .press()
      .move({ origin: master, x: -20 })
      .perform();
    await boss.ask(
      `/api/shows/${show}/members`,
      { email: 'programmer@tidewater.example', role: null },
      { method: 'PUT' },
    );
    await until(async () => new URL(await programmer.driver.getCurrentUrl()).pathname === '/');
    expect((await live(mara, { command: 'go' })).status).toBe(404);
    expect((await live(boss, { command: 'go' })).status).toBe(200);
  });
});
