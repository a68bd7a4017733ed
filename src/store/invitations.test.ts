/** Invitations by link: who comes in by one, as what, and until when. */
import { randomUUID } from 'node:crypto';
import { isRefusal } from '../core/refusal.ts';
import {
  acceptInvitation,
  accountByInvitation,
  invite,
  type Invite,
  listInvitations,
  readInvitation,
  withdrawInvitation,
} from './invitations.ts';
import { listMembers, listShows, membership, roleOf, setMember } from './shows.ts';
import { email, withCrew, iden, mara, must, soon, tam } from './simulated-crew.ts';

const crew = withCrew();

const NOW = new Date('2026-11-24T19:30:00.000Z');
const later = (ms: number): Date => new Date(NOW.getTime() + ms);
const WEEK_MS = 7 * 24 * 3600 * 1000;
const PLAIN: Invite = {
  role: 'programmer',
  pages: [],
  memberUntil: null,
  expiresAt: later(WEEK_MS),
};

async function invited(
  show: string,
  more: Partial<Invite> = {},
): Promise<{ id: string; token: string }> {
  const made = await invite(crew.db, show, mara.userId, { ...PLAIN, ...more }, NOW);
  if (isRefusal(made)) throw new Error(made.message);
  return made;
}

describe('invitations', () => {
  test('one brings one person in, in its role and until its end date; used again it is refused', async () => {
    const { id } = await crew.freshShow({});
    const { token } = must(
      await invite(crew.db, id, mara.userId, {
        role: 'operator',
        pages: [],
        memberUntil: soon(30),
        expiresAt: soon(7),
      }),
    );
    expect(must(await readInvitation(crew.db, token))).toMatchObject({
      show: 'Harbour lights',
      role: 'operator',
    });
    expect(must(await acceptInvitation(crew.db, token, tam.userId))).toMatchObject({
      showId: id,
      role: 'operator',
    });
    expect(await roleOf(crew.db, id, tam.userId)).toBe('operator');
    expect(await acceptInvitation(crew.db, token, iden.userId)).toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('used already'),
    });
    expect(await roleOf(crew.db, id, iden.userId)).toBeUndefined();
    expect(await listInvitations(crew.db, id)).toMatchObject([
      { state: 'used', usedBy: 'Tam Brevik' },
    ]);
  });

  test('whoever is in keeps the invitation for somebody else, up to the moment at which their own time is over', async () => {
    const { id } = await crew.freshShow({});
    const { token } = must(
      await invite(crew.db, id, mara.userId, {
        role: 'programmer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(7),
      }),
    );
    const over = soon(2);
    await setMember(crew.db, id, email(tam), 'viewer', { until: over });
    const before = new Date(over.getTime() - 1);
    expect(await acceptInvitation(crew.db, token, tam.userId, before)).toMatchObject({
      code: 'conflict',
      message: expect.stringContaining('as viewer'),
    });
    expect(must(await acceptInvitation(crew.db, token, tam.userId, over)).role).toBe('programmer');
    expect(await roleOf(crew.db, id, tam.userId)).toBe('programmer');
  });

  test('two who open one link at once: one is in', async () => {
    const { id } = await crew.freshShow({});
    const { token } = must(
      await invite(crew.db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    const done = await Promise.all([
      acceptInvitation(crew.db, token, tam.userId),
      acceptInvitation(crew.db, token, iden.userId),
    ]);
    expect(done.filter(isRefusal)).toHaveLength(1);
  });

  test('expired, withdrawn, unknown, or for somebody who is in already: refused in words', async () => {
    const { id } = await crew.freshShow({ tam: 'programmer' });
    const old = must(
      await invite(crew.db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    expect(await acceptInvitation(crew.db, old.token, iden.userId, soon(2))).toMatchObject({
      message: expect.stringContaining('ended on'),
    });
    const gone = must(
      await invite(crew.db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    must(await withdrawInvitation(crew.db, id, gone.id));
    expect(await readInvitation(crew.db, gone.token)).toMatchObject({
      message: expect.stringContaining('withdrawn'),
    });
    const states = async (at?: Date): Promise<(string | undefined)[]> => {
      const all = await listInvitations(crew.db, id, at);
      return [old, gone].map(({ id: of }) => all.find((i) => i.id === of)?.state);
    };
    expect(await states()).toEqual(['open', 'withdrawn']);
    expect(await states(soon(2))).toEqual(['expired', 'withdrawn']);
    expect(await readInvitation(crew.db, 'made-up')).toMatchObject({ code: 'not-found' });
    expect(await acceptInvitation(crew.db, old.token, tam.userId)).toMatchObject({
      message: expect.stringContaining('already, as programmer'),
    });
    expect(await roleOf(crew.db, id, tam.userId)).toBe('programmer');
    expect(
      await invite(crew.db, id, mara.userId, {
        role: 'owner',
        pages: [],
        memberUntil: soon(3),
        expiresAt: soon(1),
      }),
    ).toMatchObject({ code: 'invalid' });
  });

  test('the token is kept as its hash alone', async () => {
    const { id } = await crew.freshShow({});
    const { token } = must(
      await invite(crew.db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    const rows = await crew.db
      .selectFrom('invitations')
      .selectAll()
      .where('show_id', '=', id)
      .execute();
    expect(JSON.stringify(rows)).not.toContain(token);
  });

  test('somebody without an account makes one by it; a known address is told to sign in', async () => {
    const { id } = await crew.freshShow({});
    const make = async (p: { name: string; email: string }): Promise<string> => {
      const userId = randomUUID();
      await crew.db
        .insertInto('user')
        .values({ id: userId, name: p.name, email: p.email })
        .execute();
      return userId;
    };
    const { token } = must(
      await invite(crew.db, id, mara.userId, {
        role: 'viewer',
        pages: [],
        memberUntil: null,
        expiresAt: soon(1),
      }),
    );
    expect(
      await accountByInvitation(
        crew.db,
        token,
        { name: 'X', email: email(tam), password: 'long enough' },
        make,
      ),
    ).toMatchObject({ code: 'conflict' });
    const address = `${randomUUID()}@tidewater.example`;
    const made = must(
      await accountByInvitation(
        crew.db,
        token,
        { name: 'Nell Strand', email: address.toUpperCase(), password: 'long enough' },
        make,
      ),
    );
    must(await acceptInvitation(crew.db, token, made.userId));
    expect((await listMembers(crew.db, id)).find((m) => m.email === address)).toMatchObject({
      name: 'Nell Strand',
      role: 'viewer',
    });
  });

  test('an end date that has come ends it, for edits as well', async () => {
    const f = await crew.freshShow({ tam: 'programmer' });
    await setMember(crew.db, f.id, email(tam), 'programmer', {
      until: new Date(Date.now() - 1000),
    });
    expect(await membership(crew.db, f.id, tam.userId)).toBeUndefined();
    expect(
      await f.store.edit(f.id, tam, {
        edit: 'make-list',
        params: { name: 'X' },
        editId: `e-${randomUUID()}`,
      }),
    ).toMatchObject({ code: 'not-found' });
    expect((await listShows(crew.db, tam.userId)).some((s) => s.id === f.id)).toBe(false);
    expect(await setMember(crew.db, f.id, email(mara), 'owner', { until: soon(2) })).toMatchObject({
      code: 'conflict',
    });
    // An owner on loan is none that a show could be left to.
    await setMember(crew.db, f.id, email(iden), 'owner', { until: soon(2) });
    for (const role of ['programmer', null] as const)
      expect(await setMember(crew.db, f.id, email(mara), role)).toMatchObject({ code: 'conflict' });
    expect(await setMember(crew.db, f.id, email(iden), 'viewer')).not.toHaveProperty('refused');
  });
});

describe('an invitation, at the numbers and moments themselves', () => {
  test('must end later than now, and so must the time of whoever accepts it; an owner stays', async () => {
    const show = (await crew.freshShow({})).id;
    const refused = (more: Partial<Invite>) =>
      invite(crew.db, show, mara.userId, { ...PLAIN, ...more }, NOW);
    expect(await refused({ expiresAt: NOW })).toMatchObject({
      fields: { expiresAt: 'In the past.' },
    });
    expect(await refused({ memberUntil: NOW })).toMatchObject({
      fields: { memberUntil: 'In the past.' },
    });
    expect(await refused({ role: 'owner', memberUntil: later(1) })).toMatchObject({
      fields: { memberUntil: 'Not for owners.' },
    });
    expect(isRefusal(await refused({ expiresAt: later(1), memberUntil: later(1) }))).toBe(false);
    expect(isRefusal(await refused({ role: 'owner' }))).toBe(false);
  });

  test('is open until the moment at which it ends', async () => {
    const show = (await crew.freshShow({})).id;
    const { token, id } = await invited(show);
    expect(await readInvitation(crew.db, token, later(WEEK_MS - 1))).toMatchObject({
      show: 'Harbour lights',
      role: 'programmer',
      until: null,
    });
    expect(await readInvitation(crew.db, token, later(WEEK_MS))).toMatchObject({
      code: 'conflict',
    });
    const state = async (at: Date) =>
      (await listInvitations(crew.db, show, at)).find((i) => i.id === id)?.state;
    expect([await state(later(WEEK_MS - 1)), await state(later(WEEK_MS))]).toEqual([
      'open',
      'expired',
    ]);
  });

  test('says what has become of it, and by whom; the newest stands first', async () => {
    const show = (await crew.freshShow({})).id;
    const used = await invited(show, { memberUntil: later(WEEK_MS) });
    const gone = await invited(show);
    expect(await acceptInvitation(crew.db, used.token, tam.userId, NOW)).toMatchObject({
      role: 'programmer',
    });
    expect(await withdrawInvitation(crew.db, show, gone.id)).toEqual({ role: 'programmer' });
    // What is used or withdrawn is not withdrawn again, nor from another show.
    for (const id of [used.id, gone.id])
      expect(await withdrawInvitation(crew.db, show, id)).toMatchObject({ code: 'conflict' });
    const open = await invited(show);
    expect(await withdrawInvitation(crew.db, (await crew.freshShow({})).id, open.id)).toMatchObject(
      {
        code: 'conflict',
      },
    );
    expect(
      (await listInvitations(crew.db, show, NOW)).map((i) => [
        i.id,
        i.state,
        i.usedBy,
        i.memberUntil,
      ]),
    ).toEqual([
      [open.id, 'open', null, null],
      [gone.id, 'withdrawn', null, null],
      [used.id, 'used', 'Tam Brevik', later(WEEK_MS).toISOString()],
    ]);
  });

  test('of a show there are at most two hundred that are open; those that are over do not count', async () => {
    const show = (await crew.freshShow({})).id;
    const row = (i: number, more: object) => ({
      id: randomUUID(),
      token_hash: randomUUID(),
      show_id: show,
      role: 'viewer' as const,
      pages: '[]',
      member_until: null,
      expires_at: later(WEEK_MS + i),
      made_by: mara.userId,
      used_by: null,
      used_at: null,
      withdrawn_at: null,
      ...more,
    });
    const put = (count: number, more: object = {}): Promise<unknown> =>
      crew.db
        .insertInto('invitations')
        .values(Array.from({ length: count }, (_, i) => row(i, more)))
        .execute();
    await put(199);
    await put(5, { used_at: NOW });
    await put(5, { withdrawn_at: NOW });
    await put(5, { expires_at: NOW });
    await invited(show);
    expect(await invite(crew.db, show, mara.userId, PLAIN, NOW)).toMatchObject({ code: 'limit' });
    // Another show has its own.
    await invited((await crew.freshShow({})).id);
  });
});
