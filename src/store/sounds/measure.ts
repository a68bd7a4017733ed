/** What a sound really is: its length as it is heard, its rate and channels, and its shape; what its file says of itself counts for nothing. */
import { isRefusal, refuse, type Refusal, type Result } from '../../core/refusal.ts';
import { Shaper, zoomsOf } from '../../core/sounds/shape.ts';
import type { SoundFile } from '../../core/sounds/rows.ts';
import { LONGEST_S } from '../../core/time/rows.ts';
import type { Database } from '../database.ts';
import { pcmOf } from './decode.ts';
import {
  keepSound,
  readerOf,
  remembering,
  soundKept,
  type Arrived,
  type SoundReader,
} from './kept.ts';

const MOST_CHANNELS = 64;
const RATES = { least: 1000, most: 768_000 };

/** What was found out about a sound. */
export interface Measured {
  about: SoundFile;
  zooms: Uint8Array[];
  /** What of it cannot be read, in words; absent where all of it can. */
  problem?: string;
}

const FLAC_HEAD = 26;
/** What a FLAC says that it lasts: its samples in 36 bits, after its rate in 20 (RFC 9639, 8.2). 0 where it does not say. */
function flacSays(head: Uint8Array): number {
  if (head.length < FLAC_HEAD) return 0;
  const view = Buffer.from(head);
  const rate_hz = view.readUIntBE(18, 3) >>> 4;
  const samples = (view.readUInt8(21) & 0x0f) * 2 ** 32 + view.readUInt32BE(22);
  return rate_hz > 0 ? samples / rate_hz : 0;
}

const tooOdd = (what: string): Refusal =>
  refuse('invalid', `This sound cannot be played: ${what}. Nothing was taken in.`);
const roundly = (s: number): number => Math.round(s * 10) / 10;

/** @returns a refusal where nothing of it can be heard @throws where it cannot be read: that is no fault of the file */
export async function measureSound(
  arrived: Arrived,
  from: SoundReader,
  longest_s = LONGEST_S,
): Promise<Result<Measured>> {
  const file = remembering(from);
  const shaper = new Shaper();
  let first: { rate_hz: number; channels: number } | undefined;
  let problem: string | undefined;
  const told: { broken?: boolean } = {};
  try {
    for await (const pcm of pcmOf(arrived.kind, file, told)) {
      first ??= { rate_hz: Math.round(pcm.rate_hz), channels: pcm.channels.length };
      if (first.channels > MOST_CHANNELS) return tooOdd('it has more channels than any house');
      if (first.rate_hz < RATES.least || first.rate_hz > RATES.most)
        return tooOdd(`it has ${first.rate_hz} samples a second`);
      // A file that goes on at another rate would be heard too fast or too slow.
      if (Math.round(pcm.rate_hz) !== first.rate_hz) {
        problem = `After ${roundly(shaper.length_s)} s it goes on at another rate; what comes then is left out.`;
        break;
      }
      shaper.take(pcm);
      if (shaper.length_s > longest_s)
        return refuse(
          'too-large',
          `A sound lasts at most ${longest_s / 3600} hours. Nothing was taken in.`,
        );
    }
  } catch {
    const failed = file.failed();
    if (failed) throw failed;
    problem = `After ${roundly(shaper.length_s)} s it is broken; what comes then is left out.`;
  }
  const says_s = arrived.kind === 'flac' ? flacSays(await file.read(0, FLAC_HEAD)) : 0;
  if (says_s - shaper.length_s > 0.1)
    problem ??= `It says that it lasts ${roundly(says_s)} s, and ${roundly(shaper.length_s)} s of it can be read; the rest is left out.`;
  if (told.broken === true) problem ??= 'Parts of it are broken; they are left out.';
  if (!first || shaper.length === 0) return tooOdd('nothing of it can be read');
  return {
    about: {
      sha256: arrived.sha256,
      bytes: arrived.bytes,
      kind: arrived.kind,
      length_s: Math.round(shaper.length_s * 1000) / 1000,
      ...first,
    },
    zooms: zoomsOf(shaper.end()),
    ...(problem === undefined ? {} : { problem }),
  };
}

/** Measures a file that has come in and keeps it; one that is known already is not measured again. */
export async function takeInSound(
  db: Database,
  arrived: Arrived,
): Promise<Result<{ about: SoundFile; problem?: string }>> {
  const known = await soundKept(db, arrived.sha256);
  const measured: Result<Measured> = known
    ? { about: known, zooms: [] }
    : await measureSound(arrived, readerOf(db, arrived.id, arrived.bytes));
  if (isRefusal(measured)) return measured;
  await keepSound(db, arrived, measured.about, measured.zooms);
  const { about, problem } = measured;
  return problem === undefined ? { about } : { about, problem };
}
