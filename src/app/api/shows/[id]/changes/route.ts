import { sql } from 'kysely';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { stop } from '@/app/server/handle';
import { refuse } from '@/core/refusal';
import { sayRow } from '@/core/show/say';
import type { RowChange } from '@/core/show/show';
import { changesAfter, undoneOf } from '@/store/shows';

export const dynamic = 'force-dynamic';

const MOST_AT_ONCE = 5000;
/** Rows of a change that are said in values. */
const SAID = 8;
const SEARCHED_BYTES = 40_000;
const Query = z.object({
  after: z.coerce.number().int().min(0).optional(),
  last: z.coerce.number().int().min(1).max(500).optional(),
  /** Only changes before this one. */
  before: z.coerce.number().int().min(1).optional(),
  user: z.string().max(120).optional(),
  /** Only changes that touched this cue, or what it sets. */
  cue: z.string().max(120).optional(),
  /** Only changes that touched this fixture, or what cues set for it. */
  fixture: z.string().max(120).optional(),
  /** Only changes in whose words, or rows, this stands. */
  words: z.string().max(200).optional(),
});

export const GET = showRoute(
  {
    says: 'Changes with rows after a number, oldest first; or the last ones in words, newest first, by person, cue, fixture and words.',
    answers: 'changes',
    may: 'see the show',
    query: Query,
  },
  async ({ id, query: { after, last, before, user, cue, fixture, words } }) => {
    const { db } = server();
    if (last === undefined)
      return { changes: await changesAfter(db, id, after ?? 0, MOST_AT_ONCE) };
    let heads = db
      .selectFrom('changes')
      .select([
        'seq',
        'user_id',
        'user_name',
        'at',
        'edit',
        'summary',
        'reverts',
        sql<RowChange[]>`jsonb_path_query_array(rows, ${`$[0 to ${SAID - 1}]`}::jsonpath)`.as(
          'first',
        ),
        sql<number>`jsonb_array_length(rows)`.as('count'),
      ])
      .where('show_id', '=', id);
    if (before !== undefined) heads = heads.where('seq', '<', before);
    if (user !== undefined) heads = heads.where('user_id', '=', user);
    const touching = (
      table: 'cues' | 'fixtures',
      row: string,
      field: 'cueId' | 'fixtureId',
    ): ReturnType<typeof sql<boolean>> =>
      sql<boolean>`(rows @> ${JSON.stringify([{ table, id: row }])}::jsonb or rows @> ${JSON.stringify([{ table: 'values', after: { [field]: row } }])}::jsonb or rows @> ${JSON.stringify([{ table: 'values', before: { [field]: row } }])}::jsonb)`;
    if (cue !== undefined) heads = heads.where(touching('cues', cue, 'cueId'));
    if (fixture !== undefined) heads = heads.where(touching('fixtures', fixture, 'fixtureId'));
    for (const word of words?.trim().split(/\s+/).filter(Boolean) ?? []) {
      const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
      // Large changes are found by what they say alone: reading all their rows would take long.
      heads = heads.where(
        sql<boolean>`(summary ilike ${like} or user_name ilike ${like} or (pg_column_size(rows) < ${SEARCHED_BYTES} and rows::text ilike ${like}))`,
      );
    }
    const { show } =
      (await server().store.open(id)) ?? stop(refuse('not-found', 'This show does not exist.'));
    const found = await heads.orderBy('seq', 'desc').limit(last).execute();
    return {
      undone: [...(await undoneOf(db, id))],
      changes: found.map((h) => ({
        seq: h.seq,
        userId: h.user_id,
        userName: h.user_name,
        at: h.at.toISOString(),
        edit: h.edit,
        summary: h.summary,
        reverts: h.reverts,
        lines: h.first.filter((r) => r.table !== 'likes').map((r) => sayRow(show, r)),
        more: Math.max(0, h.count - h.first.length),
      })),
    };
  },
);
