/**
 * Two shows that went apart come together again: three-way, from the state that both began from. Values are judged per
 * cue, fixture and attribute; other rows field by field, and records by their keys. What only one side changed comes
 * in; what both changed differently is a conflict, which somebody decides. The outcome is changes to our show.
 */
import { sectionAt } from '../script/parse.ts';
import { TABLE_NAMES, type AnyRow, type TableName } from './tables.ts';
import type { ValueRow } from '../cues/rows.ts';
import type { MutableShow, RowChange, Show } from './show.ts';
import { Draft } from './draft.ts';
import { Fates, rejoin, standing, withoutMissing, type Decide, type Side } from './merge-fates.ts';
import { settle } from './settle.ts';
import { same } from '../same.ts';
import { describeRow, fieldName, sayField, sayValue } from './words.ts';

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
export interface Decisions {
  rules: readonly Rule[];
  /** By a conflict's key; over every rule. */
  choices: Readonly<Record<string, Side>>;
}
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

/** Records that are merged by their keys, with how deep. Everything else is one thing. */
const RECORDS: Partial<Record<TableName, Record<string, number>>> = {
  palettes: { fixtures: 2, groups: 2, types: 2 },
  fixtures: { transforms: 1, wheels: 2 },
  layouts: { places: 1 },
  cues: { family_s: 1, familyDelay_s: 1 },
  settings: { aside: 1 },
};
type Fields = Record<string, unknown>;
const isRecord = (v: unknown): v is Fields =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/** Acts and scenes of cues by the script: a cue without a call belongs where the one before it does. */
export function sectionsOfCues(show: Show): Map<string, { act: string; scene: string }> {
  const called = new Map<string, { act: string; scene: string }>();
  for (const call of show.calls.values()) {
    const script = show.scripts.get(call.scriptId);
    if (script && !called.has(call.cueId)) called.set(call.cueId, sectionAt(script, call.from));
  }
  const sections = new Map<string, { act: string; scene: string }>();
  for (const list of show.lists.keys()) {
    let at = { act: '', scene: '' };
    for (const cue of show.cuesOf(list)) {
      at = called.get(cue.id) ?? at;
      sections.set(cue.id, at);
    }
  }
  return sections;
}

export function mergeShows(
  base: Show,
  ours: MutableShow,
  theirs: Show,
  { rules, choices }: Decisions,
): Merged {
  const draft = new Draft(ours);
  const conflicts: Conflict[] = [];
  const notes: string[] = [];
  const sections = { ours: sectionsOfCues(ours), theirs: sectionsOfCues(theirs) };

  const decide: Decide = (table, id, path, row, words) => {
    const cueId =
      table === 'cues'
        ? id
        : table === 'values'
          ? (row as ValueRow).cueId
          : table === 'calls' || table === 'notes'
            ? (row as { cueId?: string }).cueId
            : undefined;
    const cue = cueId === undefined ? undefined : (ours.cues.get(cueId) ?? theirs.cues.get(cueId));
    const section =
      cueId === undefined ? undefined : (sections.ours.get(cueId) ?? sections.theirs.get(cueId));
    const conflict: Conflict = {
      key: [table, id, ...path].join('/'),
      table,
      id,
      path,
      ...words,
      ...(cueId === undefined ? {} : { cueId }),
      ...(cue ? { listId: cue.listId } : table === 'lists' ? { listId: id } : {}),
      ...(section ? { act: section.act, scene: section.scene } : {}),
    };
    const chosen =
      choices[conflict.key] ?? [...rules].reverse().find((r) => fits(r, conflict))?.side;
    conflicts.push(chosen ? { ...conflict, chosen } : conflict);
    return chosen ?? 'ours';
  };

  const fates = new Fates(base, ours, theirs, decide);
  for (const table of TABLE_NAMES) {
    const [was, own, other] = [base[table], ours[table], theirs[table]] as ReadonlyMap<
      string,
      AnyRow
    >[];
    for (const id of new Set([
      ...(was?.keys() ?? []),
      ...(other?.keys() ?? []),
      ...(fates.of.size > 0 ? (own?.keys() ?? []) : []),
    ])) {
      const o = own?.get(id) ?? null;
      const [b, t] = [was?.get(id) ?? null, other?.get(id) ?? null].map((row) =>
        ownName(table, row, o),
      ) as [AnyRow | null, AnyRow | null];
      const decided = fates.decided(table, id, b, o, t);
      if (decided !== undefined) {
        draft.put(table, id, decided);
        continue;
      }
      if (t === b || same(b, t) || same(o, t)) continue;
      if (same(b, o)) {
        draft.put(table, id, t);
        continue;
      }
      // Both have changed it, or both have made it.
      if (!o || !t || table === 'values') {
        const row = (o ?? t ?? b) as AnyRow;
        const named = o ? ours : t ? theirs : base;
        const say = (show: Show, r: AnyRow | null): string =>
          table === 'values'
            ? sayValue(show, r as ValueRow | null)
            : r
              ? r === b
                ? 'as it was'
                : 'changed'
              : 'deleted';
        const side = decide(table, id, [], row, {
          title: describeRow(named, table, row),
          base: say(base, b),
          ours: say(ours, o),
          theirs: say(theirs, t),
        });
        if (side === 'theirs') draft.put(table, id, t);
        continue;
      }
      const after = mergeFields(
        table,
        b ?? {},
        o,
        t,
        [],
        RECORDS[table] ?? {},
        1,
        (path, bv, ov, tv) => {
          const field = path[0] ?? '';
          const title = `${describeRow(ours, table, o)}: ${fieldName(field)}${
            path.length > 1
              ? ` of ${path
                  .slice(1)
                  .map((p) => pathName(ours, p))
                  .join(', ')}`
              : ''
          }`;
          const say = (show: Show, v: unknown): string =>
            path.length > 1 && typeof v === 'number' && !/_s$/.test(field)
              ? `${Math.round(v * 1000) / 10} %`
              : sayField(show, table, path.length > 1 && /_s$/.test(field) ? 'x_s' : field, v);
          return decide(table, id, path, o, {
            title,
            base: b ? say(base, bv) : 'not there',
            ours: say(ours, ov),
            theirs: say(theirs, tv),
          });
        },
      );
      draft.put(table, id, after as unknown as AnyRow);
    }
  }
  rejoin(draft, { ours, theirs }, fates.keptFixtures());
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

/** What a copy is called is its own affair: our show keeps its name and where it is. */
function ownName(table: TableName, row: AnyRow | null, ours: AnyRow | null): AnyRow | null {
  if (table !== 'settings' || !row || !ours || !('venue' in ours)) return row;
  return { ...row, name: ours.name, venue: ours.venue } as AnyRow;
}

const fits = (r: Rule, c: Conflict): boolean =>
  (r.act === undefined || r.act === c.act) &&
  (r.scene === undefined || r.scene === c.scene) &&
  (r.listId === undefined || r.listId === c.listId) &&
  (r.tables === undefined || r.tables.includes(c.table));
const pathName = (show: Show, id: string): string => {
  const fixture = show.fixtures.get(id);
  return fixture
    ? `fixture ${fixture.number}`
    : (show.groups.get(id)?.name ?? show.types.get(id)?.name ?? id);
};

function mergeFields(
  table: TableName,
  b: Fields,
  o: Fields,
  t: Fields,
  path: string[],
  records: Record<string, number>,
  depth: number,
  decide: (path: string[], b: unknown, o: unknown, t: unknown) => Side,
): Fields {
  const after: Fields = { ...o };
  for (const field of new Set([...Object.keys(b), ...Object.keys(o), ...Object.keys(t)])) {
    const [bv, ov, tv] = [b[field], o[field], t[field]];
    if (same(bv, tv) || same(ov, tv)) continue;
    const here = [...path, field];
    const deep = records[here[0] ?? ''] ?? 0;
    let value: unknown;
    if (same(bv, ov)) value = tv;
    else if (depth <= deep && isRecord(ov) && isRecord(tv))
      value = mergeFields(table, isRecord(bv) ? bv : {}, ov, tv, here, records, depth + 1, decide);
    else value = decide(here, bv, ov, tv) === 'theirs' ? tv : ov;
    if (value === undefined) delete after[field];
    else after[field] = value;
  }
  return after;
}
