/** Every route of the real house, walked by everybody; and open sockets when somebody’s right to be there ends. */
import { readdirSync, readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { WebSocket } from 'ws';
import { openHouse, Script, until, type House } from './wingman';

jest.setTimeout(240_000);
const API = resolve(__dirname, '../../src/app/api');
const WHO = [
  'nobody',
  'stranger',
  'ended',
  'viewer',
  'volunteer',
  'operator',
  'programmer',
  'owner',
] as const;
type Who = (typeof WHO)[number];

let house: House;
let show = '';
const people = new Map<Who, Script>();
const as = (who: Who): Script => people.get(who) ?? new Script(house);

const LOOKERS: Who[] = ['viewer', 'operator', 'programmer', 'owner'];
const MEMBERS: Who[] = [...LOOKERS, 'volunteer'];
const EVERYBODY: Who[] = WHO.filter((w) => w !== 'nobody');

interface Walk {
  /** Who gets past the question whether they may; what comes then is another matter. */
  may: readonly Who[];
  query?: string;
  method?: string;
  body?: unknown;
  /** Owners are not sent there: it would do what it says. */
  spare?: readonly Who[];
}
/** By method and place in the folder of routes. A route that is not here fails the walk. */
const ROUTES: Record<string, Walk> = {
  'GET health': { may: WHO },
  'GET openapi.json': { may: WHO },
  'GET auth/[...all]': { may: WHO },
  'POST auth/[...all]': { may: WHO, body: {} },
  'GET invitations/[token]': { may: WHO },
  // Without an account it is for who is signed in.
  'POST invitations/[token]': { may: EVERYBODY, body: {} },
  'GET me': { may: EVERYBODY },
  'POST me/lock': { may: EVERYBODY, body: { pin: 5 } },
  'PUT me/pin': { may: EVERYBODY, body: { pin: 5 } },
  'GET me/inbox': { may: EVERYBODY },
  'POST me/inbox': { may: EVERYBODY, body: {} },
  'GET me/preferences': { may: EVERYBODY },
  'PUT me/preferences': { may: EVERYBODY, body: { theme: 5 } },
  'POST me/sign-out-everywhere': { may: EVERYBODY, spare: EVERYBODY },
  'GET library': { may: EVERYBODY },
  'POST library': { may: ['owner', 'programmer'], query: '?preview=1', body: 'no type' },
  'GET library/[type]': { may: EVERYBODY },
  'DELETE library/[type]': { may: ['owner', 'programmer'] },
  'GET sim/node': { may: EVERYBODY },
  'POST sim/node': { may: ['owner', 'programmer'], body: { loss: 7 } },
  'GET shows': { may: EVERYBODY },
  'POST shows': { may: ['owner', 'programmer'], body: {} },
  'POST shows/import': { may: ['owner', 'programmer'], body: 'no show' },
  'POST incoming': { may: EVERYBODY, body: 'no show' },
  'GET house/people': { may: ['owner'] },
  'GET house/wires': { may: EVERYBODY },
  'PUT house/wires': { may: ['owner', 'programmer'], body: { sync: -1 } },
  'PUT house/people': { may: ['owner'], body: {} },
  'POST players/hand-over': { may: ['owner'], spare: ['owner'] },
  'GET backups': { may: ['owner'], query: '?show=SHOW' },
  'POST backups': { may: ['owner'], body: { show: 'SHOW', file: 'none' } },
  'GET shows/[id]': { may: LOOKERS },
  'GET shows/[id]/undo': { may: LOOKERS },
  'POST shows/[id]/undo': { may: ['programmer', 'owner'], body: {} },
  'GET shows/[id]/journal': { may: LOOKERS },
  'GET shows/[id]/changes': { may: LOOKERS },
  'GET shows/[id]/export/[format]': { may: LOOKERS },
  'POST shows/[id]/import': { may: ['programmer', 'owner'], query: '?preview=1', body: 'nothing' },
  'POST shows/[id]/edits': { may: LOOKERS, body: {} },
  'GET shows/[id]/copies': { may: ['owner'] },
  'GET shows/[id]/compare': { may: LOOKERS },
  'GET shows/[id]/members': { may: LOOKERS },
  'PUT shows/[id]/members': { may: ['owner'], body: {} },
  'GET shows/[id]/stage': { may: LOOKERS },
  'POST shows/[id]/sounds': { may: ['programmer', 'owner'], query: '?name=x', body: 'no sound' },
  'GET shows/[id]/sounds/[sum]': { may: LOOKERS },
  'GET shows/[id]/sounds/[sum]/shape': { may: LOOKERS },
  'POST shows/[id]/rehearse': { may: ['operator', 'programmer', 'owner'] },
  'POST shows/[id]/state': { may: ['owner'], body: {} },
  'POST shows/[id]/restore': { may: ['programmer', 'owner'], body: {} },
  'POST shows/[id]/ticket': { may: MEMBERS, body: {} },
  'POST shows/[id]/live': { may: MEMBERS, body: {} },
  'POST shows/[id]/merge': { may: ['programmer', 'owner'], body: {} },
  'GET shows/[id]/invitations': { may: ['owner'] },
  'POST shows/[id]/invitations': { may: ['owner'], body: {} },
  'DELETE shows/[id]/invitations': { may: ['owner'] },
  'PUT shows/[id]/bring-in': { may: ['programmer', 'owner'], body: {} },
  'POST shows/[id]/bring-in': { may: ['programmer', 'owner'], body: {} },
  'GET shows/[id]/sheets': { may: MEMBERS },
  'POST shows/[id]/copy': { may: ['programmer', 'owner'], body: {} },
  'GET shows/[id]/versions': { may: LOOKERS },
  'POST shows/[id]/versions': { may: ['programmer', 'owner'], body: {} },
  'DELETE shows/[id]/versions': { may: ['programmer', 'owner'] },
};

/** Method and place of every route there is. */
function routes(folder = API, at = ''): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory())
      return routes(join(folder, entry.name), at ? `${at}/${entry.name}` : entry.name);
    if (entry.name !== 'route.ts') return [];
    const text = readFileSync(join(folder, entry.name), 'utf8');
    return [
      ...text.matchAll(/export (?:const|async function|function) (GET|POST|PUT|PATCH|DELETE)\b/g),
    ].map((m) => `${m[1]} ${at}`);
  });
}

const idOf = async (name: string): Promise<string> =>
  (
    (await as('owner').ask('/api/shows')).json as { shows: { id: string; name: string }[] }
  ).shows.find((s) => s.name === name)?.id ?? '';
const PASSWORD = 'a long enough one';

/** A new account that came by an invitation to a show. */
async function invited(
  name: string,
  role: string,
  to: string,
): Promise<{ email: string; script: Script }> {
  const { path } = (await as('owner').ask(`/api/shows/${to}/invitations`, { role })).json as {
    path: string;
  };
  const email = `${name.toLowerCase()}@tidewater.example`;
  await new Script(house).ask(`/api${path.replace('/invitation/', '/invitations/')}`, {
    account: { name, email, password: PASSWORD },
  });
  return { email, script: await new Script(house).signIn(name.toLowerCase(), PASSWORD) };
}
const members = (body: unknown, of = show) =>
  as('owner').ask(`/api/shows/${of}/members`, body, { method: 'PUT' });

beforeAll(async () => {
  house = await openHouse();
  for (const who of ['viewer', 'volunteer', 'operator', 'programmer', 'owner'] as const)
    people.set(who, await new Script(house).signIn(who));
  show = await idOf('Sunday at Tidewater');
  const elsewhere = (
    (await as('owner').ask('/api/shows', { name: 'Another house’s show' })).json as { id: string }
  ).id;
  people.set('stranger', (await invited('Sorrel', 'viewer', elsewhere)).script);
  const ended = await invited('Ebba', 'programmer', show);
  people.set('ended', ended.script);
  expect((await ended.script.ask(`/api/shows/${show}`)).status).toBe(200);
  await members({
    email: ended.email,
    role: 'programmer',
    until: new Date(Date.now() + 300).toISOString(),
  });
  await until(async () => (await ended.script.ask(`/api/shows/${show}`)).status === 404);
});
afterAll(() => house?.stop());

test('the document for programs has every way in, and no other', async () => {
  const { json } = await as('owner').ask('/api/openapi.json');
  const { paths } = json as { paths: Record<string, Record<string, { summary: string }>> };
  const said = Object.entries(paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
  );
  // Sign-in is the accounts library's own, and the document does not describe itself.
  const there = routes()
    .filter((r) => !r.includes('[...all]') && !r.includes('openapi.json'))
    .map((r) => r.replace(' ', ' /api/').replace(/\[(\w+)\]/g, '{$1}'));
  expect(said.sort()).toEqual(there.sort());
  expect(Object.values(paths).flatMap((m) => Object.values(m).filter((o) => !o.summary))).toEqual(
    [],
  );
});

test('every route that there is stands in the table, and nothing else', () => {
  expect(routes().sort()).toEqual(Object.keys(ROUTES).sort());
});

test.each(Object.entries(ROUTES))('%s', async (name, { may, query = '', body, spare = [] }) => {
  const [method = 'GET', place = ''] = name.split(' ');
  const isOfShow =
    place.startsWith('shows/[id]') || place === 'backups' || place === 'players/hand-over';
  const path = `/api/${place.replace('[id]', show).replace('[format]', 'patch.csv').replace('[sum]', 'f'.repeat(64)).replace('[token]', 'x'.repeat(32)).replace('[...all]', 'get-session')}${query.replace('SHOW', show)}`;
  const sent = body === undefined && method !== 'GET' ? {} : body;
  for (const who of WHO) {
    if (spare.includes(who)) continue;
    const { status, json } = await as(who).ask(
      path,
      sent === undefined ? undefined : JSON.parse(JSON.stringify(sent).replace('SHOW', show)),
      { method },
    );
    const code = (json as { error?: { code?: string; message?: string } } | null)?.error;
    const denied =
      status === 401 ||
      status === 403 ||
      status === 423 ||
      code?.message === 'This show does not exist, or you are not one of its people.';
    expect({ who, status, denied }).toEqual({
      who,
      status: expect.any(Number),
      denied: !may.includes(who),
    });
    expect({ who, status: status < 500 ? 'fine' : status }).toEqual({ who, status: 'fine' });
    if (who === 'nobody' && denied) expect([who, status]).toEqual([who, 401]);
    // Whoever is not in a show does not learn that there is one.
    if (place.startsWith('shows/[id]') && (who === 'stranger' || who === 'ended'))
      expect([who, status, code?.code]).toEqual([who, 404, 'not-found']);
    else if (denied && who !== 'nobody' && !isOfShow) expect([who, status]).toEqual([who, 403]);
  }
});

describe('open sockets', () => {
  interface Open {
    socket: WebSocket;
    heard: { type: string; role?: string | null; locked?: boolean }[];
    /** Pictures of the stage. */
    frames: () => number;
    closed: () => number | null;
    since: () => number;
  }
  const ticketOf = async (who: Script, of = show): Promise<string> =>
    ((await who.ask(`/api/shows/${of}/ticket`, {})).json as { ticket: string }).ticket;
  const url = (ticket: string): string =>
    `${house.url.replace('http', 'ws')}/live?ticket=${ticket}`;
  async function open(who: Script, of = show): Promise<Open> {
    const socket = new WebSocket(url(await ticketOf(who, of)));
    const heard: Open['heard'] = [];
    let [frames, closed, mark] = [0, null as number | null, 0];
    socket.on('message', (data, binary) => {
      if (binary) frames++;
      else heard.push(JSON.parse((data as Buffer).toString()) as never);
    });
    socket.on('close', (code) => (closed = code));
    await new Promise((done, failed) => socket.once('open', done).once('error', failed));
    await until(() => heard.some((m) => m.type === 'playback' || m.type === 'locked'));
    mark = heard.length;
    return { socket, heard, frames: () => frames, closed: () => closed, since: () => mark };
  }
  const refusedBy = (ticket: string): Promise<string> =>
    new Promise((done) =>
      new WebSocket(url(ticket)).on('open', () => done('open')).on('error', (e) => done(e.message)),
    );
  /** Within a second, on a machine that does other things as well. */
  const SOON_MS = 3000;

  test('a ticket opens one socket, also when two use it at the same moment', async () => {
    const ticket = await ticketOf(as('owner'));
    const both = await Promise.all([refusedBy(ticket), refusedBy(ticket), refusedBy(ticket)]);
    expect(both.filter((b) => b === 'open')).toHaveLength(1);
    expect(both.filter((b) => b.includes('401'))).toHaveLength(2);
    expect(await refusedBy(ticket)).toContain('401');
  });

  test('a ticket that was taken before the role was, opens nothing', async () => {
    const { email, script } = await invited('Tove', 'operator', show);
    const ticket = await ticketOf(script);
    await members({ email, role: null });
    expect(await refusedBy(ticket)).toMatch(/401|403|404/);
  });

  test.each<
    [what: string, end: (it: { email: string; script: Script }) => Promise<unknown>, code: number]
  >([
    ['removal', ({ email }) => members({ email, role: null }), 4403],
    [
      'an end date that comes',
      ({ email }) =>
        members({ email, role: 'operator', until: new Date(Date.now() + 500).toISOString() }),
      4403,
    ],
    ['signing out', ({ script }) => script.ask('/api/auth/sign-out', {}), 4401],
    [
      'signing out everywhere, from another place',
      async ({ email }) =>
        (await new Script(house).signIn(email.split('@')[0] ?? '', PASSWORD)).ask(
          '/api/me/sign-out-everywhere',
          {},
        ),
      4401,
    ],
  ])('%s closes it', async (what, end, code) => {
    const it = await invited(`Pell${what.replace(/\W/g, '').slice(0, 12)}`, 'operator', show);
    const o = await open(it.script);
    await end(it);
    await until(() => o.closed() !== null, SOON_MS);
    expect(o.closed()).toBe(code);
  });

  test('locking reaches it: it shows the stage and nothing else, plays nothing, and is told everything when it is opened again', async () => {
    const { script } = await invited('Lund', 'programmer', show);
    await script.ask('/api/me/pin', { pin: '4711' }, { method: 'PUT' });
    const o = await open(script);
    o.socket.send(
      JSON.stringify({ type: 'watch', universes: [1], sources: true, programmer: null }),
    );
    await script.ask('/api/me/lock', {});
    await until(() => o.heard.some((m) => m.type === 'locked' && m.locked), SOON_MS);
    const from = o.heard.length;
    await as('owner').ask(`/api/shows/${show}/edits`, {
      edit: 'add-note',
      params: { kind: 'other', text: 'while it is locked' },
    });
    await as('owner').ask(`/api/shows/${show}/live`, {
      command: 'set',
      fixtures: [1],
      attribute: 'Dimmer',
      level: 0.5,
    });
    o.socket.send(JSON.stringify({ type: 'command', id: 5, command: { command: 'go' } }));
    await until(() => o.heard.slice(from).some((m) => m.type === 'reply'));
    expect(
      o.heard
        .slice(from)
        .map((m) => m.type)
        .filter((t) => !['reply', 'pong', 'air', 'slots', 'locked'].includes(t)),
    ).toEqual([]);
    expect(o.heard.slice(from).find((m) => m.type === 'reply')).toMatchObject({
      ok: false,
      code: 'locked',
    });
    for (const path of ['', '/journal', '/changes', '/members', '/export/patch.csv', '/sheets'])
      expect([path, (await script.ask(`/api/shows/${show}${path}`)).status]).toEqual([path, 423]);
    expect((await script.ask(`/api/shows/${show}/stage`)).status).toBe(200);
    // A socket that is opened meanwhile is locked as well.
    expect((await open(script)).heard.some((m) => m.type === 'locked' && m.locked)).toBe(true);
    // The PIN's limit counts tries that come at once.
    const tries = await Promise.all(
      Array.from({ length: 20 }, (_, i) => script.ask('/api/me/lock', { pin: String(1000 + i) })),
    );
    expect(tries.filter((t) => t.status === 429).length).toBeGreaterThanOrEqual(10);
    expect(tries.some((t) => t.status === 200)).toBe(false);
    o.socket.close();
  });
});

test('of one edit that is sent twice at the same moment there is one, with the same answer', async () => {
  const owner = as('owner');
  const seq = async (): Promise<number> =>
    ((await owner.ask(`/api/shows/${show}`)).json as { seq: number }).seq;
  const before = await seq();
  const twice = {
    edit: 'add-note',
    params: { kind: 'other', text: 'once' },
    editId: `twice-${Date.now()}`,
  };
  const answers = await Promise.all(
    Array.from({ length: 6 }, () => owner.ask(`/api/shows/${show}/edits`, twice)),
  );
  expect(answers.map((a) => a.status)).toEqual([200, 200, 200, 200, 200, 200]);
  expect(
    new Set(
      answers.map((a) =>
        JSON.stringify([(a.json as { seq: number }).seq, (a.json as { summary: string }).summary]),
      ),
    ).size,
  ).toBe(1);
  expect(await seq()).toBe(before + 1);
});

describe('who may make shows and put them on air', () => {
  test('a guest makes none; whoever plays nothing of what is on air does not put another over it; each way is said before it is done', async () => {
    expect(await as('operator').ask('/api/shows', { name: 'Mine' })).toMatchObject({
      status: 403,
      json: { error: { message: expect.stringContaining('make none of your own') } },
    });
    const ferry = await idOf('The Night Ferry');
    // A maker of shows who is nobody in the Ferry.
    const { script, email } = await invited('Quill', 'programmer', show);
    const houseHas = (await as('owner').ask('/api/house/people')).json as {
      accounts: { userId: string; email: string }[];
    };
    await as('owner').ask(
      '/api/house/people',
      { userId: houseHas.accounts.find((p) => p.email === email)?.userId, may: 'maker' },
      { method: 'PUT' },
    );
    const mine = ((await script.ask('/api/shows', { name: 'Quill’s own' })).json as { id: string })
      .id;
    expect(await script.ask(`/api/shows/${mine}/live`, { command: 'air', on: true })).toMatchObject(
      { status: 403, json: { error: { message: expect.stringContaining('The Night Ferry') } } },
    );
    expect(
      (
        await as('operator').ask(`/api/shows/${show}/live`, {
          command: 'air',
          on: true,
          preview: true,
        })
      ).json,
    ).toMatchObject({ message: expect.stringContaining('“The Night Ferry” is on air') });
    await as('operator').ask(`/api/shows/${ferry}/live`, { command: 'board', do: 'take' });
    expect(
      await as('programmer').ask(`/api/shows/${show}/live`, { command: 'air', on: true }),
    ).toMatchObject({ status: 409, json: { error: { code: 'board' } } });
    expect(
      (await as('operator').ask(`/api/shows/${show}/live`, { command: 'air', on: true })).status,
    ).toBe(200);
    // Both journals have it, and whoever plays on in the Ferry is told.
    for (const id of [ferry, show])
      expect(
        (
          (await as('owner').ask(`/api/shows/${id}/journal`)).json as {
            entries: { kind: string; text: string }[];
          }
        ).entries.some((e) => e.kind === 'air'),
      ).toBe(true);
    expect(
      (await as('operator').ask(`/api/shows/${ferry}/live`, { command: 'go' })).json,
    ).toMatchObject({ warning: expect.stringContaining('is not on air') });
  });
});
