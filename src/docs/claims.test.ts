/** A claim names the test that holds it, and that test is there. */
import { readdirSync, readFileSync } from 'node:fs';
import { basename, join } from 'node:path';

const ROOT = join(import.meta.dirname, '../..');
const filesIn = (folder: string): string[] =>
  readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true }).flatMap((f) =>
    f.isFile() && !f.parentPath.includes('testdata') ? [join(f.parentPath, f.name)] : [],
  );
const CODE = ['src', 'tests', 'demo'].flatMap(filesIn).filter((f) => /\.(tsx?|css|mjs)$/.test(f));
const TESTS = new Set(CODE.map((f) => basename(f)).filter((f) => /\.test\.tsx?$/.test(f)));

test.each([
  ['code', CODE],
  ['documents', filesIn('docs').filter((f) => f.endsWith('.md'))],
])('every test that is named in %s is there', (_, files) => {
  const named = files.flatMap((file) =>
    [...readFileSync(file, 'utf8').matchAll(/(?<![\w.*])[\w-]+\.test\.tsx?\b/g)].map(([name]) => ({
      name,
      file,
    })),
  );
  expect(named.length).toBeGreaterThan(10);
  expect(named.filter(({ name }) => !TESTS.has(name))).toEqual([]);
});
