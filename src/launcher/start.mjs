/**
 * Puts the launcher and its packages into one file, where one of them has changed since, and runs it: loading some
 * fourteen hundred sources one after another took longer than the rest of a start (docs/performance.md).
 */
import { mkdirSync, readFileSync, renameSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';

// `wingman` stands in its own folder when it comes here.
const root = process.cwd();
const out = join(root, '.build');
const file = join(out, 'launcher.mjs');
const list = join(out, 'launcher.json');

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
    absWorkingDir: root,
    entryPoints: ['src/launcher/main.ts'],
    outfile: file,
    bundle: true,
    metafile: true,
    // Machine code, and what only some ask for.
    external: ['esbuild', 'pino', 'pg-native'],
    // Packages of the older kind ask for others with `require`, which a module does not have by itself.
    banner: {
      js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);",
    },
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'warning',
    logOverride: { 'empty-import-meta': 'silent' },
    write: false,
  });
  const sources = Object.fromEntries(
    Object.keys(metafile.inputs).map((path) => [path, seen(path)]),
  );
  mkdirSync(out, { recursive: true });
  write(file, outputFiles[0].contents);
  write(list, JSON.stringify({ node: process.version, sources }));
}

if (!isFresh()) await bundle();
await import(pathToFileURL(file).href);
