/**
 * Two shows that went apart come together again: three-way, from the state that both began from. Values are judged per
 * cue, fixture and attribute; other rows field by field, and records by their keys. What only one side changed comes
 * in; what both changed differently is a conflict, which somebody decides. The outcome is changes to our show.
 */
import { asRow, type Fields } from './fields-of.ts';
import { same } from '../same.ts';
import { sectionsOfCues } from '../script/sections.ts';
import { Draft } from './draft.ts';
import { Fates, rejoin, standing, withoutMissing, type Decide, type Side } from './merge-fates.ts';
import { percent } from './plain-words.ts';
import { settle } from './settle.ts';
import type { MutableShow, RowChange, Show } from './show.ts';
import { TABLE_NAMES, TABLES, rowsIn, type AnyRow, type TableName } from './tables.ts';
import { describeRow, fieldName, sayField } from './words.ts';

/** Something that both sides changed, each in its own way. */
export interface Conflict {
  key: string;
  table: TableName;
  id: string;
  /** Empty: the row as a whole. */
  path: string[];
  title: string;
  base: string;
  ours: string;
  theirs: string;
  cueId?: string;
  listId?: string;
  act?: string;
  scene?: string;
  chosen?: Side;
}
/** What is decided at once: everything, an act or scene of the script, a list, or what kind of row it is. */
export interface Rule {
  side: Side;
  act?: string;
  scene?: string;
  listId?: string;
  tables?: TableName[];
}
/** How conflicts are to be decided. */
export interface Decisions {
  rules: readonly Rule[];
  /** By a conflict's key; over every rule. */
  choices: Readonly<Record<string, Side>>;
}
/** Two shows brought together. */
export interface Merged {
  changes: RowChange[];
  /** Our show after them. */
  after: MutableShow;
  conflicts: Conflict[];
  /** Conflicts that nobody has decided. */
  open: number;
  /** What had to be settled without a question, in words. */
  notes: string[];
}

const isRecord = (v: unknown): v is Fields =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** Two shows that have gone apart since one state, as one; what both changed is decided or asked for. */
export function mergeShows(
  base: Show,
  ours: MutableShow,
  theirs: Show,
  decisions: Decisions,
): Merged {
  const draft = new Draft(ours);
  const conflicts: Conflict[] = [];
  const notes: string[] = [];
  const decide = decider({ ours, theirs }, decisions, conflicts);
  const fates = new Fates(base, ours, theirs, decide);
  const merge = new RowMerge(base, ours, theirs, decide);
  for (const table of TABLE_NAMES) {
    const [was, own, other] = [rowsIn(base, table), rowsIn(ours, table), rowsIn(theirs, table)];
    const newer = fates.of.size > 0 ? own.keys() : [];
    for (const id of new Set([...was.keys(), ...other.keys(), ...newer])) {
      const o = own.get(id) ?? null;
      const b = withOwnFields(table, was.get(id) ?? null, o);
      const t = withOwnFields(table, other.get(id) ?? null, o);
      const decided = fates.decided(table, id, b, o, t);
      const merged = decided === undefined ? merge.row({ table, id, b, o, t }) : decided;
      if (merged !== undefined) draft.put(table, id, merged);
    }
  }
  rejoin(draft, { ours, theirs }, fates.kept());
  withoutMissing(draft, notes);
  standing(draft, [ours, theirs, base], notes, ', though one side deleted it');
  settle(draft, theirs, notes);
  return {
    changes: draft.changes(),
    after: draft.after,
    conflicts,
    open: conflicts.filter((c) => c.chosen === undefined).length,
    notes,
  };
}

/** Follows choices, then rules, and keeps what was asked in `conflicts`. */
function decider(
  sides: Readonly<Record<Side, Show>>,
  { rules, choices }: Decisions,
  conflicts: Conflict[],
): Decide {
  const sections = { ours: sectionsOfCues(sides.ours), theirs: sectionsOfCues(sides.theirs) };
  return (table, id, path, row, words) => {
    const { cueId, listId } = TABLES[table].about?.(row as never) ?? {};
    const section =
      cueId === undefined ? undefined : (sections.ours.get(cueId) ?? sections.theirs.get(cueId));
    const conflict: Conflict = {
      key: [table, id, ...path].join('/'),
      table,
      id,
      path,
      ...words,
      ...(cueId === undefined ? {} : { cueId }),
      ...(listId === undefined ? {} : { listId }),
      ...section,
    };
    const chosen =
      choices[conflict.key] ?? [...rules].reverse().find((r) => fits(r, conflict))?.side;
    conflicts.push(chosen ? { ...conflict, chosen } : conflict);
    return chosen ?? 'ours';
  };
}

/** One row in the state that both began from, with us and with them; null where it is not there. */
interface Three {
  table: TableName;
  id: string;
  b: AnyRow | null;
  o: AnyRow | null;
  t: AnyRow | null;
}

/** Merges one row at a time: what only one side changed comes in, what both changed is decided. */
class RowMerge {
  constructor(
    private readonly base: Show,
    private readonly ours: Show,
    private readonly theirs: Show,
    private readonly decide: Decide,
  ) {}

  /** @returns the row as it is after the merge, null where it goes; undefined where ours stays as it is */
  row(three: Three): AnyRow | null | undefined {
    const { table, b, o, t } = three;
    if (t === b || same(b, t) || same(o, t)) return undefined;
    if (same(b, o)) return t;
    // Both have changed it, or both have made it.
    if (o && t && !TABLES[table].cells) return this.byField({ ...three, o, t });
    return this.whole(three);
  }

  private whole({ table, id, b, o, t }: Three): AnyRow | null | undefined {
    const row = (o ?? t ?? b) as AnyRow;
    const others = t ? this.theirs : this.base;
    const named = o ? this.ours : others;
    const { cells } = TABLES[table];
    const say = (show: Show, r: AnyRow | null): string => {
      if (cells) return cells.say(r as never, show);
      if (!r) return 'deleted';
      return r === b ? 'as it was' : 'changed';
    };
    const side = this.decide(table, id, [], row, {
      title: describeRow(named, table, row),
      base: say(this.base, b),
      ours: say(this.ours, o),
      theirs: say(this.theirs, t),
    });
    return side === 'theirs' ? t : undefined;
  }

  private byField({ table, id, b, o, t }: Three & { o: AnyRow; t: AnyRow }): AnyRow {
    const records = TABLES[table].records ?? {};
    const title = ([field = '', ...keys]: readonly string[]): string => {
      const { by } = records[field] ?? {};
      const named = keys.map((key, depth) => (depth === 0 ? this.nameOfKey(by, key) : key));
      const of = named.length > 0 ? ` of ${named.join(', ')}` : '';
      return `${describeRow(this.ours, table, o)}: ${fieldName(table, field)}${of}`;
    };
    const say = (show: Show, [field = '', ...keys]: readonly string[], v: unknown): string => {
      if (keys.length === 0) return sayField(show, table, field, v);
      if (/_s$/.test(field)) return sayField(show, table, 'x_s', v);
      return typeof v === 'number' ? percent(v) : sayField(show, table, field, v);
    };
    const decide: DecideField = (path, bv, ov, tv) =>
      this.decide(table, id, path, o, {
        title: title(path),
        base: b ? say(this.base, path, bv) : 'not there',
        ours: say(this.ours, path, ov),
        theirs: say(this.theirs, path, tv),
      });
    const depthOf = (field: string): number => records[field]?.deep ?? 0;
    return asRow(mergeFields({ ...b }, { ...o }, { ...t }, [], depthOf, decide));
  }

  private nameOfKey(table: TableName | undefined, id: string): string {
    const row = table && this.ours[table].get(id);
    if (!row) return id;
    return TABLES[table].says.key?.(row as never) ?? describeRow(this.ours, table, row);
  }
}

/** What a copy is called is its own affair: our show keeps its name and where it is. */
function withOwnFields(table: TableName, row: AnyRow | null, ours: AnyRow | null): AnyRow | null {
  const { ownFields } = TABLES[table];
  if (!ownFields || !row || !ours) return row;
  const own = Object.entries(ours).filter(([field]) => (ownFields as string[]).includes(field));
  return { ...row, ...Object.fromEntries(own) };
}

const fits = (r: Rule, c: Conflict): boolean =>
  (r.act === undefined || r.act === c.act) &&
  (r.scene === undefined || r.scene === c.scene) &&
  (r.listId === undefined || r.listId === c.listId) &&
  (r.tables === undefined || r.tables.includes(c.table));

type DecideField = (path: string[], b: unknown, o: unknown, t: unknown) => Side;

/** @param depthOf how deep a field of the row is merged by its keys */
function mergeFields(
  b: Fields,
  o: Fields,
  t: Fields,
  path: string[],
  depthOf: (field: string) => number,
  decide: DecideField,
): Fields {
  const after: Fields = { ...o };
  for (const field of new Set([...Object.keys(b), ...Object.keys(o), ...Object.keys(t)])) {
    const [bv, ov, tv] = [b[field], o[field], t[field]];
    if (same(bv, tv) || same(ov, tv)) continue;
    const here = [...path, field];
    const isDeep = here.length <= depthOf(here[0] ?? '');
    let value: unknown;
    if (same(bv, ov)) value = tv;
    else if (isDeep && isRecord(ov) && isRecord(tv))
      value = mergeFields(isRecord(bv) ? bv : {}, ov, tv, here, depthOf, decide);
    else value = decide(here, bv, ov, tv) === 'theirs' ? tv : ov;
    if (value === undefined) delete after[field];
    else after[field] = value;
  }
  return after;
}
