/** The interface for programs as OpenAPI 3.1, made from the definitions that check every request. */
import { z } from 'zod';
import * as backups from '@/app/api/backups/route';
import * as housePeople from '@/app/api/house/people/route';
import * as houseWires from '@/app/api/house/wires/route';
import * as incoming from '@/app/api/incoming/route';
import * as invitationsToken from '@/app/api/invitations/[token]/route';
import * as library from '@/app/api/library/route';
import * as libraryType from '@/app/api/library/[type]/route';
import * as meInbox from '@/app/api/me/inbox/route';
import * as meLock from '@/app/api/me/lock/route';
import * as mePin from '@/app/api/me/pin/route';
import * as mePreferences from '@/app/api/me/preferences/route';
import * as me from '@/app/api/me/route';
import * as meSignOutEverywhere from '@/app/api/me/sign-out-everywhere/route';
import * as playersHandOver from '@/app/api/players/hand-over/route';
import * as showsBringIn from '@/app/api/shows/[id]/bring-in/route';
import * as showsChanges from '@/app/api/shows/[id]/changes/route';
import * as showsCompare from '@/app/api/shows/[id]/compare/route';
import * as showsCopies from '@/app/api/shows/[id]/copies/route';
import * as showsCopy from '@/app/api/shows/[id]/copy/route';
import * as showsEdits from '@/app/api/shows/[id]/edits/route';
import * as showsExportFormat from '@/app/api/shows/[id]/export/[format]/route';
import * as showsImportFile from '@/app/api/shows/[id]/import/route';
import * as showsInvitations from '@/app/api/shows/[id]/invitations/route';
import * as showsJournal from '@/app/api/shows/[id]/journal/route';
import * as showsLive from '@/app/api/shows/[id]/live/route';
import * as showsMembers from '@/app/api/shows/[id]/members/route';
import * as showsMerge from '@/app/api/shows/[id]/merge/route';
import * as showsSheets from '@/app/api/shows/[id]/sheets/route';
import * as showsRehearse from '@/app/api/shows/[id]/rehearse/route';
import * as showsRestore from '@/app/api/shows/[id]/restore/route';
import * as show from '@/app/api/shows/[id]/route';
import * as showsSounds from '@/app/api/shows/[id]/sounds/route';
import * as showsSoundsSum from '@/app/api/shows/[id]/sounds/[sum]/route';
import * as showsSoundsSumShape from '@/app/api/shows/[id]/sounds/[sum]/shape/route';
import * as showsStage from '@/app/api/shows/[id]/stage/route';
import * as showsState from '@/app/api/shows/[id]/state/route';
import * as showsTicket from '@/app/api/shows/[id]/ticket/route';
import * as showsUndo from '@/app/api/shows/[id]/undo/route';
import * as showsVersions from '@/app/api/shows/[id]/versions/route';
import * as showsImport from '@/app/api/shows/import/route';
import * as shows from '@/app/api/shows/route';
import * as simNode from '@/app/api/sim/node/route';
import { EDITS } from '@/core/edits/list';
import { ClientMessage } from '@/core/live/messages';
import { TABLES } from '@/core/show/tables';
import type { Defined } from './define-route';

/** Methods that routes answer. */
export const METHODS = ['GET', 'POST', 'PUT', 'DELETE'] as const;
type Method = (typeof METHODS)[number];
type Module = Partial<Record<Method, { definition: Defined }>>;

/** Every way in by its path. `tests/browser/rights.test.ts` looks whether one is missing. */
const MODULES: Readonly<Record<string, Module>> = {
  '/api/backups': backups,
  '/api/house/people': housePeople,
  '/api/house/wires': houseWires,
  '/api/incoming': incoming,
  '/api/invitations/{token}': invitationsToken,
  '/api/library': library,
  '/api/library/{type}': libraryType,
  '/api/me/inbox': meInbox,
  '/api/me/lock': meLock,
  '/api/me/pin': mePin,
  '/api/me/preferences': mePreferences,
  '/api/me': me,
  '/api/me/sign-out-everywhere': meSignOutEverywhere,
  '/api/players/hand-over': playersHandOver,
  '/api/shows/{id}/bring-in': showsBringIn,
  '/api/shows/{id}/changes': showsChanges,
  '/api/shows/{id}/compare': showsCompare,
  '/api/shows/{id}/copies': showsCopies,
  '/api/shows/{id}/copy': showsCopy,
  '/api/shows/{id}/edits': showsEdits,
  '/api/shows/{id}/export/{format}': showsExportFormat,
  '/api/shows/{id}/import': showsImportFile,
  '/api/shows/{id}/invitations': showsInvitations,
  '/api/shows/{id}/journal': showsJournal,
  '/api/shows/{id}/live': showsLive,
  '/api/shows/{id}/members': showsMembers,
  '/api/shows/{id}/merge': showsMerge,
  '/api/shows/{id}/sheets': showsSheets,
  '/api/shows/{id}/rehearse': showsRehearse,
  '/api/shows/{id}/restore': showsRestore,
  '/api/shows/{id}': show,
  '/api/shows/{id}/sounds': showsSounds,
  '/api/shows/{id}/sounds/{sum}': showsSoundsSum,
  '/api/shows/{id}/sounds/{sum}/shape': showsSoundsSumShape,
  '/api/shows/{id}/stage': showsStage,
  '/api/shows/{id}/state': showsState,
  '/api/shows/{id}/ticket': showsTicket,
  '/api/shows/{id}/undo': showsUndo,
  '/api/shows/{id}/versions': showsVersions,
  '/api/shows/import': showsImport,
  '/api/shows': shows,
  '/api/sim/node': simNode,
};

interface Way extends Defined {
  method: Method;
  path: string;
}
/** Every route with its methods, from the handlers’ own definitions. */
export const WAYS: readonly Way[] = Object.entries(MODULES).flatMap(([path, module]) =>
  METHODS.flatMap((method) => {
    const definition = module[method]?.definition;
    return definition ? [{ method, path, ...definition }] : [];
  }),
);

const schema = (type: z.ZodType): unknown =>
  z.toJSONSchema(type, { io: 'input', unrepresentable: 'any' });
const json = (of: unknown): unknown => ({ content: { 'application/json': { schema: of } } });

const PROBLEM = {
  description: 'What is wrong, in words; nothing was changed',
  ...(json({
    type: 'object',
    properties: {
      error: {
        type: 'object',
        properties: {
          code: { type: 'string' },
          message: { type: 'string' },
          fields: { type: 'object' },
        },
        required: ['code', 'message'],
      },
    },
  }) as object),
};

function parametersOf({ path, query }: Way): unknown[] {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }));
  const asked = query
    ? (schema(query) as { properties?: Record<string, unknown>; required?: string[] })
    : {};
  const inQuery = Object.entries(asked.properties ?? {}).map(([name, of]) => ({
    name,
    in: 'query',
    required: asked.required?.includes(name) ?? false,
    schema: of,
  }));
  return [...inPath, ...inQuery];
}

function operationOf(way: Way): unknown {
  const { says, answers, may, body, takesFile } = way;
  const file = { required: true, content: { 'application/octet-stream': {} } };
  return {
    summary: says,
    parameters: parametersOf(way),
    ...(may ? { description: `The right to ${may}.` } : {}),
    ...(body ? { requestBody: { required: true, ...(json(schema(body)) as object) } } : {}),
    ...(takesFile ? { requestBody: file } : {}),
    responses: { 200: { description: answers }, '4XX': PROBLEM },
  };
}

/** Parameters of each edit, as they go into `params` of `POST /api/shows/{id}/edits`. */
const editSchemas = (): Record<string, unknown> =>
  Object.fromEntries([...EDITS.values()].map((e) => [`edit.${e.name}`, schema(e.params)]));

/** The API as an OpenAPI 3.1 document. */
export function openApi(): unknown {
  const paths: Record<string, Record<string, unknown>> = {
    '/api/health': {
      get: {
        summary: 'Whether web, database and player answer.',
        responses: {
          200: { description: 'web, database, player' },
          503: { description: 'Not all of them' },
        },
      },
    },
  };
  for (const way of WAYS) (paths[way.path] ??= {})[way.method.toLowerCase()] = operationOf(way);
  return {
    openapi: '3.1.0',
    info: { title: 'Wingman', version: '1' },
    paths,
    components: {
      schemas: {
        ...Object.fromEntries(
          Object.entries(TABLES).map(([name, table]) => [name, schema(table.row)]),
        ),
        ...editSchemas(),
        LiveMessage: schema(ClientMessage),
      },
    },
  };
}
