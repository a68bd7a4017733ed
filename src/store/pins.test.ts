/** The PIN of a locked screen, and being signed out everywhere. */
import { randomUUID } from 'node:crypto';
import { isRefusal } from '../core/refusal.ts';
import { signOutEverywhere } from './people.ts';
import { checkPin, hasPin, isLocked, lockSession, setPin } from './pins.ts';
import { withCrew, iden, must, soon, tam } from './simulated-crew.ts';

const crew = withCrew();
beforeEach(() => crew.db.deleteFrom('pins').execute());

const NOW = new Date('2026-11-24T19:30:00.000Z');
const later = (ms: number): Date => new Date(NOW.getTime() + ms);

describe('PIN and sign-out', () => {
  test('a right one opens; five wrong ones make it wait', async () => {
    must(await setPin(crew.db, tam.userId, '4711'));
    expect(must(await checkPin(crew.db, tam.userId, '4711'))).toEqual({ ok: true });
    for (let i = 0; i < 5; i++)
      expect(await checkPin(crew.db, tam.userId, '0000')).toMatchObject({ code: 'forbidden' });
    expect(await checkPin(crew.db, tam.userId, '4711')).toMatchObject({
      code: 'rate',
      message: expect.stringMatching(/Try again in (60|59|5[0-8]) s/),
    });
    expect(
      must(await checkPin(crew.db, tam.userId, '4711', new Date(Date.now() + 61_000))),
    ).toEqual({
      ok: true,
    });
    must(await setPin(crew.db, tam.userId, '4711'));
    const many = await Promise.all(
      Array.from({ length: 40 }, (_, i) => checkPin(crew.db, tam.userId, String(1000 + i))),
    );
    expect(many.filter((r) => isRefusal(r) && r.code === 'forbidden').length).toBe(5);
    expect(many.filter((r) => isRefusal(r) && r.code === 'rate').length).toBe(35);
    for (const bad of ['12', '123456789', 'abcd', ''])
      expect(await setPin(crew.db, tam.userId, bad)).toMatchObject({ code: 'invalid' });
    // Four digits are in any hash now and then: what is kept is salt and hash, and nothing else.
    const [kept] = await crew.db
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
    await crew.db
      .insertInto('session')
      .values([session(a), session(b)])
      .execute();
    await lockSession(crew.db, a, true);
    expect([await isLocked(crew.db, a), await isLocked(crew.db, b)]).toEqual([true, false]);
    await lockSession(crew.db, a, false);
    expect(await isLocked(crew.db, a)).toBe(false);
    await signOutEverywhere(crew.db, iden.userId);
    expect(
      await crew.db.selectFrom('session').select('id').where('userId', '=', iden.userId).execute(),
    ).toEqual([]);
  });
});

describe('a PIN, at the numbers and moments themselves', () => {
  const wrong = async (times: number): Promise<void> => {
    for (let i = 0; i < times; i++)
      expect(await checkPin(crew.db, tam.userId, '0000', NOW)).toMatchObject({ code: 'forbidden' });
  };

  test('has four to eight digits, is there once it is set, and is gone when it is taken away', async () => {
    expect(await hasPin(crew.db, tam.userId)).toBe(false);
    expect(await checkPin(crew.db, tam.userId, '4711', NOW)).toMatchObject({ code: 'nothing' });
    for (const pin of ['123', '123456789', '12a4', ' 1234', ''])
      expect(await setPin(crew.db, tam.userId, pin)).toMatchObject({ code: 'invalid' });
    for (const pin of ['1234', '12345678'])
      expect(await setPin(crew.db, tam.userId, pin)).toEqual({ ok: true });
    expect(await hasPin(crew.db, tam.userId)).toBe(true);
    expect(await checkPin(crew.db, tam.userId, '12345678', NOW)).toEqual({ ok: true });
    expect(await setPin(crew.db, tam.userId, null)).toEqual({ ok: true });
    expect(await hasPin(crew.db, tam.userId)).toBe(false);
  });

  test('waits a minute after five wrong ones, to the moment, and says how long', async () => {
    await setPin(crew.db, tam.userId, '4711');
    await wrong(4);
    // A right one in time wipes what was counted.
    expect(await checkPin(crew.db, tam.userId, '4711', NOW)).toEqual({ ok: true });
    await wrong(5);
    for (const [ms, left] of [
      [0, 60],
      [30_500, 30],
      [59_999, 1],
    ] as const)
      expect(await checkPin(crew.db, tam.userId, '4711', later(ms))).toMatchObject({
        code: 'rate',
        message: `Too many wrong PINs. Try again in ${left} s, or sign out and in again.`,
      });
    expect(await checkPin(crew.db, tam.userId, '4711', later(60_000))).toEqual({ ok: true });
    // And five more are looked at from there.
    await wrong(5);
    expect(await checkPin(crew.db, tam.userId, '4711', NOW)).toMatchObject({ code: 'rate' });
  });

  test('set anew, it waits for nothing', async () => {
    await setPin(crew.db, tam.userId, '4711');
    await wrong(5);
    await setPin(crew.db, tam.userId, '0815');
    expect(await checkPin(crew.db, tam.userId, '0815', NOW)).toEqual({ ok: true });
  });
});
