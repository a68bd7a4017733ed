/** A second machine, against the real PostgreSQL. */
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { sql } from 'kysely';
import { connect } from '../store/database.ts';
import { ownDatabase } from '../store/own-database.ts';
import { machineHere, OUTPUT_LOCK, register } from '../store/players.ts';
import { whyNotJoin } from './joining.ts';

let own: Awaited<ReturnType<typeof ownDatabase>>;
beforeAll(async () => (own = await ownDatabase()));
afterAll(() => own.drop());

test('fails in words, at once, where the player on air is on another machine and cannot be reached from here', async () => {
  const { db } = own;
  expect(await whyNotJoin(db)).toBeNull();
  // A player elsewhere that was stopped long ago keeps nobody away.
  await register(db, { id: 'there', address: '127.0.0.1:4801', machine: 'ferry-desk/abc/net' });
  expect(await whyNotJoin(db)).toBeNull();
  const player = connect(own.url, 1).db;
  await sql`select pg_advisory_lock(${OUTPUT_LOCK}::bigint)`.execute(player);
  expect(await whyNotJoin(db)).toMatch(
    /runs on ferry-desk, and takes connections from that machine alone \(127\.0\.0\.1:4801\).*WINGMAN_PLAYER_HOST.*Nothing was started here/,
  );
  await register(db, { id: 'there', address: '127.0.0.1:4801', machine: machineHere() });
  expect(await whyNotJoin(db)).toBeNull();
  // Reachable: something answers, on an address of the network (here one that stands for it).
  const server = createServer((_, response) => response.end('{}'));
  await new Promise<void>((done) => server.listen(0, '0.0.0.0', done));
  const { port } = server.address() as AddressInfo;
  await register(db, { id: 'there', address: `0.0.0.0:${port}`, machine: 'ferry-desk/abc/net' });
  expect(await whyNotJoin(db)).toBeNull();
  await new Promise((done) => server.close(done));
  expect(await whyNotJoin(db)).toMatch(/at 0\.0\.0\.0:\d+, and cannot be reached from here/);
  await player.destroy();
});
