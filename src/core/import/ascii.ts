/** ASCII cues into a show: channels as dimmers, whole states as what changes from cue to cue, submasters as looks on faders. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { formatCueNumber } from '../cues/number.ts';
import { valueId, type CuePart, type CueRow, type ValueRow } from '../cues/rows.ts';
import { emptyCue } from '../cues/edits/arrange.ts';
import { standsStill } from '../cues/edits/rules.ts';
import {
  readAscii,
  type AsciiCue,
  type AsciiPart,
  type AsciiSet,
  type AsciiShow,
} from '../ascii/read.ts';
import { litBy } from '../ascii/write.ts';
import { insertRow } from '../edits/define-edit.ts';
import { absolute, formatPoint, fromAbsolute } from '../fixtures/points.ts';
import { routesForUnrouted } from '../fixtures/edits/patch.ts';
import type { FixtureRow, PatchPoint } from '../fixtures/rows.ts';
import { Oddities } from '../formats/odd.ts';
import { nameFor } from '../gdtf/names.ts';
import { membersOf } from '../groups/members.ts';
import { isRefusal, refuse, type Result } from '../refusal.ts';
import { occupied } from '../rig/addresses.ts';
import { attributesOf } from '../rig/attributes.ts';
import { levelOf } from '../looks/value.ts';
import { libraryType } from '../rig/library/index.ts';
import { decodeText } from '../script/anchors.ts';
import { LIMITS } from '../show/fields.ts';
import { firstList, type RowChange, type Show } from '../show/show.ts';
import { takeNumber } from '../show/numbers.ts';
import { plural } from '../words.ts';
import type { ImportContext, ImportFile, Item, Proposed } from './proposed.ts';

const DIMMER = 'generic-dimmer';
const MODE = '8 bit';
const DIMMED = 'Dimmer';
/** Levels come in steps of a 255th: less than half of one is none. */
const NEAR = 1 / 512;

interface Coming extends ImportContext {
  from: AsciiShow;
  odd: Oddities;
  items: Item[];
  changes: RowChange[];
  /** Fixtures by the channels of the file. */
  units: Map<number, FixtureRow>;
}

/** Every channel that the file speaks of, in order. */
function channelsIn({ patch, cues, groups, subs }: AsciiShow): number[] {
  const all = new Set(patch.keys());
  for (const { parts } of cues)
    for (const { levels } of parts) for (const c of levels.keys()) all.add(c);
  for (const { levels } of [...groups, ...subs]) for (const c of levels.keys()) all.add(c);
  return [...all].sort((a, b) => a - b);
}

/** Addresses that are free, of those that the file gives a channel. */
function pointsFor(c: Coming, channel: number, taken: Set<number>): PatchPoint[] {
  return (c.from.patch.get(channel) ?? []).slice(0, 64).flatMap(({ dimmer }) => {
    const where = `channel ${channel}`;
    if (dimmer > LIMITS.universes * UNIVERSE_SLOTS) {
      c.odd.add(where, `its dimmer ${dimmer} is past the last address and was left out`);
      return [];
    }
    if (taken.has(dimmer)) {
      c.odd.add(
        where,
        `its dimmer ${dimmer} (${formatPoint(fromAbsolute(dimmer))}) is taken and was left out`,
      );
      return [];
    }
    taken.add(dimmer);
    return [fromAbsolute(dimmer)];
  });
}

const COLUMNS = 24;

/** Channels that are here already stand for themselves; others become dimmers. */
function bringChannels(c: Coming): void {
  const type = c.show.types.get(DIMMER) ?? libraryType(DIMMER);
  if (!type) return;
  const taken = new Set(
    occupied(c.show).flatMap(({ from, to }) =>
      Array.from({ length: to - from + 1 }, (_, i) => from + i),
    ),
  );
  let made = 0;
  for (const channel of channelsIn(c.from)) {
    const own = c.show.fixtureByNumber(channel);
    const mode = own && c.show.types.get(own.typeId)?.modes.find((m) => m.name === own.mode);
    if (own) {
      if (!mode || !attributesOf(mode).includes(DIMMED))
        c.odd.add(
          `channel ${channel}`,
          `is fixture ${channel} “${own.label}” here, which has no intensity; its levels were left out`,
        );
      else c.units.set(channel, own);
      const wanted = (c.from.patch.get(channel) ?? []).map((p) => p.dimmer);
      if (wanted.length > 0 && !own.patch.some((p) => wanted.includes(absolute(p))))
        c.odd.add(
          `channel ${channel}`,
          `is fixture ${channel} here, at another address; it stays there`,
        );
      continue;
    }
    const patch = pointsFor(c, channel, taken);
    const limit = Math.min(1, ...(c.from.patch.get(channel) ?? []).map((p) => p.level));
    const unit: FixtureRow = {
      id: c.newId(),
      number: channel,
      label: `Channel ${channel}`,
      typeId: type.id,
      mode: MODE,
      patch,
      position: { x: -9 + (made % COLUMNS) * 0.8, y: -6 - Math.floor(made / COLUMNS) * 0.8, z: 0 },
      rotation: 0,
      hang: '',
      noGrandMaster: false,
      ...(limit < 1 ? { transforms: { [DIMMED]: { max: limit } } } : {}),
    };
    if (made++ === 0 && !c.show.types.has(type.id)) c.changes.push(insertRow('types', type));
    c.units.set(channel, unit);
    c.changes.push(insertRow('fixtures', unit));
    c.items.push({
      what: 'channel',
      name: String(channel),
      does: 'new',
      says: patch.map(formatPoint).join(', ') || 'off the rig',
    });
  }
  c.changes.push(
    ...routesForUnrouted(
      c.show,
      c.changes.flatMap((x) => (x.table === 'fixtures' && x.after ? [x.after.patch] : [])),
    ).changes,
  );
}

const partOf = (p: AsciiPart, like: AsciiPart | undefined): CuePart => ({
  number: p.number,
  name: nameFor(p.name),
  up_s: p.up_s ?? like?.up_s ?? UP_S,
  down_s: p.down_s ?? p.up_s ?? like?.down_s ?? UP_S,
  delay_s: p.upDelay_s,
  family_s: {},
  note: '',
});
const UP_S = 5;

/** Only where it changes: what a cue does not name is out. */
function valuesOf(c: Coming, cue: AsciiCue, cueId: string, state: Map<number, number>): ValueRow[] {
  const next = new Map<number, { level: number; part: AsciiPart }>();
  for (const part of cue.parts)
    for (const [channel, level] of part.levels) next.set(channel, { level, part });
  const [whole] = cue.parts;
  for (const [channel, level] of state)
    if (level > 0 && !next.has(channel) && whole) next.set(channel, { level: 0, part: whole });
  return [...next].flatMap(([channel, { level, part }]): ValueRow[] => {
    const before = state.get(channel) ?? 0;
    const unit = c.units.get(channel);
    if (Math.abs(before - level) < NEAR) return [];
    state.set(channel, level);
    if (!unit) return [];
    const waits = level < before && part.downDelay_s !== part.upDelay_s;
    return [
      {
        id: valueId(cueId, unit.id, DIMMED),
        cueId,
        fixtureId: unit.id,
        attribute: DIMMED,
        level,
        ...(part.number > 0 ? { part: part.number } : {}),
        ...(waits ? { delay_s: part.downDelay_s } : {}),
      },
    ];
  });
}

/** What cues of the list that are there already make of the state, up to a number; each is asked once. */
function trackedUpTo(c: Coming, listId: string, state: Map<number, number>): (to: number) => void {
  const there = c.show.cuesOf(listId);
  const channelOf = new Map([...c.units].map(([channel, unit]) => [unit.id, channel]));
  let next = 0;
  return (to) => {
    for (; (there[next]?.number ?? Infinity) < to; next++)
      for (const value of c.show.valuesOf(there[next]?.id ?? '').values()) {
        const channel = value.attribute === DIMMED ? channelOf.get(value.fixtureId) : undefined;
        if (channel !== undefined) state.set(channel, levelOf(c.show, value) ?? 0);
      }
  };
}

function rowOf(cue: AsciiCue, id: string, listId: string): CueRow {
  const [whole, ...parts] = cue.parts;
  const name = nameFor(cue.name);
  return {
    ...emptyCue(id, listId, cue.number, name),
    up_s: whole?.up_s ?? UP_S,
    down_s: whole?.down_s ?? whole?.up_s ?? UP_S,
    delay_s: whole?.upDelay_s ?? 0,
    follow_s: cue.follow_s ?? null,
    ...(parts.length > 0 ? { parts: parts.map((p) => partOf(p, whole)) } : {}),
    ...(cue.name.length > name.length ? { note: cue.name.slice(0, LIMITS.noteLength) } : {}),
  };
}

/** The list that they go into: one without cues, the one that was asked for, or a new one called after the file. */
function listFor(c: Coming, name: string): string {
  const asked = c.options.list === undefined ? undefined : c.show.lists.get(c.options.list);
  const first = firstList(c.show);
  if (asked) return asked.id;
  if (first && c.show.cuesOf(first.id).length === 0) return first.id;
  const numbers = new Set([...c.show.lists.values()].map((l) => l.number));
  const list = {
    id: c.newId(),
    number: takeNumber(numbers, 1),
    name: nameFor(name) || 'Cues',
    back_s: 2,
  };
  c.changes.push(insertRow('lists', list));
  c.items.push({ what: 'list', name: list.name, does: 'new' });
  return list.id;
}

function bringCues(c: Coming, listId: string): void {
  const taken = new Set(c.show.cuesOf(listId).map((q) => q.number));
  const ids = new Map<number, string>();
  const sorted = [...c.from.cues].sort((a, b) => a.number - b.number);
  const cues = sorted.filter((cue) => {
    const isFree = !taken.has(cue.number);
    taken.add(cue.number);
    if (isFree) ids.set(cue.number, c.newId());
    else
      c.odd.add(
        `line ${cue.line}`,
        `cue ${formatCueNumber(cue.number)} is there already and was left out`,
      );
    return isFree;
  });
  const state = new Map<number, number>();
  const trackUpTo = trackedUpTo(c, listId, state);
  for (const cue of cues) {
    trackUpTo(cue.number);
    const id = ids.get(cue.number) ?? '';
    const to = cue.link === undefined ? undefined : ids.get(cue.link);
    if (cue.link !== undefined && to === undefined)
      c.odd.add(
        `line ${cue.line}`,
        `cue ${formatCueNumber(cue.number)} leads to ${formatCueNumber(cue.link)}, which is not there; it leads on`,
      );
    const row = { ...rowOf(cue, id, listId), ...(to === undefined ? {} : { link: { to } }) };
    const values = valuesOf(c, cue, id, state);
    c.changes.push(insertRow('cues', row), ...values.map((v) => insertRow('values', v)));
    c.items.push({
      what: 'cue',
      name: `${formatCueNumber(cue.number)} ${row.name}`.trim(),
      does: 'new',
      says: `${plural(values.length, 'change')}${row.parts ? `, ${plural(row.parts.length, 'part')}` : ''}`,
    });
  }
}

interface Lit {
  unit: FixtureRow;
  level: number;
}
const lit = (c: Coming, set: AsciiSet): Lit[] =>
  [...set.levels].flatMap(([channel, level]) => {
    const unit = c.units.get(channel);
    return unit && level > 0 ? [{ unit, level }] : [];
  });

function lookOf(c: Coming, name: string, units: readonly Lit[], numbers: Set<number>): string {
  const look = {
    id: c.newId(),
    number: takeNumber(numbers, 1),
    name,
    items: units.map(({ unit, level }) => ({
      kind: 'level' as const,
      fixtureId: unit.id,
      attribute: DIMMED,
      level,
    })),
  };
  c.changes.push(insertRow('looks', look));
  c.items.push({ what: 'look', name, does: 'new', says: plural(look.items.length, 'level') });
  return look.id;
}

/** Whether the same units have the same levels, as near as the format comes. */
const isAlike = (units: readonly Lit[], there: ReadonlyMap<string, number>): boolean =>
  units.length === there.size &&
  units.every(({ unit, level }) => Math.abs(level - (there.get(unit.id) ?? NaN)) < NEAR);

/** A group of that name with these units is there, as one that left and came back; levels would be a look as well. */
const hasGroup = (show: Show, name: string, units: readonly Lit[]): boolean =>
  [...show.groups.values()].some(
    (g) => g.name === name && isAlike(units, new Map(membersOf(show, g).map((id) => [id, 1]))),
  );

const hasSubmaster = (show: Show, name: string, units: readonly Lit[]): boolean =>
  [...show.faders.values()].some(
    (f) => f.holds.kind === 'look' && f.name === name && isAlike(units, litBy(show, f.holds.id)),
  );

function bringSets(c: Coming): void {
  const numbersOf = (rows: Iterable<{ number: number }>): Set<number> =>
    new Set([...rows].map((r) => r.number));
  const [groups, looks, faders] = [
    numbersOf(c.show.groups.values()),
    numbersOf(c.show.looks.values()),
    numbersOf(c.show.faders.values()),
  ];
  for (const set of c.from.groups) {
    const name = nameFor(set.name) || `Group ${set.number}`;
    const units = lit(c, set);
    if (units.length === 0) continue;
    if (hasGroup(c.show, name, units)) {
      c.items.push({ what: 'group', name, does: 'same' });
      continue;
    }
    c.changes.push(
      insertRow('groups', {
        id: c.newId(),
        number: takeNumber(groups, set.number),
        name,
        fixtures: units.map((u) => u.unit.id),
      }),
    );
    c.items.push({ what: 'group', name, does: 'new', says: plural(units.length, 'fixture') });
    // Levels of a group are a look of its own.
    if (units.some((u) => u.level < 1)) lookOf(c, name, units, looks);
  }
  for (const set of c.from.subs) {
    const name = nameFor(set.name) || `Submaster ${set.number}`;
    const units = lit(c, set);
    if (units.length === 0) continue;
    if (hasSubmaster(c.show, name, units)) {
      c.items.push({ what: 'fader', name, does: 'same' });
      continue;
    }
    const look = lookOf(c, name, units, looks);
    const number = takeNumber(faders, Math.min(set.number, 999));
    if (number > 999) continue;
    c.changes.push(
      insertRow('faders', {
        id: c.newId(),
        number,
        name,
        holds: { kind: 'look', id: look },
        mode: 'proportional',
        flash: 'full',
      }),
    );
    c.items.push({ what: 'fader', name, does: 'new', says: 'the submaster' });
  }
}

/** What a file in USITT ASCII would bring: cues, groups, palettes. Nothing is changed. */
export function importAscii(file: ImportFile, context: ImportContext): Result<Proposed> {
  const read = decodeText(file.bytes);
  if (!read) return refuse('invalid', `“${file.name}” is no text.`);
  const odd = new Oddities();
  const from = readAscii(read.text, odd);
  const c: Coming = { ...context, from, odd, items: [], changes: [], units: new Map() };
  bringChannels(c);
  const listId = from.cues.length > 0 ? listFor(c, file.name.replace(/\.\w+$/, '')) : '';
  bringCues(c, listId);
  bringSets(c);
  if (c.changes.length === 0)
    return refuse('invalid', `There is no patch and no cue in “${file.name}” that could come in.`);
  const still = from.cues.length > 0 ? standsStill(c.show, listId, c.changes) : undefined;
  if (isRefusal(still)) return still;
  const count = (what: string): number => c.items.filter((i) => i.what === what).length;
  const summary = `Took in ASCII cues: ${plural(count('cue'), 'cue')}, ${plural(count('channel'), 'new channel')}, ${plural(count('group'), 'group')}, ${plural(count('fader'), 'submaster')}`;
  return { kind: 'ascii', items: c.items, problems: odd.all(), changes: c.changes, summary };
}
