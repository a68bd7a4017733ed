/** Limits of invitations and PINs, at the numbers and moments themselves. */
import { randomUUID } from 'node:crypto';
import { isRefusal } from '../core/refusal.ts';
import type { Database } from './database.ts';
import { ownDatabase } from './own-database.ts';
import {
  acceptInvitation,
  checkPin,
  hasPin,
  invite,
  listInvitations,
  readInvitation,
  setPin,
  withdrawInvitation,
  type Invite,
} from './people.ts';
import { createShow } from './shows.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
const [mara, tam] = [randomUUID(), randomUUID()];
const NOW = new Date('2026-11-24T19:30:00.000Z');
const later = (ms: number): Date => new Date(NOW.getTime() + ms);
const WEEK_MS = 7 * 24 * 3600 * 1000;
const PLAIN: Invite = {
  role: 'programmer',
  pages: [],
  memberUntil: null,
  expiresAt: later(WEEK_MS),
};

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
});
afterAll(() => own.drop());

async function freshShow(): Promise<string> {
  const made = await createShow(db, mara, 'Harbour lights');
  if (isRefusal(made)) throw new Error(made.message);
  return made.id;
}
async function invited(
  show: string,
  more: Partial<Invite> = {},
): Promise<{ id: string; token: string }> {
  const made = await invite(db, show, mara, { ...PLAIN, ...more }, NOW);
  if (isRefusal(made)) throw new Error(made.message);
  return made;
}

describe('an invitation', () => {
  test('must end later than now, and so must the time of whoever accepts it; an owner stays', async () => {
    const show = await freshShow();
    const refused = (more: Partial<Invite>) => invite(db, show, mara, { ...PLAIN, ...more }, NOW);
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
    const show = await freshShow();
    const { token, id } = await invited(show);
    expect(await readInvitation(db, token, later(WEEK_MS - 1))).toMatchObject({
      show: 'Harbour lights',
      role: 'programmer',
      until: null,
    });
    expect(await readInvitation(db, token, later(WEEK_MS))).toMatchObject({ code: 'conflict' });
    const state = async (at: Date) =>
      (await listInvitations(db, show, at)).find((i) => i.id === id)?.state;
    expect([await state(later(WEEK_MS - 1)), await state(later(WEEK_MS))]).toEqual([
      'open',
      'expired',
    ]);
  });

  test('says what has become of it, and by whom; the newest stands first', async () => {
    const show = await freshShow();
    const used = await invited(show, { memberUntil: later(WEEK_MS) });
    const gone = await invited(show);
    expect(await acceptInvitation(db, used.token, tam, NOW)).toMatchObject({ role: 'programmer' });
    expect(await withdrawInvitation(db, show, gone.id)).toEqual({ role: 'programmer' });
    // What is used or withdrawn is not withdrawn again, nor from another show.
    for (const id of [used.id, gone.id])
      expect(await withdrawInvitation(db, show, id)).toMatchObject({ code: 'conflict' });
    const open = await invited(show);
    expect(await withdrawInvitation(db, await freshShow(), open.id)).toMatchObject({
      code: 'conflict',
    });
    expect(
      (await listInvitations(db, show, NOW)).map((i) => [i.id, i.state, i.usedBy, i.memberUntil]),
    ).toEqual([
      [open.id, 'open', null, null],
      [gone.id, 'withdrawn', null, null],
      [used.id, 'used', 'Tam Brevik', later(WEEK_MS).toISOString()],
    ]);
  });

  test('of a show there are at most two hundred that are open; those that are over do not count', async () => {
    const show = await freshShow();
    const row = (i: number, more: object) => ({
      id: randomUUID(),
      token_hash: randomUUID(),
      show_id: show,
      role: 'viewer' as const,
      pages: '[]',
      member_until: null,
      expires_at: later(WEEK_MS + i),
      made_by: mara,
      used_by: null,
      used_at: null,
      withdrawn_at: null,
      ...more,
    });
    const put = (count: number, more: object = {}): Promise<unknown> =>
      db
        .insertInto('invitations')
        .values(Array.from({ length: count }, (_, i) => row(i, more)))
        .execute();
    await put(199);
    await put(5, { used_at: NOW });
    await put(5, { withdrawn_at: NOW });
    await put(5, { expires_at: NOW });
    await invited(show);
    expect(await invite(db, show, mara, PLAIN, NOW)).toMatchObject({ code: 'limit' });
    // Another show has its own.
    await invited(await freshShow());
  });
});

describe('a PIN', () => {
  const wrong = async (times: number): Promise<void> => {
    for (let i = 0; i < times; i++)
      expect(await checkPin(db, tam, '0000', NOW)).toMatchObject({ code: 'forbidden' });
  };

  test('has four to eight digits, is there once it is set, and is gone when it is taken away', async () => {
    expect(await hasPin(db, tam)).toBe(false);
    expect(await checkPin(db, tam, '4711', NOW)).toMatchObject({ code: 'nothing' });
    for (const pin of ['123', '123456789', '12a4', ' 1234', ''])
      expect(await setPin(db, tam, pin)).toMatchObject({ code: 'invalid' });
    for (const pin of ['1234', '12345678'])
      expect(await setPin(db, tam, pin)).toEqual({ ok: true });
    expect(await hasPin(db, tam)).toBe(true);
    expect(await checkPin(db, tam, '12345678', NOW)).toEqual({ ok: true });
    expect(await setPin(db, tam, null)).toEqual({ ok: true });
    expect(await hasPin(db, tam)).toBe(false);
  });

  test('waits a minute after five wrong ones, to the moment, and says how long', async () => {
    await setPin(db, tam, '4711');
    await wrong(4);
    // A right one in time wipes what was counted.
    expect(await checkPin(db, tam, '4711', NOW)).toEqual({ ok: true });
    await wrong(5);
    for (const [ms, left] of [
      [0, 60],
      [30_500, 30],
      [59_999, 1],
    ] as const)
      expect(await checkPin(db, tam, '4711', later(ms))).toMatchObject({
        code: 'rate',
        message: `Too many wrong PINs. Try again in ${left} s, or sign out and in again.`,
      });
    expect(await checkPin(db, tam, '4711', later(60_000))).toEqual({ ok: true });
    // And five more are looked at from there.
    await wrong(5);
    expect(await checkPin(db, tam, '4711', NOW)).toMatchObject({ code: 'rate' });
  });

  test('set anew, it waits for nothing', async () => {
    await setPin(db, tam, '4711');
    await wrong(5);
    await setPin(db, tam, '0815');
    expect(await checkPin(db, tam, '0815', NOW)).toEqual({ ok: true });
  });
});
