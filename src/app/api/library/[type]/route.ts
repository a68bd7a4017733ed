import { z } from 'zod';
import { server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { stop } from '@/app/server/handle';
import { gdtfFile } from '@/app/server/type-file';
import { refuse } from '@/core/refusal';
import { dropType, houseType } from '@/store/library';

export const dynamic = 'force-dynamic';

const Query = z.object({ as: z.literal('gdtf').optional() });

export const GET = personRoute<undefined, z.infer<typeof Query>, { type: string }>(
  {
    says: 'A type of the library, whole; with `as=gdtf` as a file.',
    answers: 'type',
    may: 'look into the library',
    query: Query,
  },
  async ({ params, query: { as } }) => {
    const type =
      (await houseType(server().db, params.type)) ??
      stop(refuse('not-found', 'The library has no such type, or no longer.'));
    return as === 'gdtf' ? gdtfFile(type) : { type };
  },
);

export const DELETE = personRoute<undefined, undefined, { type: string }>(
  {
    says: 'Takes a type out of the library; shows keep theirs.',
    answers: 'its name',
    may: 'fill the library',
  },
  async ({ params }) => dropType(server().db, params.type),
);
