/** Patching at the size of a large house: one edit of 2,000 units, search as it is typed, table and map on a screen. */
import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Builder, By, type WebDriver } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';
import { planEdit } from '../core/edits/index.ts';
import { newShowRows } from '../core/rig/defaults.ts';
import { libraryTypes } from '../core/rig/library/index.ts';
import { findTypes, indexTypes } from '../core/rig/search.ts';
import { MutableShow } from '../core/show/show.ts';
import { Visitor } from './house.ts';
import { quantile, type Row } from './numbers.ts';

const UNITS = 2000;
const MODES = 5000;
const PLANS = 20;
const FRAMES_MS = 3000;
const PATCH = { typeId: 'generic-rgbw', mode: 'RGBW', quantity: UNITS, first: 1, universe: 1, address: 1, overflow: true };

const row = (what: string, values: readonly number[], unit: string, wanted = '', note = ''): Row => ({ what, median: quantile(values, 0.5), p99: quantile(values, 0.99), unit, wanted, note });

function planning(): Row {
  const times: number[] = [];
  for (let i = 0; i < PLANS; i++) {
    const show = new MutableShow();
    show.apply(newShowRows('Large house'));
    const start = performance.now();
    planEdit(show, 'owner', 'patch-fixtures', PATCH, 'bench');
    times.push(performance.now() - start);
  }
  return row(`Planning and checking a patch of ${UNITS}`, times, 'ms');
}

function searching(): Row {
  const base = libraryTypes();
  const modes = base.reduce((n, t) => n + t.modes.length, 0);
  const types = Array.from({ length: Math.ceil(MODES / modes) }, (_, i) => base.map((t) => ({ ...t, id: `${t.id}-${i}`, name: `${t.name} ${i}` }))).flat();
  const index = indexTypes(types);
  const times: number[] = [];
  for (const query of ['quillon wash 19 full', 'tern rgbw 8', 'profile 16 bit 40', 'zzz']) {
    for (let n = 1; n <= query.length; n++) {
      const start = performance.now();
      findTypes(index, query.slice(0, n));
      times.push(performance.now() - start);
    }
  }
  return row(`A keystroke of search in ${index.entries.length} modes`, times, 'ms', '< 30 ms');
}

/** Times between frames of the screen while `act` (a script's body, called every frame) keeps it busy. */
async function frames(driver: WebDriver, act: string): Promise<number[]> {
  return driver.executeAsyncScript<number[]>(
    `const done = arguments[1]; const act = new Function('n', ${JSON.stringify(act)}); const times = []; let last = performance.now(); const start = last; let n = 0;
     const step = (now) => { times.push(now - last); last = now; act(n++); if (now - start < arguments[0]) requestAnimationFrame(step); else done(times.slice(5)); };
     requestAnimationFrame(step);`,
    FRAMES_MS,
  );
}

async function onScreen(url: string, showId: string): Promise<Row[]> {
  if (!existsSync('/usr/bin/chromium') || !existsSync('/usr/bin/chromedriver')) return [];
  const options = new chrome.Options();
  options.addArguments('--headless', '--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--disable-dev-shm-usage', `--user-data-dir=${mkdtempSync(path.join(tmpdir(), 'wingman-bench-'))}`);
  options.setChromeBinaryPath('/usr/bin/chromium');
  const driver = (await new Builder().forBrowser('chrome').setChromeOptions(options).setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver')).build()) as chrome.Driver;
  try {
    await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', { width: 1280, height: 800, deviceScaleFactor: 1, mobile: false });
    await driver.manage().setTimeouts({ script: 30_000 });
    await driver.get(`${url}/sign-in`);
    await driver.findElement(By.css('[data-demo=owner]')).click();
    await driver.wait(async () => new URL(await driver.getCurrentUrl()).pathname === '/', 20_000);
    await driver.get(`${url}/shows/${showId}/rig`);
    await driver.wait(async () => (await driver.findElements(By.css('[data-fixture]'))).length > 5, 30_000);
    const fps = (what: string, times: readonly number[]): Row => row(what, times, 'ms', '16.7 ms', `${Math.round(1000 / quantile(times, 0.5))} frames a second at the median`);
    const table = await frames(driver, "const grid = document.querySelector('[role=grid][aria-label=Fixtures]'); grid.scrollTop = (n * 90) % (grid.scrollHeight - grid.clientHeight);");
    const map = await frames(driver, "const map = document.querySelector('[data-testid=address-map]'); const r = map.getBoundingClientRect(); map.dispatchEvent(new PointerEvent('pointermove', { clientX: r.left + 50 + (n * 7) % (r.width - 70), clientY: r.top + 30 + (n * 3) % (r.height - 50), bubbles: true })); if (n % 20 === 0) document.querySelectorAll('[data-universe] button')[(n / 20) % 12]?.click();");
    return [fps(`Table of ${UNITS}, scrolled: time between frames`, table), fps(`Map of ${UNITS}, pointed at and turned: time between frames`, map)];
  } finally {
    await driver.quit();
  }
}

export async function measureRig(url: string): Promise<Row[]> {
  const rows = [planning(), searching()];
  const owner = await Visitor.signIn(url, 'owner');
  const { id } = await owner.ask<{ id: string }>('/api/shows', { name: 'Large house' });
  const start = performance.now();
  await owner.ask(`/api/shows/${id}/edits`, { edit: 'patch-fixtures', params: PATCH });
  rows.push(row(`Patching ${UNITS} in one edit, asked to answered`, [performance.now() - start], 'ms'));
  return [...rows, ...(await onScreen(url, id))];
}
