/** The cue sheet's numbers: for every column and cue, what is set, what tracks in, and how far it goes. */
import { attributeInfo, isEmitter } from '@/core/rig/attributes';
import { displayRGB } from '@/core/color/mix';
import { colourOf, colourParts } from '@/core/color/unit-colour';
import { levelOf } from '@/core/looks/value';
import { modeOf } from '@/core/rig/addresses';
import { slotKey, type CueRow, type Family } from '@/core/show/rows';
import type { Show } from '@/core/show/show';

export interface Column {
  id: string;
  label: string;
  title: string;
  fixtures: string[];
}

export interface SheetCell {
  /** What is written in the pill; undefined when this cue sets nothing here. */
  text?: string;
  /** The light's own colour, for the colour family. */
  swatch?: string;
  /** 0…1, for the pill's strength. */
  strength: number;
  /** Units of the column differ. */
  mixed: boolean;
  /** A value comes from above / goes on below. */
  fromAbove: boolean;
  below: boolean;
  /** The cue that set what shows here. */
  origin?: number;
}

/** Groups as columns; fixtures in no group by themselves, after them. */
export function columnsOf(show: Show, family: Family): Column[] {
  const has = (id: string): boolean => {
    const fixture = show.fixtures.get(id);
    const mode = fixture ? modeOf(show, fixture) : undefined;
    if (!mode) return false;
    if (family === 'intensity') return mode.channels.some((c) => c.attribute === 'Dimmer' || isEmitter(c.attribute));
    return mode.channels.some((c) => attributeInfo(c.attribute).family === family);
  };
  const groups = [...show.groups.values()].sort((a, b) => a.number - b.number);
  // A group of groups would show its members a second time.
  const plain = groups.filter((g) => !g.fixtures.some((id) => show.groups.has(id)));
  const grouped = new Set(plain.flatMap((g) => g.fixtures));
  const columns = plain.map((g): Column => ({ id: g.id, label: g.name, title: `Group ${g.number}, ${g.fixtures.length} fixtures`, fixtures: g.fixtures.filter(has) })).filter((c) => c.fixtures.length > 0);
  const rest = [...show.fixtures.values()].filter((f) => !grouped.has(f.id) && has(f.id)).sort((a, b) => a.number - b.number);
  return [...columns, ...rest.map((f): Column => ({ id: f.id, label: String(f.number), title: f.label, fixtures: [f.id] }))];
}

interface Running {
  level: number;
  set: number;
}

/** Cells by cue and column, in one walk through the list. */
export function sheetOf(show: Show, cues: readonly CueRow[], columns: readonly Column[], family: Family): SheetCell[][] {
  const slots = columns.map((column) =>
    column.fixtures.flatMap((id) => {
      const fixture = show.fixtures.get(id);
      const mode = fixture ? modeOf(show, fixture) : undefined;
      if (!fixture || !mode) return [];
      const attributes = family === 'intensity' ? ['Dimmer'] : mode.channels.map((c) => c.attribute).filter((a) => attributeInfo(a).family === family);
      return [{ id, mode, type: show.types.get(fixture.typeId), channels: attributes.map((a) => ({ attribute: a, key: slotKey(id, a) })) }];
    }),
  );
  const running = new Map<string, Running>();
  const sheet = cues.map((cue) => {
    const set = show.valuesOf(cue.id);
    const was = new Set(running.keys());
    for (const [key, value] of set) {
      if (value.level === null) running.delete(key);
      else running.set(key, { level: levelOf(show, value) ?? 0, set: cue.number });
    }
    return slots.map((units): SheetCell => {
      const keys = units.flatMap((u) => u.channels.map((c) => c.key));
      const here = keys.some((k) => set.has(k));
      const shown = keys.flatMap((k) => running.get(k) ?? []);
      const cell: SheetCell = { strength: 0, mixed: false, fromAbove: keys.some((k) => was.has(k)), below: shown.length > 0 };
      const origin = Math.max(0, ...shown.map((r) => r.set));
      if (origin > 0) cell.origin = origin;
      if (!here) return cell;
      if (shown.length === 0) return { ...cell, text: 'off' };
      if (family === 'colour') {
        const unit = units.find((u) => u.channels.some((c) => running.has(c.key)));
        const [part] = unit?.type ? colourParts(unit.type, unit.mode) : [];
        const levelOf = (attribute: string): number => {
          const key = unit?.channels.find((c) => c.attribute === attribute)?.key ?? '';
          return running.get(key)?.level ?? unit?.mode.channels.find((c) => c.attribute === attribute)?.default ?? 0;
        };
        const [r, g, b] = unit?.type && part ? displayRGB(colourOf(unit.type, part, levelOf)) : [0, 0, 0];
        return { ...cell, text: '', swatch: `rgb(${r},${g},${b})`, strength: 1 };
      }
      const low = Math.min(...shown.map((r) => r.level));
      const high = Math.max(...shown.map((r) => r.level));
      if (family === 'intensity') return { ...cell, text: String(Math.round(high * 100)), strength: high, mixed: high - low > 0.004 };
      return { ...cell, text: '●', strength: 0.6 };
    });
  });
  // A line goes on only where the next cue still shows the value.
  sheet.forEach((row, i) => row.forEach((cell, c) => (cell.below = cell.below && (sheet[i + 1]?.[c]?.fromAbove ?? false))));
  return sheet;
}
