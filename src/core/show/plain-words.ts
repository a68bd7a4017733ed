/** Values in words that tables share. */

/** 0…1. */
export const percent = (v: number): string => `${Math.round(v * 1000) / 10} %`;
/** `2.5 s`. */
export const seconds = (v: number): string => `${Math.round(v * 100) / 100} s`;
/** A point of the stage in metres: `x 1.20 m, y 3.00 m`. */
export const metres = (point: Readonly<Record<string, number>>): string =>
  Object.entries(point)
    .map(([axis, v]) => `${axis} ${v.toFixed(2)} m`)
    .join(', ');

/** A name in quotes after what it is of; nothing where there is none. */
export const quoted = (name: string | undefined, before = ''): string =>
  name === undefined || name.trim() === '' ? '' : `${before} “${name}”`;

interface Numbered {
  number: number;
  name: string;
}
/** `palette 3 “Ferry blue”`. */
export const numbered = (one: string, row: Numbered): string =>
  `${one} ${row.number}${quoted(row.name)}`;
/** As the value of a field: `3 Ferry blue`. */
export const nameOf = (row: Numbered | undefined): string =>
  row ? `${row.number} ${row.name}` : 'one that is gone';
/** How many entries a list or a record has. */
export const entries = (n: number): string => `${n} ${n === 1 ? 'entry' : 'entries'}`;
/** Whoever a stamp or an address names. */
export const person = (by: { name: string }): string => by.name;
/** Parts of a sentence that are there. */
export const joined = (...parts: readonly string[]): string => parts.filter(Boolean).join(', ');
