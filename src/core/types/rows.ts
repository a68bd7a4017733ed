/** Types of fixtures: their modes, channels, emitters and wheels. */
import { UNIVERSE_SLOTS } from '../dmx.ts';
import { z } from 'zod';
import { BodyPart, MOVES } from '../meshes/rows.ts';
import { Level, Name, idOf } from '../show/fields.ts';

/** Slots that a wheel may have. */
export const MOST_SLOTS = 128;
/** Wheels that a type may have. */
export const MOST_WHEELS = 32;
/** Addresses that a unit may have, each with channels of its own (DIN SPEC 15800, DMX break). */
export const MOST_BREAKS = 4;
/** Cells that a mode may have. */
export const MOST_CELLS = 256;
/** Of a mode. */
export const MOST_CHANNELS = 2048;

/** A named range of a channel function, such as one slot of a wheel (GDTF 1.2 ChannelSet). Values in the channel's own resolution. */
const ChannelSet = z.object({
  name: Name,
  from: z.number().int().min(0).max(0xffffff),
  to: z.number().int().min(0).max(0xffffff),
  /** The wheel's slot that it brings in, from 1. */
  slot: z.number().int().min(1).max(MOST_SLOTS).optional(),
});
export type ChannelSet = z.infer<typeof ChannelSet>;

/** What part of a channel's range does (GDTF 1.2 ChannelFunction). Values in the channel's own resolution, 0…256ⁿ-1. */
const ChannelFunction = z.object({
  name: Name,
  from: z.number().int().min(0).max(0xffffff),
  to: z.number().int().min(0).max(0xffffff),
  /** In the attribute's unit at `from` and at `to`. */
  physicalFrom: z.number(),
  physicalTo: z.number(),
  wheel: z.string().max(60).optional(),
  /** What it does, where that is not what its channel is called after: a strobe on the channel of a shutter. */
  attribute: z.string().min(1).max(60).optional(),
  /** It counts only while another channel of the unit is in a range of levels (GDTF 1.2 ModeMaster). */
  when: z.object({ attribute: z.string().min(1).max(60), from: Level, to: Level }).optional(),
  sets: z.array(ChannelSet).max(128).optional(),
});
export type ChannelFunction = z.infer<typeof ChannelFunction>;

/**
 * One attribute of a mode. `offset` are the channel's places in the footprint of its break, coarse first, from 1
 * (GDTF 1.2 DMXChannel Offset). An attribute of a cell is written `ColorAdd_R@3`.
 */
const Channel = z.object({
  attribute: z.string().min(1).max(60),
  offset: z.array(z.number().int().min(1).max(UNIVERSE_SLOTS)).min(1).max(3),
  /** Address that the offset counts from when a type has several (GDTF 1.2 DMXBreak). */
  break: z.number().int().min(1).max(MOST_BREAKS).optional(),
  /** Level when nothing plays. */
  default: Level,
  highlight: Level.optional(),
  /** Cannot fade: takes its new value at the start of the move, or at its end. */
  snap: z.union([z.boolean(), z.literal('end')]).optional(),
  /** Physical range in the attribute's unit (degrees, kelvin, hertz …). */
  physicalFrom: z.number(),
  physicalTo: z.number(),
  /** Absent: one function over the whole channel. */
  functions: z.array(ChannelFunction).max(64).optional(),
});
export type Channel = z.infer<typeof Channel>;

/** Where a cell lies in the unit's face, 0…1 from the left and from the top. */
const Cell = z.object({ name: Name, x: z.number().min(0).max(1), y: z.number().min(0).max(1) });

const Mode = z.object({
  name: Name,
  /** Channels of the first break. */
  footprint: z.number().int().min(1).max(UNIVERSE_SLOTS),
  /** Channels of the second break and on. */
  breaks: z.array(z.number().int().min(1).max(UNIVERSE_SLOTS)).max(3).optional(),
  cells: z.array(Cell).max(MOST_CELLS).optional(),
  channels: z.array(Channel).min(1).max(MOST_CHANNELS),
});
export type Mode = z.infer<typeof Mode>;

/** CIE 1931 chromaticity and relative luminous flux of an emitter at full (GDTF 1.2 Emitter Color). */
const Emitter = z.object({
  x: z.number().min(0).max(1),
  y: z.number().min(0.001).max(1),
  Y: z.number().positive(),
});
export type Emitter = z.infer<typeof Emitter>;

/** A small picture of a pattern: drawn from its words, or an image of the user's own. */
export const PICTURE_LIMIT = 60_000;

const Picture = z
  .string()
  .max(PICTURE_LIMIT, `A picture has at most ${PICTURE_LIMIT / 1000} kB.`)
  .regex(
    /^(pattern:[a-z]+|data:image\/(png|jpeg|webp|svg\+xml);base64,[A-Za-z0-9+/=]+)$/,
    'A picture is a PNG, JPEG or WebP image, or a drawing (SVG).',
  );

/** One place on a colour or pattern wheel: `color` is the filter's chromaticity and transmission Y 0…1 (GDTF 1.2 Slot). */
export const WheelSlot = z.object({
  name: Name,
  color: Emitter.optional(),
  picture: Picture.optional(),
});
export type WheelSlot = z.infer<typeof WheelSlot>;

const Wheel = z.object({
  name: z.string().min(1).max(60),
  slots: z.array(WheelSlot).min(1).max(MOST_SLOTS),
});
export type Wheel = z.infer<typeof Wheel>;

const MacroValue = z.object({
  attribute: z.string().min(1).max(60),
  value: z.number().int().min(0).max(255),
});
const Hold = z.number().min(0.1).max(60);
/** Steps that a control macro may have. */
export const MOST_STEPS = 32;
/** Channels that a step may set. */
export const MOST_STEP_VALUES = 16;

/** A command to the unit itself: a value held on a channel for a time (lamp on, lamp off, reset), or several, one after the other. */
const Macro = MacroValue.extend({
  name: Name,
  hold_s: Hold,
  /** On other channels at the same time. */
  also: z.array(MacroValue).min(1).max(MOST_STEP_VALUES).optional(),
  /** What comes after it. */
  then: z
    .array(z.object({ values: z.array(MacroValue).max(MOST_STEP_VALUES), hold_s: Hold }))
    .min(1)
    .max(MOST_STEPS)
    .optional(),
});
export type Macro = z.infer<typeof Macro>;

/** How the plan draws a unit. */
export const SHAPES = ['profile', 'wash', 'head', 'strip', 'house', 'hazer'] as const;

/** A fixture type: its modes, what it weighs and draws, and how it moves. */
export const TypeRow = z.object({
  id: idOf('types'),
  maker: Name,
  name: Name,
  /** How the plan draws it. */
  shape: z.enum(SHAPES),
  modes: z.array(Mode).min(1, 'A type needs at least one mode.').max(64),
  emitters: z.record(z.string(), Emitter),
  /** Of subtractive mixing: what each filter lets through of white light, by its attribute (GDTF 1.2 Filter Color). */
  filters: z.record(z.string(), Emitter).optional(),
  wheels: z.array(Wheel).max(MOST_WHEELS).optional(),
  macros: z.array(Macro).max(32).optional(),
  /** Colour of the light of a unit without emitters, in kelvin. */
  lamp_K: z.number().min(1000).max(20_000).optional(),
  /** At full. */
  watts: z.number().min(0).max(20_000),
  /** Drawn while dark: fans, electronics, a discharge lamp that stays lit. */
  idle_W: z.number().min(0).max(20_000).optional(),
  weight_kg: z.number().min(0).max(500).optional(),
  /** Full angle of the beam of a unit without zoom, in degrees (GDTF 1.2 Beam BeamAngle). */
  beam_deg: z.number().min(0.1).max(180).optional(),
  /** Of the open beam at full (GDTF 1.2 Beam LuminousFlux). */
  lumens: z.number().min(0).max(1_000_000).optional(),
  /** How far below the point that it hangs from its beam comes out, or its axes meet, in metres. */
  reach_m: z.number().min(0).max(5).optional(),
  /** What it looks like, hanging: from the point that it hangs from, its light going down (GDTF 1.2, Models). */
  body: z.array(BodyPart).max(MOVES.length).optional(),
  /** A small picture of the unit. */
  picture: Picture.optional(),
  /** The maker's file that it came with (GDTF 1.2 FixtureTypeID and Revision). */
  gdtf: z
    .object({
      id: z.string().min(1).max(60),
      /** Of its newest revision: when, as it is written there, and what it says. */
      at: z.string().max(60).optional(),
      says: z.string().max(200).optional(),
    })
    .optional(),
  panSpeed_deg_s: z.number().positive().max(2000).optional(),
  tiltSpeed_deg_s: z.number().positive().max(2000).optional(),
});
export type TypeRow = z.infer<typeof TypeRow>;
