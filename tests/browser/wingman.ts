/** Starts real instances and real browsers for the journeys. */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, renameSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { Builder, By, Key, type WebDriver, type WebElement } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome';

const ROOT = resolve(__dirname, '../..');
const PATIENCE_MS = 30_000;

export const freePort = (): Promise<number> =>
  new Promise((done) => {
    const server = createServer();
    // On all addresses: some houses are opened to a network.
    server.listen(0, '0.0.0.0', () => {
      const address = server.address();
      server.close(() => done(address && typeof address === 'object' ? address.port : 0));
    });
  });

/** An empty folder that the database's user can pass through. */
export function scratch(): string {
  const folder = mkdtempSync(join(process.env.WINGMAN_SCRATCH ?? tmpdir(), 'house-'));
  chmodSync(folder, 0o711);
  return folder;
}

export interface House {
  url: string;
  data: string;
  launcher: ChildProcess;
  said: () => string;
  stop: () => Promise<number | null>;
}

/** A demo that was opened once and closed again. */
async function closedDemo(): Promise<string> {
  const folder = join(process.env.WINGMAN_SCRATCH ?? mkdtempSync(join(tmpdir(), 'demo-')), 'demo');
  if (!existsSync(folder)) {
    const made = scratch();
    await (await openHouse(made)).stop();
    // Whoever was first has made it for all.
    if (!existsSync(folder)) renameSync(made, folder);
  }
  return folder;
}

/** A data folder of its own with the demo in it: copying one takes a moment, making it a dozen seconds. */
async function demoCopy(): Promise<string> {
  const data = scratch();
  // The database's files belong to its user, and stay so.
  const copied = spawnSync('cp', ['-a', `${await closedDemo()}/.`, data], { encoding: 'utf8' });
  if (copied.status !== 0) throw new Error(`The demo could not be copied: ${copied.stderr}`);
  return data;
}

/** @param given its data; absent: a demo of its own, or an empty folder for other commands */
export async function openHouse(
  given?: string,
  command = 'demo',
  options: readonly string[] = [],
): Promise<House> {
  const data = given ?? (command === 'demo' ? await demoCopy() : scratch());
  const at = options.indexOf('--port');
  const port = at < 0 ? await freePort() : Number(options[at + 1]);
  // NODE_ENV and the like belong to the test runner, not to a house.
  const env = Object.fromEntries(
    Object.entries(process.env).filter(([k]) => !/^(JEST|NODE_ENV|NODE_OPTIONS|WINGMAN_)/.test(k)),
  );
  const launcher = spawn(
    join(ROOT, 'wingman'),
    [command, ...(at < 0 ? ['--port', String(port)] : []), '--data', data, ...options],
    { cwd: ROOT, env: env as NodeJS.ProcessEnv, stdio: ['ignore', 'pipe', 'pipe'] },
  );
  let said = '';
  launcher.stdout.on('data', (d: Buffer) => (said += d.toString()));
  launcher.stderr.on('data', (d: Buffer) => (said += d.toString()));
  const url = `http://127.0.0.1:${port}`;
  await until(() => said.includes('Wingman is ready at ') || launcher.exitCode !== null, 120_000);
  if (launcher.exitCode !== null) throw new Error(`The house did not open:\n${said}`);
  return {
    url,
    data,
    launcher,
    said: () => said,
    stop: async () => {
      if (launcher.exitCode !== null) return launcher.exitCode;
      const ended = new Promise<number | null>((done) =>
        launcher.once('exit', (code) => done(code)),
      );
      launcher.kill('SIGINT');
      return ended;
    },
  };
}

/** Waits for something to hold; fails with what it was, and with what each screen shows meanwhile. */
export async function until(
  holds: () => boolean | Promise<boolean>,
  patience_ms = PATIENCE_MS,
): Promise<void> {
  const end = Date.now() + patience_ms;
  // Asking takes of the machine what is asked for: what is not there at once is asked for less and less often.
  for (let pause_ms = 30; ; pause_ms = Math.min(100, pause_ms * 1.25)) {
    if (await holds()) return;
    if (Date.now() > end)
      throw new Error(
        `Waited ${patience_ms} ms in vain for: ${holds.toString()}\n${await Screen.shown()}`,
      );
    await new Promise((done) => setTimeout(done, pause_ms));
  }
}

/** A person at the interface for programs. */
export class Script {
  private cookie = '';
  /** For what `ask` cannot send. */
  get cookies(): string {
    return this.cookie;
  }
  constructor(private readonly house: House) {}

  async signIn(who: string, password = 'tidewater'): Promise<this> {
    const response = await fetch(`${this.house.url}/api/auth/sign-in/email`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email: `${who}@tidewater.example`, password }),
    });
    this.cookie = response.headers
      .getSetCookie()
      .map((c) => c.split(';')[0])
      .join('; ');
    return this;
  }

  /** The id of a show by its name; empty where there is none. */
  async showId(name: string): Promise<string> {
    return (
      ((await this.ask('/api/shows')).json as { shows: { id: string; name: string }[] }).shows.find(
        (s) => s.name === name,
      )?.id ?? ''
    );
  }

  async ask(
    path: string,
    body?: unknown,
    init: RequestInit = {},
  ): Promise<{ status: number; json: never }> {
    const reads = body === undefined && (init.method ?? 'GET') === 'GET';
    const send = () =>
      fetch(`${this.house.url}${path}`, {
        ...(body === undefined
          ? {}
          : { method: 'POST', body: typeof body === 'string' ? body : JSON.stringify(body) }),
        ...init,
        headers: { cookie: this.cookie, 'content-type': 'application/json', ...init.headers },
      });
    // The other side may have closed a connection that was not used for a while.
    const response = await (reads ? send().catch(send) : send());
    return { status: response.status, json: (await response.json().catch(() => null)) as never };
  }
}

/** What a browser has beside its page. */
interface Has {
  /** Draws in space. */
  space?: boolean;
  /** A WAV file that its audio input hears. */
  hears?: string;
}

export class Screen {
  private static readonly open_ = new Set<Screen>();

  private constructor(readonly driver: WebDriver) {
    Screen.open_.add(this);
  }

  /** Also those that a failed test left open. */
  static async closeAll(): Promise<void> {
    for (const screen of Screen.open_) await screen.close().catch(() => undefined);
  }

  /** A line or two for each screen that is open: where it is, what lies over it, how it begins, what went wrong in it. */
  static async shown(): Promise<string> {
    const lines = await Promise.all(
      [...Screen.open_].map(async ({ driver }) => {
        try {
          const seen = await driver.executeScript<string>(
            "const text = (s) => [...document.querySelectorAll(s)].map((e) => e.textContent).join(' / ').replace(/\\s+/g, ' '); return [location.pathname, document.readyState, `dialogs: ${text('[role=dialog], [role=alertdialog]').slice(0, 120)}`, `says: ${text('[data-testid=message-line]').slice(0, 120)}`, text('main, body').slice(0, 160)].join(' | ')",
          );
          const wrong = (await driver.manage().logs().get('browser')).slice(-2);
          return [seen, ...wrong.map((w) => `  ${w.message.slice(0, 160)}`)].join('\n');
        } catch (error) {
          return `a screen that does not answer: ${(error as Error).message.slice(0, 120)}`;
        }
      }),
    );
    return lines.join('\n');
  }

  static async open(house: House, who: string, has: Has = {}): Promise<Screen> {
    const screen = await Screen.openAt(house, '/sign-in', has);
    await (await screen.find(`[data-demo=${who}]`)).click();
    // A volunteer of one show is on its page at once.
    await until(async () =>
      /^\/$|^\/shows\/[^/]+\/page$/.test(new URL(await screen.driver.getCurrentUrl()).pathname),
    );
    return screen;
  }

  /** A fresh browser, signed in as nobody. */
  static async openAt(
    house: House,
    path: string,
    { space = false, hears }: Has = {},
  ): Promise<Screen> {
    const options = new chrome.Options();
    options.addArguments(
      '--headless',
      '--no-sandbox',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--disable-dev-shm-usage',
      `--user-data-dir=${scratch()}`,
    );
    // Drawing in space needs a software renderer on a machine without a graphics processor.
    if (space) options.addArguments('--enable-unsafe-swiftshader');
    // The browser's own stand-in for an audio input: the file, again and again.
    if (hears !== undefined)
      options.addArguments(
        '--use-fake-device-for-media-stream',
        '--use-fake-ui-for-media-stream',
        `--use-file-for-fake-audio-capture=${hears}`,
      );
    options.setChromeBinaryPath('/usr/bin/chromium');
    const driver = (await new Builder()
      .forBrowser('chrome')
      .setChromeOptions(options)
      .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
      .build()) as chrome.Driver;
    await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width: 1280,
      height: 800,
      deviceScaleFactor: 1,
      mobile: false,
    });
    const screen = new Screen(driver);
    await driver.get(`${house.url}${path}`);
    return screen;
  }

  async close(): Promise<void> {
    if (Screen.open_.delete(this)) await this.driver.quit();
  }

  /** Requests of this browser reach nobody, or the house again. */
  async away(on: boolean): Promise<void> {
    const driver = this.driver as chrome.Driver;
    await driver.sendDevToolsCommand('Network.enable', {});
    await driver.sendDevToolsCommand('Network.emulateNetworkConditions', {
      offline: on,
      latency: 0,
      downloadThroughput: -1,
      uploadThroughput: -1,
    });
  }

  async find(css: string): Promise<WebElement> {
    await until(async () => (await this.driver.findElements(By.css(css))).length > 0);
    return this.driver.findElement(By.css(css));
  }

  async count(css: string): Promise<number> {
    return (await this.driver.findElements(By.css(css))).length;
  }

  /** The element's words now; empty when it is not there or was just replaced. */
  async words(css: string): Promise<string> {
    try {
      return (
        await this.driver.executeScript<string>(
          'return document.querySelector(arguments[0])?.innerText ?? ""',
          css,
        )
      )
        .replace(/\s+/g, ' ')
        .trim();
    } catch {
      return '';
    }
  }

  async says(css: string, wanted: string | RegExp, patience_ms = PATIENCE_MS): Promise<void> {
    let last = '';
    const end = Date.now() + patience_ms;
    while (Date.now() < end) {
      last = await this.words(css);
      if (typeof wanted === 'string' ? last.includes(wanted) : wanted.test(last)) return;
      await new Promise((done) => setTimeout(done, 40));
    }
    throw new Error(`${css} says “${last}”, not ${String(wanted)}`);
  }

  async button(text: string): Promise<WebElement> {
    const path = By.xpath(`//button[normalize-space(.)=${JSON.stringify(text)}]`);
    await until(async () => (await this.driver.findElements(path)).length > 0);
    return this.driver.findElement(path);
  }

  /** A button that is drawn anew between finding and pressing is found again. */
  async press(text: string): Promise<void> {
    await until(async () =>
      (await this.button(text)).click().then(
        () => true,
        (error: Error) => {
          if (error.name === 'StaleElementReferenceError') return false;
          throw error;
        },
      ),
    );
  }

  /** Fills a field by its label. */
  async fill(label: string, text: string): Promise<void> {
    const id = await this.driver
      .findElement(By.xpath(`//label[normalize-space(.)=${JSON.stringify(label)}]`))
      .getAttribute('for');
    const field = await this.driver.findElement(By.id(id ?? ''));
    await field.sendKeys(Key.chord(Key.CONTROL, 'a'), text);
  }

  /** Searches the types and picks a mode by the beginning of its full name: `Generic Dimmer, 8 bit`. */
  async pick(query: string, mode: string, within = ''): Promise<void> {
    const search = await this.find(`${within} [aria-label="Find a fixture type"]`);
    await search.sendKeys(Key.chord(Key.CONTROL, 'a'), query);
    const option = `${within} [role=option][aria-label^="${mode}"]`;
    // With many finds a type opens first.
    const name = mode.split(',')[0] ?? '';
    await until(
      async () =>
        (await this.count(option)) > 0 ||
        (await this.count(`${within} [aria-label="Fixture types"] [aria-expanded=false]`)) > 0,
    );
    if ((await this.count(option)) === 0) {
      for (const row of await this.driver.findElements(
        By.css(`${within} [aria-label="Fixture types"] [aria-expanded=false]`),
      )) {
        if (name.endsWith(((await row.getText()).split('\n')[0] ?? '').trim())) {
          await row.click();
          break;
        }
      }
    }
    await (await this.find(option)).click();
  }

  /** The middle of an address on the map, in pixels of the page. */
  async cell(address: number): Promise<{ x: number; y: number }> {
    const map = await (await this.find('[data-testid=address-map]')).getRect();
    const [w, h] = [(map.width - 42) / 32, Math.min(26, (map.height - 22) / 16)];
    return {
      x: Math.round(map.x + 36 + (((address - 1) % 32) + 0.5) * w),
      y: Math.round(map.y + 18 + (Math.floor((address - 1) / 32) + 0.5) * h),
    };
  }

  async dragCells(from: number, to: number): Promise<void> {
    const [a, b] = [await this.cell(from), await this.cell(to)];
    await this.driver
      .actions({ async: true })
      .move(a)
      .press()
      .move({ x: a.x + 9, y: a.y + 3 })
      .move(b)
      .release()
      .perform();
  }

  async typed(line: string): Promise<void> {
    // A dialog that is just closing lets nobody type yet.
    await until(async () =>
      (await this.find('#command')).sendKeys(Key.chord(Key.CONTROL, 'a'), line).then(
        () => true,
        (error: Error) => {
          if (error.name === 'ElementNotInteractableError') return false;
          throw error;
        },
      ),
    );
  }

  async command(line: string): Promise<void> {
    await this.typed(line);
    await (await this.find('#command')).sendKeys(Key.ENTER);
    await until(async () => (await (await this.find('#command')).getAttribute('value')) === '');
  }

  /** Goes to a place by its name in the frame; presses again where nothing came of it, as people do, and says so. */
  async place(name: string): Promise<void> {
    const isThere = async (): Promise<boolean> =>
      (await this.driver.getCurrentUrl()).endsWith(`/${name}`);
    const press = async (): Promise<void> => (await this.find(`nav a[href$="/${name}"]`)).click();
    await press();
    await this.says('main', /\S/);
    await until(isThere, PATIENCE_MS / 3).catch(async (error: Error) => {
      console.warn(`A press on the way to ${name} was lost. ${error.message}`);
      await press();
      await until(isThere);
    });
  }

  /** A tile of the shelf by its number, on whichever page it is. */
  async shelfTile(number: number): Promise<WebElement> {
    const tile = `[data-tile="${number}"]`;
    await until(async () => {
      if ((await this.count(tile)) > 0) return true;
      const more = await this.driver.findElements(
        By.css('[aria-label="More tiles"]:not(:disabled)'),
      );
      await more[0]?.click();
      return false;
    });
    return this.find(tile);
  }

  /** Opens a tile's menu by its number, and picks an entry by the beginning of its words. */
  async tile(number: number, entry: string): Promise<void> {
    await this.shelfTile(number);
    const more = await this.find(`[data-tile="${number}"] ~ [aria-label^="More about"]`);
    await this.driver.executeScript(
      "arguments[0].dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, button: 0 }))",
      more,
    );
    const item = By.xpath(
      `//*[@role="menuitem"][starts-with(normalize-space(.), ${JSON.stringify(entry)})]`,
    );
    await until(async () => (await this.driver.findElements(item)).length > 0);
    await (await this.driver.findElement(item)).click();
  }

  /** A tab by its words or title. */
  async tab(label: string): Promise<void> {
    const path = By.xpath(
      `//*[@role="tab"][normalize-space(.)=${JSON.stringify(label)} or @title=${JSON.stringify(label)}]`,
    );
    await until(async () => (await this.driver.findElements(path)).length > 0);
    await (await this.driver.findElement(path)).click();
  }

  /** A place of the stage in pixels of the page, as the plan draws it now. */
  /** The pixel of a place on the stage, on a plan that stands still. */
  async onPlan(
    x: number,
    y: number,
    which = '[data-testid=plan]',
  ): Promise<{ x: number; y: number }> {
    const plan = await this.find(which);
    // A bar that opens over it changes its size a moment later.
    let last = '';
    await until(async () => {
      const now = (await plan.getAttribute('data-view')) ?? '';
      const same = now === last;
      last = now;
      await new Promise((done) => setTimeout(done, 120));
      return same;
    });
    const [scale = 1, ox = 0, oy = 0] = ((await plan.getAttribute('data-view')) ?? '')
      .split(',')
      .map(Number);
    const r = await plan.getRect();
    return { x: Math.round(r.x + ox + x * scale), y: Math.round(r.y + oy - y * scale) };
  }

  async dragOnPlan(from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
    const [a, b] = [await this.onPlan(from.x, from.y), await this.onPlan(to.x, to.y)];
    await this.driver
      .actions({ async: true })
      .move(a)
      .press()
      .move({ x: Math.round((a.x + b.x) / 2), y: Math.round((a.y + b.y) / 2) })
      .move(b)
      .release()
      .perform();
  }

  async showId(): Promise<string> {
    return /shows\/([^/]+)/.exec(await this.driver.getCurrentUrl())?.[1] ?? '';
  }

  async openShow(name: string): Promise<void> {
    const link = By.xpath(`//a[contains(., ${JSON.stringify(name)})]`);
    await until(async () => (await this.driver.findElements(link)).length > 0);
    await this.driver.findElement(link).click();
    await this.says('[data-testid=show-name]', name);
    await this.says('[data-testid=air]', /On air|In rehearsal/);
  }
}
