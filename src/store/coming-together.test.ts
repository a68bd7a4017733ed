/** Files, copies and merging them: out, in again, and back. */
import { randomUUID } from 'node:crypto';
import { type MutableShow, showName } from '../core/show/show.ts';
import {
  bringIn,
  mergeInto,
  otherFromFile,
  otherFromShow,
  previewMerge,
} from './coming-together.ts';
import { copyShow } from './copies.ts';
import { exportShow, incomingFile, openFile, takeIn } from './files.ts';
import {
  changesAfter,
  listCopies,
  listShows,
  loadShow,
  membership,
  setShowState,
} from './shows.ts';
import { withCrew, iden, levelIn, mara, must, recorded, rowsOf, tam } from './simulated-crew.ts';

const crew = withCrew();

describe('files, copies and coming together', () => {
  test('out and in again is the same show row by row, and remembers what it came from', async () => {
    const f = await crew.freshShow();
    await f.patched();
    const written = must(await exportShow(f.store, f.id, 'Mara Kell'));
    const taken = must(await takeIn(crew.db, tam.userId, 'harbour.wingman', [written.bytes]));
    const { id } = must(
      await openFile(crew.db, tam.userId, must(await incomingFile(crew.db, tam.userId, taken.id))),
    );
    expect(rowsOf((await loadShow(crew.db, id))?.show as MutableShow)).toEqual(
      rowsOf(await f.show()),
    );
    expect(
      (
        await crew.db
          .selectFrom('shows')
          .select('origin')
          .where('id', '=', id)
          .executeTakeFirstOrThrow()
      ).origin,
    ).toEqual({ id: f.id, seq: 1 });
    expect(await incomingFile(crew.db, mara.userId, taken.id)).toMatchObject({ code: 'not-found' });
  });

  test('a copy comes back: three-way from where it began, again from where it was merged last', async () => {
    const f = await crew.freshShow();
    const [one, two, three] = await f.patched();
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const copy = must(await copyShow(f.store, f.id, tam.userId, 'Tam’s copy'));
    const there = async (name: string, params: unknown): Promise<void> =>
      void must(
        await f.store.edit(copy.id, tam, { edit: name, params, editId: `e-${randomUUID()}` }),
      );
    await there('record-cue', recorded(two, 2, 0.6));
    await f.edit(mara, 'record-cue', recorded(three, 3, 0.7));
    const none = { rules: [], choices: {} };
    const other = must(await otherFromShow(f.store, copy.id));
    const preview = must(await previewMerge(f.store, f.id, other, none));
    expect([preview.open, preview.said, preview.items.map((i) => i.title)]).toEqual([
      0,
      'since it was copied from here',
      expect.arrayContaining([expect.stringContaining('cue 2')]),
    ]);
    must(await mergeInto(f.store, f.id, tam, other, none, `e-${randomUUID()}`));
    const show = await f.show();
    // What the copy is called is its own affair.
    expect(showName(show)).toBe('Harbour lights');
    expect([levelIn(show, 1, one), levelIn(show, 2, two), levelIn(show, 3, three)]).toEqual([
      0.5, 0.6, 0.7,
    ]);
    await there('record-cue', recorded(two, 2, 0.8));
    const again = must(await otherFromShow(f.store, copy.id));
    const second = must(await previewMerge(f.store, f.id, again, none));
    expect([second.said, second.conflicts.length]).toEqual(['since it was merged here last', 0]);
    must(await mergeInto(f.store, f.id, tam, again, none, `e-${randomUUID()}`));
    expect(levelIn(await f.show(), 2, two)).toBe(0.8);
  });

  test('all or nothing: with a conflict undecided nothing is written, and one undo takes a whole merge back', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const copy = must(await copyShow(f.store, f.id, tam.userId, 'Harbour lights'));
    // Of two shows of one name, one says where it began.
    const listed = await listShows(crew.db, tam.userId);
    expect(
      [f.id, copy.id].map((id) => listed.find((h) => h.id === id)?.origin?.name ?? null),
    ).toEqual([null, 'Harbour lights']);
    must(
      await f.store.edit(copy.id, tam, {
        edit: 'record-cue',
        params: recorded(one, 1, 0.8),
        editId: `e-${randomUUID()}`,
      }),
    );
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.2));
    const other = must(await otherFromShow(f.store, copy.id));
    const before = rowsOf(await f.show());
    expect(
      await mergeInto(f.store, f.id, tam, other, { rules: [], choices: {} }, `e-${randomUUID()}`),
    ).toMatchObject({
      code: 'conflict',
      message: 'One conflict is not decided yet. Nothing was changed.',
    });
    expect(rowsOf(await f.show())).toEqual(before);
    must(
      await mergeInto(
        f.store,
        f.id,
        tam,
        other,
        { rules: [{ side: 'theirs' }], choices: {} },
        `e-${randomUUID()}`,
      ),
    );
    expect(levelIn(await f.show(), 1, one)).toBe(0.8);
    expect((await changesAfter(crew.db, f.id, 0)).at(-1)?.summary).toMatch(
      /^Merged “Harbour lights.*”: \d+ rows, 1 conflicts? decided$/,
    );
    must(await f.store.reverse(f.id, tam, 'undo', `e-${randomUUID()}`));
    expect(rowsOf(await f.show())).toEqual(before);
    // What was taken back can be merged anew, with other choices, and is not merged twice.
    const again = must(await previewMerge(f.store, f.id, other, { rules: [], choices: {} }));
    expect([again.said, again.open]).toEqual(['since it was copied from here', 1]);
    must(
      await mergeInto(
        f.store,
        f.id,
        tam,
        other,
        { rules: [{ side: 'theirs' }], choices: {} },
        `e-${randomUUID()}`,
      ),
    );
    expect(levelIn(await f.show(), 1, one)).toBe(0.8);
    expect(
      must(await previewMerge(f.store, f.id, other, { rules: [], choices: {} })).changes,
    ).toEqual([]);
  });

  test('a file that was taken home and changed there merges by its own log, also into a house that never saw the copy', async () => {
    const f = await crew.freshShow();
    const [one, two] = await f.patched();
    const written = must(await exportShow(f.store, f.id, 'Mara Kell'));
    const home = must(
      await openFile(
        crew.db,
        tam.userId,
        must(await takeIn(crew.db, tam.userId, 'x', [written.bytes])).file,
      ),
    );
    must(
      await f.store.edit(home.id, tam, {
        edit: 'record-cue',
        params: recorded(one, 1, 0.4),
        editId: `e-${randomUUID()}`,
      }),
    );
    const back = must(
      await takeIn(crew.db, tam.userId, 'y', [
        must(await exportShow(f.store, home.id, 'Tam Brevik')).bytes,
      ]),
    ).file;
    await f.edit(mara, 'record-cue', recorded(two, 2, 0.9));
    must(
      await mergeInto(
        f.store,
        f.id,
        tam,
        otherFromFile(back),
        { rules: [], choices: {} },
        `e-${randomUUID()}`,
      ),
    );
    expect([levelIn(await f.show(), 1, one), levelIn(await f.show(), 2, two)]).toEqual([0.4, 0.9]);
  });

  test('somebody else’s file merges for whoever brings it, without a place in the show that it is of', async () => {
    const f = await crew.freshShow({});
    const [one] = await f.patched();
    const written = must(await exportShow(f.store, f.id, 'Mara Kell'));
    const home = must(
      await openFile(
        crew.db,
        tam.userId,
        must(await takeIn(crew.db, tam.userId, 'x', [written.bytes])).file,
      ),
    );
    must(
      await f.store.edit(home.id, tam, {
        edit: 'record-cue',
        params: recorded(one, 1, 0.4),
        editId: `e-${randomUUID()}`,
      }),
    );
    const bytes = must(await exportShow(f.store, home.id, 'Tam Brevik')).bytes;
    // Tam is not in Mara's show, nor Mara in Tam's; the show that the file is of may even be gone here, or never have been.
    await crew.db.deleteFrom('shows').where('id', '=', home.id).execute();
    const brought = must(await takeIn(crew.db, mara.userId, 'from-tam', [bytes]));
    must(
      await mergeInto(
        f.store,
        f.id,
        mara,
        otherFromFile(must(await incomingFile(crew.db, mara.userId, brought.id))),
        { rules: [], choices: {} },
        `e-${randomUUID()}`,
      ),
    );
    expect(levelIn(await f.show(), 1, one)).toBe(0.4);
    expect(await membership(crew.db, f.id, tam.userId)).toBeUndefined();
  });

  test('an owner sees who copied the show, and how far they are from it, also after a merge and its undo', async () => {
    const f = await crew.freshShow();
    const [one, two] = await f.patched();
    const copy = must(await copyShow(f.store, f.id, tam.userId, 'Tam’s copy'));
    const far = async () =>
      (await listCopies(crew.db, f.id)).map((c) => [
        c.name,
        c.owners.join(),
        c.there,
        c.here,
        c.merged,
      ]);
    expect(await far()).toEqual([['Tam’s copy', 'Tam Brevik', 0, 0, false]]);
    must(
      await f.store.edit(copy.id, tam, {
        edit: 'record-cue',
        params: recorded(one, 1, 0.4),
        editId: `e-${randomUUID()}`,
      }),
    );
    await f.edit(mara, 'record-cue', recorded(two, 2, 0.4));
    await f.edit(mara, 'record-cue', recorded(two, 3, 0.4));
    expect(await far()).toEqual([['Tam’s copy', 'Tam Brevik', 1, 2, false]]);
    must(
      await mergeInto(
        f.store,
        f.id,
        mara,
        must(await otherFromShow(f.store, copy.id)),
        { rules: [], choices: {} },
        `e-${randomUUID()}`,
      ),
    );
    expect(await far()).toEqual([['Tam’s copy', 'Tam Brevik', 0, 0, true]]);
    must(await f.store.reverse(f.id, mara, 'undo', `e-${randomUUID()}`));
    expect((await far())[0]?.slice(2)).toEqual([1, 4, false]);
    await setShowState(crew.db, copy.id, 'deleted', 'Tam Brevik');
    expect(await far()).toEqual([]);
  });

  test('shows that have nothing in common do not merge; their parts are brought in', async () => {
    const [a, b] = [await crew.freshShow(), await crew.freshShow()];
    const [one] = await a.patched();
    await b.patched();
    await a.edit(mara, 'record-cue', recorded(one, 7, 0.4));
    const other = must(await otherFromShow(a.store, a.id));
    expect(await previewMerge(b.store, b.id, other, { rules: [], choices: {} })).toMatchObject({
      code: 'unrelated',
    });
    const cues = (await a.show()).cuesOf('main').map((c) => c.id);
    const wanted = {
      cues,
      listId: 'main',
      palettes: [],
      groups: [],
      looks: [],
      effects: [],
      fixtures: [],
    };
    const brought = (preview: boolean) => ({
      other,
      wanted,
      by: 'number' as const,
      own: {},
      editId: `e-${randomUUID()}`,
      preview,
    });
    expect(must(await bringIn(b.store, b.id, tam, brought(true))).changes).toHaveLength(2);
    expect((await b.show()).cues.size).toBe(0);
    must(await bringIn(b.store, b.id, tam, brought(false)));
    expect(levelIn(await b.show(), 7, (await b.show()).fixtureByNumber(1)?.id)).toBe(0.4);
    expect(await bringIn(b.store, b.id, iden, brought(false))).toMatchObject({ code: 'forbidden' });
  });
});
