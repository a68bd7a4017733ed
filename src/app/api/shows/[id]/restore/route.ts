import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { logged } from '@/app/server/handle';
import { isRefusal } from '@/core/refusal';
import { takeOver } from '@/core/show/compare';
import { differences } from '@/core/show/past';
import { changesAfter } from '@/store/shows';

export const dynamic = 'force-dynamic';

const NOTES_SAID = 3;
const Restore = z.object({
  seq: z.number().int().min(0),
  /** Items of a comparison; absent: the show as a whole. */
  keys: z.array(z.string().max(400)).min(1, 'Choose what to take over.').max(50_000).optional(),
  name: z.string().max(200).optional(),
});

/** Goes back to a state, in whole or in parts, as one change that can be undone. Notes from the house are never taken back. */
export const POST = showRoute(
  {
    says: 'Goes back to an earlier state, in whole or by keys of a comparison.',
    answers: 'as an edit',
    may: 'program',
    body: Restore,
  },
  async ({ id, who, body: p }) => {
    const { store } = server();
    return logged(
      id,
      who,
      await store.apply(id, who, randomUUID().slice(0, 18), 'restore', async (show, _seq, trx) => {
        const then = await store.at(id, p.seq, trx);
        if (isRefusal(then)) return then;
        const { changes, notes } = p.keys
          ? takeOver(show, then, new Set(p.keys))
          : { changes: differences(show, then), notes: [] };
        const where = p.name ? `“${p.name}”` : `change ${p.seq}`;
        const summary = p.keys
          ? `Took ${p.keys.length === 1 ? 'one thing' : `${p.keys.length} things`} over from ${where}`
          : `Went back to ${where}`;
        const kept = changes.filter((c) => c.table !== 'notes' && c.table !== 'photos');
        return {
          changes: kept,
          over: { rows: kept, past: await changesAfter(trx, id, p.seq) },
          summary: [summary, ...notes.slice(0, NOTES_SAID)].join('. ').replace(/\.$/, ''),
        };
      }),
    );
  },
);
