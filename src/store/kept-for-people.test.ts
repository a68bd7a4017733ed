/** The network of a house, a show’s journal, a person’s preferences: what is kept, of whom, up to which number. */
import { randomUUID } from 'node:crypto';
import { isRefusal } from '../core/refusal.ts';
import { NIGHT } from '../core/crew/look.ts';
import { until } from '../core/testing/until.ts';
import { AIR_CHANNEL } from './channels.ts';
import type { Database } from './database.ts';
import { listen } from './feed.ts';
import { note, readJournal } from './journal.ts';
import { ownDatabase } from './own-database.ts';
import { readPreferences, writePreferences } from './preferences.ts';
import { createShow } from './shows.ts';
import { changeWires, readWires } from './wires.ts';
import { WIRES } from '../core/wires/wires.ts';

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
