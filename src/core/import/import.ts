/** A file from elsewhere into a show: what it is, and what it would do. One way for the dialog and for programs. */
import { planEdit } from '../edits/plan-edit.ts';
import { isRefusal, refuse, type Refusal, type Result } from '../refusal.ts';
import { decodeText, guessFormat } from '../script/anchors.ts';
import { LIMITS } from '../show/fields.ts';
import { importMvr } from './plan.ts';
import { importAscii } from './ascii.ts';
import { importTable } from './csv.ts';
import { importGdtf } from './type.ts';
import { recognise, type Recognised } from './recognise.ts';
import type { ImportContext, ImportFile, Item, Kind, Proposed } from './proposed.ts';

const READ_WORDS =
  'GDTF and MVR, ASCII cues, tables (CSV) of patch, cues, groups, palettes and outputs, measured curves, and scripts as text, Markdown, Fountain, DOCX or PDF';

const titleOf = (name: string): string =>
  name
    .replace(/\.\w+$/, '')
    .slice(0, LIMITS.nameLength)
    .trim() || 'Script';

/** @param text of a document that is no text itself */
function importScript(
  file: ImportFile,
  text: string | undefined,
  c: ImportContext,
): Result<Proposed> {
  const read = text === undefined ? decodeText(file.bytes) : { text, encoding: 'UTF-8' };
  if (!read) return refuse('invalid', `“${file.name}” is no text.`);
  const old = c.options.script === undefined ? undefined : c.show.scripts.get(c.options.script);
  const title = old?.title ?? titleOf(file.name);
  const params = {
    ...(old ? { id: old.id } : {}),
    title,
    format: guessFormat(file.name, read.text),
    text: read.text,
  };
  const planned = planEdit(c.show, c.role, 'import-script', params, c.editId);
  if (isRefusal(planned)) return planned;
  const items: Item[] = [{ what: 'script', name: title, does: old ? 'changed' : 'new' }];
  const problems =
    read.encoding === 'UTF-8'
      ? []
      : [
          {
            where: 'its letters',
            text: `were read as ${read.encoding}: look whether they are right`,
          },
        ];
  return { kind: 'script', items, problems, changes: planned.changes, summary: planned.summary };
}

const NOT_READ = (name: string): Refusal =>
  refuse(
    'invalid',
    `“${name}” is nothing that Wingman takes into a show. It reads ${READ_WORDS}. Nothing was changed.`,
  );

/** What a file is; what somebody said it is goes before how it looks. */
export const kindOf = (file: ImportFile, said: Kind | undefined): Result<Recognised | undefined> =>
  said === undefined || said === 'script'
    ? (recognise(file) ?? (said ? { kind: said } : undefined))
    : { kind: said };

/**
 * What a file would do to a show; nothing is done here.
 * @param text of a document (DOCX, PDF) that was read before
 * @returns a refusal for what is nothing to take in, or nothing of which can be
 */
export function proposeImport(
  file: ImportFile,
  text: string | undefined,
  c: ImportContext,
): Result<Proposed> {
  const known = kindOf(file, c.options.kind);
  if (isRefusal(known)) return known;
  switch (known?.kind) {
    case 'gdtf':
      return importGdtf(file.bytes, c);
    case 'mvr':
      return importMvr(file.bytes, c);
    case 'ascii':
      return importAscii(file, c);
    case 'patch':
    case 'cues':
    case 'groups':
    case 'palettes':
    case 'outputs':
    case 'curve':
      return importTable(known.kind, file.bytes, c);
    case 'script':
      return importScript(file, text, c);
    case 'show':
      return refuse(
        'invalid',
        `“${file.name}” is a show of its own: open it from the shows, or bring parts of it in. Nothing was changed.`,
      );
    default:
      return NOT_READ(file.name);
  }
}
