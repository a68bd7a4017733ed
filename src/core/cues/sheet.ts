/**
 * The cue sheet's numbers, for thousands of cues and columns: what each cue sets for each column, what tracks into it,
 * from where, and how far. Typed arrays by cell, row by row, so that a worker can make them and hand them over.
 */
import { displayRGB } from '../color/mix.ts';
import { colourOf, colourParts } from '../color/unit-colour.ts';
import { effectOf, levelOf } from '../looks/value.ts';
import { modeOf } from '../fixtures/points.ts';
import { attributeInfo, attributesOf, familyOf } from '../rig/attributes.ts';
import { slotKey, type CueRow, type ValueRow } from './rows.ts';
import type { Channel, Mode, TypeRow } from '../types/rows.ts';
import type { Family } from '../show/fields.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Show } from '../show/show.ts';
import { prePositions } from './pre-position.ts';
import { isComplete } from './tracking.ts';

export interface Column {
  id: string;
  label: string;
  title: string;
  fixtures: string[];
  /** The group whose members this and its neighbours are. */
  group?: string;
  /** A group that can be unfolded. */
  folded?: boolean;
}

/** Bits of a cell. */
export const CELL = {
  set: 1,
  release: 2,
  mixed: 4,
  above: 8,
  below: 16,
  early: 32,
  timed: 64,
  effect: 128,
} as const;

export interface Sheet {
  rows: number;
  columns: number;
  flags: Uint8Array;
  /** Row of the cue that set what shows here; -1 where nothing does. */
  origin: Int32Array;
  /** The highest level of the column's units, 0…1. */
  level: Float32Array;
  /** Place in `labels`; 0 is none. */
  label: Uint16Array;
  /** The light's colour as 0x1RRGGBB; 0 where there is none. */
  swatch: Uint32Array;
  labels: string[];
  /** By row: 1 where the cue is complete as it stands. */
  complete: Uint8Array;
}

/** Groups as columns, unfolded ones as their members; fixtures in no group by themselves, after them. */
export function columnsOf(show: Show, family: Family, unfolded: ReadonlySet<string>): Column[] {
  const has = (id: string): boolean => {
    const fixture = show.fixtures.get(id);
    const mode = fixture ? modeOf(show, fixture) : undefined;
    return mode !== undefined && attributesOf(mode).some((a) => familyOf(a) === family);
  };
  const single = (id: string, group?: string): Column[] => {
    const f = show.fixtures.get(id);
    return f
      ? [
          {
            id: group === undefined ? id : `${group}/${id}`,
            label: String(f.number),
            title: f.label,
            fixtures: [id],
            ...(group === undefined ? {} : { group }),
          },
        ]
      : [];
  };
  // A group of groups would show its members a second time.
  const plain = [...show.groups.values()]
    .sort((a, b) => a.number - b.number)
    .filter((g) => !g.fixtures.some((id) => show.groups.has(id)));
  const grouped = new Set(plain.flatMap((g) => g.fixtures));
  const columns = plain.flatMap((g): Column[] => {
    const members = g.fixtures.filter(has);
    if (members.length === 0) return [];
    if (unfolded.has(g.id)) return members.flatMap((id) => single(id, g.id));
    return [
      {
        id: g.id,
        label: g.name,
        title: `Group ${g.number}, ${members.length} ${members.length === 1 ? 'fixture' : 'fixtures'}`,
        fixtures: members,
        folded: true,
      },
    ];
  });
  const rest = [...show.fixtures.values()]
    .filter((f) => !grouped.has(f.id) && has(f.id))
    .sort((a, b) => a.number - b.number);
  return [...columns, ...rest.flatMap((f) => single(f.id))];
}

interface Unit {
  fixture: FixtureRow;
  mode: Mode;
  type: TypeRow | undefined;
  slots: { attribute: string; slot: number; channel: Channel | undefined }[];
}

/** All cells of a list for one family. */
export function sheetOf(
  show: Show,
  cues: readonly CueRow[],
  columns: readonly Column[],
  family: Family,
): Sheet {
  const rows = cues.length;
  const n = columns.length;
  const sheet: Sheet = {
    rows,
    columns: n,
    flags: new Uint8Array(rows * n),
    origin: new Int32Array(rows * n).fill(-1),
    level: new Float32Array(rows * n),
    label: new Uint16Array(rows * n),
    swatch: new Uint32Array(rows * n),
    labels: [''],
    complete: new Uint8Array(rows),
  };
  const labels = new Map<string, number>();
  const labelled = (text: string): number => {
    const known = labels.get(text);
    if (known !== undefined) return known;
    if (sheet.labels.length >= 65_535) return 0;
    const at = sheet.labels.push(text) - 1;
    labels.set(text, at);
    return at;
  };

  const slotAt = new Map<string, number>();
  const columnOf: number[] = [];
  const units: Unit[][] = columns.map((column, c) =>
    column.fixtures.flatMap((id): Unit[] => {
      const fixture = show.fixtures.get(id);
      const mode = fixture ? modeOf(show, fixture) : undefined;
      if (!fixture || !mode) return [];
      const slots = attributesOf(mode)
        .filter((a) => familyOf(a) === family)
        .map((attribute) => {
          const slot = columnOf.push(c) - 1;
          slotAt.set(slotKey(id, attribute), slot);
          return { attribute, slot, channel: mode.channels.find((x) => x.attribute === attribute) };
        });
      return [{ fixture, mode, type: show.types.get(fixture.typeId), slots }];
    }),
  );
  const running: (ValueRow | null)[] = columnOf.map(() => null);
  const held = new Uint32Array(n);
  const origin = new Int32Array(n).fill(-1);
  const touched = new Int32Array(n).fill(-1);

  cues.forEach((cue, r) => {
    const set = show.valuesOf(cue.id);
    const base = r * n;
    for (let c = 0; c < n; c++) if ((held[c] as number) > 0) sheet.flags[base + c] = CELL.above;
    const cellsSet: number[] = [];
    const put = (slot: number, value: ValueRow | null): number => {
      const c = columnOf[slot] as number;
      const was = running[slot] !== null;
      const is = value !== null && value.level !== null;
      running[slot] = is ? value : null;
      if (was !== is) held[c] = (held[c] as number) + (is ? 1 : -1);
      return c;
    };
    const touch = (c: number): void => {
      if (touched[c] === r) return;
      touched[c] = r;
      cellsSet.push(c);
    };
    if (isComplete(show, cue)) {
      sheet.complete[r] = 1;
      running.forEach((value, slot) => {
        if (value === null) return;
        const key = slotKey(value.fixtureId, value.attribute);
        if (!set.has(key)) touch(put(slot, null));
      });
    }
    for (const [key, value] of set) {
      const slot = slotAt.get(key);
      if (slot === undefined) continue;
      const c = put(slot, value);
      touch(c);
      origin[c] = r;
      if (value.fade_s !== undefined || value.delay_s !== undefined || value.part !== undefined)
        sheet.flags[base + c] = (sheet.flags[base + c] as number) | CELL.timed;
      if (effectOf(show, value))
        sheet.flags[base + c] = (sheet.flags[base + c] as number) | CELL.effect;
    }
    for (const c of cellsSet) {
      const cell = base + c;
      if (held[c] === 0) {
        origin[c] = -1;
        // What a complete cue lets go of is not written: its bracket says it.
        if (
          sheet.complete[r] === 0 ||
          units[c]?.some((u) =>
            u.slots.some((s) => set.get(slotKey(u.fixture.id, s.attribute))?.level === null),
          )
        )
          sheet.flags[cell] = (sheet.flags[cell] as number) | CELL.set | CELL.release;
        continue;
      }
      const said = describe(show, units[c] ?? [], running, set, family);
      if (!said.set) continue;
      sheet.flags[cell] = (sheet.flags[cell] as number) | CELL.set | (said.mixed ? CELL.mixed : 0);
      sheet.level[cell] = said.level;
      sheet.label[cell] = said.label === '' ? 0 : labelled(said.label);
      sheet.swatch[cell] = said.swatch;
    }
    for (let c = 0; c < n; c++) sheet.origin[base + c] = origin[c] as number;
    for (const early of prePositions(show, cue)) {
      const slot = slotAt.get(early.key);
      if (slot !== undefined)
        sheet.flags[base + (columnOf[slot] as number)] =
          (sheet.flags[base + (columnOf[slot] as number)] as number) | CELL.early;
    }
  });
  // A line goes on where the next cue still shows the value.
  for (let i = 0; i + n < sheet.flags.length; i++)
    if (
      ((sheet.flags[i + n] as number) & CELL.above) !== 0 &&
      sheet.complete[Math.floor(i / n) + 1] === 0
    )
      sheet.flags[i] = (sheet.flags[i] as number) | CELL.below;
  return sheet;
}

interface Said {
  set: boolean;
  level: number;
  label: string;
  swatch: number;
  mixed: boolean;
}

/** What a cue says in one column, as far as a cell can tell it. */
function describe(
  show: Show,
  units: readonly Unit[],
  running: readonly (ValueRow | null)[],
  set: ReadonlyMap<string, ValueRow>,
  family: Family,
): Said {
  const said: Said = { set: false, level: 0, label: '', swatch: 0, mixed: false };
  const names = new Set<string>();
  let low = Infinity;
  let shown = 0;
  for (const unit of units) {
    for (const { attribute, slot } of unit.slots) {
      const value = running[slot];
      if (!value) continue;
      shown++;
      if (set.has(slotKey(unit.fixture.id, attribute))) said.set = true;
      names.add(
        value.look !== undefined
          ? (show.looks.get(value.look)?.name ?? '')
          : value.palette !== undefined
            ? (show.palettes.get(value.palette)?.name ?? '')
            : '',
      );
      if (family !== 'intensity') continue;
      const level = levelOf(show, value) ?? 0;
      said.level = Math.max(said.level, level);
      low = Math.min(low, level);
    }
  }
  if (family === 'intensity') said.mixed = said.level - low > 0.004 || shown < units.length;
  const [name = ''] = names;
  said.label = names.size === 1 ? name : '';
  if (family === 'colour') {
    const unit = units.find((u) => u.slots.some((s) => running[s.slot] !== null));
    const [part] = unit?.type ? colourParts(unit.type, unit.mode) : [];
    if (unit?.type && part) {
      const read = (attribute: string): number => {
        const at = unit.slots.find((s) => s.attribute === attribute);
        const value = at ? running[at.slot] : undefined;
        return value ? (levelOf(show, value) ?? 0) : (at?.channel?.default ?? 0);
      };
      const [r = 0, g = 0, b = 0] = displayRGB(colourOf(unit.type, part, read));
      said.swatch = 0x1000000 | (Math.round(r) << 16) | (Math.round(g) << 8) | Math.round(b);
    }
    said.mixed = names.size > 1;
  }
  if (said.label === '' && (family === 'position' || family === 'beam' || family === 'control'))
    said.label = plainly(show, units, running, family);
  return said;
}

/** Values without a name, short: `-12°/40°`, `Zoom 40°`; of several units that differ, a dot. */
function plainly(
  show: Show,
  units: readonly Unit[],
  running: readonly (ValueRow | null)[],
  family: Family,
): string {
  const texts = new Set(
    units.map((u) =>
      u.slots
        .flatMap(({ attribute, slot, channel }) => {
          const value = running[slot];
          const level = value ? levelOf(show, value) : null;
          if (level === null || level === undefined) return [];
          const physical = channel
            ? channel.physicalFrom + (channel.physicalTo - channel.physicalFrom) * level
            : level * 100;
          return [
            family === 'position'
              ? `${Math.round(physical)}°`
              : `${attributeInfo(attribute).label ?? attribute} ${Math.round(physical)}`,
          ];
        })
        .join(family === 'position' ? '/' : ' '),
    ),
  );
  texts.delete('');
  const [only = ''] = texts;
  return texts.size === 1 && only.length <= 12 ? only : '•';
}

/** The last row that shows what the cell shows: down its line. */
export function runsTo(sheet: Sheet, row: number, column: number): number {
  let r = row;
  while (
    r < sheet.rows - 1 &&
    ((sheet.flags[r * sheet.columns + column] as number) & CELL.below) !== 0
  ) {
    const next = sheet.flags[(r + 1) * sheet.columns + column] as number;
    if ((next & CELL.set) !== 0) break;
    r++;
  }
  return r;
}
