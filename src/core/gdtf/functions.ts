/** What parts of a channel's range do (GDTF 1.2, ChannelFunction and ChannelSet), with their ends worked out. */
import { attr, childrenOf, numberIn, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import { attributeInfo } from '../rig/attributes.ts';
import { functionAt } from '../rig/channel.ts';
import { MOST_SLOTS, type ChannelFunction, type ChannelSet, type Wheel } from '../types/rows.ts';
import { nameFor } from './names.ts';
import { dmxValue, UNUSED } from './values.ts';

const MOST_FUNCTIONS = 64;
const MOST_SETS = 128;

/** Where a function counts: always, never, or while another channel is in a range. */
export type When = NonNullable<ChannelFunction['when']> | 'always' | 'never';

/** The channel whose functions are read. */
export interface FunctionContext {
  where: string;
  /** Of the channel. */
  bytes: number;
  attribute: string;
  wheels: readonly Wheel[];
  when: (function_: Element) => When;
  /** Names that are mended, as they are in the row. */
  attributeOf: (written: string) => string;
  odd: Oddities;
}

interface Begun<T> {
  from: number;
  is: T;
}

/** Each ends one step before the next begins, the last at the top; what begins where another does is left out. */
function withEnds<T>(
  begun: readonly Begun<T>[],
  top: number,
  twice: (is: T) => void,
): (Begun<T> & { to: number })[] {
  const sorted = [...begun].sort((a, b) => a.from - b.from);
  return sorted.flatMap((b, i) => {
    const next = sorted[i + 1];
    if (next?.from === b.from) {
      twice(b.is);
      return [];
    }
    return [{ ...b, to: next ? next.from - 1 : top }];
  });
}

function setsOf(
  element: Element,
  range: { from: number; to: number },
  c: FunctionContext,
): ChannelSet[] {
  const begun = childrenOf(element, 'ChannelSet').map((is) => ({
    is,
    from: Math.max(range.from, dmxValue(attr(is, 'DMXFrom'), c.bytes) ?? 0),
  }));
  const inside = begun.filter((b) => b.from <= range.to);
  if (inside.length < begun.length)
    c.odd.add(c.where, `named ranges beyond the end of “${attr(element, 'Name')}” were left out`);
  const named = withEnds(inside, range.to, () => undefined).flatMap(
    ({ is, from, to }): ChannelSet[] => {
      const slot = numberIn(attr(is, 'WheelSlotIndex')) ?? 0;
      const name = nameFor(attr(is, 'Name'));
      // A set without a name only ends the one before.
      if (name === '') return [];
      const isSlot = Number.isInteger(slot) && slot >= 1 && slot <= MOST_SLOTS;
      return [{ name, from, to, ...(isSlot ? { slot } : {}) }];
    },
  );
  if (named.length > MOST_SETS)
    c.odd.add(c.where, `has ${named.length} named ranges; the first ${MOST_SETS} came in`);
  return named.slice(0, MOST_SETS);
}

function wheelOf(element: Element, c: FunctionContext): Wheel | undefined {
  const written = attr(element, 'Wheel');
  if (written === '') return undefined;
  const wheel = c.wheels.find((w) => w.name === nameFor(written, 60));
  if (!wheel) c.odd.add(c.where, `names the wheel “${written}”, which the file does not have`);
  return wheel;
}

const physical = (element: Element, name: string, otherwise: number): number =>
  numberIn(attr(element, name)) ?? otherwise;

function functionOf(
  { is, from, to }: Begun<Element> & { to: number },
  when: When,
  c: FunctionContext,
): ChannelFunction {
  const attribute = c.attributeOf(attr(is, 'Attribute'));
  const isOwn = attribute === '' || attribute === c.attribute || attribute === 'NoFeature';
  const wheel = wheelOf(is, c);
  const sets = setsOf(is, { from, to }, c).map(({ slot, ...set }) =>
    slot !== undefined && (!wheel || slot <= wheel.slots.length) ? { ...set, slot } : set,
  );
  const name = nameFor(attr(is, 'Name')) || attributeInfo(isOwn ? c.attribute : attribute).label;
  return {
    name,
    from,
    to,
    physicalFrom: physical(is, 'PhysicalFrom', 0),
    physicalTo: physical(is, 'PhysicalTo', 1),
    ...(wheel ? { wheel: wheel.name } : {}),
    ...(isOwn ? {} : { attribute }),
    ...(typeof when === 'object' ? { when } : {}),
    ...(sets.length > 0 ? { sets } : {}),
  };
}

/** A function's elements by what they depend on: within each group ends are worked out by themselves. */
function byCondition(
  elements: readonly Element[],
  c: FunctionContext,
): { when: When; elements: Element[] }[] {
  const groups = new Map<string, { when: When; elements: Element[] }>();
  for (const element of elements) {
    const when = c.when(element);
    if (when === 'never') continue;
    const key = JSON.stringify(when);
    const group = groups.get(key) ?? { when, elements: [] };
    groups.set(key, group);
    group.elements.push(element);
  }
  return [...groups.values()];
}

/** The functions of a channel, in the order of their ranges; those that always count first. */
export function functionsOf(channel: Element, c: FunctionContext): ChannelFunction[] {
  const elements = childrenOf(channel, 'LogicalChannel').flatMap((l) =>
    childrenOf(l, 'ChannelFunction').map((f) =>
      attr(f, 'Attribute') === ''
        ? { ...f, attrs: { ...f.attrs, Attribute: attr(l, 'Attribute') } }
        : f,
    ),
  );
  const top = 256 ** c.bytes - 1;
  const found = byCondition(elements, c).flatMap(({ when, elements: own }) =>
    withEnds(
      own.map((is) => ({ is, from: dmxValue(attr(is, 'DMXFrom'), c.bytes) ?? 0 })),
      top,
      (is) =>
        c.odd.add(
          c.where,
          `“${attr(is, 'Name')}” begins where another function does and was left out`,
        ),
    )
      .filter(({ is }) => attr(is, 'Name') !== UNUSED || attr(is, 'Attribute') !== 'NoFeature')
      .map((ended) => functionOf(ended, when, c)),
  );
  if (found.length > MOST_FUNCTIONS)
    c.odd.add(c.where, `has ${found.length} functions; the first ${MOST_FUNCTIONS} came in`);
  return found.slice(0, MOST_FUNCTIONS);
}

/** The function that a channel has its physical range of: where it rests, the wished one first; between functions, the first. */
export function functionWhere(
  functions: readonly ChannelFunction[],
  rests: number,
  wished: (f: ChannelFunction) => boolean = () => false,
): ChannelFunction | undefined {
  return (
    functions.find((f) => rests >= f.from && rests <= f.to && wished(f)) ??
    functionAt(functions, rests) ??
    functions[0]
  );
}

/** One function over the whole range that says nothing beside it. */
export const isWhole = ([only, ...more]: readonly ChannelFunction[], bytes: number): boolean =>
  only !== undefined &&
  more.length === 0 &&
  only.from === 0 &&
  only.to === 256 ** bytes - 1 &&
  only.wheel === undefined &&
  only.attribute === undefined &&
  only.when === undefined &&
  only.sets === undefined;
