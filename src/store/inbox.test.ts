/** What others did with one’s work is told to whom it concerns. */
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { isRefusal } from '../core/refusal.ts';
import { differences } from '../core/show/past.ts';
import { MEMBERS_CHANNEL } from './channels.ts';
import { mergeInto, otherFromShow } from './coming-together.ts';
import { type Author } from './commit.ts';
import { copyShow } from './copies.ts';
import { markDone, markSeen, readInbox, tell } from './inbox.ts';
import { changesAfter } from './shows.ts';
import { withCrew, iden, mara, must, recorded, tam } from './simulated-crew.ts';

const crew = withCrew();

describe('the inbox', () => {
  const inbox = async (who: Author) =>
    (await readInbox(crew.db, who.userId)).entries.map((e) => [e.kind, e.text]);
  /** Only what comes from here on. */
  const fresh = async (who: Author): Promise<() => Promise<string[][]>> => {
    const n = (await readInbox(crew.db, who.userId)).entries[0]?.id ?? 0;
    return async () =>
      (await readInbox(crew.db, who.userId)).entries
        .filter((e) => e.id > n)
        .map((e) => [e.kind, e.text]);
  };

  test('whose work was undone, written over, gone back on or merged over reads it; a refused edit tells nobody', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    const tams = await fresh(tam);
    const start = await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const first = await f.edit(tam, 'change-cue', { id: cueId, set: { up_s: 5 } });
    must(await f.store.reverseOne(f.id, mara, first, `e-${randomUUID()}`));
    expect(await tams()).toEqual([
      ['undone', expect.stringMatching(/^Mara Kell undid “.*”, which was yours\.$/)],
    ]);
    const seen = await f.edit(mara, 'change-cue', { id: cueId, set: { down_s: 1 } });
    await f.edit(tam, 'change-cue', { id: cueId, set: { up_s: 7 } });
    const request = {
      edit: 'change-cue',
      params: { id: cueId, set: { up_s: 9 } },
      editId: `e-${randomUUID()}`,
      seen,
    };
    const asked = await f.store.edit(f.id, mara, request);
    expect(asked).toMatchObject({ code: 'unseen' });
    expect(await tams()).toHaveLength(1);
    const key = isRefusal(asked) ? (asked.unseen?.[0]?.key ?? '') : '';
    must(await f.store.edit(f.id, mara, { ...request, decided: { [key]: 'mine' } }));
    expect((await tams())[0]).toEqual([
      'over',
      'Mara Kell wrote over what you had made: cue 1: up 7 s → 9 s.',
    ]);
    await f.edit(tam, 'change-cue', { id: cueId, set: { name: 'Tam’s' } });
    must(
      await f.store.apply(f.id, mara, `e-${randomUUID()}`, 'restore', async (show, _seq, trx) => {
        const then = must(await f.store.at(f.id, start, trx));
        const changes = differences(show, then);
        return {
          changes,
          summary: 'Went back to “Monday”',
          over: { rows: changes, past: await changesAfter(trx, f.id, start) },
        };
      }),
    );
    expect((await tams())[0]).toEqual(
      [
        'over',
        'Mara Kell went back to “Monday”: 1 thing of yours is not as you left it: cue 1: name “Tam’s” → nothing.',
      ].map((t) => expect.stringContaining(t.slice(0, 90))),
    );
  });

  test('a merge tells whose work in both it was decided against', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const copy = must(await copyShow(f.store, f.id, mara.userId, 'A copy'));
    must(
      await f.store.edit(copy.id, mara, {
        edit: 'change-cue',
        params: { id: cueId, set: { up_s: 4 } },
        editId: `e-${randomUUID()}`,
      }),
    );
    const tams = await fresh(tam);
    await f.edit(tam, 'change-cue', { id: cueId, set: { up_s: 6 } });
    must(
      await mergeInto(
        f.store,
        f.id,
        mara,
        must(await otherFromShow(f.store, copy.id)),
        { rules: [{ side: 'theirs' }], choices: {} },
        `e-${randomUUID()}`,
      ),
    );
    expect(await tams()).toEqual([
      [
        'over',
        expect.stringMatching(
          /^Mara Kell merged “.*: 1 thing of yours was written over: cue 1: up 6 s → 4 s\.$/,
        ),
      ],
    ]);
  });

  test('it counts until it was read, outlives the show, and keeps the newest', async () => {
    const f = await crew.freshShow();
    const [one] = await f.patched();
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const before = (await readInbox(crew.db, mara.userId)).unseen;
    await f.edit(iden, 'add-note', { cueId, kind: 'slow', text: 'by half' });
    expect((await inbox(mara))[0]).toEqual([
      'note',
      'Iden Vale noted about cue 1, too slow: “by half”',
    ]);
    const now = await readInbox(crew.db, mara.userId);
    expect(now.unseen).toBe(before + 1);
    await markSeen(crew.db, mara.userId, now.entries[0]?.id ?? 0);
    expect((await readInbox(crew.db, mara.userId)).unseen).toBe(0);
    await crew.db.deleteFrom('shows').where('id', '=', f.id).execute();
    expect((await inbox(mara))[0]?.[1]).toContain('by half');
    await tell(
      crew.db,
      { showId: null, showName: 'Harbour lights', from: mara },
      Array.from({ length: 450 }, (_, i) => ({
        userId: iden.userId,
        kind: 'show' as const,
        text: `n${i}`,
        place: null,
        quiet: true as const,
      })),
    );
    const { count } = await crew.db
      .selectFrom('inbox')
      .select((eb) => eb.fn.countAll<string>().as('count'))
      .where('user_id', '=', iden.userId)
      .executeTakeFirstOrThrow();
    expect(Number(count)).toBe(400);
    expect((await inbox(iden))[0]?.[1]).toBe('n449');
    // Whose account is gone is told nothing, and nothing fails for it.
    await tell(crew.db, { showId: null, showName: 'x', from: mara }, [
      { userId: randomUUID(), kind: 'show', text: 'to nobody', place: null },
    ]);
  });
});

describe('what an inbox keeps, in which order, and of whom', () => {
  const from = tam;
  let show = '';
  beforeAll(async () => {
    show = (await crew.freshShow()).id;
  });
  const about = () => ({ showId: show, showName: 'Harbour lights', from });
  const said = (userId: string, text: string) => ({
    userId,
    kind: 'ask' as never,
    text,
    place: { in: 'crew' } as never,
  });
  const clear = () => crew.db.deleteFrom('inbox').execute();
  beforeEach(clear);

  test('its person’s screens hear of it, with how it begins, or quietly; nobody hears of an account that is gone', async () => {
    const ears = new pg.Client(crew.url);
    await ears.connect();
    const heard: unknown[] = [];
    ears.on('notification', (n) => heard.push(JSON.parse(n.payload ?? 'null')));
    await ears.query(`listen ${MEMBERS_CHANNEL}`);
    await tell(crew.db, about(), [
      said(mara.userId, 'x'.repeat(600)),
      said(randomUUID(), 'gone'),
      { ...said(tam.userId, 'quiet'), quiet: true },
    ]);
    await ears.query('select 1');
    await ears.end();
    expect(heard).toEqual([
      { inbox: mara.userId, of: show, says: 'x'.repeat(400) },
      { inbox: tam.userId, of: show, says: null },
    ]);
  });

  test('is read newest first, a hundred at once, and on from any of them', async () => {
    await tell(
      crew.db,
      about(),
      Array.from({ length: 130 }, (_, i) => said(mara.userId, `n${i}`)),
    );
    const first = await readInbox(crew.db, mara.userId);
    expect([first.entries.length, first.entries[0]?.text, first.unseen]).toEqual([
      100,
      'n129',
      130,
    ]);
    const rest = await readInbox(crew.db, mara.userId, first.entries.at(-1)?.id);
    expect(rest.entries.map((e) => e.text)).toEqual(
      Array.from({ length: 30 }, (_, i) => `n${29 - i}`),
    );
    expect((await readInbox(crew.db, tam.userId)).entries).toEqual([]);
  });

  test('read up to an entry: that one and the older ones, of this person alone', async () => {
    await tell(crew.db, about(), [
      said(mara.userId, 'a'),
      said(mara.userId, 'b'),
      said(mara.userId, 'c'),
      said(tam.userId, 'd'),
    ]);
    const { entries } = await readInbox(crew.db, mara.userId);
    await markSeen(crew.db, mara.userId, entries[1]?.id ?? 0);
    const after = await readInbox(crew.db, mara.userId);
    expect(after.entries.map((e) => [e.text, e.seen])).toEqual([
      ['c', false],
      ['b', true],
      ['a', true],
    ]);
    expect([after.unseen, (await readInbox(crew.db, tam.userId)).unseen]).toEqual([1, 1]);
  });

  test('an ask is done where it is one’s own, and nowhere else', async () => {
    await tell(crew.db, about(), [said(mara.userId, 'a'), said(mara.userId, 'b')]);
    const [b] = (await readInbox(crew.db, mara.userId)).entries;
    await markDone(crew.db, tam.userId, b?.id ?? 0);
    expect((await readInbox(crew.db, mara.userId)).entries.map((e) => e.done)).toEqual([
      false,
      false,
    ]);
    await markDone(crew.db, mara.userId, b?.id ?? 0);
    expect((await readInbox(crew.db, mara.userId)).entries.map((e) => e.done)).toEqual([
      true,
      false,
    ]);
  });

  test('keeps the newest four hundred; long words are cut, and who has no account has no inbox', async () => {
    await tell(
      crew.db,
      about(),
      Array.from({ length: 403 }, (_, i) => said(mara.userId, `n${i}`)),
    );
    await tell(crew.db, about(), [
      said(randomUUID(), 'nobody'),
      said(mara.userId, 'x'.repeat(700)),
    ]);
    const rows = await crew.db.selectFrom('inbox').select(['text']).orderBy('id').execute();
    expect(rows).toHaveLength(400);
    expect(rows[0]?.text).toBe('n4');
    expect(rows.at(-1)?.text).toHaveLength(600);
    await tell(crew.db, about(), []);
    await tell(crew.db, about(), [said(randomUUID(), 'nobody')]);
    expect(await crew.db.selectFrom('inbox').select('id').execute()).toHaveLength(400);
  });
});
