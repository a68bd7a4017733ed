/** Which player is on air and how it is reached, and where its packets are, so that another can go on. */
import { readFileSync, readlinkSync } from 'node:fs';
import { hostname } from 'node:os';
import { sql } from 'kysely';
import type { Database } from './database.ts';
import { AIR_CHANNEL } from './channels.ts';

/** So often the player on air writes down where its packet sequences are. */
export const BEAT_MS = 4000;
/** Full packets a second of DMX512-A, at most. */
const FRAMES_A_SECOND = 44;
/** E1.31 clause 6.7.2: a packet whose sequence is up to 20 behind the last one is thrown away. */
const BEHIND = 20;

/** Says that this player is on air. Web processes follow, and a player that thought it was hears of it. */
export async function register(
  db: Database,
  player: { id: string; address: string; machine: string },
): Promise<void> {
  await db
    .updateTable('installation')
    .set({ player: player.address, player_id: player.id, player_machine: player.machine })
    .where('id', '=', 1)
    .execute();
  await sql`select pg_notify(${AIR_CHANNEL}, ${JSON.stringify({ player: player.address })})`.execute(
    db,
  );
}

/** Where sequences are now, by the database's clock, which every player shares. @returns false when another player is on air by now */
export async function beat(
  db: Database,
  playerId: string,
  sequences: Record<string, number>,
): Promise<boolean> {
  const done =
    await sql`update installation set beat = jsonb_build_object('at', extract(epoch from now()), 'sequences', ${JSON.stringify(sequences)}::jsonb) where id = 1 and player_id = ${playerId}`.execute(
      db,
    );
  return (done.numAffectedRows ?? 0n) > 0n;
}

/**
 * Sequences from which receivers take the next packets: so far ahead of the last beat that they are new, however many
 * were sent since, and not so far that they look old.
 */
export function goOnFrom(
  beat: { at: number; sequences: Record<string, number> } | null,
  now_s: number,
): Record<string, number> {
  if (!beat) return {};
  const sent = Math.ceil(Math.max(0, now_s - beat.at) * FRAMES_A_SECOND) + 1;
  const ahead = Math.min(sent, 255 - BEHIND);
  return Object.fromEntries(
    Object.entries(beat.sequences).map(([line, last]) => [line, (last + ahead) % 256]),
  );
}

/** Where sequence numbers on the wire are by now, for whoever goes on with them. */
export async function sequencesNow(db: Database): Promise<Record<string, number>> {
  const row = await db
    .selectFrom('installation')
    .select(['beat', sql<number>`extract(epoch from now())::float8`.as('now')])
    .where('id', '=', 1)
    .executeTakeFirst();
  return row ? goOnFrom(row.beat, row.now) : {};
}

/** Players that wait for the output lock. */
export async function waitingPlayers(db: Database): Promise<number> {
  const low = OUTPUT_LOCK % 2 ** 32;
  const high = Math.floor(OUTPUT_LOCK / 2 ** 32);
  const { rows } = await sql<{
    count: string;
  }>`select count(*) as count from pg_locks where locktype = 'advisory' and not granted and classid = ${high}::bigint::oid and objid = ${low}::bigint::oid`.execute(
    db,
  );
  return Number(rows[0]?.count ?? 0);
}

/** Key of the advisory lock that says which player may send. */
export const OUTPUT_LOCK = 5_568_6454;

/** Which machine this is, as far as its own loopback goes: a container or a network of its own is another one. */
export function machineHere(): string {
  const read = (what: () => string): string => {
    try {
      return what().trim();
    } catch {
      return '';
    }
  };
  return [
    hostname(),
    read(() => readFileSync('/etc/machine-id', 'utf8')),
    read(() => readlinkSync('/proc/self/ns/net')),
  ].join('/');
}

/** The player that has the output now, or null when none does. */
export async function playerOnAir(
  db: Database,
): Promise<{ address: string; machine: string } | null> {
  const low = OUTPUT_LOCK % 2 ** 32;
  const high = Math.floor(OUTPUT_LOCK / 2 ** 32);
  const { rows } = await sql<{
    n: string;
  }>`select count(*) as n from pg_locks where locktype = 'advisory' and granted and classid = ${high}::bigint::oid and objid = ${low}::bigint::oid`.execute(
    db,
  );
  if (Number(rows[0]?.n ?? 0) === 0) return null;
  const row = await db
    .selectFrom('installation')
    .select(['player', 'player_machine'])
    .where('id', '=', 1)
    .executeTakeFirst();
  return row?.player ? { address: row.player, machine: row.player_machine ?? '' } : null;
}

/** How the player on air is reached, as `host:port`. */
export async function playerAddress(db: Database): Promise<string | null> {
  const row = await db
    .selectFrom('installation')
    .select('player')
    .where('id', '=', 1)
    .executeTakeFirst();
  return row?.player ?? null;
}
