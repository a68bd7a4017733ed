/** A dialog never says that something was done before it is. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { willDo } from './will';

const FOLDER = 'src/core';
/** First words of what edits say was done: all of them in the past. */
const firstWords = readdirSync(FOLDER, { recursive: true, encoding: 'utf8' })
  .filter((f) => /edits(\/[a-z-]+)?\.ts$/.test(f) && !f.endsWith('.test.ts'))
  .flatMap((f) => [...readFileSync(join(FOLDER, f), 'utf8').matchAll(/summary:([^]{0,160})/g)])
  .flatMap(([, summary = '']) =>
    [...summary.matchAll(/[`'](?:\$\{[^}]*\? ')?([A-Z][a-z]+)\b/g)].map((m) => m[1] ?? ''),
  );

test('every word that says what was done has one for what will be', () => {
  const past = [...new Set(firstWords)].filter((w) =>
    /(ed|ied|Took|Made|Put|Gave|Left|Split|Set|Brought)$/.test(w),
  );
  expect(past.length).toBeGreaterThan(15);
  expect(past.filter((w) => willDo(w) === w)).toEqual([]);
});

test('the rest of the sentence stays', () =>
  expect(willDo('Swapped 101 to Quillon Spot; 12 values converted')).toBe(
    'Swaps 101 to Quillon Spot; 12 values converted',
  ));
