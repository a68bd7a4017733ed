/** The sound that a list lies along: which part of it, where on the track, how loud, and with which fades. */
import type { SoundFile, SoundRow, TrackSound } from './rows.ts';

/** The part of a file that is heard, in its own seconds. */
export function partOf(sound: TrackSound, length_s: number): { from_s: number; to_s: number } {
  const from_s = Math.min(sound.from_s ?? 0, length_s);
  return { from_s, to_s: Math.max(from_s, Math.min(sound.to_s ?? length_s, length_s)) };
}

/** Where on the track it ends; of one that loops, where its first round does. */
export function soundEnd(sound: TrackSound, length_s: number): number {
  const { from_s, to_s } = partOf(sound, length_s);
  return sound.at_s + (to_s - from_s);
}

/**
 * Light that goes by itself leaves so much later than its moment, in milliseconds: from a still stage 2, while other light
 * moves with the frame after it, up to 28. Sound waits for it, in the middle between both (`./wingman bench time`).
 */
export const LIGHT_AFTER_MS = 13;

/** What is heard of a recording at one moment of a track. */
export interface Heard {
  /** Where in the file. */
  source_s: number;
  /** Seconds until this part of it ends. */
  left_s: number;
  /** Times, with level and fades. */
  gain: number;
}

/** @param end_s of the track: where a loop ends @returns null where nothing is heard at that moment */
export function heardAt(
  sound: TrackSound,
  length_s: number,
  end_s: number,
  at_s: number,
): Heard | null {
  const { from_s, to_s } = partOf(sound, length_s);
  const round_s = to_s - from_s;
  const all_s = sound.loop === true ? Math.max(0, end_s - sound.at_s) : round_s;
  const in_s = at_s - sound.at_s;
  if (round_s <= 0 || in_s < 0 || in_s >= all_s) return null;
  const within_s = sound.loop === true ? in_s % round_s : in_s;
  const rise = sound.fadeIn_s ? Math.min(1, in_s / sound.fadeIn_s) : 1;
  const fall = sound.fadeOut_s ? Math.min(1, (all_s - in_s) / sound.fadeOut_s) : 1;
  return {
    source_s: from_s + within_s,
    left_s: Math.min(round_s - within_s, all_s - in_s),
    gain: 10 ** ((sound.level_db ?? 0) / 20) * Math.min(rise, fall),
  };
}

/** The file that a list lies along, with how; undefined where it has none, or its sound is gone. */
export function trackSoundOf(
  sounds: ReadonlyMap<string, SoundRow>,
  sound: TrackSound | undefined,
): { sound: TrackSound; row: SoundRow; file: SoundFile } | undefined {
  const row = sound && sounds.get(sound.sound);
  return sound && row?.file ? { sound, row, file: row.file } : undefined;
}
