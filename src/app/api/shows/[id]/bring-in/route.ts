import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { body, handle, logged, member } from '@/app/server/handle';
import { otherSide, Source } from '@/app/server/other';
import { isRefusal } from '@/core/refusal';
import { mapFixtures, MAPPINGS } from '@/core/show/import-parts';
import { bringIn } from '@/store/files';

export const dynamic = 'force-dynamic';

const Ids = z.array(z.string().max(120)).max(20_000).default([]);
const Ask = z.object({
  from: Source,
  cues: Ids,
  listId: z.string().max(120).default(''),
  palettes: Ids,
  groups: Ids,
  looks: Ids,
  effects: Ids,
  fixtures: Ids,
  by: z.enum(MAPPINGS).default('number'),
  /** Over the mapping: theirs to ours, or to none. */
  mapping: z.record(z.string().max(120), z.string().max(120).nullable()).default({}),
  preview: z.boolean().default(false),
});

/** What there is to bring in, and which of our fixtures would stand for theirs. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'program');
    const { from, by } = await body(request, Ask.pick({ from: true, by: true }));
    const { store } = server();
    const [own, other] = [await store.open(id), await otherSide(who.userId, from)];
    if (isRefusal(other)) return other;
    if (!own) throw new Error('a member’s show has no row');
    const named = (rows: Iterable<{ id: string; number: number; name: string; family?: string }>): unknown[] => [...rows].sort((a, b) => a.number - b.number).map(({ id: rowId, number, name, family }) => ({ id: rowId, number, name, ...(family ? { family } : {}) }));
    return {
      name: other.name,
      lists: [...other.show.lists.values()].map((l) => ({ id: l.id, name: l.name, cues: named(other.show.cuesOf(l.id)) })),
      palettes: named(other.show.palettes.values()),
      groups: named(other.show.groups.values()),
      looks: named(other.show.looks.values()),
      effects: named(other.show.effects.values()),
      fixtures: [...other.show.fixtures.values()].sort((a, b) => a.number - b.number).map((f) => ({ id: f.id, number: f.number, label: f.label, type: other.show.types.get(f.typeId)?.name ?? '' })),
      mapping: Object.fromEntries(mapFixtures(own.show, other.show, by)),
    };
  });

export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> =>
  handle(request, async () => {
    const { id } = await params;
    const who = await member(request, id, 'program');
    const { from, by, mapping, preview, ...wanted } = await body(request, Ask);
    const other = await otherSide(who.userId, from);
    if (isRefusal(other)) return other;
    const done = await bringIn(server().store, id, who, other, wanted, by, mapping, randomUUID().slice(0, 18), preview);
    return logged(id, who, isRefusal(done) ? done : { seq: done.seq, summary: done.summary, notes: done.notes, rows: done.changes.length });
  });
