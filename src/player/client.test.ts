/** One screen's socket: what it is told, what it is refused, and that it costs nobody else anything. */
import { EventEmitter } from 'node:events';
import { pino } from 'pino';
import type { WebSocket } from 'ws';
import {
  AIR_UNKNOWN,
  type InputSeen,
  type RdmState,
  type ServerMessage,
} from '../core/live/messages.ts';
import type { LiveCommand } from '../core/live/commands.ts';
import { apply, exampleShow, idOf, sheet } from '../core/testing/example.ts';
import { Client } from './client.ts';
import { desk, mara } from './simulated-desk.ts';
import type { Actor } from './actor.ts';

const NELL: Actor = { userId: 'nell', name: 'Nell Strand', role: 'volunteer', pages: [] };

const WATCHES_NOTHING = {
  type: 'watch',
  universes: [],
  sources: false,
  outputs: false,
  programmer: null,
};

function screen(actor: Actor, locked = false) {
  const socket = Object.assign(new EventEmitter(), {
    readyState: 1,
    OPEN: 1,
    bufferedAmount: 0,
    texts: [] as ServerMessage[],
    frames: 0,
    ended: '',
    send(data: string | Uint8Array) {
      if (typeof data === 'string') this.texts.push(JSON.parse(data) as ServerMessage);
      else this.frames++;
    },
    pings: 0,
    ping() {
      this.pings++;
    },
    terminate() {
      this.ended = 'terminated';
    },
    close(code: number) {
      this.ended = String(code);
    },
  });
  const carried: LiveCommand[] = [];
  const views = { count: 0 };
  const show = exampleShow();
  apply(show, 'record-cue', {
    listId: 'main',
    number: 1000,
    values: [{ fixtureId: idOf(show, 1), attribute: 'Dimmer', level: 1 }],
  });
  apply(show, 'set-fader', {
    set: { name: 'Main', holds: { kind: 'list', id: 'main' }, mode: 'proportional', flash: 'full' },
  });
  const d = desk(show);
  const house = {
    command: (_: string, __: Actor, c: LiveCommand) => (
      carried.push(c),
      Promise.resolve({ ok: true as const })
    ),
    left: () => undefined,
    tellPresence: () => undefined,
    viewed: () => void views.count++,
    air: () => AIR_UNKNOWN,
    watched: () => undefined,
    notKept: null,
    hands: {
      state: () => ({ ports: [], problems: [], pages: {}, heard: {}, timecode: NO_TIMECODE }),
    },
    sounds: { devices: [], inputs: [], inputProblem: null, problem: null, ready: {}, off_ms: {} },
  };
  const client = new Client(
    socket as unknown as WebSocket,
    'show',
    actor,
    house,
    pino({ level: 'silent' }),
    { sessionId: 's', leaves: null, locked },
  );
  client.start(d.live);
  const types = (): string[] => socket.texts.map((t) => t.type);
  const say = async (message: unknown): Promise<ServerMessage | undefined> => {
    socket.emit('message', Buffer.from(JSON.stringify(message)), false);
    await new Promise((done) => setImmediate(done));
    // What is told from time to time may come after the answer.
    return socket.texts.findLast((t) => t.type === 'reply');
  };
  const since = (): ServerMessage[] => socket.texts.splice(0);
  return { d, socket, client, carried, types, say, since, views };
}
const silent = { state: 'none' as const, rate: null, code: null };
const NO_TIMECODE = { midi: silent, ltc: silent, artnet: silent };
const go = { type: 'command', id: 1, command: { command: 'go' } };

test('a socket that never reads is closed before it costs others memory; a slow one gets levels whole when it reads again', () => {
  const { d, socket, client } = screen(mara);
  const frames = socket.frames;
  socket.bufferedAmount = 300 * 1024;
  for (let i = 0; i < 50; i++) client.sendLevels(d.live, d.live.seen());
  expect([socket.frames, socket.ended]).toEqual([frames, '']);
  socket.bufferedAmount = 0;
  client.sendLevels(d.live, d.live.seen());
  expect(socket.frames).toBe(frames + 1);
  socket.bufferedAmount = 9 * 1024 * 1024;
  const told = socket.texts.length;
  client.sendPlayback(d.live);
  expect([socket.texts.length, socket.ended]).toEqual([told, 'terminated']);
});

test('from a locked screen nothing is carried out; opened, it is', async () => {
  const { client, carried, say } = screen(mara, true);
  expect(await say(go)).toMatchObject({ type: 'reply', id: 1, ok: false, code: 'locked' });
  client.setLocked(false);
  expect(await say(go)).toMatchObject({ ok: true });
  expect(carried).toEqual([{ command: 'go' }]);
});

test('a locked screen is told what plays, and nothing else of the show; opened it is told everything anew', async () => {
  const { d, client, types, socket } = screen(mara, true);
  client.watching = {
    universes: [1],
    sources: true,
    outputs: true,
    programmer: null,
    sound: true,
    follows: null,
  };
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 1 });
  client.sendLevels(d.live, d.live.seen());
  const frames = socket.frames;
  client.sendSources(d.live);
  client.sendOthers(d.live);
  client.sendProgrammer(d.live);
  client.sendOver(d.live);
  for (const type of ['change', 'presence', 'outputs', 'word', 'sound', 'over'] as const)
    client.send({ type } as never);
  expect(new Set(types())).toEqual(new Set(['welcome', 'locked', 'playback', 'air']));
  expect(frames).toBe(1);
  const before = socket.texts.length;
  client.setLocked(false);
  await new Promise((done) => setTimeout(done, 150));
  expect(types().slice(before)).toEqual(
    expect.arrayContaining(['welcome', 'locked', 'programmer', 'others', 'over']),
  );
  expect(socket.texts.findLast((t) => t.type === 'locked')).toMatchObject({ locked: false });
});

test('an end date that is set or moved while somebody is here counts', () => {
  const { client } = screen(mara);
  client.setRole({ until: 12_345, role: 'programmer', pages: [] });
  expect(client.leaves).toBe(12_345);
});

test('asked to settle, a screen is told all that its person holds before the answer, and of a change that is on its way', async () => {
  const { d, socket, client, say } = screen(mara);
  client.sendProgrammer(d.live);
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.4 });
  client.sendProgrammer(d.live);
  // Within the pause between two tellings nothing of it has been told yet.
  expect(socket.texts.findLast((t) => t.type === 'programmer')).not.toMatchObject({
    changed: [{ level: 0.4 }],
  });
  expect(await say({ type: 'settle', id: 7, seq: 0 })).toMatchObject({
    type: 'reply',
    id: 7,
    ok: true,
  });
  const last = (type: string): number => socket.texts.findLastIndex((t) => t.type === type);
  expect(socket.texts[last('programmer')]).toMatchObject({ changed: [{ level: 0.4 }] });
  expect(last('programmer')).toBeLessThan(last('reply'));
  const next = d.live.copy.seq + 1;
  expect((await say({ type: 'settle', id: 8, seq: next })) as { id?: number }).toMatchObject({
    id: 7,
  });
  d.edit(mara, 'change-show', { set: { name: 'Later' } });
  expect(d.live.copy.seq).toBe(next);
  await new Promise((done) => setTimeout(done, 60));
  expect(socket.texts.findLast((t) => t.type === 'reply')).toMatchObject({ id: 8, ok: true });
});

test('a volunteer’s screen is told of its pages and nothing else of the show', () => {
  const { d, client, types, socket } = screen(NELL);
  const faderId = [...d.show.faders.keys()][0] ?? '';
  client.sendLevels(d.live, d.live.seen());
  client.sendOver(d.live);
  client.sendOthers(d.live);
  client.send({ type: 'presence', people: [] });
  expect(new Set(types())).toEqual(new Set(['welcome', 'locked', 'playback', 'air']));
  expect(socket.frames).toBe(0);
  expect(socket.texts.find((t) => t.type === 'welcome')).toMatchObject({ keys: [] });
  expect(socket.texts.findLast((t) => t.type === 'playback')).toMatchObject({
    lists: [],
    faders: [],
    boards: [],
    reports: [],
  });
  const given = sheet(d.show, 'Page', [
    { kind: 'list', list: 'main', press: 'go' },
    { kind: 'fader', fader: faderId, as: 'upright' },
  ]);
  client.setRole({ until: null, role: 'volunteer', pages: [given.sheet] });
  expect(socket.texts.findLast((t) => t.type === 'playback')).toMatchObject({
    lists: [{ id: 'main' }],
    faders: [{ id: faderId }],
  });
  // And of who is on the board that its buttons play over; of no other.
  d.say(mara, { command: 'go' });
  d.say(mara, { command: 'board', do: 'take', thing: { list: 'main' } });
  d.say(mara, { command: 'board', do: 'take', thing: { faders: 9 } });
  client.sendPlayback(d.live);
  expect(socket.texts.findLast((t) => t.type === 'playback')).toMatchObject({
    boards: [
      { thing: 'show', name: 'Mara Kell' },
      { thing: { list: 'main' }, name: 'Mara Kell' },
    ],
  });
});

test('a withdrawn role shows the screen out, and so does signing out everywhere', () => {
  const { client, socket, types } = screen(mara);
  client.setRole({ until: null, role: 'programmer', pages: [] });
  expect(types()).not.toContain('role');
  client.setRole(null);
  expect([socket.texts.at(-1), socket.ended]).toEqual([{ type: 'role', role: null }, '4403']);
  const other = screen(mara);
  other.client.showOut();
  expect([other.types().at(-1), other.socket.ended]).toEqual(['out', '4401']);
});

test('more commands a second than hands can give are refused, and the socket stays usable', async () => {
  const { carried, say, socket } = screen(mara);
  for (let i = 0; i < 400; i++) await say({ ...go, id: i });
  const refused = socket.texts.filter((t) => t.type === 'reply' && !t.ok);
  expect(refused.length).toBeGreaterThan(100);
  expect(refused[0]).toMatchObject({ code: 'rate' });
  expect(carried.length + refused.length).toBe(400);
});

test('a key that is lifted is up, on a locked screen and in a flood as well', async () => {
  const { d, client, carried, say } = screen(mara);
  const flash = (on: boolean) => ({ command: 'flash', fader: 1, on }) as const;
  const isOn = () => d.live.faders.statuses()[0]?.flash;
  d.live.whoever(flash(true), client.actor);
  client.setLocked(true);
  expect(await say({ type: 'command', id: 5, command: flash(false) })).toMatchObject({ ok: true });
  expect(isOn()).toBe(false);
  // Nothing else of a locked screen is done.
  expect(await say({ type: 'command', id: 6, command: flash(true) })).toMatchObject({
    code: 'locked',
  });
  client.setLocked(false);
  d.live.whoever(flash(true), client.actor);
  for (let i = 0; i < 2000; i++) await say(go);
  expect(await say(go)).toMatchObject({ code: 'rate' });
  const before = carried.length;
  expect(await say({ type: 'command', id: 7, command: flash(false) })).toMatchObject({ ok: true });
  expect([isOn(), carried.length]).toEqual([false, before]);
});

test('bytes of a universe come when it is watched and when they change; one that is sent nowhere is dark', async () => {
  const { d, client, socket, say } = screen(mara);
  const frames = (): number => {
    const before = socket.frames;
    client.sendLevels(d.live, d.live.seen());
    return socket.frames - before;
  };
  frames();
  expect(frames()).toBe(0);
  await say({ ...WATCHES_NOTHING, universes: [1, 9] });
  expect([frames(), frames()]).toEqual([2, 0]);
  d.say(mara, { command: 'set', fixtures: [1], attribute: 'Dimmer', level: 0.5 });
  d.pass(1);
  // Levels, and the one universe that has them.
  expect(frames()).toBe(2);
  await say({ ...WATCHES_NOTHING, universes: [9] });
  expect([frames(), frames()]).toEqual([1, 0]);
  client.setLocked(true);
  await say({ ...WATCHES_NOTHING, universes: [1, 9] });
  expect(frames()).toBe(0);
});

test('where bytes come from is told while it is watched, once, and anew to whoever asks again', async () => {
  const { d, client, say, since } = screen(mara);
  const told = () => {
    since();
    client.sendSources(d.live);
    return since().map((m) => (m.type === 'sources' ? m.universe : m.type));
  };
  await say({ ...WATCHES_NOTHING, universes: [1] });
  expect(told()).toEqual([]);
  await say({ ...WATCHES_NOTHING, universes: [1], sources: true });
  expect([told(), told()]).toEqual([[1], []]);
  await say({ ...WATCHES_NOTHING, universes: [1], sources: true });
  client.setLocked(true);
  expect(told()).toEqual([]);
  client.setLocked(false);
  expect(told()).toEqual([1]);
});

test('what comes in is told to whoever watches sources or outputs: nothing at first not at all, nothing afterwards once', async () => {
  const { client, say, since } = screen(mara);
  const input: InputSeen = { id: 'i', state: 'heard', from: null, levels: null, problem: null };
  const told = (inputs: InputSeen[]) => {
    since();
    client.sendInputs(() => inputs);
    return since();
  };
  expect(told([input])).toEqual([]);
  await say({ ...WATCHES_NOTHING, outputs: true });
  expect(told([])).toEqual([]);
  expect(told([input])).toEqual([{ type: 'inputs', inputs: [input] }]);
  expect(told([{ ...input }])).toEqual([]);
  await say({ ...WATCHES_NOTHING, sources: true });
  expect(told([])).toEqual([{ type: 'inputs', inputs: [] }]);
  client.setLocked(true);
  expect(told([input])).toEqual([]);
});

test('units at the nodes are told once somebody looked, to whoever watches outputs or ever did', async () => {
  const { client, say, since } = screen(mara);
  const rdm = { looking: false, looked: true, devices: [] };
  const told = (state: RdmState | undefined) => {
    since();
    client.sendUnits(state);
    return since().map((m) => m.type);
  };
  expect(told(rdm)).toEqual([]);
  await say({ ...WATCHES_NOTHING, outputs: true });
  expect(told(undefined)).toEqual([]);
  expect(told({ ...rdm, looked: false })).toEqual([]);
  expect([told({ ...rdm, looking: true }), told(rdm), told({ ...rdm })]).toEqual([
    ['rdm'],
    ['rdm'],
    [],
  ]);
  await say(WATCHES_NOTHING);
  expect(told({ ...rdm, looking: true })).toEqual(['rdm']);
  client.setLocked(true);
  expect(told(rdm)).toEqual([]);
});

test('where a screen looks is told to those who go along, unless it is locked or a volunteer’s', async () => {
  const view = {
    place: 'book',
    selection: [],
    book: {
      listId: null,
      cueId: null,
      follow: true,
      family: 'intensity',
      unfolded: [],
      cells: null,
      search: '',
    },
    stage: { view: '', layoutId: null, shelf: '', view2d: null, camera: '', sheet: false },
    rig: { universe: 1, upper: '', lower: '' },
    crew: '',
    scroll: {},
  };
  const looks = async (s: ReturnType<typeof screen>): Promise<number> => {
    await s.say({ type: 'view', view });
    return s.views.count;
  };
  expect(await looks(screen(mara))).toBe(1);
  expect(await looks(screen(mara, true))).toBe(0);
  expect(await looks(screen(NELL))).toBe(0);
});

test('a player that stops says so in the way that has screens come back; nothing else is said to a socket that is shut', () => {
  const { client, socket, since } = screen(mara);
  client.close();
  expect(socket.ended).toBe('1012');
  socket.readyState = 3;
  since();
  client.send({ type: 'out' });
  client.look();
  expect([since(), socket.pings]).toEqual([[], 0]);
});

test('a screen that answers no question any more is cut off; one that does is not', () => {
  const { socket, client } = screen(mara);
  const looks = (n: number): void => {
    for (let i = 0; i < n; i++) client.look();
  };
  looks(9);
  expect([socket.pings, socket.ended]).toEqual([9, '']);
  socket.emit('pong');
  looks(9);
  expect(socket.ended).toBe('');
  looks(1);
  expect(socket.ended).toBe('terminated');
});
