import { sql } from 'kysely';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { handle, member, query } from '@/app/server/handle';
import { changesAfter, undoneOf } from '@/store/shows';

export const dynamic = 'force-dynamic';

const MOST_AT_ONCE = 5000;
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
});

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    await member(request, id, 'see the show');
    const { db } = server();
    const { after, last, before, user, cue, fixture } = query(request, Query);
    if (last === undefined) return { changes: await changesAfter(db, id, after ?? 0, MOST_AT_ONCE) };
    let heads = db.selectFrom('changes').select(['seq', 'user_id', 'user_name', 'at', 'edit', 'summary', 'reverts']).where('show_id', '=', id);
    if (before !== undefined) heads = heads.where('seq', '<', before);
    if (user !== undefined) heads = heads.where('user_id', '=', user);
    const touching = (table: 'cues' | 'fixtures', row: string, field: 'cueId' | 'fixtureId'): ReturnType<typeof sql<boolean>> =>
      sql<boolean>`(rows @> ${JSON.stringify([{ table, id: row }])}::jsonb or rows @> ${JSON.stringify([{ table: 'values', after: { [field]: row } }])}::jsonb or rows @> ${JSON.stringify([{ table: 'values', before: { [field]: row } }])}::jsonb)`;
    if (cue !== undefined) heads = heads.where(touching('cues', cue, 'cueId'));
    if (fixture !== undefined) heads = heads.where(touching('fixtures', fixture, 'fixtureId'));
    const found = await heads.orderBy('seq', 'desc').limit(last).execute();
    return { undone: [...(await undoneOf(db, id))], changes: found.map((h) => ({ seq: h.seq, userId: h.user_id, userName: h.user_name, at: h.at.toISOString(), edit: h.edit, summary: h.summary, reverts: h.reverts })) };
  });
