import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, logged, member } from '@/app/server/handle';
import { otherSide, Source } from '@/app/server/other';
import { isRefusal } from '@/core/refusal';
import { TABLE_NAMES, type TableName } from '@/core/show/rows';
import { mergeInto, previewMerge } from '@/store/files';

export const dynamic = 'force-dynamic';

const SIDE = z.enum(['ours', 'theirs']);
const Merge = z.object({
  from: Source,
  rules: z.array(z.object({ side: SIDE, act: z.string().max(200).optional(), scene: z.string().max(200).optional(), listId: z.string().max(120).optional(), tables: z.array(z.enum(TABLE_NAMES as [TableName, ...TableName[]])).optional() })).max(200).default([]),
  choices: z.record(z.string().max(600), SIDE).default({}),
  preview: z.boolean().default(false),
});
const ITEMS_SENT = 2000;
const CONFLICTS_SENT = 2000;

/** A copy comes back: three-way, all or nothing. With `preview` it is only said what would happen. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'program');
    const p = await body(request, Merge);
    const { store } = server();
    const other = await otherSide(who.userId, p.from);
    if (isRefusal(other)) return other;
    // Zod's optional fields may be there and undefined; a rule has them or not.
    const decisions = { choices: p.choices, rules: p.rules.map(({ side, act, scene, listId, tables }) => ({ side, ...(act === undefined ? {} : { act }), ...(scene === undefined ? {} : { scene }), ...(listId === undefined ? {} : { listId }), ...(tables ? { tables } : {}) })) };
    if (p.preview) {
      const preview = await previewMerge(store, id, other, decisions);
      if (isRefusal(preview)) return preview;
      const { items, conflicts, changes, ...rest } = preview;
      return { ...rest, items: items.slice(0, ITEMS_SENT), itemCount: items.length, conflicts: conflicts.slice(0, CONFLICTS_SENT), conflictCount: conflicts.length, changes: changes.length <= 20_000 ? changes : [] };
    }
    const done = await mergeInto(store, id, who, other, decisions, randomUUID().slice(0, 18));
    return logged(id, who, isRefusal(done) ? done : { seq: done.seq, summary: done.summary });
  });
