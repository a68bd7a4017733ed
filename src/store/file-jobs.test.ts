/** Jobs with whole shows, each done as its process does it: what is answered, what is written, and who may not. */
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gdtfOf, HEAD } from '../core/gdtf/golden.ts';
import { isRefusal, type Refusal } from '../core/refusal.ts';
import type { Decisions } from '../core/show/merge.ts';
import { ShowStore, type Author } from './commit.ts';
import type { Database } from './database.ts';
import { doJob, type BringIn, type FileAnswer, type FileJob } from './file-jobs.ts';
import { copyShow } from './copies.ts';
import { ownDatabase } from './own-database.ts';
import { createShow, listShows, loadShow, setMember } from './shows.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
const person = (name: string): Author => ({ userId: randomUUID(), name });
const [mara, tam] = [person('Mara Kell'), person('Tam Brevik')];
const data = mkdtempSync(join(tmpdir(), 'jobs-'));

beforeAll(async () => {
  own = await ownDatabase();
  ({ db } = own);
  for (const { userId, name } of [mara, tam])
    await db
      .insertInto('user')
      .values({ id: userId, name, email: `${userId}@tidewater.example` })
      .execute();
});
afterAll(async () => {
  await own.drop();
  rmSync(data, { recursive: true, force: true });
});

async function* inPieces(bytes: Uint8Array): AsyncIterable<Uint8Array> {
  for (let at = 0; at < bytes.length; at += 1000)
    yield await Promise.resolve(bytes.subarray(at, at + 1000));
}
/** Each job as if it had a process of its own. */
const ask = (job: FileJob, bytes: Uint8Array = new Uint8Array(0)) =>
  doJob(db, job, inPieces(bytes));
async function must(job: FileJob, bytes?: Uint8Array): Promise<FileAnswer> {
  const done = await ask(job, bytes);
  if (isRefusal(done)) throw new Error(done.message);
  return done;
}
const answer = async <T>(job: FileJob, bytes?: Uint8Array): Promise<T> =>
  (await must(job, bytes)).answer as T;
async function edit(showId: string, name: string, params: unknown): Promise<void> {
  const done = await new ShowStore(db).edit(showId, mara, {
    edit: name,
    params,
    editId: randomUUID(),
  });
  if (isRefusal(done)) throw new Error(done.message);
}
async function shown(showId: string) {
  const copy = await loadShow(db, showId);
  if (!copy) throw new Error('no show');
  return copy;
}

/** Two dimmers, a group of them, and a cue. */
async function small(name = 'Harbour lights'): Promise<string> {
  const made = await createShow(db, mara.userId, name, 'Tidewater House');
  if (isRefusal(made)) throw new Error(made.message);
  await edit(made.id, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 2,
    first: 1,
    universe: 1,
    address: 1,
    label: 'FOH #',
  });
  const { show } = await shown(made.id);
  const fixtures = [...show.fixtures.keys()];
  await edit(made.id, 'record-group', { name: 'Second', fixtures, number: 2 });
  await edit(made.id, 'record-group', { name: 'First', fixtures, number: 1 });
  await record(made.id, 1, 0.5);
  return made.id;
}
async function record(showId: string, number: number, level: number): Promise<void> {
  const { show } = await shown(showId);
  await edit(showId, 'record-cue', {
    listId: 'main',
    number: number * 1000,
    values: [{ fixtureId: show.fixtureByNumber(1)?.id, attribute: 'Dimmer', level }],
  });
}
const copied = async (showId: string, name: string): Promise<string> => {
  const copy = await copyShow(new ShowStore(db), showId, mara.userId, name);
  if (isRefusal(copy)) throw new Error(copy.message);
  return copy.id;
};
const UNDECIDED: Decisions = { rules: [], choices: {} };
const merging = (
  showId: string,
  from: string,
  preview: boolean,
  decisions: Decisions = UNDECIDED,
): FileJob => ({
  do: 'merge',
  showId,
  author: mara,
  from: { show: from },
  decisions,
  editId: randomUUID(),
  preview,
});
const NOBODYS: Partial<Refusal> = { refused: true, code: 'not-found' };

test('written and opened again it is another show with the same in it, that knows where it is from', async () => {
  const id = await small();
  const written = await must({ do: 'write', showId: id, by: 'Mara Kell' });
  const { seq } = await shown(id);
  expect(written.answer).toEqual({ name: 'Harbour lights', seq, sounds: [] });
  const opened = await answer<{ id: string }>({ do: 'open', userId: tam.userId }, written.bytes);
  expect(opened.id).not.toBe(id);
  const [before, after] = [await shown(id), await shown(opened.id)];
  expect([...after.show.rows()]).toEqual([...before.show.rows()]);
  expect((await listShows(db, tam.userId)).map((s) => [s.id, s.role, s.venue])).toEqual([
    [opened.id, 'owner', 'Tidewater House'],
  ]);
  expect(await ask({ do: 'write', showId: 'none', by: '' })).toMatchObject(NOBODYS);
  const broken = written.bytes?.slice(0, 300);
  expect(await ask({ do: 'open', userId: tam.userId }, broken)).toMatchObject({ refused: true });
  expect(await listShows(db, tam.userId)).toHaveLength(1);
});

test('a file that is taken in says what it is, and is its bringer’s to use', async () => {
  const id = await small('Taken');
  const { bytes } = await must({ do: 'write', showId: id, by: 'Mara Kell' });
  const taken = await answer<{ id: string }>(
    { do: 'take-in', userId: mara.userId, name: 'Taken.wingman' },
    bytes,
  );
  expect(taken).toMatchObject({
    show: { id, name: 'Taken', venue: 'Tidewater House' },
    by: 'Mara Kell',
    counts: { fixtures: 2, cues: 1 },
  });
  const other = await small('Other');
  const parts = (userId: string): FileJob => ({
    do: 'parts',
    showId: other,
    userId,
    from: { file: taken.id },
    by: 'number',
  });
  expect(await answer(parts(mara.userId))).toMatchObject({ name: 'Taken' });
  expect(await ask(parts(tam.userId))).toMatchObject(NOBODYS);
  expect(
    await ask({ do: 'take-in', userId: mara.userId, name: 'x' }, new Uint8Array(100)),
  ).toMatchObject({ refused: true });
});

test('the parts of a show stand in the order of their numbers, with whom of ours they stand for', async () => {
  const [ours, theirs] = [await small('Ours'), await small('Theirs')];
  await record(theirs, 3, 0.3);
  await record(theirs, 2, 0.2);
  const [a, b] = [(await shown(ours)).show, (await shown(theirs)).show];
  const found = await answer({
    do: 'parts',
    showId: ours,
    userId: mara.userId,
    from: { show: theirs },
    by: 'number',
  });
  expect(found).toMatchObject({
    name: 'Theirs',
    lists: [{ id: 'main', cues: [{ number: 1000 }, { number: 2000 }, { number: 3000 }] }],
    groups: [
      { number: 1, name: 'First' },
      { number: 2, name: 'Second' },
    ],
    fixtures: [
      { number: 1, label: 'FOH 1', type: 'Dimmer' },
      { number: 2, label: 'FOH 2', type: 'Dimmer' },
    ],
    mapping: { [b.fixtureByNumber(1)?.id ?? '']: a.fixtureByNumber(1)?.id },
  });
  expect(
    await ask({
      do: 'parts',
      showId: 'none',
      userId: mara.userId,
      from: { show: theirs },
      by: 'number',
    }),
  ).toMatchObject({ ...NOBODYS, message: 'This show does not exist.' });
});

test('the other side is a show that one may look at: not a stranger’s, nor one that one has a page of', async () => {
  const [ours, theirs] = [await small('Ours'), await small('Theirs')];
  const job = (): FileJob => ({
    do: 'parts',
    showId: ours,
    userId: tam.userId,
    from: { show: theirs },
    by: 'number',
  });
  expect(await ask(job())).toMatchObject(NOBODYS);
  const email = `${tam.userId}@tidewater.example`;
  await setMember(db, theirs, email, 'volunteer');
  expect(await ask(job())).toMatchObject(NOBODYS);
  await setMember(db, theirs, email, 'viewer');
  expect(await answer(job())).toMatchObject({ name: 'Theirs' });
});

test('a merge is looked at without being made; made, it is one change, and nothing of it comes twice', async () => {
  const ours = await small();
  const theirs = await copied(ours, 'Apart');
  await record(theirs, 2, 0.8);
  const before = await shown(ours);
  const preview = await answer<object>(merging(ours, theirs, true));
  expect(preview).toMatchObject({
    said: 'since it was copied from here',
    itemCount: 2,
    conflictCount: 0,
    open: 0,
    seq: before.seq,
  });
  expect(preview).toHaveProperty('items.length', 2);
  expect(preview).toHaveProperty('conflicts', []);
  // The cue and its value.
  expect(preview).toHaveProperty('changes.length', 2);
  expect((await shown(ours)).seq).toBe(before.seq);
  expect(await answer(merging(ours, theirs, false))).toMatchObject({
    seq: before.seq + 1,
    summary: 'Merged “Apart”: 2 rows',
  });
  expect((await shown(ours)).show.cuesOf('main').map((c) => c.number)).toEqual([1000, 2000]);
  expect(await answer(merging(ours, theirs, true))).toMatchObject({ itemCount: 0, changes: [] });
});

test('what both changed is a conflict: it has to be decided, and is then as it was decided', async () => {
  const ours = await small();
  const theirs = await copied(ours, 'Apart');
  await record(ours, 1, 0.1);
  await record(theirs, 1, 0.9);
  const preview = await answer<{ conflicts: { key: string }[] }>(merging(ours, theirs, true));
  expect(preview).toMatchObject({ conflictCount: 1, open: 1 });
  expect(await ask(merging(ours, theirs, false))).toMatchObject({
    code: 'conflict',
    message: 'One conflict is not decided yet. Nothing was changed.',
  });
  const choices = Object.fromEntries(preview.conflicts.map((c) => [c.key, 'theirs' as const]));
  expect(await answer(merging(ours, theirs, false, { rules: [], choices }))).toMatchObject({
    summary: 'Merged “Apart”: 1 rows, 1 conflicts decided',
  });
  const { show } = await shown(ours);
  const [value] = show.valuesOf(show.cuesOf('main')[0]?.id ?? '').values();
  expect(value?.level).toBe(0.9);
  const strange = await small('Strange');
  expect(await ask(merging(ours, strange, true))).toMatchObject({ code: 'unrelated' });
  expect(await ask(merging(ours, 'none', true))).toMatchObject(NOBODYS);
});

test('parts are brought in onto fixtures of the same numbers; looked at first, nothing is written', async () => {
  const [ours, theirs] = [await small('Ours'), await small('Theirs')];
  await record(theirs, 7, 0.7);
  const { show } = await shown(theirs);
  const seven = show.cuesOf('main').find((c) => c.number === 7000);
  const wanted = (more: Partial<BringIn> = {}): FileJob => ({
    do: 'bring-in',
    showId: ours,
    author: mara,
    editId: randomUUID(),
    wanted: {
      from: { show: theirs },
      cues: [seven?.id ?? ''],
      listId: 'main',
      palettes: [],
      groups: [],
      looks: [],
      effects: [],
      fixtures: [],
      by: 'number',
      mapping: {},
      preview: false,
      ...more,
    },
  });
  const before = await shown(ours);
  const preview = await answer<{ rows: number }>(wanted({ preview: true }));
  expect([preview.rows, (await shown(ours)).seq]).toEqual([2, before.seq]);
  expect(await answer(wanted())).toMatchObject({
    seq: before.seq + 1,
    rows: 2,
    notes: [],
    summary: expect.stringContaining('from “Theirs”'),
  });
  const after = (await shown(ours)).show;
  const [value] = after.valuesOf(after.cuesOf('main').at(-1)?.id ?? '').values();
  expect(value).toMatchObject({ fixtureId: after.fixtureByNumber(1)?.id, level: 0.7 });
  // By hand to none of ours: nothing is left of it, and that is said.
  const own = show.fixtureByNumber(1)?.id ?? '';
  const none = await ask(wanted({ mapping: { [own]: null }, preview: true }));
  expect(JSON.stringify(none)).not.toContain('"rows":2');
  expect(await ask(wanted({ from: { show: 'none' } }))).toMatchObject(NOBODYS);
});

test('a back-up is made once of each state; opened it is a show of its own, called after its day', async () => {
  const id = await small('Kept');
  const back: FileJob = { do: 'back-up', data, showId: id, by: 'Mara Kell' };
  const { file } = await answer<{ file: string }>(back);
  expect(await ask(back)).toMatchObject({
    code: 'nothing',
    message: 'The newest back-up has all of this already.',
  });
  const opening = (name: string, showId = id): FileJob => ({
    do: 'open-backup',
    userId: mara.userId,
    data,
    showId,
    file: name,
  });
  const opened = await answer<{ id: string }>(opening(file));
  const made = `${file.slice(0, 10)} ${file.slice(11, 16).replace('-', ':')}`;
  expect((await shown(opened.id)).show.settings.get('show')?.name).toBe(`Kept, back-up ${made}`);
  expect(await ask(opening('../Kept.wingman'))).toMatchObject({ code: 'invalid' });
  expect(await ask(opening(file, '../..'))).toMatchObject({ code: 'invalid' });
  expect(await ask(opening('2020-01-01T00-00-00Z-1.wingman'))).toMatchObject(NOBODYS);
});

test('types and tables from elsewhere are looked at and taken in', async () => {
  const id = await small();
  const type = gdtfOf(HEAD, {});
  const job = { do: 'bring-type', by: 'Mara Kell', preview: true } as const;
  expect(await answer(job, type)).toMatchObject({ was: 'new' });
  expect(await ask(job, new TextEncoder().encode('none'))).toMatchObject({ code: 'invalid' });
  const table = new TextEncoder().encode('Number,Type,Address\n51,Dimmer,1.51\n');
  const taking = (preview: boolean): FileJob => ({
    do: 'import',
    showId: id,
    author: mara,
    editId: randomUUID(),
    name: 'patch.csv',
    options: {},
    preview,
    keeps: false,
  });
  expect(await answer(taking(true), table)).toMatchObject({ kind: 'patch', rows: 1 });
  expect((await shown(id)).show.fixtureByNumber(51)).toBeUndefined();
  await must(taking(false), table);
  expect((await shown(id)).show.fixtureByNumber(51)).toBeDefined();
});
