import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { fileAnswer, logged } from '@/app/server/handle';
import { TABLE_NAMES, type TableName } from '@/core/show/tables';
import { Source } from '@/store/file-jobs';

export const dynamic = 'force-dynamic';

const SIDE = z.enum(['ours', 'theirs']);
const Merge = z.object({
  from: Source,
  rules: z
    .array(
      z.object({
        side: SIDE,
        act: z.string().max(200).optional(),
        scene: z.string().max(200).optional(),
        listId: z.string().max(120).optional(),
        tables: z.array(z.enum(TABLE_NAMES as [TableName, ...TableName[]])).optional(),
      }),
    )
    .max(200)
    .default([]),
  choices: z.record(z.string().max(600), SIDE).default({}),
  preview: z.boolean().default(false),
});

/** A copy comes back: three-way, all or nothing. With `preview` it is only said what would happen. */
export const POST = showRoute(
  {
    says: 'A copy comes back: three-way, all or nothing. With `preview` it is only said what would happen.',
    answers: 'said, items, conflicts, open, notes',
    may: 'program',
    body: Merge,
  },
  async ({ id, who, body: p }) => {
    // Zod's optional fields may be there and undefined; a rule has them or not.
    const decisions = {
      choices: p.choices,
      rules: p.rules.map(({ side, act, scene, listId, tables }) => ({
        side,
        ...(act === undefined ? {} : { act }),
        ...(scene === undefined ? {} : { scene }),
        ...(listId === undefined ? {} : { listId }),
        ...(tables ? { tables } : {}),
      })),
    };
    const author = { userId: who.userId, name: who.name };
    const done = await server().files.do({
      do: 'merge',
      showId: id,
      author,
      from: p.from,
      decisions,
      editId: randomUUID().slice(0, 18),
      preview: p.preview,
    });
    return fileAnswer(await logged(id, who, done));
  },
);
