/** Beats and bars of a track: where each is in seconds, and back. Bars and beats count from 1 at the first tempo. */
import type { BeatSection } from '../playback/beats.ts';
import type { Tempo } from './rows.ts';

/** A place in the music: a bar, a beat of it, and the share of that beat that has gone by, 0 to below 1. */
export interface BarBeat {
  bar: number;
  beat: number;
  part: number;
}

interface Section extends Tempo {
  /** Bars before it. */
  bars: number;
  until_s: number;
}

const barSeconds = ({ bpm, beats }: Tempo): number => (60 / bpm) * beats;
/** Rounding of seconds is no part of a beat. */
const TINY = 1e-9;
/** Moments are kept to the millisecond and tempos to a thousandth: so much of a bar is no bar that is cut short. */
const ROUNDED_BAR = 0.02;

/** In their order, each with the bars before it: a bar that a new tempo cuts short is a bar. */
function sectionsOf(tempo: readonly Tempo[]): Section[] {
  const sorted = [...tempo].sort((a, b) => a.at_s - b.at_s);
  let bars = 0;
  return sorted.map((t, i) => {
    const until_s = sorted[i + 1]?.at_s ?? Infinity;
    const section = { ...t, bars, until_s };
    // However short it is: what is not there at all has none.
    const least = until_s > t.at_s ? 1 : 0;
    if (until_s < Infinity)
      bars += Math.max(least, Math.ceil((until_s - t.at_s) / barSeconds(t) - ROUNDED_BAR));
    return section;
  });
}

/** Its beats as effects count them: a bar that a new tempo cuts short has all of its own. */
export function beatSections(tempo: readonly Tempo[]): BeatSection[] {
  let first = 0;
  let bars = 0;
  return sectionsOf(tempo).map((s, i, all) => {
    first += (s.bars - bars) * (all[i - 1]?.beats ?? 0);
    ({ bars } = s);
    return { at_s: s.at_s, bpm: s.bpm, first };
  });
}

/** The tempo that counts at a moment; before the first it counts back from that. Undefined where there is none. */
const sectionAt = (sections: readonly Section[], at_s: number): Section | undefined =>
  sections.findLast((s) => s.at_s <= at_s + TINY) ?? sections[0];

/** @returns undefined where a track has no tempo */
export function barBeatAt(tempo: readonly Tempo[], at_s: number): BarBeat | undefined {
  const section = sectionAt(sectionsOf(tempo), at_s);
  if (!section) return undefined;
  const beats = ((at_s - section.at_s) * section.bpm) / 60;
  const whole = Math.floor(beats + TINY);
  const bars = Math.floor(whole / section.beats);
  return {
    bar: section.bars + bars + 1,
    beat: whole - bars * section.beats + 1,
    part: Math.max(0, beats - whole),
  };
}

/** @returns seconds; undefined where there is no tempo, or no such beat in that bar */
export function secondsAt(
  tempo: readonly Tempo[],
  { bar, beat, part }: BarBeat,
): number | undefined {
  const sections = sectionsOf(tempo);
  const section = sections.findLast((s) => s.bars < bar) ?? sections[0];
  if (!section || beat < 1 || beat > section.beats) return undefined;
  const beats = (bar - 1 - section.bars) * section.beats + (beat - 1) + part;
  return section.at_s + (beats * 60) / section.bpm;
}

/** The last moment of a passage that is this tempo's: one at its very end is in it, one where the next begins is not. */
const lastOf = (s: Section, to_s: number): number => Math.min(to_s + TINY, s.until_s - TINY);

/** Moments of beats from one moment to another, with those that begin a bar. @param most no more than so many */
export function beatsWithin(
  tempo: readonly Tempo[],
  from_s: number,
  to_s: number,
  most = 2000,
): { at_s: number; bar: number; beat: number }[] {
  const found: { at_s: number; bar: number; beat: number }[] = [];
  sectionsOf(tempo).forEach((s, i) => {
    const step = 60 / s.bpm;
    const begin = i === 0 ? from_s : Math.max(from_s, s.at_s);
    const end = lastOf(s, to_s);
    for (let n = Math.ceil((begin - s.at_s) / step - TINY); ; n++) {
      const at_s = s.at_s + n * step;
      if (at_s > end || found.length >= most) return;
      const bars = Math.floor(n / s.beats);
      found.push({ at_s, bar: s.bars + bars + 1, beat: n - bars * s.beats + 1 });
    }
  });
  return found;
}

/**
 * Beginnings of bars from one moment to another, however many beats lie between them.
 * @param everyOf every how many bars, where a bar takes so many seconds: of each tempo its own
 */
export function barsWithin(
  tempo: readonly Tempo[],
  from_s: number,
  to_s: number,
  everyOf: (bar_s: number) => number,
): { at_s: number; bar: number }[] {
  return sectionsOf(tempo).flatMap((s, i) => {
    const bar_s = barSeconds(s);
    const every = everyOf(bar_s);
    const begin = i === 0 ? from_s : Math.max(from_s, s.at_s);
    const end = lastOf(s, to_s);
    const found: { at_s: number; bar: number }[] = [];
    // Bars are counted through: the first of these that is a whole number of steps from the first of all.
    const first = Math.ceil((begin - s.at_s) / bar_s - TINY);
    const ahead = ((-(s.bars + first) % every) + every) % every;
    for (let n = first + ahead; s.at_s + n * bar_s <= end; n += every)
      found.push({ at_s: s.at_s + n * bar_s, bar: s.bars + n + 1 });
    return found;
  });
}

/** The nearest beat; the moment itself where there is no tempo. */
export function nearestBeat(tempo: readonly Tempo[], at_s: number): number {
  const here = barBeatAt(tempo, at_s);
  if (!here) return at_s;
  const before = secondsAt(tempo, { ...here, part: 0 }) ?? at_s;
  const section = sectionAt(sectionsOf(tempo), at_s);
  const after = Math.min(before + 60 / (section?.bpm ?? 60), section?.until_s ?? Infinity);
  return at_s - before <= after - at_s ? before : after;
}

/** Gaps between taps that differ by no more than this share from the one in the middle are beats. */
const USUAL = 0.4;

/**
 * The tempo of beats that were tapped: seconds in their order. One that is far from the others (a tap that was missed,
 * or doubled) counts for nothing.
 * @returns beats a minute, and when the first beat was by them all; undefined for fewer than four
 */
export function tapped(taps: readonly number[]): { bpm: number; first_s: number } | undefined {
  if (taps.length < 4) return undefined;
  const gaps = taps.slice(1).map((t, i) => t - (taps[i] ?? 0));
  const middle = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)] ?? 0;
  const usual = gaps.filter((g) => Math.abs(g - middle) < middle * USUAL);
  const step = usual.reduce((sum, g) => sum + g, 0) / usual.length;
  if (!(step > 0)) return undefined;
  // Each tap is so many beats after the one before; a line through them all is the tempo.
  let n = 0;
  const points = taps.map((t, i) => ({
    n: (n += i === 0 ? 0 : Math.round((gaps[i - 1] ?? 0) / step)),
    t,
  }));
  const mean = (of: (p: { n: number; t: number }) => number): number =>
    points.reduce((sum, p) => sum + of(p), 0) / points.length;
  const [n0, t0] = [mean((p) => p.n), mean((p) => p.t)];
  const spread = points.reduce((sum, p) => sum + (p.n - n0) ** 2, 0);
  if (spread === 0) return undefined;
  const gap = points.reduce((sum, p) => sum + (p.n - n0) * (p.t - t0), 0) / spread;
  return { bpm: 60 / gap, first_s: t0 - n0 * gap };
}

/** `33`, `33.2`, `33.2.5`: bar, beat, and tenths of a beat. @returns undefined for what is no place */
export function readBarBeat(text: string): BarBeat | undefined {
  const read = /^(\d{1,5})(?:\.(\d{1,2})(?:\.(\d))?)?$/.exec(text.trim());
  if (!read || Number(read[1]) < 1) return undefined;
  return { bar: Number(read[1]), beat: Number(read[2] ?? 1), part: Number(read[3] ?? 0) / 10 };
}

/** `bar 33`, `bar 33, beat 2`. */
export const sayBarBeat = ({ bar, beat, part }: BarBeat): string =>
  beat === 1 && part < 0.05 ? `bar ${bar}` : `bar ${bar}, beat ${beat}`;
