/** What others see of an operator, and what the show asks of what one holds. */
import { stateAt } from '../../core/cues/tracking.ts';
import type { HeldValue, OtherProgrammer, ProgrammerState } from '../../core/live/messages.ts';
import { slotKey, type CueRow } from '../../core/cues/rows.ts';
import { same } from '../../core/same.ts';
import type { Programmers } from './programmers.ts';

const NO_VALUES: ReadonlyMap<string, HeldValue> = new Map();

/** Held values that a cue's state says as well. */
export function inCue(p: Programmers, userId: string, cue: CueRow): HeldValue[] {
  const operator = p.operators.get(userId);
  if (!operator) return [];
  const state = stateAt(p.show, cue.listId, cue.number);
  return [...operator.values.values()].filter((v) => {
    const value = state.get(slotKey(v.fixtureId, v.attribute))?.value;
    return (
      value?.level === v.level &&
      value.palette === v.palette &&
      value.look === v.look &&
      same(value.effect, v.effect)
    );
  });
}

/** Values that were recorded are not new any more. */
export function markRecorded(p: Programmers, userId: string, values: readonly HeldValue[]): void {
  const operator = p.operators.get(userId);
  if (!operator) return;
  for (const v of values)
    operator.values.set(slotKey(v.fixtureId, v.attribute), { ...v, recorded: true });
  p.changed(userId, 'soon');
}

/** Whether what a person sets is kept off the stage. */
export function isBlind(p: Programmers, userId: string): boolean {
  return p.operators.get(userId)?.blind ?? false;
}

/** What a person is called. */
export function nameOf(p: Programmers, userId: string): string {
  return p.operators.get(userId)?.name ?? 'somebody';
}

/** How much somebody holds, and whether it shows. */
export function sumOf(
  p: Programmers,
  userId: string,
): { name: string; values: number; fixtures: number; blind: boolean } {
  const o = p.operators.get(userId);
  return {
    name: o?.name ?? 'somebody',
    values: o?.values.size ?? 0,
    fixtures: new Set([...(o?.values.values() ?? [])].map((v) => v.fixtureId)).size,
    blind: o?.blind ?? false,
  };
}

/** Who holds anything. */
export function holders(p: Programmers): string[] {
  return [...p.operators].filter(([, o]) => o.values.size > 0).map(([id]) => id);
}

/** What an operator holds, by slot key; a value that changes is a new object. */
export function heldBy(p: Programmers, userId: string): ReadonlyMap<string, HeldValue> {
  return p.operators.get(userId)?.values ?? NO_VALUES;
}

/** A programmer as its own person’s screens are told. */
export function programmerOf(p: Programmers, userId: string): ProgrammerState {
  const o = p.operators.get(userId);
  return {
    selection: o?.selection ?? [],
    stepping: o?.stepping ?? null,
    blind: o?.blind ?? false,
    highlight: o?.highlight ?? false,
    cleared: o?.clears.at(-1)?.length ?? 0,
  };
}

/** Marks of those who are not here are gone; what they hold is on stage all the same. */
export function otherProgrammers(p: Programmers, userId: string): OtherProgrammer[] {
  return [...p.operators]
    .filter(
      ([id, o]) =>
        id !== userId && (o.values.size > 0 || (o.selection.length > 0 && p.present(id))),
    )
    .map(([id, o]) => {
      const here = p.present(id);
      const values = [...o.values.values()];
      return {
        userId: id,
        name: o.name,
        here,
        values: o.values.size,
        unrecorded: values.filter((v) => !v.recorded).length,
        selection: here ? o.selection : [],
        follows: here ? [...new Set(values.flatMap((v) => v.look ?? v.palette ?? []))] : [],
        blind: o.blind,
      };
    });
}
