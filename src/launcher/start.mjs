/**
 * Puts the launcher and its packages into one file, where one of them has changed since, and runs it: loading some
 * fourteen hundred sources one after another took longer than the rest of a start (docs/performance.md).
 */
import { mkdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { BUNDLED } from './bundling.mjs';

// `wingman` stands in its own folder when it comes here.
const root = process.cwd();
const out = join(root, '.build');
const file = join(out, 'launcher.mjs');
const list = join(out, 'launcher.json');
/** What says how it is put together counts as a source of it. */
const HOW = ['start.mjs', 'bundling.mjs'].map((name) => `src/launcher/${name}`);

/** When a source was written and how long it is. */
const seen = (path) => {
  const { mtimeMs, size } = statSync(join(root, path));
  return `${mtimeMs} ${size}`;
};

function isFresh() {
  try {
    const { node, sources } = JSON.parse(readFileSync(list, 'utf8'));
    statSync(file);
    return (
      node === process.version && Object.entries(sources).every(([path, was]) => seen(path) === was)
    );
  } catch {
    return false;
  }
}

/** Whole or not at all: others may be starting from it at this moment. */
function write(path, contents) {
  const part = `${path}.${process.pid}`;
  writeFileSync(part, contents);
  renameSync(part, path);
}

async function bundle() {
  const { build } = await import('esbuild');
  const { outputFiles, metafile } = await build({
    ...BUNDLED,
    absWorkingDir: root,
    entryPoints: ['src/launcher/main.ts'],
    outfile: file,
    metafile: true,
    write: false,
  });
  const made = [...Object.keys(metafile.inputs), ...HOW];
  const sources = Object.fromEntries(made.map((path) => [path, seen(path)]));
  mkdirSync(out, { recursive: true });
  write(file, outputFiles[0].contents);
  write(list, JSON.stringify({ node: process.version, sources }));
}

if (!isFresh()) await bundle();
await import(pathToFileURL(file).href);
