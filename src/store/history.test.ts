/** What was, and taking it back: any moment of a show, anybody’s old change, past what others built on. */
import { randomUUID } from 'node:crypto';
import { note, readJournal } from './journal.ts';
import { withCrew, iden, mara, must, recorded, rowsOf, tam } from './simulated-crew.ts';
import { keepVersion, listVersions } from './versions.ts';

const crew = withCrew();

describe('history and versions', () => {
  test('the show as it was at any moment, row by row', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const then = rowsOf(await f.show());
    const seq = (await f.store.open(f.id))?.seq ?? 0;
    await f.edit(tam, 'record-cue', recorded(one, 1, 0.9));
    await f.edit(mara, 'change-cue', {
      id: (await f.show()).cuesOf('main')[0]?.id,
      set: { name: 'Later' },
    });
    expect(rowsOf(must(await f.store.at(f.id, seq)))).toEqual(then);
    expect(await f.store.at(f.id, seq + 99)).toMatchObject({ code: 'not-found' });
  });

  test('one old change of anybody is undone where nothing was built on it; else its reason is told', async () => {
    const f = await crew.freshShow();
    const [one, two] = await f.patched();
    const a = await f.edit(tam, 'record-cue', recorded(one, 1, 0.5));
    await f.edit(mara, 'record-cue', recorded(two, 2, 0.5));
    const b = await f.edit(tam, 'make-list', { name: 'Band' });
    await f.edit(mara, 'change-cue', {
      id: (await f.show()).cuesOf('main')[0]?.id,
      set: { name: 'Built on' },
    });
    expect(await f.store.reverseOne(f.id, mara, a, `e-${randomUUID()}`)).toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('cue 1 (by Mara Kell)'),
    });
    expect(must(await f.store.reverseOne(f.id, mara, b, `e-${randomUUID()}`)).summary).toBe(
      'Undid Tam Brevik’s: Made list 2 “Band”',
    );
    expect(await f.store.reverseOne(f.id, mara, b, `e-${randomUUID()}`)).toMatchObject({
      message: expect.stringContaining('undone already'),
    });
    expect((await f.show()).lists.size).toBe(1);
    // It is gone from Tam's own list as well, and Mara can take her undo back.
    expect((await f.store.undoList(f.id, tam.userId)).done.map((c) => c.seq)).toEqual([a]);
  });

  test('what was given to somebody is not taken back by others either', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    const a = await f.edit(tam, 'record-cue', recorded(one, 1, 0.5));
    await f.edit(mara, 'set-part', {
      set: { name: 'Tam’s', userId: tam.userId, userName: tam.name, fixtures: [one], lists: [] },
    });
    expect(await f.store.reverseOne(f.id, mara, a, `e-${randomUUID()}`)).toMatchObject({
      code: 'part',
      message: expect.stringContaining('which is Tam Brevik’s'),
    });
    must(await f.store.reverseOne(f.id, tam, a, `e-${randomUUID()}`));
  });

  test('undo of an old one does not change which of one’s own comes next', async () => {
    const f = await crew.freshShow();
    const names: number[] = [];
    for (const name of ['A', 'B', 'C']) names.push(await f.edit(mara, 'make-list', { name }));
    must(await f.store.reverseOne(f.id, mara, names[0] ?? 0, `e-${randomUUID()}`));
    expect(must(await f.store.reverse(f.id, mara, 'undo', `e-${randomUUID()}`)).summary).toContain(
      '“C”',
    );
    expect(must(await f.store.reverse(f.id, mara, 'redo', `e-${randomUUID()}`)).summary).toContain(
      '“C”',
    );
    expect([...(await f.show()).lists.values()].map((l) => l.name).sort()).toEqual([
      'B',
      'C',
      'Main list',
    ]);
  });

  test('a version is kept by itself before what is dangerous, once for each state', async () => {
    const f = await crew.freshShow();
    const ids = await f.patched();
    await f.edit(mara, 'delete-fixtures', { ids: [ids[0]] });
    await f.edit(mara, 'delete-fixtures', { ids: [ids[1]] });
    expect((await listVersions(crew.db, f.id)).map((v) => [v.kind, v.seq])).toEqual([
      ['before', 2],
      ['before', 1],
    ]);
    expect(
      must(
        await keepVersion(crew.db, f.id, {
          name: 'after dress',
          seq: 3,
          kind: 'named',
          ...{ userId: mara.userId, userName: mara.name },
        }),
      ),
    ).toMatchObject({ name: 'after dress' });
    expect(
      await keepVersion(crew.db, f.id, {
        name: 'after dress',
        seq: 3,
        kind: 'named',
        userId: mara.userId,
        userName: mara.name,
      }),
    ).toMatchObject({ code: 'clash' });
  });

  test('the journal keeps who and what, newest first, by kind and person', async () => {
    const f = await crew.freshShow();
    await note(crew.db, f.id, {
      kind: 'go',
      userId: mara.userId,
      userName: mara.name,
      text: 'GO: cue 1',
      data: { late_ms: 300 },
    });
    await note(crew.db, f.id, {
      kind: 'refused',
      userId: tam.userId,
      userName: tam.name,
      text: 'no',
    });
    expect((await readJournal(crew.db, f.id, { limit: 10 })).map((e) => e.text)).toEqual([
      'no',
      'GO: cue 1',
    ]);
    expect(
      await readJournal(crew.db, f.id, { limit: 10, kind: 'go', userId: mara.userId }),
    ).toMatchObject([{ text: 'GO: cue 1', data: { late_ms: 300 } }]);
  });
});

describe('undo past what others built on', () => {
  test('names what stands in the way, and offers what else of one’s own can go', async () => {
    const f = await crew.freshShow();
    const [one, two] = await f.patched();
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    await f.edit(mara, 'record-cue', recorded(two, 2, 0.5));
    const cues = (await f.show()).cuesOf('main');
    await f.edit(mara, 'change-cue', { id: cues[0]?.id, set: { name: 'Dawn' } });
    await f.edit(mara, 'change-cue', { id: cues[1]?.id, set: { up_s: 4 } });
    await f.edit(tam, 'change-cue', { id: cues[1]?.id, set: { up_s: 6 } });
    expect(await f.store.reverse(f.id, mara, 'undo', `e-${randomUUID()}`)).toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('cue 2 (by Tam Brevik)'),
    });
    const possible = await f.store.undoable(f.id, mara.userId, 3);
    // The time that Tam built on stays out, and so does the recording beneath it.
    expect(possible.map((p) => p.summary)).toEqual(
      [
        expect.stringContaining('Dawn'),
        expect.stringContaining('cue 1'),
        expect.stringContaining('Patched'),
      ].slice(0, possible.length),
    );
    must(await f.store.reverseOne(f.id, mara, possible[0]?.seq ?? 0, `e-${randomUUID()}`));
    expect((await f.show()).cuesOf('main').map((c) => [c.name, c.up_s])).toEqual([
      ['', cues[0]?.up_s],
      ['', 6],
    ]);
  });

  test('whether a cue is liked stands in nobody’s way; an undo gives the word back', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const id = (await f.show()).cuesOf('main')[0]?.id;
    await f.edit(iden, 'like-cue', { cueId: id, on: true });
    await f.edit(mara, 'change-cue', { id, set: { up_s: 4 } });
    expect([...(await f.show()).likes.values()][0]?.lost?.text).toMatch(/→ 4 s$/);
    must(await f.store.reverse(f.id, mara, 'undo', `e-${randomUUID()}`));
    expect([...(await f.show()).likes.values()][0]?.lost).toBeUndefined();
    must(await f.store.reverse(f.id, mara, 'redo', `e-${randomUUID()}`));
    await f.edit(iden, 'like-cue', { cueId: id, on: true });
    must(await f.store.reverse(f.id, mara, 'undo', `e-${randomUUID()}`));
    expect((await f.show()).cuesOf('main')[0]?.up_s).not.toBe(4);
  });
});
