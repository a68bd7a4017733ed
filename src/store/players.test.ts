/** Which player is on air, and where its packets are for whoever goes on with them. */
import { sql } from 'kysely';
import { connect, type Database } from './database.ts';
import { ownDatabase } from './own-database.ts';
import {
  beat,
  BEAT_MS,
  goOnFrom,
  OUTPUT_LOCK,
  playerAddress,
  playerOnAir,
  register,
  sequencesNow,
  waitingPlayers,
} from './players.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
let db: Database;
beforeAll(async () => {
  own = await ownDatabase();
  ({ db } = own);
});
afterAll(() => own.drop());

/** E1.31 clause 6.7.2: thrown away when the difference to the last one, as a signed byte, is in -20 < d <= 0. */
const taken = (next: number, last: number): boolean => {
  const d = (((next - last) & 255) ^ 128) - 128;
  return !(d <= 0 && d > -20);
};

test('however many packets went out since the last beat, the next ones are taken', () => {
  for (const last of [0, 1, 100, 255]) {
    for (let waited = 0; waited <= BEAT_MS / 1000 + 0.6; waited += 0.05) {
      const next =
        goOnFrom({ at: 1000, sequences: { 'sacn/1': last } }, 1000 + waited)['sacn/1'] ?? -1;
      // A still stage sends about one a second, a moving one 44.
      for (let sent = 0; sent <= Math.ceil(waited * 44); sent++)
        expect(taken(next + 1, (last + sent) % 256)).toBe(true);
    }
  }
});

test('without a beat nothing is known, and sequences begin anew', () => {
  expect(goOnFrom(null, 5)).toEqual({});
});

describe('the player on air', () => {
  test('writes where its packets are for as long as it is the one', async () => {
    await register(db, { id: 'a', address: '127.0.0.1:1', machine: 'here' });
    expect(await playerAddress(db)).toBe('127.0.0.1:1');
    expect(await beat(db, 'a', { 'sacn/1': 40 })).toBe(true);
    await register(db, { id: 'b', address: '127.0.0.1:2', machine: 'there' });
    expect(await beat(db, 'a', { 'sacn/1': 90 })).toBe(false);
    // One packet at least may have left since; more than a moment has not gone by.
    const next = (await sequencesNow(db))['sacn/1'] ?? 0;
    expect(next).toBeGreaterThanOrEqual(41);
    expect(next).toBeLessThan(40 + 200);
    expect(await playerAddress(db)).toBe('127.0.0.1:2');
  });

  test('is the one that holds the lock: none, one, and those that wait', async () => {
    await register(db, { id: 'b', address: '127.0.0.1:2', machine: 'there' });
    expect([await playerOnAir(db), await waitingPlayers(db)]).toEqual([null, 0]);
    const holder = connect(own.url, 1).db;
    await sql`select pg_advisory_lock(${OUTPUT_LOCK})`.execute(holder);
    expect(await playerOnAir(db)).toEqual({ address: '127.0.0.1:2', machine: 'there' });
    expect(await waitingPlayers(db)).toBe(0);
    const second = connect(own.url, 1).db;
    const waits = sql`select pg_advisory_lock(${OUTPUT_LOCK})`.execute(second);
    while ((await waitingPlayers(db)) === 0) await new Promise((done) => setTimeout(done, 20));
    expect(await waitingPlayers(db)).toBe(1);
    await holder.destroy();
    await waits;
    expect(await waitingPlayers(db)).toBe(0);
    await second.destroy();
    while ((await playerOnAir(db)) !== null) await new Promise((done) => setTimeout(done, 20));
  });
});
