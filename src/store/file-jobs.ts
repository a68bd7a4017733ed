/**
 * What is done with whole shows and files of them: read, opened, written, compared, merged. Each is a job with plain
 * parameters and a plain answer, so that it can be done away from the process that answers everybody (file-desk.ts).
 */
import { z } from 'zod';
import { isRefusal, refuse, type Result } from '../core/refusal.ts';
import { mapFixtures, MAPPINGS } from '../core/bring-in/mapping.ts';
import type { Decisions } from '../core/show/merge.ts';
import type { MutableShow } from '../core/show/show.ts';
import { backUp, readBackup } from './backups.ts';
import { ShowStore, type Author } from './commit.ts';
import type { Database } from './database.ts';
import {
  bringIn,
  mergeInto,
  otherFromFile,
  otherFromShow,
  previewMerge,
  type Other,
} from './coming-together.ts';
import { exportShow, incomingFile, openFile, readIn, takeIn } from './files.ts';
import { importFile, type ImportAsk } from './import-file.ts';
import { bringType } from './library.ts';
import { roleOf } from './shows.ts';
import type { Arrived } from './sounds/kept.ts';
import { takeInSound } from './sounds/measure.ts';

/** The other side of a merge or an import: another show of the one who asks, or a file that was taken in. */
export const Source = z.union([
  z.object({ show: z.string().max(120) }),
  z.object({ file: z.string().max(120) }),
]);
export type Source = z.infer<typeof Source>;

const Ids = z.array(z.string().max(120)).max(20_000).default([]);
/** What is wanted out of another show, as a request says it. */
export const BringIn = z.object({
  from: Source,
  cues: Ids,
  listId: z.string().max(120).default(''),
  palettes: Ids,
  groups: Ids,
  looks: Ids,
  effects: Ids,
  fixtures: Ids,
  by: z.enum(MAPPINGS).default('number'),
  /** Over the mapping: theirs to ours, or to none. */
  mapping: z.record(z.string().max(120), z.string().max(120).nullable()).default({}),
  preview: z.boolean().default(false),
});
export type BringIn = z.infer<typeof BringIn>;

/** Something that is done with a file, in a process of its own. */
export type FileJob =
  | { do: 'open'; userId: string }
  | { do: 'open-backup'; userId: string; data: string; showId: string; file: string }
  | { do: 'back-up'; data: string; showId: string; by: string }
  | { do: 'take-in'; userId: string; name: string }
  | { do: 'write'; showId: string; by: string }
  | { do: 'measure-sound'; arrived: Arrived }
  | {
      do: 'merge';
      showId: string;
      author: Author;
      from: Source;
      decisions: Decisions;
      editId: string;
      preview: boolean;
    }
  | { do: 'bring-type'; by: string; preview: boolean }
  | ({ do: 'import' } & ImportAsk)
  | { do: 'parts'; showId: string; userId: string; from: Source; by: BringIn['by'] }
  | { do: 'bring-in'; showId: string; author: Author; wanted: BringIn; editId: string };

/** What came of a job. */
export interface FileAnswer {
  answer: unknown;
  /** A file that was written. */
  bytes?: Uint8Array;
}

const ITEMS_SENT = 2000;
const CHANGES_SENT = 20_000;

/** Does a job. @param bytes the file that it is about, as it comes */
export async function doJob(
  db: Database,
  job: FileJob,
  bytes: AsyncIterable<Uint8Array>,
): Promise<Result<FileAnswer>> {
  const store = new ShowStore(db);
  switch (job.do) {
    case 'open': {
      const read = await readIn(db, bytes);
      return isRefusal(read) ? read : wrapped(await openFile(db, job.userId, read.file));
    }
    case 'open-backup': {
      const read = await readBackup(db, job.data, job.showId, job.file);
      return isRefusal(read)
        ? read
        : wrapped(
            await openFile(
              db,
              job.userId,
              read,
              `${read.manifest.show.name.slice(0, 80)}, back-up ${read.manifest.made.slice(0, 16).replace('T', ' ')}`,
            ),
          );
    }
    case 'back-up': {
      const file = await backUp(store, job.data, job.showId, new Date(), job.by);
      return file === undefined
        ? refuse('nothing', 'The newest back-up has all of this already.')
        : { answer: { file } };
    }
    case 'take-in': {
      const taken = await takeIn(db, job.userId, job.name, bytes);
      if (isRefusal(taken)) return taken;
      const { show, made, by, counts } = taken.file.manifest;
      return { answer: { id: taken.id, show, made, by, counts } };
    }
    case 'write': {
      const written = await exportShow(store, job.showId, job.by);
      return isRefusal(written)
        ? written
        : {
            answer: { name: written.name, seq: written.seq, sounds: written.sounds },
            bytes: written.bytes,
          };
    }
    case 'measure-sound':
      return wrapped(await takeInSound(db, job.arrived));
    case 'bring-type':
      return wrapped(await bringType(db, await whole(bytes), job.by, job.preview));
    case 'import':
      return wrapped(await importFile(store, job, await whole(bytes)));
    case 'merge':
      return merge(store, job);
    case 'parts':
      return parts(store, job);
    case 'bring-in': {
      const { from, by, mapping, preview, ...wanted } = job.wanted;
      const other = await otherSide(store, job.author.userId, from);
      if (isRefusal(other)) return other;
      const { editId } = job;
      const brought = { other, wanted, by, own: mapping, editId, preview };
      const done = await bringIn(store, job.showId, job.author, brought);
      return isRefusal(done)
        ? done
        : {
            answer: {
              seq: done.seq,
              summary: done.summary,
              notes: done.notes,
              rows: done.changes.length,
            },
          };
    }
  }
}

async function whole(pieces: AsyncIterable<Uint8Array>): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  for await (const piece of pieces) parts.push(piece);
  return Buffer.concat(parts);
}

const wrapped = (answer: unknown): Result<FileAnswer> => (isRefusal(answer) ? answer : { answer });

async function otherSide(store: ShowStore, userId: string, from: Source): Promise<Result<Other>> {
  if ('file' in from) {
    const file = await incomingFile(store.db, userId, from.file);
    return isRefusal(file) ? file : otherFromFile(file);
  }
  const role = await roleOf(store.db, from.show, userId);
  if (!role || role === 'volunteer')
    return refuse('not-found', 'The other show does not exist, or you are not one of its people.');
  return otherFromShow(store, from.show);
}

async function merge(
  store: ShowStore,
  job: Extract<FileJob, { do: 'merge' }>,
): Promise<Result<FileAnswer>> {
  const other = await otherSide(store, job.author.userId, job.from);
  if (isRefusal(other)) return other;
  if (job.preview) {
    const preview = await previewMerge(store, job.showId, other, job.decisions);
    if (isRefusal(preview)) return preview;
    const { items, conflicts, changes, ...rest } = preview;
    return {
      answer: {
        ...rest,
        items: items.slice(0, ITEMS_SENT),
        itemCount: items.length,
        conflicts: conflicts.slice(0, ITEMS_SENT),
        conflictCount: conflicts.length,
        changes: changes.length <= CHANGES_SENT ? changes : [],
      },
    };
  }
  const done = await mergeInto(store, job.showId, job.author, other, job.decisions, job.editId);
  return isRefusal(done) ? done : { answer: { seq: done.seq, summary: done.summary } };
}

type Numbered = { id: string; number: number; name: string; family?: string };
const named = (rows: Iterable<Numbered>): Numbered[] =>
  [...rows]
    .sort((a, b) => a.number - b.number)
    .map(({ id, number, name, family }) => ({ id, number, name, ...(family ? { family } : {}) }));

/** What there is to bring in, and which of our fixtures would stand for theirs. */
async function parts(
  store: ShowStore,
  job: Extract<FileJob, { do: 'parts' }>,
): Promise<Result<FileAnswer>> {
  const [own, other] = [await store.open(job.showId), await otherSide(store, job.userId, job.from)];
  if (isRefusal(other)) return other;
  if (!own) return refuse('not-found', 'This show does not exist.');
  const theirs: MutableShow = other.show;
  return {
    answer: {
      name: other.name,
      lists: [...theirs.lists.values()].map((l) => ({
        id: l.id,
        name: l.name,
        cues: named(theirs.cuesOf(l.id)),
      })),
      palettes: named(theirs.palettes.values()),
      groups: named(theirs.groups.values()),
      looks: named(theirs.looks.values()),
      effects: named(theirs.effects.values()),
      fixtures: [...theirs.fixtures.values()]
        .sort((a, b) => a.number - b.number)
        .map((f) => ({
          id: f.id,
          number: f.number,
          label: f.label,
          type: theirs.types.get(f.typeId)?.name ?? '',
        })),
      mapping: Object.fromEntries(mapFixtures(own.show, theirs, job.by)),
    },
  };
}
