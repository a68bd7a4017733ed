/** A file from elsewhere into a show: read, previewed, and done as one change; types that come with it are kept by the house where the one who brings them may. */
import { proposeImport, kindOf } from '../core/import/import.ts';
import {
  answerOf,
  type ImportAnswer,
  type ImportOptions,
  type Proposed,
} from '../core/import/proposed.ts';
import { idsFrom } from '../core/edits/define-edit.ts';
import { isRefusal, refuse, type Result } from '../core/refusal.ts';
import type { Author, ShowStore } from './commit.ts';
import { wordsOf } from './documents.ts';
import { keepType } from './library.ts';

/** A file that somebody wants to take into a show, and how. */
export interface ImportAsk {
  showId: string;
  author: Author;
  editId: string;
  name: string;
  options: ImportOptions;
  preview: boolean;
  /** Types of the file go into the library of the house too. */
  keeps: boolean;
}

/**
 * Says what a file would do to a show, or does it; refuses what cannot be read, and what the person may not do.
 */
export async function importFile(
  store: ShowStore,
  ask: ImportAsk,
  bytes: Uint8Array,
): Promise<Result<ImportAnswer>> {
  const file = { name: ask.name, bytes };
  const known = kindOf(file, ask.options.kind);
  if (isRefusal(known)) return known;
  const written = known?.written;
  const text =
    written === 'docx' || written === 'pdf' ? await wordsOf(ask.name, bytes, written) : undefined;
  if (isRefusal(text)) return text;
  let proposed: Proposed | undefined = undefined as Proposed | undefined;
  const done = await store.apply(
    ask.showId,
    ask.author,
    ask.editId,
    'import-file',
    (show) => {
      const { newId } = idsFrom(ask.editId);
      // Whether somebody may is asked before; planning asks for a role that may.
      const read = proposeImport(file, text, {
        show,
        role: 'programmer',
        editId: ask.editId,
        newId,
        options: ask.options,
      });
      if (isRefusal(read)) return Promise.resolve(read);
      proposed = read;
      if (read.changes.length > 0 || ask.preview)
        return Promise.resolve({ changes: read.changes, summary: read.summary });
      return Promise.resolve(
        refuse(
          read.items.every((i) => i.does === 'same') && read.items.length > 0
            ? 'nothing'
            : 'invalid',
          `${read.summary.replace(/\.$/, '')}. Nothing was changed.`,
          Object.fromEntries(read.problems.slice(0, 50).map((p) => [p.where, p.text])),
        ),
      );
    },
    { preview: ask.preview },
  );
  // What would change nothing is looked at all the same: its remarks say why.
  if (isRefusal(done) && ask.preview && proposed?.changes.length === 0) return answerOf(proposed);
  if (isRefusal(done)) return done;
  if (!proposed) return refuse('conflict', 'This file has been taken in already.');
  if (!ask.preview && ask.keeps)
    for (const type of proposed.types ?? []) await keepType(store.db, type, ask.author.name);
  return { ...answerOf(proposed), ...(ask.preview ? {} : { seq: done.seq }) };
}
