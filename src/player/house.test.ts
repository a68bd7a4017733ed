/** The house around its shows: who is let do what, what comes by the clock, from remotes and hands, and what screens are told. */
import { randomUUID } from 'node:crypto';
import type { LiveCommand } from '../core/live/commands.ts';
import { slotKey } from '../core/cues/rows.ts';
import { isRefusal } from '../core/refusal.ts';
import type { MutableShow } from '../core/show/show.ts';
import { apply, idOf } from '../core/testing/example.ts';
import { until } from '../core/testing/until.ts';
import { AIR_CHANNEL, CHANNEL, MEMBERS_CHANNEL } from '../store/channels.ts';
import { ShowStore } from '../store/commit.ts';
import { readJournal } from '../store/journal.ts';
import type { Actor } from './actor.ts';
import type { Answer } from './answer.ts';
import type { HouseNeeds } from './house.ts';
import { houses, iden, screen, tam, yrsa } from './simulated-house.ts';

let all: Awaited<ReturnType<typeof houses>>;
beforeAll(async () => void (all = await houses()));
afterAll(() => all.end());
const newShow = (): Promise<string> => all.newShow();
const onAir = (make?: (show: MutableShow) => void, more?: Partial<HouseNeeds>) =>
  all.onAir(make, more);
const open = (more?: Partial<HouseNeeds>) => all.open(more);

const codeOf = (answer: Answer): string => (isRefusal(answer) ? answer.code : 'ok');
const settle = (): Promise<void> => new Promise((done) => setTimeout(done, 20));

describe('commands', () => {
  test('are carried out for whoever may, on shows that are there', async () => {
    const { house, say, cueNow } = await onAir();
    expect(codeOf(await say(tam, { command: 'go' }))).toBe('ok');
    expect(cueNow()).toBe(1000);
    expect(codeOf(await say(iden, { command: 'go' }))).toBe('forbidden');
    expect(cueNow()).toBe(1000);
    expect(codeOf(await house.command(randomUUID(), yrsa, { command: 'go' }))).toBe('not-found');
  });

  test('what a right forbids is kept in the journal; what is merely wrong is not', async () => {
    const { id, say } = await onAir();
    await say(iden, { command: 'go' });
    await say(tam, { command: 'goto', cue: '99' });
    const refusals = async (): Promise<{ text: string; userName: string }[]> =>
      await readJournal(all.db, id, { kind: 'refused', limit: 10 });
    await until(async () => (await refusals()).length > 0);
    await settle();
    expect((await refusals()).map((r) => r.userName)).toEqual(['Iden Vale']);
  });

  test('a line is typed: its edits are there for what follows it', async () => {
    const { say, show } = await onAir();
    expect(codeOf(await say(yrsa, { command: 'type', text: 'name cue 2 Harbour' }))).toBe('ok');
    expect([...show.show.cues.values()].find((c) => c.number === 2000)?.name).toBe('Harbour');
    expect(codeOf(await say(tam, { command: 'type', text: 'name cue 2 Quay' }))).not.toBe('ok');
  });

  test('timecode leads the show on air, and no other', async () => {
    const { house, say } = await onAir();
    const other = await newShow();
    const timecode = {
      command: 'timecode',
      from: 'ltc',
      h: 1,
      m: 0,
      s: 0,
      f: 0,
      rate: 25,
      way: 1,
      stands: false,
    } as unknown as LiveCommand;
    expect(codeOf(await say(tam, timecode))).toBe('ok');
    expect(codeOf(await house.command(other, yrsa, timecode))).toBe('invalid');
  });

  test('units are asked by the player that is on the network', async () => {
    const { say, network } = await onAir();
    const look: LiveCommand = { command: 'rdm', do: 'look' };
    expect(codeOf(await say(yrsa, look))).toBe('unavailable');
    const asked: string[] = [];
    network.units = {
      look: () => Promise.resolve(void asked.push('look')),
      set: (...what: unknown[]) => Promise.resolve(void asked.push(what.join(' '))),
    };
    expect(codeOf(await say(yrsa, look))).toBe('ok');
    expect(codeOf(await say(yrsa, { command: 'rdm', do: 'identify' }))).toBe('invalid');
    const uid = '7ff0:00000001';
    expect(codeOf(await say(yrsa, { command: 'rdm', do: 'address', uid, value: 41 }))).toBe('ok');
    expect(asked).toEqual(['look', `${uid} address 41`]);
  });
});

describe('remote controls and hands', () => {
  const from = { address: '127.0.0.1', port: 9 };

  test('play the show on air while its remotes are on', async () => {
    const { house, say, cueNow } = await onAir();
    house.remote('/wingman/go', [], from);
    expect(cueNow()).toBeNull();
    await say(yrsa, { command: 'remotes', on: true });
    house.remote('/wingman/go', [], from);
    expect(cueNow()).toBe(1000);
    house.remote('/wingman/nonsense', [1, 2], from);
    expect(cueNow()).toBe(1000);
  });

  test('a hand at this machine plays over whoever is on the board, and what a role may not is refused', async () => {
    const { house, show, say, cueNow } = await onAir();
    await say(yrsa, { command: 'remotes', on: true });
    await say(yrsa, { command: 'board', do: 'take' });
    const hand: Actor = { userId: 'hand/1', name: 'the hand', role: 'operator', remote: true };
    house.byHand(show, hand, { command: 'go' });
    expect(cueNow()).toBe(1000);
    house.byHand(show, { ...hand, role: 'viewer' }, { command: 'go' });
    expect(cueNow()).toBe(1000);
  });
});

describe('the clock', () => {
  beforeEach(() =>
    jest.useFakeTimers({
      doNotFake: ['setTimeout', 'setInterval', 'setImmediate', 'nextTick', 'performance'],
    }),
  );
  afterEach(() => jest.useRealTimers());
  const withClock = (time: string) => (show: MutableShow) => {
    const second = [...show.cues.values()].find((c) => c.number === 2000);
    apply(show, 'change-cue', { id: second?.id, set: { clock: time } });
  };

  test('a cue goes at its time of day, once, and no clock that is put right brings the day', async () => {
    jest.setSystemTime(new Date('2026-11-24T19:29:50'));
    const { house, say, cueNow } = await onAir(withClock('19:30:00'));
    const look = (time: string): number | null => {
      jest.setSystemTime(new Date(`2026-11-24T${time}`));
      house.lookAtClock();
      return cueNow();
    };
    expect(look('19:29:59')).toBeNull();
    expect(look('19:30:00')).toBe(2000);
    await say(tam, { command: 'goto', cue: '1' });
    expect(look('19:30:01')).toBe(1000);
    expect(look('19:29:58')).toBe(1000);
    expect(look('19:30:02')).toBe(1000);
  });

  test('a clock that goes back does not bring what is later', async () => {
    jest.setSystemTime(new Date('2026-11-24T19:29:50'));
    const { house, cueNow } = await onAir(withClock('22:00:00'));
    for (const time of ['19:30:05', '19:30:04', '18:30:00', '18:30:01']) {
      jest.setSystemTime(new Date(`2026-11-24T${time}`));
      house.lookAtClock();
    }
    expect(cueNow()).toBeNull();
  });

  test('what the calendar says comes for the show on air', async () => {
    jest.setSystemTime(new Date('2026-11-24T17:59:50'));
    const { house, cueNow } = await onAir((show) =>
      apply(show, 'set-occasion', {
        set: {
          name: 'Foyer',
          list: 'main',
          does: 'go',
          on: true,
          at: { by: 'clock', time: '18:00:00' },
        },
      }),
    );
    house.lookAtClock();
    expect(cueNow()).toBeNull();
    jest.setSystemTime(new Date('2026-11-24T18:00:00'));
    house.lookAtClock();
    expect(cueNow()).toBe(1000);
  });
});

describe('on air', () => {
  test('whoever has the right looks at the network and puts on what was on air', async () => {
    const { network, told, id, house } = await onAir();
    expect(network.began).toBe(1);
    expect(told.find((m) => m.do === 'air')).toEqual({ do: 'air', showId: id, fade_s: 0 });
    expect(house.air()).toMatchObject({ showId: id, problem: null });
  });

  test('one that waits says so, and keeps the show at hand', async () => {
    await newShow();
    const { house, told } = open();
    expect([house.onAir, house.air().problem]).toEqual([false, 'another player has the output']);
    await house.follow();
    expect(told).toEqual([]);
  });

  test('another show is put on air by another process; another player takes the output', async () => {
    const { news, told, house, displaced } = await onAir();
    const other = await newShow();
    news(AIR_CHANNEL, { show: other });
    await until(() => house.air().showId === other);
    expect(told.at(-1)).toMatchObject({ do: 'air', showId: other, fade_s: 2 });
    news(AIR_CHANNEL, { player: 'here:1' });
    expect(displaced.times).toBe(0);
    news(AIR_CHANNEL, { player: 'elsewhere:1' });
    expect(displaced.times).toBe(1);
  });

  test('routes by name of the node, by the network, and to hosts are told apart for those who look at the network', async () => {
    const { house } = await onAir();
    const { sacn, sacnHosts, artnetHosts, toNode } = house.sending();
    expect([Array.isArray(sacn), sacnHosts, artnetHosts, typeof toNode]).toEqual([
      true,
      [],
      [],
      'boolean',
    ]);
    const { house: waits } = open();
    expect(waits.sending()).toEqual({
      sacn: [],
      sacnHosts: [],
      toNode: false,
      artnetWires: [],
      artnetHosts: [],
    });
  });

  test('an edit that another process wrote is in what plays; after a lost connection it is looked for', async () => {
    const { id, show, news, missed, network } = await onAir();
    const store = new ShowStore(all.db);
    const rename = async (name: string): Promise<void> => {
      const author = { userId: yrsa.userId, name: 'Yrsa Oddny' };
      const second = [...show.show.cues.values()].find((c) => c.number === 2000)?.id;
      const params = { id: second, set: { name } };
      const done = await store.edit(id, author, {
        edit: 'change-cue',
        params,
        editId: randomUUID(),
      });
      if (isRefusal(done)) throw new Error(done.message);
    };
    const name = (): string | undefined =>
      [...show.show.cues.values()].find((c) => c.number === 2000)?.name;
    await rename('Harbour');
    await settle();
    expect(name()).not.toBe('Harbour');
    news(CHANNEL, { show: id });
    await until(() => name() === 'Harbour');
    await rename('Quay');
    missed();
    await until(() => name() === 'Quay');
    expect(network.readAgain).toBe(1);
    news(AIR_CHANNEL, { wires: true });
    expect(network.readAgain).toBe(2);
  });
});

describe('screens', () => {
  test('outputs go to those who look at them, each second once; lines to those of the show on air', async () => {
    const { house, id } = await onAir();
    const other = await newShow();
    await house.open(other);
    const looks = screen(id, yrsa, { outputs: true });
    const elsewhere = screen(other, yrsa, { outputs: true });
    const not = screen(id, tam);
    for (const s of [looks, elsewhere, not]) house.joined(s.client);
    await house.sendOutputs();
    await house.sendOutputs();
    const outputs = (s: typeof looks) => s.heard.filter((m) => m.type === 'outputs');
    expect(outputs(looks).map((m) => (m.seconds as unknown[]).length)).toEqual([3, 0]);
    expect(outputs(looks)[0]).toMatchObject({ lines: [{ routeId: 'r' }], osc: { port: 9440 } });
    expect(outputs(elsewhere)[0]).toMatchObject({ lines: [] });
    expect([outputs(not), not.counts.sources]).toEqual([[], 2]);
    // Who comes later has all of it, and nobody else hears any of it again.
    const late = screen(id, tam, { outputs: true });
    house.joined(late.client);
    await house.sendOutputs();
    expect([looks, late].map((s) => (outputs(s).at(-1)?.seconds as unknown[]).length)).toEqual([
      0, 3,
    ]);
  });

  test('levels go to all, and all are looked after', async () => {
    const { house, id } = await onAir();
    const [one, two] = [screen(id, yrsa), screen(id, tam)];
    house.joined(one.client);
    house.joined(two.client);
    house.sendLevels();
    house.lookAtPeople();
    expect([one.counts, two.counts]).toMatchObject([
      { levels: 1, looks: 1 },
      { levels: 1, looks: 1 },
    ]);
  });

  test('what somebody forced ends with their last screen, and with no other', async () => {
    const { house, id, show, say, frame } = await onAir();
    const [one, two] = [screen(id, yrsa), screen(id, yrsa)];
    house.joined(one.client);
    house.joined(two.client);
    const fixtures = [idOf(show.show, 1)];
    await say(yrsa, { command: 'select', fixtures } as unknown as LiveCommand);
    await say(yrsa, { command: 'highlight', on: true });
    const slot = show.slots.keys.indexOf(slotKey(idOf(show.show, 1), 'Dimmer'));
    await until(() => show.shared !== null);
    const isLit = (): boolean => {
      frame();
      return show.shared !== null && show.source(slot, show.shared) === 'highlight by Yrsa Oddny';
    };
    expect(isLit()).toBe(true);
    house.left(one.client);
    expect(isLit()).toBe(true);
    house.left(two.client);
    expect(isLit()).toBe(false);
  });

  test('news of people are for those people', async () => {
    const { house, id, news } = await onAir();
    const [mine, theirs] = [screen(id, yrsa), screen(id, tam)];
    house.joined(mine.client);
    house.joined(theirs.client);
    news(MEMBERS_CHANNEL, { inbox: yrsa.userId, of: id, says: 'A note for you' });
    const inbox = (s: typeof mine) => s.heard.filter((m) => m.type === 'inbox');
    expect([inbox(mine), inbox(theirs)]).toEqual([[{ type: 'inbox', says: 'A note for you' }], []]);
  });
});

test('at the end what plays is kept, and nobody looks at the network any more', async () => {
  const { house, id, say, network } = await onAir();
  await say(tam, { command: 'go' });
  expect(await house.saveAll()).toEqual([]);
  house.endLooking();
  expect(network.closed).toBe(1);
  const { house: next } = open();
  const show = await next.open(id);
  expect(show?.playback().lists[0]?.cueNumber).toBe(1000);
});
