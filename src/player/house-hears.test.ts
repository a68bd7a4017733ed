/** What comes to a house from everywhere, and whom it tells: screens, remote controls, the sound, the journal. */
import { until } from '../core/testing/until.ts';
import { artTimeCode } from '../core/timecode/art.ts';
import { timecodeOf } from '../core/timecode/rate.ts';
import { apply, idOf } from '../core/testing/example.ts';
import type { MutableShow } from '../core/show/show.ts';
import { readInbox } from '../store/inbox.ts';
import { readJournal } from '../store/journal.ts';
import { listVersions } from '../store/versions.ts';
import type { Actor } from './actor.ts';
import { houses, iden, screen, tam, yrsa } from './simulated-house.ts';

let all: Awaited<ReturnType<typeof houses>>;
beforeAll(async () => void (all = await houses()));
afterAll(() => all.end());

const TABLET = { address: '127.0.0.1', port: 9 };
const hand: Actor = { userId: 'hand/1', name: 'the hand', role: 'operator', remote: true };
const refusals = (id: string) => readJournal(all.db, id, { kind: 'refused', limit: 40 });
const settle = (): Promise<void> => new Promise((done) => setTimeout(done, 30));

/** On its track for a hundred seconds, with timecode out by MIDI. */
function givesTime(show: MutableShow): void {
  const first = [...show.cues.values()].find((c) => c.number === 1000)?.id ?? '';
  apply(show, 'place-cues', { list: 'main', at: { [first]: 0 } });
  const gives = { to: ['midi', 'artnet'], rate: '25', offset_s: 3600 };
  const time = { on: true, end_s: 100, tempo: [], marks: [], gives };
  apply(show, 'change-list', { id: 'main', set: { time } });
}

describe('screens', () => {
  test('all of them, of any show, are told what is on air, and what goes wrong with it', async () => {
    const { house, id, clockSays, say } = await all.onAir();
    const other = await all.newShow();
    await house.open(other);
    const [here, there] = [screen(id, yrsa), screen(other, yrsa)];
    for (const s of [here, there]) house.joined(s.client);
    clockSays({ is: 'output', problem: 'No card.', nowhere: null });
    for (const s of [here, there])
      expect(s.of('air').at(-1)).toMatchObject({ showId: id, problem: 'No card.' });
    expect(await say(yrsa, { command: 'air', on: false, preview: true })).toMatchObject({
      ok: true,
    });
    expect(house.air().showId).toBe(id);
    expect(await say(yrsa, { command: 'air', on: false })).toMatchObject({
      message: 'Harbour lights is in rehearsal',
    });
    for (const s of [here, there]) expect(s.of('air').at(-1)).toMatchObject({ showId: null });
    expect(await say(yrsa, { command: 'air', on: true })).toMatchObject({ ok: true });
    expect(house.air().showId).toBe(id);
  });

  test('who is where is told to those of the show, and who goes along with whom to both', async () => {
    const { house, id } = await all.onAir();
    const other = await all.newShow();
    await house.open(other);
    const [one, two, elsewhere] = [
      screen(id, yrsa),
      screen(id, tam, { follows: yrsa.userId }),
      screen(other, iden),
    ];
    for (const s of [one, two, elsewhere]) house.joined(s.client);
    await until(() => (one.of('presence').at(-1)?.people as unknown[] | undefined)?.length === 2);
    expect((elsewhere.of('presence').at(-1)?.people as unknown[]).length).toBe(1);
    expect(one.of('followed').at(-1)).toMatchObject({ by: ['Tam Brevik'] });
    house.left(two.client);
    expect(one.of('followed').at(-1)).toMatchObject({ by: [] });
    await until(() => (one.of('presence').at(-1)?.people as unknown[]).length === 1);
  });

  test('a screen that begins to follow, or ends it, is known to whom it followed', async () => {
    const { house, id } = await all.onAir();
    const [one, two] = [screen(id, yrsa), screen(id, tam)];
    for (const s of [one, two]) house.joined(s.client);
    two.client.watching.follows = yrsa.userId;
    house.watched(two.client);
    expect(one.of('followed').at(-1)).toMatchObject({ by: ['Tam Brevik'] });
    two.client.watching.follows = null;
    house.watched(two.client);
    expect(one.of('followed').at(-1)).toMatchObject({ by: [] });
  });

  test('of a show that is not open, nothing is told', async () => {
    const { house } = await all.onAir();
    const lost = screen('not-there', yrsa, { outputs: false });
    house.joined(lost.client);
    house.sendLevels();
    await house.sendOutputs();
    expect([lost.counts.levels, lost.counts.sources]).toEqual([0, 0]);
  });
});

describe('remote controls', () => {
  test('who subscribed is told what plays while remotes are on, once each; who left is not', async () => {
    const { house, say, osc } = await all.onAir();
    house.remote('/wingman/subscribe', [], TABLET);
    house.tellHands();
    expect(osc).toEqual([]);
    await say(yrsa, { command: 'remotes', on: true });
    house.tellHands();
    const first = osc.length;
    expect(first).toBeGreaterThan(0);
    house.tellHands();
    expect([osc.length, new Set(osc.map((o) => o.to))]).toEqual([first, new Set([9])]);
    house.remote('/wingman/go', [], TABLET);
    house.tellHands();
    expect(osc.length).toBeGreaterThan(first);
    expect(osc.slice(first).some(({ text }) => text.startsWith('/wingman/'))).toBe(true);
    house.remote('/wingman/unsubscribe', [], TABLET);
    const last = osc.length;
    house.remote('/wingman/go', [], TABLET);
    house.tellHands();
    expect(osc).toHaveLength(last);
  });

  test('what is refused is in the journal with the address that asked; where nothing is on air nothing is', async () => {
    const { house, id, say } = await all.onAir();
    house.remote('/wingman/go', [], TABLET);
    await until(async () => (await refusals(id)).length > 0);
    expect((await refusals(id))[0]).toMatchObject({
      text: 'Remote controls are off for this show.',
      data: { code: 'remotes', command: '/wingman/go' },
    });
    await say(yrsa, { command: 'air', on: false });
    house.remote('/wingman/go', [], TABLET);
    await settle();
    expect(await refusals(id)).toHaveLength(1);
  });

  test('a flood of what is refused is a line now and then', async () => {
    const { say, id } = await all.onAir();
    const loud: Actor = { ...iden, userId: 'loud' };
    for (let i = 0; i < 60; i++) await say(loud, { command: 'go' });
    await until(async () => (await refusals(id)).length >= 20);
    await settle();
    expect((await refusals(id)).length).toBeLessThan(30);
  });
});

describe('a hand at this machine', () => {
  test('types lines as well, by its own right and over whoever is on the board; what it may not is in the journal', async () => {
    const { house, id, show, say, cueNow } = await all.onAir();
    house.byHand(show, hand, { command: 'go' });
    expect(cueNow()).toBeNull();
    await say(yrsa, { command: 'remotes', on: true });
    await say(yrsa, { command: 'board', do: 'take' });
    house.byHand(show, hand, { command: 'type', text: 'goto 2' });
    await until(() => cueNow() === 2000);
    house.byHand(show, { ...hand, role: 'viewer' }, { command: 'go' });
    await until(async () => (await refusals(id)).length === 2);
    expect((await refusals(id)).map((r) => r.data)).toMatchObject([
      { code: 'forbidden', command: 'go', from: 'a screen' },
      { code: 'remotes' },
    ]);
    expect(cueNow()).toBe(2000);
  });
});

describe('beside light', () => {
  test('a list on its track gives timecode, while its show is on air', async () => {
    const { house, say, timecode } = await all.onAir(givesTime);
    await say(yrsa, { command: 'track', do: 'play', at_s: 0 });
    house.giveTimecode();
    expect([timecode.midi > 0, timecode.artnet]).toEqual([true, 1]);
    expect(await say(yrsa, { command: 'air', on: false })).toMatchObject({ ok: true });
    const before = { ...timecode };
    await settle();
    house.giveTimecode();
    expect(timecode).toEqual(before);
  });

  test('the process for sound is told what to sound by; how it stands goes to all screens', async () => {
    const { house, id, sound, soundSays } = await all.onAir((show) =>
      apply(show, 'change-show', { set: { soundOut: { at: 'player', device: 'Pit card' } } }),
    );
    const one = screen(id, yrsa);
    house.joined(one.client);
    house.giveSound();
    expect(sound).toContainEqual({ do: 'device', name: 'Pit card' });
    soundSays({
      is: 'state',
      devices: ['Pit card'],
      inputs: [],
      inputProblem: null,
      problem: null,
      ready: {},
      off_ms: {},
    });
    expect(one.of('sounds').at(-1)).toMatchObject({ devices: ['Pit card'] });
    expect(house.sounds.devices).toEqual(['Pit card']);
  });

  test('timecode from the network and from the sound of this machine is heard for the show on air', async () => {
    const { house, show, comes, soundSays } = await all.onAir((made) =>
      apply(made, 'change-show', { set: { soundOut: { at: 'player' } } }),
    );
    house.giveSound();
    const heard = () => house.hands.state(show).timecode;
    expect([heard().artnet.code, heard().ltc.code]).toEqual([null, null]);
    for (let frame = 0; frame < 3; frame++) {
      comes().artnet(artTimeCode(timecodeOf(90_000 + frame, '25')));
      soundSays({ is: 'time', time: timecodeOf(180_000 + frame, '25'), way: 1 });
    }
    expect([heard().artnet.code, heard().ltc.code]).toEqual([
      expect.stringMatching(/^01:00:00:0/),
      expect.stringMatching(/^02:00:00:0/),
    ]);
    expect(heard().midi.code).toBeNull();
  });

  test('what a desk moves on the network plays what its parts are bound to', async () => {
    const { house, say, show, cueNow, comes } = await all.onAir((made) => {
      apply(made, 'set-hand', {
        set: { name: 'Desk', kind: 'desk', at: 'player', port: 'sacn/5', pages: [''] },
      });
      const [id] = made.hands.keys();
      apply(made, 'bind', {
        hand: id,
        page: 1,
        control: 'slot.17',
        act: { do: 'list', what: 'go' },
      });
    });
    await say(yrsa, { command: 'remotes', on: true });
    const key = { control: 'slot.17', value: 1, on: true, isKey: true } as const;
    comes().moved('sacn/6', [key]);
    expect(cueNow()).toBeNull();
    comes().moved('sacn/5', [key]);
    expect(cueNow()).toBe(1000);
    expect(Object.keys(house.hands.state(show).heard)).toHaveLength(1);
    comes().gone('sacn/5');
    expect(cueNow()).toBe(1000);
  });
});

describe('what is said to somebody', () => {
  const inbox = async (of: Actor) => (await readInbox(all.db, of.userId)).entries;

  test('that somebody asks for the board is in the inbox of whoever has it, with what it is answered by; elsewhere nothing', async () => {
    const { say, house, id } = await all.onAir();
    for (const who of [yrsa, tam]) house.joined(screen(id, who).client);
    const before = [await inbox(yrsa), await inbox(tam)];
    await say(yrsa, { command: 'board', do: 'take' });
    await say(tam, { command: 'board', do: 'ask' });
    await until(async () => (await inbox(yrsa)).length > (before[0]?.length ?? 0));
    const [first] = await inbox(yrsa);
    expect(first).toMatchObject({
      kind: 'asked',
      from: { userId: tam.userId, name: 'Tam Brevik' },
      showName: 'Harbour lights',
      place: { place: 'crew', view: 'board' },
      ask: { thing: 'show' },
      done: false,
    });
    expect(await inbox(tam)).toHaveLength(before[1]?.length ?? 0);
    // What it was answered is read later as well, and wants no answer.
    await say(yrsa, { command: 'board', do: 'hand', to: tam.userId });
    await until(async () => (await inbox(tam)).length > (before[1]?.length ?? 0));
    expect((await inbox(tam))[0]).toMatchObject({ kind: 'handed', ask: null });
  });

  test('that a board changes hands is a state of the show to come back to', async () => {
    const { say, house, id } = await all.onAir();
    for (const who of [yrsa, tam]) house.joined(screen(id, who).client);
    await say(yrsa, { command: 'board', do: 'take' });
    await say(tam, { command: 'board', do: 'ask' });
    await say(yrsa, { command: 'board', do: 'hand', to: tam.userId });
    await until(async () =>
      (await listVersions(all.db, id)).some((v) => v.kind === 'board' && v.userName !== ''),
    );
  });

  test('somebody asks for a part of somebody: it is answered among the people', async () => {
    const { say, show } = await all.onAir((made) =>
      apply(made, 'set-part', {
        set: {
          name: 'Movers',
          fixtures: [idOf(made, 1)],
          lists: [],
          userId: yrsa.userId,
          userName: yrsa.name,
        },
      }),
    );
    const [part = ''] = show.show.parts.keys();
    const before = (await inbox(yrsa)).length;
    expect(await say(tam, { command: 'ask', part })).toMatchObject({ ok: true });
    await until(async () => (await inbox(yrsa)).length > before);
    expect((await inbox(yrsa))[0]).toMatchObject({
      kind: 'asked',
      place: { place: 'crew', view: 'people' },
      ask: { part },
    });
  });
});

describe('what cannot be', () => {
  test('a journal that cannot be written, and what was lost of what played, are said in the log; playing goes on', async () => {
    const kept = {
      read: () => Promise.resolve({ saved: null, lost: ['lists'] }),
      write: () => Promise.resolve(),
      problem: (connected: boolean) => (connected ? null : 'away'),
    };
    const { house, warned, say, cueNow } = await all.onAir(undefined, { keeping: kept as never });
    expect(warned).toEqual(['parts of what played could not be read']);
    expect(house.notKept).toBeNull();
    // A letter that the database cannot keep.
    await say({ ...iden, name: 'Iden\u0000Vale' }, { command: 'go' });
    await until(() => warned.includes('could not write the journal'));
    expect(await say(tam, { command: 'go' })).toMatchObject({ ok: true });
    expect(cueNow()).toBe(1000);
  });

  test('light that leads nowhere is no stream of ours: what is sent is told apart by where it goes', async () => {
    const { house } = await all.onAir((show) => {
      for (const id of [...show.routes.keys()]) apply(show, 'delete-route', { id });
      const route = (set: object): void => void apply(show, 'set-route', { set });
      const base = { universe: 1, protocol: 'sacn', wire: 7, priority: 100, on: true };
      route({ ...base, destination: 'multicast' });
      route({ ...base, destination: '10.20.0.9', wire: 8 });
      route({ ...base, destination: 'node', wire: 9 });
      route({ ...base, protocol: 'artnet', destination: 'broadcast', wire: 4 });
      route({ ...base, protocol: 'artnet', destination: '10.20.0.5', wire: 5 });
    });
    const { sacn, sacnHosts, toNode, artnetWires, artnetHosts } = house.sending();
    expect([[...sacn].sort(), sacnHosts, toNode]).toEqual([[7, 8, 9], ['10.20.0.9'], true]);
    expect([[...artnetWires].sort(), artnetHosts]).toEqual([[4, 5], ['10.20.0.5']]);
  });
});
