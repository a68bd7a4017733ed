/** PostgreSQL through Kysely: the tables as TypeScript sees them, and the connection. */
import { Kysely, PostgresDialect, type ColumnType, type Generated } from 'kysely';
import pg from 'pg';
import type { Role } from '../core/edits/edit.ts';
import type { AnyRow, TableName } from '../core/show/rows.ts';
import type { RowChange } from '../core/show/show.ts';

type Json<T> = ColumnType<T, string, string>;

interface Tables {
  shows: { id: string; name: string; venue: string; seq: Generated<number>; created_at: Generated<Date>; changed_at: Generated<Date> };
  show_rows: { show_id: string; tbl: TableName; id: string; data: Json<AnyRow> };
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
  members: { show_id: string; user_id: string; role: Role };
  live_state: { show_id: string; saved_at: Generated<Date>; state: Json<unknown> };
  preferences: { user_id: string; key: string; value: Json<unknown> };
  installation: { id: number; air_show_id: string | null; cid: string };
  user: { id: string; name: string; email: string };
  session: { id: string; token: string; userId: string; expiresAt: Date };
}

export type Database = Kysely<Tables>;

/** A pool and Kysely on it. `DATABASE_URL` unless another is given. */
export function connect(url = process.env.DATABASE_URL, max = 10): { db: Database; pool: pg.Pool } {
  if (!url) throw new Error('DATABASE_URL is not set.');
  const pool = new pg.Pool({ connectionString: url, max, connectionTimeoutMillis: 5000 });
  // A lost idle connection is no reason to end the process; the next query opens a new one.
  pool.on('error', () => undefined);
  return { db: new Kysely<Tables>({ dialect: new PostgresDialect({ pool }) }), pool };
}
