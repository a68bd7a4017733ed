/**
 * The second stage of the merge: what operators hold lies over what plays, in the order in which they touched it, each by
 * how much of it shows (docs/playback.md, Programmers; merge.test.ts).
 */
import { clamp } from '../numbers.ts';
import type { Operator } from './operator.ts';
import type { Slots } from './slots.ts';

/** The stage of hands: who holds a value, the latest first. */
export class HandsMerge {
  readonly operators: Operator[] = [];
  /** Place of the operator whose value `over` met last, -1 for none. */
  heldBy = -1;

  constructor(private readonly slots: Slots) {}

  /** Nobody holds anything. */
  get areEmpty(): boolean {
    for (let i = 0; i < this.operators.length; i++)
      if ((this.operators[i] as Operator).count > 0) return false;
    return true;
  }

  /** What operators make of what plays on a slot. @param except left out */
  over(slot: number, played: number, except: Operator | null = null): number {
    const { operators } = this;
    this.heldBy = -1;
    let value = played;
    let touched = -1;
    for (let round = 0; round < operators.length; round++) {
      const next = this.nextToTouch(slot, touched, except);
      if (next < 0) break;
      const operator = operators[next] as Operator;
      touched = operator.touched[slot] as number;
      const weight = operator.shows(slot, this.slots.snap[slot] as number);
      if (weight === 0) continue;
      value = this.held(operator, slot, value, weight);
      this.heldBy = next;
    }
    return value;
  }

  /** Place of whoever touched the slot first after a moment; -1 for nobody. */
  private nextToTouch(slot: number, after: number, except: Operator | null): number {
    const { operators } = this;
    let next = -1;
    let earliest = Infinity;
    for (let i = 0; i < operators.length; i++) {
      const operator = operators[i] as Operator;
      const touched = operator.touched[slot] as number;
      if (operator.held[slot] !== 1 || operator === except) continue;
      if (touched <= after || touched >= earliest) continue;
      next = i;
      earliest = touched;
    }
    return next;
  }

  private held(operator: Operator, slot: number, beneath: number, weight: number): number {
    const value = beneath * (1 - weight) + (operator.fades.level[slot] as number) * weight;
    return operator.effects.count > 0
      ? clamp(operator.effects.applied(slot, value, weight, 'all'))
      : value;
  }
}
