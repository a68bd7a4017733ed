/** JSON of a show file, measured before it is parsed: what no show has is refused before it takes memory or time. */
import { strFromU8 } from 'fflate';
import { BadFile } from './show-file.ts';

/** Of JSON, before any of it is read: a row is an object with some values, in the log one in another. */
const JSON_LIMITS = { elements: 1_000_000, values: 24_000_000, depth: 24, row: 500_000 } as const;
/** The `u` of `\\u0000`: what JSON has no letter for is written so, and nothing else can be odd (oddTextIn). */
const BY_NUMBER = 0x75;

/** How much JSON there is, without reading it: elements of the outermost list, values at any depth, in the largest element, the depth, and characters that are written by their number. One pass over the bytes. */
export function measureJson(bytes: Uint8Array): {
  elements: number;
  values: number;
  depth: number;
  largest: number;
  numbered: number;
} {
  const [QUOTE, ESCAPE, OPEN, CLOSE, BEGIN, END, COMMA] = [
    0x22, 0x5c, 0x5b, 0x5d, 0x7b, 0x7d, 0x2c,
  ];
  let [elements, values, depth, deepest, inText] = [0, 0, 0, 0, false];
  let [largest, begun, numbered] = [0, 0, 0];
  for (let i = 0; i < bytes.length; i++) {
    const b = bytes[i];
    if (inText) {
      if (b === ESCAPE) {
        if (bytes[++i] === BY_NUMBER) numbered++;
      } else if (b === QUOTE) inText = false;
    } else if (b === QUOTE) inText = true;
    else if (b === OPEN || b === BEGIN) {
      depth++;
      values++;
      if (depth > deepest) deepest = depth;
    } else if (b === CLOSE || b === END) depth--;
    else if (b === COMMA) {
      values++;
      if (depth === 1) {
        elements++;
        largest = Math.max(largest, values - begun);
        begun = values;
      }
    }
  }
  return {
    elements: elements + 1,
    values,
    depth: deepest,
    largest: Math.max(largest, values - begun),
    numbered,
  };
}

/** In a show file's log a change has as many rows as it wrote. */
export const LOG = 'log';

/**
 * Parses it. @param what names it, in what a refusal says @throws `BadFile`
 * @returns also whether it has characters by their numbers, without which none is odd
 */
export function readJson(
  bytes: Uint8Array | undefined,
  what: string,
): { value: unknown; mayBeOdd: boolean } {
  if (!bytes) throw new BadFile(`The file lacks ${what}. Nothing was changed.`);
  const size = measureJson(bytes);
  if (size.elements > JSON_LIMITS.elements || size.values > JSON_LIMITS.values)
    throw new BadFile(
      `The file has more in its ${what} than a show can have. Nothing was changed.`,
    );
  if (what !== LOG && size.largest > JSON_LIMITS.row)
    throw new BadFile(
      `The file has a row in its ${what} that is larger than any of a show. Nothing was changed.`,
    );
  if (size.depth > JSON_LIMITS.depth)
    throw new BadFile(
      `The file is broken: its ${what} is nested deeper than anything of a show. Nothing was changed.`,
    );
  try {
    return { value: JSON.parse(strFromU8(bytes)), mayBeOdd: size.numbered > 0 };
  } catch {
    throw new BadFile(`The file is broken: its ${what} cannot be read. Nothing was changed.`);
  }
}
