/** Three people in one production: what concerns each is in their inbox, where each is, what is called, noted and answered. */
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { By } from 'selenium-webdriver';
import type chrome from 'selenium-webdriver/chrome';
import { WebSocket } from 'ws';
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
  tables: {
    cues: { id: string; number: number; name: string; listId: string; up_s: number }[];
    lists: { id: string; number: number }[];
    fixtures: { id: string; number: number }[];
    parts: { id: string }[];
    notes: { id: string; text: string }[];
  };
}
const rows = async (): Promise<Rows['tables']> =>
  ((await boss.ask(`/api/shows/${show}`)).json as Rows).tables;
const cueId = async (number: number): Promise<string> => {
  const { cues, lists } = await rows();
  const first = lists.sort((a, b) => a.number - b.number)[0]?.id;
  return cues.find((c) => c.number === number * 1000 && c.listId === first)?.id ?? '';
};
const edit = (who: Script, name: string, params: unknown) =>
  who.ask(`/api/shows/${show}/edits`, { edit: name, params });
/** A button that is not there yet, or cannot be pressed yet, is waited for, as people do. */
const pressAt = (screen: Screen, path: string): Promise<void> =>
  until(async () => {
    try {
      const button = await screen.driver.findElement(By.xpath(path));
      if (!(await button.isEnabled())) return false;
      await button.click();
      return true;
    } catch (error) {
      const { name } = error as Error;
      if (name === 'StaleElementReferenceError' || name === 'NoSuchElementError') return false;
      throw error;
    }
  });
const live = (who: Script, command: unknown) => who.ask(`/api/shows/${show}/live`, command);

const phone = async (who: string, path: string): Promise<Screen> => {
  const screen = await Screen.open(house, who);
  await (screen.driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width: 390,
    height: 844,
    deviceScaleFactor: 2,
    mobile: true,
  });
  await screen.driver.get(`${house.url}/shows/${show}/${path}`);
  return screen;
};
/** Nothing lies beyond the edge, and what is to be touched is as large as a thumb. */
const fits = async (screen: Screen): Promise<string[]> =>
  screen.driver.executeScript<string[]>(
    "return [...document.querySelectorAll('main button, main a, main input, main select')].filter((b) => { const r = b.getBoundingClientRect(); return r.width > 0 && !b.closest('[data-radix-popper-content-wrapper], nav, [aria-label=Script]') && (r.right > innerWidth + 1 || r.left < -1); }).map((b) => b.textContent || b.getAttribute('aria-label'))",
  );

beforeAll(async () => {
  house = await openHouse();
  [boss, mara, iden] = (await Promise.all(
    ['owner', 'programmer', 'viewer'].map((who) => new Script(house).signIn(who)),
  )) as [Script, Script, Script];
  show = await boss.showId('The Night Ferry');
  [owner, programmer, designer] = [
    await Screen.open(house, 'owner'),
    await Screen.open(house, 'programmer'),
    await Screen.open(house, 'viewer'),
  ];
  for (const screen of [owner, programmer, designer]) await screen.openShow('The Night Ferry');
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

describe('the inbox', () => {
  const inbox = async (screen: Screen): Promise<void> => {
    if ((await screen.count('ol[aria-label=Inbox]')) === 0)
      await (await screen.find('[data-testid=inbox]')).click();
    await screen.find('ol[aria-label=Inbox]');
  };

  test('what others did with one’s work is said, counts, is read, and leads to the place in question', async () => {
    await edit(mara, 'change-cue', { id: await cueId(7), set: { up_s: 6 } });
    const changes = (await boss.ask(`/api/shows/${show}/changes?after=0`)).json as {
      changes: { seq: number }[];
    };
    await boss.ask(`/api/shows/${show}/undo`, { seq: changes.changes.at(-1)?.seq });
    await programmer.says('[data-testid=message-line]', 'Yrsa Oddny undid');
    await edit(iden, 'add-note', {
      cueId: await cueId(7),
      kind: 'slow',
      text: 'the turn of the tide',
    });
    await programmer.says('[data-testid=inbox-count]', '2');
    await programmer.place('rig');
    await inbox(programmer);
    await programmer.says(
      'ol[aria-label=Inbox]',
      /Iden Vale noted about cue 7, too slow: “the turn of the tide”.*Yrsa Oddny undid “.*”, which was yours/,
    );
    await programmer.driver
      .findElement(By.xpath('//li[@data-inbox="note"]//button[contains(., "turn of the tide")]'))
      .click();
    await until(async () => (await programmer.driver.getCurrentUrl()).endsWith('/book'));
    await until(
      async () => (await programmer.count('[data-sheet-cue="7"][aria-selected=true]')) === 1,
    );
    await until(async () => (await programmer.count('[data-testid=inbox-count]')) === 0);
    // Nobody else was told.
    expect(await designer.count('[data-testid=inbox-count]')).toBe(0);
  });

  test('an ask waits there for somebody who is not here, and is answered where it is read', async () => {
    const { fixtures } = await rows();
    const me = ((await mara.ask('/api/me')).json as { userId: string }).userId;
    await edit(mara, 'set-part', {
      set: {
        name: 'The sides',
        userId: me,
        userName: 'Mara Kell',
        fixtures: fixtures.filter((f) => f.number <= 4).map((f) => f.id),
        lists: [],
      },
    });
    await programmer.close();
    const part = (await rows()).parts[0]?.id;
    await until(
      async () =>
        (
          (await live(boss, { command: 'ask', part })).json as { message?: string }
        ).message?.includes('waits in their inbox') ?? false,
    );
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
    await boss.ask(
      `/api/shows/${id}/members`,
      { email: 'operator@tidewater.example', role: 'operator' },
      { method: 'PUT' },
    );
    await phone.driver.get(`${house.url}/shows/${show}/focus`);
    await phone.says('[data-testid=inbox-count]', '1');
    await boss.ask(`/api/shows/${id}/state`, { to: 'deleted' });
    await phone.says('[data-testid=inbox-count]', '2');
    await inbox(phone);
    await phone.says(
      'ol[aria-label=Inbox]',
      /Yrsa Oddny has deleted “Short life”\..*Yrsa Oddny has made you operator of this show/,
    );
    await phone.close();
  });
});

describe('who is where', () => {
  const hands = (screen: Screen) =>
    screen.driver.executeScript<string[]>(
      "return [...document.querySelectorAll('[data-testid=hand]')].map((h) => h.title)",
    );

  test('a cell, a field, a tile or a dialog that somebody writes in has their mark on others’ screens, while they do', async () => {
    for (const screen of [owner, programmer]) await screen.place('book');
    // Where the machine has other work, the driver's two clicks may be further apart than a double click is.
    const isWriting = async () => (await owner.count('[data-sheet-cue="3"] input')) > 0;
    for (let i = 0; i < 3 && !(await isWriting()); i++) {
      const name = await owner.find('[data-sheet-cue="3"] [data-cell=name]');
      await owner.driver.actions().doubleClick(name).perform();
      await until(isWriting, 4000).catch(() => undefined);
    }
    await until(async () => (await hands(programmer)).includes('Name of cue 3'));
    // It stands at the cell.
    const at = await programmer.driver.executeScript<{ mark: number; row: number }>(
      "const m = document.querySelector('[data-testid=hand]').getBoundingClientRect(); const r = document.querySelector('[data-sheet-cue=\"3\"]').getBoundingClientRect(); return { mark: m.top + m.height / 2, row: r.top }",
    );
    expect(Math.abs(at.mark - at.row)).toBeLessThan(12);
    await owner.driver.actions().sendKeys('\uE00C').perform();
    await until(async () => (await hands(programmer)).length === 0);
    for (const screen of [owner, programmer]) await screen.place('stage');
    await owner.tile(1, 'Rename');
    await until(async () =>
      (await hands(programmer)).some((h) => h.startsWith('Rename palette 1')),
    );
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
    const lit = () =>
      programmer.driver.executeScript<number>(
        'return document.querySelectorAll(\'[aria-label="Fixtures as a list"] [aria-selected=true]\').length',
      );
    await until(async () => (await lit()) === 4);
    await owner.driver.executeScript(
      "document.querySelector('[data-scroll=list]').scrollTop = 320",
    );
    await until(
      async () =>
        (await programmer.driver.executeScript<number>(
          "return document.querySelector('[data-scroll=list]').scrollTop",
        )) === 320,
    );
    await owner.place('rig');
    await owner.tab('Power');
    await until(async () => (await programmer.driver.getCurrentUrl()).endsWith('/rig'));
    await until(
      async () =>
        await programmer.driver.executeScript<boolean>(
          "return [...document.querySelectorAll('[role=tab][aria-selected=true], [role=tab][data-state=active]')].some((t) => t.textContent.includes('Power'))",
        ),
    );
    // The first thing that she does herself ends it, and what she had selected is hers again.
    await (await programmer.find('[data-testid=show-name]')).click();
    await until(
      async () =>
        (await programmer.count('[data-testid=following]')) === 0 &&
        (await owner.count('[data-testid=followed-by]')) === 0,
    );
    await owner.place('crew');
    await new Promise((done) => setTimeout(done, 600));
    expect(await programmer.driver.getCurrentUrl()).toMatch(/\/rig$/);
    await programmer.place('stage');
    await until(async () => (await lit()) === 1);
    await owner.command('clear');
  });
});

describe('calls', () => {
  test('light: stand by is answered at the board, go is called, GO is late by what the log says', async () => {
    await live(boss, { command: 'goto', cue: '5', time: 0 });
    await live(boss, { command: 'board', do: 'take' });
    const caller = await phone('viewer', 'caller');
    await caller.says('li[data-call="LX 6"]', 'LX 6');
    expect(await fits(caller)).toEqual([]);
    const press = async (who: string, what: string): Promise<void> =>
      pressAt(caller, `//li[@data-call="${who}"]//button[normalize-space(.)="${what}"]`);
    await press('LX 6', 'Stand by');
    await owner.place('run');
    await owner.says('[data-testid=called]', /Stand by LX 6 press to answer Iden Vale/);
    expect(await (await programmer.find('[data-testid=called]')).isEnabled()).toBe(false);
    await (await owner.find('[data-testid=called]')).click();
    await caller.says('li[data-call="LX 6"] [role=status]', 'Yrsa Oddny stands by');
    await press('LX 6', 'Go');
    await owner.says('[data-testid=called]', 'LX 6 called by Iden Vale');
    await new Promise((done) => setTimeout(done, 400));
    await (await owner.find('[data-testid=go]')).click();
    await until(async () => (await owner.count('[data-testid=called]')) === 0);
    const entries = async (kind: string) =>
      (
        (await boss.ask(`/api/shows/${show}/journal?kind=${kind}`)).json as {
          entries: { text: string; data: { late_ms: number; calledBy: string } }[];
        }
      ).entries;
    await until(async () => (await entries('go'))[0]?.data.calledBy === 'Iden Vale');
    expect((await entries('go'))[0]?.data.late_ms).toBeGreaterThanOrEqual(400);
    expect((await entries('call')).slice(0, 3).map((e) => e.text)).toEqual([
      'Called LX 6',
      'LX 6 stands by',
      'Stand by LX 6',
    ]);
    await caller.close();
  });

  test('a department that one names is called from the script and answers on its own page', async () => {
    await owner.place('crew');
    await owner.tab('People');
    await owner.fill('Another department', 'Follow spots');
    await (
      await owner.driver.findElement(
        By.xpath('//section[@aria-label="Departments"]//button[normalize-space(.)="Add"]'),
      )
    ).click();
    await owner.says('section[aria-label=Departments]', 'no calls in the script yet');
    const { tables } = (await boss.ask(`/api/shows/${show}`)).json as {
      tables: {
        departments: { id: string; name: string }[];
        scripts: { id: string; text: string; format: string }[];
        calls: { cueId: string; scriptId: string; from: number; to: number }[];
      };
    };
    const script = tables.scripts.find((x) => x.format !== 'order');
    const spots = tables.departments.find((d) => d.name === 'Follow spots')?.id;
    const six = await cueId(6);
    const after = tables.calls.find((c) => c.cueId === six)?.to ?? 0;
    const from = (script?.text.indexOf(' ', after + 2) ?? 0) + 1;
    await edit(mara, 'set-prompt', {
      set: {
        scriptId: script?.id,
        department: spots,
        label: 'Q 7, pick up Liss',
        from,
        to: from + 4,
      },
    });
    const booth = await phone('operator', `booth#${spots}`);
    await booth.says('section[aria-label=Coming]', 'Q 7, pick up Liss');
    await booth.says('[data-testid=light]', 'Nothing is called');
    expect(await fits(booth)).toEqual([]);
    const caller = await phone('viewer', 'caller');
    const row = 'li[data-call="Follow spots"]';
    await caller.says(row, 'Q 7, pick up Liss');
    const press = async (what: string): Promise<void> =>
      pressAt(caller, `//li[@data-call="Follow spots"]//button[normalize-space(.)="${what}"]`);
    await press('Stand by');
    await booth.says('[data-testid=light]', /Stand by Q 7, pick up Liss touch to answer Iden Vale/);
    await (await booth.find('[data-testid=light]')).click();
    await caller.says(`${row} [role=status]`, 'stands by');
    await press('Go');
    await booth.says('[data-testid=light]', /GO Q 7, pick up Liss touch when it is done/);
    await (await booth.find('[data-testid=light]')).click();
    await booth.says('[data-testid=light]', 'Nothing is called');
    await until(
      async () => !(await caller.words('section[aria-label=Calls]')).includes('pick up Liss'),
    );
    await booth.close();
    await caller.close();
  });

  test('the GO page: guarded against a pocket, names who is on the board, plays when it is one’s own', async () => {
    await live(boss, { command: 'goto', cue: '5', time: 0 });
    const go = await phone('owner', 'go');
    await go.says('[data-testid=go-next]', '6');
    expect(await fits(go)).toEqual([]);
    const at = async (): Promise<string> => go.words('[data-testid=go-now]');
    const button = await go.find('[data-testid=go-page-go]');
    expect(await button.isEnabled()).toBe(false);
    const guard = await go.find('[data-testid=guard]');
    // A short touch is a pocket's.
    await go.driver.actions().move({ origin: guard }).press().pause(150).release().perform();
    await new Promise((done) => setTimeout(done, 700));
    expect(await button.isEnabled()).toBe(false);
    await go.driver.actions().move({ origin: guard }).press().pause(900).release().perform();
    await until(() => button.isEnabled());
    await button.click();
    await until(async () => (await at()).startsWith('6'));
    await live(mara, { command: 'board', do: 'ask' });
    await go.says('[data-testid=message-line]', 'Mara Kell asks for the board');
    await go.press('Hand over');
    await go.says('[data-testid=go-page-go]', 'Mara Kell is on the board');
    expect(await button.isEnabled()).toBe(false);
    await live(mara, { command: 'board', do: 'leave' });
    await go.close();
  });

  test('links to pages are handed round as codes', async () => {
    await owner.place('crew');
    await (await owner.find('[data-page-link=GO] [aria-label="Hand round: GO"]')).click();
    await owner.find('[role=dialog] svg[data-testid=qr]');
    await owner.says('[role=dialog]', `/shows/${show}/go`);
    await owner.says('[role=dialog]', 'by an address of this machine alone');
    await owner.driver.actions().sendKeys('\uE00C').perform();
    const landing = await phone('operator', '');
    await landing.driver.get(house.url);
    await landing.driver
      .findElement(
        By.xpath(`//nav[contains(@aria-label, "The Night Ferry")]//a[normalize-space(.)="GO"]`),
      )
      .click();
    await landing.says('header', 'GO');
    await landing.close();
  });
});

describe('notes', () => {
  /** A picture of 31 MB, as no phone makes them smaller. */
  const heavy = (): string => {
    const [w, h] = [3000, 3500];
    const file = Buffer.alloc(54 + w * h * 3);
    file.write('BM');
    file.writeUInt32LE(file.length, 2);
    file.writeUInt32LE(54, 10);
    file.writeUInt32LE(40, 14);
    file.writeInt32LE(w, 18);
    file.writeInt32LE(h, 22);
    file.writeUInt16LE(1, 26);
    file.writeUInt16LE(24, 28);
    for (let i = 54; i < file.length; i += 997) file[i] = (i * 31) & 255;
    const path = join(mkdtempSync(join(tmpdir(), 'wingman-photo-')), 'stage.bmp');
    writeFileSync(path, file);
    return path;
  };

  test('with a photo, a drawing on the stage and for whom it is; answered, printed, worked off', async () => {
    await live(boss, { command: 'goto', cue: '7', time: 0 });
    const tablet = await phone('viewer', 'notes');
    await tablet.says('[data-testid=note-about]', 'cue 7');
    await (await tablet.find('textarea')).sendKeys('Lift this corner');
    const path = heavy();
    await (await tablet.find('input[aria-label=Photo]')).sendKeys(path);
    await tablet.find('img[alt="The photo"]');
    await (
      await tablet.driver.findElement(By.xpath('//button[contains(., "On the stage")]'))
    ).click();
    await tablet.says('[data-testid=pointed]', 'Nothing pointed at yet');
    const draw = await tablet.find('[data-testid=draw]');
    const r = await draw.getRect();
    const at = (u: number, v: number) => ({
      x: Math.round(r.x + r.width * u),
      y: Math.round(r.y + r.height * v),
    });
    // One line with a finger, there and back; then a touch that points.
    await tablet.driver
      .actions()
      .move(at(0.3, 0.4))
      .press()
      .move(at(0.4, 0.5))
      .move(at(0.5, 0.45))
      .move(at(0.6, 0.6))
      .move(at(0.35, 0.55))
      .release()
      .perform();
    await tablet.says('[data-testid=pointed]', '1 line');
    await tablet.driver.actions().move(at(0.5, 0.93)).press().release().perform();
    await tablet.says('[data-testid=pointed]', /a place on the stage|unit/);
    await tablet.press('Take it into the note');
    await tablet.find('img[alt="The drawing"]');
    await (await tablet.find('[aria-label="For whom"]')).sendKeys('for Mara');
    await tablet.press('Leave this note');
    await until(async () => (await rows()).notes.some((n) => n.text === 'Lift this corner'));
    const { notes, photos } = (await rows()) as unknown as {
      notes: {
        text: string;
        photo: string;
        to: { name: string };
        drawing: { lines: number[][] };
        id: string;
      }[];
      photos: { id: string; data: string }[];
    };
    const note = notes.find((n) => n.text === 'Lift this corner');
    expect(note).toMatchObject({ to: { name: 'Mara Kell' } });
    expect(note?.drawing.lines[0]?.length).toBeGreaterThanOrEqual(8);
    const kept = photos.find((p) => p.id === note?.photo)?.data.length ?? 0;
    expect(kept).toBeGreaterThan(1000);
    expect(kept).toBeLessThan(330_000);
    await programmer.place('book');
    await programmer.driver
      .findElement(By.xpath('//*[@role="tab"][starts-with(normalize-space(.), "Notes")]'))
      .click();
    const row = `[data-note="${note?.id}"]`;
    await programmer.says(row, /Lift this corner.*Iden Vale.*for Mara Kell/);
    await (await programmer.find(`${row} [aria-label="Answer"]`)).click();
    await (
      await programmer.find(`${row} [aria-label="Answer Iden Vale"]`)
    ).sendKeys('with 12 and 14?', '\uE007');
    await tablet.says('ul[aria-label=Answers]', 'with 12 and 14?');
    await (await programmer.find(`${row} [aria-label="Look at it"]`)).click();
    await programmer.find('[role=dialog] img[alt="Photo of the note"]');
    await programmer.driver.actions().sendKeys('\uE00C').perform();
    const pdf = await fetch(`${house.url}/api/shows/${show}/export/notes.pdf`, {
      headers: { cookie: boss.cookies },
    });
    expect(pdf.headers.get('content-type')).toBe('application/pdf');
    expect((await pdf.arrayBuffer()).byteLength).toBeGreaterThan(10_000);
    await (await programmer.find(`${row} [aria-label="Worked off"]`)).click();
    await until(async () => (await programmer.count(row)) === 0);
    expect(await fits(tablet)).toEqual([]);
    await tablet.close();
  });

  test('a designer likes a cue; what changes it takes that back, says what it was, and tells them', async () => {
    const tablet = await phone('viewer', 'notes');
    await tablet.says('[data-testid=note-about]', 'cue 7');
    await tablet.press('Looked at, and liked');
    await tablet.says('[data-testid=liked]', 'You like it');
    await edit(mara, 'change-cue', { id: await cueId(7), set: { up_s: 8.5 } });
    await tablet.says('[data-testid=liked]', /Mara Kell has changed it since: up .* → 8.5 s/);
    await designer.says(
      '[data-testid=message-line]',
      'Mara Kell changed cue 7, which you had liked',
    );
    await mara.ask(`/api/shows/${show}/undo`, { way: 'undo' });
    await tablet.says('[data-testid=liked]', 'You like it');
    await tablet.close();
  });

  test('on a word of the script, and on a unit from its menu', async () => {
    const tablet = await Screen.open(house, 'viewer');
    await tablet.driver.get(`${house.url}/shows/${show}/notes`);
    const word = await tablet.find('[data-call-of] ~ div [data-from]');
    // The page may scroll along with the show before the press; one that comes soon after another is a double one.
    await until(async () => {
      await new Promise((done) => setTimeout(done, 700));
      const seen = await tablet.driver.executeScript<{ x: number; y: number }>(
        'arguments[0].scrollIntoView({ block: "center" }); const r = arguments[0].getClientRects()[0]; return { x: r.left + 14, y: r.top + r.height / 2 }',
        word,
      );
      await tablet.driver
        .actions()
        .move({ x: Math.round(seen.x), y: Math.round(seen.y) })
        .click()
        .perform();
      await new Promise((done) => setTimeout(done, 300));
      const about = await tablet.driver.executeScript<string>(
        'return document.querySelector("[data-testid=note-about]")?.textContent ?? ""',
      );
      return /About “\S+” in cue/.test(about);
    });
    await tablet.says('[data-testid=note-about]', /About “\S+” in cue/);
    await tablet.press('Too slow');
    await until(async () => (await rows()).notes.some((n) => 'words' in n));
    await tablet.close();
    await programmer.place('rig');
    await programmer.tab('Fixtures');
    await programmer.command('5');
    await programmer.driver
      .actions()
      .contextClick(await programmer.find('[data-fixture="5"]'))
      .perform();
    await programmer.driver
      .findElement(
        By.xpath('//*[@role="menuitem"][starts-with(normalize-space(.), "Leave a note")]'),
      )
      .click();
    await programmer.says('[data-testid=note-about]', 'About unit 5');
    await (await programmer.find('[role=dialog] textarea')).sendKeys('rattles');
    await programmer.press('Leave this note');
    await until(async () =>
      (await rows()).notes.some((n) => n.text === 'rattles' && 'fixtureId' in n),
    );
  });
});

describe('history', () => {
  const history = 'section[aria-label=History]';

  test('says changes in values, is searched in words, is printed and exported', async () => {
    await edit(mara, 'change-cue', { id: await cueId(9), set: { up_s: 11 } });
    await edit(mara, 'change-cue', {
      id: await cueId(9),
      set: { up_s: 12.5, name: 'Skerry light, late' },
    });
    await owner.place('crew');
    await owner.tab('History');
    await owner.says(`${history} li:first-child [data-testid=values]`, /cue 9: .*up 11 s → 12.5 s/);
    await owner.fill('Words', 'skerry late');
    await until(async () => (await owner.count(`${history} li[data-change]`)) === 1);
    await owner.fill('Words', 'nobody ever did this');
    await owner.says(history, 'Nothing of this has been changed');
    await owner.fill('Words', '100%_sure');
    await owner.says(history, 'Nothing of this has been changed');
    const table = async (what: string): Promise<string> =>
      (
        await fetch(`${house.url}/api/shows/${show}/export/log.csv?what=${what}`, {
          headers: { cookie: boss.cookies },
        })
      ).text();
    expect(await table('history')).toMatch(/^\ufeff?at,who,what\r\n.*Mara Kell/);
    expect(await table('journal')).toMatch(/late_s,called_by/);
    const pdf = await fetch(`${house.url}/api/shows/${show}/export/log.pdf?what=journal`, {
      headers: { cookie: boss.cookies },
    });
    expect(pdf.headers.get('content-type')).toBe('application/pdf');
  });

  test('undo of what others built on names it, and offers the other changes', async () => {
    await edit(mara, 'change-cue', { id: await cueId(11), set: { name: 'Mine to keep' } });
    await edit(mara, 'change-cue', { id: await cueId(10), set: { up_s: 3.5 } });
    await edit(boss, 'change-cue', { id: await cueId(10), set: { up_s: 4.5 } });
    await programmer.place('book');
    await (await programmer.find('[aria-label^="Undo your last edit"]')).click();
    await programmer.says(
      '[data-testid=message-line]',
      /cannot be undone: cue 10 \(by Yrsa Oddny\) changed since/,
    );
    await pressAt(
      programmer,
      '//section[@aria-label="Messages"]//button[starts-with(normalize-space(.), "Undo “")]',
    );
    await until(
      async () => (await rows()).cues.find((c) => c.number === 11_000)?.name !== 'Mine to keep',
    );
    expect((await rows()).cues.find((c) => c.number === 10_000)?.up_s).toBe(4.5);
  });

  test('a back-up by hand; panels as one arranged them, in another browser', async () => {
    await owner.place('crew');
    await owner.tab('Working apart');
    await owner.press('Back up now');
    await owner.says('[data-testid=message-line]', 'The back-up is written');
    await owner.press('Back up now');
    await owner.says('[data-testid=message-line]', 'has all of this already');
    const width = (screen: Screen) =>
      screen.driver.executeScript<number>(
        "return Math.round(document.querySelector('section[aria-label=Groups]').getBoundingClientRect().width)",
      );
    await owner.place('stage');
    const before = await width(owner);
    const bar = await owner.find('[data-separator], [role=separator]');
    const r = await bar.getRect();
    await owner.driver
      .actions()
      .move({ x: Math.round(r.x), y: Math.round(r.y + r.height / 2) })
      .press()
      .move({ x: Math.round(r.x + 30), y: Math.round(r.y + 200) })
      .move({ x: Math.round(r.x + 70), y: Math.round(r.y + 200) })
      .release()
      .perform();
    await until(async () => (await width(owner)) > before + 40);
    const after = await width(owner);
    await until(
      async () =>
        Object.keys(((await boss.ask('/api/me/preferences')).json as { layouts: object }).layouts)
          .length > 0,
    );
    await new Promise((done) => setTimeout(done, 1200));
    const other = await Screen.open(house, 'owner');
    await other.openShow('The Night Ferry');
    await until(async () => Math.abs((await width(other)) - after) < 6);
    await other.close();
    // Nobody else's panels are moved by it.
    await designer.place('stage');
    expect(Math.abs((await width(designer)) - before)).toBeLessThan(6);
  });
});

describe('what goes wrong', () => {
  type Heard = {
    type: string;
    people?: { userId: string; screens: number; hands: { hand: string }[] }[];
    left?: { userId: string; why: string }[];
  };
  /** A screen as a program has it. */
  const window = async (
    who: Script,
  ): Promise<{ socket: WebSocket; heard: Heard[]; last: (type: string) => Heard | undefined }> => {
    const { ticket } = (await who.ask(`/api/shows/${show}/ticket`, {})).json as { ticket: string };
    const socket = new WebSocket(`${house.url.replace('http', 'ws')}/live?ticket=${ticket}`);
    const heard: Heard[] = [];
    socket.on(
      'message',
      (data, isBinary) => !isBinary && heard.push(JSON.parse((data as Buffer).toString()) as Heard),
    );
    await until(() => heard.some((m) => m.type === 'welcome'));
    return { socket, heard, last: (type) => heard.filter((m) => m.type === type).at(-1) };
  };

  test('one account in five windows is one person: closing four is no leaving, and signing out ends the fifth and asks about the light', async () => {
    const tam = await new Script(house).signIn('operator');
    const tams = ((await tam.ask('/api/me')).json as { userId: string }).userId;
    const watching = await window(boss);
    const five = await Promise.all(Array.from({ length: 5 }, () => window(tam)));
    const me = () => watching.last('presence')?.people?.find((p) => p.userId === tams);
    await until(() => me()?.screens === 5);
    five[2]?.socket.send(
      JSON.stringify({
        type: 'presence',
        place: 'book',
        cue: null,
        device: 'a computer',
        hand: 'cues/x/Name',
        doing: 'Name of cue 1',
      }),
    );
    await until(() => me()?.hands.length === 1);
    five[0]?.socket.send(
      JSON.stringify({
        type: 'command',
        id: 1,
        command: { command: 'set', fixtures: [3], attribute: 'Dimmer', level: 0.4 },
      }),
    );
    for (const w of five.slice(0, 4)) w.socket.close();
    await until(() => me()?.screens === 1 && me()?.hands.length === 0);
    expect(watching.last('playback')?.left?.some((l) => l.userId === tams) ?? false).toBe(false);
    await tam.ask('/api/auth/sign-out', {});
    await until(
      () =>
        watching.last('playback')?.left?.some((l) => l.userId === tams && l.why === 'out') ?? false,
    );
    await live(boss, { command: 'left-light', of: tams, do: 'go' });
    await until(() => watching.last('playback')?.left?.length === 0);
    watching.socket.close();
  });

  test('whoever holds the board and is taken out of the show leaves it free; who was to have it and has gone does not get it', async () => {
    const tam = await new Script(house).signIn('operator');
    const screen = await window(tam);
    const tams = ((await tam.ask('/api/me')).json as { userId: string }).userId;
    await live(boss, { command: 'board', do: 'take' });
    await live(boss, { command: 'board', do: 'hand', to: tams });
    const state = async () =>
      ((await boss.ask(`/api/shows/${show}/stage`)).json as { holder: string | null }).holder;
    expect(await state()).toBe('Tam Brevik');
    const role = (to: string | null) =>
      boss.ask(
        `/api/shows/${show}/members`,
        { email: 'operator@tidewater.example', role: to },
        { method: 'PUT' },
      );
    await role(null);
    await until(async () => (await state()) === null);
    expect(screen.socket.readyState).not.toBe(WebSocket.OPEN);
    await role('operator');
    await live(boss, { command: 'board', do: 'take' });
    expect((await live(boss, { command: 'board', do: 'hand', to: tams })).json).toMatchObject({
      error: { message: expect.stringContaining('is not here now. Nothing was handed over') },
    });
    expect(await state()).toBe('Yrsa Oddny');
    await live(boss, { command: 'board', do: 'leave' });
  });

  test('a device whose clock is wrong by an hour counts what has passed as everybody does', async () => {
    await live(boss, { command: 'board', do: 'take' });
    await live(boss, { command: 'goto', cue: '5', time: 0 });
    await live(boss, { command: 'go' });
    const tablet = await Screen.open(house, 'viewer');
    await (tablet.driver as chrome.Driver).sendDevToolsCommand(
      'Page.addScriptToEvaluateOnNewDocument',
      { source: 'const now = Date.now; Date.now = () => now() + 3600000;' },
    );
    await tablet.driver.get(`${house.url}/shows/${show}/caller`);
    await tablet.says('[data-testid=caller-times]', /ACT ONE 0?0?:?\d?\d?:?\d\d/);
    await new Promise((done) => setTimeout(done, 1500));
    const said = await tablet.words('[data-testid=caller-times]');
    expect(said).not.toMatch(/ 0?1:\d\d:\d\d SCENE/i);
    expect(said).toMatch(/^ACT ONE (00:)?0\d:\d\d/);
    await tablet.close();
  });
});
