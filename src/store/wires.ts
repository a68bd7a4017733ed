/** What the house has said of its network, in the one row of the installation. */
import { sql } from 'kysely';
import { Wires, WIRES, type ChangeWires } from '../core/wires/wires.ts';
import { AIR_CHANNEL } from './channels.ts';
import type { Database } from './database.ts';

/** What an earlier version wrote is read with defaults for what came later. */
export async function readWires(db: Database): Promise<Wires> {
  const row = await db
    .selectFrom('installation')
    .select('wires')
    .where('id', '=', 1)
    .executeTakeFirst();
  return Wires.parse({ ...WIRES, ...row?.wires });
}

/** Changes what is given and leaves the rest; the player hears of it. */
export async function changeWires(db: Database, set: ChangeWires): Promise<Wires> {
  return await db.transaction().execute(async (trx) => {
    const row = await trx
      .selectFrom('installation')
      .select('wires')
      .where('id', '=', 1)
      .forUpdate()
      .executeTakeFirst();
    const wires = Wires.parse({ ...WIRES, ...row?.wires, ...set });
    await trx
      .updateTable('installation')
      .set({ wires: JSON.stringify(wires) })
      .where('id', '=', 1)
      .execute();
    await sql`select pg_notify(${AIR_CHANNEL}, ${JSON.stringify({ wires: true })})`.execute(trx);
    return wires;
  });
}
