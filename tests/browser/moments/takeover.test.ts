/** Two web processes and two players against one database: one player is on air; real kills; the node records what it received. */
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { freePort, openHouse, Script, until, type House } from '../wingman';

jest.setTimeout(240_000);
const ROOT = resolve(__dirname, '../../..');
let house: House;
let owner: Script;
let second: Script;
let show = '';
const children: ChildProcess[] = [];

interface Health {
  web: { pid: number };
  player: { pid: number; onAir: boolean } | null;
}
interface Stage {
  fixtures: Record<string, Record<string, { level: number }>>;
  lists: { cue: string; elapsed_s: number; total_s: number }[];
}
interface Line {
  protocol: string;
  universe: number;
  packets: number;
  outOfOrder: number;
  sequence: number;
  state: string;
  source: string;
  slots: number[];
}
const health = async (who = owner): Promise<Health> => (await who.ask('/api/health')).json;
const stage = async (who = owner): Promise<Stage> =>
  (await who.ask(`/api/shows/${show}/stage`)).json;
const live = (command: unknown, who = owner) => who.ask(`/api/shows/${show}/live`, command);
const node = async (): Promise<Line[]> =>
  ((await owner.ask('/api/sim/node')).json as { universes: Line[] }).universes.filter(
    (u) => u.protocol === 'sacn',
  );
const alive = (pid: number): boolean => existsSync(`/proc/${pid}`);

/** Another process of the house, with the environment of its own kind: same database, secret and node, another port. */
function join_(name: 'player' | 'web', pid: number, change: Record<string, string>): ChildProcess {
  const env = Object.fromEntries(
    readFileSync(`/proc/${pid}/environ`, 'utf8')
      .split('\0')
      .filter(Boolean)
      .map((line): [string, string] => [
        line.slice(0, line.indexOf('=')),
        line.slice(line.indexOf('=') + 1),
      ]),
  );
  const child = spawn(process.execPath, [join(ROOT, '.build', `${name}.mjs`)], {
    cwd: ROOT,
    env: { ...env, ...change } as unknown as NodeJS.ProcessEnv,
    stdio: 'ignore',
  });
  children.push(child);
  return child;
}

beforeAll(async () => {
  // Here the players come and go by hand.
  house = await openHouse(undefined, 'demo', ['--no-standby']);
  owner = await new Script(house).signIn('owner');
  show = await owner.showId('The Night Ferry');
  const first = await health();
  const webPort = await freePort();
  join_('web', first.web.pid, {
    WINGMAN_PORT: String(webPort),
    WINGMAN_URL: `http://127.0.0.1:${webPort}`,
  });
  const url = `http://127.0.0.1:${webPort}`;
  await until(
    () =>
      fetch(`${url}/api/health`).then(
        (r) => r.ok,
        () => false,
      ),
    30_000,
  );
  second = await new Script({ ...house, url }).signIn('programmer');
});
afterAll(async () => {
  for (const child of children) child.kill('SIGKILL');
  await house?.stop();
});

test('edits through either web process arrive in both', async () => {
  interface Cues {
    tables: { cues: { id: string; number: number; name: string }[] };
  }
  const cues = async (who: Script): Promise<Cues['tables']['cues']> =>
    ((await who.ask(`/api/shows/${show}`)).json as Cues).tables.cues;
  const id = (await cues(owner)).find((c) => c.number === 2000)?.id;
  const name = async (who: Script): Promise<string | undefined> =>
    (await cues(who)).find((c) => c.id === id)?.name;
  expect(
    (
      await owner.ask(`/api/shows/${show}/edits`, {
        edit: 'change-cue',
        params: { id, set: { name: 'Through the first' } },
      })
    ).status,
  ).toBe(200);
  expect(await name(second)).toBe('Through the first');
  expect(
    (
      await second.ask(`/api/shows/${show}/edits`, {
        edit: 'change-cue',
        params: { id, set: { name: 'Through the second' } },
      })
    ).status,
  ).toBe(200);
  expect(await name(owner)).toBe('Through the second');
});

test('both web processes reach the one player that is on air; a second player waits and sends nothing', async () => {
  const first = (await health()).player?.pid ?? 0;
  const port = await freePort();
  const waiting = join_('player', first, {
    WINGMAN_PLAYER_PORT: String(port),
    WINGMAN_OSC_PORT: String(await freePort()),
  });
  await until(() =>
    fetch(`http://127.0.0.1:${port}/health`).then(
      (r) => r.ok,
      () => false,
    ),
  );
  expect(
    ((await (await fetch(`http://127.0.0.1:${port}/health`)).json()) as { onAir: boolean }).onAir,
  ).toBe(false);
  for (const who of [owner, second]) expect((await health(who)).player?.pid).toBe(first);
  const refused = await fetch(`http://127.0.0.1:${port}/stage`);
  expect([
    refused.status,
    ((await refused.json()) as { error: { code: string } }).error.code,
  ]).toEqual([503, 'standby']);
  expect(waiting.exitCode).toBeNull();
});

test('the player on air killed in the middle of a fade: the other goes on, in the same cue, with the same levels, and receivers throw nothing away', async () => {
  expect((await live({ command: 'board', do: 'take' })).status).toBe(200);
  await live({ command: 'goto', cue: '18', time: 0 });
  await live({ command: 'set', fixtures: [31], attribute: 'Dimmer', level: 0.42 });
  await live({ command: 'go' });
  await new Promise((done) => setTimeout(done, 2500));
  const before = await stage();
  const first = (await health()).player?.pid ?? 0;
  // Here a player that began to count anew would be thrown away: E1.31 clause 6.7.2.
  const inTheWindow = (u: Line): boolean => u.sequence >= 4 && u.sequence <= 14;
  await until(async () => (await node()).filter((u) => u.packets > 100).some(inTheWindow));
  process.kill(first, 'SIGKILL');
  const packets = (await node()).map((u) => u.packets);
  await until(async () => (await node()).every((u, i) => u.packets > (packets[i] ?? 0) + 2));
  const after = await stage(second);
  expect((await health()).player?.pid).not.toBe(first);
  expect(after.lists[0]?.cue).toBe('19');
  expect(after.fixtures[31]?.Dimmer?.level).toBeCloseTo(0.42, 3);
  // The fade goes on from where it was saved, and does not begin again.
  expect(before.lists[0]?.elapsed_s).toBeGreaterThan(1);
  expect(after.lists[0]?.elapsed_s).toBeGreaterThan(1);
  for (const line of await node())
    expect({
      universe: line.universe,
      outOfOrder: line.outOfOrder,
      state: line.state,
      source: line.source,
    }).toMatchObject({ outOfOrder: 0, state: 'receiving', source: 'Wingman' });
});

test('who was on the board is on it still, and screens of both processes go on', async () => {
  expect((await live({ command: 'go' }, second)).json).toMatchObject({
    error: { code: 'board', message: expect.stringContaining('Yrsa Oddny') },
  });
  expect((await live({ command: 'go' })).status).toBe(200);
  expect((await stage()).lists[0]?.cue).toBe('20');
});

test('the first player comes back, waits, and has the output again only when it is told', async () => {
  const serving = (await health()).player?.pid ?? 0;
  // The supervisor has started it again; it stands by.
  await new Promise((done) => setTimeout(done, 3000));
  expect((await health()).player?.pid).toBe(serving);
  expect((await second.ask('/api/players/hand-over', {})).status).toBe(403);
  const before = await stage();
  expect((await owner.ask('/api/players/hand-over', {})).status).toBe(200);
  await until(async () => {
    const now = (await health()).player;
    return (
      now !== null &&
      now.pid !== serving &&
      now.onAir &&
      (await owner.ask(`/api/shows/${show}/stage`)).status === 200
    );
  });
  await until(() => !alive(serving));
  const after = await stage();
  expect(after.lists[0]?.cue).toBe(before.lists[0]?.cue);
  expect(after.fixtures[31]?.Dimmer?.level).toBeCloseTo(0.42, 3);
  for (const line of await node())
    expect({ outOfOrder: line.outOfOrder, state: line.state }).toEqual({
      outOfOrder: 0,
      state: 'receiving',
    });
  // Alone again, it has nobody to hand over to.
  expect((await owner.ask('/api/players/hand-over', {})).json).toMatchObject({
    error: { code: 'nothing' },
  });
});
