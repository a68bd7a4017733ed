/** For tests that need the one row of an installation to themselves: a database of their own on the tests' server. */
import { randomUUID } from 'node:crypto';
import { sql } from 'kysely';
import { connect, type Database } from './database.ts';
import { migrate } from './migrate.ts';

/** A database of its own for a test, empty and up to date. */
export async function ownDatabase(): Promise<{
  url: string;
  db: Database;
  drop: () => Promise<void>;
}> {
  const shared = process.env.WINGMAN_TEST_DATABASE ?? '';
  const name = `own_${randomUUID().replaceAll('-', '')}`;
  const outside = connect(shared, 1).db;
  await sql`create database ${sql.id(name)}`.execute(outside);
  const at = new URL(shared);
  at.pathname = `/${name}`;
  const { db } = connect(at.href, 4);
  await migrate(db);
  return {
    url: at.href,
    db,
    drop: async () => {
      await db.destroy();
      await sql`drop database ${sql.id(name)} with (force)`.execute(outside);
      await outside.destroy();
    },
  };
}
