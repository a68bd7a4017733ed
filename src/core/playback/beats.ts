/** The beats of a track as the effects of its list count them: whole ones from the first tempo on (docs/playback.md, Effects). */

/** From a moment of the track on so many beats a minute. */
export interface BeatSection {
  at_s: number;
  bpm: number;
  /** The beats before it: each tempo begins with a whole one. */
  first: number;
}

/**
 * @param sections in their order, at least one
 * @returns beats since the first, with a share of the one that goes by; negative before it
 */
export function beatsAt(sections: readonly BeatSection[], at_s: number): number {
  let found = sections[0] as BeatSection;
  for (let i = 1; i < sections.length; i++) {
    const next = sections[i] as BeatSection;
    if (next.at_s > at_s) break;
    found = next;
  }
  return found.first + ((at_s - found.at_s) * found.bpm) / 60;
}

/** When so many beats had gone by, in seconds of the track; of beats that a new tempo cut short, its beginning. */
export function secondsOfBeats(sections: readonly BeatSection[], beats: number): number {
  let found = sections[0] as BeatSection;
  let until_s = Infinity;
  for (let i = 1; i < sections.length; i++) {
    const next = sections[i] as BeatSection;
    until_s = next.at_s;
    if (next.first > beats) break;
    found = next;
    until_s = Infinity;
  }
  return Math.min(until_s, found.at_s + ((beats - found.first) * 60) / found.bpm);
}
