/** Commands to the unit itself (GDTF 1.2, FTMacro): a value that is held on a channel. */
import { attr, childOf, childrenOf, numberIn, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import type { TypeRow } from '../types/rows.ts';
import { nameFor } from './names.ts';
import { dmxValue } from './values.ts';

type Macro = NonNullable<TypeRow['macros']>[number];
const MOST = 32;
const HOLD_S = { low: 0.1, high: 60 };

/** Those of one step with one value; others are more than a value that is held, and are said. */
export function readMacros(
  modes: readonly Element[],
  rows: TypeRow['modes'],
  odd: Oddities,
): Macro[] {
  const found = new Map<string, Macro>();
  for (const mode of modes)
    for (const macro of childrenOf(childOf(mode, 'FTMacros'), 'FTMacro')) {
      const name = nameFor(attr(macro, 'Name')) || 'Command';
      const steps = childrenOf(childOf(macro, 'MacroDMX'), 'MacroDMXStep');
      const values = steps.flatMap((s) => childrenOf(s, 'MacroDMXValue'));
      const [value] = values;
      if (steps.length !== 1 || values.length !== 1 || !value) {
        odd.add(
          `command “${name}”`,
          `is ${steps.length} steps with ${values.length} values, more than one that is held, and was left out`,
        );
        continue;
      }
      const channel = attr(value, 'DMXChannel')
        .replace(/^[^_]*_/, '')
        .replace(/\..*$/, '');
      const attribute = rows
        .flatMap((m) => m.channels)
        .find((c) => c.attribute.replace(/@.*/, '') === channel)?.attribute;
      if (attribute === undefined) {
        odd.add(
          `command “${name}”`,
          `is on “${attr(value, 'DMXChannel')}”, which no mode has, and was left out`,
        );
        continue;
      }
      const held = numberIn(attr(steps[0], 'Duration')) ?? 1;
      if (found.size < MOST && !found.has(name))
        found.set(name, {
          name,
          attribute,
          value: dmxValue(attr(value, 'Value'), 1) ?? 0,
          hold_s: Math.min(HOLD_S.high, Math.max(HOLD_S.low, held)),
        });
    }
  return [...found.values()];
}
