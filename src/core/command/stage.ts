/** Lines about the picture: colours, aims, palettes, looks, effects, what is held, and where units hang. */
import { formatCueNumber } from '../cues/number.ts';
import { hueSaturation, kelvin } from '../color/mix.ts';
import { numberRanges } from '../words.ts';
import { plural } from '../words.ts';
import { planEdit } from '../edits/plan-edit.ts';
import type { LiveCommand } from '../live/commands.ts';
import { lookSlots } from '../looks/resolve.ts';
import { SWATCHES } from '../palettes/standard.ts';
import { reachOf } from '../palettes/resolve.ts';
import { aligned, alongPiece, distributed } from '../plan/arrange.ts';
import { isRefusal } from '../refusal.ts';
import { attributeInfo, familyOf, findAttribute } from '../rig/attributes.ts';
import { plain } from '../rig/search.ts';
import { FAMILIES, type Family, type StagePoint } from '../show/fields.ts';
import { PALETTE_FAMILIES, type PaletteRow } from '../palettes/rows.ts';
import type { FixtureRow } from '../fixtures/rows.ts';
import type { Intent } from './intent.ts';
import { percentage } from './setting.ts';
import { Complaint, type Reader } from './reader.ts';
import { groupNamed } from './selection.ts';
import type { Word } from './words.ts';

export interface Read {
  intent: Intent;
  says: string;
}

export const familyNamed = (word: Word | undefined): Family | undefined =>
  FAMILIES.find((f) => f === (word?.key === 'color' ? 'colour' : word?.key));

/** A row by its number or, in quotes, its name. */
function named<T extends { number: number; name: string }>(
  r: Reader,
  rows: Iterable<T>,
  what: string,
): T {
  const word = r.next();
  const all = [...rows];
  const found =
    word &&
    (word.quoted
      ? all.find((x) => plain(x.name) === plain(word.text))
      : all.find((x) => String(x.number) === word.text));
  if (!word || (!word.quoted && !/^\d+$/.test(word.text)))
    throw new Complaint(
      word
        ? `“${word.text}” is not ${what} number; a name goes in quotes.`
        : `Here ${what} number is missing.`,
      word ?? r.previous(),
    );
  if (!found)
    throw new Complaint(
      `There is no ${what.replace(/^an? /, '')} ${word.quoted ? `“${word.text}”` : word.text}.`,
      word,
    );
  return found;
}

const seconds = (r: Reader): number | undefined =>
  r.takeKey('time', 'in') ? r.seconds() : undefined;
const inTime = (fade_s: number | undefined): string =>
  fade_s === undefined || fade_s === 0 ? '' : ` in ${fade_s} s`;
const timed = (fade_s: number | undefined): { fade_s?: number } =>
  fade_s === undefined ? {} : { fade_s };

function decimal(r: Reader, what: string): number {
  const sign = r.takeKey('-') ? -1 : 1;
  const word = r.next();
  if (!word || !/^\d+(\.\d+)?(m|°|k|deg|%)?$/i.test(word.text))
    throw new Complaint(
      word ? `“${word.text}” is not ${what}.` : `Here ${what} is missing.`,
      word ?? r.previous(),
    );
  return sign * Number.parseFloat(word.text);
}

/** `0 3.4 1.6`, `"Bow rail"`, `palette 12`: a stage point in metres, or one that has a name; `high` where its height was said. */
function point(r: Reader): { at: StagePoint; says: string; high: boolean; palette?: PaletteRow } {
  const points = [...r.context.show.palettes.values()].filter(
    (p) => p.family === 'position' && p.any?.point,
  );
  if (r.peek()?.quoted || r.takeKey('palette')) {
    const palette = named(r, points, 'a stage point’s');
    return {
      at: palette.any?.point ?? { x: 0, y: 0, z: 0 },
      says: `“${palette.name}”`,
      high: true,
      palette,
    };
  }
  const x = decimal(r, 'metres across');
  r.takeKey(',');
  const y = decimal(r, 'metres upstage');
  r.takeKey(',');
  const high = !r.done && /^[-\d]/.test(r.peek()?.text ?? '');
  const z = high ? decimal(r, 'metres up') : 0;
  return { at: { x, y, z }, says: `${x} ${y} ${z} m`, high };
}

/** `1 thru 8 palette 3`, `group 2 colour "Port red"`, `101 aim at 0 3 1.6`, `5 let go` … @param ids selected, in order */
export function stageVerb(r: Reader, ids: readonly string[], typed: boolean): Read {
  const { show } = r.context;
  const word = r.next();
  const fixtures = ids.flatMap((id) => show.fixtures.get(id) ?? []);
  if (!word || fixtures.length === 0)
    throw new Complaint(
      'Nothing is selected: begin with fixture numbers, such as 1 thru 8.',
      word ?? r.previous(),
    );
  const numbers = fixtures.map((f) => f.number);
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
  switch (word.key) {
    case 'palette':
      return palette(r, fixtures, set);
    case 'look': {
      const look = named(r, show.looks.values(), 'a look');
      const family = familyNamed(r.peek());
      if (family) r.next();
      const fade = seconds(r);
      const reached = new Set(
        [...lookSlots(show, look.id).values()]
          .filter((s) => !family || familyOf(s.attribute) === family)
          .map((s) => s.fixtureId),
      );
      const able = fixtures.filter((f) => reached.has(f.id));
      if (able.length === 0)
        throw new Complaint(
          `Look ${look.number} “${look.name}” says nothing${family ? ` of ${family}` : ''} for ${numberRanges(numbers)}.`,
          r.previous(),
        );
      return set(
        {
          command: 'look',
          look: look.id,
          fixtures: able.map((f) => f.number),
          ...(family ? { families: [family] } : {}),
          ...timed(fade),
        },
        `${plural(able.length, 'fixture')} as look ${look.number} “${look.name}”${family ? `, ${family} alone` : ''}${inTime(fade)}`,
      );
    }
    case 'effect': {
      const effect = named(r, show.effects.values(), 'an effect');
      const off = r.takeKey('off') !== undefined;
      const fade = seconds(r);
      return set(
        { command: 'effect', effect: effect.id, fixtures: numbers, on: !off, ...timed(fade) },
        off
          ? `${who} without effect ${effect.number} “${effect.name}”${inTime(fade)}`
          : `effect ${effect.number} “${effect.name}” over ${who}, in this order${inTime(fade)}`,
      );
    }
    case 'colour':
    case 'color':
    case 'white':
    case 'hue': {
      const target = colour(r, word);
      // A colour of the show is followed: when the palette changes, so do these. Two of them, from one to the other, are values.
      if (target.palette && !['thru', 'to'].includes(r.peek()?.key ?? ''))
        return palette(r, fixtures, set, target.palette);
      const end =
        (word.key === 'colour' || word.key === 'color') && r.takeKey('thru', 'to')
          ? colour(r, word)
          : undefined;
      if (end && fixtures.length < 2)
        throw new Complaint(
          'From one colour to another needs at least two fixtures.',
          r.previous(),
        );
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
    case 'aim': {
      r.takeKey('at');
      const from = point(r);
      if (from.palette && !['thru', 'to', 'flip'].includes(r.peek()?.key ?? ''))
        return palette(r, fixtures, set, from.palette);
      const to = r.takeKey('thru', 'to') ? point(r) : undefined;
      const flip = r.takeKey('flip') !== undefined;
      const fade = seconds(r);
      return set(
        {
          command: 'aim',
          fixtures: numbers,
          points: to ? [from.at, to.at] : [from.at],
          flip,
          ...timed(fade),
        },
        `${who} look ${to ? `along a line from ${from.says} to ${to.says}` : `at ${from.says}`}${flip ? ', the other way round' : ''}${inTime(fade)}`,
      );
    }
    case 'flip': {
      const fade = seconds(r);
      return set(
        { command: 'flip', fixtures: numbers, ...timed(fade) },
        `${who} look there the other way round${inTime(fade)}`,
      );
    }
    case 'like': {
      const from = r.whole('the number of the fixture to be like');
      if (!r.context.show.fixtureByNumber(from))
        throw new Complaint(`There is no fixture ${from}.`, r.previous());
      const family = familyNamed(r.peek());
      if (family) r.next();
      const fade = seconds(r);
      return set(
        {
          command: 'like',
          fixtures: numbers,
          from,
          ...(family ? { families: [family] } : {}),
          ...timed(fade),
        },
        `${who} like fixture ${from}${family ? `, ${family} alone` : ''}${inTime(fade)}`,
      );
    }
    case 'home': {
      const family = familyNamed(r.peek());
      if (family) r.next();
      const fade = seconds(r);
      return set(
        {
          command: 'home',
          fixtures: numbers,
          ...(family ? { families: [family] } : {}),
          ...timed(fade),
        },
        `${who} home${family ? `, ${family} alone` : ': at full, straight ahead, open white'}${inTime(fade)}`,
      );
    }
    case 'hold': {
      const off = r.takeKey('off') !== undefined;
      const level = !off && r.takeKey('at', '@') ? percentage(r) : undefined;
      r.end();
      return {
        intent: {
          kind: 'live',
          command: { command: 'focus', fixtures: numbers, level: level?.level ?? 1, on: !off },
        },
        says: off
          ? `let ${who} off`
          : `hold ${who} at ${level?.says ?? 'full'} for focus, whatever plays, until let off`,
      };
    }
    case 'guard': {
      const off = r.takeKey('off') !== undefined;
      const time = off && r.takeKey('time', 'in') ? r.seconds() : undefined;
      r.end();
      return {
        intent: {
          kind: 'live',
          command: {
            command: 'guard',
            fixtures: numbers,
            on: !off,
            ...(time === undefined ? {} : { time }),
          },
        },
        says: off
          ? `let ${who} off their guard: they fade to what plays${time === undefined ? '' : ` in ${time} s`}`
          : `guard ${who}: nothing that plays reaches them, your hands do`,
      };
    }
    case 'take':
      return taking(r, numbers);
    case 'let':
    case 'letgo':
      return lettingGo(r, numbers);
    case 'record': {
      r.takeKey('group');
      const number =
        r.peek() && /^\d+$/.test(r.peek()?.text ?? '') ? r.whole('a group number') : undefined;
      const name = r.rest();
      const old = [...show.groups.values()].find((g) => g.number === number);
      if (name === '' && !old)
        throw new Complaint('A group needs a name: record group 5 "Movers"', r.previous());
      return edit(
        r,
        'record-group',
        {
          ...(number === undefined ? {} : { number }),
          name: name || (old?.name ?? ''),
          fixtures: ids,
        },
        `${old ? 'change' : 'make'} group ${number ?? ''} “${name || old?.name}” of ${plural(fixtures.length, 'fixture')}`,
      );
    }
    default:
      return placing(r, word, fixtures);
  }
}

/** @returns the palette of the show that a name means, where it means one */
function colour(
  r: Reader,
  word: Word,
): { at: { kelvin: number } | { x: number; y: number }; says: string; palette?: PaletteRow } {
  const { show } = r.context;
  if (word.key === 'white') {
    const k = decimal(r, 'a temperature in kelvin');
    if (k < 1667 || k > 25_000)
      throw new Complaint(`White goes from 1667 to 25000 K; ${k} does not.`, r.previous());
    return { at: { kelvin: k }, says: `white ${k} K` };
  }
  if (word.key === 'hue') {
    const hue = decimal(r, 'a hue in degrees');
    const saturation = r.takeKey('sat', 'saturation') ? decimal(r, 'a saturation in percent') : 100;
    if (hue < 0 || hue > 360 || saturation < 0 || saturation > 100)
      throw new Complaint(
        'A hue goes from 0 to 360 degrees, a saturation from 0 to 100 %.',
        r.previous(),
      );
    return {
      at: hueSaturation(hue % 360, saturation / 100),
      says: `hue ${hue}°, saturation ${saturation} %`,
    };
  }
  r.takeKey('at', 'palette');
  const wanted = r.next();
  // The show's own colour of a name comes before the swatch of that name.
  const known = [
    ...[...show.palettes.values()].flatMap((p) =>
      p.any?.colour
        ? [{ name: p.name, at: p.any.colour, palette: p }]
        : p.any?.kelvin
          ? [{ name: p.name, at: kelvin(p.any.kelvin), palette: p }]
          : [],
    ),
    ...SWATCHES.map(([name, at]) => ({ name, at, palette: undefined })),
  ];
  const found = wanted
    ? (known.find((k) => plain(k.name) === plain(wanted.text)) ??
      known.find((k) => plain(k.name).startsWith(plain(wanted.text))) ??
      known.find((k) => k.name.split(' ').some((part) => plain(part) === plain(wanted.text))))
    : undefined;
  if (!wanted || !found)
    throw new Complaint(
      wanted
        ? `There is no colour called “${wanted.text}”.`
        : 'Say which colour: colour "Port red", white 3200, hue 212 sat 60',
      wanted ?? word,
    );
  return {
    at: found.at,
    says: `colour “${found.name}”`,
    ...(found.palette ? { palette: found.palette } : {}),
  };
}

/** @param found the palette, where its name was read already */
function palette(
  r: Reader,
  fixtures: readonly FixtureRow[],
  set: (command: LiveCommand, says: string) => Read,
  found: PaletteRow = named(r, r.context.show.palettes.values(), 'a palette'),
): Read {
  const { show } = r.context;
  const at = r.previous();
  const fade = seconds(r);
  const reached = fixtures.filter((f) => reachOf(show, found, f).size > 0);
  if (reached.length === 0)
    throw new Complaint(
      `Palette ${found.number} “${found.name}” says nothing for ${numberRanges(fixtures.map((f) => f.number))}.`,
      at,
    );
  const some =
    reached.length < fixtures.length
      ? ` (it does not reach ${numberRanges(fixtures.filter((f) => !reached.includes(f)).map((f) => f.number))})`
      : '';
  return set(
    {
      command: 'palette',
      palette: found.id,
      fixtures: fixtures.map((f) => f.number),
      ...timed(fade),
    },
    `${plural(reached.length, 'fixture')} · ${found.family} follows palette ${found.number} “${found.name}”${inTime(fade)}${some}`,
  );
}

/** `take lit`, `take cue 5 whole`, with fixtures before it only of these. */
export function taking(r: Reader, numbers?: readonly number[]): Read {
  const only = numbers ? { fixtures: [...numbers] } : {};
  const family = (): { families?: Family[] } => {
    const found = familyNamed(r.peek());
    if (!found) return {};
    r.next();
    return { families: [found] };
  };
  r.takeList();
  if (r.takeKey('cue')) {
    const { number, listId } = r.cue();
    const whole = r.takeKey('whole') !== undefined;
    const what = family();
    r.end();
    return {
      intent: {
        kind: 'live',
        command: {
          command: 'take',
          what: 'cue',
          cue: formatCueNumber(number),
          list: listId,
          whole,
          ...what,
          ...only,
        },
      },
      says: `${whole ? 'all that' : 'what'} cue ${formatCueNumber(number)}${r.ofList} ${whole ? 'shows' : 'sets'}${numbers ? ` of ${numberRanges(numbers)}` : ''} · into your programmer`,
    };
  }
  r.takeKey('lit');
  const what = family();
  r.end();
  return {
    intent: {
      kind: 'live',
      command: { command: 'take', what: 'lit', whole: false, ...what, ...only },
    },
    says: `what is lit${numbers ? ` of ${numberRanges(numbers)}` : ''}, as it is on stage · into your programmer`,
  };
}

/** `let go`, `let go colour time 3`, `5 let go`, `5 let go pan`. */
export function lettingGo(r: Reader, numbers?: readonly number[]): Read {
  r.takeKey('go');
  r.takeKey('of');
  const families: Family[] = [];
  const attributes: string[] = [];
  while (!r.done && r.peek()?.key !== 'time' && r.peek()?.key !== 'in') {
    const word = r.next();
    const family = familyNamed(word);
    const attribute = word ? findAttribute(word.text) : undefined;
    if (family) families.push(family);
    else if (attribute) attributes.push(attribute);
    else throw new Complaint(`“${word?.text}” is neither a family nor an attribute.`, word);
  }
  const fade_s = seconds(r) ?? 2;
  r.end();
  const what = [...families, ...attributes.map((a) => attributeInfo(a).label.toLowerCase())].join(
    ' and ',
  );
  const command: LiveCommand = {
    command: 'letgo',
    fade_s,
    ...(numbers ? { fixtures: [...numbers] } : {}),
    ...(families.length > 0 ? { families } : {}),
    ...(attributes.length > 0 ? { attributes } : {}),
  };
  return {
    intent: { kind: 'live', command },
    says: `${what ? `${what} ` : 'your values '}${numbers ? `of ${numberRanges(numbers)} ` : ''}${what && !numbers ? 'of what you hold ' : ''}fade back to playback in ${fade_s} s`,
  };
}

/** `keep colour` */
export function keeping(r: Reader): Read {
  const families: Family[] = [];
  while (!r.done) {
    const word = r.next();
    const family = familyNamed(word);
    if (!family) throw new Complaint(`Keep what? One of ${FAMILIES.join(', ')}.`, word);
    families.push(family);
  }
  if (families.length === 0)
    throw new Complaint(`Keep what? One of ${FAMILIES.join(', ')}.`, r.previous());
  return {
    intent: { kind: 'live', command: { command: 'keep', families } },
    says: `keep ${families.join(' and ')}, let go of everything else`,
  };
}

function edit(r: Reader, name: string, params: Record<string, unknown>, says: string): Read {
  r.end();
  const planned = planEdit(r.context.show, 'owner', name, params, 'preview');
  if (isRefusal(planned)) throw new Complaint(planned.message, r.previous());
  return { intent: { kind: 'edit', edit: name, params }, says };
}

/** `101 place 2 4.5 6`, `101 thru 104 hang "Bar 2"`, `101 rotate 45`, `5 lean 50`, `1 thru 4 align across`, `1 thru 4 distribute`. */
function placing(r: Reader, word: Word, fixtures: readonly FixtureRow[]): Read {
  const { show } = r.context;
  const who = numberRanges(fixtures.map((f) => f.number));
  const change = (set: (f: FixtureRow, i: number) => Record<string, unknown>, says: string): Read =>
    edit(
      r,
      'change-fixtures',
      { fixtures: fixtures.map((f, i) => ({ id: f.id, set: set(f, i) })) },
      says,
    );
  switch (word.key) {
    case 'place': {
      r.takeKey('at');
      const { at: to, high } = point(r);
      const first = fixtures[0]?.position ?? to;
      const by = { x: to.x - first.x, y: to.y - first.y, z: high ? to.z - first.z : 0 };
      return change(
        (f) => ({
          position: { x: f.position.x + by.x, y: f.position.y + by.y, z: f.position.z + by.z },
        }),
        `${who} hang${fixtures.length === 1 ? 's' : ''} at ${to.x} ${to.y}${high ? ` ${to.z}` : ''} m${fixtures.length > 1 ? ', the first there and the others as far from it as now' : ''}`,
      );
    }
    case 'hang': {
      r.takeKey('on');
      const name = r.rest();
      const piece = [...show.pieces.values()].find(
        (p) => p.name !== '' && plain(p.name) === plain(name),
      );
      if (!piece)
        throw new Complaint(
          name === ''
            ? 'Say on which bar: hang "Bar 2"'
            : `There is no bar called “${name}” on the plan.`,
          r.previous() ?? word,
        );
      const places = alongPiece(piece, fixtures.length);
      return change(
        (_, i) => ({ hang: piece.name, position: places[i] }),
        `${who} on ${piece.name}, evenly along it`,
      );
    }
    case 'rotate': {
      const by = decimal(r, 'an angle in degrees');
      if (Math.abs(by) > 360)
        throw new Complaint('A rotation is at most 360 degrees.', r.previous());
      return change(() => ({ rotation: by }), `${who} turned to ${by}° from upstage`);
    }
    case 'lean': {
      const by = decimal(r, 'an angle in degrees');
      if (Math.abs(by) > 180) throw new Complaint('A lean is at most 180 degrees.', r.previous());
      return change(
        () => ({ lean: by }),
        `${who} lean${fixtures.length === 1 ? 's' : ''} ${by}° from hanging straight down`,
      );
    }
    case 'align': {
      const axis = r.takeKey('across', 'x') ? 'y' : r.takeKey('up', 'y') ? 'x' : 'y';
      const places = aligned(
        fixtures.map((f) => f.position),
        axis,
      );
      return change(
        (_, i) => ({ position: places[i] }),
        `${who} on one line ${axis === 'y' ? 'across' : 'up'} the stage`,
      );
    }
    default: {
      const places = distributed(fixtures.map((f) => f.position));
      return change(
        (_, i) => ({ position: places[i] }),
        `${who} evenly between the first and the last`,
      );
    }
  }
}

/** `record colour palette 5 "Dusk" for any`, `update palette 5`, `record look 4 "Storm"`, `record group 5 "Movers"`. @returns undefined when it is about a cue */
export function recordingOther(r: Reader, verb: Word): Read | undefined {
  const { show, held } = r.context;
  const family = PALETTE_FAMILIES.find(
    (f) => f === (r.peek()?.key === 'color' ? 'colour' : r.peek()?.key),
  );
  if (family) r.next();
  if (r.takeKey('palette')) {
    const number =
      r.peek() && /^\d+$/.test(r.peek()?.text ?? '') ? r.whole('a palette number') : undefined;
    const old = [...show.palettes.values()].find((p) => p.number === number);
    if (verb.key === 'update' && !old)
      throw new Complaint(`There is no palette ${number ?? ''} to update.`, r.previous());
    const of = old?.family ?? family;
    if (!of) throw new Complaint('Say of which family: record colour palette 5 "Dusk"', verb);
    const name = r.peek()?.quoted ? r.next()?.text : undefined;
    const scope = scoped(r);
    r.end();
    if (held(of) === 0)
      throw new Complaint(`You hold nothing of ${of}; a palette takes only its own family.`, verb);
    const params = {
      ...(old ? { id: old.id } : number === undefined ? {} : { number }),
      ...(name === undefined ? {} : { name }),
      family: of,
      ...scope.params,
    };
    return {
      intent: { kind: 'record-held', edit: 'record-palette', params },
      says: `${plural(held(of), 'value')} of ${of} into ${old ? `palette ${old.number} “${name ?? old.name}”` : `a new palette${number === undefined ? '' : ` ${number}`}${name ? ` “${name}”` : ''}`}${scope.says}`,
    };
  }
  if (family)
    throw new Complaint(`Expected “palette”: record ${family} palette 5`, r.peek() ?? r.previous());
  if (r.takeKey('look')) {
    const number =
      r.peek() && /^\d+$/.test(r.peek()?.text ?? '') ? r.whole('a look number') : undefined;
    const old = [...show.looks.values()].find((l) => l.number === number);
    if (verb.key === 'update' && !old)
      throw new Complaint(`There is no look ${number ?? ''} to update.`, r.previous());
    const name = r.peek()?.quoted ? r.next()?.text : undefined;
    r.end();
    if (held() === 0)
      throw new Complaint('You hold nothing; a look is made of what you hold.', verb);
    const params = {
      ...(old ? { id: old.id } : number === undefined ? {} : { number }),
      ...(name === undefined ? {} : { name }),
    };
    return {
      intent: { kind: 'record-held', edit: 'record-look', params },
      says: `${plural(held(), 'value')} into ${old ? `look ${old.number} “${name ?? old.name}”` : `a new look${name ? ` “${name}”` : ''}`}`,
    };
  }
  if (r.peek()?.key === 'group') return stageVerb(behind(r, verb), r.context.selection, false);
  return undefined;
}

/** The reader one word back, so that a verb that takes a selection reads its own word. */
function behind(r: Reader, verb: Word): Reader {
  r.backTo(verb);
  return r;
}

function scoped(r: Reader): { params: Record<string, unknown>; says: string } {
  if (!r.takeKey('for')) return { params: {}, says: '' };
  if (r.takeKey('any', 'all'))
    return { params: { scope: 'any' }, says: ' · for any unit that can do it' };
  if (r.takeKey('type', 'types'))
    return { params: { scope: 'types' }, says: ' · for all of their type' };
  if (r.takeKey('group')) {
    const group = groupNamed(r);
    return {
      params: { scope: 'group', group: group.id },
      says: ` · for group ${group.number} “${group.name}”`,
    };
  }
  throw new Complaint('For whom? for any, for type, for group 3', r.peek() ?? r.previous());
}

/** `delete palette 5`, `name look 4 Storm` @returns undefined when it is about a cue */
export function aboutRow(r: Reader, verb: 'delete' | 'name'): Read | undefined {
  const { show } = r.context;
  const word = r.peek();
  const tables = {
    palette: show.palettes,
    look: show.looks,
    effect: show.effects,
    group: show.groups,
  } as const;
  const kind = word && word.key in tables ? (word.key as keyof typeof tables) : undefined;
  if (!kind) return undefined;
  r.next();
  const row = named<{ id: string; number: number; name: string }>(
    r,
    tables[kind].values(),
    kind === 'effect' ? 'an effect' : `a ${kind}`,
  );
  if (verb === 'delete')
    return edit(
      r,
      `delete-${kind}`,
      { id: row.id },
      `delete ${kind} ${row.number} “${row.name}” · what uses it keeps what it says now`,
    );
  const name = r.rest();
  if (name === '') throw new Complaint('Here the name is missing.', r.previous());
  if (kind === 'effect') {
    const effect = show.effects.get(row.id);
    const { id, ...set } = effect ?? { id: row.id };
    return edit(
      r,
      'set-effect',
      { id, set: { ...set, name } },
      `effect ${row.number} becomes “${name}”`,
    );
  }
  return edit(
    r,
    `change-${kind}`,
    { id: row.id, set: { name } },
    `${kind} ${row.number} becomes “${name}”`,
  );
}
