/** One running Wingman: database, simulated node, players, web and keeper under one supervisor. */
import { backOff } from 'exponential-backoff';
import { spawn, type ChildProcess, type StdioOptions } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { isLoopback } from '../core/loopback.ts';
import { ARTNET_PORT, SACN_PORT } from '../core/output/bytes.ts';
import { connect } from '../store/database.ts';
import { migrate } from '../store/migrate.ts';
import { makeAuth } from '../store/auth.ts';
import { playerOnAir, waitingPlayers } from '../store/players.ts';
import { guardDemoAccounts, seedAccounts, seedDemo, type SeededAccounts } from '../../demo/seed.ts';
import { ensureBuilt } from './build.ts';
import { answers, statusAt, whyNotJoin } from './joining.ts';
import { reach, tellNetwork, tlsOf, type Reached } from './network.ts';
import type { Options } from './options.ts';
import { ensurePostgres } from './packages.ts';
import { freePort, holdPort, udpPort } from './ports.ts';
import {
  answersNow,
  prepareCluster,
  runningServer,
  untilServing,
  type Cluster,
} from './postgres.ts';
import { end, environOf, isOurs, signal } from './processes.ts';
import { Supervisor, type Spec } from './supervise.ts';

const READY_PATIENCE_MS = 60_000;
const READY_LOOK_MS = 100;
const STOP_PATIENCE_MS = 6000;
const DATABASE_STOP_MS = 10_000;
/** A new player is up and waits within this; then the ones that a killed launcher left may go. */
const WAITING_PATIENCE_MS = 20_000;
/** The two players: either may be on air, the other waits. */
const PLAYERS = ['player', 'standby'] as const;
/** Screens first, then whoever waits, then the player, which says goodbye to the lights. */
const STOP_ORDER = ['keeper', 'web', 'standby', 'player', 'node'] as const;

/** A house that is open. */
export interface Instance {
  url: string;
  data: string;
  databaseUrl: string;
  secret: string;
  playerPort: number;
  /** @returns what could not be kept, in sentences */
  stop: () => Promise<string[]>;
}

/** What a launcher writes down, so that the next one on the folder knows what runs. */
interface Running {
  launcher: number;
  children: { name: string; pid: number }[];
  ports: Record<string, string>;
}

function secretIn(data: string): string {
  // Several machines on one database share the secret that sessions and tickets are signed with.
  if (process.env.WINGMAN_SECRET) return process.env.WINGMAN_SECRET;
  const file = join(data, 'secret');
  if (!existsSync(file))
    writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}

/** What runs on this folder already. A launcher that was killed leaves its processes playing; one that lives keeps its folder. */
function leftBehind(file: string, data: string): Running | null {
  if (!existsSync(file)) return null;
  let running: Partial<Running>;
  try {
    running = JSON.parse(readFileSync(file, 'utf8')) as Partial<Running>;
  } catch {
    return null;
  }
  const { launcher = 0, children = [], ports = {} } = running;
  if (launcher !== process.pid && isOurs(launcher, data))
    throw new Error(
      `Wingman is running on ${data} already (process ${launcher}). Give another folder with --data, or stop that one first.`,
    );
  const named = children.map((c: Running['children'][number] | number) =>
    typeof c === 'number' ? { name: 'player', pid: c } : c,
  );
  const left = named.filter(({ pid }) => isOurs(pid, data));
  return left.length > 0 ? { launcher, children: left, ports } : null;
}

/** Written down whole or not at all: whoever reads it, or takes over from a launcher that was killed here, finds one or the other. */
function writeRunning(file: string, running: Running): void {
  try {
    writeFileSync(`${file}.part`, JSON.stringify(running));
    renameSync(`${file}.part`, file);
  } catch {
    // A full disk: the next launcher finds less to take over, and nothing else is amiss.
  }
}

/** Starts one of the built processes, with a log of its own. */
type Launch = (name: string, file: string, more?: Record<string, string>) => ChildProcess;

const launcherIn =
  (root: string, data: string, env: NodeJS.ProcessEnv): Launch =>
  (name, file, more = {}) => {
    const out = logFile(data, name);
    // A player says at its end what could not be kept.
    const stdio: StdioOptions =
      file === 'player' ? ['ignore', out, out, 'ipc'] : ['ignore', out, out];
    return spawn(process.execPath, ['--enable-source-maps', join(root, '.build', `${file}.mjs`)], {
      cwd: root,
      env: { ...env, ...more },
      stdio,
      detached: true,
    });
  };

/** A player on its own port. @param says told what it could not keep when it ended, in a sentence */
function playerSpec(
  name: (typeof PLAYERS)[number],
  ports: Readonly<Record<string, string>>,
  launch: Launch,
  says: (text: string) => void,
): Spec {
  const own = ports[name === 'player' ? 'WINGMAN_PLAYER_PORT' : 'WINGMAN_STANDBY_PORT'] ?? '';
  return {
    name,
    start: () =>
      launch(name, 'player', { WINGMAN_PLAYER_PORT: own }).on('message', (text) =>
        says(text as string),
      ),
    answers: () => answers(`http://127.0.0.1:${own}/health`),
  };
}

/** A file to append to; on a full disk there may be none, and nothing is written down. */
function logFile(data: string, name: string): number | 'ignore' {
  try {
    return openSync(join(data, 'logs', `${name}.log`), 'a');
  } catch {
    return 'ignore';
  }
}

/** Opens a house: its database, its processes, and what looks after them. */
export async function startInstance(
  root: string,
  options: Options,
  { demo, quiet }: { demo: boolean; quiet?: boolean },
): Promise<Instance> {
  const { data, host, port } = options;
  mkdirSync(data, { recursive: true, mode: 0o711 });
  mkdirSync(join(data, 'logs'), { recursive: true });
  const runningFile = join(data, 'running.json');
  const left = leftBehind(runningFile, data);
  const leftPids = (name: string): number[] =>
    left?.children.filter((c) => c.name === name).map((c) => c.pid) ?? [];
  if (left) console.log('Taking over what a killed Wingman left running …');
  // The page is ours again in a moment; players play on until others have taken over from them.
  for (const name of ['keeper', 'web', 'node'])
    for (const pid of leftPids(name)) await end(pid, 'SIGTERM', STOP_PATIENCE_MS);
  const held = await holdPort(port, host);
  if (!held) throw new Error(`Port ${port} on ${host} is taken. Give another with --port.`);
  process.env.WINGMAN_DATA = data;

  // Packages and pages take minutes on a fresh machine; a failure there ends the launcher, and the port with it.
  const bin = options.databaseUrl ? undefined : ensurePostgres();
  await ensureBuilt(root);
  const cluster: Cluster | undefined = bin
    ? await prepareCluster(bin, data, logFile(data, 'postgres'))
    : undefined;
  const databaseUrl = options.databaseUrl ?? cluster?.url ?? '';
  let ports: Record<string, string> = {};
  const supervisor: Supervisor = new Supervisor(
    () => remember(),
    (text) => console.log(text),
  );
  const players = left?.children.filter((c) => (PLAYERS as readonly string[]).includes(c.name));
  const remember = (): void => {
    const children = [...supervisor.pids(), ...(players ?? [])];
    writeRunning(runningFile, { launcher: process.pid, children, ports });
  };
  remember();
  const unsaved: string[] = [];
  let closeName = (): void => undefined;

  const stop = async (): Promise<string[]> => {
    supervisor.stopKeeping();
    closeName();
    for (const name of STOP_ORDER) await supervisor.stop(name, 'SIGTERM', STOP_PATIENCE_MS);
    // Fast shutdown: sessions end, the data is flushed.
    await supervisor.stop('database', 'SIGINT', DATABASE_STOP_MS);
    rmSync(runningFile, { force: true });
    return unsaved;
  };

  try {
    if (cluster) await serve(cluster, supervisor);
    const secret = secretIn(data);
    const reached = await reach(options);
    const { url, own } = reached;
    closeName = reached.close;
    const seeded = await prepare(databaseUrl, { secret, url, demo, loopback: isLoopback(host) });
    ports = await choosePorts(left?.ports ?? {});
    const env: NodeJS.ProcessEnv = {
      ...process.env,
      ...ports,
      NODE_ENV: 'production',
      NEXT_TELEMETRY_DISABLED: '1',
      DATABASE_URL: databaseUrl,
      WINGMAN_ROOT: root,
      WINGMAN_DATA: data,
      WINGMAN_PORT: String(port),
      WINGMAN_HOST: host,
      WINGMAN_URL: url,
      WINGMAN_SECRET: secret,
      WINGMAN_DEMO: demo && isLoopback(host) ? 'offered' : 'none',
    };
    const launch = launcherIn(root, data, env);
    const player = (name: (typeof PLAYERS)[number]): Spec =>
      playerSpec(name, ports, launch, (text) => unsaved.push(text));
    supervisor.keep({
      name: 'node',
      start: () => launch('node', 'node'),
      answers: () => answers(`http://127.0.0.1:${ports.WINGMAN_SIM_PORT}/`),
    });
    supervisor.keep(player('player'));
    if (left) await handOver(databaseUrl, [...leftPids('player'), ...leftPids('standby')]);
    await held.release();
    supervisor.keep({
      name: 'web',
      // The key is told to whoever needs it, and to nobody else.
      start: () => launch('web', 'web', tlsOf(reached)),
      answers: () => answers(`http://${own}/alive`),
    });
    await untilReady(reached, join(data, 'logs', 'web.log'));
    // Only now: copies can wait for the light, and so can the second player, as the first is on air.
    supervisor.keep({ name: 'keeper', start: () => launch('keeper', 'keeper') });
    if (options.standby) supervisor.keep(player('standby'));
    if (!quiet) {
      tellAccounts(seeded);
      await tellNetwork(reached);
    }
    return { url, data, databaseUrl, secret, playerPort: Number(ports.WINGMAN_PLAYER_PORT), stop };
  } catch (error) {
    await held.release();
    await stop();
    throw error;
  }
}

/** Keeps the database running: the one that a killed launcher left, or one of our own. */
async function serve(cluster: Cluster, supervisor: Supervisor): Promise<void> {
  let deaths = 0;
  const spec: Spec = {
    name: 'database',
    start: () => cluster.start().on('exit', () => deaths++),
    answers: () => answersNow(cluster.url),
  };
  const runs = runningServer(cluster.folder);
  if (runs) supervisor.adopt(spec, runs.pid);
  else supervisor.keep(spec);
  await untilServing(cluster.url, () => deaths > 3);
}

/** Ports of everything, the ones from before where something still counts on them. */
async function choosePorts(
  before: Readonly<Record<string, string>>,
): Promise<Record<string, string>> {
  const wanted = (name: string, standard: number): number =>
    Number(before[name] ?? process.env[name] ?? standard);
  const oscWanted = Number(process.env.WINGMAN_OSC_PORT ?? 9440);
  const sacn = await udpPort(wanted('WINGMAN_SACN_PORT', SACN_PORT), 'sACN at the simulated node');
  const artnet = await udpPort(
    wanted('WINGMAN_ARTNET_PORT', ARTNET_PORT),
    'Art-Net at the simulated node',
  );
  // A player that still plays hears remote controls there; the next one takes the port from it.
  const osc = before.WINGMAN_OSC_PORT
    ? Number(before.WINGMAN_OSC_PORT)
    : await udpPort(oscWanted, 'OSC from remote controls');
  const peer = await udpPort(
    Math.max(osc + 1, wanted('WINGMAN_PEER_PORT', 9441)),
    'OSC at the simulated peer',
  );
  const midi = await udpPort(
    Math.max(peer + 1, wanted('WINGMAN_MIDI_PORT', 9442)),
    'MIDI at the simulated port',
  );
  const midiIn = await udpPort(
    Math.max(midi + 1, wanted('WINGMAN_MIDI_IN_PORT', 9443)),
    'MIDI of the simulated device',
  );
  const ports = {
    WINGMAN_SACN_PORT: sacn,
    WINGMAN_ARTNET_PORT: artnet,
    WINGMAN_OSC_PORT: osc,
    WINGMAN_OSC_WANTED: oscWanted,
    WINGMAN_PEER_PORT: peer,
    WINGMAN_MIDI_PORT: midi,
    WINGMAN_MIDI_IN_PORT: midiIn,
    WINGMAN_SIM_PORT: await freePort(),
    WINGMAN_PLAYER_PORT: await freePort(),
    WINGMAN_STANDBY_PORT: await freePort(),
  };
  return Object.fromEntries(Object.entries(ports).map(([name, value]) => [name, String(value)]));
}

/**
 * A new player waits for the output; then those that a killed launcher left end, without a word to the lights, and the
 * new one goes on from where they were. The streams do not end (failures.test.ts).
 */
async function handOver(databaseUrl: string, old: readonly number[]): Promise<void> {
  if (old.length === 0) return;
  const { db } = connect(databaseUrl, 1);
  try {
    const others = Math.max(0, old.length - 1);
    for (
      const until = Date.now() + WAITING_PATIENCE_MS;
      Date.now() < until && (await waitingPlayers(db).catch(() => 0)) <= others;
    )
      await new Promise((resolve) => setTimeout(resolve, 50));
    // Those that wait first: none of them is to take over in passing.
    const onAir = await playerOnAir(db).catch(() => null);
    const asks = old.map((pid) => ({
      pid,
      waits:
        onAir === null ||
        !environOf(pid).includes(`WINGMAN_PLAYER_PORT=${onAir.address.split(':').at(-1)}\0`),
    }));
    for (const { pid } of asks.sort((a, b) => Number(b.waits) - Number(a.waits)))
      signal(pid, 'SIGKILL');
  } finally {
    await db.destroy();
  }
}

async function prepare(
  databaseUrl: string,
  o: { secret: string; url: string; demo: boolean; loopback: boolean },
): Promise<SeededAccounts> {
  const { db } = connect(databaseUrl, 4);
  try {
    await migrate(db);
    const no = await whyNotJoin(db);
    if (no) throw new Unreachable(no);
    const auth = makeAuth(db, { secret: o.secret, baseURL: o.url });
    const accounts = await seedAccounts(auth, db, { demo: o.demo, known: o.loopback });
    const guarded =
      accounts.shown.length > 0 ? accounts : await guardDemoAccounts(auth, db, !o.loopback);
    if (o.demo) await seedDemo(db);
    return guarded;
  } catch (error) {
    throw error instanceof Unreachable
      ? error
      : new Error(`The database could not be prepared: ${(error as Error).message}`, {
          cause: error,
        });
  } finally {
    await db.destroy().catch(() => undefined);
  }
}

class Unreachable extends Error {}

function tellAccounts(accounts: SeededAccounts): void {
  if (accounts.shown.length === 0) return;
  console.log('Passwords made just now; they are shown this once:');
  for (const a of accounts.shown) console.log(`  ${a.email}  ${a.password}`);
}

/** The last line of a log; empty where there is none. */
function lastLine(file: string): string {
  try {
    return readFileSync(file, 'utf8').trimEnd().split('\n').at(-1) ?? '';
  } catch {
    return '';
  }
}

/** @throws Error with what the page wrote down last */
async function untilReady({ own, certificate }: Reached, webLog: string): Promise<void> {
  const until = Date.now() + READY_PATIENCE_MS;
  await backOff(
    async () => {
      const status = await statusAt(`${certificate ? 'https' : 'http'}://${own}/api/health`);
      if (status !== 200) throw new Error(`Wingman answers ${status}.`);
    },
    {
      startingDelay: READY_LOOK_MS,
      maxDelay: READY_LOOK_MS,
      numOfAttempts: Infinity,
      retry: () => Date.now() <= until,
    },
  ).catch((error: unknown) => {
    const last = lastLine(webLog);
    throw new Error(
      `Wingman does not answer; logs/web.log and logs/player.log in the data folder say why.${last && ` The page said last: ${last}`}`,
      { cause: error },
    );
  });
}
