/** What is typed into a cell of the cue sheet, and the values that it means for the units of a column. */
import { reachOf } from '../palettes/resolve.ts';
import { modeOf } from '../fixtures/points.ts';
import { attributesOf, familyOf } from '../rig/attributes.ts';
import type { Family } from '../show/fields.ts';
import type { PaletteRow } from '../palettes/rows.ts';
import type { ValueRow } from './rows.ts';
import type { Show } from '../show/show.ts';

/** What was typed into a cell of the cue sheet. */
export type CellText =
  | { kind: 'level'; level: number }
  | { kind: 'palette'; palette: PaletteRow }
  | { kind: 'release' }
  | { kind: 'remove' }
  | { kind: 'problem'; message: string };

const WORDS: Record<string, number> = { full: 1, fl: 1, out: 0, half: 0.5 };

/** `50`, `full`, `out`, a palette's name or `p12`, `release`; nothing takes the value out. */
export function readCell(show: Pick<Show, 'palettes'>, family: Family, text: string): CellText {
  const t = text.trim().toLowerCase();
  if (t === '') return { kind: 'remove' };
  if (t === 'release' || t === 'let go') return { kind: 'release' };
  if (family === 'intensity') {
    const word = WORDS[t];
    if (word !== undefined) return { kind: 'level', level: word };
    const percent = /^(\d{1,3}(?:[.,]\d+)?)\s*%?$/.exec(t);
    if (percent) {
      const level = Number((percent[1] ?? '').replace(',', '.')) / 100;
      return level <= 1
        ? { kind: 'level', level }
        : { kind: 'problem', message: 'A level is at most 100 %.' };
    }
  }
  const number = /^p\s*(\d+)$/.exec(t);
  const own = [...show.palettes.values()].filter((p) => p.family === family);
  const found = number
    ? own.find((p) => p.number === Number(number[1]))
    : (own.find((p) => p.name.toLowerCase() === t) ??
      only(own.filter((p) => p.name.toLowerCase().startsWith(t))));
  if (found) return { kind: 'palette', palette: found };
  return {
    kind: 'problem',
    message: `“${text.trim()}” is ${family === 'intensity' ? 'neither a percentage nor' : 'not'} a ${family} palette.`,
  };
}

const only = <T>(rows: readonly T[]): T | undefined => (rows.length === 1 ? rows[0] : undefined);

/** What a cell’s text sets, by unit; null takes away what the cue sets. */
export interface CellValue {
  fixtureId: string;
  attribute: string;
  set: Pick<ValueRow, 'level' | 'palette'> | null;
}

/** What it means for these units; units that a palette does not reach are left out. */
export function cellValues(
  show: Show,
  family: Family,
  fixtures: readonly string[],
  said: Exclude<CellText, { kind: 'problem' }>,
): CellValue[] {
  return fixtures.flatMap((fixtureId): CellValue[] => {
    const fixture = show.fixtures.get(fixtureId);
    const mode = fixture ? modeOf(show, fixture) : undefined;
    if (!fixture || !mode) return [];
    if (said.kind === 'palette')
      return [...reachOf(show, said.palette, fixture)].map(([attribute, level]) => ({
        fixtureId,
        attribute,
        set: { level, palette: said.palette.id },
      }));
    const attributes = attributesOf(mode).filter((a) =>
      said.kind === 'level' ? a === 'Dimmer' : familyOf(a) === family,
    );
    return attributes.map((attribute) => ({
      fixtureId,
      attribute,
      set: said.kind === 'remove' ? null : { level: said.kind === 'level' ? said.level : null },
    }));
  });
}
