/** Copies of a show, to work on apart. */
import { sql } from 'kysely';
import { isRefusal, refuse, type Refusal } from '../core/refusal.ts';
import type { ShowStore } from './commit.ts';
import { createShow } from './shows.ts';

/** A copy to work on apart. Whose it is, is its maker. */
export async function copyShow(
  store: ShowStore,
  showId: string,
  userId: string,
  name: string,
): Promise<{ id: string } | Refusal> {
  return store.db.transaction().execute(async (trx) => {
    // Held while its rows are copied, so that they are one state.
    const row = await trx
      .selectFrom('shows')
      .select(['venue', 'seq'])
      .where('id', '=', showId)
      .forShare()
      .executeTakeFirst();
    if (!row) return refuse('not-found', 'This show does not exist.');
    const made = await createShow(trx, userId, name, row.venue, [], { id: showId, seq: row.seq });
    if (isRefusal(made)) return made;
    await trx
      .insertInto('show_rows')
      .columns(['show_id', 'tbl', 'id', 'data'])
      .expression(
        trx
          .selectFrom('show_rows')
          .select([sql.lit(made.id).as('show_id'), 'tbl', 'id', 'data'])
          .where('show_id', '=', showId),
      )
      .execute();
    await sql`insert into show_packs (show_id, tbl, part, schema, data) select ${made.id}, tbl, part, schema, data from show_packs where show_id = ${showId}`.execute(
      trx,
    );
    await sql`insert into show_sounds (show_id, sound) select ${made.id}, sound from show_sounds where show_id = ${showId}`.execute(
      trx,
    );
    await sql`update show_rows set data = jsonb_set(data, '{name}', to_jsonb(${name}::text)) where show_id = ${made.id} and tbl = 'settings'`.execute(
      trx,
    );
    return made;
  });
}
