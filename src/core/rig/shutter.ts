/** Shutters: where one is closed, open, strobing, by what its ranges do or are called. */
import { clamp } from '../numbers.ts';
import type { Channel, ChannelFunction } from '../types/rows.ts';
import { levelOfRaw, levelOfSet, meaningOf } from './channel.ts';

const CLOSED = /\b(closed?|shut|blackout|no output|dark)\b/i;
const OPEN = /\bopen\b|^no (strobe|function)|^shutter open/i;
const STROBE = /^strobe\b/i;

interface Named {
  name: string;
  from: number;
  to: number;
}

/** A named range says more than the function that it is in. */
const rangesOf = (channel: Channel): Named[] => {
  const functions = channel.functions ?? [];
  const sets = functions.flatMap((f) => f.sets ?? []);
  return [...sets, ...functions];
};

/** Whether light comes through at a level; a strobe counts as light. A channel that names no range lets it through. */
export function isOpen(channel: Channel, level: number): boolean {
  const { function: found, set } = meaningOf(channel, level);
  const says = set?.name ?? found?.name ?? '';
  return !CLOSED.test(says) || OPEN.test(says);
}

/** A level at which it stands open; undefined where nothing says so. */
export function openLevel(channel: Channel): number | undefined {
  const open = rangesOf(channel).find((r) => OPEN.test(r.name) && !CLOSED.test(r.name));
  return open ? levelOfSet(channel, open) : undefined;
}

/** The function that strobes with a frequency: by what it does, or by its name. */
export const strobeOf = (channel: Channel): ChannelFunction | undefined =>
  channel.functions?.find((f) => f.attribute?.replace(/@.*/, '') === 'Shutter1Strobe') ??
  channel.functions?.find((f) => STROBE.test(f.name));

/** The level of a strobe's frequency in hertz, held within what it can do. */
export function strobeLevel(channel: Channel, hz: number): number | undefined {
  const f = strobeOf(channel);
  if (!f) return undefined;
  const span = f.physicalTo - f.physicalFrom;
  const share = span === 0 ? 0.5 : clamp((hz - f.physicalFrom) / span);
  return levelOfRaw(channel, f.from + (f.to - f.from) * share);
}
