/** Two states of a show side by side, in words: by section, item by item, each with the rows behind it. */
import { numberRanges } from '../words.ts';
import { attributeInfo } from '../rig/attributes.ts';
import { Draft } from './draft.ts';
import { holdersOf, standing, withoutMissing } from './merge-fates.ts';
import { differences } from './past.ts';
import type { TableName } from './tables.ts';
import { settle } from './settle.ts';
import type { MutableShow, RowChange, Show } from './show.ts';
import { altered } from './undo.ts';
import { same } from '../same.ts';
import { describeRow, fieldName, isHidden, isTime, sayField, sayValue } from './words.ts';

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

const SECTION_OF: Record<TableName, Section> = {
  settings: 'show',
  types: 'patch',
  fixtures: 'patch',
  universes: 'patch',
  circuits: 'patch',
  routes: 'patch',
  groups: 'palettes',
  palettes: 'palettes',
  looks: 'palettes',
  effects: 'palettes',
  cues: 'cues',
  values: 'cues',
  lists: 'playback',
  faders: 'playback',
  pages: 'playback',
  sounds: 'playback',
  scripts: 'script',
  calls: 'script',
  departments: 'script',
  prompts: 'script',
  pieces: 'plan',
  layouts: 'plan',
  pictures: 'plan',
  parts: 'people',
  notes: 'people',
  photos: 'people',
  likes: 'people',
};

export interface Line {
  label: string;
  before: string;
  after: string;
}
export interface Item {
  /** Unique in the comparison. */
  key: string;
  section: Section;
  title: string;
  how: 'added' | 'removed' | 'changed';
  lines: Line[];
  /** The rows behind it, as `table/id`. */
  rows: string[];
  /** For pictures: the cue whose look changes, or the palette. */
  cueId?: string;
  paletteId?: string;
}

const LINES_KEPT = 40;
const rowKey = (c: RowChange): string => `${c.table}/${c.id}`;

/** What is different in `to`, seen from `from`. */
export function compareShows(
  from: Show,
  to: Show,
  changes: readonly RowChange[] = differences(from, to),
): Item[] {
  const items: Item[] = [];
  const values = new Map<string, RowChange[]>();
  for (const c of changes) {
    if (c.table === 'values') {
      const cueId = (c.after ?? c.before)?.cueId ?? '';
      const list = values.get(cueId);
      if (list) list.push(c);
      else values.set(cueId, [c]);
      continue;
    }
    items.push(...itemsOf(from, to, c));
  }
  for (const [cueId, own] of values) {
    const cue = to.cues.get(cueId) ?? from.cues.get(cueId);
    const title = cue
      ? `${describeRow(to.cues.has(cueId) ? to : from, 'cues', cue)}${cue.name ? ` “${cue.name}”` : ''}: what it sets`
      : 'values of a cue that is gone';
    const how = own.every((c) => c.before === null)
      ? 'added'
      : own.every((c) => c.after === null)
        ? 'removed'
        : 'changed';
    items.push({
      key: `values/${cueId}`,
      section: 'cues',
      title,
      how,
      lines: valueLines(from, to, own),
      rows: own.map(rowKey),
      cueId,
    });
  }
  const order = (i: Item): number => SECTIONS.indexOf(i.section);
  return items.sort(
    (a, b) => order(a) - order(b) || a.title.localeCompare(b.title, 'en', { numeric: true }),
  );
}

function itemsOf(from: Show, to: Show, c: RowChange): Item[] {
  const section = SECTION_OF[c.table];
  const pictured =
    c.table === 'palettes' ? { paletteId: c.id } : c.table === 'cues' ? { cueId: c.id } : {};
  const base = { key: rowKey(c), rows: [rowKey(c)], ...pictured };
  const names = c.after ? describeRow(to, c.table, c.after) : describeRow(from, c.table, c.before);
  const own = (c.after ?? c.before) as unknown as { name?: string; label?: string };
  const called = c.table === 'cues' || c.table === 'fixtures' ? (own.name ?? own.label ?? '') : '';
  const title = called ? `${names} “${called}”` : names;
  if (!c.before || !c.after)
    return [{ ...base, section, title, how: c.after ? 'added' : 'removed', lines: [] }];
  const before = c.before as unknown as Record<string, unknown>;
  const after = c.after as unknown as Record<string, unknown>;
  const lines = altered(c)
    .filter((field) => !isHidden(c.table, field))
    .map((field): Line & { field: string } => ({
      field,
      label: fieldName(field),
      before: sayField(from, c.table, field, before[field]),
      after: sayField(to, c.table, field, after[field]),
    }));
  const plain = (own_: typeof lines): Line[] =>
    own_.map(({ label, before: b, after: a }) =>
      b === a ? { label, before: 'as it was', after: 'changed' } : { label, before: b, after: a },
    );
  if (c.table !== 'cues') return [{ ...base, section, title, how: 'changed', lines: plain(lines) }];
  // Times are what people look for on their own.
  const times = lines.filter((l) => isTime(l.field));
  const rest = lines.filter((l) => !isTime(l.field));
  return [
    ...(rest.length > 0
      ? [{ ...base, section, title, how: 'changed' as const, lines: plain(rest) }]
      : []),
    ...(times.length > 0
      ? [
          {
            ...base,
            key: `${base.key}/times`,
            section: 'times' as const,
            title,
            how: 'changed' as const,
            lines: plain(times),
          },
        ]
      : []),
  ];
}

/** Values of one cue, with units that change alike in one line. */
function valueLines(from: Show, to: Show, own: readonly RowChange[]): Line[] {
  const alike = new Map<
    string,
    { attribute: string; before: string; after: string; numbers: number[] }
  >();
  for (const c of own) {
    if (c.table !== 'values') continue;
    const row = c.after ?? c.before;
    if (!row) continue;
    const before = sayValue(from, c.before);
    const after = sayValue(to, c.after);
    const number =
      (to.fixtures.get(row.fixtureId) ?? from.fixtures.get(row.fixtureId))?.number ?? 0;
    const key = `${row.attribute}|${before}|${after}`;
    const known = alike.get(key);
    if (known) known.numbers.push(number);
    else alike.set(key, { attribute: row.attribute, before, after, numbers: [number] });
  }
  const lines = [...alike.values()].map(({ attribute, before, after, numbers }): Line => ({
    label: `${numberRanges(numbers)} ${attributeInfo(attribute).label.toLowerCase()}`,
    before,
    after,
  }));
  return lines.length > LINES_KEPT
    ? [
        ...lines.slice(0, LINES_KEPT - 1),
        { label: `and ${lines.length - LINES_KEPT + 1} more`, before: '', after: '' },
      ]
    : lines;
}

/**
 * Takes items over from another state: times of a cue apart from the rest of it; what comes back or goes, with all that is
 * in it. What they lean on comes along, and numbers and addresses that are given by now are settled.
 * @param keys of items of `compareShows`
 * @returns changes to `from`, and in words what had to be settled
 */
export function takeOver(
  from: MutableShow,
  to: Show,
  keys: ReadonlySet<string>,
): { changes: RowChange[]; notes: string[] } {
  const all = differences(from, to);
  const chosen = all.flatMap((c) => chosenOf(c, keys));
  // Lists before their cues before what these set: each takes the next along.
  const whole = new Set(chosen.flatMap((c) => (c.before && c.after ? [] : [rowKey(c)])));
  const heldIn = (c: RowChange): boolean =>
    (!c.before || !c.after) &&
    [c.before, c.after].some(
      (row) => row && holdersOf(c.table, row).some(([table, id]) => whole.has(`${table}/${id}`)),
    );
  const taken = new Set(chosen.map(rowKey));
  for (const tables of [
    ['cues', 'faders'],
    ['values', 'calls'],
  ] as const) {
    for (const c of all) {
      if (!(tables as readonly TableName[]).includes(c.table) || taken.has(rowKey(c)) || !heldIn(c))
        continue;
      taken.add(rowKey(c));
      whole.add(rowKey(c));
      chosen.push(c);
    }
  }
  const draft = new Draft(from);
  const notes: string[] = [];
  for (const c of chosen) draft.put(c.table, c.id, c.after);
  withoutMissing(draft, notes);
  standing(draft, [to, from], notes);
  settle(draft, to, notes);
  return { changes: draft.changes(), notes };
}

function chosenOf(c: RowChange, keys: ReadonlySet<string>): RowChange[] {
  const cueId = c.table === 'values' ? (c.after ?? c.before)?.cueId : undefined;
  if (cueId !== undefined) return keys.has(`values/${cueId}`) ? [c] : [];
  const [whole, times] = [keys.has(rowKey(c)), keys.has(`${rowKey(c)}/times`)];
  if (c.table !== 'cues' || !c.before || !c.after) return whole || times ? [c] : [];
  if (whole && times) return [c];
  if (!whole && !times) return [];
  const after: Record<string, unknown> = { ...c.before };
  for (const field of altered(c)) {
    if (isTime(field) !== times) continue;
    const value = (c.after as unknown as Record<string, unknown>)[field];
    if (value === undefined) delete after[field];
    else after[field] = value;
  }
  return same(c.before, after) ? [] : [{ ...c, after } as unknown as RowChange];
}
