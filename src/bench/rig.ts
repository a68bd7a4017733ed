/** Patching at the size of a large house: one edit of 2,000 units, search as it is typed, table and map on a screen. */
import { By } from 'selenium-webdriver';
import { planEdit } from '../core/edits/plan-edit.ts';
import { newShowRows } from '../core/rig/defaults.ts';
import { libraryTypes } from '../core/rig/library/index.ts';
import { findTypes, indexTypes } from '../core/rig/search.ts';
import { MutableShow } from '../core/show/show.ts';
import { frames, inBrowser } from './browser.ts';
import { Visitor } from './house.ts';
import { quantile, type Row, row } from './numbers.ts';

const UNITS = 2000;
const MODES = 5000;
const PLANS = 20;
const FRAMES_MS = 3000;
const PATCH = {
  typeId: 'generic-rgbw',
  mode: 'RGBW',
  quantity: UNITS,
  first: 1,
  universe: 1,
  address: 1,
  overflow: true,
};

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
  const types = Array.from({ length: Math.ceil(MODES / modes) }, (_, i) =>
    base.map((t) => ({ ...t, id: `${t.id}-${i}`, name: `${t.name} ${i}` })),
  ).flat();
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

async function onScreen(url: string, showId: string): Promise<Row[]> {
  const fps = (what: string, times: readonly number[]): Row =>
    row(
      what,
      times,
      'ms',
      '16.7 ms',
      `${Math.round(1000 / quantile(times, 0.5))} frames a second at the median`,
    );
  const found = await inBrowser(url, `/shows/${showId}/rig`, async (driver) => {
    await driver.wait(
      async () => (await driver.findElements(By.css('[data-fixture]'))).length > 5,
      30_000,
    );
    const table = await frames(
      driver,
      FRAMES_MS,
      "const grid = document.querySelector('[role=grid][aria-label=Fixtures]'); grid.scrollTop = (n * 90) % (grid.scrollHeight - grid.clientHeight);",
    );
    const map = await frames(
      driver,
      FRAMES_MS,
      "const map = document.querySelector('[data-testid=address-map]'); const r = map.getBoundingClientRect(); map.dispatchEvent(new PointerEvent('pointermove', { clientX: r.left + 50 + (n * 7) % (r.width - 70), clientY: r.top + 30 + (n * 3) % (r.height - 50), bubbles: true })); if (n % 20 === 0) document.querySelectorAll('[data-universe] button')[(n / 20) % 12]?.click();",
    );
    return [
      fps(`Table of ${UNITS}, scrolled: time between frames`, table),
      fps(`Map of ${UNITS}, pointed at and turned: time between frames`, map),
    ];
  });
  return found ?? [];
}

export async function measureRig(url: string): Promise<Row[]> {
  const rows = [planning(), searching()];
  const owner = await Visitor.signIn(url, 'owner');
  const { id } = await owner.ask<{ id: string }>('/api/shows', { name: 'Large house' });
  const start = performance.now();
  await owner.ask(`/api/shows/${id}/edits`, { edit: 'patch-fixtures', params: PATCH });
  rows.push(
    row(`Patching ${UNITS} in one edit, asked to answered`, [performance.now() - start], 'ms'),
  );
  return [...rows, ...(await onScreen(url, id))];
}
