/** One running Wingman: database, simulated node, player and web under one supervisor. */
import { spawn, type ChildProcess } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { connect } from '../store/database.ts';
import { migrate } from '../store/migrate.ts';
import { makeAuth } from '../store/auth.ts';
import { guardDemoAccounts, seedAccounts, seedDemo, type SeededAccounts } from '../../demo/seed.ts';
import { ensureBuilt } from './build.ts';
import { isLoopback } from '../core/loopback.ts';
import type { Options } from './options.ts';
import { ensurePostgres } from './packages.ts';
import { freePort, isFree, udpPort } from './ports.ts';
import { startCluster, type Cluster } from './postgres.ts';

const READY_PATIENCE_MS = 60_000;
const STOP_PATIENCE_MS = 5000;
const RESTART_FIRST_MS = 50;
const RESTART_MOST_MS = 5000;
/** A process that ran this long starts its back-off afresh. */
const SETTLED_MS = 10_000;

export interface Instance {
  url: string;
  data: string;
  databaseUrl: string;
  secret: string;
  playerPort: number;
  stop: () => Promise<void>;
}

interface Kept {
  name: string;
  child: ChildProcess | null;
  timer: NodeJS.Timeout | null;
}

function secretIn(data: string): string {
  // Several machines on one database share the secret that sessions and tickets are signed with.
  if (process.env.WINGMAN_SECRET) return process.env.WINGMAN_SECRET;
  const file = join(data, 'secret');
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}

/** The process behind a pid, if it is one of ours for this data folder. */
function isOurs(pid: number, data: string): boolean {
  try {
    return readFileSync(`/proc/${pid}/environ`, 'utf8').includes(`WINGMAN_DATA=${data}\0`) || readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(join(data, 'postgres'));
  } catch {
    return false;
  }
}

const gone = async (pid: number): Promise<void> => {
  for (let i = 0; i < 100 && existsSync(`/proc/${pid}`); i++) await new Promise((resolve) => setTimeout(resolve, 50));
};

/** A launcher that was killed leaves its children playing; the next start on the same folder takes over from them. */
async function claim(data: string): Promise<string> {
  const file = join(data, 'running.json');
  if (existsSync(file)) {
    const { launcher, children } = JSON.parse(readFileSync(file, 'utf8')) as { launcher: number; children: number[] };
    if (launcher !== process.pid && isOurs(launcher, data)) throw new Error(`Wingman is running on ${data} already (process ${launcher}). Give another folder with --data, or stop that one first.`);
    const left = children.filter((pid) => isOurs(pid, data));
    if (left.length > 0) console.log('Ending what a killed Wingman left running …');
    for (const pid of left) {
      process.kill(pid, 'SIGINT');
      await gone(pid);
    }
  }
  return file;
}

export async function startInstance(root: string, options: Options, { demo, quiet }: { demo: boolean; quiet?: boolean }): Promise<Instance> {
  const { data, host, port } = options;
  mkdirSync(data, { recursive: true, mode: 0o711 });
  mkdirSync(join(data, 'logs'), { recursive: true });
  const runningFile = await claim(data);
  // Only now: what a killed launcher left running may have held it.
  if (!(await isFree(port, host))) throw new Error(`Port ${port} on ${host} is taken. Give another with --port.`);
  process.env.WINGMAN_DATA = data;
  const log = (name: string): number => openSync(join(data, 'logs', `${name}.log`), 'a');

  const bin = options.databaseUrl ? undefined : ensurePostgres();
  await ensureBuilt(root);
  const cluster: Cluster | undefined = bin ? await startCluster(bin, data, log('postgres')) : undefined;
  const databaseUrl = options.databaseUrl ?? cluster?.url ?? '';
  const kept: Kept[] = [];
  let stopping = false;

  const remember = (): void => {
    const children = [...kept.map((k) => k.child?.pid), cluster?.child.pid].filter((pid) => pid !== undefined);
    writeFileSync(runningFile, JSON.stringify({ launcher: process.pid, children }));
  };
  remember();

  const stop = async (): Promise<void> => {
    stopping = true;
    // Screens first, then the player, which says goodbye to the lights, then the database that it saved to.
    for (const name of ['keeper', 'web', 'player', 'node']) {
      const process_ = kept.find((k) => k.name === name);
      if (!process_) continue;
      if (process_.timer) clearTimeout(process_.timer);
      await endChild(process_.child);
    }
    await cluster?.stop();
    rmSync(runningFile, { force: true });
  };

  try {
    const secret = secretIn(data);
    const url = `http://${host.includes(':') ? `[${host}]` : host}:${port}`;
    const seeded = await prepare(databaseUrl, { secret, url, demo, loopback: isLoopback(host), data });
    const playerPort = await freePort();
    const simPort = await freePort();
    const sacnPort = await udpPort(Number(process.env.WINGMAN_SACN_PORT ?? 5568), 'sACN at the simulated node');
    const artnetPort = await udpPort(Number(process.env.WINGMAN_ARTNET_PORT ?? 6454), 'Art-Net at the simulated node');
    const oscWanted = Number(process.env.WINGMAN_OSC_PORT ?? 9440);
    const oscPort = await udpPort(oscWanted, 'OSC from remote controls');
    const peerPort = await udpPort(Math.max(oscPort + 1, Number(process.env.WINGMAN_PEER_PORT ?? 9441)), 'OSC at the simulated peer');
    const midiPort = await udpPort(Math.max(peerPort + 1, Number(process.env.WINGMAN_MIDI_PORT ?? 9442)), 'MIDI at the simulated port');
    const env: NodeJS.ProcessEnv = {
      ...process.env,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      DATABASE_URL: databaseUrl,
      WINGMAN_ROOT: root,
      WINGMAN_DATA: data,
      WINGMAN_PORT: String(port),
      WINGMAN_HOST: host,
      WINGMAN_URL: url,
      WINGMAN_SECRET: secret,
      WINGMAN_PLAYER_PORT: String(playerPort),
      WINGMAN_SIM_PORT: String(simPort),
      WINGMAN_SACN_PORT: String(sacnPort),
      WINGMAN_ARTNET_PORT: String(artnetPort),
      WINGMAN_OSC_PORT: String(oscPort),
      WINGMAN_OSC_WANTED: String(oscWanted),
      WINGMAN_PEER_PORT: String(peerPort),
      WINGMAN_MIDI_PORT: String(midiPort),
      WINGMAN_DEMO: demo && isLoopback(host) ? 'offered' : 'none',
    };

    const keep = (name: string): void => {
      const process_: Kept = { name, child: null, timer: null };
      kept.push(process_);
      let wait_ms = RESTART_FIRST_MS;
      const start = (): void => {
        const out = log(name);
        const begun = Date.now();
        const child: ChildProcess = spawn(process.execPath, ['--enable-source-maps', join(root, '.build', `${name}.mjs`)], { cwd: root, env, stdio: ['ignore', out, out], detached: true });
        process_.child = child;
        remember();
        child.once('exit', (code, signal) => {
          process_.child = null;
          if (stopping) return;
          if (Date.now() - begun > SETTLED_MS) wait_ms = RESTART_FIRST_MS;
          console.log(`The ${name} process ended (${signal ?? code}); starting it again.`);
          process_.timer = setTimeout(start, wait_ms);
          wait_ms = Math.min(wait_ms * 2, RESTART_MOST_MS);
        });
      };
      start();
    };
    for (const name of ['node', 'player', 'web', 'keeper']) keep(name);
    await untilReady(url, () => stopping);
    if (!quiet) tellAccounts(seeded);
    return { url, data, databaseUrl, secret, playerPort, stop };
  } catch (error) {
    await stop();
    throw error;
  }
}

async function prepare(databaseUrl: string, o: { secret: string; url: string; demo: boolean; loopback: boolean; data: string }): Promise<SeededAccounts> {
  const { db, pool } = connect(databaseUrl, 4);
  try {
    await migrate(db);
    const auth = makeAuth(db, { secret: o.secret, baseURL: o.url });
    const accounts = await seedAccounts(auth, db, { demo: o.demo, known: o.loopback });
    const guarded = accounts.shown.length > 0 ? accounts : await guardDemoAccounts(auth, db, !o.loopback);
    if (o.demo) await seedDemo(db);
    return guarded;
  } catch (error) {
    throw new Error(`The database could not be prepared: ${(error as Error).message}`, { cause: error });
  } finally {
    await db.destroy().catch(() => pool.end());
  }
}

function tellAccounts(accounts: SeededAccounts): void {
  if (accounts.shown.length === 0) return;
  console.log('Accounts made just now; these passwords are shown this once:');
  for (const a of accounts.shown) console.log(`  ${a.email}  ${a.password}`);
}

async function untilReady(url: string, stopped: () => boolean): Promise<void> {
  const until = Date.now() + READY_PATIENCE_MS;
  while (!stopped()) {
    const ok = await fetch(`${url}/api/health`, { signal: AbortSignal.timeout(2000) }).then((r) => r.ok, () => false);
    if (ok) return;
    if (Date.now() > until) throw new Error('Wingman does not answer; logs/web.log and logs/player.log in the data folder say why.');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

async function endChild(child: ChildProcess | null): Promise<void> {
  if (!child || child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  child.kill('SIGTERM');
  const late = setTimeout(() => child.kill('SIGKILL'), STOP_PATIENCE_MS);
  await ended;
  clearTimeout(late);
}
