import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { deskFor } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { fileAnswer, logged, mayToo, pieces, stop } from '@/app/server/handle';
import { readNumbers } from '@/core/formats/csv-table';
import { KINDS } from '@/core/import/proposed';
import { refuse } from '@/core/refusal';
import { LIMITS } from '@/core/show/fields';

export const dynamic = 'force-dynamic';

/** Larger than any of these files is. */
const FILE_LIMIT = 256 * 1024 * 1024;

const Query = z.object({
  preview: z.literal('1').optional(),
  /** The file's, by which it is told apart where its contents say too little. */
  name: z.string().trim().max(LIMITS.nameLength).default('file'),
  kind: z.enum(KINDS).optional(),
  list: z.string().max(120).optional(),
  script: z.string().max(120).optional(),
  /** Numbers, as people write them: `101-106 201`. */
  fixtures: z.string().max(8000).optional(),
  /** Place of each field's column, as JSON. */
  columns: z.string().max(2000).optional(),
});

const Columns = z.record(z.string().max(40), z.number().int().min(0).max(63));

function columnsIn(text: string | undefined): Record<string, number> | undefined {
  if (text === undefined) return undefined;
  try {
    return Columns.parse(JSON.parse(text));
  } catch {
    return stop(
      refuse('invalid', 'Columns are a JSON object of fields and places from 0.', {
        columns: 'No columns.',
      }),
    );
  }
}

function numbersIn(text: string | undefined): number[] | undefined {
  if (text === undefined) return undefined;
  const no = refuse('invalid', 'Fixtures are numbers like 101-106 201.', {
    fixtures: 'No numbers.',
  });
  return readNumbers(text) ?? stop(no);
}

/** A file from elsewhere: the file is the body. It says what it is and would do, and does all of it or nothing. */
export const POST = showRoute(
  {
    says: 'Takes a file into the show: GDTF, MVR, ASCII cues, tables (CSV) of patch, cues, groups, palettes, outputs, a measured curve, a script. With `preview=1` it says what it would do.',
    answers: 'kind, items, problems, summary',
    may: 'program',
    query: Query,
    takesFile: true,
  },
  async ({ id, who, query: { preview, name, kind, list, script, fixtures, columns }, request }) => {
    const options = {
      kind,
      list,
      script,
      fixtures: numbersIn(fixtures),
      columns: columnsIn(columns),
    };
    const done = await deskFor(request).do(
      {
        do: 'import',
        showId: id,
        author: { userId: who.userId, name: who.name },
        editId: randomUUID().slice(0, 18),
        name,
        options,
        preview: preview !== undefined,
        keeps: await mayToo(who, 'fill the library'),
      },
      pieces(request, FILE_LIMIT),
    );
    return fileAnswer(preview === undefined ? await logged(id, who, done) : done);
  },
);
