/**
 * ASCII cues (ASCII Text Representation for Lighting Console Data 3.0) as plain records: keywords whatever their case and
 * length, what nobody knows skipped to the next of them.
 */
import { parseCueNumber } from '../cues/number.ts';
import { seconds } from '../cues/clock.ts';
import type { Oddities } from '../formats/odd.ts';
import { LIMITS } from '../show/fields.ts';

/** A cue’s times, or those of one of its parts; undefined where the file says none. */
export interface AsciiPart {
  /** 0: of the cue itself. */
  number: number;
  name: string;
  up_s: number | undefined;
  upDelay_s: number;
  down_s: number | undefined;
  downDelay_s: number;
  levels: Map<number, number>;
}
/** A cue as the file has it. */
export interface AsciiCue {
  line: number;
  /** In thousandths. */
  number: number;
  name: string;
  follow_s: number | undefined;
  /** In thousandths. */
  link: number | undefined;
  parts: AsciiPart[];
}
/** A group or a submaster: levels 0…1 by channel. */
export interface AsciiSet {
  line: number;
  number: number;
  name: string;
  levels: Map<number, number>;
}
/** What a file says, before it meets a show. */
export interface AsciiShow {
  /** By channel: absolute addresses from 1, each with the level that it is held to. */
  patch: Map<number, { dimmer: number; level: number }[]>;
  cues: AsciiCue[];
  groups: AsciiSet[];
  subs: AsciiSet[];
}

/** Keywords by as many letters as tell them from each other. */
const KEYWORDS = [
  ['cue', /^cu(e)?$/i],
  ['chan', /^ch(a(n(n(e(ls?)?)?)?)?)?$/i],
  ['clear', /^cl(e(a(r)?)?)?$/i],
  ['console', /^con(s(o(l(e)?)?)?)?$/i],
  ['down', /^d(o(w(n)?)?)?$/i],
  ['enddata', /^end(d(a(t(a)?)?)?)?$/i],
  ['followon', /^f(o(l(l(o(w(o(n)?)?)?)?)?)?)?$/i],
  ['group', /^g(r(o(u(p)?)?)?)?$/i],
  ['ident', /^i(d(e(n(t)?)?)?)?$/i],
  ['link', /^l(i(n(k)?)?)?$/i],
  ['manufacturer', /^m(a(n(u(f(a(c(t(u(r(e(r)?)?)?)?)?)?)?)?)?)?)?$/i],
  ['part', /^par(t)?$/i],
  ['patch', /^pat(c(h)?)?$/i],
  ['set', /^se(t)?$/i],
  ['sub', /^su(b)?$/i],
  ['text', /^t(e(x(t)?)?)?$/i],
  ['up', /^u(p)?$/i],
] as const;
type Keyword = (typeof KEYWORDS)[number][0];

const MOST_CUES = 10_000;
const MOST_LEVELS = 2_000_000;

/** `FL`, `50`, `H7F`; 0…1. Undefined for what is none. */
export function levelIn(text: string): number | undefined {
  if (/^f(l|f|ull)?$/i.test(text)) return 1;
  const hex = /^h([0-9a-f]{1,2})$/i.exec(text);
  if (hex) return Number.parseInt(hex[1] ?? '0', 16) / 255;
  const percent = /^(\d{1,3})%?$/.test(text) ? Number.parseInt(text, 10) : NaN;
  return percent >= 0 && percent <= 100 ? percent / 100 : undefined;
}

interface Reading {
  show: AsciiShow;
  odd: Oddities;
  cue: AsciiCue | undefined;
  part: AsciiPart | undefined;
  /** A group or a submaster. */
  set: AsciiSet | undefined;
  /** What lines without a keyword go on with. */
  last: Keyword | undefined;
  count: number;
}

const freshPart = (number: number): AsciiPart => ({
  number,
  name: '',
  up_s: undefined,
  upDelay_s: 0,
  down_s: undefined,
  downDelay_s: 0,
  levels: new Map(),
});

function beginCue(r: Reading, rest: string, line: number): void {
  r.set = undefined;
  const number = parseCueNumber(rest.split(/\s+/)[0] ?? '');
  r.cue = r.part = undefined;
  if (number === undefined)
    return r.odd.add(
      `line ${line}`,
      `“${rest.slice(0, 40)}” is no cue’s number; the cue was left out`,
    );
  if (r.show.cues.length >= MOST_CUES)
    return r.odd.add('the file', `has more than ${MOST_CUES} cues; the rest was left out`);
  const part = freshPart(0);
  r.cue = { line, number, name: '', follow_s: undefined, link: undefined, parts: [part] };
  r.part = part;
  r.show.cues.push(r.cue);
}

function beginSet(r: Reading, into: AsciiSet[], rest: string, line: number): void {
  r.cue = r.part = undefined;
  const number = Number(rest.split(/\s+/)[0]);
  r.set = undefined;
  if (!Number.isInteger(number) || number < 1 || number > LIMITS.fixtureNumber)
    return r.odd.add(`line ${line}`, `“${rest.slice(0, 40)}” is no number; it was left out`);
  r.set = { line, number, name: '', levels: new Map() };
  into.push(r.set);
}

function beginPart(r: Reading, rest: string, line: number): void {
  const number = Number(rest.split(/\s+/)[0]);
  if (!r.cue || !Number.isInteger(number) || number < 1 || number > 24)
    return r.odd.add(
      `line ${line}`,
      `“part ${rest.slice(0, 20)}” is none of a cue; its levels go into the cue itself`,
    );
  r.part = freshPart(number);
  r.cue.parts.push(r.part);
}

/** Whether there is room for one more level or patch. */
function hasRoom(r: Reading): boolean {
  if (++r.count <= MOST_LEVELS) return true;
  r.odd.add('the file', `has more than ${MOST_LEVELS} levels; the rest was left out`);
  return false;
}

/** `1@FL 2/50`, also with blanks about the mark. */
function channels(r: Reading, rest: string, line: number): void {
  const into = r.set?.levels ?? r.part?.levels;
  if (!into)
    return r.odd.add(
      `line ${line}`,
      'has levels outside of a cue, group or submaster; they were left out',
    );
  for (const word of rest.replaceAll(/\s*[@/]\s*/g, '@').split(/[\s,]+/)) {
    if (word === '') continue;
    const [number = '', written = ''] = word.split('@');
    const [channel, level] = [Number(number), levelIn(written)];
    if (
      !Number.isInteger(channel) ||
      channel < 1 ||
      channel > LIMITS.fixtureNumber ||
      level === undefined
    )
      r.odd.add(`line ${line}`, `“${word.slice(0, 30)}” is no channel at a level; it was left out`);
    else if (hasRoom(r)) into.set(channel, level);
  }
}

/** `1 1<1@FL 2<513`: a page first, where it is there. */
function patch(r: Reading, rest: string, line: number): void {
  const words = rest
    .replaceAll(/\s*([<@])\s*/g, '$1')
    .split(/[\s,]+/)
    .filter((w) => w !== '');
  for (const word of words) {
    if (/^\d+$/.test(word)) continue;
    const found = /^(\d{1,5})<(\d{1,6})(?:@(\w+%?))?$/.exec(word);
    const level = found?.[3] === undefined ? 1 : levelIn(found[3]);
    const [channel, dimmer] = [Number(found?.[1]), Number(found?.[2])];
    if (!found || level === undefined || channel < 1 || dimmer < 1)
      r.odd.add(
        `line ${line}`,
        `“${word.slice(0, 30)}” is no channel on a dimmer; it was left out`,
      );
    else if (hasRoom(r))
      r.show.patch.set(channel, [...(r.show.patch.get(channel) ?? []), { dimmer, level }]);
  }
}

function times(r: Reading, rest: string, line: number, way: 'up' | 'down'): void {
  const [time = '', delay = '0'] = rest.split(/[\s,]+/);
  const [s, wait] = [seconds(time), seconds(delay)];
  if (r.set)
    return r.odd.add('times', 'of groups and submasters have no place here and were left out');
  if (!r.part) return;
  if (s === undefined || wait === undefined || s > LIMITS.time_s || wait > LIMITS.time_s)
    return r.odd.add(
      `line ${line}`,
      `“${rest.slice(0, 30)}” is no time; it is as cues usually are`,
    );
  if (way === 'up') [r.part.up_s, r.part.upDelay_s] = [s, wait];
  else [r.part.down_s, r.part.downDelay_s] = [s, wait];
}

function text(r: Reading, rest: string): void {
  if (r.set) r.set.name = rest;
  else if (r.part && r.part.number > 0) r.part.name = rest;
  else if (r.cue) r.cue.name = rest;
}

function followOn(r: Reading, rest: string, line: number): void {
  const s = seconds(rest.split(/\s+/)[0] ?? '');
  if (s === undefined || s > LIMITS.time_s)
    r.odd.add(`line ${line}`, `“${rest.slice(0, 30)}” is no time to follow on; it waits`);
  else if (r.cue) r.cue.follow_s = s;
}

function link(r: Reading, rest: string, line: number): void {
  if (!r.cue) return;
  r.cue.link = parseCueNumber(rest.split(/\s+/)[0] ?? '');
  if (r.cue.link === undefined)
    r.odd.add(`line ${line}`, `“${rest.slice(0, 30)}” is no cue’s number; nothing is linked`);
}

/** What is begun by a keyword. @returns whether there is more to read */
function keyword(r: Reading, word: Keyword, rest: string, line: number): boolean {
  r.last = word === 'chan' || word === 'patch' ? word : undefined;
  if (word === 'enddata') return false;
  if (word === 'cue') beginCue(r, rest, line);
  else if (word === 'group') beginSet(r, r.show.groups, rest, line);
  else if (word === 'sub') beginSet(r, r.show.subs, rest, line);
  else if (word === 'part') beginPart(r, rest, line);
  else if (word === 'chan') channels(r, rest, line);
  else if (word === 'patch') patch(r, rest, line);
  else if (word === 'up' || word === 'down') times(r, rest, line, word);
  else if (word === 'text') text(r, rest);
  else if (word === 'followon') followOn(r, rest, line);
  else if (word === 'link') link(r, rest, line);
  else if (word === 'clear')
    r.odd.add('clear', 'nothing of the show is cleared: undo and delete are yours');
  else if (word === 'set') r.odd.add('set', 'settings of another program were left out');
  return true;
}

/** Reads a file’s lines. Never throws. */
export function readAscii(words: string, odd: Oddities): AsciiShow {
  const r: Reading = {
    show: { patch: new Map(), cues: [], groups: [], subs: [] },
    odd,
    cue: undefined,
    part: undefined,
    set: undefined,
    last: undefined,
    count: 0,
  };
  let line = 0;
  let foreign = false;
  for (const whole of words.split(/\r\n?|\n/)) {
    line++;
    const plain = whole.replace(/!.*$/, '').trim();
    if (plain === '') continue;
    const [first = ''] = plain.split(/[\s:]+/);
    const rest = plain.slice(first.length).trim();
    if (first.startsWith('$')) {
      // A maker's own: what belongs to it goes on to the next keyword.
      r.last = undefined;
      foreign = true;
      odd.add(`“${first.slice(0, 30)}”`, 'is a word of another program and was left out');
      continue;
    }
    const known = KEYWORDS.find(([, is]) => is.test(first))?.[0];
    if (known) {
      foreign = false;
      if (!keyword(r, known, rest, line)) break;
    } else if (r.last && /^\d/.test(plain)) {
      if (r.last === 'chan') channels(r, plain, line);
      else patch(r, plain, line);
    } else {
      r.last = undefined;
      if (!foreign)
        odd.add(
          `line ${line}`,
          `“${plain.slice(0, 30)}” is nothing of ASCII cues; it was left out`,
        );
    }
  }
  return r.show;
}
