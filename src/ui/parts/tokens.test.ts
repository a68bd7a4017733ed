/** The token file: each theme has every colour, and night is what a page without a theme has. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const css = readFileSync(join(__dirname, '../../app/globals.css'), 'utf8');

/** Colours of a block, by their names. */
function colours(begins: string): Map<string, string> {
  const from = css.indexOf(begins);
  const block = css.slice(from, css.indexOf('}', from));
  return new Map(
    [...block.matchAll(/--color-([\w-]+): ([^;]+);/g)].map(([, name = '', value = '']) => [
      name,
      value,
    ]),
  );
}

/** What light is shown on, and light itself, are the same by day. */
const ALWAYS = new Set(['stage', 'light']);
const own = [...colours('@theme {')].filter(([name]) => !ALWAYS.has(name));

test('night is the theme of a page that says none', () => {
  expect(own.length).toBeGreaterThan(40);
  expect(Object.fromEntries(colours("[data-theme='night'] {"))).toEqual(Object.fromEntries(own));
});

test('day has every colour, and no other', () => {
  expect([...colours("[data-theme='day'] {").keys()].sort()).toEqual(own.map(([n]) => n).sort());
});
