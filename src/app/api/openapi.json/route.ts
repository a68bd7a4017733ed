import { z } from 'zod';
import { EDITS } from '@/core/edits/list';
import { ClientMessage } from '@/core/live/messages';
import { LiveCommand } from '@/core/live/commands';
import { TABLES } from '@/core/show/tables';

/** The interface for programs, made from the same schemas that check every request. */
export function GET(): Response {
  const schema = (type: z.ZodType): unknown =>
    z.toJSONSchema(type, { io: 'input', unrepresentable: 'any' });
  const json = (description: string, type?: unknown): unknown => ({
    description,
    ...(type ? { content: { 'application/json': { schema: type } } } : {}),
  });
  const problem = json('What is wrong, in words; nothing was changed', {
    type: 'object',
    properties: {
      error: {
        type: 'object',
        properties: {
          code: { type: 'string' },
          message: { type: 'string' },
          fields: { type: 'object' },
        },
      },
    },
  });
  const id = { name: 'id', in: 'path', required: true, schema: { type: 'string' } };
  const get = (summary: string, withId = true): unknown => ({
    get: {
      summary,
      ...(withId ? { parameters: [id] } : {}),
      responses: { 200: json('OK'), '4XX': problem },
    },
  });
  const edits = [...EDITS.values()].map((e) => ({
    type: 'object',
    description: e.name,
    properties: {
      edit: { const: e.name },
      params: schema(e.params),
      editId: { type: 'string' },
      preview: { type: 'boolean' },
    },
    required: ['edit', 'params'],
  }));
  return Response.json({
    openapi: '3.1.0',
    info: { title: 'Wingman', version: '1' },
    paths: {
      '/api/health': get('Whether web, database and player answer', false),
      '/api/shows': {
        ...(get('Your shows', false) as object),
        post: {
          summary: 'Make a show',
          requestBody: json('', {
            type: 'object',
            properties: { name: { type: 'string' } },
            required: ['name'],
          }),
          responses: { 200: json('Its id'), '4XX': problem },
        },
      },
      '/api/shows/{id}': get('All rows and seq'),
      '/api/shows/{id}/edits': {
        post: {
          summary: 'Change a show, or preview it',
          parameters: [id],
          requestBody: json('', { oneOf: edits }),
          responses: { 200: json('seq, summary, changes, consequences'), '4XX': problem },
        },
      },
      '/api/shows/{id}/undo': {
        post: {
          summary: 'Undo or redo your newest change',
          parameters: [id],
          requestBody: json('', {
            type: 'object',
            properties: { way: { enum: ['undo', 'redo'] } },
          }),
          responses: { 200: json('seq, summary, changes'), '4XX': problem },
        },
      },
      '/api/shows/{id}/changes': get(
        'Changes after a number (`after`), or the newest without rows (`last`)',
      ),
      '/api/shows/{id}/members': get('People and their roles'),
      '/api/shows/{id}/stage': get('What is on stage now, and where it comes from'),
      '/api/shows/{id}/live': {
        post: {
          summary: 'A live command',
          parameters: [id],
          requestBody: json('', schema(LiveCommand)),
          responses: { 200: json('Done'), '4XX': problem },
        },
      },
      '/api/sim/node': get('What the simulated node received', false),
    },
    components: {
      schemas: {
        ...Object.fromEntries(
          Object.entries(TABLES).map(([name, table]) => [name, schema(table.row)]),
        ),
        LiveMessage: schema(ClientMessage),
      },
    },
  });
}
