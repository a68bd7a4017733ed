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

/** A column of the cue sheet: units that are read together. */
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

/** What the cue sheet shows, a number for each cell, row by row: row × columns + column. */
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

const emptySheet = (rows: number, columns: number): Sheet => ({
  rows,
  columns,
  flags: new Uint8Array(rows * columns),
  origin: new Int32Array(rows * columns).fill(-1),
  level: new Float32Array(rows * columns),
  label: new Uint16Array(rows * columns),
  swatch: new Uint32Array(rows * columns),
  labels: [''],
  complete: new Uint8Array(rows),
});

const MOST_LABELS = 65_535;
const flag = (flags: Uint8Array, at: number, bits: number): void => {
  flags[at] = (flags[at] as number) | bits;
};

/** Down the list, cue by cue: what every slot holds by now, and where its column has it from. */
class Walk {
  private readonly units: Unit[][];
  private readonly slotAt = new Map<string, number>();
  /** By slot. */
  private readonly columnOf: number[] = [];
  private readonly running: (ValueRow | null)[];
  /** By column: slots that hold something, the row that it comes from, the row that touched it last. */
  private readonly held: Uint32Array;
  private readonly origin: Int32Array;
  private readonly touched: Int32Array;
  /** Columns that the cue at hand touches. */
  private cells: number[] = [];
  private readonly labels = new Map<string, number>();

  constructor(
    private readonly show: Show,
    columns: readonly Column[],
    private readonly family: Family,
    private readonly sheet: Sheet,
  ) {
    this.units = columns.map((column, c) => column.fixtures.flatMap((id) => this.unit(id, c)));
    this.running = this.columnOf.map(() => null);
    this.held = new Uint32Array(columns.length);
    this.origin = new Int32Array(columns.length).fill(-1);
    this.touched = new Int32Array(columns.length).fill(-1);
  }

  private unit(id: string, column: number): Unit[] {
    const fixture = this.show.fixtures.get(id);
    const mode = fixture ? modeOf(this.show, fixture) : undefined;
    if (!fixture || !mode) return [];
    const slots = attributesOf(mode)
      .filter((a) => familyOf(a) === this.family)
      .map((attribute) => {
        const slot = this.columnOf.push(column) - 1;
        this.slotAt.set(slotKey(id, attribute), slot);
        return { attribute, slot, channel: mode.channels.find((x) => x.attribute === attribute) };
      });
    return [{ fixture, mode, type: this.show.types.get(fixture.typeId), slots }];
  }

  cue(cue: CueRow, row: number): void {
    const { sheet, held, origin } = this;
    const base = row * sheet.columns;
    for (let c = 0; c < held.length; c++)
      if ((held[c] as number) > 0) sheet.flags[base + c] = CELL.above;
    this.cells = [];
    const set = this.show.valuesOf(cue.id);
    if (isComplete(this.show, cue)) this.letGo(set, row);
    this.take(set, row);
    for (const c of this.cells) this.write(c, set, row);
    for (let c = 0; c < held.length; c++) sheet.origin[base + c] = origin[c] as number;
    for (const early of prePositions(this.show, cue)) {
      const slot = this.slotAt.get(early.key);
      if (slot !== undefined) flag(sheet.flags, base + (this.columnOf[slot] as number), CELL.early);
    }
  }

  /** @returns the column of the slot */
  private put(slot: number, value: ValueRow | null, row: number): number {
    const { held, touched, running } = this;
    const c = this.columnOf[slot] as number;
    const was = running[slot] !== null;
    const is = value !== null && value.level !== null;
    running[slot] = is ? value : null;
    if (was !== is) held[c] = (held[c] as number) + (is ? 1 : -1);
    if (touched[c] !== row) {
      touched[c] = row;
      this.cells.push(c);
    }
    return c;
  }

  /** A complete cue holds what it sets, and nothing else. */
  private letGo(set: ReadonlyMap<string, ValueRow>, row: number): void {
    this.sheet.complete[row] = 1;
    this.running.forEach((value, slot) => {
      if (value !== null && !set.has(slotKey(value.fixtureId, value.attribute)))
        this.put(slot, null, row);
    });
  }

  private take(set: ReadonlyMap<string, ValueRow>, row: number): void {
    const { flags, columns } = this.sheet;
    for (const [key, value] of set) {
      const slot = this.slotAt.get(key);
      if (slot === undefined) continue;
      const c = this.put(slot, value, row);
      this.origin[c] = row;
      const cell = row * columns + c;
      if (value.fade_s !== undefined || value.delay_s !== undefined || value.part !== undefined)
        flag(flags, cell, CELL.timed);
      if (effectOf(this.show, value)) flag(flags, cell, CELL.effect);
    }
  }

  private write(c: number, set: ReadonlyMap<string, ValueRow>, row: number): void {
    const { sheet } = this;
    const units = this.units[c] ?? [];
    const cell = row * sheet.columns + c;
    if (this.held[c] === 0) {
      this.origin[c] = -1;
      // What a complete cue lets go of is not written: its bracket says it.
      const isSaid = (): boolean =>
        units.some((u) =>
          u.slots.some((s) => set.get(slotKey(u.fixture.id, s.attribute))?.level === null),
        );
      if (sheet.complete[row] === 0 || isSaid()) flag(sheet.flags, cell, CELL.set | CELL.release);
      return;
    }
    const said = describe(this.show, units, this.running, set, this.family);
    if (!said.set) return;
    flag(sheet.flags, cell, CELL.set | (said.mixed ? CELL.mixed : 0));
    sheet.level[cell] = said.level;
    sheet.label[cell] = said.label === '' ? 0 : this.labelled(said.label);
    sheet.swatch[cell] = said.swatch;
  }

  private labelled(text: string): number {
    const known = this.labels.get(text);
    if (known !== undefined) return known;
    if (this.sheet.labels.length >= MOST_LABELS) return 0;
    const at = this.sheet.labels.push(text) - 1;
    this.labels.set(text, at);
    return at;
  }
}

/** A line goes on where the next cue still shows the value. */
function drawLines({ flags, columns, complete }: Sheet): void {
  for (let i = 0; i + columns < flags.length; i++)
    if (
      ((flags[i + columns] as number) & CELL.above) !== 0 &&
      complete[Math.floor(i / columns) + 1] === 0
    )
      flag(flags, i, CELL.below);
}

/** All cells of a list for one family. */
export function sheetOf(
  show: Show,
  cues: readonly CueRow[],
  columns: readonly Column[],
  family: Family,
): Sheet {
  const sheet = emptySheet(cues.length, columns.length);
  const walk = new Walk(show, columns, family, sheet);
  cues.forEach((cue, row) => walk.cue(cue, row));
  drawLines(sheet);
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
      const named = show.looks.get(value.look ?? '') ?? show.palettes.get(value.palette ?? '');
      names.add(named?.name ?? '');
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
