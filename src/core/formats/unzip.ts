/** ZIP archives from elsewhere: only what is asked for is unpacked, and no more of it than it says or may be. */
import { unzipSync } from 'fflate';
import { refuse, type Result } from '../refusal.ts';

/** How much an archive may become before any of it is unpacked. */
export interface ZipLimits {
  /** Entries that an archive may have. */
  entries: number;
  /** Bytes of one entry, and of all that are unpacked. */
  one: number;
  all: number;
}

/** What was taken out of an archive. */
export interface Unzipped {
  /** By their names as they are written, with slashes. */
  files: Map<string, Uint8Array>;
  /** Names of entries that were asked for and are too large. */
  tooLarge: string[];
  /** Every name that it has. */
  names: string[];
}

const isPlain = (name: string): boolean =>
  !name.startsWith('/') && !/^[a-z]:/i.test(name) && !name.split('/').includes('..');

/**
 * Unpacks what is wanted of an archive in memory. An entry that says less of its size than it has is cut off where it said.
 * @param wants by its name with slashes; names that lead out of the archive are never asked for
 */
export function readZip(
  bytes: Uint8Array,
  wants: (name: string) => boolean,
  limits: ZipLimits,
): Result<Unzipped> {
  const names: string[] = [];
  const tooLarge: string[] = [];
  let all = 0;
  try {
    const unpacked = unzipSync(bytes, {
      filter: ({ name: written, originalSize }) => {
        const name = written.replaceAll('\\', '/');
        names.push(name);
        if (names.length > limits.entries) throw new RangeError('entries');
        if (!isPlain(name) || !wants(name)) return false;
        if (originalSize > limits.one || all + originalSize > limits.all) {
          tooLarge.push(name);
          return false;
        }
        all += originalSize;
        return true;
      },
    });
    const files = Object.entries(unpacked).map(
      ([name, data]) => [name.replaceAll('\\', '/'), data] as const,
    );
    return { files: new Map(files), tooLarge, names };
  } catch (error) {
    return error instanceof RangeError && error.message === 'entries'
      ? refuse('too-large', `It has more than ${limits.entries} entries, as no such file does.`)
      : refuse('invalid', 'It is no ZIP archive, or a broken one.');
  }
}

/** An entry by its name, however its letters are written. */
export function entryOf(
  files: ReadonlyMap<string, Uint8Array>,
  name: string,
): Uint8Array | undefined {
  const exact = files.get(name);
  if (exact) return exact;
  const plain = name.toLowerCase();
  for (const [other, bytes] of files) if (other.toLowerCase() === plain) return bytes;
  return undefined;
}
