/** A browser for measuring what a screen does; none where Chromium is missing. */
import { existsSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Builder, By, type WebDriver } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';

/** Opens a page as the owner and gives it to `act`; undefined where there is no browser. */
export async function inBrowser<T>(
  url: string,
  page: string,
  act: (driver: WebDriver) => Promise<T>,
): Promise<T | undefined> {
  if (!existsSync('/usr/bin/chromium') || !existsSync('/usr/bin/chromedriver')) return undefined;
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
    '--enable-unsafe-swiftshader',
    `--user-data-dir=${mkdtempSync(path.join(tmpdir(), 'wingman-bench-'))}`,
  );
  options.setChromeBinaryPath('/usr/bin/chromium');
  const driver = (await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build()) as chrome.Driver;
  try {
    await driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width: 1280,
      height: 800,
      deviceScaleFactor: 1,
      mobile: false,
    });
    await driver.manage().setTimeouts({ script: 60_000 });
    await driver.get(`${url}/sign-in`);
    await driver.findElement(By.css('[data-demo=owner]')).click();
    await driver.wait(async () => new URL(await driver.getCurrentUrl()).pathname === '/', 20_000);
    await driver.get(`${url}${page}`);
    return await act(driver);
  } finally {
    await driver.quit();
  }
}

/** Times between frames of the screen while `act` (a script's body, called every frame with its number) keeps it busy. */
export async function frames(
  driver: WebDriver,
  milliseconds: number,
  act: string,
): Promise<number[]> {
  return driver.executeAsyncScript<number[]>(
    `const done = arguments[1]; const act = new Function('n', ${JSON.stringify(act)}); const times = []; let last = performance.now(); const start = last; let n = 0;
     const step = (now) => { times.push(now - last); last = now; act(n++); if (now - start < arguments[0]) requestAnimationFrame(step); else done(times.slice(5)); };
     requestAnimationFrame(step);`,
    milliseconds,
  );
}
