/**
 * The parts of docs/ that follow from definitions: made from them, and tested to stand in the documents as they are made
 * (`generated.test.ts`). `npm run docs` writes them.
 */
import { z } from 'zod';
import { EDITS } from '../core/edits/list.ts';
import { LIVE, LIVE_NAMES } from '../core/live/commands.ts';
import { TOLD } from '../core/live/osc-state.ts';
import { oscAddresses } from '../core/live/osc-commands.ts';
import { ROLES, type Role } from '../core/roles.ts';
import { TABLE_NAMES, TABLES } from '../core/show/tables.ts';

interface Schema {
  type?: string;
  const?: unknown;
  enum?: unknown[];
  anyOf?: Schema[];
  items?: Schema;
  properties?: Record<string, Schema>;
  required?: string[];
}
const MOST_CHOICES = 6;

/** A value as one writes it: `"lit" | "cue"`, `[{x, y, z}]`; nothing for plain numbers and texts. */
function sayType(schema: Schema): string {
  if (schema.const !== undefined) return JSON.stringify(schema.const);
  if (schema.enum)
    return schema.enum.length > MOST_CHOICES
      ? ''
      : schema.enum.map((v) => JSON.stringify(v)).join(' | ');
  if (schema.anyOf) {
    const said = schema.anyOf.map((s) => sayType(s) || (s.type ?? ''));
    return said.every((s) => s === 'number' || s === 'string') ? '' : said.join(' | ');
  }
  if (schema.type === 'null') return 'null';
  if (schema.type === 'boolean') return '';
  if (schema.type === 'array') return `[${schema.items ? sayType(schema.items) : ''}]`;
  return schema.properties ? sayShape(schema) : '';
}

/** `{fixtures?: […], attribute, level?}` */
function sayShape({ properties = {}, required = [] }: Schema): string {
  const fields = Object.entries(properties).map(([name, schema]) => {
    const type = sayType(schema);
    return `${name}${required.includes(name) ? '' : '?'}${type && type !== '[]' ? `: ${type}` : ''}`;
  });
  return `{${fields.join(', ')}}`;
}
/** A type as documentation writes it. */
export const shapeOf = (type: z.ZodType): string =>
  sayType(z.toJSONSchema(type, { io: 'input', unrepresentable: 'any' }) as Schema);

/** Inside a table of Markdown a bar ends a cell. */
const cell = (text: string): string => text.replace(/\|/g, '\\|');
const letters = (roles: readonly Role[]): string =>
  roles.length === ROLES.length ? 'everybody' : roles.join(', ');

function liveTable(): string {
  const rows = LIVE_NAMES.map((name) => {
    const { says, roles, board, params } = LIVE[name];
    const shape = Object.keys(params).length === 0 ? '' : ` ${shapeOf(z.object(params))}`;
    return `| \`${cell(name + shape)}\` | ${cell(says)} | ${letters(roles)} | ${board ?? ''} |`;
  });
  return ['| Command | Does | Who | Board |', '|---|---|---|---|', ...rows].join('\n');
}

const editList = (): string => `${[...EDITS.values()].map((e) => `\`${e.name}\``).join(', ')}.`;

function oscTable(): string {
  const rows = oscAddresses().map(
    ({ address, argument, command }) => `| \`${address}\` | ${argument} | \`${command}\` |`,
  );
  return ['| Address | Argument | Command |', '|---|---|---|', ...rows].join('\n');
}

function oscToldTable(): string {
  const rows = TOLD.map(({ address, says }) => `| \`${address}\` | ${says} |`);
  return ['| Address | Says |', '|---|---|', ...rows].join('\n');
}

function tableTable(): string {
  const rows = TABLE_NAMES.map((name) => {
    const { one, refs = [], since, asset } = TABLES[name];
    const leans = [...new Set(refs.map((r) => `${r.to.join(' or ')}${r.owner ? ' (owner)' : ''}`))];
    return `| \`${name}\` | ${one}${asset ? `, with its ${asset.kind} in \`assets/\`` : ''} | ${leans.join(', ')} | ${since ?? 1} |`;
  });
  return ['| Table | A row is a | Leans on | Since schema |', '|---|---|---|---|', ...rows].join(
    '\n',
  );
}

/** What stands between `<!-- name -->` and `<!-- /name -->` of a document. */
export const GENERATED: readonly { file: string; name: string; text: () => string }[] = [
  { file: 'docs/api.md', name: 'live commands', text: liveTable },
  { file: 'docs/api.md', name: 'edits', text: editList },
  { file: 'docs/api.md', name: 'osc', text: oscTable },
  { file: 'docs/api.md', name: 'osc told', text: oscToldTable },
  { file: 'docs/show-file.md', name: 'tables', text: tableTable },
];

/** A document with one of its generated parts. @throws where its marks are not in it */
export function withPart(document: string, name: string, text: string): string {
  const [open, close] = [`<!-- ${name} -->`, `<!-- /${name} -->`];
  const [from, to] = [document.indexOf(open), document.indexOf(close)];
  if (from < 0 || to < from) throw new Error(`There is no part “${name}” in this document.`);
  return `${document.slice(0, from + open.length)}\n${text}\n${document.slice(to)}`;
}
