/** Commands to units themselves: values that are held one after the other (GDTF 1.2, FTMacro). */
import type { Macro, Mode } from './rows.ts';

/** A step of a control macro, held for some seconds. */
export interface MacroStep {
  /** 0…255 by attribute. */
  values: readonly { attribute: string; value: number }[];
  hold_s: number;
}

/** All steps of a command, the first as well. */
export const stepsOf = ({ attribute, value, hold_s, also, then }: Macro): MacroStep[] => [
  { values: [{ attribute, value }, ...(also ?? [])], hold_s },
  ...(then ?? []),
];

/** Whether a mode has every channel that a command needs: half of one may do something else. */
export const canRun = (mode: Mode | undefined, macro: Macro): boolean =>
  mode !== undefined &&
  stepsOf(macro).every(({ values }) =>
    values.every((v) => mode.channels.some((c) => c.attribute === v.attribute)),
  );

/** Seconds until it is done. */
export const lengthOf = (macro: Macro): number =>
  stepsOf(macro).reduce((sum, step) => sum + step.hold_s, 0);
