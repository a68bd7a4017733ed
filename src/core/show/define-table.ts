/**
 * What a table of a show knows of itself, said once. References, deletion, merge, comparison, words, the show file and
 * what the player compiles again all derive from the list of these (`tables.ts`), in files that name no table.
 */
import type { z } from 'zod';

/** Where a row stands in a comparison. */
export const SECTIONS = [
  'show',
  'patch',
  'palettes',
  'cues',
  'times',
  'script',
  'playback',
  'plan',
  'people',
] as const;
export type Section = (typeof SECTIONS)[number];

/** What a row leans on: rows of a table, or of one of two. */
export interface Ref<Row, To extends string> {
  to: readonly [To] | readonly [To, To];
  /** Undefined entries lean on nothing. */
  ids: (row: Row) => readonly (string | undefined)[];
  /** The row goes and comes with what this names: a cue with its list, a value with its cue and its fixture. */
  owner: boolean;
}
type Ids<Row> = (row: Row) => readonly (string | undefined)[];

/** Leans on rows of `to`, or of one of two tables. */
export const ref = <Row, const To extends string>(
  to: To | readonly [To, To],
  ids: Ids<Row>,
): Ref<Row, To> => ({
  to: typeof to === 'string' ? [to] : to,
  ids,
  owner: false,
});
/** Leans on rows of `to`, and goes and comes with them. */
export const ownedBy = <Row, const To extends string>(to: To, ids: Ids<Row>): Ref<Row, To> => ({
  ...ref<Row, To>(to, ids),
  owner: true,
});

/** Whether a row is there; of a reference to one of two tables, in either. */
export type There = (id: string) => boolean;

/** What a row names without needing it: members of a group, a palette's entries by fixture. */
export interface Members<Row, To extends string, Out = Row> {
  to: readonly [To] | readonly [To, To];
  /** The row without members that are gone; the same row where none is. */
  without: (row: Row, there: There) => Out;
  /** A member that stays against a deletion has again in `now` the place that it has in `from`. */
  rejoin: (now: Row, from: Row, id: string) => Out;
}

type KeysOf<Row, Value> = { [K in keyof Row]-?: Row[K] extends Value ? K : never }[keyof Row];

/** Members as a list of ids in a field. */
export const listOf = <Row, const To extends string>(
  to: To | readonly [To, To],
  field: KeysOf<Row, readonly string[]>,
): Members<Row, To> => {
  const idsOf = (row: Row): readonly string[] => row[field] as readonly string[];
  return {
    to: typeof to === 'string' ? [to] : to,
    without: (row, there) =>
      idsOf(row).every(there) ? row : { ...row, [field]: idsOf(row).filter(there) },
    rejoin: (now, from, id) =>
      idsOf(from).includes(id) && !idsOf(now).includes(id)
        ? { ...now, [field]: [...idsOf(now), id] }
        : now,
  };
};

/** Members as the keys of a record in a field. */
export const keysOf = <Row, const To extends string>(
  to: To,
  field: KeysOf<Row, Readonly<Record<string, unknown>> | undefined>,
): Members<Row, To> => {
  const entriesOf = (row: Row): Readonly<Record<string, unknown>> => row[field] ?? {};
  return {
    to: [to],
    without: (row, there) => {
      const kept = Object.entries(entriesOf(row)).filter(([id]) => there(id));
      return kept.length === Object.keys(entriesOf(row)).length
        ? row
        : { ...row, [field]: Object.fromEntries(kept) };
    },
    rejoin: (now, from, id) => {
      const own = entriesOf(from)[id];
      return own === undefined || entriesOf(now)[id] !== undefined
        ? now
        : { ...now, [field]: { ...entriesOf(now), [id]: own } };
    },
  };
};

/** A field in words. */
export interface FieldWords<Needs> {
  /** Absent: its own name, with spaces. */
  called?: string;
  /** After its number, with the space that stands before it: ` kg`. */
  unit?: string;
  /** Kept for the machine: nobody reads it. */
  hidden?: true;
  /** Says how long something takes, or when it begins. Fields that end in `_s` do by their name. */
  time?: true;
  /** Its value, where that is not said as any number, text or list is. Never asked of nothing, yes or no. */
  say?: (value: never, show: Needs) => string;
}

/** Numbers that are given once, in the show or among rows that share something. */
export interface Numbering<Row> {
  /** Absent: in the whole show. */
  within?: (row: Row) => string;
  /** The next free number from a wish on; absent: the next whole one. */
  free?: (taken: ReadonlySet<number>, wish: number) => number;
  /** The row that has come in under a new number, with its old one, in a sentence; absent: the usual one. */
  moved?: (row: Row, number: number) => string;
}

/** What only one row may have, besides its number: addresses. */
export interface Claims<Row, Needs, To extends string, Out = Row> {
  /** Tables that it is read from, besides its own. */
  reads: readonly To[];
  /** Takes what each row has, in turn. @returns the row that has some of it already; nothing is taken then */
  begin: (show: Needs) => (row: Row) => Out | undefined;
  /** That two have it, in the middle of a sentence. */
  clash: (row: Row, other: Row) => string;
  /** The row without it, and that in a sentence. */
  without: (row: Row) => Out;
  gaveUp: (row: Row, other: Row) => string;
}

/** Rows that are cells of another row and are judged as one thing each: what one cue sets for one slot. */
export interface Cells<Row, Needs> {
  /** The row that they are cells of, and what its cells are called together. */
  of: (row: Row) => string;
  title: (ofId: string, show: Needs) => string | undefined;
  /** What alike cells of several units have in common, and the unit's number. */
  what: (row: Row) => string;
  unit: (row: Row, show: Needs) => number | undefined;
  say: (row: Row | null, show: Needs) => string;
}

/** A table and all that is known of it. */
export interface TableDefinition<
  Name extends string,
  Row extends { id: string },
  Needs,
  To extends string,
  Means extends boolean,
  Out extends { id: string } = Row,
> {
  name: Name;
  /** One of its rows, in small letters. */
  one: string;
  row: z.ZodType<Out>;
  section: Section;
  /** The show file's schema that it came with; absent: the first. */
  since?: number;
  refs?: readonly Ref<Row, To>[];
  members?: readonly Members<Row, To, Out>[];
  /** A reference that is let go of where its row is gone; and that it was, in a sentence. */
  loosened?: (row: Row, there: (table: To, id: string) => boolean) => Out;
  sayLoosened?: (row: Row, show: Needs) => string;
  number?: Numbering<Row>;
  claims?: Claims<Row, Needs, To, Out>;
  cells?: Cells<Row, Needs>;
  /** Records that merge by their keys: how deep, and whose ids the outer keys are. Everything else merges as one thing. */
  records?: Readonly<Partial<Record<keyof Row, { deep: number; by?: To }>>>;
  /** Fields that a copy has for itself: a merge leaves ours. */
  ownFields?: readonly (keyof Row)[];
  /** The cue or the list that it is about, for rules of a merge by act and list. */
  about?: (row: Row) => { cueId?: string | undefined; listId?: string | undefined };
  /** Changes that are nobody's work: they do not keep an owner, and stand in no undo's way. */
  light?: true;
  /** A row that others have come to lean on stays when what brought it is undone. */
  shared?: true;
  /** Decides what values stand for. */
  means?: Means;
  /** Decides which slots there are and how they are written; save for the fields named. */
  electric?: { except: readonly (keyof Row)[] };
  /** A field with a data URL of this kind travels as a file beside the rows. */
  asset?: { field: 'data'; kind: 'image' | 'audio' };
  /** The id follows from the row. */
  idOf?: (row: Row) => string;
  /** A comparison shows its picture. */
  pictured?: 'cueId' | 'paletteId';
  /** Its times stand apart in a comparison. */
  timesApart?: true;
  says: {
    /** In the middle of a sentence: `fixture 12`, `palette 3 “Ferry blue”`. */
    row: (row: Row, show: Needs) => string;
    /** A name that a title adds to that. */
    called?: (row: Row) => string;
    /** Where it uses something else; absent: as `row`. */
    using?: (row: Row, show: Needs) => string;
    /** As a key of another row's record; absent: as `row`. */
    key?: (row: Row) => string;
  };
  fields?: Readonly<Record<string, FieldWords<Needs>>>;
}

/**
 * A table of a show. Its row's type is inferred from the schema, the tables that it leans on from its references, and
 * what its words need to read from their second parameters; `tables.ts` checks that there are such tables.
 */
export const defineTable = <
  const Name extends string,
  Row extends { id: string },
  Needs = unknown,
  To extends string = never,
  const Means extends boolean = false,
>(
  table: TableDefinition<Name, Row, Needs, To, Means>,
): TableDefinition<Name, Row, Needs, To, Means> => table;
