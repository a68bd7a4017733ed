/** The ZIP of a show file, unpacked as it comes: whatever is out of bounds ends it before it is unpacked whole. */
import { Unzip, UnzipInflate, UnzipPassThrough, type UnzipFile } from 'fflate';
import { refuse, type Result } from '../refusal.ts';
import { SOUND_BYTES } from '../sounds/rows.ts';
import { BadFile, FILE_LIMIT, NOT_OURS, SHOW_FILE_LIMIT, type Entries } from './show-file.ts';

const UNPACKED_LIMIT = 320 * 1024 * 1024;
const ENTRIES_LIMIT = 4096;
const CHUNK = 64 * 1024;
const ENTRY =
  /^(?:manifest\.json|changes\.json|tables\/[a-z]{2,20}\.json|assets\/[A-Za-z0-9_-]{1,140}\.(?:png|jpeg|webp|wav|x-wav|mpeg|ogg|webm|mp4)|sounds\/[0-9a-f]{64}\.(?:wav|mp3|ogg|flac|m4a))$/;
const SOUND_ENTRY = /^sounds\/([0-9a-f]{64})\.([a-z0-9]+)$/;

/** Takes the files of sounds out of a show file as they come: they are never held whole. */
export interface SoundSink {
  begin: (sha256: string, kind: string) => void;
  put: (bytes: Uint8Array) => void;
  end: () => void;
  /** Comes back when what was put is away. @throws what makes the whole file no good, as `BadFile` */
  settle: () => Promise<void>;
}
const joinedUp = (parts: readonly Uint8Array[], size: number): Uint8Array => {
  const whole = new Uint8Array(size);
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
};

/** Entries by name; stops as soon as anything is out of bounds, before it is unpacked whole. */
class Unpacking {
  readonly files: Entries = new Map();
  private total = 0;
  private sounds = new Set<string>();
  private readonly unzip: Unzip;

  constructor(
    private readonly limit: number,
    private readonly sink: SoundSink | undefined,
  ) {
    let entries = 0;
    this.unzip = new Unzip((file) => {
      if (++entries > ENTRIES_LIMIT)
        throw new BadFile('The file has too many entries to be a show. Nothing was changed.');
      if (!ENTRY.test(file.name))
        throw new BadFile(
          `The file has an entry that no show file has (“${file.name.slice(0, 60)}”). Nothing was changed.`,
        );
      if (this.files.has(file.name) || this.sounds.has(file.name))
        throw new BadFile('The file has an entry twice. Nothing was changed.');
      if (SOUND_ENTRY.test(file.name)) this.sound(file);
      else this.plain(file);
      file.start();
    });
    this.unzip.register(UnzipInflate);
    this.unzip.register(UnzipPassThrough);
  }

  private plain(file: UnzipFile): void {
    const parts: Uint8Array[] = [];
    let size = 0;
    this.files.set(file.name, new Uint8Array(0));
    file.ondata = (error, data, final) => {
      // What is thrown below comes back here as the stream’s own error.
      if (error) throw (error as Error) instanceof BadFile ? error : new BadFile(NOT_OURS);
      this.total += data.length;
      size += data.length;
      if (this.total > this.limit)
        throw new BadFile('The file unpacks to more than any show can have. Nothing was changed.');
      parts.push(data);
      if (final) this.files.set(file.name, joinedUp(parts, size));
    };
  }

  private sound(file: UnzipFile): void {
    const [, sha256 = '', kind = ''] = SOUND_ENTRY.exec(file.name) ?? [];
    this.sounds.add(file.name);
    let size = 0;
    this.sink?.begin(sha256, kind);
    file.ondata = (error, data, final) => {
      if (error) throw (error as Error) instanceof BadFile ? error : new BadFile(NOT_OURS);
      size += data.length;
      if (size > SOUND_BYTES)
        throw new BadFile('The file has a sound of more than 500 MB. Nothing was changed.');
      this.sink?.put(data);
      if (final) this.sink?.end();
    };
  }

  push(piece: Uint8Array, isLast: boolean): void {
    for (let at = 0; at < piece.length || isLast; at += CHUNK) {
      const isEnd = at + CHUNK >= piece.length;
      this.unzip.push(piece.subarray(at, at + CHUNK), isLast && isEnd);
      if (isEnd) return;
    }
  }
}

/**
 * What a show file has in it, from its pieces as they come.
 * @param limits.bytes of all that is no sound, packed; @param limits.unpacked the same, unpacked
 */
export async function unpackShowFile(
  pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>,
  sink?: SoundSink,
  limits: { bytes?: number; unpacked?: number } = {},
): Promise<Result<Entries>> {
  const most = limits.bytes ?? (sink ? SHOW_FILE_LIMIT : FILE_LIMIT);
  const unpacking = new Unpacking(limits.unpacked ?? UNPACKED_LIMIT, sink);
  let [size, isFirst] = [0, true];
  try {
    for await (const piece of pieces) {
      if (piece.length === 0) continue;
      if (isFirst && (piece[0] !== 0x50 || (piece.length > 1 && piece[1] !== 0x4b)))
        return refuse('invalid', NOT_OURS);
      isFirst = false;
      size += piece.length;
      if (size > most)
        return refuse(
          'too-large',
          `A show file has at most ${most / 1024 / 1024} MB. Nothing was changed.`,
        );
      unpacking.push(piece, false);
      await sink?.settle();
    }
    if (isFirst) return refuse('invalid', NOT_OURS);
    unpacking.push(new Uint8Array(0), true);
    await sink?.settle();
    return unpacking.files;
  } catch (error) {
    return refuse('invalid', error instanceof BadFile ? error.message : NOT_OURS);
  }
}
