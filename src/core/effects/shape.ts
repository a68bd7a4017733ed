/**
 * Working on a lane's steps along the round: where each begins, arrives and ends, and what becomes of the others when one
 * is moved. Places are shares of the round, 0…1. After every change the steps take the whole round together.
 */
import { clamp } from '../numbers.ts';
import type { EffectStep } from './rows.ts';
import { takesOf } from './wave.ts';

/** A step takes at least this of the round: neighbours are pushed no further. */
export const LEAST = 0.01;
/** Steps that a shape may have. */
export const MOST_STEPS = 32;

/** Where a step lies in the round. */
export interface StepPlace {
  from: number;
  /** Where it has arrived. */
  arrives: number;
  to: number;
}

/** Where each step lies. */
export function placesOfSteps(steps: readonly EffectStep[]): StepPlace[] {
  const whole = steps.reduce((sum, s) => sum + takesOf(s), 0);
  let at = 0;
  return steps.map((step) => {
    const takes = takesOf(step) / whole;
    const from = at;
    at += takes;
    return { from, arrives: from + takes * step.share, to: at };
  });
}

const rounded = (v: number): number => Math.round(v * 10_000) / 10_000;

/** Steps with their ends at these places. */
const withEnds = (steps: readonly EffectStep[], ends: readonly number[]): EffectStep[] =>
  steps.map((s, i) => ({ ...s, takes: rounded((ends[i] ?? 1) - (ends[i - 1] ?? 0)) }));

const replaced = (
  steps: readonly EffectStep[],
  i: number,
  set: Partial<EffectStep>,
): EffectStep[] => steps.map((s, k) => (k === i ? { ...s, ...set } : s));

/** A step that ends elsewhere; the one after it begins there. The last one ends with the round. */
export function withEnd(steps: readonly EffectStep[], i: number, to: number): EffectStep[] {
  const ends = placesOfSteps(steps).map((p) => p.to);
  const least = (ends[i - 1] ?? 0) + LEAST;
  const most = (ends[i + 1] ?? 1) - LEAST;
  if (i >= steps.length - 1 || most < least) return [...steps];
  ends[i] = clamp(to, least, most);
  return withEnds(steps, ends);
}

/**
 * A step that arrives elsewhere. One that moves all the time ends where it arrives, and takes its end along; another
 * keeps its end, and moves for more or less of its time.
 */
export function withArrival(steps: readonly EffectStep[], i: number, at: number): EffectStep[] {
  const place = placesOfSteps(steps)[i];
  const step = steps[i];
  if (!place || !step) return [...steps];
  const isLast = i === steps.length - 1;
  if (!isLast && (step.share === 1 || at > place.to)) {
    return replaced(withEnd(steps, i, at), i, { share: 1, takes: takesAt(steps, i, at) });
  }
  const share = (clamp(at, place.from, place.to) - place.from) / (place.to - place.from);
  return replaced(
    withEnds(
      steps,
      placesOfSteps(steps).map((p) => p.to),
    ),
    i,
    {
      share: rounded(share),
    },
  );
}

const takesAt = (steps: readonly EffectStep[], i: number, at: number): number =>
  withEnd(steps, i, at)[i]?.takes ?? 1;

/** A new step where one is pointed at: it splits the step that lies there, and goes to its own level. */
export function withStepAt(
  steps: readonly EffectStep[],
  at: number,
  fresh: Pick<EffectStep, 'level' | 'palette' | 'units'>,
): EffectStep[] {
  if (steps.length >= MOST_STEPS) return [...steps];
  const places = placesOfSteps(steps);
  const i = places.findIndex((p) => at < p.to);
  const place = places[i];
  const step = steps[i];
  if (!place || !step || place.to - place.from < 2 * LEAST) return [...steps];
  const middle = clamp(at, place.from + LEAST, place.to - LEAST);
  const ends = places.map((p) => p.to);
  return withEnds(
    [...steps.slice(0, i), { ...fresh, share: 1 }, ...steps.slice(i)],
    [...ends.slice(0, i), middle, ...ends.slice(i)],
  );
}

/** Without a step: the one before it, or after the first, takes its time. Two stay. */
export function withoutStep(steps: readonly EffectStep[], i: number): EffectStep[] {
  if (steps.length <= 2) return [...steps];
  const ends = placesOfSteps(steps).map((p) => p.to);
  return withEnds(
    steps.filter((_, k) => k !== i),
    i === 0 ? ends.slice(1) : ends.filter((_, k) => k !== i - 1),
  );
}

/** How much of the round a step takes, as one number; the others share the rest as they did, each its least. */
export function withTakes(steps: readonly EffectStep[], i: number, takes: number): EffectStep[] {
  const now = placesOfSteps(steps).map((p) => p.to - p.from);
  const others = steps.length - 1;
  const wanted = clamp(takes, LEAST, 1 - LEAST * others);
  const rest = 1 - (now[i] ?? 0);
  const scaled = now.map((own) => Math.max(LEAST, (own * (1 - wanted)) / rest));
  const over = scaled.reduce((sum, own, k) => (k === i ? sum : sum + own - LEAST), 0);
  // Where some are held at their least, those above it give what that takes.
  const part = over > 0 ? Math.min(1, (1 - wanted - LEAST * others) / over) : 0;
  return steps.map((s, k) => ({
    ...s,
    takes: rounded(k === i ? wanted : LEAST + ((scaled[k] ?? LEAST) - LEAST) * part),
  }));
}

/** A wave as steps that one can drag. */
export const stepsOfWave = (
  wave: 'sine' | 'triangle' | 'rise' | 'fall' | 'square' | 'steps',
): EffectStep[] => {
  switch (wave) {
    case 'rise':
      return [
        { level: 1, share: 1, takes: 0.99 },
        { level: 0, share: 0, takes: 0.01 },
      ];
    case 'fall':
      return [
        { level: 1, share: 0, takes: 0.01 },
        { level: 0, share: 1, takes: 0.99 },
      ];
    case 'square':
      return [
        { level: 1, share: 0, takes: 0.5 },
        { level: 0, share: 0, takes: 0.5 },
      ];
    default:
      return [
        { level: 1, share: 1, takes: 0.5 },
        { level: 0, share: 1, takes: 0.5 },
      ];
  }
};
