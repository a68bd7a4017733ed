/** A mode of a unit (GDTF 1.2, DMXMode): its channels written out over the parts that they move, cells found among these. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { attr, childOf, childrenOf, type Element } from '../formats/xml.ts';
import type { Oddities } from '../formats/odd.ts';
import { attributeInfo, isEmitter } from '../rig/attributes.ts';
import { levelOfRaw, rawOf } from '../rig/channel.ts';
import { isOpen, openLevel } from '../rig/shutter.ts';
import {
  MOST_BREAKS,
  MOST_CELLS,
  MOST_CHANNELS,
  type Channel,
  type ChannelFunction,
  type Mode,
  type Wheel,
} from '../types/rows.ts';
import { functionsOf, functionWhere, isWhole, type When } from './functions.ts';
import { holds, inFace, placesBelow, type Place } from './geometry.ts';
import { attributeFor, freeName, nameFor } from './names.ts';
import { dmxValue } from './values.ts';

const MOST_BYTES = 3;

/** A channel at one of its places. */
interface Wire {
  element: Element;
  /** As the standard calls it, without a cell. */
  base: string;
  place: Place | undefined;
  break: number;
  /** Empty: it is virtual, it has no address. */
  offset: number[];
  /** 0: of the unit as a whole. */
  cell: number;
  /** With its cell, once that is known; what the row calls it. */
  attribute: string;
}

/** What a mode is read with. */
export interface TypeContext {
  type: Element;
  wheels: readonly Wheel[];
  /** Where a face lies in, as wide as the unit is. */
  size: { x: number; y: number } | undefined;
  odd: Oddities;
  /** Told of each function, for the colours of emitters and filters. */
  saw: (attribute: string, function_: Element) => void;
}

const functionElements = (channel: Element): Element[] =>
  childrenOf(channel, 'LogicalChannel').flatMap((l) => childrenOf(l, 'ChannelFunction'));

/** What a channel is called after: its first attribute that says something. */
function baseOfChannel(channel: Element): string {
  const names = [
    ...childrenOf(channel, 'LogicalChannel').map((l) => attr(l, 'Attribute')),
    ...functionElements(channel).map((f) => attr(f, 'Attribute')),
  ];
  return attributeFor(names.find((n) => n !== '' && n !== 'NoFeature') ?? 'NoFeature');
}

const offsetsOf = (channel: Element): number[] | undefined => {
  const written = attr(channel, 'Offset');
  if (written === '' || /^none$/i.test(written)) return [];
  const numbers = written.split(/[,;\s]+/).map(Number);
  return numbers.every((n) => Number.isInteger(n) && n >= 1) ? numbers : undefined;
};

/** References that a place stands in, the nearest first. */
function referencesOf(place: Place | undefined): Place[] {
  const chain: Place[] = [];
  for (let at = place?.reference; at; at = at.above?.reference) chain.push(at);
  return chain;
}

/**
 * Where a channel begins at a place: its own number, or what the nearest reference says (`Overwrite`). What stands in
 * references that are referred to themselves is moved on by each of them.
 */
function breakAt(channel: Element, place: Place | undefined): { number: number; offset: number } {
  const written = attr(channel, 'DMXBreak');
  const references = referencesOf(place);
  const number = /^overwrite$/i.test(written)
    ? (references[0]?.breaks.at(-1)?.number ?? 1)
    : Number(written) || 1;
  const moved = references.map(({ breaks }, i) =>
    i === 0 && /^overwrite$/i.test(written)
      ? breaks.at(-1)
      : breaks.find((b) => b.number === number),
  );
  return { number, offset: 1 + moved.reduce((sum, b) => sum + (b ? b.offset - 1 : 0), 0) };
}

/** Every channel at every place that it has. */
function wiresOf(mode: Element, places: readonly Place[], where: string, odd: Oddities): Wire[] {
  const wires: Wire[] = [];
  for (const element of childrenOf(childOf(mode, 'DMXChannels'), 'DMXChannel')) {
    const base = baseOfChannel(element);
    const own = offsetsOf(element);
    if (!own) {
      odd.add(
        `${where}, ${base}`,
        `its offset “${attr(element, 'Offset')}” is none; it was left out`,
      );
      continue;
    }
    const geometry = attr(element, 'Geometry');
    const at: (Place | undefined)[] = places.filter(
      (p) => p.name === geometry && p.kind !== 'GeometryReference',
    );
    if (at.length === 0) {
      at.push(undefined);
      if (geometry !== '')
        odd.add(
          `${where}, ${base}`,
          `belongs to “${geometry}”, which the mode does not have; it counts for the whole unit`,
        );
    }
    for (const place of at) {
      const { number, offset } = breakAt(element, place);
      wires.push({
        element,
        base,
        place,
        break: number,
        offset: own.map((o) => o + offset - 1),
        cell: 0,
        attribute: base,
      });
    }
    if (wires.length > MOST_CHANNELS * 2) break;
  }
  return wires;
}

/** Addresses of a unit counted from 1 without gaps, however the file numbers them. */
function renumberBreaks(wires: readonly Wire[], where: string, odd: Oddities): Wire[] {
  const used = [...new Set(wires.filter((w) => w.offset.length > 0).map((w) => w.break))].sort(
    (a, b) => a - b,
  );
  if (used.length > MOST_BREAKS)
    odd.add(
      where,
      `has ${used.length} addresses; the channels of the first ${MOST_BREAKS} came in`,
    );
  return wires.flatMap((w) => {
    const at = Math.max(0, used.indexOf(w.break));
    return at < MOST_BREAKS ? [{ ...w, break: at + 1 }] : [];
  });
}

/** Those that have an address of their own, no two on one. */
function wired(wires: readonly Wire[], where: string, odd: Oddities): Wire[] {
  const taken = new Map<string, string>();
  const kept: Wire[] = [];
  for (const wire of wires) {
    if (wire.offset.length === 0) continue;
    const beyond = wire.offset.find((o) => o > UNIVERSE_SLOTS);
    const clash = wire.offset
      .map((o) => taken.get(`${wire.break}/${o}`))
      .find((o) => o !== undefined);
    const at = `${where}, ${wire.base}`;
    if (beyond !== undefined)
      odd.add(at, `is on channel ${beyond}, past the end of a universe, and was left out`);
    else if (clash !== undefined)
      odd.add(
        at,
        `is on channel ${wire.offset.join(', ')}, where ${clash} is already, and was left out`,
      );
    else if (kept.length >= MOST_CHANNELS)
      odd.add(where, `has more than ${MOST_CHANNELS} channels; the rest was left out`);
    else {
      for (const o of wire.offset) taken.set(`${wire.break}/${o}`, wire.base);
      if (wire.offset.length > MOST_BYTES)
        odd.add(at, `has ${wire.offset.length} bytes; those after the third stay at 0`);
      kept.push(wire);
    }
  }
  return kept;
}

const rootOf = (wire: Wire): Place | undefined => wire.place?.reference ?? wire.place;

/**
 * Which cell each belongs to: places that have an attribute in common are cells, in the order of the file, but for one
 * that holds the others, which is the unit as a whole.
 */
function intoCells(
  wires: readonly Wire[],
  places: readonly Place[],
  where: string,
  odd: Oddities,
): { wires: Wire[]; roots: Place[] } {
  const byBase = new Map<string, Wire[]>();
  for (const wire of wires) {
    const same = byBase.get(wire.base);
    if (same) same.push(wire);
    else byBase.set(wire.base, [wire]);
  }
  const isCell = new Set<Place>();
  for (const same of byBase.values()) {
    if (same.length < 2) continue;
    for (const wire of same) {
      const root = rootOf(wire);
      const isAbove = same.some(
        (o) => o !== wire && o.place && wire.place && holds(wire.place, o.place),
      );
      const isOutside = !wire.place?.reference && same.some((o) => o.place?.reference);
      if (root && !isAbove && !isOutside) isCell.add(root);
    }
  }
  const roots = places.filter((p) => isCell.has(p));
  if (roots.length > MOST_CELLS)
    odd.add(where, `has ${roots.length} cells; the first ${MOST_CELLS} came in`);
  const numbers = new Map(roots.slice(0, MOST_CELLS).map((root, i) => [root, i + 1]));
  const cellOf = (place: Place | undefined): number | undefined => {
    for (let at = place; at; at = at.above) {
      const number = numbers.get(at);
      if (number !== undefined) return number;
      if (isCell.has(at)) return undefined;
    }
    return 0;
  };
  return {
    roots: roots.slice(0, MOST_CELLS),
    wires: wires.flatMap((w) => {
      const cell = cellOf(w.place);
      return cell === undefined ? [] : [{ ...w, cell }];
    }),
  };
}

/** Names with their cells, each there once. */
function named(wires: readonly Wire[], where: string, odd: Oddities): Wire[] {
  const taken = new Set<string>();
  return wires.map((w) => {
    const suffix = w.cell > 0 ? `@${w.cell}` : '';
    let base = w.base;
    for (let n = 2; taken.has(`${base}${suffix}`); n++) base = `${w.base}_${n}`;
    if (base !== w.base)
      odd.add(
        `${where}, ${w.base}`,
        `is there more than once in one place; one of them is called ${base}`,
      );
    taken.add(`${base}${suffix}`);
    return { ...w, attribute: `${base}${suffix}` };
  });
}

/** What a channel is called by others in the file: its part, and the first attribute. */
const referredAs = (channel: Element): string =>
  `${attr(channel, 'Geometry')}_${attr(childOf(channel, 'LogicalChannel'), 'Attribute')}`;

const bytesOf = (wire: Pick<Wire, 'offset'>): number =>
  Math.max(1, Math.min(MOST_BYTES, wire.offset.length));

/** The function that a channel starts with. */
function initialOf(channel: Element): Element | undefined {
  const all = functionElements(channel);
  const wanted = attr(channel, 'InitialFunction');
  const named =
    wanted === ''
      ? undefined
      : all.find((f) => attr(f, 'Name') !== '' && wanted.endsWith(`.${attr(f, 'Name')}`));
  return named ?? all[0];
}

function defaultRaw(channel: Element, bytes: number): number {
  const initial = initialOf(channel);
  return dmxValue(attr(initial, 'Default') || attr(channel, 'Default'), bytes) ?? 0;
}

/** Whether and when a function counts, by the channel that it depends on, in raw values of that. */
function whenOf(
  function_: Element,
  wire: Wire,
  all: readonly Wire[],
  where: string,
  odd: Oddities,
): When {
  const master = attr(function_, 'ModeMaster');
  if (master === '') return 'always';
  const candidates = all.filter((w) => {
    const name = referredAs(w.element);
    return master === name || master.startsWith(`${name}.`);
  });
  const of =
    candidates.find((w) => w.cell === wire.cell) ??
    candidates.find((w) => w.cell === 0) ??
    candidates[0];
  if (!of || of.element === wire.element) {
    odd.add(
      where,
      `“${attr(function_, 'Name')}” depends on “${master}”, which the mode does not have, and was left out`,
    );
    return 'never';
  }
  const bytes = bytesOf(of);
  const from = dmxValue(attr(function_, 'ModeFrom'), bytes) ?? 0;
  const to = Math.max(from, dmxValue(attr(function_, 'ModeTo'), bytes) ?? 256 ** bytes - 1);
  if (of.offset.length === 0) {
    // Nobody can set it: it is what it begins as.
    const stands = defaultRaw(of.element, bytes);
    return stands >= from && stands <= to ? 'always' : 'never';
  }
  return { attribute: of.attribute, from, to };
}

/** Conditions in levels of the channels that they are of; until all are read they are in raw values. */
function withLevels(channels: readonly Channel[]): Channel[] {
  const level = (attribute: string, raw: number): number => {
    const master = channels.find((c) => c.attribute === attribute);
    return master ? levelOfRaw(master, raw) : 0;
  };
  return channels.map((c) => {
    if (!c.functions?.some((f) => f.when)) return c;
    const functions = c.functions.map((f) => {
      if (!f.when) return f;
      const { attribute, from, to } = f.when;
      return { ...f, when: { attribute, from: level(attribute, from), to: level(attribute, to) } };
    });
    return { ...c, functions };
  });
}

const snapOf = (channel: Element): boolean =>
  /^(yes|on|true|1)$/i.test(attr(childOf(channel, 'LogicalChannel'), 'Snap'));

const physicalOf = (
  f: ChannelFunction | undefined,
): Pick<ChannelFunction, 'physicalFrom' | 'physicalTo'> => ({
  physicalFrom: f?.physicalFrom ?? 0,
  physicalTo: f?.physicalTo ?? 1,
});

function channelOf(wire: Wire, all: readonly Wire[], where: string, c: TypeContext): Channel {
  const bytes = bytesOf(wire);
  const at = `${where}, ${attributeInfo(wire.attribute).label}`;
  const offset = wire.offset.slice(0, MOST_BYTES);
  const functions = functionsOf(wire.element, {
    where: at,
    bytes,
    attribute: wire.base,
    wheels: c.wheels,
    when: (f) => whenOf(f, wire, all, at, c.odd),
    attributeOf: attributeFor,
    odd: c.odd,
  });
  for (const f of functionElements(wire.element)) c.saw(wire.base, f);
  const initial = nameFor(attr(initialOf(wire.element), 'Name'));
  const highlight = dmxValue(attr(wire.element, 'Highlight'), bytes);
  const row: Channel = {
    attribute: wire.attribute,
    offset,
    ...(wire.break > 1 ? { break: wire.break } : {}),
    default: 0,
    ...(snapOf(wire.element) ? { snap: true } : {}),
    physicalFrom: 0,
    physicalTo: 1,
    ...(functions.length === 0 || isWhole(functions, bytes) ? {} : { functions }),
  };
  const rests = levelOfRaw(row, defaultRaw(wire.element, bytes));
  return {
    ...row,
    ...physicalOf(functionWhere(functions, rawOf(row, rests), (f) => f.name === initial)),
    default: rests,
    ...(highlight === undefined ? {} : { highlight: levelOfRaw(row, highlight) }),
  };
}

/** A channel that does nothing and rests at nothing only keeps its place. */
const isEmpty = (wire: Wire): boolean =>
  wire.base === 'NoFeature' &&
  defaultRaw(wire.element, 1) === 0 &&
  functionElements(wire.element).every((f) =>
    childrenOf(f, 'ChannelSet').every((s) => attr(s, 'Name') === ''),
  );

/** Defaults with which a unit that is brought up gives light, where those of the file do not. */
function mended(channels: readonly Channel[], where: string, odd: Oddities): Channel[] {
  const emitters = channels.filter(
    (c) => isEmitter(c.attribute) && !c.attribute.startsWith('ColorAdd_UV'),
  );
  const isDark = emitters.length > 0 && emitters.every((c) => c.default === 0);
  if (isDark)
    odd.add(
      where,
      'rests without any colour; it rests white here, so that its intensity alone gives light',
    );
  return channels.map((c) => {
    if (isDark && emitters.includes(c)) return { ...c, default: 1 };
    const open =
      /^Shutter1(@|$)/.test(c.attribute) && !isOpen(c, c.default) ? openLevel(c) : undefined;
    if (open === undefined) return c;
    odd.add(
      where,
      'rests with its shutter closed; it rests open here, so that its intensity alone gives light',
    );
    const there = c.functions && physicalOf(functionWhere(c.functions, rawOf(c, open)));
    return { ...c, default: open, ...there };
  });
}

const sayVirtual = (wires: readonly Wire[], where: string, odd: Oddities): void => {
  for (const { base, offset } of wires)
    if (offset.length === 0 && base !== 'Dimmer')
      odd.add(`${where}, ${base}`, 'is virtual, without an address, and was left out');
};

/** @returns undefined for a mode from which nothing can be patched, which was said then */
export function readMode(element: Element, taken: Set<string>, c: TypeContext): Mode | undefined {
  const name = freeName(nameFor(attr(element, 'Name')) || 'Mode', taken);
  const where = `mode “${name}”`;
  const places = placesBelow(c.type, attr(element, 'Geometry'), c.odd);
  const all = renumberBreaks(wiresOf(element, places, where, c.odd), where, c.odd);
  sayVirtual(all, where, c.odd);
  const own = wired(all, where, c.odd);
  if (own.length === 0) {
    c.odd.add(where, 'has no channels with an address and was left out');
    return undefined;
  }
  const last = (n: number): number =>
    Math.max(0, ...own.filter((w) => w.break === n).flatMap((w) => w.offset));
  const { wires, roots } = intoCells(
    own.filter((w) => !isEmpty(w)),
    places,
    where,
    c.odd,
  );
  const ready = named(wires, where, c.odd);
  const virtual = all.filter((w) => w.offset.length === 0);
  const channels = mended(
    withLevels(ready.map((w) => channelOf(w, [...ready, ...virtual], where, c))),
    where,
    c.odd,
  );
  if (channels.length === 0) {
    c.odd.add(where, 'has no channel that does anything and was left out');
    return undefined;
  }
  const breaks = [2, 3, 4].map(last).filter((n) => n > 0);
  const faces = inFace(roots, c.size);
  const names = new Set<string>();
  return {
    name,
    footprint: Math.max(1, last(1)),
    ...(breaks.length > 0 ? { breaks } : {}),
    ...(roots.length > 0
      ? {
          cells: roots.map((root, i) => ({
            name: freeName(nameFor(root.name) || `Cell ${i + 1}`, names),
            ...(faces[i] ?? { x: 0.5, y: 0.5 }),
          })),
        }
      : {}),
    channels,
  };
}
