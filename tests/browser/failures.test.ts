/** Real kills, bad input, two houses side by side, and a clean stop. */
import { createSocket, type Socket } from 'node:dgram';
import { readFileSync } from 'node:fs';
import { request as secureRequest } from 'node:https';
import { join } from 'node:path';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { readSacn } from '@/core/output/sacn';
import { SACN_PORT } from '@/core/output/bytes';
import { isAlive } from '../../src/launcher/processes.ts';
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
const edit = (name: string, params: unknown, who = owner) =>
  who.ask(`/api/shows/${show}/edits`, { edit: name, params });
interface Node {
  universes: {
    protocol: string;
    universe: number;
    packets: number;
    largestGap_ms: number;
    state: string;
    slots: number[];
    lastPacket_ms: number;
  }[];
}
interface Running {
  launcher: number;
  children: { name: string; pid: number }[];
}
const running = (of = house): Running =>
  JSON.parse(readFileSync(join(of.data, 'running.json'), 'utf8')) as Running;
const pidOf = (name: string): number => running().children.find((c) => c.name === name)?.pid ?? 0;
/** Packets of one universe, as the node counts them. */
const packetsOf = async (universe = 1): Promise<number> =>
  (await node()).universes.find((u) => u.protocol === 'sacn' && u.universe === universe)?.packets ??
  0;
const node = async (): Promise<Node> => (await owner.ask('/api/sim/node')).json;

interface Lamp {
  packets: () => number;
  /** Packets that said that the stream ends. */
  ended: () => number;
  close: () => void;
}
/** A real receiver on the standard's port at an address of its own, with a route to it. */
async function listenTo(universe: number, who = owner, of = show): Promise<Lamp> {
  const address = `127.${20 + Math.floor(Math.random() * 200)}.${Math.floor(Math.random() * 250)}.7`;
  let [packets, ended] = [0, 0];
  const receiver = createSocket({ type: 'udp4', reuseAddr: true });
  receiver.on('message', (packet) => {
    const data = readSacn(new Uint8Array(packet));
    if (data?.universe !== universe) return;
    packets++;
    if (data.terminated) ended++;
  });
  await new Promise<void>((done) => receiver.bind(SACN_PORT, address, done));
  expect(
    (
      await who.ask(`/api/shows/${of}/edits`, {
        edit: 'set-route',
        params: {
          set: {
            universe,
            protocol: 'sacn',
            destination: address,
            wire: universe,
            priority: 100,
            on: true,
          },
        },
      })
    ).status,
  ).toBe(200);
  return { packets: () => packets, ended: () => ended, close: () => receiver.close() };
}

beforeAll(async () => {
  house = await openHouse();
  owner = await new Script(house).signIn('owner');
  show = await owner.showId('The Night Ferry');
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
  await live({ command: 'park', fixtures: [32], attribute: 'Dimmer', level: 0.66, on: true });
  await screen.command('go');
  await screen.says('[data-testid=current-cue]', 'First grey');
  await new Promise((done) => setTimeout(done, 2500));
  const pid = (await health()).player?.pid ?? 0;
  const before = await stage();
  process.kill(pid, 'SIGKILL');
  await screen.says('footer', 'Not connected');
  await until(async () => {
    const now = (await health()).player;
    return (
      now !== null &&
      now.pid !== pid &&
      (await owner.ask(`/api/shows/${show}/stage`)).status === 200
    );
  });
  // The very first answer has all of it: list, held values, parked ones, the master.
  const after = await stage();
  expect(after.lists[0]?.cue).toBe('19');
  expect(after.fixtures[32]?.Dimmer).toMatchObject({
    level: expect.closeTo(0.66, 3),
    source: expect.stringContaining('park'),
  });
  expect(after.fixtures[31]?.Dimmer).toEqual({
    level: expect.closeTo(0.42, 3),
    source: 'programmer of Yrsa Oddny',
  });
  for (const [number, attributes] of Object.entries(before.fixtures)) {
    for (const [attribute, { level }] of Object.entries(attributes)) {
      // A 25 s fade moves 4 % a second: within one second of where it was.
      expect([
        number,
        attribute,
        Math.abs((after.fixtures[number]?.[attribute]?.level ?? NaN) - level) < 0.06,
      ]).toEqual([number, attribute, true]);
    }
  }
  await screen.says('[data-testid=current-cue]', 'First grey');
  await screen.says('[data-testid=programmer-count]', '2 values');
  await until(async () => (await node()).universes.every((u) => u.state === 'receiving'));
  await screen.close();
});

test('the database killed: playing goes on, edits and sign-ins are refused in the documented sentence, and it is back by itself', async () => {
  const before = {
    players: await health(),
    packets: await packetsOf(),
    database: pidOf('database'),
  };
  process.kill(before.database, 'SIGKILL');
  // Asked at once, and until it is back: refused in words, or carried out; nothing else.
  let refused = 0;
  let asked = 0;
  await until(async () => {
    const [answer, signIn] = await Promise.all([
      edit('change-show', { set: { note: `note ${asked++}` } }),
      fetch(`${house.url}/api/auth/sign-in/email`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ email: 'viewer@tidewater.example', password: 'tidewater' }),
      }),
    ]);
    for (const [status, message] of [
      [answer.status, (answer.json as { error?: { message: string } } | null)?.error?.message],
      [signIn.status, ((await signIn.json()) as { error?: { message: string } }).error?.message],
    ] as const) {
      expect([200, 503]).toContain(status);
      if (status === 503)
        expect(message).toMatch(
          /^The (database cannot be reached right now|connection to the database was lost)/,
        );
      if (status === 503) refused++;
    }
    return pidOf('database') !== before.database && answer.status === 200 && signIn.status === 200;
  }, 20_000);
  expect(refused).toBeGreaterThan(0);
  const after = await health();
  expect([after.web.pid, after.player?.pid]).toEqual([
    before.players.web.pid,
    before.players.player?.pid,
  ]);
  expect(await packetsOf()).toBeGreaterThan(before.packets);
});

test('a player that begins while the database is away waits for it', async () => {
  const playing = (await health()).player?.pid;
  const waits = running().children.find(
    ({ name, pid }) => ['player', 'standby'].includes(name) && pid !== playing,
  );
  const endDatabase = (): void => {
    const pid = pidOf('database');
    if (pid > 0 && isAlive(pid)) process.kill(pid, 'SIGKILL');
  };
  endDatabase();
  if (waits) process.kill(waits.pid, 'SIGKILL');
  const begun = (): number => pidOf(waits?.name ?? '');
  await until(() => ![0, waits?.pid].includes(begun()));
  const first = begun();
  // It is away for as long as a player takes to begin.
  for (const end = Date.now() + 3000; Date.now() < end;) {
    endDatabase();
    await new Promise((done) => setTimeout(done, 50));
  }
  await until(
    async () => (await edit('change-show', { set: { note: `back ${Date.now()}` } })).status === 200,
  );
  await new Promise((done) => setTimeout(done, 3000));
  expect([begun(), isAlive(first), (await health()).player?.pid]).toEqual([first, true, playing]);
});

test('connections that are lost under everybody end no process', async () => {
  const before = running();
  const backends = (): number[] =>
    readFileSync(`/proc/${pidOf('database')}/task/${pidOf('database')}/children`, 'utf8')
      .trim()
      .split(' ')
      .map(Number)
      .filter((pid) => {
        try {
          return /postgres: .* \S+ (idle|SELECT|UPDATE|INSERT|LISTEN)/.test(
            readFileSync(`/proc/${pid}/cmdline`, 'utf8'),
          );
        } catch {
          return false;
        }
      });
  let ended = 0;
  for (let round = 0; round < 8; round++) {
    for (const pid of backends()) {
      try {
        process.kill(pid, 'SIGTERM');
        ended++;
      } catch {
        // Gone already.
      }
    }
    const answer = await edit('change-show', { set: { note: `round ${round}` } });
    expect([200, 503]).toContain(answer.status);
    await new Promise((done) => setTimeout(done, 150));
  }
  expect(ended).toBeGreaterThan(20);
  await until(
    async () =>
      (await edit('change-show', { set: { note: `after ${Date.now()}` } })).status === 200,
  );
  expect(
    running()
      .children.filter((c) => c.name !== 'database')
      .sort((a, b) => a.pid - b.pid),
  ).toEqual(before.children.filter((c) => c.name !== 'database').sort((a, b) => a.pid - b.pid));
});

test('a player that hangs is noticed, ended and replaced; what plays goes on', async () => {
  await live({ command: 'goto', cue: '3', time: 0 });
  await new Promise((done) => setTimeout(done, 1500));
  const pid = (await health()).player?.pid ?? 0;
  process.kill(pid, 'SIGSTOP');
  await until(async () => ![0, pid].includes((await health()).player?.pid ?? 0));
  await until(() => !isAlive(pid));
  expect((await stage()).lists[0]?.cue).toBe('3');
  await until(async () =>
    (await node()).universes
      .filter((u) => u.protocol === 'sacn')
      .every((u) => u.state === 'receiving'),
  );
});

test('the launcher killed and started again: streams go on without an end, and the new one keeps what runs', async () => {
  const lamp = await listenTo(2);
  const old = running();
  await until(() => lamp.packets() > 5);
  process.kill(old.launcher, 'SIGKILL');
  await until(() => house.launcher.exitCode !== null || house.launcher.signalCode !== null);
  const alone = lamp.packets();
  await until(() => lamp.packets() > alone + 2);
  house = await openHouse(house.data, 'demo', ['--port', new URL(house.url).port]);
  owner = await new Script(house).signIn('owner');
  const back = lamp.packets();
  await until(
    async () =>
      lamp.packets() > back + 5 && (await owner.ask(`/api/shows/${show}/stage`)).status === 200,
  );
  expect(lamp.ended()).toBe(0);
  lamp.close();
  expect((await stage()).lists[0]?.cue).toBe('3');
  expect(running().launcher).not.toBe(old.launcher);
  for (const { name, pid } of old.children)
    if (!running().children.some((c) => c.pid === pid))
      await until(() => !isAlive(pid), 20_000).catch(() =>
        Promise.reject(new Error(`${name} of the old launcher is left over`)),
      );
});

test('the web process killed: the stage stays lit, nothing is lost, screens come back by themselves', async () => {
  const screen = await Screen.open(house, 'owner');
  await screen.openShow('The Night Ferry');
  await screen.command('21 at 77');
  const before = await health();
  const packets =
    (await node()).universes.find((u) => u.protocol === 'sacn' && u.universe === 1)?.packets ?? 0;
  await screen.typed('1 thru 4 at');
  process.kill(before.web.pid, 'SIGKILL');
  await screen.says('footer', 'Not connected');
  await until(async () =>
    owner.ask('/api/health').then(
      (r) => r.status === 200,
      () => false,
    ),
  );
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
  const seq = async (): Promise<number> =>
    ((await owner.ask(`/api/shows/${show}`)).json as { seq: number }).seq;

  test.each([
    [
      'a clash of addresses',
      'patch-fixtures',
      { typeId: 'generic-dimmer', mode: '8 bit', quantity: 1, first: 500, universe: 1, address: 1 },
      409,
      'clash',
    ],
    [
      'an overflow',
      'patch-fixtures',
      { typeId: 'generic-rgb', mode: 'RGB', quantity: 1, first: 500, universe: 4, address: 511 },
      400,
      'overflow',
    ],
    [
      'a name of 10,000 characters',
      'change-show',
      { set: { name: 'x'.repeat(10_000) } },
      400,
      'invalid',
    ],
    [
      'a cue number 2.5.5',
      'record-cue',
      { listId: 'main', number: '2.5.5', values: [] },
      400,
      'invalid',
    ],
    [
      'an edit on a deleted cue',
      'change-cue',
      { id: 'gone', set: { name: 'Late' } },
      404,
      'not-found',
    ],
    ['an edit that does not exist', 'make-coffee', {}, 400, 'unknown-edit'],
    ['a zero byte', 'change-show', { set: { name: 'The Night\u0000Ferry' } }, 400, 'invalid'],
    [
      'half a surrogate pair',
      'change-show',
      { set: { note: 'a bell \ud83d here' } },
      400,
      'invalid',
    ],
    [
      'half a surrogate pair as a key',
      'change-show',
      { set: { name: 'x', '\udc00': 1 } },
      400,
      'invalid',
    ],
    ['a name of 200 kB', 'make-list', { name: 'x'.repeat(200_000) }, 400, 'invalid'],
    [
      'a cue of a list whose name is 200 kB',
      'record-cue',
      { listId: 'x'.repeat(200_000), number: 1000, values: [] },
      400,
      'invalid',
    ],
  ])('%s', async (_what, name, params, status, code) => {
    const before = await seq();
    const answer = await edit(name, params);
    expect(answer).toMatchObject({
      status,
      json: { error: { code, message: expect.stringMatching(/\w+ \w+/) } },
    });
    expect(await seq()).toBe(before);
  });

  test('a name with markup is shown as text', async () => {
    await edit('change-cue', {
      id: (
        (await owner.ask(`/api/shows/${show}`)).json as {
          tables: { cues: { id: string; number: number }[] };
        }
      ).tables.cues.find((c) => c.number === 19_000)?.id,
      set: { note: '<img src=x onerror=alert(1)>' },
    });
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
    expect(
      await live({ command: 'set', fixtures: [1], attribute: 'Dimmer', level: 300 }),
    ).toMatchObject({
      status: 400,
      json: { error: { code: 'invalid', fields: { level: expect.stringContaining('100 %') } } },
    });
    expect(
      await live({ command: 'set', fixtures: [4321], attribute: 'Dimmer', level: 1 }),
    ).toMatchObject({ status: 404 });
    expect(await live('{not json')).toMatchObject({
      status: 400,
      json: { error: { code: 'invalid' } },
    });
    expect(await live({ command: 'type', text: '1 thru at full' })).toMatchObject({
      status: 400,
      json: { error: { message: expect.stringContaining('needs a last number') } },
    });
  });

  test('a body of 20 MB', async () => {
    const answer = await edit('change-show', { set: { note: 'x'.repeat(20 * 1024 * 1024) } });
    expect(answer).toMatchObject({ status: 413, json: { error: { code: 'too-large' } } });
  });

  test('zero bytes, broken characters and long names are 4xx everywhere else too', async () => {
    const odd = ['a\u0000b', '\ud800', 'x'.repeat(200_000)];
    for (const text of odd) {
      for (const [path, body, method] of [
        ['/api/shows', { name: text }, 'POST'],
        [`/api/shows/${show}/copy`, { name: text }, 'POST'],
        [`/api/shows/${show}/versions`, { name: text }, 'POST'],
        [`/api/shows/${show}/live`, { command: 'type', text }, 'POST'],
        [
          `/api/shows/${show}/live`,
          { command: 'set', fixtures: [1], attribute: text, level: 1 },
          'POST',
        ],
        [
          `/api/shows/${show}/members`,
          { email: `${text}@tidewater.example`, role: 'viewer' },
          'PUT',
        ],
        ['/api/me/preferences', { [text]: 1 }, 'PUT'],
        ['/api/auth/sign-in/email', { email: `${text}@tidewater.example`, password: text }, 'POST'],
      ] as const) {
        const { status, json } = await owner.ask(path, body, { method });
        expect([path, text.length, status >= 400 && status < 500]).toEqual([
          path,
          text.length,
          true,
        ]);
        expect(JSON.stringify(json).length).toBeLessThan(2000);
      }
      expect(
        (
          await owner.ask(
            `/api/shows/${show}/journal?kind=${encodeURIComponent(text.slice(0, 3000).replace('\ud800', '%'))}`,
          )
        ).status,
      ).toBeLessThan(500);
    }
  });

  test('files that are made to harm are refused in words, and others are answered meanwhile', async () => {
    const good = await fetch(`${house.url}/api/shows/${show}/export/show.wingman`, {
      headers: { cookie: owner.cookies },
    });
    const files = unzipSync(new Uint8Array(await good.arrayBuffer()));
    const zeros = new Uint8Array(48 * 1024 * 1024);
    const bomb = zipSync({
      ...files,
      ...Object.fromEntries(Array.from({ length: 12 }, (_, i) => [`assets/zero${i}.png`, zeros])),
    });
    const hostile: [string, Uint8Array][] = [
      ['a bomb', bomb],
      ['a path out', zipSync({ ...files, '../../evil.json': strToU8('[]') })],
      ['a cut one', zipSync(files).slice(0, 2000)],
      ['noise', new Uint8Array(1_000_000).fill(0x50)],
    ];
    for (const [what, bytes] of hostile) {
      let answered = 0;
      let done = false;
      const others = (async () => {
        while (!done) {
          expect((await owner.ask(`/api/shows/${show}/stage`)).status).toBe(200);
          answered++;
        }
      })();
      const answer = await fetch(`${house.url}/api/shows/import`, {
        method: 'POST',
        headers: { cookie: owner.cookies, 'content-type': 'application/zip' },
        body: bytes as unknown as BodyInit,
      });
      done = true;
      await others;
      const { error } = (await answer.json()) as { error: { message: string } };
      expect([what, answer.status >= 400 && answer.status < 500, error.message]).toEqual([
        what,
        true,
        expect.stringContaining('Nothing was changed'),
      ]);
      expect([what, answered > 0]).toEqual([what, true]);
    }
  });

  test('a page of another site, a stranger, another’s show', async () => {
    expect(
      await owner.ask(
        `/api/shows/${show}/live`,
        { command: 'go' },
        { headers: { origin: 'http://elsewhere.example' } },
      ),
    ).toMatchObject({ status: 403, json: { error: { code: 'origin' } } });
    const stranger = new Script(house);
    expect((await stranger.ask('/api/shows')).status).toBe(401);
    const mine = (await owner.ask('/api/shows', { name: 'Private' })).json as { id: string };
    const other = await new Script(house).signIn('programmer');
    expect((await other.ask(`/api/shows/${mine.id}`)).status).toBe(404);
    expect((await other.ask(`/api/shows/${mine.id}/live`, { command: 'go' })).status).toBe(404);
  });

  test('a socket message that is not JSON is answered; the socket stays usable', async () => {
    const { ticket } = (await owner.ask(`/api/shows/${show}/ticket`, {})).json as {
      ticket: string;
    };
    const url = `${house.url.replace('http', 'ws')}/live?ticket=${ticket}`;
    const socket = new WebSocket(url);
    const heard: { type: string; ok?: boolean; code?: string; id?: number | null }[] = [];
    socket.on(
      'message',
      (data, binary) => !binary && heard.push(JSON.parse((data as Buffer).toString()) as never),
    );
    await new Promise((done) => socket.on('open', done));
    socket.send('{this is not JSON');
    socket.send(
      JSON.stringify({
        type: 'command',
        id: 5,
        command: { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 9 },
      }),
    );
    socket.send(
      JSON.stringify({
        type: 'command',
        id: 6,
        command: { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.5 },
      }),
    );
    await until(() => heard.some((m) => m.id === 6));
    expect(heard.filter((m) => m.type === 'reply').map((m) => [m.id, m.ok])).toEqual([
      [null, false],
      [5, false],
      [6, true],
    ]);
    socket.close();
    const refused = await new Promise<string>((done) =>
      new WebSocket(url, { origin: 'http://elsewhere.example' }).on('error', (e) =>
        done(e.message),
      ),
    );
    expect(refused).toContain('403');
    const forged = await new Promise<string>((done) =>
      new WebSocket(`${house.url.replace('http', 'ws')}/live?ticket=x.y`).on('error', (e) =>
        done(e.message),
      ),
    );
    expect(forged).toContain('401');
  });
});

/**
 * A UDP port is taken from now on: by whoever has it, or by this as soon as they let it go. Other houses of this machine
 * come and go. @returns lets it go
 */
function holdPort(port: number): () => void {
  let held: Socket | undefined;
  let again: NodeJS.Timeout | undefined;
  const take = (): void => {
    const socket = createSocket('udp4');
    socket.once('error', () => {
      socket.close();
      again = setTimeout(take, 5);
    });
    socket.bind(port, '127.0.0.1', () => (held = socket));
  };
  take();
  return () => {
    clearTimeout(again);
    held?.close();
  };
}

test('two houses run side by side; Ctrl-C leaves no process behind, and what was made is there at the next start', async () => {
  const free = holdPort(SACN_PORT);
  const second = await openHouse();
  free();
  expect(second.said()).toMatch(/is taken; using/);
  const script = await new Script(second).signIn('owner');
  await script.ask('/api/shows', { name: 'Kept over night' });
  const its = running(second);
  expect(its.children.map((c) => c.name).sort()).toEqual([
    'database',
    'keeper',
    'node',
    'player',
    'standby',
    'web',
  ]);
  // Its node had to move; lights have not: they are on the standard's port, always.
  const secondShow = await script.showId('The Night Ferry');
  const lamp = await listenTo(2, script, secondShow);
  await until(() => lamp.packets() > 3);
  lamp.close();
  expect(await second.stop()).toBe(0);
  // One that has ended may wait a moment for its parent to hear of it.
  await until(() =>
    [its.launcher, ...its.children.map((c) => c.pid)].every((pid) => !isAlive(pid)),
  );
  expect((await health()).player).not.toBeNull();

  const again = await openHouse(second.data);
  const later = await new Script(again).signIn('owner');
  expect(
    ((await later.ask('/api/shows')).json as { shows: { name: string }[] }).shows.map(
      (s) => s.name,
    ),
  ).toContain('Kept over night');
  await again.stop();
});

interface Answer {
  status: number;
  cookies: string[];
  text: string;
}
/** Over TLS, trusting the house's root and nothing else. */
const overTls = (house: House, path: string, body?: unknown, cookie = ''): Promise<Answer> =>
  new Promise((done, failed) => {
    const asked = secureRequest(
      `${house.url.replace('http:', 'https:')}${path}`,
      {
        method: body === undefined ? 'GET' : 'POST',
        ca: readFileSync(join(house.data, 'certificate', 'root.crt')),
        headers: { cookie, 'content-type': 'application/json' },
      },
      (response) => {
        let text = '';
        response.on('data', (d: Buffer) => (text += d.toString()));
        response.on('end', () =>
          done({
            status: response.statusCode ?? 0,
            cookies: response.headers['set-cookie'] ?? [],
            text,
          }),
        );
      },
    );
    asked.on('error', failed);
    asked.end(body === undefined ? undefined : JSON.stringify(body));
  });

test('a demo folder that is opened to a network: published passwords end there, random ones are told once, and nobody talks without TLS', async () => {
  const alone = await openHouse();
  const given = { email: 'owner@tidewater.example', password: 'tidewater' };
  const plain = await fetch(`${alone.url}/api/auth/sign-in/email`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(given),
  });
  expect(plain.status).toBe(200);
  await alone.stop();
  const opened = await openHouse(alone.data, 'demo', ['--host', '0.0.0.0']);
  expect(opened.said()).toMatch(/Wingman is ready at https:\/\/[\d.]+:\d+/);
  const told = /owner@tidewater\.example {2}(\S{12,})/.exec(opened.said())?.[1] ?? '';
  const tries = (password: string) =>
    overTls(opened, '/api/auth/sign-in/email', { ...given, password });
  expect((await tries('tidewater')).status).toBeGreaterThanOrEqual(400);
  const entered = await tries(told);
  expect(entered.status).toBe(200);
  // Only over TLS are they sent.
  expect(entered.cookies.length).toBeGreaterThan(0);
  for (const cookie of entered.cookies) expect(cookie).toMatch(/; Secure/i);
  expect((await overTls(opened, '/sign-in')).text).not.toContain('tidewater.example');

  const cookie = entered.cookies.map((c) => c.split(';')[0]).join('; ');
  const shows = JSON.parse((await overTls(opened, '/api/shows', undefined, cookie)).text) as {
    shows: { id: string }[];
  };
  const ticket = JSON.parse(
    (await overTls(opened, `/api/shows/${shows.shows[0]?.id}/ticket`, {}, cookie)).text,
  ) as { ticket: string };
  const socket = new WebSocket(
    `${opened.url.replace('http:', 'wss:')}/live?ticket=${ticket.ticket}`,
    { ca: readFileSync(join(opened.data, 'certificate', 'root.crt')) },
  );
  const first = await new Promise<string>((done, failed) => {
    socket.once('message', (data: Buffer) => done(data.toString()));
    socket.once('error', failed);
  });
  expect(JSON.parse(first)).toMatchObject({ type: 'welcome' });
  socket.close();

  // Without it there is the page of trust, and no word of anything else.
  const led = await fetch(`${opened.url}/sign-in`, { redirect: 'manual' });
  expect([led.status, led.headers.get('location')]).toEqual([302, '/trust?to=%2Fsign-in']);
  const sent = await fetch(`${opened.url}/api/auth/sign-in/email`, { method: 'POST', body: '{}' });
  expect(sent.status).toBe(403);
  await opened.stop();
});

test('without demo data there is one account with a password of its own, and the sign-in page offers nobody', async () => {
  const empty = await openHouse(undefined, 'start');
  expect(empty.said()).toMatch(/owner@wingman\.example {2}\S{12,}/);
  expect(await (await fetch(`${empty.url}/sign-in`)).text()).not.toContain('tidewater');
  await empty.stop();
});
