/** Finding a type: over maker, type, mode and channel count, ignoring case, spaces and punctuation. */
import type { Mode, TypeRow } from '../types/rows.ts';
import { channelCount } from './attributes.ts';

/** Letters and digits alone; accents are left out, so that `Ærø` is found as it can be typed. */
export const plain = (text: string): string =>
  text
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

interface Entry {
  type: TypeRow;
  mode: Mode;
  text: string;
  channels: string;
}
/** Types, ready to be searched. */
export interface TypeIndex {
  entries: readonly Entry[];
}

/** Made once for a set of types; asking it costs one pass over short strings. */
export function indexTypes(types: readonly TypeRow[]): TypeIndex {
  const entries = types.flatMap((type) => {
    const name = plain(`${type.maker} ${type.name}`);
    return type.modes.map((mode): Entry => {
      const channels = String(channelCount(mode));
      return { type, mode, text: `${name}${plain(mode.name)} ${channels}ch`, channels };
    });
  });
  return { entries };
}

/** A type that was found, with those of its modes that fit. */
export interface FoundType {
  type: TypeRow;
  modes: Mode[];
}

/**
 * Types with the modes that match: every word must be in maker, type or mode, or be the channel count. When all words
 * together are in it without their spaces, that counts too (`wash19` and `wash 19` find the same).
 */
const LONGEST_QUERY = 200;
/** Types of which a mode has all words of a question. */
export function findTypes(index: TypeIndex, asked: string): FoundType[] {
  const query = asked.slice(0, LONGEST_QUERY);
  const joined = plain(query);
  const words = query
    .split(/\s+/)
    .map(plain)
    .filter((w) => w !== '');
  const found = new Map<string, FoundType>();
  for (const entry of index.entries) {
    if (
      joined !== '' &&
      !entry.text.includes(joined) &&
      !words.every((w) => entry.text.includes(w) || entry.channels === w)
    )
      continue;
    const known = found.get(entry.type.id);
    if (known) known.modes.push(entry.mode);
    else found.set(entry.type.id, { type: entry.type, modes: [entry.mode] });
  }
  return [...found.values()];
}
