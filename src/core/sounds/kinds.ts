/** What a sound file is, by its first bytes: names and what a sender says of it count for nothing. */

import type { SoundKind } from './rows.ts';

/** Types of media as browsers want them told (RFC 6381, RFC 5334, RFC 9639). */
export const SOUND_TYPES: Record<SoundKind, string> = {
  wav: 'audio/wav',
  mp3: 'audio/mpeg',
  ogg: 'audio/ogg',
  flac: 'audio/flac',
  m4a: 'audio/mp4',
};

const text = (bytes: Uint8Array, at: number, length: number): string =>
  String.fromCharCode(...bytes.subarray(at, at + length));

/** Bytes that tell. */
export const SNIFFED = 12;

/** @param head the first bytes of a file, `SNIFFED` or more @returns undefined for what is no sound that can be read */
export function soundKind(head: Uint8Array): SoundKind | undefined {
  if (text(head, 0, 4) === 'RIFF' && text(head, 8, 4) === 'WAVE') return 'wav';
  if (text(head, 0, 4) === 'OggS') return 'ogg';
  if (text(head, 0, 4) === 'fLaC') return 'flac';
  if (text(head, 4, 4) === 'ftyp') return 'm4a';
  // Tags of an MP3 may come before its first frame; a frame begins with eleven bits of sync and has a layer (ISO 11172-3, 2.4.1.3).
  if (text(head, 0, 3) === 'ID3') return 'mp3';
  const [sync = 0, next = 0] = head;
  if (sync === 0xff && (next & 0xe0) === 0xe0 && (next & 0x06) !== 0) return 'mp3';
  return undefined;
}
