/** Builds web pages and processes when their sources have changed since the last build; one build at a time. */
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { build } from 'esbuild';
import { BUNDLED } from './bundling.mjs';

const OUT = '.build';
const STAMP = join(OUT, 'stamp');
const LOCK = join(OUT, 'lock');
const SOURCES = [
  'src',
  'demo',
  'package-lock.json',
  'next.config.mjs',
  'postcss.config.mjs',
  'tsconfig.json',
];
const PATIENCE_MS = 10 * 60_000;

function* files(path: string): Generator<string> {
  if (!statSync(path).isDirectory()) {
    yield path;
    return;
  }
  for (const name of readdirSync(path).sort()) yield* files(join(path, name));
}

function stampOf(root: string): string {
  const hash = createHash('sha256').update(process.version);
  for (const source of SOURCES) {
    for (const file of files(join(root, source)))
      if (!/\.test\.tsx?$/.test(file))
        hash.update(file.slice(root.length)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

const alive = (pid: number): boolean => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/** Two instances started together build once: the second waits. */
async function lock(root: string): Promise<() => void> {
  const file = join(root, LOCK);
  const until = Date.now() + PATIENCE_MS;
  for (;;) {
    try {
      const handle = openSync(file, 'wx');
      writeSync(handle, String(process.pid));
      closeSync(handle);
      return () => rmSync(file, { force: true });
    } catch {
      const owner = Number(existsSync(file) ? readFileSync(file, 'utf8') : 0);
      if (owner > 0 && !alive(owner)) rmSync(file, { force: true });
      else if (Date.now() > until)
        throw new Error(`Another build has held ${file} for ten minutes.`);
      else await new Promise((resolve) => setTimeout(resolve, 200));
    }
  }
}

/** Entry points of the processes, each bundled into one file: a worker thread cannot load TypeScript. */
const ENTRIES = {
  player: 'src/player/main.ts',
  keeper: 'src/keeper/main.ts',
  clock: 'src/player/clock.ts',
  sender: 'src/player/sending/sender.ts',
  rehearse: 'src/player/rehearse.ts',
  node: 'src/sim/node.ts',
  web: 'src/web/server.ts',
  files: 'src/store/file-process.ts',
  sound: 'src/player/sounds/process.ts',
  bench: 'src/bench/main.ts',
  receiver: 'src/bench/receiver.ts',
  asker: 'src/bench/asker.ts',
};

/** Builds what has changed since the last build; waits where another is building. */
export async function ensureBuilt(root: string): Promise<void> {
  mkdirSync(join(root, OUT), { recursive: true });
  const unlock = await lock(root);
  try {
    const wanted = stampOf(root);
    const stamp = join(root, STAMP);
    if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
    console.log('Building Wingman (once) …');
    rmSync(stamp, { force: true });
    await build({
      ...BUNDLED,
      absWorkingDir: root,
      entryPoints: Object.entries(ENTRIES).map(([out, entry]) => ({ in: entry, out })),
      outdir: OUT,
      outExtension: { '.js': '.mjs' },
      sourcemap: 'inline',
      // For the places in a log; the sources stand beside.
      sourcesContent: false,
    });
    const next = spawnSync(
      process.execPath,
      [join(root, 'node_modules/next/dist/bin/next'), 'build'],
      {
        cwd: root,
        encoding: 'utf8',
        env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
      },
    );
    if (next.status !== 0)
      throw new Error(`The pages could not be built:\n${next.stdout}\n${next.stderr}`);
    writeFileSync(stamp, wanted);
  } finally {
    unlock();
  }
}
