/** What a file from elsewhere would do to a show, before it does it: all of it is done, or nothing. */
import type { Odd } from '../formats/odd.ts';
import type { RowChange, Show } from '../show/show.ts';
import type { Role } from '../roles.ts';
import type { TypeRow } from '../types/rows.ts';

/** What a file may be. */
export const KINDS = [
  'gdtf',
  'mvr',
  'ascii',
  'patch',
  'cues',
  'groups',
  'palettes',
  'outputs',
  'curve',
  'script',
  'show',
] as const;
export type Kind = (typeof KINDS)[number];

/** What each is, in the words of a sentence: `This is a fixture type.` */
export const KIND_WORDS: Record<Kind, string> = {
  gdtf: 'a fixture type (GDTF)',
  mvr: 'a plan with its rig (MVR)',
  ascii: 'ASCII cues',
  patch: 'a table of the patch',
  cues: 'a table of cues',
  groups: 'a table of groups',
  palettes: 'a table of palettes',
  outputs: 'a table of outputs',
  curve: 'a measured dimmer curve',
  script: 'a script',
  show: 'a show file',
};

/** One thing that comes, changes or goes. */
export interface Item {
  /** `type`, `fixture`, `cue` … */
  what: string;
  name: string;
  does: 'new' | 'changed' | 'same' | 'gone';
  /** More of it, in a few words. */
  says?: string;
}

/** What a file would do to a show: nothing has been done. */
export interface Proposed {
  kind: Kind;
  items: Item[];
  problems: Odd[];
  /** In a sentence, as history keeps it. */
  summary: string;
  changes: RowChange[];
  /** Types that the library of the house may keep. */
  types?: readonly TypeRow[];
  /** Columns of a table: what they are called, what may be in them, which is which. */
  columns?: Columns;
}

/** A table’s columns, and which field each was taken for. */
export interface Columns {
  header: string[];
  fields: { key: string; label: string }[];
  /** Place of each field’s column, from 0. */
  mapping: Record<string, number>;
}

/** Into what a file is read, and for whom. */
export interface ImportContext {
  show: Show;
  role: Role;
  /** Becomes the stem of new rows’ ids. */
  editId: string;
  newId: () => string;
  /** What people chose beside the file. */
  options: ImportOptions;
}

/** What people chose about a file. */
export interface ImportOptions {
  /** Read as this, whatever it looks like. */
  kind?: Kind | undefined;
  /** The list that cues go into. */
  list?: string | undefined;
  /** The script of which this is the next draft. */
  script?: string | undefined;
  /** Numbers of the fixtures that a curve is for. */
  fixtures?: readonly number[] | undefined;
  columns?: Record<string, number> | undefined;
}

/** A file as it was given. */
export interface ImportFile {
  name: string;
  bytes: Uint8Array;
}

/** More items than this nobody reads. */
const ITEMS_SENT = 2000;

/** What is told of it, to the dialog and to programs. */
export const answerOf = ({ kind, items, problems, summary, columns, changes }: Proposed) => ({
  kind,
  is: KIND_WORDS[kind],
  items: items.slice(0, ITEMS_SENT),
  itemCount: items.length,
  problems,
  summary,
  rows: changes.length,
  ...(columns ? { columns } : {}),
});
/** What a person is told of a file; with its number in history, where it was taken. */
export type ImportAnswer = ReturnType<typeof answerOf> & { seq?: number };
