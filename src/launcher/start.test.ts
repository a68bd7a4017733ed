import { spawnSync } from 'node:child_process';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';

const HERE = __dirname;
const root = mkdtempSync(join(tmpdir(), 'wingman-start-'));
const bundle = join(root, '.build', 'launcher.mjs');

const put = (path: string, text: string): void => {
  mkdirSync(dirname(join(root, path)), { recursive: true });
  writeFileSync(join(root, path), text);
};
/** What the launcher of this folder says. */
const started = (): string => {
  const run = spawnSync(process.execPath, [join(root, 'src/launcher/start.mjs'), 'a', 'b'], {
    cwd: root,
    encoding: 'utf8',
  });
  return run.stdout.trim() || run.stderr;
};

beforeAll(() => {
  put('src/word.ts', "export const word: string = 'one';\n");
  put(
    'src/launcher/main.ts',
    "import { word } from '../word.ts';\nconsole.log(word, ...process.argv.slice(2));\n",
  );
  for (const name of ['start.mjs', 'bundling.mjs'])
    copyFileSync(join(HERE, name), join(root, 'src/launcher', name));
  symlinkSync(join(HERE, '../../node_modules'), join(root, 'node_modules'));
});
afterAll(() => rmSync(root, { recursive: true, force: true }));

test('the launcher is put together once, and made anew where any of its sources has changed', () => {
  expect(started()).toBe('one a b');
  const first = readFileSync(bundle, 'utf8');

  // What is fresh is run as it stands.
  writeFileSync(bundle, `${first}\nconsole.log('as it stands');\n`);
  expect(started()).toBe('one a b\nas it stands');

  put('src/word.ts', "export const word: string = 'another';\n");
  expect(started()).toBe('another a b');

  // How it is put together is a source as well.
  writeFileSync(bundle, "console.log('as it was put together before');\n");
  put('src/launcher/bundling.mjs', `${readFileSync(join(HERE, 'bundling.mjs'), 'utf8')}\n`);
  expect(started()).toBe('another a b');

  rmSync(bundle);
  expect(started()).toBe('another a b');
  expect(existsSync(bundle)).toBe(true);
});

test('a list that cannot be read is made anew', () => {
  put('.build/launcher.json', '{');
  expect(started()).toBe('another a b');
  expect(JSON.parse(readFileSync(join(root, '.build/launcher.json'), 'utf8'))).toMatchObject({
    node: process.version,
  });
});
