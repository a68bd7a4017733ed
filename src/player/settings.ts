/**
 * What a command makes of fixtures: values for a programmer, each with what it follows, or why there are none. Nothing is
 * held here; these are functions of the show, of what is held and of what is on stage.
 */
import { clamp } from '../core/numbers.ts';
import { cueCalled, cueFirst } from '../core/cues/called.ts';
import { aimUnit, flipped, pointsAlong, type Turn } from '../core/aim/unit.ts';
import { between, kelvin, type Chromaticity } from '../core/color/mix.ts';
import { colourLevels, colourParts } from '../core/color/unit-colour.ts';
import { parseCueNumber } from '../core/cues/number.ts';
import { stateAt, type Tracked } from '../core/cues/tracking.ts';
import { numberRanges } from '../core/words.ts';
import type { HeldValue } from '../core/live/messages.ts';
import type { CommandOf } from '../core/live/commands.ts';
import { effectUses, groupOf, lookSlots } from '../core/looks/resolve.ts';
import { effectOf, levelOf } from '../core/looks/value.ts';
import { reachOf } from '../core/palettes/resolve.ts';
import { refuse, type Refusal } from '../core/refusal.ts';
import { modeOf } from '../core/fixtures/points.ts';
import { attributeInfo, attributesOf, familyOf, spreadOverCells } from '../core/rig/attributes.ts';
import { levelInUnit, stepInUnit, strobeChannel, unitOfLevel } from '../core/rig/unit-value.ts';
import { fanOffsets, fanThrough } from '../core/select/fan.ts';
import { byNumber, LIT } from '../core/select/select.ts';
import type { Family } from '../core/show/fields.ts';
import type { FixtureRow } from '../core/fixtures/rows.ts';
import type { ValueRow } from '../core/cues/rows.ts';
import type { Channel, Mode } from '../core/types/rows.ts';
import type { MutableShow, Show } from '../core/show/show.ts';

/** A value on its way into a programmer; a time of its own goes before that of the whole. */
export interface Putting {
  fixtureId: string;
  attribute: string;
  level: number;
  fade_s?: number | undefined;
  delay_s?: number | undefined;
  palette?: string | undefined;
  look?: string | undefined;
  effect?: HeldValue['effect'];
  /** An effect takes the slot where nobody holds it. */
  taken?: boolean;
}

/** Whose hands give the command: what they hold, over what is on stage. Levels 0 to 1. */
export interface Hands {
  readonly show: MutableShow;
  /** What is held of an attribute, or else what shows. */
  levelAt: (fixtureId: string, attribute: string) => number;
  /** The palette that a held value follows, so that an effect on top of it changes nothing of that. */
  follows: (fixtureId: string, attribute: string) => { palette?: string };
  /** Before the grand master; 0 for what is not in the rig. */
  onStage: (fixtureId: string, attribute: string) => number;
  /** What the cue that wins there recorded, if a list wins it. */
  recordedAt: (fixtureId: string, attribute: string) => Tracked | undefined;
}

/** Values to be held, and how they come; or why not. */
export type Made =
  { values: readonly Putting[]; fade_s: number; delay_s: number; message?: string } | Refusal;

/** Nearer than this two colours are called the same. */
const SEEN_DELTA_E = 3;

const made = (values: readonly Putting[], fade_s = 0, message?: string): Made => ({
  values,
  fade_s,
  delay_s: 0,
  ...(message ? { message } : {}),
});

const turnAt = (hands: Hands, fixture: FixtureRow): Turn => ({
  Pan: hands.levelAt(fixture.id, 'Pan'),
  Tilt: hands.levelAt(fixture.id, 'Tilt'),
});

/** A unit's own attributes for one that is asked for: itself, that of every cell, or the shutter that strobes. */
export function ownAttributes(show: Show, fixture: FixtureRow, attribute: string): string[] {
  const mode = modeOf(show, fixture);
  if (!mode) return [];
  const own = spreadOverCells(mode, attribute);
  if (own.length > 0 || attribute !== 'Shutter1Strobe') return own;
  return strobeChannel(mode.channels, 1) ? ['Shutter1'] : [];
}

/** An attribute to a level, or a step from it. */
export function set(
  hands: Hands,
  fixtures: readonly FixtureRow[],
  c: {
    attribute: string;
    level?: number | undefined;
    physical?: number | undefined;
    fade_s?: number | undefined;
    delay_s?: number | undefined;
  },
): Made {
  const { level, physical } = c;
  if ((level === undefined) === (physical === undefined))
    return refuse('invalid', 'Say either a level from 0 to 1 or a value in the attribute’s unit.', {
      level: 'One of the two.',
    });
  const values = fixtures.flatMap((fixture): Putting[] => {
    const mode = modeOf(hands.show, fixture);
    if (!mode) return [];
    if (c.attribute === 'Shutter1Strobe' && physical !== undefined) {
      const strobe = strobeChannel(mode.channels, physical);
      return strobe ? [{ fixtureId: fixture.id, ...strobe }] : [];
    }
    return spreadOverCells(mode, c.attribute).map((attribute) => ({
      fixtureId: fixture.id,
      attribute,
      level:
        level ??
        levelInUnit(
          attribute,
          mode.channels.find((x) => x.attribute === attribute),
          physical ?? 0,
        ),
    }));
  });
  return naming(fixtures, values, c.attribute, c.fade_s, c.delay_s);
}

/** Names those that had to be left out. */
function naming(
  asked: readonly FixtureRow[],
  values: readonly Putting[],
  attribute: string,
  fade_s = 0,
  delay_s = 0,
): Made {
  const reached = new Set(values.map((v) => v.fixtureId));
  const without = asked.filter((f) => !reached.has(f.id));
  const label = attributeInfo(attribute).label.toLowerCase();
  if (reached.size === 0)
    return refuse('not-found', `None of these fixtures has ${label}. Nothing was set.`);
  return {
    values,
    fade_s,
    delay_s,
    ...(without.length > 0
      ? { message: `${numberRanges(without.map((f) => f.number))} left out: no ${label}.` }
      : {}),
  };
}

/** An attribute a little up or down, each fixture from where it is. */
export function nudge(
  hands: Hands,
  fixtures: readonly FixtureRow[],
  c: {
    attribute: string;
    add?: number | undefined;
    times?: number | undefined;
    fade_s?: number | undefined;
  },
): Made {
  const values = fixtures.flatMap((fixture) => {
    const mode = modeOf(hands.show, fixture);
    return ownAttributes(hands.show, fixture, c.attribute).map((attribute): Putting => {
      const channel = mode?.channels.find((x) => x.attribute === attribute);
      const now = hands.levelAt(fixture.id, attribute);
      return {
        fixtureId: fixture.id,
        attribute,
        level: clamp(
          now * (c.times ?? 1) + (c.add === undefined ? 0 : stepInUnit(attribute, channel, c.add)),
        ),
      };
    });
  });
  return naming(fixtures, values, c.attribute, c.fade_s);
}

/** An attribute spread over fixtures. */
export function fan(hands: Hands, fixtures: readonly FixtureRow[], c: CommandOf<'fan'>): Made {
  const able = fixtures.filter((f) => ownAttributes(hands.show, f, c.attribute).length > 0);
  if (able.length === 1)
    return refuse('invalid', 'A fan needs at least two fixtures that have the attribute.', {
      fixtures: 'Only one.',
    });
  if ((c.stops === undefined) === (c.by === undefined))
    return refuse(
      'invalid',
      'A fan goes from one value to another, or by so much from where it is.',
      { stops: 'One of the two.' },
    );
  const through = c.stops ? fanThrough(able.length, c.stops, c) : undefined;
  const offsets = fanOffsets(able.length, c.by ?? 0, c.pivot, c.curve, c);
  const values = able.flatMap((fixture, i) => {
    const mode = modeOf(hands.show, fixture);
    return ownAttributes(hands.show, fixture, c.attribute).map((attribute): Putting => {
      const channel = mode?.channels.find((x) => x.attribute === attribute);
      const level = through
        ? levelInUnit(attribute, channel, through[i] ?? 0)
        : clamp(
            hands.levelAt(fixture.id, attribute) + stepInUnit(attribute, channel, offsets[i] ?? 0),
          );
      return { fixtureId: fixture.id, attribute, level };
    });
  });
  return naming(fixtures, values, c.attribute, c.fade_s, c.delay_s);
}

/** A colour, as near as each fixture comes to it. */
export function colour(
  hands: Hands,
  fixtures: readonly FixtureRow[],
  c: {
    x?: number | undefined;
    y?: number | undefined;
    kelvin?: number | undefined;
    to?: Chromaticity | undefined;
    fade_s?: number | undefined;
  },
): Made {
  const { x, y } = c;
  const named = x !== undefined && y !== undefined ? { x, y } : undefined;
  const target = c.kelvin !== undefined ? kelvin(c.kelvin) : named;
  if (!target)
    return refuse('invalid', 'Say a chromaticity, or a white point in kelvin.', { x: 'Missing.' });
  if (target.x + target.y > 1)
    return refuse('invalid', 'There is no such chromaticity: x and y are at most 1 together.', {
      x: 'Too high.',
    });
  // Units of one type and mode have one answer, unless a wheel of theirs has slots of its own.
  const answers = new Map<
    string,
    { levels: { attribute: string; level: number }[]; deltaE: number }
  >();
  const off: { number: number; deltaE: number }[] = [];
  const { to } = c;
  const values = fixtures.flatMap((fixture, i): Putting[] => {
    const type = hands.show.types.get(fixture.typeId);
    const mode = modeOf(hands.show, fixture);
    if (!type || !mode) return [];
    const own = to
      ? between(target, to, fixtures.length === 1 ? 0 : i / (fixtures.length - 1))
      : target;
    const key = fixture.wheels || to ? fixture.id : `${type.id}/${mode.name}`;
    let answer = answers.get(key);
    if (!answer) {
      const parts = colourParts(type, mode).map((part) => colourLevels(type, part, own, fixture));
      answer = {
        levels: parts.flatMap((p) => p.levels),
        deltaE: Math.max(0, ...parts.map((p) => p.deltaE)),
      };
      answers.set(key, answer);
    }
    if (answer.levels.length > 0 && answer.deltaE > SEEN_DELTA_E)
      off.push({ number: fixture.number, deltaE: answer.deltaE });
    return answer.levels.map((l) => ({ fixtureId: fixture.id, ...l }));
  });
  if (values.length === 0)
    return refuse('not-found', 'None of these fixtures has a colour to change. Nothing was set.');
  const worst = Math.max(0, ...off.map((o) => o.deltaE));
  return made(
    values,
    c.fade_s,
    off.length > 0
      ? `${numberRanges(off.map((o) => o.number))} cannot make this colour; the nearest is ΔE ${worst.toFixed(0)} off.`
      : undefined,
  );
}

/** Heads to a place on stage; refuses where none of them reaches it. */
export function aim(hands: Hands, fixtures: readonly FixtureRow[], c: CommandOf<'aim'>): Made {
  const heads = fixtures.filter(
    (f) =>
      ownAttributes(hands.show, f, 'Pan').length > 0 &&
      ownAttributes(hands.show, f, 'Tilt').length > 0,
  );
  const [from, to] = c.points;
  if (!from) return refuse('invalid', 'Say where to look.', { points: 'Missing.' });
  if (heads.length === 0)
    return refuse('not-found', 'None of these fixtures turns. Nothing was set.');
  const points = to ? pointsAlong(from, to, heads.length) : heads.map(() => from);
  const lost: number[] = [];
  const values = heads.flatMap((fixture, i): Putting[] => {
    const mode = modeOf(hands.show, fixture);
    const type = hands.show.types.get(fixture.typeId);
    const turn =
      mode && type
        ? aimUnit({ fixture, mode, type }, points[i] ?? from, turnAt(hands, fixture), c.flip)
        : undefined;
    if (!turn) lost.push(fixture.number);
    return turn
      ? [
          { fixtureId: fixture.id, attribute: 'Pan', level: turn.Pan },
          { fixtureId: fixture.id, attribute: 'Tilt', level: turn.Tilt },
        ]
      : [];
  });
  const words = `${numberRanges(lost)} cannot look ${to ? 'along that line' : 'there'}${c.flip ? ' the other way' : ''}, and ${lost.length === 1 ? 'stays' : 'stay'} where ${lost.length === 1 ? 'it is' : 'they are'}.`;
  if (values.length === 0) return refuse('no-reach', words);
  return made(values, c.fade_s, lost.length > 0 ? words : undefined);
}

/** Heads to the same place by their other way. */
export function flip(hands: Hands, fixtures: readonly FixtureRow[], fade_s: number): Made {
  const values = fixtures.flatMap((fixture): Putting[] => {
    const turn = flipped(hands.show, fixture, turnAt(hands, fixture));
    return turn
      ? [
          { fixtureId: fixture.id, attribute: 'Pan', level: turn.Pan },
          { fixtureId: fixture.id, attribute: 'Tilt', level: turn.Tilt },
        ]
      : [];
  });
  return values.length === 0
    ? refuse('no-reach', 'None of these can look there the other way round.')
    : made(values, fade_s);
}

/** Each fixture takes what the palette says for it; those that it does not reach are named. */
export function applyPalette(
  hands: Hands,
  paletteId: string,
  fixtures: readonly FixtureRow[],
  fade_s: number,
): Made {
  const palette = hands.show.palettes.get(paletteId);
  if (!palette)
    return refuse('not-found', 'This palette has been deleted meanwhile. Nothing was set.');
  const missed: number[] = [];
  const values = fixtures.flatMap((fixture) => {
    const reach = reachOf(hands.show, palette, fixture);
    if (reach.size === 0) missed.push(fixture.number);
    return [...reach].map(([attribute, level]): Putting => ({
      fixtureId: fixture.id,
      attribute,
      level,
      palette: paletteId,
    }));
  });
  if (values.length === 0)
    return refuse(
      'no-reach',
      `Palette ${palette.number} “${palette.name}” says nothing for ${numberRanges(missed)}. Nothing was set.`,
    );
  return made(
    values,
    fade_s,
    missed.length > 0
      ? `Palette ${palette.number} does not reach ${numberRanges(missed)}.`
      : undefined,
  );
}

/** What a look makes, of all that it says or of these fixtures by number. */
export function applyLook(
  hands: Hands,
  lookId: string,
  { fixtures: numbers, families }: Pick<CommandOf<'look'>, 'fixtures' | 'families'>,
  fade_s: number,
): Made {
  const look = hands.show.looks.get(lookId);
  if (!look) return refuse('not-found', 'This look has been deleted meanwhile. Nothing was set.');
  const chosen = numbers
    ? new Set(numbers.map((n) => hands.show.fixtureByNumber(n)?.id))
    : undefined;
  const values = [...lookSlots(hands.show, lookId).values()]
    .filter((s) => !chosen || chosen.has(s.fixtureId))
    .filter((s) => !families || families.includes(familyOf(s.attribute)))
    .map((s): Putting => ({
      fixtureId: s.fixtureId,
      attribute: s.attribute,
      level: s.level ?? hands.levelAt(s.fixtureId, s.attribute),
      look: lookId,
      effect: s.effect,
      fade_s: s.fade_s ?? fade_s,
      delay_s: s.delay_s,
    }));
  if (values.length === 0)
    return refuse(
      'no-reach',
      `Look ${look.number} “${look.name}” says nothing${families ? ` of ${families.join(' or ')}` : ''} for ${chosen ? 'these fixtures' : 'any fixture'}. Nothing was set.`,
    );
  return made(values, fade_s);
}

/** An effect over what fixtures have. */
export function startEffect(
  hands: Hands,
  effectId: string,
  fixtures: readonly FixtureRow[],
  fade_s: number,
): Made {
  const effect = hands.show.effects.get(effectId);
  if (!effect)
    return refuse('not-found', 'This effect has been deleted meanwhile. Nothing was started.');
  const ids = fixtures.map((f) => f.id);
  const group = groupOf(hands.show, ids);
  const values = effectUses(hands.show, effect, group === undefined ? ids : [group]).map(
    (u): Putting => ({
      fixtureId: u.fixtureId,
      attribute: u.attribute,
      level: hands.levelAt(u.fixtureId, u.attribute),
      effect: u.effect,
      taken: true,
      ...hands.follows(u.fixtureId, u.attribute),
    }),
  );
  if (values.length === 0)
    return refuse(
      'not-found',
      `None of these fixtures has what effect ${effect.number} “${effect.name}” moves. Nothing was started.`,
    );
  return made(values, fade_s);
}

/** What a unit holds or shows, as another one has it: by the palette that it follows, or in its own range. */
function asOn(hands: Hands, from: FixtureRow, to: FixtureRow, attribute: string): Putting | null {
  const [ours, theirs] = [modeOf(hands.show, from), modeOf(hands.show, to)];
  if (!ours || !theirs || !attributesOf(theirs).includes(attribute)) return null;
  const level = hands.levelAt(from.id, attribute);
  const { palette: id } = hands.follows(from.id, attribute);
  const palette = id === undefined ? undefined : hands.show.palettes.get(id);
  const said = palette ? reachOf(hands.show, palette, to).get(attribute) : undefined;
  if (palette && said !== undefined)
    return { fixtureId: to.id, attribute, level: said, palette: palette.id };
  const channelIn = (mode: Mode): Channel | undefined =>
    mode.channels.find((c) => c.attribute === attribute);
  const value = unitOfLevel(attribute, channelIn(ours), level);
  return { fixtureId: to.id, attribute, level: levelInUnit(attribute, channelIn(theirs), value) };
}

/** Fixtures as another one stands. */
export function like(
  hands: Hands,
  fixtures: readonly FixtureRow[],
  { from: number, families, fade_s = 0 }: CommandOf<'like'>,
): Made {
  const from = hands.show.fixtureByNumber(number);
  const mode = from ? modeOf(hands.show, from) : undefined;
  if (!from || !mode)
    return refuse('not-found', `There is no fixture ${number}. Nothing was set.`, {
      from: 'Unknown.',
    });
  const attributes = attributesOf(mode).filter(
    (a) => families?.includes(familyOf(a)) ?? familyOf(a) !== 'control',
  );
  const others = fixtures.filter((f) => f.id !== from.id);
  const values = others.flatMap((to) =>
    attributes.flatMap((attribute) => asOn(hands, from, to, attribute) ?? []),
  );
  return values.length === 0
    ? refuse('nothing', `These have nothing in common with fixture ${number}. Nothing was set.`)
    : made(values, fade_s);
}

/** Attributes to where a fixture has them when nothing plays. */
export function home(
  hands: Hands,
  fixtures: readonly FixtureRow[],
  families: readonly Family[] | undefined,
  fade_s: number,
): Made {
  const wanted = families ?? (['position', 'colour', 'beam'] as const);
  const values = fixtures.flatMap((fixture) => {
    const mode = modeOf(hands.show, fixture);
    // Pressed to see whether a unit works, it lights.
    const lights =
      families === undefined
        ? (mode ? attributesOf(mode) : [])
            .filter((a) => a.split('@')[0] === 'Dimmer')
            .map((attribute): Putting => ({ fixtureId: fixture.id, attribute, level: 1 }))
        : [];
    return [
      ...lights,
      ...(mode ? attributesOf(mode) : [])
        .filter((a) => wanted.includes(familyOf(a)))
        .map((attribute): Putting => ({
          fixtureId: fixture.id,
          attribute,
          level: mode?.channels.find((c) => c.attribute === attribute)?.default ?? 0,
        })),
    ];
  });
  return values.length === 0
    ? refuse('nothing', 'These fixtures have nothing to bring home.')
    : made(values, fade_s);
}

/** What is lit, or what a cue sets, with what it follows there. */
export function take(hands: Hands, c: CommandOf<'take'>): Made {
  const chosen = c.fixtures
    ? new Set(c.fixtures.map((n) => hands.show.fixtureByNumber(n)?.id))
    : undefined;
  const wanted = (fixtureId: string, attribute: string): boolean =>
    (!chosen || chosen.has(fixtureId)) && (!c.families || c.families.includes(familyOf(attribute)));
  if (c.what === 'lit') {
    const values = byNumber(hands.show).flatMap((fixture) => {
      const mode = modeOf(hands.show, fixture);
      const at = (attribute: string): number => hands.onStage(fixture.id, attribute);
      return !mode || at('Dimmer') < LIT
        ? []
        : attributesOf(mode)
            .filter((a) => wanted(fixture.id, a))
            .map((attribute) => asRecorded(hands, fixture.id, attribute, at(attribute)));
    });
    return values.length === 0 ? refuse('nothing', 'Nothing of these is lit.') : made(values);
  }
  const list =
    c.list ?? [...hands.show.lists.values()].sort((a, b) => a.number - b.number)[0]?.id ?? '';
  const number = parseCueNumber(c.cue ?? '');
  const cue =
    number === undefined ? undefined : hands.show.cuesOf(list).find((x) => x.number === number);
  if (!cue)
    return refuse(
      'not-found',
      `There is no ${number === undefined ? `cue ${c.cue ?? ''}` : cueCalled(hands.show, { listId: list, number })}. Nothing was taken.`,
      { cue: 'Unknown.' },
    );
  const rows: ValueRow[] = c.whole
    ? [...stateAt(hands.show, list, cue.number).values()].map((t) => t.value)
    : [...hands.show.valuesOf(cue.id).values()];
  const values = rows.flatMap((v): Putting[] => {
    const level = levelOf(hands.show, v);
    return level === null || !wanted(v.fixtureId, v.attribute)
      ? []
      : [
          {
            fixtureId: v.fixtureId,
            attribute: v.attribute,
            level,
            palette: v.palette,
            look: v.look,
            effect: effectOf(hands.show, v),
            // Times belong to the cue where they were given.
            ...(v.cueId === cue.id ? { fade_s: v.fade_s, delay_s: v.delay_s } : {}),
          },
        ];
  });
  return values.length === 0
    ? refuse(
        'nothing',
        `${cueFirst(hands.show, { listId: list, number: cue.number })} sets nothing of these.`,
      )
    : made(values);
}

/** A level on stage with what it follows, where a cue says it. */
function asRecorded(hands: Hands, fixtureId: string, attribute: string, level: number): Putting {
  const tracked = hands.recordedAt(fixtureId, attribute);
  const said = tracked ? levelOf(hands.show, tracked.value) : null;
  const effect = tracked ? effectOf(hands.show, tracked.value) : undefined;
  if (!tracked || said === null || (Math.abs(said - level) > 1e-4 && !effect))
    return { fixtureId, attribute, level };
  return {
    fixtureId,
    attribute,
    level: said,
    palette: tracked.value.palette,
    look: tracked.value.look,
    effect,
  };
}
