/** Types leave as files and come back the same: ours out and in, theirs in, out and in. */
import { isRefusal } from '../refusal';
import { rawOf } from '../rig/channel';
import { libraryTypes } from '../rig/library/index';
import type { Channel, TypeRow } from '../types/rows';
import { readGdtf, type ReadType } from './read';
import { writeGdtf } from './write';

const ID = '0b2d6f8a-1c3e-4f50-8a9b-c0d1e2f30415';
const read = (bytes: Uint8Array): ReadType => {
  const answer = readGdtf(bytes);
  if (isRefusal(answer)) throw new Error(answer.message);
  return answer;
};

/** Places of cells, as finely as they are written. */
const tenth = (share: number): number => Math.round(share * 1e4) / 1e4;

/**
 * Levels as they are sent, since files have no others. Left out is what the standard has no place for: what a unit draws
 * while dark, and that a value is taken at the end of a move.
 */
function comparable({ idle_W, gdtf, weight_kg, ...type }: Omit<TypeRow, 'id'>): unknown {
  void [idle_W, gdtf];
  const functions = (c: Channel): Channel => {
    const { snap, functions, highlight, ...rest } = c;
    return {
      ...rest,
      default: rawOf(c, c.default),
      ...(highlight === undefined ? {} : { highlight: rawOf(c, highlight) }),
      ...(snap ? { snap: true } : {}),
      ...(functions ? { functions } : {}),
    };
  };
  return {
    ...type,
    // 0 kg is not known.
    ...(weight_kg ? { weight_kg } : {}),
    modes: type.modes.map((m) => ({
      ...m,
      ...(m.cells ? { cells: m.cells.map((c) => ({ ...c, x: tenth(c.x), y: tenth(c.y) })) } : {}),
      channels: m.channels
        .map(functions)
        .sort((a, b) => (a.break ?? 1) - (b.break ?? 1) || (a.offset[0] ?? 0) - (b.offset[0] ?? 0)),
    })),
  };
}

test.each(libraryTypes().map((t) => [`${t.maker} ${t.name}`, t] as const))(
  '%s, out and in',
  (_, { id, ...type }) => {
    void id;
    const back = read(writeGdtf(type, ID));
    expect(comparable(back.type)).toEqual(comparable(type));
  },
);
