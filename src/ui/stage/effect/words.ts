/** What lanes and steps say, in the unit of the selected units. */
import { clamp } from '@/core/numbers';
import { isFamilyLane } from '@/core/effects/lanes';
import type { EffectStep, EffectTrack } from '@/core/effects/rows';
import { attributeInfo, baseOf } from '@/core/rig/attributes';
import { levelInUnit, stepInUnit, unitOfLevel } from '@/core/rig/unit-value';
import type { Family } from '@/core/show/fields';
import type { Show } from '@/core/show/show';
import type { Channel } from '@/core/types/rows';
import { channelOf, type Chosen } from '../deck/chosen';
import { FAMILY_NAMES } from '../Programmer';

/** A channel that a lane moves, of the first selected unit that has one. */
export function channelFor(chosen: readonly Chosen[], attribute: string): Channel | undefined {
  for (const c of chosen) {
    const own = c.attributes.find((a) => a === attribute || baseOf(a) === attribute);
    const channel = own === undefined ? undefined : channelOf(c, own);
    if (channel) return channel;
  }
  return undefined;
}

/** What a lane is called. */
export const laneName = (attribute: string): string =>
  attribute in FAMILY_NAMES ? FAMILY_NAMES[attribute as Family] : attributeInfo(attribute).label;

/** The unit of a lane: percent of the range where nothing better is known. */
export const laneUnit = (attribute: string, channel: Channel | undefined): string => {
  const { unit } = attributeInfo(attribute);
  return channel && unit !== 'slot' ? unit : '%';
};

/** How a lane goes, in a word. */
export function laneManner(track: EffectTrack): string {
  if (isFamilyLane(track)) return 'by palette';
  if (track.wave !== 'steps') return track.wave;
  if (track.steps?.every((s) => s.share === 0)) return 'hard';
  return track.curve === 'smooth' ? 'smooth' : 'straight';
}

/** A step's place in the lane's unit: where it goes to, or for a lane about the level beneath, how far from that. */
export function stepInWords(
  track: EffectTrack,
  step: EffectStep,
  channel: Channel | undefined,
): number {
  if (track.mode === 'absolute')
    return unitOfLevel(track.attribute, channel, track.base + track.size * step.level);
  const perUnit = stepInUnit(track.attribute, channel, 1);
  return perUnit === 0 ? 0 : ((step.level - 0.5) * track.size) / perUnit;
}

/** The step's level for a value in the lane's unit, held within the lane. */
export function levelOfWords(
  track: EffectTrack,
  value: number,
  channel: Channel | undefined,
): number {
  if (track.size === 0) return 0;
  const level =
    track.mode === 'absolute'
      ? (levelInUnit(track.attribute, channel, value) - track.base) / track.size
      : stepInUnit(track.attribute, channel, value) / track.size + 0.5;
  return clamp(level);
}

/** What a step says beside its dot. */
export function sayStep(
  show: Show,
  track: EffectTrack,
  step: EffectStep,
  channel: Channel | undefined,
): string {
  const palette = step.palette === undefined ? undefined : show.palettes.get(step.palette);
  if (palette) return palette.name;
  if (step.units) return 'as held';
  if (isFamilyLane(track)) return 'default';
  const value = stepInWords(track, step, channel);
  const unit = laneUnit(track.attribute, channel);
  const sign = track.mode === 'relative' && value > 0 ? '+' : '';
  return `${sign}${Math.round(value)}${unit === '°' ? '°' : ` ${unit}`}`;
}
