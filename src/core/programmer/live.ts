/** Live commands of an operator’s programmer. `fixtures` are numbers; absent, the operator’s own selection in its order. */
import { z } from 'zod';
import { LOOKERS, PLAYERS } from '../roles.ts';
import { defineLive } from '../live/define-live.ts';
import { Level, Numbers, Attribute, On, Families } from '../live/params.ts';
import { FixtureNumber, idOf, StagePoint, Time } from '../show/fields.ts';
import { EffectRow } from '../effects/rows.ts';
import { CURVES, PIVOTS } from '../select/fan.ts';

export const set = defineLive({
  command: 'set',
  says: 'One value for all: a level, or a physical value in the attribute’s unit, which each unit takes in its own range.',
  params: {
    fixtures: On,
    attribute: Attribute,
    level: Level.optional(),
    physical: z.number().min(-100_000).max(100_000).optional(),
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const setMany = defineLive({
  command: 'set-many',
  says: 'Each fixture’s attribute its own level.',
  params: {
    values: z
      .array(
        z.object({
          fixtureId: idOf('fixtures'),
          attribute: Attribute,
          level: Level,
          palette: idOf('palettes').optional(),
          fade_s: Time.optional(),
          delay_s: Time.optional(),
        }),
      )
      .min(1)
      .max(20_000),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const nudge = defineLive({
  command: 'nudge',
  says: 'Each from where it is: so much more, in the attribute’s unit, or so many times as much.',
  params: {
    fixtures: On,
    attribute: Attribute,
    add: z.number().min(-100_000).max(100_000).optional(),
    times: z.number().min(0).max(100).optional(),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const fan = defineLive({
  command: 'fan',
  says: 'Spread over the fixtures in their order: from stop to stop in the attribute’s unit, or by so much from where each is; or spread times.',
  params: {
    fixtures: On,
    attribute: Attribute,
    what: z.enum(['value', 'fade', 'delay']).default('value'),
    stops: z
      .array(z.number().min(-100_000).max(100_000))
      .min(2, 'A fan goes from one value to another.')
      .max(16)
      .optional(),
    by: z.number().min(-100_000).max(100_000).optional(),
    pivot: z.enum(PIVOTS).default('middle'),
    curve: z.enum(CURVES).default('even'),
    mirrored: z.boolean().default(false),
    /** So many neighbours take the same. */
    together: z.number().int().min(1).max(1000).optional(),
    /** The same again after so many. */
    again: z.number().int().min(2, 'It begins again after at least two.').max(1000).optional(),
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const times = defineLive({
  command: 'times',
  says: 'Fade and delay of what is held, without moving it.',
  params: {
    fixtures: On,
    attributes: z.array(Attribute).max(200).optional(),
    families: Families.optional(),
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const colour = defineLive({
  command: 'colour',
  says: 'A chromaticity (CIE 1931 xy) or a white point, solved for each unit; with `to` over the fixtures in order, from that colour to this.',
  params: {
    fixtures: On,
    x: z.number().min(0).max(1).optional(),
    y: z.number().min(0.001).max(1).optional(),
    kelvin: z.number().min(1667).max(25_000).optional(),
    /** Over the fixtures in order, from that colour to this. */ to: z
      .object({ x: z.number().min(0).max(1), y: z.number().min(0.001).max(1) })
      .optional(),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const aim = defineLive({
  command: 'aim',
  says: 'A stage point for all heads; two: along the line between them in order.',
  params: {
    fixtures: On,
    points: z.array(StagePoint).min(1).max(2),
    flip: z.boolean().default(false),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const flip = defineLive({
  command: 'flip',
  says: 'The other way to look where they look.',
  params: {
    fixtures: On,
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const palette = defineLive({
  command: 'palette',
  says: 'Each fixture takes what the palette says for it, and follows it.',
  params: {
    fixtures: On,
    palette: idOf('palettes'),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const look = defineLive({
  command: 'look',
  says: 'What a look says, for all its fixtures or some of them, of all families or some; the values follow it.',
  params: {
    fixtures: Numbers.optional(),
    look: idOf('looks'),
    /** Of these families alone. */
    families: Families.optional(),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const effect = defineLive({
  command: 'effect',
  says: 'Runs an effect on the fixtures, or ends it.',
  params: {
    fixtures: On,
    effect: idOf('effects'),
    on: z.boolean().default(true),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const tryEffect = defineLive({
  command: 'try-effect',
  says: 'Plays an effect that is being made or changed: on the operator’s selection, and wherever the one runs that it changes. Without an effect it ends; what was there comes back, or goes on by the one that was kept.',
  params: {
    effect: EffectRow.nullable(),
    /** With an end: the effect that was kept, which runs on where this one was tried. */
    kept: idOf('effects').optional(),
  },
  roles: PLAYERS,
});

export const home = defineLive({
  command: 'home',
  says: 'At full, straight ahead, open white: the defaults of their modes; with families these alone, as they are by default.',
  params: {
    fixtures: On,
    families: Families.optional(),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const like = defineLive({
  command: 'like',
  says: 'Another unit’s values onto the fixtures: what it holds or shows, with the palettes that it follows, each in the unit’s own range.',
  params: {
    fixtures: On,
    from: FixtureNumber,
    families: Families.optional(),
    fade_s: Time.optional(),
  },
  roles: PLAYERS,
});

export const take = defineLive({
  command: 'take',
  says: 'Pulls what is lit, or what a cue sets (or shows, with `whole`), into the programmer.',
  params: {
    what: z.enum(['lit', 'cue']),
    fixtures: Numbers.optional(),
    families: Families.optional(),
    cue: z.string().max(20).optional(),
    list: idOf('lists').optional(),
    whole: z.boolean().default(false),
  },
  roles: PLAYERS,
});

export const keep = defineLive({
  command: 'keep',
  says: 'Lets go of all but these families.',
  params: {
    families: Families,
  },
  roles: PLAYERS,
});

export const clear = defineLive({
  command: 'clear',
  says: 'Lets go of all that is held, at once.',
  params: {},
  roles: PLAYERS,
});

export const letgo = defineLive({
  command: 'letgo',
  says: 'Lets go of what is held, or of some of it, in a time.',
  params: {
    fade_s: Time.optional(),
    fixtures: Numbers.optional(),
    families: Families.optional(),
    attributes: z.array(Attribute).max(200).optional(),
    slots: z
      .array(z.object({ fixtureId: idOf('fixtures'), attribute: Attribute }))
      .max(20_000)
      .optional(),
  },
  roles: PLAYERS,
});

export const bringBack = defineLive({
  command: 'bring-back',
  says: 'Gives back what was cleared or let go last.',
  params: {},
  roles: PLAYERS,
});

export const highlight = defineLive({
  command: 'highlight',
  says: 'Selected units at full in white where they look, over playback, until it is off. Without `on`: the other way.',
  params: {
    on: z.boolean().optional(),
  },
  roles: PLAYERS,
});

export const step = defineLive({
  command: 'step',
  says: 'One by one through the selection: the next, the one before, or all of it again.',
  params: {
    by: z.union([z.literal(1), z.literal(-1), z.literal(0)]),
  },
  roles: LOOKERS,
});

export const blind = defineLive({
  command: 'blind',
  says: 'Values are held and do not show.',
  params: {
    on: z.boolean(),
  },
  roles: PLAYERS,
});

export const select = defineLive({
  command: 'select',
  says: 'Selects fixtures, by ids.',
  params: {
    fixtures: z.array(idOf('fixtures')).max(10_000),
  },
  roles: LOOKERS,
});
