/** What plays, kept, against the real PostgreSQL and a real folder. */
import { randomUUID } from 'node:crypto';
import { chmodSync, existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isRefusal } from '../core/refusal.ts';
import type { Database } from '../store/database.ts';
import { ownDatabase } from '../store/own-database.ts';
import { register } from '../store/players.ts';
import { createShow } from '../store/shows.ts';
import { Keeping } from './keeping.ts';
import { NOTHING_SAVED, type SavedShow } from './saved-show.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
let showId: string;
const folder = mkdtempSync(join(tmpdir(), 'kept-'));
const me = randomUUID();
const state = (master: number): SavedShow => ({ ...NOTHING_SAVED, master });
beforeAll(async () => {
  // Which player has the output stands in the one row of an installation.
  own = await ownDatabase();
  db = own.db;
  const userId = randomUUID();
  await db
    .insertInto('user')
    .values({ id: userId, name: 'Yrsa Oddny', email: `${userId}@tidewater.example` })
    .execute();
  const made = await createShow(db, userId, 'Harbour lights');
  if (isRefusal(made)) throw new Error(made.message);
  showId = made.id;
  await register(db, { id: me, address: '127.0.0.1:1', machine: 'here' });
});
afterAll(async () => {
  await own.drop();
  rmSync(folder, { recursive: true, force: true });
});

test('only the player that has the output writes; one that was displaced brings nothing older back', async () => {
  const keeping = new Keeping(db, folder);
  await keeping.write(showId, me, state(0.8));
  const other = randomUUID();
  await expect(keeping.write(showId, other, state(0.1))).rejects.toThrow(
    'another player has the output',
  );
  expect((await keeping.read(showId))?.saved.master).toBe(0.8);
  expect(keeping.problem(true)).toContain('nothing is being kept');
  await keeping.write(showId, me, state(0.7));
  expect([keeping.problem(true), (await keeping.read(showId))?.saved.master]).toEqual([null, 0.7]);
});

test('what the database did not take is left in a file, comes back from it, and is forgotten when it is kept again', async () => {
  const keeping = new Keeping(db, folder);
  await keeping.write(showId, me, state(0.5));
  expect(await keeping.leave(showId, state(0.4))).toBe(true);
  expect((await keeping.read(showId))?.saved.master).toBe(0.4);
  await keeping.write(showId, me, state(0.3));
  expect((await keeping.read(showId))?.saved.master).toBe(0.3);
  expect(existsSync(join(folder, 'unsaved', `${showId}.json`))).toBe(false);
});

test('a file that is older than what the database has, or broken, brings nothing back', async () => {
  const keeping = new Keeping(db, folder);
  await keeping.write(showId, me, state(0.6));
  const file = join(folder, 'unsaved', `${showId}.json`);
  writeFileSync(file, JSON.stringify({ at: Date.now() - 60_000, state: state(0.1) }));
  expect((await keeping.read(showId))?.saved.master).toBe(0.6);
  writeFileSync(file, '{"at": 99999999');
  expect((await keeping.read(showId))?.saved.master).toBe(0.6);
});

test('says why nothing is being kept: the database is away, or the disk is full', async () => {
  const keeping = new Keeping(db, folder);
  expect(keeping.problem(true)).toBeNull();
  expect(keeping.problem(false)).toContain('Database away');
  const full = new Keeping(
    {
      insertInto: () => undefined,
      getExecutor: () => ({
        transformQuery: (n: unknown) => n,
        compileQuery: () => ({ sql: '', parameters: [], query: {} }),
        executeQuery: () =>
          Promise.reject(Object.assign(new Error('could not extend file'), { code: '53100' })),
      }),
    } as unknown as Database,
    folder,
  );
  await expect(full.write(showId, me, state(1))).rejects.toThrow();
  expect(full.problem(true)).toContain('The disk is full');
  expect(await new Keeping(db, null).leave(showId, state(1))).toBe(false);
  const closed = join(folder, 'closed');
  writeFileSync(closed, 'no folder');
  chmodSync(closed, 0o400);
  expect(await new Keeping(db, closed).leave(showId, state(1))).toBe(false);
});
