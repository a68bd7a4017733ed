/** Several people and several shows against the real PostgreSQL: invitations, PINs, versions, files, merging, and nobody's work lost. */
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isRefusal } from '../core/refusal.ts';
import type { Role } from '../core/roles.ts';
import { slotKey } from '../core/cues/rows.ts';
import { differences } from '../core/show/past.ts';
import { showName, type MutableShow } from '../core/show/show.ts';
import { backUp, backupFolder, listBackups, readBackup } from './backups.ts';
import { advance, ShowStore, type Author } from './commit.ts';
import { connect, type Database } from './database.ts';
import {
  bringIn,
  copyShow,
  exportShow,
  incomingFile,
  mergeInto,
  openFile,
  otherFromFile,
  otherFromShow,
  previewMerge,
  takeIn,
} from './files.ts';
import { markSeen, readInbox, tell } from './inbox.ts';
import { note, readJournal } from './journal.ts';
import { migrate } from './migrate.ts';
import {
  acceptInvitation,
  accountByInvitation,
  checkPin,
  invite,
  isLocked,
  listInvitations,
  lockSession,
  readInvitation,
  setPin,
  signOutEverywhere,
  withdrawInvitation,
} from './people.ts';
import { beat, playerAddress, register, sequencesNow } from './players.ts';
import {
  changesAfter,
  createShow,
  listCopies,
  listMembers,
  listShows,
  loadShow,
  membership,
  purgeDeleted,
  roleOf,
  setMember,
  setShowState,
} from './shows.ts';
import { listVersions, keepVersion } from './versions.ts';

let db: Database;
const [mara, tam, iden]: [Author, Author, Author] = [
  { userId: '', name: 'Mara Kell' },
  { userId: '', name: 'Tam Brevik' },
  { userId: '', name: 'Iden Vale' },
];
const email = (p: Author): string => `${p.userId}@tidewater.example`;

beforeAll(async () => {
  db = connect(process.env.WINGMAN_TEST_DATABASE ?? '', 12).db;
  await migrate(db);
  for (const p of [mara, tam, iden]) {
    p.userId = randomUUID();
    await db
      .insertInto('user')
      .values({ id: p.userId, name: p.name, email: email(p) })
      .execute();
  }
});
afterAll(() => db.destroy());

const must = <T>(result: T): Exclude<T, { refused: true }> => {
  if (isRefusal(result)) throw new Error(result.message);
  return result as Exclude<T, { refused: true }>;
};
async function freshShow(
  roles: Partial<Record<'tam' | 'iden', Role>> = { tam: 'programmer', iden: 'viewer' },
): Promise<{
  id: string;
  store: ShowStore;
  edit: (who: Author, name: string, params: unknown) => Promise<number>;
  show: () => Promise<MutableShow>;
}> {
  const { id } = must(await createShow(db, mara.userId, 'Harbour lights'));
  if (roles.tam) await setMember(db, id, email(tam), roles.tam);
  if (roles.iden) await setMember(db, id, email(iden), roles.iden);
  const store = new ShowStore(db);
  return {
    id,
    store,
    edit: async (who, name, params) =>
      must(await store.edit(id, who, { edit: name, params, editId: `e-${randomUUID()}` })).seq,
    show: async () =>
      must((await store.open(id)) ?? { refused: true as const, message: 'gone', code: '' }).show,
  };
}
const patched = async (f: Awaited<ReturnType<typeof freshShow>>): Promise<string[]> => {
  await f.edit(mara, 'patch-fixtures', {
    typeId: 'generic-dimmer',
    mode: '8 bit',
    quantity: 6,
    first: 1,
  });
  const show = await f.show();
  return [1, 2, 3, 4, 5, 6].map((n) => show.fixtureByNumber(n)?.id ?? '');
};
const recorded = (fixtureId: string | undefined, number: number, level: number): unknown => ({
  listId: 'main',
  number: number * 1000,
  values: [{ fixtureId, attribute: 'Dimmer', level }],
});
const level = (
  show: MutableShow,
  cue: number,
  fixtureId: string | undefined,
): number | null | undefined => {
  const c = show.cuesOf('main').find((x) => x.number === cue * 1000);
  return c ? show.valuesOf(c.id).get(slotKey(fixtureId ?? '', 'Dimmer'))?.level : undefined;
};
const rowsOf = (show: MutableShow): string[] =>
  [...show.rows()]
    .map(({ table, row }) => `${table}/${row.id} ${JSON.stringify(row, Object.keys(row).sort())}`)
    .sort();
const DAY = 24 * 3600 * 1000;
const soon = (days: number): Date => new Date(Date.now() + days * DAY);

describe('invitations', () => {
  test('one brings one person in, in its role and until its end date; used again it is refused', async () => {
    const { id } = await freshShow({});
    const { token } = must(
      await invite(db, id, mara.userId, {
        role: 'operator',
        pages: [],
        memberUntil: soon(30),
        expiresAt: soon(7),
      }),
    );
    expect(must(await readInvitation(db, token))).toMatchObject({
      show: 'Harbour lights',
      role: 'operator',
    });
    expect(must(await acceptInvitation(db, token, tam.userId))).toMatchObject({
      showId: id,
      role: 'operator',
    });
    expect(await roleOf(db, id, tam.userId)).toBe('operator');
    expect(await acceptInvitation(db, token, iden.userId)).toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('used already'),
    });
    expect(await roleOf(db, id, iden.userId)).toBeUndefined();
    expect(await listInvitations(db, id)).toMatchObject([{ state: 'used', usedBy: 'Tam Brevik' }]);
  });

  test('whoever is in keeps the invitation for somebody else, up to the moment at which their own time is over', async () => {
    const { id } = await freshShow({});
    const { token } = must(
      await invite(db, id, mara.userId, {
        role: 'programmer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(7),
      }),
    );
    const over = soon(2);
    await setMember(db, id, email(tam), 'viewer', { until: over });
    const before = new Date(over.getTime() - 1);
    expect(await acceptInvitation(db, token, tam.userId, before)).toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('as viewer'),
    });
    expect(must(await acceptInvitation(db, token, tam.userId, over)).role).toBe('programmer');
    expect(await roleOf(db, id, tam.userId)).toBe('programmer');
  });

  test('two who open one link at once: one is in', async () => {
    const { id } = await freshShow({});
    const { token } = must(
      await invite(db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    const done = await Promise.all([
      acceptInvitation(db, token, tam.userId),
      acceptInvitation(db, token, iden.userId),
    ]);
    expect(done.filter(isRefusal)).toHaveLength(1);
  });

  test('expired, withdrawn, unknown, or for somebody who is in already: refused in words', async () => {
    const { id } = await freshShow({ tam: 'programmer' });
    const old = must(
      await invite(db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    expect(await acceptInvitation(db, old.token, iden.userId, soon(2))).toMatchObject({
      message: expect.stringContaining('ended on'),
    });
    const gone = must(
      await invite(db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    must(await withdrawInvitation(db, id, gone.id));
    expect(await readInvitation(db, gone.token)).toMatchObject({
      message: expect.stringContaining('withdrawn'),
    });
    const states = async (at?: Date): Promise<(string | undefined)[]> => {
      const all = await listInvitations(db, id, at);
      return [old, gone].map(({ id: of }) => all.find((i) => i.id === of)?.state);
    };
    expect(await states()).toEqual(['open', 'withdrawn']);
    expect(await states(soon(2))).toEqual(['expired', 'withdrawn']);
    expect(await readInvitation(db, 'made-up')).toMatchObject({ code: 'not-found' });
    expect(await acceptInvitation(db, old.token, tam.userId)).toMatchObject({
      message: expect.stringContaining('already, as programmer'),
    });
    expect(await roleOf(db, id, tam.userId)).toBe('programmer');
    expect(
      await invite(db, id, mara.userId, {
        role: 'owner',
        pages: [],
        memberUntil: soon(3),
        expiresAt: soon(1),
      }),
    ).toMatchObject({ code: 'invalid' });
  });

  test('the token is kept as its hash alone', async () => {
    const { id } = await freshShow({});
    const { token } = must(
      await invite(db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    const rows = await db.selectFrom('invitations').selectAll().where('show_id', '=', id).execute();
    expect(JSON.stringify(rows)).not.toContain(token);
  });

  test('somebody without an account makes one by it; a known address is told to sign in', async () => {
    const { id } = await freshShow({});
    const make = async (p: { name: string; email: string }): Promise<string> => {
      const userId = randomUUID();
      await db.insertInto('user').values({ id: userId, name: p.name, email: p.email }).execute();
      return userId;
    };
    const { token } = must(
      await invite(db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    expect(
      await accountByInvitation(
        db,
        token,
        { name: 'X', email: email(tam), password: 'long enough' },
        make,
      ),
    ).toMatchObject({ code: 'conflict' });
    const address = `${randomUUID()}@tidewater.example`;
    const made = must(
      await accountByInvitation(
        db,
        token,
        { name: 'Nell Strand', email: address.toUpperCase(), password: 'long enough' },
        make,
      ),
    );
    must(await acceptInvitation(db, token, made.userId));
    expect((await listMembers(db, id)).find((m) => m.email === address)).toMatchObject({
      name: 'Nell Strand',
      role: 'viewer',
    });
  });

  test('an end date that has come ends it, for edits as well', async () => {
    const f = await freshShow({ tam: 'programmer' });
    await setMember(db, f.id, email(tam), 'programmer', { until: new Date(Date.now() - 1000) });
    expect(await membership(db, f.id, tam.userId)).toBeUndefined();
    expect(
      await f.store.edit(f.id, tam, {
        edit: 'make-list',
        params: { name: 'X' },
        editId: `e-${randomUUID()}`,
      }),
    ).toMatchObject({ code: 'not-found' });
    expect((await listShows(db, tam.userId)).some((s) => s.id === f.id)).toBe(false);
    expect(await setMember(db, f.id, email(mara), 'owner', { until: soon(2) })).toMatchObject({
      code: 'conflict',
    });
    // An owner on loan is none that a show could be left to.
    await setMember(db, f.id, email(iden), 'owner', { until: soon(2) });
    for (const role of ['programmer', null] as const)
      expect(await setMember(db, f.id, email(mara), role)).toMatchObject({ code: 'conflict' });
    expect(await setMember(db, f.id, email(iden), 'viewer')).not.toHaveProperty('refused');
  });
});

describe('PIN and sign-out', () => {
  test('a right one opens; five wrong ones make it wait', async () => {
    must(await setPin(db, tam.userId, '4711'));
    expect(must(await checkPin(db, tam.userId, '4711'))).toEqual({ ok: true });
    for (let i = 0; i < 5; i++)
      expect(await checkPin(db, tam.userId, '0000')).toMatchObject({ code: 'forbidden' });
    expect(await checkPin(db, tam.userId, '4711')).toMatchObject({
      code: 'rate',
      message: expect.stringMatching(/Try again in (60|59|5[0-8]) s/),
    });
    expect(must(await checkPin(db, tam.userId, '4711', new Date(Date.now() + 61_000)))).toEqual({
      ok: true,
    });
    must(await setPin(db, tam.userId, '4711'));
    const many = await Promise.all(
      Array.from({ length: 40 }, (_, i) => checkPin(db, tam.userId, String(1000 + i))),
    );
    expect(many.filter((r) => isRefusal(r) && r.code === 'forbidden').length).toBe(5);
    expect(many.filter((r) => isRefusal(r) && r.code === 'rate').length).toBe(35);
    for (const bad of ['12', '123456789', 'abcd', ''])
      expect(await setPin(db, tam.userId, bad)).toMatchObject({ code: 'invalid' });
    // Four digits are in any hash now and then: what is kept is salt and hash, and nothing else.
    const [kept] = await db
      .selectFrom('pins')
      .select('hash')
      .where('user_id', '=', tam.userId)
      .execute();
    expect(kept?.hash).toMatch(/^[0-9a-f]{32}:[0-9a-f]{64}$/);
  });

  test('a locked session is locked for the server; signing out everywhere ends all of them', async () => {
    const session = (id: string) => ({
      id,
      token: `t-${id}`,
      userId: iden.userId,
      expiresAt: soon(1),
    });
    const [a, b] = [randomUUID(), randomUUID()];
    await db
      .insertInto('session')
      .values([session(a), session(b)])
      .execute();
    await lockSession(db, a, true);
    expect([await isLocked(db, a), await isLocked(db, b)]).toEqual([true, false]);
    await lockSession(db, a, false);
    expect(await isLocked(db, a)).toBe(false);
    await signOutEverywhere(db, iden.userId);
    expect(
      await db.selectFrom('session').select('id').where('userId', '=', iden.userId).execute(),
    ).toEqual([]);
  });
});

describe('history and versions', () => {
  test('the show as it was at any moment, row by row', async () => {
    const f = await freshShow();
    const [one] = await patched(f);
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
    const f = await freshShow();
    const [one, two] = await patched(f);
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
    const f = await freshShow();
    const [one] = await patched(f);
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
    const f = await freshShow();
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
    const f = await freshShow();
    const ids = await patched(f);
    await f.edit(mara, 'delete-fixtures', { ids: [ids[0]] });
    await f.edit(mara, 'delete-fixtures', { ids: [ids[1]] });
    expect((await listVersions(db, f.id)).map((v) => [v.kind, v.seq])).toEqual([
      ['before', 2],
      ['before', 1],
    ]);
    expect(
      must(
        await keepVersion(db, f.id, {
          name: 'after dress',
          seq: 3,
          kind: 'named',
          ...{ userId: mara.userId, userName: mara.name },
        }),
      ),
    ).toMatchObject({ name: 'after dress' });
    expect(
      await keepVersion(db, f.id, {
        name: 'after dress',
        seq: 3,
        kind: 'named',
        userId: mara.userId,
        userName: mara.name,
      }),
    ).toMatchObject({ code: 'clash' });
  });

  test('the journal keeps who and what, newest first, by kind and person', async () => {
    const f = await freshShow();
    await note(db, f.id, {
      kind: 'go',
      userId: mara.userId,
      userName: mara.name,
      text: 'GO: cue 1',
      data: { late_ms: 300 },
    });
    await note(db, f.id, { kind: 'refused', userId: tam.userId, userName: tam.name, text: 'no' });
    expect((await readJournal(db, f.id, { limit: 10 })).map((e) => e.text)).toEqual([
      'no',
      'GO: cue 1',
    ]);
    expect(
      await readJournal(db, f.id, { limit: 10, kind: 'go', userId: mara.userId }),
    ).toMatchObject([{ text: 'GO: cue 1', data: { late_ms: 300 } }]);
  });
});

describe('undo past what others built on', () => {
  test('names what stands in the way, and offers what else of one’s own can go', async () => {
    const f = await freshShow();
    const [one, two] = await patched(f);
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
    const f = await freshShow();
    const [one] = await patched(f);
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

describe('unseen work', () => {
  test('an edit that would overwrite it is refused with both, and written as it was decided', async () => {
    const f = await freshShow();
    const [one, two] = await patched(f);
    const seen = await f.edit(mara, 'record-cue', {
      ...(recorded(one, 1, 0.5) as object),
      values: [one, two].map((fixtureId) => ({ fixtureId, attribute: 'Dimmer', level: 0.5 })),
    });
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const cells = (l: number) => ({
      cells: [one, two].map((fixtureId) => ({
        cueId,
        fixtureId,
        attribute: 'Dimmer',
        set: { level: l },
      })),
    });
    await f.edit(tam, 'set-values', {
      cells: [{ cueId, fixtureId: one, attribute: 'Dimmer', set: { level: 0.7 } }],
    });
    const ask = (decided?: Record<string, 'mine' | 'theirs'>) =>
      f.store.edit(f.id, mara, {
        edit: 'set-values',
        params: cells(0.9),
        editId: `e-${randomUUID()}`,
        seen,
        ...(decided ? { decided } : {}),
      });
    const first = await ask();
    expect(first).toMatchObject({
      code: 'unseen',
      unseen: [
        {
          title: 'intensity of fixture 1 in cue 1',
          seen: '50 %',
          now: '70 %',
          yours: '90 %',
          who: 'Tam Brevik',
        },
      ],
    });
    expect(level(await f.show(), 1, two)).toBe(0.5);
    const key = isRefusal(first) ? (first.unseen?.[0]?.key ?? '') : '';
    must(await ask({ [key]: 'theirs' }));
    expect([level(await f.show(), 1, one), level(await f.show(), 1, two)]).toEqual([0.7, 0.9]);
    // What comes is told before anybody is asked; and whoever does not say what they saw is asked nothing.
    const last = { edit: 'set-values', params: cells(0.3) };
    const look = { ...last, editId: `e-${randomUUID()}`, seen, preview: true };
    expect(must(await f.store.edit(f.id, mara, look))).toHaveProperty('consequences');
    expect(level(await f.show(), 1, one)).toBe(0.7);
    must(await f.store.edit(f.id, mara, { ...last, editId: `e-${randomUUID()}` }));
    expect([level(await f.show(), 1, one), level(await f.show(), 1, two)]).toEqual([0.3, 0.3]);
  });

  test('everything left as the others made it is nothing to write, and that is said', async () => {
    const f = await freshShow();
    const [one] = await patched(f);
    const seen = await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const to = (l: number) => ({
      cells: [{ cueId, fixtureId: one, attribute: 'Dimmer', set: { level: l } }],
    });
    await f.edit(tam, 'set-values', to(0.7));
    const key = `values/${cueId}:${one}:Dimmer`;
    const answer = await f.store.edit(f.id, mara, {
      edit: 'set-values',
      params: to(0.9),
      editId: `e-${randomUUID()}`,
      seen,
      decided: { [key]: 'theirs' },
    });
    expect(answer).toMatchObject({ code: 'nothing' });
    expect(level(await f.show(), 1, one)).toBe(0.7);
  });

  test('every mix of mine and theirs ends as it was chosen, with the first number seen; a third change is asked again where mine would write over it', async () => {
    const f = await freshShow();
    const ids = (await patched(f)).slice(0, 2);
    const [one, two] = ids;
    await f.edit(mara, 'record-cue', {
      ...(recorded(one, 1, 0.5) as object),
      values: ids.map((fixtureId) => ({ fixtureId, attribute: 'Dimmer', level: 0.5 })),
    });
    const cueId = (await f.show()).cuesOf('main')[0]?.id ?? '';
    const cell = (fixtureId: string | undefined, l: number) => ({
      cueId,
      fixtureId,
      attribute: 'Dimmer',
      set: { level: l },
    });
    const keyOf = (fixtureId: string | undefined): string => `values/${cueId}:${fixtureId}:Dimmer`;
    for (const [a, b] of [
      ['mine', 'mine'],
      ['mine', 'theirs'],
      ['theirs', 'mine'],
      ['theirs', 'theirs'],
    ] as const) {
      const seen = await f.edit(mara, 'set-values', { cells: ids.map((id) => cell(id, 0.1)) });
      await f.edit(tam, 'set-values', { cells: ids.map((id) => cell(id, 0.6)) });
      const ask = (more: object = {}) =>
        f.store.edit(f.id, mara, {
          edit: 'set-values',
          params: { cells: ids.map((id) => cell(id, 0.9)) },
          editId: `e-${randomUUID()}`,
          seen,
          ...more,
        });
      const first = await ask();
      if (!isRefusal(first) || first.seq === undefined) throw new Error('nothing was asked');
      expect(first.unseen).toHaveLength(2);
      // While the choice is made, a third change comes to the second.
      await f.edit(tam, 'set-values', { cells: [cell(two, 0.3)] });
      const decided = { [keyOf(one)]: a, [keyOf(two)]: b };
      const second = await ask({ decided, decidedAt: first.seq });
      if (b === 'mine') {
        if (!isRefusal(second)) throw new Error('the third change was written over');
        expect(second.unseen).toMatchObject([
          { key: keyOf(two), seen: '60 %', now: '30 %', yours: '90 %' },
        ]);
        must(await ask({ decided, decidedAt: second.seq }));
      } else if (a === 'mine') must(second);
      else expect(second).toMatchObject({ code: 'nothing' });
      expect([level(await f.show(), 1, one), level(await f.show(), 1, two)]).toEqual([
        a === 'mine' ? 0.9 : 0.6,
        b === 'mine' ? 0.9 : 0.3,
      ]);
    }
  });
});

describe('the inbox', () => {
  const inbox = async (who: Author) =>
    (await readInbox(db, who.userId)).entries.map((e) => [e.kind, e.text]);
  /** Only what comes from here on. */
  const fresh = async (who: Author): Promise<() => Promise<string[][]>> => {
    const n = (await readInbox(db, who.userId)).entries[0]?.id ?? 0;
    return async () =>
      (await readInbox(db, who.userId)).entries
        .filter((e) => e.id > n)
        .map((e) => [e.kind, e.text]);
  };

  test('whose work was undone, written over, gone back on or merged over reads it; a refused edit tells nobody', async () => {
    const f = await freshShow();
    const [one] = await patched(f);
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
    const f = await freshShow();
    const [one] = await patched(f);
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
    const f = await freshShow();
    const [one] = await patched(f);
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const cueId = (await f.show()).cuesOf('main')[0]?.id;
    const before = (await readInbox(db, mara.userId)).unseen;
    await f.edit(iden, 'add-note', { cueId, kind: 'slow', text: 'by half' });
    expect((await inbox(mara))[0]).toEqual([
      'note',
      'Iden Vale noted about cue 1, too slow: “by half”',
    ]);
    const now = await readInbox(db, mara.userId);
    expect(now.unseen).toBe(before + 1);
    await markSeen(db, mara.userId, now.entries[0]?.id ?? 0);
    expect((await readInbox(db, mara.userId)).unseen).toBe(0);
    await db.deleteFrom('shows').where('id', '=', f.id).execute();
    expect((await inbox(mara))[0]?.[1]).toContain('by half');
    await tell(
      db,
      { showId: null, showName: 'Harbour lights', from: mara },
      Array.from({ length: 450 }, (_, i) => ({
        userId: iden.userId,
        kind: 'show' as const,
        text: `n${i}`,
        place: null,
        quiet: true as const,
      })),
    );
    const { count } = await db
      .selectFrom('inbox')
      .select((eb) => eb.fn.countAll<string>().as('count'))
      .where('user_id', '=', iden.userId)
      .executeTakeFirstOrThrow();
    expect(Number(count)).toBe(400);
    expect((await inbox(iden))[0]?.[1]).toBe('n449');
    // Whose account is gone is told nothing, and nothing fails for it.
    await tell(db, { showId: null, showName: 'x', from: mara }, [
      { userId: randomUUID(), kind: 'show', text: 'to nobody', place: null },
    ]);
  });
});

describe('files, copies and coming together', () => {
  test('out and in again is the same show row by row, and remembers what it came from', async () => {
    const f = await freshShow();
    await patched(f);
    const written = must(await exportShow(f.store, f.id, 'Mara Kell'));
    const taken = must(await takeIn(db, tam.userId, 'harbour.wingman', [written.bytes]));
    const { id } = must(
      await openFile(db, tam.userId, must(await incomingFile(db, tam.userId, taken.id))),
    );
    expect(rowsOf((await loadShow(db, id))?.show as MutableShow)).toEqual(rowsOf(await f.show()));
    expect(
      (await db.selectFrom('shows').select('origin').where('id', '=', id).executeTakeFirstOrThrow())
        .origin,
    ).toEqual({ id: f.id, seq: 1 });
    expect(await incomingFile(db, mara.userId, taken.id)).toMatchObject({ code: 'not-found' });
  });

  test('a copy comes back: three-way from where it began, again from where it was merged last', async () => {
    const f = await freshShow();
    const [one, two, three] = await patched(f);
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
    expect([level(show, 1, one), level(show, 2, two), level(show, 3, three)]).toEqual([
      0.5, 0.6, 0.7,
    ]);
    await there('record-cue', recorded(two, 2, 0.8));
    const again = must(await otherFromShow(f.store, copy.id));
    const second = must(await previewMerge(f.store, f.id, again, none));
    expect([second.said, second.conflicts.length]).toEqual(['since it was merged here last', 0]);
    must(await mergeInto(f.store, f.id, tam, again, none, `e-${randomUUID()}`));
    expect(level(await f.show(), 2, two)).toBe(0.8);
  });

  test('all or nothing: with a conflict undecided nothing is written, and one undo takes a whole merge back', async () => {
    const f = await freshShow();
    const [one] = await patched(f);
    await f.edit(mara, 'record-cue', recorded(one, 1, 0.5));
    const copy = must(await copyShow(f.store, f.id, tam.userId, 'Harbour lights'));
    // Of two shows of one name, one says where it began.
    const listed = await listShows(db, tam.userId);
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
    expect(level(await f.show(), 1, one)).toBe(0.8);
    expect((await changesAfter(db, f.id, 0)).at(-1)?.summary).toMatch(
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
    expect(level(await f.show(), 1, one)).toBe(0.8);
    expect(
      must(await previewMerge(f.store, f.id, other, { rules: [], choices: {} })).changes,
    ).toEqual([]);
  });

  test('a file that was taken home and changed there merges by its own log, also into a house that never saw the copy', async () => {
    const f = await freshShow();
    const [one, two] = await patched(f);
    const written = must(await exportShow(f.store, f.id, 'Mara Kell'));
    const home = must(
      await openFile(db, tam.userId, must(await takeIn(db, tam.userId, 'x', [written.bytes])).file),
    );
    must(
      await f.store.edit(home.id, tam, {
        edit: 'record-cue',
        params: recorded(one, 1, 0.4),
        editId: `e-${randomUUID()}`,
      }),
    );
    const back = must(
      await takeIn(db, tam.userId, 'y', [
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
    expect([level(await f.show(), 1, one), level(await f.show(), 2, two)]).toEqual([0.4, 0.9]);
  });

  test('somebody else’s file merges for whoever brings it, without a place in the show that it is of', async () => {
    const f = await freshShow({});
    const [one] = await patched(f);
    const written = must(await exportShow(f.store, f.id, 'Mara Kell'));
    const home = must(
      await openFile(db, tam.userId, must(await takeIn(db, tam.userId, 'x', [written.bytes])).file),
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
    await db.deleteFrom('shows').where('id', '=', home.id).execute();
    const brought = must(await takeIn(db, mara.userId, 'from-tam', [bytes]));
    must(
      await mergeInto(
        f.store,
        f.id,
        mara,
        otherFromFile(must(await incomingFile(db, mara.userId, brought.id))),
        { rules: [], choices: {} },
        `e-${randomUUID()}`,
      ),
    );
    expect(level(await f.show(), 1, one)).toBe(0.4);
    expect(await membership(db, f.id, tam.userId)).toBeUndefined();
  });

  test('an owner sees who copied the show, and how far they are from it, also after a merge and its undo', async () => {
    const f = await freshShow();
    const [one, two] = await patched(f);
    const copy = must(await copyShow(f.store, f.id, tam.userId, 'Tam’s copy'));
    const far = async () =>
      (await listCopies(db, f.id)).map((c) => [c.name, c.owners.join(), c.there, c.here, c.merged]);
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
    await setShowState(db, copy.id, 'deleted', 'Tam Brevik');
    expect(await far()).toEqual([]);
  });

  test('shows that have nothing in common do not merge; their parts are brought in', async () => {
    const [a, b] = [await freshShow(), await freshShow()];
    const [one] = await patched(a);
    await patched(b);
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
    expect(level(await b.show(), 7, (await b.show()).fixtureByNumber(1)?.id)).toBe(0.4);
    expect(await bringIn(b.store, b.id, iden, brought(false))).toMatchObject({ code: 'forbidden' });
  });
});

describe('back-ups, archive and deletion', () => {
  test('one is written when something has changed, and opens as the show it was', async () => {
    const f = await freshShow();
    await patched(f);
    const data = mkdtempSync(join(tmpdir(), 'backups-'));
    const name = await backUp(f.store, data, f.id);
    expect(name).toMatch(/-1\.wingman$/);
    expect(await backUp(f.store, data, f.id)).toBeUndefined();
    const then = rowsOf(await f.show());
    await f.edit(mara, 'make-list', { name: 'Later' });
    const file = must(await readBackup(db, data, f.id, name ?? ''));
    const { id } = must(await openFile(db, mara.userId, file, 'Harbour lights, back-up'));
    const opened = (await loadShow(db, id))?.show as MutableShow;
    expect(showName(opened)).toBe('Harbour lights, back-up');
    expect(rowsOf(opened).filter((r) => !r.startsWith('settings'))).toEqual(
      then.filter((r) => !r.startsWith('settings')),
    );
    expect(await listBackups(data, f.id)).toHaveLength(1);
    expect(await readBackup(db, data, '../..', 'passwd')).toMatchObject({ code: 'invalid' });
  });

  test('older ones make room', async () => {
    const f = await freshShow();
    await patched(f);
    const data = mkdtempSync(join(tmpdir(), 'backups-'));
    await backUp(f.store, data, f.id, new Date('2026-01-01T00:00:00Z'));
    for (let i = 0; i < 30; i++)
      writeFileSync(
        join(
          backupFolder(data),
          f.id,
          `2026-11-24T10-00-${String(i).padStart(2, '0')}Z-${100 + i}.wingman`,
        ),
        'x',
      );
    await backUp(f.store, data, f.id, new Date('2026-11-24T19:00:00Z'));
    const left = readdirSync(join(backupFolder(data), f.id));
    expect([left.length, left.some((n) => n.startsWith('2026-01'))]).toEqual([24, false]);
  });

  test('a deleted show is gone for everybody but an owner, who has it back within a week', async () => {
    const f = await freshShow();
    must(await setShowState(db, f.id, 'deleted', 'Mara Kell'));
    expect(await roleOf(db, f.id, mara.userId)).toBeUndefined();
    expect((await listShows(db, tam.userId)).some((s) => s.id === f.id)).toBe(false);
    expect((await listShows(db, mara.userId)).find((s) => s.id === f.id)?.deletedAt).not.toBeNull();
    expect(await purgeDeleted(db, new Date(Date.now() + 6 * DAY))).not.toContain('Harbour lights');
    must(await setShowState(db, f.id, 'kept', 'Mara Kell'));
    expect(await roleOf(db, f.id, mara.userId)).toBe('owner');
    must(await setShowState(db, f.id, 'deleted', 'Mara Kell'));
    await purgeDeleted(db, new Date(Date.now() + 8 * DAY));
    expect(await loadShow(db, f.id)).toBeUndefined();
  });
});

describe('many at once', () => {
  test('six people on two servers edit, undo and lose connections at random: all copies equal the database, and no change is lost', async () => {
    const f = await freshShow();
    const ids = await patched(f);
    const stores = [new ShowStore(db), new ShowStore(db)];
    let seed = 20261124;
    const random = (n: number): number => {
      seed = (seed * 1103515245 + 12345) % 2 ** 31;
      return Math.floor((seed / 2 ** 31) * n);
    };
    const done = new Map<number, string>();
    /** One person's screen: a copy that follows the log, with holes while the connection is away. */
    const screens = await Promise.all(
      Array.from({ length: 6 }, async (_, i) => {
        const copy = await loadShow(db, f.id);
        if (!copy) throw new Error('no show');
        return { copy, who: i % 2 === 0 ? mara : tam, away: false };
      }),
    );
    const follow = async (s: (typeof screens)[number]): Promise<void> => {
      for (const change of await changesAfter(db, f.id, s.copy.seq)) advance(s.copy, change);
    };
    const act = async (s: (typeof screens)[number], step: number): Promise<void> => {
      const store = stores[random(2)] as ShowStore;
      const editId = `m-${step}-${randomUUID()}`;
      if (random(8) === 0) s.away = !s.away;
      if (!s.away) await follow(s);
      const kind = random(10);
      const result =
        kind === 0
          ? await store.reverse(f.id, s.who, random(2) === 0 ? 'undo' : 'redo', editId)
          : await store.edit(f.id, s.who, {
              edit: 'record-cue',
              params: recorded(ids[random(6)], 1 + random(5), random(100) / 100),
              editId,
              seen: s.copy.seq,
            });
      if (!isRefusal(result)) done.set(result.seq, result.summary);
      else expect(['nothing', 'conflict', 'unseen', 'not-found']).toContain(result.code);
    };
    for (let step = 0; step < 40; step++) await Promise.all(screens.map((s) => act(s, step)));
    for (const s of screens) await follow(s);
    const truth = rowsOf((await loadShow(db, f.id))?.show as MutableShow);
    for (const s of screens) expect(rowsOf(s.copy.show)).toEqual(truth);
    for (const store of stores)
      expect(rowsOf((await store.open(f.id))?.show as MutableShow)).toEqual(truth);
    const log = await changesAfter(db, f.id, 1, 10_000);
    expect(log.map((c) => [c.seq, c.summary])).toEqual([...done].sort(([a], [b]) => a - b));
    expect(done.size).toBeGreaterThan(80);
  }, 60_000);
});

describe('nobody overwritten', () => {
  test.each([1, 2, 3])(
    'whatever people set, choose and lose their connection over, every value is one that somebody chose over what they had seen (seed %i)',
    async (first) => {
      const f = await freshShow({ tam: 'programmer', iden: 'programmer' });
      const ids = await patched(f);
      for (const n of [1, 2, 3])
        await f.edit(mara, 'record-cue', {
          listId: 'main',
          number: n * 1000,
          values: ids.map((fixtureId) => ({ fixtureId, attribute: 'Dimmer', level: 0 })),
        });
      const cues = (await f.show()).cuesOf('main').map((c) => c.id);
      let seed = first * 7919;
      const random = (n: number): number => {
        seed = (seed * 1103515245 + 12345) % 2 ** 31;
        return Math.floor((seed / 2 ** 31) * n);
      };
      const stores = [new ShowStore(db), new ShowStore(db)];
      const start = (await f.store.open(f.id))?.seq ?? 0;
      const people = [mara, tam, iden].map((who) => ({ who, seen: start, away: false }));
      /** By edit id: what its author meant for each value, what they had seen, and what they chose when asked. */
      const meant = new Map<
        string,
        {
          values: Map<string, number>;
          seen: number;
          decided: Record<string, 'mine' | 'theirs'>;
          decidedAt: number;
        }
      >();
      let level = 0;
      const now = async (): Promise<number> => (await f.store.open(f.id))?.seq ?? 0;
      const act = async (p: (typeof people)[number]): Promise<void> => {
        if (random(6) === 0) p.away = !p.away;
        if (!p.away) p.seen = await now();
        const { seen } = p;
        const editId = `n-${randomUUID()}`;
        const cells = Array.from({ length: 1 + random(3) }, () => ({
          cueId: cues[random(cues.length)] ?? '',
          fixtureId: ids[random(ids.length)] ?? '',
        })).filter(
          (c, i, all) =>
            all.findIndex((x) => x.cueId === c.cueId && x.fixtureId === c.fixtureId) === i,
        );
        const values = new Map(
          cells.map((c) => [`values/${c.cueId}:${c.fixtureId}:Dimmer`, ++level / 10_000] as const),
        );
        const params = {
          cells: cells.map((c) => ({
            ...c,
            attribute: 'Dimmer',
            set: { level: values.get(`values/${c.cueId}:${c.fixtureId}:Dimmer`) },
          })),
        };
        let decided: Record<string, 'mine' | 'theirs'> = {};
        let decidedAt = seen;
        for (let turn = 0; turn < 6; turn++) {
          meant.set(editId, { values, seen, decided, decidedAt });
          const request = {
            edit: 'set-values',
            params,
            editId,
            seen,
            ...(turn > 0 ? { decided, decidedAt } : {}),
          };
          // Whoever loses the connection sends it again; both may arrive, on two servers.
          const [answer] = await Promise.all([
            stores[random(2)]?.edit(f.id, p.who, request),
            ...(random(4) === 0 ? [stores[random(2)]?.edit(f.id, p.who, request)] : []),
          ]);
          if (!answer || !isRefusal(answer)) return;
          expect(['unseen', 'nothing']).toContain(answer.code);
          if (answer.code !== 'unseen' || random(5) === 0) return;
          // They think about it, and others go on meanwhile.
          await new Promise((done) => setTimeout(done, random(4)));
          decided = {
            ...decided,
            ...Object.fromEntries(
              (answer.unseen ?? []).map((u) => [
                u.key,
                random(2) === 0 ? ('mine' as const) : ('theirs' as const),
              ]),
            ),
          };
          decidedAt = answer.seq ?? decidedAt;
        }
      };
      for (let step = 0; step < 25; step++) await Promise.all(people.map(act));
      const log = await changesAfter(db, f.id, start, 10_000);
      expect(log.length).toBeGreaterThan(30);
      let over = 0;
      for (const change of log) {
        const m = meant.get(change.editId);
        for (const row of change.rows) {
          const key = `${row.table}/${row.id}`;
          const after = row.table === 'values' ? row.after?.level : undefined;
          expect(after).toBe(m?.values.get(key));
          expect(m?.decided[key]).not.toBe('theirs');
          // Others' work on it that its author had not seen: chosen over, in the state that it had when they chose.
          const others = log.filter(
            (c) =>
              c.seq < change.seq &&
              c.seq > (m?.seen ?? 0) &&
              c.userId !== change.userId &&
              c.rows.some((r) => r.id === row.id),
          );
          if (others.length === 0) continue;
          over++;
          expect(m?.decided[key]).toBe('mine');
          expect(others.filter((c) => c.seq > (m?.decidedAt ?? 0))).toEqual([]);
        }
      }
      expect(over).toBeGreaterThan(0);
      expect(new Set(log.map((c) => c.editId)).size).toBe(log.length);
    },
    60_000,
  );
});

describe('players', () => {
  test('a beat is of the player on air alone: another one learns by it that it is not', async () => {
    const before = await db
      .selectFrom('installation')
      .select(['player', 'player_id'])
      .where('id', '=', 1)
      .executeTakeFirstOrThrow();
    await register(db, { id: 'first', address: '127.0.0.1:1', machine: 'here' });
    expect(await beat(db, 'first', { 'sacn/1': 200 })).toBe(true);
    const next = (await sequencesNow(db))['sacn/1'] ?? -1;
    expect((next - 200 + 256) % 256).toBeLessThan(60);
    await register(db, { id: 'second', address: '127.0.0.1:2', machine: 'here' });
    expect(await beat(db, 'first', { 'sacn/1': 1 })).toBe(false);
    expect(await playerAddress(db)).toBe('127.0.0.1:2');
    await db.updateTable('installation').set(before).where('id', '=', 1).execute();
  });
});
