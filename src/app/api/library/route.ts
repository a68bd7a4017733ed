import { z } from 'zod';
import { deskFor, server } from '@/app/server/context';
import { personRoute } from '@/app/server/define-route';
import { fileAnswer, pieces } from '@/app/server/handle';
import { GDTF_LIMIT } from '@/core/gdtf/read';
import { houseTypes } from '@/store/library';

export const dynamic = 'force-dynamic';

export const GET = personRoute(
  {
    says: 'The fixture types that the house keeps from makers’ files, with the shows of yours that have them.',
    answers: 'types',
    may: 'look into the library',
  },
  async ({ who: { userId } }) => ({ types: await houseTypes(server().db, userId) }),
);

const Query = z.object({ preview: z.literal('1').optional() });

/** A maker's file (GDTF 1.2) into the library: the file is the body. */
export const POST = personRoute(
  {
    says: 'Keeps a maker’s file of a fixture type (GDTF) for every show of the house. With `preview=1` it says what it would keep.',
    answers: 'type, what was odd in it, and whether the library had it',
    may: 'fill the library',
    query: Query,
    takesFile: true,
  },
  async ({ who, query: { preview }, request }) =>
    fileAnswer(
      await deskFor(request).do(
        { do: 'bring-type', by: who.name, preview: preview !== undefined },
        pieces(request, GDTF_LIMIT),
      ),
    ),
);
