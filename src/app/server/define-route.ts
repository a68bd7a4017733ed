/**
 * A way in for programs, said once: who may, what is sent, what it does. Checking and the OpenAPI document derive from it
 * (`openapi.ts`), and `tests/browser/rights.test.ts` walks all of them.
 */
import type { z } from 'zod';
import type { Refusal } from '@/core/refusal';
import type { Act } from '@/core/rights';
import type { WhoIsIt } from '@/store/rights';
import {
  body as bodyOf,
  handle,
  member,
  person,
  query as queryOf,
  stop,
  type MemberOf,
} from './handle';

interface Asks<Body, Query> {
  /** What it does, in a sentence for whoever writes programs. */
  says: string;
  /** What it answers with, in a few words. */
  answers: string;
  body?: z.ZodType<Body>;
  query?: z.ZodType<Query>;
  /** The body is a file. */
  takesFile?: true;
}
/** What the documents know of a route. */
export interface Defined extends Asks<unknown, unknown> {
  /** What the rules of rights call it; absent: asked of nobody, or by what is sent. */
  may?: Act;
}
interface Given<Body, Query, Params> {
  request: Request;
  body: Body;
  query: Query;
  params: Params;
}
interface Context<Params> {
  params: Promise<Params>;
}
/** A handler of Next.js with its definition. */
export type Route<Params> = ((request: Request, context: Context<Params>) => Promise<Response>) & {
  definition: Defined;
};

function routeOf<Body, Query, Params, Who>(
  definition: Asks<Body, Query> & { may?: Act },
  whoOf: (request: Request, params: Params) => Promise<Who>,
  act: (given: Given<Body, Query, Params> & Who) => unknown,
): Route<Params> {
  const { body, query } = definition;
  const answer = (request: Request, context: Context<Params>): Promise<Response> =>
    handle(request, async () => {
      const params = await context.params;
      // Who asks comes first: nobody learns from a body what is not theirs to ask.
      const who = await whoOf(request, params);
      return await act({
        request,
        params,
        ...who,
        query: query ? queryOf(request, query) : (undefined as Query),
        body: body ? await bodyOf(request, body) : (undefined as Body),
      });
    });
  return Object.assign(answer, { definition: definition });
}

/** About a show: `who` is its member who asks, where they may. */
export const showRoute = <
  Body = undefined,
  Query = undefined,
  Params extends { id: string } = { id: string },
>(
  definition: Asks<Body, Query> & {
    may: Act;
    evenDeleted?: true;
    /** Before anything that is sent is read: why not now. */
    first?: (who: MemberOf, id: string) => Promise<Refusal | null>;
  },
  act: (given: Given<Body, Query, Params> & { id: string; who: MemberOf }) => unknown,
): Route<Params> =>
  routeOf(
    definition,
    async (request, { id }: Params) => {
      const { may, evenDeleted = false, first } = definition;
      const who = await member(request, id, may, { evenDeleted });
      const no = await first?.(who, id);
      return no ? stop(no) : { id, who };
    },
    act,
  );

/** About no show: `who` is the person who asks, where they may. */
export const personRoute = <Body = undefined, Query = undefined, Params = unknown>(
  definition: Asks<Body, Query> & { may: Act },
  act: (given: Given<Body, Query, Params> & { who: WhoIsIt }) => unknown,
): Route<Params> =>
  routeOf(definition, async (request) => ({ who: await person(request, definition.may) }), act);

/** Open to everybody, or decided by what is sent. */
export const openRoute = <Body = undefined, Query = undefined, Params = unknown>(
  definition: Asks<Body, Query> & {
    /** Before anything that is sent is read: why not now. */
    first?: (request: Request) => Refusal | null;
  },
  act: (given: Given<Body, Query, Params>) => unknown,
): Route<Params> =>
  routeOf(
    definition,
    (request) => {
      const no = definition.first?.(request);
      return no ? stop(no) : Promise.resolve({});
    },
    act,
  );
