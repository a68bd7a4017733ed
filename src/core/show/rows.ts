/**
 * The rows of a show. A show is nothing but these tables of plain rows; everything else derives from them.
 * Distances are metres, angles degrees, times seconds, levels 0…1 of the attribute's range.
 */
import { z } from 'zod';
import {
  CallRow,
  CueRow,
  DepartmentRow,
  FaderRow,
  ListRow,
  PromptRow,
  ScriptRow,
  SoundRow,
  ValueRow,
} from './book-rows.ts';
import { LikeRow, NoteRow, PageRow, PartRow, PhotoRow } from './crew-rows.ts';
import { FixtureNumber, Level, LIMITS, Name, Note, RowId, Time } from './fields.ts';

export {
  CallRow,
  CueAction,
  CueRow,
  DepartmentRow,
  PromptRow,
  ScriptRow,
  SCRIPT_LIMIT,
  FaderRow,
  SoundRow,
  EffectUse,
  type Chase,
  type CuePart,
  ListRow,
  PRIORITY,
  RELEASE_S,
  ValueRow,
} from './book-rows.ts';
export {
  LikeRow,
  NOTE_KINDS,
  NoteRow,
  type NoteKind,
  PageRow,
  type PageAct,
  PartRow,
  PHOTO_LIMIT,
  PhotoRow,
} from './crew-rows.ts';
export { FAMILIES, FixtureNumber, LIMITS, Name, RowId, Time, type Family } from './fields.ts';

export const Universe = z
  .number()
  .int('A universe is a whole number.')
  .min(1, 'Universes count from 1.')
  .max(LIMITS.universes, `Wingman has ${LIMITS.universes} universes.`);
export const Address = z
  .number()
  .int('An address is a whole number.')
  .min(1, 'Addresses count from 1.')
  .max(512, 'A universe ends at address 512.');
/** A named range of a channel function, such as one slot of a wheel (GDTF 1.2 ChannelSet). Values in the channel's own resolution. */
const ChannelSet = z.object({
  name: Name,
  from: z.number().int().min(0).max(0xffffff),
  to: z.number().int().min(0).max(0xffffff),
  /** The wheel's slot that it brings in, from 1. */
  slot: z.number().int().min(1).max(64).optional(),
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
  sets: z.array(ChannelSet).max(128).optional(),
});
export type ChannelFunction = z.infer<typeof ChannelFunction>;

/**
 * One attribute of a mode. `offset` are the channel's places in the footprint of its break, coarse first, from 1
 * (GDTF 1.2 DMXChannel Offset). An attribute of a cell is written `ColorAdd_R@3`.
 */
const Channel = z.object({
  attribute: z.string().min(1).max(60),
  offset: z.array(z.number().int().min(1).max(512)).min(1).max(3),
  /** Address that the offset counts from when a type has several (GDTF 1.2 DMXBreak). */
  break: z.number().int().min(1).max(4).optional(),
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
  footprint: z.number().int().min(1).max(512),
  /** Channels of the second break and on. */
  breaks: z.array(z.number().int().min(1).max(512)).max(3).optional(),
  cells: z.array(Cell).max(256).optional(),
  channels: z.array(Channel).min(1).max(2048),
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
    /^(pattern:[a-z]+|data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/=]+)$/,
    'A picture is a PNG, JPEG or WebP image.',
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
  slots: z.array(WheelSlot).min(1).max(64),
});
export type Wheel = z.infer<typeof Wheel>;

/** A command to the unit itself: a value held on a channel for a time (lamp on, lamp off, reset). */
const Macro = z.object({
  name: Name,
  attribute: z.string().min(1).max(60),
  value: z.number().int().min(0).max(255),
  hold_s: z.number().min(0.1).max(60),
});
export type Macro = z.infer<typeof Macro>;

export const SHAPES = ['profile', 'wash', 'head', 'strip', 'house', 'hazer'] as const;

export const TypeRow = z.object({
  id: RowId,
  maker: Name,
  name: Name,
  /** How the plan draws it. */
  shape: z.enum(SHAPES),
  modes: z.array(Mode).min(1, 'A type needs at least one mode.').max(64),
  emitters: z.record(z.string(), Emitter),
  wheels: z.array(Wheel).max(8).optional(),
  macros: z.array(Macro).max(32).optional(),
  /** Colour of the light of a unit without emitters, in kelvin. */
  lamp_K: z.number().min(1000).max(20_000).optional(),
  /** At full. */
  watts: z.number().min(0).max(20_000),
  /** Drawn while dark: fans, electronics, a discharge lamp that stays lit. */
  idle_W: z.number().min(0).max(20_000).optional(),
  weight_kg: z.number().min(0).max(500).optional(),
  panSpeed_deg_s: z.number().positive().max(2000).optional(),
  tiltSpeed_deg_s: z.number().positive().max(2000).optional(),
});
export type TypeRow = z.infer<typeof TypeRow>;

/** `break` says which of a type's addresses it is; absent for the first and only one. */
export const PatchPoint = z.object({
  universe: Universe,
  address: Address,
  break: z.number().int().min(2).max(4).optional(),
});
export type PatchPoint = z.infer<typeof PatchPoint>;

/** What lies between a level and the wire: level -> invert -> limits -> offset -> curve (docs/playback.md). */
export const Transform = z.object({
  invert: z.boolean().optional(),
  /** The level at 0 % and at 100 %: preheat and limit. */
  min: Level.optional(),
  max: Level.optional(),
  offset: z
    .number()
    .min(-1, 'An offset is at least -100 %.')
    .max(1, 'An offset is at most 100 %.')
    .optional(),
  /** Linear when absent; a table is drawn through 2 to 33 evenly spaced points. */
  curve: z.union([z.enum(['square', 's']), z.array(Level).min(2).max(33)]).optional(),
});
export type Transform = z.infer<typeof Transform>;

export const FixtureRow = z.object({
  id: RowId,
  number: FixtureNumber,
  label: Name,
  typeId: RowId,
  mode: Name,
  /** Empty: off the rig, programming kept. More than one: multi-patch, the same values to each. */
  patch: z.array(PatchPoint).max(64),
  position: z.object({
    x: z.number().min(-500).max(500),
    y: z.number().min(-500).max(500),
    z: z.number().min(-100).max(200),
  }),
  /** Degrees clockwise seen from above, from upstage. */
  rotation: z.number().min(-360).max(360),
  /** Degrees from hanging straight down, in the direction of its rotation: 90 on a boom, 180 on the floor; where a unit points that does not move. Absent: 0 for heads, by its place for others. */
  lean: z.number().min(-180).max(180).optional(),
  /** Name of the bar or boom it hangs on; empty when it stands free. */
  hang: z.string().max(LIMITS.nameLength),
  /** House and work light: the grand master does not reach it. */
  noGrandMaster: z.boolean(),
  /** The address it had before it came off the rig. */
  wasAt: z.array(PatchPoint).max(64).optional(),
  transforms: z.record(z.string().max(60), Transform).optional(),
  swapPanTilt: z.boolean().optional(),
  /** Slots of this unit's wheels that differ from the type's: by wheel, by slot number from 1. */
  wheels: z
    .record(z.string().max(60), z.record(z.string().regex(/^\d{1,2}$/), WheelSlot))
    .optional(),
  circuitId: RowId.optional(),
  /** What this unit draws at full, of each of its addresses: its own lamp, where that is not the type’s. */
  watts: z.number().min(0).max(100_000).optional(),
});
export type FixtureRow = z.infer<typeof FixtureRow>;

const GroupRow = z.object({
  id: RowId,
  number: FixtureNumber,
  name: Name,
  /** Ids of fixtures, or of other groups, in their order, which matters for fans and effects. */
  fixtures: z.array(RowId).max(10_000),
});
export type GroupRow = z.infer<typeof GroupRow>;

/** Metres: x from centre towards the audience's right, y upstage from the plaster line, z up. */
export const StagePoint = z.object({
  x: z.number().min(-500).max(500),
  y: z.number().min(-500).max(500),
  z: z.number().min(-100).max(200),
});
export type StagePoint = z.infer<typeof StagePoint>;

export const PALETTE_FAMILIES = ['intensity', 'position', 'colour', 'beam'] as const;
export type PaletteFamily = (typeof PALETTE_FAMILIES)[number];

/**
 * A palette answers for a slot in this order: its own entry for the fixture, for a group that it is in, for the
 * fixture's type, then what it says for any unit (a level, a chromaticity or white point, a stage point), solved for
 * that unit (docs/playback.md).
 */
export const PaletteRow = z.object({
  id: RowId,
  number: FixtureNumber,
  family: z.enum(PALETTE_FAMILIES),
  name: Name,
  /** Place among the palettes of its family; its number when absent. */
  order: z.number().min(0).max(1e9).optional(),
  fixtures: z.record(RowId, z.record(z.string().max(60), Level)),
  /** For every member of a group, also of one that joins later. */
  groups: z.record(RowId, z.record(z.string().max(60), Level)).optional(),
  types: z.record(RowId, z.record(z.string().max(60), Level)),
  any: z
    .object({
      level: Level.optional(),
      /** CIE 1931 xy. */
      colour: z.object({ x: z.number().min(0).max(1), y: z.number().min(0.001).max(1) }).optional(),
      /** A white point instead of a chromaticity. */
      kelvin: z.number().min(1667).max(25_000).optional(),
      /** Metres. */
      point: StagePoint.optional(),
    })
    .optional(),
});
export type PaletteRow = z.infer<typeof PaletteRow>;

export const WAVES = ['sine', 'triangle', 'rise', 'fall', 'square', 'steps'] as const;
/**
 * One attribute's part in an effect. A wave goes from 0 to 1 and back over a cycle; steps are levels with a share of
 * each step spent on the way to it. Relative adds `size` times the wave's swing about its middle to the level beneath;
 * absolute goes between `base` and `base + size` of the range.
 */
export const EffectTrack = z.object({
  attribute: z.string().min(1).max(60),
  wave: z.enum(WAVES),
  steps: z
    .array(z.object({ level: Level, share: z.number().min(0).max(1) }))
    .min(2, 'An effect has at least two steps.')
    .max(32)
    .optional(),
  mode: z.enum(['relative', 'absolute']),
  size: z.number().min(-1, 'A size is at least -100 %.').max(1, 'A size is at most 100 %.'),
  base: Level,
  /** Share of the cycle that the wave takes; the rest of it stands at the wave's end. */
  width: z.number().min(0.05, 'A width is at least 5 %.').max(1),
  /** Turns that this attribute is ahead of the effect. */
  offset: z.number().min(0).max(1),
});
export type EffectTrack = z.infer<typeof EffectTrack>;

export const EffectRow = z.object({
  id: RowId,
  number: FixtureNumber,
  name: Name,
  order: z.number().min(0).max(1e9).optional(),
  tracks: z.array(EffectTrack).min(1, 'An effect needs at least one attribute.').max(16),
  /** Cycles a second of its own, or beats of the show's shared tempo for one cycle. */
  speed: z.union([
    z.object({
      hz: z
        .number()
        .min(0.001, 'A speed is at least 0.001 Hz.')
        .max(20, 'A speed is at most 20 Hz.'),
    }),
    z.object({ beats: z.number().min(0.125).max(256) }),
  ]),
  direction: z.enum(['forward', 'back', 'bounce']),
  spread: z.object({
    /** Turns of the cycle from the first unit to past the last; 0 keeps all together. */
    turns: z.number().min(-8).max(8),
    /** Every so manyth unit has the same phase again; 0 spreads over all. */
    groups: z.number().int().min(0).max(1000),
    /** So many neighbours share a phase. */
    blocks: z.number().int().min(1).max(1000),
    /** So many mirrored parts. */
    wings: z.number().int().min(1).max(100),
    /** Absent: in the order of the selection. Else at random, the same for the same seed. */
    seed: z.number().int().min(0).max(1e9).optional(),
  }),
});
export type EffectRow = z.infer<typeof EffectRow>;

/** Fixtures, or groups that stand for their members. */
const Members = z.array(RowId).min(1).max(10_000);
export const LookItem = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('level'),
    fixtureId: RowId,
    attribute: z.string().min(1).max(60),
    level: Level,
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  }),
  z.object({ kind: z.literal('palette'), palette: RowId, members: Members }),
  z.object({ kind: z.literal('effect'), effect: RowId, members: Members }),
  z.object({ kind: z.literal('look'), look: RowId }),
]);
export type LookItem = z.infer<typeof LookItem>;

/** A named picture made of levels, palettes, effects and other looks; what comes later in it wins. */
export const LookRow = z.object({
  id: RowId,
  number: FixtureNumber,
  name: Name,
  order: z.number().min(0).max(1e9).optional(),
  items: z.array(LookItem).max(20_000),
});
export type LookRow = z.infer<typeof LookRow>;

const PIECE_KINDS = ['bar', 'boom', 'edge', 'set', 'cyc', 'house'] as const;
/** A line on the plan: bars and booms that carry fixtures, edges and set pieces that do not. */
export const PieceRow = z.object({
  id: RowId,
  name: z.string().max(LIMITS.nameLength),
  kind: z.enum(PIECE_KINDS),
  points: z
    .array(z.object({ x: z.number().min(-500).max(500), y: z.number().min(-500).max(500) }))
    .min(2, 'A line has at least two points.')
    .max(64),
  /** Height over the stage floor in metres. */
  z: z.number().min(-20).max(100),
  /** How tall a set piece or a cyc is, from `z` up; absent: flat on the floor, or the usual height of a cyc. */
  height: z.number().min(0).max(50).optional(),
});
export type PieceRow = z.infer<typeof PieceRow>;

/** Largest picture that is kept, as the characters of its data URL. */
export const BACKGROUND_LIMIT = 1_600_000;
/** A picture that lies under a layout. */
export const PictureRow = z.object({
  id: RowId,
  name: Name,
  data: z
    .string()
    .max(BACKGROUND_LIMIT, 'A background picture has at most 1.2 MB.')
    .regex(
      /^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/=]+$/,
      'A picture is a PNG, JPEG or WebP image.',
    ),
});
export type PictureRow = z.infer<typeof PictureRow>;

/** A named arrangement of the plan: where units hang, or places of its own that move no light. */
export const LayoutRow = z.object({
  id: RowId,
  number: z.number().int().min(1).max(9999),
  name: Name,
  /** Own places by fixture, in metres of this drawing; absent: the plan of the stage. */
  places: z
    .record(RowId, z.object({ x: z.number().min(-500).max(500), y: z.number().min(-500).max(500) }))
    .optional(),
  background: z
    .object({
      picture: RowId,
      x: z.number().min(-500).max(500),
      y: z.number().min(-500).max(500),
      width_m: z.number().min(0.1).max(1000),
      opacity: z.number().min(0.05).max(1),
    })
    .optional(),
});
export type LayoutRow = z.infer<typeof LayoutRow>;

export const RouteRow = z.object({
  id: RowId,
  universe: Universe,
  protocol: z.enum(['sacn', 'artnet']),
  /** `node` is the simulated node that ships with Wingman; `multicast` is for sACN, `broadcast` for Art-Net; else an IPv4 address. */
  destination: z.union([
    z.literal('node'),
    z.literal('multicast'),
    z.literal('broadcast'),
    z.ipv4('A destination is an IPv4 address, multicast, broadcast, or the simulated node.'),
  ]),
  /** The universe's number on the wire: sACN 1-63999, Art-Net port address 0-32767. */
  wire: z.number().int().min(0).max(63_999),
  priority: z.number().int().min(0).max(200),
  on: z.boolean(),
});
export type RouteRow = z.infer<typeof RouteRow>;

/** A universe that has a name; the others are known by their number. */
const UniverseRow = z.object({ id: RowId, number: Universe, name: Name });
export type UniverseRow = z.infer<typeof UniverseRow>;

/** A way of the mains: what hangs on it must stay under its breaker. */
export const CircuitRow = z.object({
  id: RowId,
  name: Name,
  phase: z.union([z.literal(1), z.literal(2), z.literal(3)]),
  breaker_A: z
    .number()
    .positive('A breaker has more than 0 A.')
    .max(1000, 'A breaker has at most 1000 A.'),
});
export type CircuitRow = z.infer<typeof CircuitRow>;

export const VOLTAGES = [120, 208, 230, 400] as const;
export const Power = z.object({
  voltage_V: z.union([z.literal(120), z.literal(208), z.literal(230), z.literal(400)]),
  /** Share of a breaker that may be used for long. */
  safety: z
    .number()
    .min(0.1, 'The safety share is at least 10 %.')
    .max(1, 'The safety share is at most 100 %.'),
});
export type Power = z.infer<typeof Power>;

/** Findings that are meant, by their keys: why, in a word, and who put them aside. */
const Aside = z.record(
  z.string().min(1).max(300),
  z.object({
    word: z.string().min(1).max(LIMITS.nameLength),
    by: z.string().max(LIMITS.nameLength),
  }),
);
export const SettingsRow = z.object({
  id: z.literal('show'),
  name: Name,
  venue: z.string().max(LIMITS.nameLength),
  note: Note,
  power: Power.optional(),
  aside: Aside.optional(),
});
export type SettingsRow = z.infer<typeof SettingsRow>;

export const TABLES = {
  settings: SettingsRow,
  types: TypeRow,
  fixtures: FixtureRow,
  groups: GroupRow,
  lists: ListRow,
  cues: CueRow,
  values: ValueRow,
  scripts: ScriptRow,
  calls: CallRow,
  faders: FaderRow,
  sounds: SoundRow,
  pieces: PieceRow,
  routes: RouteRow,
  universes: UniverseRow,
  circuits: CircuitRow,
  palettes: PaletteRow,
  looks: LookRow,
  effects: EffectRow,
  layouts: LayoutRow,
  pictures: PictureRow,
  parts: PartRow,
  notes: NoteRow,
  pages: PageRow,
  departments: DepartmentRow,
  prompts: PromptRow,
  photos: PhotoRow,
  likes: LikeRow,
} as const;
export type TableName = keyof typeof TABLES;
export const TABLE_NAMES = Object.keys(TABLES) as TableName[];

export interface RowOf {
  settings: SettingsRow;
  types: TypeRow;
  fixtures: FixtureRow;
  groups: GroupRow;
  lists: ListRow;
  cues: CueRow;
  values: ValueRow;
  scripts: ScriptRow;
  calls: CallRow;
  faders: FaderRow;
  sounds: SoundRow;
  pieces: PieceRow;
  routes: RouteRow;
  universes: UniverseRow;
  circuits: CircuitRow;
  palettes: PaletteRow;
  looks: LookRow;
  effects: EffectRow;
  layouts: LayoutRow;
  pictures: PictureRow;
  parts: PartRow;
  notes: NoteRow;
  pages: PageRow;
  departments: DepartmentRow;
  prompts: PromptRow;
  photos: PhotoRow;
  likes: LikeRow;
}
export type AnyRow = RowOf[TableName];

export const valueId = (cueId: string, fixtureId: string, attribute: string): string =>
  `${cueId}:${fixtureId}:${attribute}`;
export const slotKey = (fixtureId: string, attribute: string): string =>
  `${fixtureId}:${attribute}`;
