/** Versions: what is worth one, how many there are, and which make room. */
import { randomUUID } from 'node:crypto';
import { isRefusal } from '../core/refusal.ts';
import type { RowChange } from '../core/show/show.ts';
import type { Database } from './database.ts';
import { ownDatabase } from './own-database.ts';
import { createShow } from './shows.ts';
import { dropVersion, isDangerous, keepVersion, listVersions } from './versions.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
const mara = { userId: randomUUID(), userName: 'Mara Kell' };

beforeAll(async () => {
  own = await ownDatabase();
  ({ db } = own);
  await db
    .insertInto('user')
    .values({ id: mara.userId, name: mara.userName, email: 'mara@tidewater.example' })
    .execute();
});
afterAll(() => own.drop());

async function freshShow(): Promise<string> {
  const made = await createShow(db, mara.userId, 'Harbour lights');
  if (isRefusal(made)) throw new Error(made.message);
  return made.id;
}
const keep = (show: string, name: string, seq: number, kind: 'named' | 'before' | 'board') =>
  keepVersion(db, show, { name, seq, kind, ...mara });
/** Many at once, each a second after the one before. */
const many = (show: string, count: number, kind: 'named' | 'before'): Promise<unknown> =>
  db
    .insertInto('versions')
    .values(
      Array.from({ length: count }, (_, i) => ({
        id: randomUUID(),
        show_id: show,
        name: `${kind} ${i}`,
        seq: i,
        kind,
        user_id: mara.userId,
        user_name: mara.userName,
        at: new Date(Date.parse('2026-01-01T00:00:00Z') + i * 1000),
      })),
    )
    .execute();

/** So many rows written, and so many taken away. */
const rows = (written: number, gone: number): RowChange[] => [
  ...Array.from({ length: written }, () => ({ after: {} }) as RowChange),
  ...Array.from({ length: gone }, () => ({ after: null }) as RowChange),
];

test('what takes away or writes much is worth one, whatever it is called; so is what is dangerous by name', () => {
  expect(isDangerous('change-fixtures', rows(1999, 0))).toBe(false);
  expect(isDangerous('change-fixtures', rows(2000, 0))).toBe(true);
  expect(isDangerous('change-fixtures', rows(1999, 1))).toBe(true);
  expect(isDangerous('delete-palette', rows(10, 49))).toBe(false);
  expect(isDangerous('delete-palette', rows(0, 50))).toBe(true);
  expect(isDangerous('merge', rows(1, 0))).toBe(true);
  expect(isDangerous('change-cue', rows(1, 0))).toBe(false);
});

test('a cue with nothing in it is no danger; with what it sets it is', () => {
  expect(isDangerous('delete-cue', rows(100, 1))).toBe(false);
  expect(isDangerous('delete-cue', rows(0, 2))).toBe(true);
});

test('of a state that has one already, none is kept by itself; by name there may be more', async () => {
  const show = await freshShow();
  expect(await keep(show, 'before: merge', 3, 'before')).toMatchObject({ seq: 3, kind: 'before' });
  expect(await keep(show, 'the board', 3, 'board')).toBeNull();
  expect(await keep(show, 'dress', 3, 'named')).toMatchObject({ name: 'dress' });
  expect(await keep(show, 'dress again', 3, 'named')).toMatchObject({ name: 'dress again' });
  expect(await keep(show, 'dress', 4, 'named')).toMatchObject({
    code: 'clash',
    fields: { name: 'This name is taken.' },
  });
  // What is kept by itself takes nobody's name away.
  expect(await keep(show, 'before: merge', 4, 'named')).toMatchObject({ name: 'before: merge' });
  const other = await freshShow();
  expect(await keep(other, 'dress', 1, 'named')).toMatchObject({ name: 'dress' });
});

test('the newest two hundred are kept of those that come by themselves; named ones stay', async () => {
  const show = await freshShow();
  await keep(show, 'first night', 0, 'named');
  await many(show, 200, 'before');
  await keep(show, 'one more', 500, 'before');
  const left = await listVersions(db, show);
  expect(left.filter((v) => v.kind === 'before')).toHaveLength(200);
  expect(left.map((v) => v.name)).toContain('first night');
  expect(left.map((v) => v.name)).not.toContain('before 0');
  expect(left.map((v) => v.name)).toContain('before 1');
  // Newest state first.
  expect(left[0]).toMatchObject({ seq: 500, userName: 'Mara Kell' });
});

test('of named ones there are at most five hundred, and that is said before one is lost', async () => {
  const show = await freshShow();
  await many(show, 499, 'named');
  expect(await keep(show, 'the last', 600, 'named')).toMatchObject({ name: 'the last' });
  expect(await keep(show, 'one too many', 601, 'named')).toMatchObject({ code: 'limit' });
  expect(await listVersions(db, show)).toHaveLength(500);
});

test('only the one that is named goes, of this show, and once', async () => {
  const [show, other] = [await freshShow(), await freshShow()];
  const one = await keep(show, 'dress', 1, 'named');
  await keep(show, 'premiere', 2, 'named');
  const id = one && 'id' in one ? one.id : '';
  expect(await dropVersion(db, other, id)).toMatchObject({ code: 'not-found' });
  expect(await dropVersion(db, show, id)).toEqual({ ok: true });
  expect(await dropVersion(db, show, id)).toMatchObject({ code: 'not-found' });
  expect((await listVersions(db, show)).map((v) => v.name)).toEqual(['premiere']);
});
