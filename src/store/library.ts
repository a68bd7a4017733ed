/** Fixture types of the house, from makers’ files: shared by its shows, each of which has its own copy of what it uses. */
import { createHash } from 'node:crypto';
import { sql } from 'kysely';
import type { Odd } from '../core/formats/odd.ts';
import { readGdtf } from '../core/gdtf/read.ts';
import { idOfGdtf } from '../core/import/type.ts';
import { isRefusal, refuse, type Result } from '../core/refusal.ts';
import { same } from '../core/same.ts';
import type { HouseType } from '../core/types/house.ts';
import { TypeRow } from '../core/types/rows.ts';
import type { Database } from './database.ts';

/** Types that a house keeps. */
const MOST_TYPES = 20_000;

/** A type that was put into the house’s library. */
export interface Kept {
  type: TypeRow;
  odd: Odd[];
  /** Whether the library had it, as it is now or otherwise. */
  was: 'new' | 'same' | 'changed';
}

/** Puts a type into the house’s library, over the one of the same id. */
export async function keepType(db: Database, type: TypeRow, by: string): Promise<Kept['was']> {
  const old = await db
    .selectFrom('house_types')
    .select('type')
    .where('id', '=', type.id)
    .executeTakeFirst();
  const data = JSON.stringify(type);
  if (old && same(TypeRow.parse(old.type), TypeRow.parse(type))) return 'same';
  await db
    .insertInto('house_types')
    .values({ id: type.id, maker: type.maker, name: type.name, type: data, by_name: by })
    .onConflict((c) =>
      c.column('id').doUpdateSet({
        maker: type.maker,
        name: type.name,
        type: data,
        by_name: by,
        at: sql`now()`,
      }),
    )
    .execute();
  return old ? 'changed' : 'new';
}

/** @param preview nothing is kept */
export async function bringType(
  db: Database,
  bytes: Uint8Array,
  by: string,
  preview: boolean,
): Promise<Result<Kept>> {
  const read = readGdtf(bytes);
  if (isRefusal(read)) return read;
  // A file without an id of its own is known by what is in it.
  const otherwise = `house-${createHash('sha256').update(bytes).digest('hex').slice(0, 32)}`;
  const type: TypeRow = { id: idOfGdtf(read.type, otherwise), ...read.type };
  if (preview) {
    const old = await houseType(db, type.id);
    const again = old && same(old, TypeRow.parse(type)) ? 'same' : 'changed';
    return { type, odd: read.odd, was: old ? again : 'new' };
  }
  const { count } = await db
    .selectFrom('house_types')
    .select(db.fn.countAll<string>().as('count'))
    .executeTakeFirstOrThrow();
  if (Number(count) >= MOST_TYPES)
    return refuse(
      'limit',
      `The library of the house has ${MOST_TYPES} types, which is the most it keeps. Take some out first.`,
    );
  return { type, odd: read.odd, was: await keepType(db, type, by) };
}

/** A type of the house’s library. */
export async function houseType(db: Database, id: string): Promise<TypeRow | undefined> {
  const row = await db
    .selectFrom('house_types')
    .select('type')
    .where('id', '=', id)
    .executeTakeFirst();
  return row ? TypeRow.parse(row.type) : undefined;
}

/** @param userId shows of others are not named to them */
export async function houseTypes(db: Database, userId: string): Promise<HouseType[]> {
  // Types are large: the list is made where they lie.
  const rows = await db
    .selectFrom('house_types')
    .select([
      'id',
      'maker',
      'name',
      'at',
      sql<TypeRow['shape']>`type ->> 'shape'`.as('shape'),
      sql<string | null>`type #>> '{gdtf,at}'`.as('revision'),
      sql<HouseType['modes']>`(
        select jsonb_agg(jsonb_build_object(
          'name', m ->> 'name',
          'channels', (m ->> 'footprint')::int + coalesce((select sum(b::int) from jsonb_array_elements_text(m -> 'breaks') b), 0)))
        from jsonb_array_elements(type -> 'modes') m)`.as('modes'),
    ])
    .orderBy('maker')
    .orderBy('name')
    .execute();
  const used = await db
    .selectFrom('show_rows')
    .innerJoin('shows', 'shows.id', 'show_rows.show_id')
    .innerJoin('members', (j) =>
      j.onRef('members.show_id', '=', 'shows.id').on('members.user_id', '=', userId),
    )
    .where('show_rows.tbl', '=', 'types')
    .where('show_rows.id', 'like', 'house-%')
    .where('shows.deleted_at', 'is', null)
    .select(['show_rows.id as id', 'shows.name as show'])
    .execute();
  return rows.map(({ at, revision, ...type }) => ({
    ...type,
    revision: revision?.slice(0, 10) ?? '',
    at: at.toISOString(),
    shows: used.filter((u) => u.id === type.id).map((u) => u.show),
  }));
}

/** Takes a type out of the house’s library; shows that use it have their own. */
export async function dropType(db: Database, id: string): Promise<Result<{ name: string }>> {
  const gone = await db
    .deleteFrom('house_types')
    .where('id', '=', id)
    .returning(['maker', 'name'])
    .executeTakeFirst();
  return gone
    ? { name: `${gone.maker} ${gone.name}` }
    : refuse('not-found', 'The library has no such type, or no longer.');
}
