/** Commands to the unit itself (GDTF 1.2, FTMacro): values that are held on channels, one after the other. */
import { clamp } from '../numbers.ts';
import { attr, childOf, childrenOf, numberIn, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import { MOST_STEPS, MOST_STEP_VALUES, type Macro, type TypeRow } from '../types/rows.ts';
import { nameFor } from './names.ts';
import { dmxValue } from './values.ts';

const MOST = 32;
const HOLD_S = { low: 0.1, high: 60 };

interface Step {
  values: { attribute: string; value: number }[];
  hold_s: number;
}

/** A step of a command, on channels that modes have. @returns the channel that none has, by its name */
function stepOf(step: Element, attributes: ReadonlyMap<string, string>): Step | string {
  const values: Step['values'] = [];
  for (const value of childrenOf(step, 'MacroDMXValue')) {
    const written = attr(value, 'DMXChannel');
    const attribute = attributes.get(written.replace(/^[^_]*_/, '').replace(/\..*$/, ''));
    if (attribute === undefined) return written;
    values.push({ attribute, value: dmxValue(attr(value, 'Value'), 1) ?? 0 });
  }
  const held = numberIn(attr(step, 'Duration')) ?? 1;
  return { values, hold_s: clamp(held, HOLD_S.low, HOLD_S.high) };
}

/** @returns why it cannot be kept, in a few words */
function macroOf(
  macro: Element,
  name: string,
  attributes: ReadonlyMap<string, string>,
): Macro | string {
  const elements = childrenOf(childOf(macro, 'MacroDMX'), 'MacroDMXStep');
  const steps: Step[] = [];
  for (const element of elements) {
    const step = stepOf(element, attributes);
    if (typeof step === 'string') return `is on “${step}”, which no mode has, and was left out`;
    steps.push(step);
  }
  // A pause before anything is held is none.
  const begins = steps.findIndex((s) => s.values.length > 0);
  const [first, ...then] = begins < 0 ? [] : steps.slice(begins);
  const [value, ...also] = first?.values ?? [];
  if (!first || !value) return 'holds nothing, and was left out';
  if (then.length > MOST_STEPS || steps.some((s) => s.values.length > MOST_STEP_VALUES))
    return `is ${steps.length} steps, more than a command here has, and was left out`;
  return {
    name,
    ...value,
    hold_s: first.hold_s,
    ...(also.length > 0 ? { also } : {}),
    ...(then.length > 0 ? { then } : {}),
  };
}

/** Commands of all modes, each name once. */
export function readMacros(
  modes: readonly Element[],
  rows: TypeRow['modes'],
  odd: Oddities,
): Macro[] {
  const found = new Map<string, Macro>();
  // The first of its cells, where it is one of them.
  const attributes = new Map<string, string>();
  for (const { attribute } of rows.flatMap((m) => m.channels)) {
    const base = attribute.replace(/@.*/, '');
    if (!attributes.has(base)) attributes.set(base, attribute);
  }
  for (const mode of modes)
    for (const element of childrenOf(childOf(mode, 'FTMacros'), 'FTMacro')) {
      const name = nameFor(attr(element, 'Name')) || 'Command';
      const macro = macroOf(element, name, attributes);
      if (typeof macro === 'string') odd.add(`command “${name}”`, macro);
      else if (found.size < MOST && !found.has(name)) found.set(name, macro);
    }
  return [...found.values()];
}
