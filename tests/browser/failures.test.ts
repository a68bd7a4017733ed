/** Real kills, bad input, two houses side by side, and a clean stop. */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { WebSocket } from 'ws';
import { openHouse, Screen, Script, until, type House } from './wingman';

jest.setTimeout(240_000);
let house: House;
let owner: Script;
let show = '';

interface Health {
  web: { pid: number };
  player: { pid: number } | null;
}
interface Stage {
  fixtures: Record<string, Record<string, { level: number; source: string }>>;
  lists: { cue: string; elapsed_s: number }[];
}
const health = async (): Promise<Health> => (await owner.ask('/api/health')).json;
const stage = async (): Promise<Stage> => (await owner.ask(`/api/shows/${show}/stage`)).json;
const live = (command: unknown) => owner.ask(`/api/shows/${show}/live`, command);
const edit = (name: string, params: unknown, who = owner) => who.ask(`/api/shows/${show}/edits`, { edit: name, params });
interface Node {
  universes: { protocol: string; universe: number; packets: number; largestGap_ms: number; state: string; slots: number[]; lastPacket_ms: number }[];
}
const node = async (): Promise<Node> => (await owner.ask('/api/sim/node')).json;

beforeAll(async () => {
  house = await openHouse();
  owner = await new Script(house).signIn('owner');
  show = ((await owner.ask('/api/shows')).json as { shows: { id: string; name: string }[] }).shows.find((s) => s.name === 'The Night Ferry')?.id ?? '';
});
afterAll(async () => {
  await Screen.closeAll();
  await house?.stop();
});

test('the player killed in the middle of a cue is back by itself, in the same cue with the same levels', async () => {
  const screen = await Screen.open(house, 'owner');
  await screen.openShow('The Night Ferry');
  await screen.command('goto 18 time 0');
  await screen.command('31 at 42');
  await screen.command('111 pan at 30 time 60');
  await screen.command('go');
  await screen.says('[data-testid=current-cue]', 'First grey');
  await new Promise((done) => setTimeout(done, 2500));
  const pid = (await health()).player?.pid ?? 0;
  const before = await stage();
  process.kill(pid, 'SIGKILL');
  await screen.says('footer', 'Not connected');
  await until(async () => {
    const now = (await health()).player;
    return now !== null && now.pid !== pid && (await owner.ask(`/api/shows/${show}/stage`)).status === 200;
  });
  const after = await stage();
  expect(after.lists[0]?.cue).toBe('19');
  expect(after.fixtures[31]?.Dimmer).toEqual({ level: expect.closeTo(0.42, 3), source: 'programmer of Yrsa Oddny' });
  for (const [number, attributes] of Object.entries(before.fixtures)) {
    for (const [attribute, { level }] of Object.entries(attributes)) {
      // A 25 s fade moves 4 % a second: within one second of where it was.
      expect([number, attribute, Math.abs((after.fixtures[number]?.[attribute]?.level ?? NaN) - level) < 0.06]).toEqual([number, attribute, true]);
    }
  }
  await screen.says('[data-testid=current-cue]', 'First grey');
  await screen.says('[data-testid=programmer-count]', '2 values');
  await until(async () => (await node()).universes.every((u) => u.state === 'receiving'));
  await screen.close();
});

test('the web process killed: the stage stays lit, nothing is lost, screens come back by themselves', async () => {
  const screen = await Screen.open(house, 'owner');
  await screen.openShow('The Night Ferry');
  await screen.command('21 at 77');
  const before = await health();
  const packets = (await node()).universes.find((u) => u.protocol === 'sacn' && u.universe === 1)?.packets ?? 0;
  await screen.typed('1 thru 4 at');
  process.kill(before.web.pid, 'SIGKILL');
  await screen.says('footer', 'Not connected');
  await until(async () => owner.ask('/api/health').then((r) => r.status === 200, () => false));
  const after = await health();
  expect(after.web.pid).not.toBe(before.web.pid);
  expect(after.player?.pid).toBe(before.player?.pid);
  const universe = (await node()).universes.find((u) => u.protocol === 'sacn' && u.universe === 1);
  expect(universe?.packets).toBeGreaterThan(packets);
  expect(universe?.slots[20]).toBe(Math.round(0.77 * 255));
  await screen.says('[data-testid=says]', 'level is missing');
  expect(await (await screen.find('#command')).getAttribute('value')).toBe('1 thru 4 at');
  await screen.close();
});

describe('bad input gets a clear sentence and a 4xx, and changes nothing', () => {
  const seq = async (): Promise<number> => ((await owner.ask(`/api/shows/${show}`)).json as { seq: number }).seq;

  test.each([
    ['a clash of addresses', 'patch-fixtures', { typeId: 'generic-dimmer', mode: '8 bit', quantity: 1, first: 500, universe: 1, address: 1 }, 409, 'clash'],
    ['an overflow', 'patch-fixtures', { typeId: 'generic-rgb', mode: 'RGB', quantity: 1, first: 500, universe: 4, address: 511 }, 400, 'overflow'],
    ['a name of 10,000 characters', 'change-show', { set: { name: 'x'.repeat(10_000) } }, 400, 'invalid'],
    ['a cue number 2.5.5', 'record-cue', { listId: 'main', number: '2.5.5', values: [] }, 400, 'invalid'],
    ['an edit on a deleted cue', 'change-cue', { id: 'gone', set: { name: 'Late' } }, 404, 'not-found'],
    ['an edit that does not exist', 'make-coffee', {}, 400, 'unknown-edit'],
  ])('%s', async (_what, name, params, status, code) => {
    const before = await seq();
    const answer = await edit(name, params);
    expect(answer).toMatchObject({ status, json: { error: { code, message: expect.stringMatching(/\w+ \w+/) } } });
    expect(await seq()).toBe(before);
  });

  test('a name with markup is shown as text', async () => {
    await edit('change-cue', { id: ((await owner.ask(`/api/shows/${show}`)).json as { tables: { cues: { id: string; number: number }[] } }).tables.cues.find((c) => c.number === 19_000)?.id, set: { note: '<img src=x onerror=alert(1)>' } });
    const screen = await Screen.open(house, 'owner');
    await screen.openShow('The Night Ferry');
    await screen.place('book');
    await (await screen.find('[data-sheet-cue="19"]')).click();
    await screen.tab('Cue');
    await until(async () => (await screen.count('[data-testid=cue-panel]')) === 1);
    expect(await screen.count('img[src=x]')).toBe(0);
    await screen.close();
  });

  test('a level of 300, a fixture that is not there, not JSON', async () => {
    expect(await live({ command: 'set', fixtures: [1], attribute: 'Dimmer', level: 300 })).toMatchObject({ status: 400, json: { error: { code: 'invalid', fields: { level: expect.stringContaining('100 %') } } } });
    expect(await live({ command: 'set', fixtures: [4321], attribute: 'Dimmer', level: 1 })).toMatchObject({ status: 404 });
    expect(await live('{not json')).toMatchObject({ status: 400, json: { error: { code: 'invalid' } } });
    expect(await live({ command: 'type', text: '1 thru at full' })).toMatchObject({ status: 400, json: { error: { message: expect.stringContaining('needs a last number') } } });
  });

  test('a body of 20 MB', async () => {
    const answer = await edit('change-show', { set: { note: 'x'.repeat(20 * 1024 * 1024) } });
    expect(answer).toMatchObject({ status: 413, json: { error: { code: 'too-large' } } });
  });

  test('a page of another site, a stranger, another’s show', async () => {
    expect(await owner.ask(`/api/shows/${show}/live`, { command: 'go' }, { headers: { origin: 'http://elsewhere.example' } })).toMatchObject({ status: 403, json: { error: { code: 'origin' } } });
    const stranger = new Script(house);
    expect((await stranger.ask('/api/shows')).status).toBe(401);
    const mine = (await owner.ask('/api/shows', { name: 'Private' })).json as { id: string };
    const other = await new Script(house).signIn('programmer');
    expect((await other.ask(`/api/shows/${mine.id}`)).status).toBe(404);
    expect((await other.ask(`/api/shows/${mine.id}/live`, { command: 'go' })).status).toBe(404);
  });

  test('a socket message that is not JSON is answered; the socket stays usable', async () => {
    const { ticket } = (await owner.ask(`/api/shows/${show}/ticket`, {})).json as { ticket: string };
    const url = `${house.url.replace('http', 'ws')}/live?ticket=${ticket}`;
    const socket = new WebSocket(url);
    const heard: { type: string; ok?: boolean; code?: string; id?: number | null }[] = [];
    socket.on('message', (data, binary) => !binary && heard.push(JSON.parse(String(data)) as never));
    await new Promise((done) => socket.on('open', done));
    socket.send('{this is not JSON');
    socket.send(JSON.stringify({ type: 'command', id: 5, command: { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 9 } }));
    socket.send(JSON.stringify({ type: 'command', id: 6, command: { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.5 } }));
    await until(() => heard.some((m) => m.id === 6));
    expect(heard.filter((m) => m.type === 'reply').map((m) => [m.id, m.ok])).toEqual([[null, false], [5, false], [6, true]]);
    socket.close();
    const refused = await new Promise<string>((done) => new WebSocket(url, { origin: 'http://elsewhere.example' }).on('error', (e) => done(e.message)));
    expect(refused).toContain('403');
    const forged = await new Promise<string>((done) => new WebSocket(`${house.url.replace('http', 'ws')}/live?ticket=x.y`).on('error', (e) => done(e.message)));
    expect(forged).toContain('401');
  });
});

test('two houses run side by side; Ctrl-C leaves no process behind, and what was made is there at the next start', async () => {
  const second = await openHouse();
  expect(second.said()).toMatch(/is taken; using/);
  const script = await new Script(second).signIn('owner');
  await script.ask('/api/shows', { name: 'Kept over night' });
  const running = JSON.parse(readFileSync(join(second.data, 'running.json'), 'utf8')) as { launcher: number; children: number[] };
  expect(running.children.length).toBe(5);
  expect(await second.stop()).toBe(0);
  for (const pid of [running.launcher, ...running.children]) expect(existsSync(`/proc/${pid}`)).toBe(false);
  expect((await health()).player).not.toBeNull();

  const again = await openHouse(second.data);
  const later = await new Script(again).signIn('owner');
  expect(((await later.ask('/api/shows')).json as { shows: { name: string }[] }).shows.map((s) => s.name)).toContain('Kept over night');
  await again.stop();
});

test('without demo data there is one account with a password of its own, and the sign-in page offers nobody', async () => {
  const empty = await openHouse(undefined, 'start');
  expect(empty.said()).toMatch(/owner@wingman\.example {2}\S{12,}/);
  expect(await (await fetch(`${empty.url}/sign-in`)).text()).not.toContain('tidewater');
  await empty.stop();
});
