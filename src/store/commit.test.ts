/** Changes that are no edits of the table: undone, redone, one of long ago, and those that are planned elsewhere. */
import { randomUUID } from 'node:crypto';
import type { RowChange } from '../core/show/show.ts';
import { ShowStore, type Author } from './commit.ts';
import { changesAfter, listCopies, listShows } from './shows.ts';
import { withCrew, iden, mara, must, tam } from './simulated-crew.ts';
import { copyShow } from './copies.ts';

const crew = withCrew();

async function fresh() {
  const { id, store } = await crew.freshShow();
  const edit = (by: Author, name: string, params: unknown) =>
    store.edit(id, by, { edit: name, params, editId: randomUUID() });
  const patch = async (by: Author, first: number): Promise<number> =>
    must(
      await edit(by, 'patch-fixtures', {
        typeId: 'generic-dimmer',
        mode: '8 bit',
        quantity: 1,
        first,
      }),
    ).seq;
  const numbers = async (): Promise<number[]> =>
    [...((await store.open(id))?.show.fixtures.values() ?? [])].map((f) => f.number).sort();
  const seq = async (): Promise<number> => (await store.open(id))?.seq ?? -1;
  return { id, store, edit, patch, numbers, seq };
}

describe('undoing', () => {
  test('of anybody’s change, however old, once; what it was and whose is said', async () => {
    const { id, store, patch, numbers } = await fresh();
    const first = await patch(tam, 1);
    await patch(mara, 2);
    const done = must(await store.reverseOne(id, mara, first, randomUUID()));
    expect(done.summary).toContain('Tam Brevik');
    expect(await numbers()).toEqual([2]);
    expect(await store.reverseOne(id, mara, first, randomUUID())).toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('has been undone already'),
    });
    expect(await store.reverseOne(id, mara, 99, randomUUID())).toMatchObject({
      code: 'not-found',
    });
    expect(await numbers()).toEqual([2]);
    // Of one's own it says no name.
    const mine = await patch(mara, 3);
    expect(must(await store.reverseOne(id, mara, mine, randomUUID())).summary).not.toContain(
      'Mara Kell',
    );
  });

  test('whoever only looks undoes nothing, nor makes it again, nor plans a change', async () => {
    const { id, store, patch, seq } = await fresh();
    const first = await patch(mara, 1);
    const before = await seq();
    for (const no of [
      await store.reverseOne(id, iden, first, randomUUID()),
      await store.reverse(id, iden, 'undo', randomUUID()),
      await store.reverse(id, iden, 'redo', randomUUID()),
      await store.apply(id, iden, randomUUID(), 'merge', () =>
        Promise.reject(new Error('was planned')),
      ),
    ])
      expect(no).toMatchObject({ code: 'forbidden' });
    expect(await seq()).toBe(before);
  });

  test('of nothing, and again of nothing, is said', async () => {
    const { id, store, patch } = await fresh();
    await patch(mara, 1);
    expect(await store.reverse(id, tam, 'undo', randomUUID())).toMatchObject({
      message: 'There is nothing of yours to undo.',
    });
    expect(await store.reverse(id, mara, 'redo', randomUUID())).toMatchObject({
      message: 'There is nothing of yours to redo.',
    });
  });

  test('what can be undone instead is one’s own, the newest first, so many, and none that others built on', async () => {
    const { id, store, edit, patch } = await fresh();
    const seqs = [await patch(mara, 1), await patch(mara, 2), await patch(mara, 3)];
    await patch(tam, 4);
    const third = [...((await store.open(id))?.show.fixtures.values() ?? [])].find(
      (f) => f.number === 3,
    );
    must(
      await edit(tam, 'change-fixtures', { fixtures: [{ id: third?.id, set: { label: 'Bow' } }] }),
    );
    const possible = await store.undoable(id, mara.userId, 5);
    expect(possible.map((p) => p.seq)).toEqual([seqs[1], seqs[0]]);
    expect(await store.undoable(id, mara.userId, 1)).toEqual(possible.slice(0, 1));
    expect(await store.undoable(id, iden.userId, 5)).toEqual([]);
    expect(await store.undoable('00000000-0000-0000-0000-000000000000', mara.userId, 5)).toEqual(
      [],
    );
  });
});

describe('a change that is planned elsewhere', () => {
  const planned = async (changes: RowChange[]) => {
    const f = await fresh();
    await f.patch(mara, 1);
    const [fixture] = (await f.store.open(f.id))?.show.fixtures.values() ?? [];
    return {
      ...f,
      fixture,
      apply: (more: RowChange[] = changes) =>
        f.store.apply(f.id, mara, randomUUID(), 'merge', () =>
          Promise.resolve({ changes: more, summary: 'Merged' }),
        ),
    };
  };

  test('is refused where a row would not be valid, where something would hang in the air, and where nothing would be different', async () => {
    const { apply, fixture, seq } = await planned([]);
    if (!fixture) throw new Error('no fixture');
    const before = await seq();
    const change = (after: object): RowChange[] => [
      {
        table: 'fixtures',
        id: fixture.id,
        before: fixture,
        after: { ...fixture, ...after },
      },
    ];
    expect(await apply(change({ number: -4 }))).toMatchObject({
      code: 'invalid',
      message: expect.stringContaining('would not be valid'),
    });
    expect(await apply(change({ typeId: 'no-such-type' }))).toMatchObject({ code: 'conflict' });
    expect(await apply([])).toMatchObject({ code: 'nothing' });
    expect(await seq()).toBe(before);
    expect(await apply(change({ label: 'Bow' }))).toMatchObject({ summary: 'Merged' });
    expect(await seq()).toBe(before + 1);
  });
});

test('a show as it was is a copy of its own; one of the future there is none', async () => {
  const { id, store, patch } = await fresh();
  const first = await patch(mara, 1);
  await patch(mara, 2);
  const then = must(await store.at(id, first));
  expect([...then.fixtures.values()].map((f) => f.number)).toEqual([1]);
  expect((await store.open(id))?.show.fixtures.size).toBe(2);
  expect(await store.at(id, 99)).toMatchObject({
    code: 'not-found',
    message: 'This show has 2 changes so far; there is no 99.',
  });
  expect(await store.at(randomUUID(), 1)).toMatchObject({ code: 'not-found' });
});

test('a dozen shows are kept at hand; the one that was asked for longest ago goes', async () => {
  const store = new ShowStore(crew.db);
  const ids: string[] = [];
  for (let i = 0; i < 13; i++) ids.push((await fresh()).id);
  const copies = [];
  for (const id of ids.slice(0, 12)) copies.push(await store.open(id));
  // Asked for again, it is the newest.
  expect(await store.open(ids[0] ?? '')).toBe(copies[0]);
  await store.open(ids[12] ?? '');
  expect(await store.open(ids[0] ?? '')).toBe(copies[0]);
  expect(await store.open(ids[1] ?? '')).not.toBe(copies[1]);
});

test('a copy says of which show it is, and the show which copies it has and how far both went since', async () => {
  const { id, patch, store } = await fresh();
  await patch(mara, 1);
  const copy = must(await copyShow(store, id, mara.userId, 'Sunday lights'));
  const listed = await listShows(crew.db, mara.userId);
  const at = (show: string) => listed.find((s) => s.id === show);
  expect(at(copy.id)?.origin).toEqual({ name: 'Harbour lights', seq: 1 });
  expect(at(id)?.origin).toBeNull();
  await patch(mara, 2);
  expect((await store.open(copy.id))?.show.fixtures.size).toBe(1);
  expect(await changesAfter(crew.db, copy.id, 0)).toEqual([]);
  expect(await listCopies(crew.db, id)).toMatchObject([
    { id: copy.id, name: 'Sunday lights', owners: ['Mara Kell'], there: 0, here: 1, merged: false },
  ]);
});
