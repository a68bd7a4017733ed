/** What the units of a selection do: palettes, looks, effects, colours, aims; what is held on stage, guarded, and sent home. */
import { hueSaturation, kelvin } from '../color/mix.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { LiveCommand } from '../live/commands.ts';
import { lookSlots } from '../looks/resolve.ts';
import { reachOf } from '../palettes/resolve.ts';
import type { PaletteRow } from '../palettes/rows.ts';
import { SWATCHES } from '../palettes/standard.ts';
import { familyOf } from '../rig/attributes.ts';
import { plain } from '../rig/search.ts';
import type { Family } from '../show/fields.ts';
import { numberRanges, plural } from '../words.ts';
import type { Read } from './intent.ts';
import { isPlacing, placing } from './placing.ts';
import { Complaint, type Reader } from './reader.ts';
import { recordingGroup } from './of-rows.ts';
import { decimal, family, inTime, live, named, ofFamily, point, seconds, timed } from './said.ts';
import { percentage } from './setting.ts';
import { lettingGo, taking } from './taking.ts';
import type { Word } from './words.ts';

/** A selection, and the verb that is said of it. */
interface Said {
  r: Reader;
  word: Word;
  ids: readonly string[];
  fixtures: readonly FixtureRow[];
  numbers: number[];
  /** As a line says them. */
  who: string;
  /** Selects them, and sets something of them. */
  set: (command: LiveCommand, says: string) => Read;
}

const alone = (found: Family | undefined): string => (found ? `, ${found} alone` : '');

function look({ r, fixtures, numbers, set }: Said): Read {
  const { show } = r.context;
  const row = named(r, show.looks.values(), 'a look');
  const of = family(r);
  const fade = seconds(r);
  const reached = new Set(
    [...lookSlots(show, row.id).values()]
      .filter((s) => !of || familyOf(s.attribute) === of)
      .map((s) => s.fixtureId),
  );
  const able = fixtures.filter((f) => reached.has(f.id));
  if (able.length === 0)
    throw new Complaint(
      `Look ${row.number} “${row.name}” says nothing${of ? ` of ${of}` : ''} for ${numberRanges(numbers)}.`,
      r.previous(),
    );
  return set(
    {
      command: 'look',
      look: row.id,
      fixtures: able.map((f) => f.number),
      ...ofFamily(of),
      ...timed(fade),
    },
    `${plural(able.length, 'fixture')} as look ${row.number} “${row.name}”${alone(of)}${inTime(fade)}`,
  );
}

function effect({ r, numbers, who, set }: Said): Read {
  const row = named(r, r.context.show.effects.values(), 'an effect');
  const off = r.takeKey('off') !== undefined;
  const fade = seconds(r);
  return set(
    { command: 'effect', effect: row.id, fixtures: numbers, on: !off, ...timed(fade) },
    off
      ? `${who} without effect ${row.number} “${row.name}”${inTime(fade)}`
      : `effect ${row.number} “${row.name}” over ${who}, in this order${inTime(fade)}`,
  );
}

function coloured(said: Said): Read {
  const { r, word, fixtures, numbers, who, set } = said;
  const target = colour(r, word);
  // A colour of the show is followed: when the palette changes, so do these. Two of them, from one to the other, are values.
  if (target.palette && !['thru', 'to'].includes(r.peek()?.key ?? ''))
    return palette(said, target.palette);
  const end =
    (word.key === 'colour' || word.key === 'color') && r.takeKey('thru', 'to')
      ? colour(r, word)
      : undefined;
  if (end && fixtures.length < 2)
    throw new Complaint('From one colour to another needs at least two fixtures.', r.previous());
  const fade = seconds(r);
  return set(
    {
      command: 'colour',
      fixtures: numbers,
      ...target.at,
      ...(end && 'x' in end.at ? { to: end.at } : {}),
      ...timed(fade),
    },
    `${who} · ${target.says}${end ? ` to ${end.says}` : ''}${inTime(fade)}`,
  );
}

function aim(said: Said): Read {
  const { r, numbers, who, set } = said;
  r.takeKey('at');
  const from = point(r);
  if (from.palette && !['thru', 'to', 'flip'].includes(r.peek()?.key ?? ''))
    return palette(said, from.palette);
  const to = r.takeKey('thru', 'to') ? point(r) : undefined;
  const flip = r.takeKey('flip') !== undefined;
  const fade = seconds(r);
  const where = to ? `along a line from ${from.says} to ${to.says}` : `at ${from.says}`;
  return set(
    {
      command: 'aim',
      fixtures: numbers,
      points: to ? [from.at, to.at] : [from.at],
      flip,
      ...timed(fade),
    },
    `${who} look ${where}${flip ? ', the other way round' : ''}${inTime(fade)}`,
  );
}

function flip({ r, numbers, who, set }: Said): Read {
  const fade = seconds(r);
  return set(
    { command: 'flip', fixtures: numbers, ...timed(fade) },
    `${who} look there the other way round${inTime(fade)}`,
  );
}

function like({ r, numbers, who, set }: Said): Read {
  const from = r.whole('the number of the fixture to be like');
  if (!r.context.show.fixtureByNumber(from))
    throw new Complaint(`There is no fixture ${from}.`, r.previous());
  const of = family(r);
  const fade = seconds(r);
  return set(
    { command: 'like', fixtures: numbers, from, ...ofFamily(of), ...timed(fade) },
    `${who} like fixture ${from}${alone(of)}${inTime(fade)}`,
  );
}

function home({ r, numbers, who, set }: Said): Read {
  const of = family(r);
  const fade = seconds(r);
  return set(
    { command: 'home', fixtures: numbers, ...ofFamily(of), ...timed(fade) },
    `${who} home${of ? alone(of) : ': at full, straight ahead, open white'}${inTime(fade)}`,
  );
}

function hold({ r, numbers, who }: Said): Read {
  const off = r.takeKey('off') !== undefined;
  const level = !off && r.takeKey('at', '@') ? percentage(r) : undefined;
  return live(
    r,
    { command: 'focus', fixtures: numbers, level: level?.level ?? 1, on: !off },
    off
      ? `let ${who} off`
      : `hold ${who} at ${level?.says ?? 'full'} for focus, whatever plays, until let off`,
  );
}

function guard({ r, numbers, who }: Said): Read {
  const off = r.takeKey('off') !== undefined;
  const time = off ? seconds(r) : undefined;
  return live(
    r,
    { command: 'guard', fixtures: numbers, on: !off, ...(time === undefined ? {} : { time }) },
    off
      ? `let ${who} off their guard: they fade to what plays${time === undefined ? '' : ` in ${time} s`}`
      : `guard ${who}: nothing that plays reaches them, your hands do`,
  );
}

const VERBS: Readonly<Record<string, (said: Said) => Read>> = {
  palette: (said) => palette(said),
  look,
  effect,
  colour: coloured,
  color: coloured,
  white: coloured,
  hue: coloured,
  aim,
  flip,
  like,
  home,
  hold,
  guard,
  take: ({ r, numbers }) => taking(r, numbers),
  let: ({ r, numbers }) => lettingGo(r, numbers),
  letgo: ({ r, numbers }) => lettingGo(r, numbers),
  record: ({ r, ids }) => recordingGroup(r, ids),
};

/** `1 thru 8 palette 3`, `group 2 colour "Port red"`, `101 aim at 0 3 1.6`, `5 let go` … @param ids selected, in order */
export function stageVerb(r: Reader, ids: readonly string[], typed: boolean): Read {
  const word = r.next();
  const fixtures = ids.flatMap((id) => r.context.show.fixtures.get(id) ?? []);
  if (!word || fixtures.length === 0)
    throw new Complaint(
      'Nothing is selected: begin with fixture numbers, such as 1 thru 8.',
      word ?? r.previous(),
    );
  if (isPlacing(word.key)) return placing(r, word, word.key, fixtures);
  const who = typed
    ? plural(fixtures.length, 'fixture')
    : `the ${plural(fixtures.length, 'selected fixture')}`;
  const set = (command: LiveCommand, says: string): Read => {
    r.end();
    return {
      intent: { kind: 'select-and-set', select: [...ids], command },
      says: `${says} · into your programmer`,
    };
  };
  const verb = VERBS[word.key];
  if (!verb) throw new Complaint(`“${word.text}” is nothing that fixtures do.`, word);
  return verb({ r, word, ids, fixtures, numbers: fixtures.map((f) => f.number), who, set });
}

/** The show's own colour of a name comes before the swatch of that name. */
function coloursOf(
  palettes: Iterable<PaletteRow>,
): { name: string; at: { kelvin: number } | { x: number; y: number }; palette?: PaletteRow }[] {
  const own = [...palettes].flatMap((p) => {
    if (p.any?.colour) return [{ name: p.name, at: p.any.colour, palette: p }];
    return p.any?.kelvin ? [{ name: p.name, at: kelvin(p.any.kelvin), palette: p }] : [];
  });
  return [...own, ...SWATCHES.map(([name, at]) => ({ name, at }))];
}

/** `white 3200` */
function white(r: Reader): { at: { kelvin: number }; says: string } {
  const k = decimal(r, 'a temperature in kelvin');
  if (k < 1667 || k > 25_000)
    throw new Complaint(`White goes from 1667 to 25000 K; ${k} does not.`, r.previous());
  return { at: { kelvin: k }, says: `white ${k} K` };
}

/** `hue 212 sat 60` */
function hue(r: Reader): { at: { x: number; y: number }; says: string } {
  const degrees = decimal(r, 'a hue in degrees');
  const saturation = r.takeKey('sat', 'saturation') ? decimal(r, 'a saturation in percent') : 100;
  if (degrees < 0 || degrees > 360 || saturation < 0 || saturation > 100)
    throw new Complaint(
      'A hue goes from 0 to 360 degrees, a saturation from 0 to 100 %.',
      r.previous(),
    );
  return {
    at: hueSaturation(degrees % 360, saturation / 100),
    says: `hue ${degrees}°, saturation ${saturation} %`,
  };
}

/** @returns the palette of the show that a name means, where it means one */
function colour(
  r: Reader,
  word: Word,
): { at: { kelvin: number } | { x: number; y: number }; says: string; palette?: PaletteRow } {
  if (word.key === 'white') return white(r);
  if (word.key === 'hue') return hue(r);
  r.takeKey('at', 'palette');
  const wanted = r.next();
  if (!wanted)
    throw new Complaint('Say which colour: colour "Port red", white 3200, hue 212 sat 60', word);
  const known = coloursOf(r.context.show.palettes.values());
  const said = plain(wanted.text);
  const found =
    known.find((k) => plain(k.name) === said) ??
    known.find((k) => plain(k.name).startsWith(said)) ??
    known.find((k) => k.name.split(' ').some((part) => plain(part) === said));
  if (!found) throw new Complaint(`There is no colour called “${wanted.text}”.`, wanted);
  const { at, name, palette: row } = found;
  return { at, says: `colour “${name}”`, ...(row ? { palette: row } : {}) };
}

/** @param found the palette, where its name was read already */
function palette(
  { r, fixtures, numbers, set }: Said,
  found: PaletteRow = named(r, r.context.show.palettes.values(), 'a palette'),
): Read {
  const { show } = r.context;
  const at = r.previous();
  const fade = seconds(r);
  const reached = fixtures.filter((f) => reachOf(show, found, f).size > 0);
  if (reached.length === 0)
    throw new Complaint(
      `Palette ${found.number} “${found.name}” says nothing for ${numberRanges(numbers)}.`,
      at,
    );
  const others = fixtures.filter((f) => !reached.includes(f)).map((f) => f.number);
  const some = others.length > 0 ? ` (it does not reach ${numberRanges(others)})` : '';
  return set(
    { command: 'palette', palette: found.id, fixtures: numbers, ...timed(fade) },
    `${plural(reached.length, 'fixture')} · ${found.family} follows palette ${found.number} “${found.name}”${inTime(fade)}${some}`,
  );
}
