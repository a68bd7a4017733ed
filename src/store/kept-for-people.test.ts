/** Inbox, journal, preferences and the row of the player on air: what is kept, of whom, up to which number. */
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { isRefusal } from '../core/refusal.ts';
import { NIGHT } from '../core/crew/look.ts';
import { until } from '../core/testing/until.ts';
import { AIR_CHANNEL, MEMBERS_CHANNEL } from './channels.ts';
import { connect, type Database } from './database.ts';
import { listen } from './feed.ts';
import { markDone, markSeen, readInbox, tell } from './inbox.ts';
import { note, readJournal } from './journal.ts';
import { ownDatabase } from './own-database.ts';
import {
  beat,
  OUTPUT_LOCK,
  playerAddress,
  playerOnAir,
  register,
  sequencesNow,
  waitingPlayers,
} from './players.ts';
import { readPreferences, writePreferences } from './preferences.ts';
import { createShow } from './shows.ts';
import { changeWires, readWires } from './wires.ts';
import { WIRES } from '../core/wires/wires.ts';
import { sql } from 'kysely';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
let show = '';
const [mara, tam] = [randomUUID(), randomUUID()];

beforeAll(async () => {
  own = await ownDatabase();
  ({ db } = own);
  for (const [id, name] of [
    [mara, 'Mara Kell'],
    [tam, 'Tam Brevik'],
  ] as const)
    await db
      .insertInto('user')
      .values({ id, name, email: `${id}@tidewater.example` })
      .execute();
  const made = await createShow(db, mara, 'Harbour lights');
  if (isRefusal(made)) throw new Error(made.message);
  show = made.id;
});
afterAll(() => own.drop());

test('the network of a house: what is given is changed, the rest stays, and it is read again', async () => {
  expect(await readWires(db)).toEqual(WIRES);
  expect(await changeWires(db, { sourceName: 'Tidewater House' })).toEqual({
    ...WIRES,
    sourceName: 'Tidewater House',
  });
  expect(await readWires(db)).toMatchObject({ sourceName: 'Tidewater House' });
  await changeWires(db, { sourceName: WIRES.sourceName });
  expect(await readWires(db)).toEqual(WIRES);
});

test('whoever is on air hears that the network of the house is another, and reads it again', async () => {
  const heard: unknown[] = [];
  const feed = listen(
    own.url,
    (channel, payload) => {
      if (channel === AIR_CHANNEL) heard.push(payload);
    },
    () => undefined,
  );
  await until(() => feed.connected());
  await changeWires(db, { sourceName: 'Quay' });
  await until(() => heard.length > 0);
  expect(heard).toEqual([{ wires: true }]);
  await changeWires(db, { sourceName: WIRES.sourceName });
  await feed.stop();
});

describe('an inbox', () => {
  const from = { userId: tam, name: 'Tam Brevik' };
  const about = () => ({ showId: show, showName: 'Harbour lights', from });
  const said = (userId: string, text: string) => ({
    userId,
    kind: 'ask' as never,
    text,
    place: { in: 'crew' } as never,
  });
  const clear = () => db.deleteFrom('inbox').execute();
  beforeEach(clear);

  test('its person’s screens hear of it, with how it begins, or quietly; nobody hears of an account that is gone', async () => {
    const ears = new pg.Client(own.url);
    await ears.connect();
    const heard: unknown[] = [];
    ears.on('notification', (n) => heard.push(JSON.parse(n.payload ?? 'null')));
    await ears.query(`listen ${MEMBERS_CHANNEL}`);
    await tell(db, about(), [
      said(mara, 'x'.repeat(600)),
      said(randomUUID(), 'gone'),
      { ...said(tam, 'quiet'), quiet: true },
    ]);
    await ears.query('select 1');
    await ears.end();
    expect(heard).toEqual([
      { inbox: mara, of: show, says: 'x'.repeat(400) },
      { inbox: tam, of: show, says: null },
    ]);
  });

  test('is read newest first, a hundred at once, and on from any of them', async () => {
    await tell(
      db,
      about(),
      Array.from({ length: 130 }, (_, i) => said(mara, `n${i}`)),
    );
    const first = await readInbox(db, mara);
    expect([first.entries.length, first.entries[0]?.text, first.unseen]).toEqual([
      100,
      'n129',
      130,
    ]);
    const rest = await readInbox(db, mara, first.entries.at(-1)?.id);
    expect(rest.entries.map((e) => e.text)).toEqual(
      Array.from({ length: 30 }, (_, i) => `n${29 - i}`),
    );
    expect((await readInbox(db, tam)).entries).toEqual([]);
  });

  test('read up to an entry: that one and the older ones, of this person alone', async () => {
    await tell(db, about(), [said(mara, 'a'), said(mara, 'b'), said(mara, 'c'), said(tam, 'd')]);
    const { entries } = await readInbox(db, mara);
    await markSeen(db, mara, entries[1]?.id ?? 0);
    const after = await readInbox(db, mara);
    expect(after.entries.map((e) => [e.text, e.seen])).toEqual([
      ['c', false],
      ['b', true],
      ['a', true],
    ]);
    expect([after.unseen, (await readInbox(db, tam)).unseen]).toEqual([1, 1]);
  });

  test('an ask is done where it is one’s own, and nowhere else', async () => {
    await tell(db, about(), [said(mara, 'a'), said(mara, 'b')]);
    const [b] = (await readInbox(db, mara)).entries;
    await markDone(db, tam, b?.id ?? 0);
    expect((await readInbox(db, mara)).entries.map((e) => e.done)).toEqual([false, false]);
    await markDone(db, mara, b?.id ?? 0);
    expect((await readInbox(db, mara)).entries.map((e) => e.done)).toEqual([true, false]);
  });

  test('keeps the newest four hundred; long words are cut, and who has no account has no inbox', async () => {
    await tell(
      db,
      about(),
      Array.from({ length: 403 }, (_, i) => said(mara, `n${i}`)),
    );
    await tell(db, about(), [said(randomUUID(), 'nobody'), said(mara, 'x'.repeat(700))]);
    const rows = await db.selectFrom('inbox').select(['text']).orderBy('id').execute();
    expect(rows).toHaveLength(400);
    expect(rows[0]?.text).toBe('n4');
    expect(rows.at(-1)?.text).toHaveLength(600);
    await tell(db, about(), []);
    await tell(db, about(), [said(randomUUID(), 'nobody')]);
    expect(await db.selectFrom('inbox').select('id').execute()).toHaveLength(400);
  });
});

test('a journal is read by kind, by person, and before an entry; words are cut', async () => {
  const did = (userId: string, kind: string, text: string) =>
    note(db, show, { userId, userName: 'n', kind: kind as never, text });
  await did(mara, 'go', 'one');
  await did(tam, 'go', 'two');
  await did(mara, 'refused', 'y'.repeat(600));
  const texts = async (q: object) =>
    (await readJournal(db, show, { limit: 50, ...q })).map((e) => e.text.slice(0, 5));
  expect(await texts({})).toEqual(['yyyyy', 'two', 'one']);
  expect(await texts({ kind: 'go' })).toEqual(['two', 'one']);
  expect(await texts({ userId: mara })).toEqual(['yyyyy', 'one']);
  const [last, second] = await readJournal(db, show, { limit: 2 });
  expect([last?.text.length, last?.data]).toEqual([500, {}]);
  expect(await texts({ before: second?.id })).toEqual(['one']);
  expect(await texts({ limit: 1 })).toEqual(['yyyyy']);
});

test('preferences are one’s own, come back as they were, and what cannot be read is as nothing', async () => {
  const nothing = await readPreferences(db, mara);
  expect(nothing).toEqual({
    types: { recent: [], favourite: [] },
    keys: {},
    layouts: {},
    filters: [],
    hands: [],
    look: NIGHT,
  });
  const mine = { ...nothing, keys: { go: 'F1' }, layouts: { run: '{}' } };
  await writePreferences(db, mara, { ...nothing, keys: { go: 'F2' } });
  await writePreferences(db, mara, mine);
  expect(await readPreferences(db, mara)).toEqual(mine);
  expect(await readPreferences(db, tam)).toEqual(nothing);
  await db
    .updateTable('preferences')
    .set({ value: JSON.stringify({ types: 'none' }) })
    .where('user_id', '=', mara)
    .execute();
  expect(await readPreferences(db, mara)).toEqual(nothing);
});

describe('the player on air', () => {
  test('writes where its packets are for as long as it is the one', async () => {
    await register(db, { id: 'a', address: '127.0.0.1:1', machine: 'here' });
    expect(await playerAddress(db)).toBe('127.0.0.1:1');
    expect(await beat(db, 'a', { 'sacn/1': 40 })).toBe(true);
    await register(db, { id: 'b', address: '127.0.0.1:2', machine: 'there' });
    expect(await beat(db, 'a', { 'sacn/1': 90 })).toBe(false);
    // One packet at least may have left since; more than a moment has not gone by.
    const next = (await sequencesNow(db))['sacn/1'] ?? 0;
    expect(next).toBeGreaterThanOrEqual(41);
    expect(next).toBeLessThan(40 + 200);
    expect(await playerAddress(db)).toBe('127.0.0.1:2');
  });

  test('is the one that holds the lock: none, one, and those that wait', async () => {
    await register(db, { id: 'b', address: '127.0.0.1:2', machine: 'there' });
    expect([await playerOnAir(db), await waitingPlayers(db)]).toEqual([null, 0]);
    const holder = connect(own.url, 1).db;
    await sql`select pg_advisory_lock(${OUTPUT_LOCK})`.execute(holder);
    expect(await playerOnAir(db)).toEqual({ address: '127.0.0.1:2', machine: 'there' });
    expect(await waitingPlayers(db)).toBe(0);
    const second = connect(own.url, 1).db;
    const waits = sql`select pg_advisory_lock(${OUTPUT_LOCK})`.execute(second);
    while ((await waitingPlayers(db)) === 0) await new Promise((done) => setTimeout(done, 20));
    expect(await waitingPlayers(db)).toBe(1);
    await holder.destroy();
    await waits;
    expect(await waitingPlayers(db)).toBe(0);
    await second.destroy();
    while ((await playerOnAir(db)) !== null) await new Promise((done) => setTimeout(done, 20));
  });
});
