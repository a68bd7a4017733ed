/** Values as GDTF writes them (DIN SPEC 15800): DMX values, colours, matrices. */
import { numberIn } from '../formats/xml.ts';
import type { Emitter } from '../types/rows.ts';

/** A range that keeps its place and does nothing, as we write it; left out again when it is read. */
export const UNUSED = 'Unused';

/**
 * A DMX value (`128/1`, `32768/2`, `128/1s`) at the resolution of a channel of so many bytes. A coarser value fills
 * the finer bytes by repeating its own; with an `s` they are 0.
 * @returns undefined for what is none
 */
export function dmxValue(text: string, bytes: number): number | undefined {
  const written = /^\s*(\d{1,10})\s*(?:\/\s*([1-4])\s*(s)?)?\s*$/i.exec(text);
  if (!written) return undefined;
  const own = Number(written[2] ?? 1);
  const value = Math.min(Number(written[1]), 256 ** own - 1);
  if (bytes <= own) return Math.floor(value / 256 ** (own - bytes));
  let out = value;
  for (let i = own; i < bytes; i++) {
    const from = Math.floor(value / 256 ** (own - 1 - ((i - own) % own))) % 256;
    out = out * 256 + (written[3] === undefined ? from : 0);
  }
  return out;
}

/** A DMX value of so many bytes (GDTF 1.2, DMXValue). */
export const writeDmx = (value: number, bytes: number): string => `${value}/${bytes}`;

const round = (v: number): number => Math.round(v * 1e6) / 1e6;

/** `x,y,Y` with Y of 100, as chromaticity and Y of 1; undefined for what is no colour. */
export function colourIn(text: string): Emitter | undefined {
  const parts = text.split(text.includes(';') ? /[;\s]+/ : /[,\s]+/).map(numberIn);
  const [x, y, Y] = parts;
  if (parts.length !== 3 || x === undefined || y === undefined || Y === undefined) return undefined;
  if (x < 0 || x > 1 || y <= 0 || y > 1 || Y < 0) return undefined;
  return { x: round(x), y: Math.max(0.001, round(y)), Y: Math.max(0.0001, round(Y / 100)) };
}

/** CIE xyY with Y in percent (GDTF 1.2, ColorCIE). */
export const writeColour = ({ x, y, Y }: Emitter): string =>
  `${round(x)},${round(y)},${round(Y * 100)}`;

/** Row by row, 16 numbers; the place is the last column. Metres. */
export type Matrix = readonly number[];
/** A matrix that moves and turns nothing, row by row. */
export const UNTURNED: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** `{…}{…}{…}{…}`; rows with the place at the end of each, or in the last row. Undefined for what is none. */
export function matrixIn(text: string): Matrix | undefined {
  const rows = [...text.matchAll(/\{([^{}]*)\}/g)].map((m) =>
    (m[1] ?? '').split(/[,\s]+/).map(numberIn),
  );
  if (rows.length !== 4 || rows.some((r) => r.length !== 4)) return undefined;
  const all = rows.flat();
  if (!all.every((v): v is number => v !== undefined)) return undefined;
  const isInLastRow =
    [3, 7, 11].every((i) => all[i] === 0) && [12, 13, 14].some((i) => all[i] !== 0);
  return isInLastRow ? all.map((_, i) => all[(i % 4) * 4 + Math.floor(i / 4)] ?? 0) : all;
}

/** A place without a turn, in metres (GDTF 1.2, Matrix). */
export const matrixAt = (x: number, y: number, z: number): string =>
  `{1,0,0,${round(x)}}{0,1,0,${round(y)}}{0,0,1,${round(z)}}{0,0,0,1}`;

/** Two matrices of sixteen, one after the other. */
export function product(a: Matrix, b: Matrix): Matrix {
  return Array.from({ length: 16 }, (_, i) => {
    const [row, column] = [Math.floor(i / 4) * 4, i % 4];
    return [0, 1, 2, 3].reduce((sum, k) => sum + (a[row + k] ?? 0) * (b[k * 4 + column] ?? 0), 0);
  });
}

/** Where something is that is turned and placed so. */
export const placeOf = (m: Matrix): { x: number; y: number; z: number } => ({
  x: m[3] ?? 0,
  y: m[7] ?? 0,
  z: m[11] ?? 0,
});
