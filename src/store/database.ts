/** PostgreSQL through Kysely: the tables as TypeScript sees them, and the connection. */
import { Kysely, PostgresDialect, type ColumnType, type Generated } from 'kysely';
import pg from 'pg';
import type { Role } from '../core/roles.ts';
import type { JournalKind, VersionKind } from '../core/live/answers.ts';
import type { InboxAsk, InboxKind, InboxPlace } from '../core/live/inbox.ts';
import type { AnyRow, TableName } from '../core/show/tables.ts';
import type { HouseRight } from '../core/rights.ts';
import type { RowChange } from '../core/show/show.ts';
import type { SoundFile } from '../core/sounds/rows.ts';
import type { TypeRow } from '../core/types/rows.ts';
import type { Wires } from '../core/wires/wires.ts';

type Json<T> = ColumnType<T, string, string>;

/** The show that another was copied from, and its last change then. */
export interface Origin {
  id: string;
  seq: number;
}
interface Tables {
  shows: {
    id: string;
    name: string;
    venue: string;
    seq: Generated<number>;
    created_at: Generated<Date>;
    changed_at: Generated<Date>;
    origin: ColumnType<Origin | null, string | null | undefined, string | null>;
    archived_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
    deleted_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
    deleted_by: ColumnType<string | null, string | null | undefined, string | null>;
  };
  /** Without data: the row of the show's packs that has this id is gone. */
  show_rows: {
    show_id: string;
    tbl: TableName;
    id: string;
    data: ColumnType<AnyRow | null, string | null, string | null>;
  };
  show_packs: { show_id: string; tbl: TableName; part: number; schema: number; data: Buffer };
  changes: {
    show_id: string;
    seq: number;
    edit_id: string;
    user_id: string;
    user_name: string;
    at: Generated<Date>;
    edit: string;
    summary: string;
    reverts: number | null;
    rows: Json<RowChange[]>;
  };
  members: {
    show_id: string;
    user_id: string;
    role: Role;
    pages: ColumnType<string[], string | undefined, string>;
    until: ColumnType<Date | null, Date | null | undefined, Date | null>;
  };
  invitations: {
    id: string;
    token_hash: string;
    show_id: string;
    role: Role;
    pages: Json<string[]>;
    member_until: Date | null;
    expires_at: Date;
    made_by: string;
    made_at: Generated<Date>;
    used_by: string | null;
    used_at: Date | null;
    withdrawn_at: Date | null;
  };
  versions: {
    id: string;
    show_id: string;
    name: string;
    seq: number;
    kind: VersionKind;
    at: Generated<Date>;
    user_id: string;
    user_name: string;
  };
  journal: {
    id: Generated<string>;
    show_id: string;
    at: Generated<Date>;
    user_id: string;
    user_name: string;
    kind: JournalKind;
    text: string;
    data: Json<Record<string, unknown>>;
  };
  merges: {
    show_id: string;
    source_id: string;
    source_seq: number;
    seq: number;
    at: Generated<Date>;
  };
  /** Show files that were brought along and are not merged or opened yet. */
  incoming: { id: string; user_id: string; name: string; bytes: Buffer; at: Generated<Date> };
  /** Files of sounds: without a sum while they come in; `about` is what was measured. */
  sounds_kept: {
    id: string;
    sha256: ColumnType<string | null, string | null | undefined, string | null>;
    crc32: ColumnType<string | null, number | null | undefined, number | null>;
    about: ColumnType<SoundFile | null, string | null | undefined, string | null>;
    at: Generated<Date>;
  };
  /** Types of makers' files, for every show of the house. */
  house_types: {
    id: string;
    maker: string;
    name: string;
    type: Json<TypeRow>;
    by_name: string;
    at: Generated<Date>;
  };
  sound_pieces: { sound: string; n: number; data: Buffer };
  sound_shapes: { sound: string; zoom: number; data: Buffer };
  show_sounds: { show_id: string; sound: string };
  pins: { user_id: string; hash: string; wrong: Generated<number>; wait_until: Date | null };
  house_rights: { user_id: string; may: HouseRight };
  used_tickets: { id: string; at: Generated<Date> };
  sign_in_tries: { key: string; count: number; until: Date };
  known_addresses: { email: string; address: string; at: Generated<Date> };
  locked_sessions: { session_id: string; locked_at: Generated<Date> };
  live_state: { show_id: string; saved_at: Generated<Date>; state: Json<unknown> };
  inbox: {
    id: Generated<string>;
    user_id: string;
    show_id: string | null;
    show_name: string;
    at: Generated<Date>;
    kind: InboxKind;
    text: string;
    from_id: string;
    from_name: string;
    place: Json<InboxPlace | null>;
    ask: Json<InboxAsk | null>;
    seen_at: ColumnType<Date | null, Date | null | undefined, Date | null>;
    done: Generated<boolean>;
  };
  preferences: { user_id: string; key: string; value: Json<unknown> };
  /** `player`: where the player on air is reached, as `host:port`. */
  installation: {
    id: number;
    air_show_id: string | null;
    cid: string;
    player: string | null;
    player_id: string | null;
    player_machine: string | null;
    wires: Json<Partial<Wires> | null>;
    beat: ColumnType<{ at: number; sequences: Record<string, number> } | null, string, string>;
    demo_passwords: Generated<'published' | 'random'>;
  };
  user: { id: string; name: string; email: string };
  session: { id: string; token: string; userId: string; expiresAt: Date };
  account: { id: string; userId: string; providerId: string; password: string | null };
}

/** The house’s database, with the shape of its tables. */
export type Database = Kysely<Tables>;

/** What node-postgres says, without a code, when a connection ends under it. */
const LOST_WORDS = new Set([
  'Connection terminated',
  'Connection terminated unexpectedly',
  'Connection terminated due to connection timeout',
  'timeout exceeded when trying to connect',
  'Client has encountered a connection error and is not queryable',
  'Connection ended unexpectedly',
]);
/** No connection came about, so nothing was begun: the network's codes, and a server that starts or stops. */
const NOT_BEGUN = /^(ECONNREFUSED|ENOTFOUND|EHOSTUNREACH|ENETUNREACH|57P03|53300)$/;
const NOT_BEGUN_WORDS = new Set([
  'Connection terminated due to connection timeout',
  'timeout exceeded when trying to connect',
]);

/**
 * Whether an error is a database that cannot be reached, and not a bug of ours (rights.test.ts).
 * @returns `away`: nothing was begun; `lost`: the connection ended under way; undefined: something else
 */
export function databaseTrouble(error: unknown): 'away' | 'lost' | undefined {
  const seen = new Set<unknown>();
  const waiting: unknown[] = [error];
  let found: 'away' | 'lost' | undefined;
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    if (typeof at !== 'object' || at === null || seen.has(at)) continue;
    seen.add(at);
    const { code, message, cause, errors } = at as {
      code?: unknown;
      message?: unknown;
      cause?: unknown;
      errors?: unknown;
    };
    const said = typeof message === 'string' ? message : '';
    const named = typeof code === 'string' ? code : '';
    if (NOT_BEGUN.test(named) || NOT_BEGUN_WORDS.has(said)) found ??= 'away';
    else if (/^(ECONNRESET|EPIPE|ETIMEDOUT|57P0[12]|08\w{3})$/.test(named) || LOST_WORDS.has(said))
      return 'lost';
    waiting.push(cause, ...(Array.isArray(errors) ? (errors as unknown[]) : []));
  }
  return found;
}

/** A machine that is busy makes many wait for a connection, and its database is not away for that; one that is away says so at once. */
const WAIT_MS = 20_000;

/** A pool and Kysely on it. `DATABASE_URL` unless another is given. */
export function connect(url = process.env.DATABASE_URL, max = 10): { db: Database; pool: pg.Pool } {
  if (!url) throw new Error('DATABASE_URL is not set.');
  const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: WAIT_MS });
  // A lost idle connection is no reason to end the process; the next query opens a new one.
  pool.on('error', () => undefined);
  // Nor is one that is lost while a transaction holds it between two queries: the next query says so (failures of a hundred kills).
  pool.on('connect', (client) => {
    client.on('error', () => undefined);
  });
  return { db: new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) }), pool };
}
