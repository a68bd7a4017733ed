/**
 * The live socket, both directions, in one place (docs/api.md). JSON messages, plus binary frames for levels.
 * The same commands are taken over HTTP.
 */
import { z } from 'zod';
import { LOOKERS, PLAYERS, type Role } from '../roles.ts';
import { CURVES, PIVOTS } from '../select/fan.ts';
import type { EffectUse } from '../effects/rows.ts';
import {
  Address,
  FAMILIES,
  FixtureNumber,
  LIMITS,
  RowId,
  StagePoint,
  Time,
  Universe,
} from '../show/fields.ts';
import type { Change } from '../show/undo.ts';

const Level = z.number().min(0, 'A level is at least 0.').max(1, 'A level is at most 1 (100 %).');
const Numbers = z.array(FixtureNumber).min(1, 'Name at least one fixture.').max(10_000);
const Attribute = z.string().min(1).max(60);
/** Fixture numbers; absent: the operator's own selection, in its order. */
const On = Numbers.optional();
const Families = z.array(z.enum(FAMILIES)).min(1).max(FAMILIES.length);

const FaderNumber = z.number().int().min(1, 'Faders count from 1.').max(999);
/** Times as fast. */
const RATE = { least: 0.1, most: 10 } as const;

/** Faders that have a board together. */
export const FADERS_A_PAGE = 8;
/** What a board is of: the show, a list, or a page of eight faders counted from 1. */
const Thing = z.union([
  z.literal('show'),
  z.object({ list: RowId }),
  z.object({ faders: z.number().int().min(1).max(125) }),
]);
export type Thing = z.infer<typeof Thing>;

export const LiveCommand = z.discriminatedUnion('command', [
  z.object({ command: z.literal('go'), list: RowId.optional() }),
  z.object({ command: z.literal('back'), list: RowId.optional() }),
  z.object({ command: z.literal('pause'), list: RowId.optional() }),
  z.object({
    command: z.literal('goto'),
    cue: z.string().max(20),
    time: Time.optional(),
    list: RowId.optional(),
  }),
  /** To the next cue, or a named one, in no time. */
  z.object({
    command: z.literal('cut'),
    list: RowId.optional(),
    cue: z.string().max(20).optional(),
  }),
  /** The cue that the next GO plays; null: as the list says. */
  z.object({
    command: z.literal('arm'),
    list: RowId.optional(),
    cue: z.string().max(20).nullable(),
  }),
  /** Paces a list: fades, delays, follows. */
  z.object({
    command: z.literal('rate'),
    list: RowId.optional(),
    rate: z
      .number()
      .min(RATE.least, 'A rate is at least 10 %.')
      .max(RATE.most, 'A rate is at most 1000 %.'),
  }),
  /** The fade by hand, 0…1; without one under way it begins the next cue. Null lets time go on from there. */
  z.object({ command: z.literal('hand'), list: RowId.optional(), position: Level.nullable() }),
  /** A list lets go of all that it holds, in its release time or this. */
  z.object({ command: z.literal('release'), list: RowId.optional(), time: Time.optional() }),
  /** Every list and fader but those that keep through release. */
  z.object({ command: z.literal('release-all'), time: Time.optional() }),
  z.object({
    command: z.literal('list-master'),
    list: RowId.optional(),
    level: Level,
    time: Time.optional(),
  }),
  /** A fader by its number. */
  z.object({
    command: z.literal('fader'),
    fader: FaderNumber,
    level: Level,
    time: Time.optional(),
    /** A hand that is away from what the fader gives waits to pick it up; this does not. */ take: z
      .boolean()
      .optional(),
  }),
  /** Pressed and lifted. */
  z.object({ command: z.literal('flash'), fader: FaderNumber, on: z.boolean() }),
  /** The steps of a chase a minute, until it is released. */
  z.object({
    command: z.literal('chase-speed'),
    list: RowId.optional(),
    bpm: z
      .number()
      .min(1, 'A chase has at least 1 step a minute.')
      .max(1200, 'A chase has at most 1200 steps a minute.'),
  }),
  /** Stays at a level whatever plays, for somebody on a ladder; without fixtures: all that are held are let off. */
  z.object({
    command: z.literal('focus'),
    fixtures: Numbers.optional(),
    level: Level.default(1),
    on: z.boolean(),
  }),
  /** Whether remote controls over the network may play this show. */
  z.object({ command: z.literal('remotes'), on: z.boolean() }),
  /** One value for all: a level, or a physical value in the attribute's unit, which each unit takes in its own range. */
  z.object({
    command: z.literal('set'),
    fixtures: On,
    attribute: Attribute,
    level: Level.optional(),
    physical: z.number().min(-100_000).max(100_000).optional(),
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  }),
  z.object({
    command: z.literal('set-many'),
    values: z
      .array(
        z.object({
          fixtureId: RowId,
          attribute: Attribute,
          level: Level,
          palette: RowId.optional(),
          fade_s: Time.optional(),
          delay_s: Time.optional(),
        }),
      )
      .min(1)
      .max(20_000),
    fade_s: Time.optional(),
  }),
  /** Each from where it is: so much more, in the attribute's unit, or so many times as much. */
  z.object({
    command: z.literal('nudge'),
    fixtures: On,
    attribute: Attribute,
    add: z.number().min(-100_000).max(100_000).optional(),
    times: z.number().min(0).max(100).optional(),
    fade_s: Time.optional(),
  }),
  /** Spread over the fixtures in their order: from stop to stop in the attribute's unit, or by so much from where each is; or spread times. */
  z.object({
    command: z.literal('fan'),
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
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  }),
  /** Fade and delay of what is held, without moving it. */
  z.object({
    command: z.literal('times'),
    fixtures: On,
    attributes: z.array(Attribute).max(200).optional(),
    families: Families.optional(),
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  }),
  /** A chromaticity (CIE 1931 xy) or a white point, solved for each unit. */
  z.object({
    command: z.literal('colour'),
    fixtures: On,
    x: z.number().min(0).max(1).optional(),
    y: z.number().min(0.001).max(1).optional(),
    kelvin: z.number().min(1667).max(25_000).optional(),
    /** Over the fixtures in order, from that colour to this. */ to: z
      .object({ x: z.number().min(0).max(1), y: z.number().min(0.001).max(1) })
      .optional(),
    fade_s: Time.optional(),
  }),
  /** A stage point for all heads; two: along the line between them in order. */
  z.object({
    command: z.literal('aim'),
    fixtures: On,
    points: z.array(StagePoint).min(1).max(2),
    flip: z.boolean().default(false),
    fade_s: Time.optional(),
  }),
  /** The other way to look where they look. */
  z.object({ command: z.literal('flip'), fixtures: On, fade_s: Time.optional() }),
  /** Each fixture takes what the palette says for it, and follows it. */
  z.object({
    command: z.literal('palette'),
    fixtures: On,
    palette: RowId,
    fade_s: Time.optional(),
  }),
  /** What a look says, for all its fixtures or some of them; the values follow it. */
  z.object({
    command: z.literal('look'),
    fixtures: Numbers.optional(),
    look: RowId,
    fade_s: Time.optional(),
  }),
  z.object({
    command: z.literal('effect'),
    fixtures: On,
    effect: RowId,
    on: z.boolean().default(true),
    fade_s: Time.optional(),
  }),
  /** At full, straight ahead, open white: the defaults of their modes; with families these alone, as they are by default. */
  z.object({
    command: z.literal('home'),
    fixtures: On,
    families: Families.optional(),
    fade_s: Time.optional(),
  }),
  /** Pulls what is lit, or what a cue sets (or shows, with `whole`), into the programmer. */
  z.object({
    command: z.literal('take'),
    what: z.enum(['lit', 'cue']),
    fixtures: Numbers.optional(),
    families: Families.optional(),
    cue: z.string().max(20).optional(),
    list: RowId.optional(),
    whole: z.boolean().default(false),
  }),
  /** Lets go of all but these families. */
  z.object({ command: z.literal('keep'), families: Families }),
  z.object({ command: z.literal('type'), text: z.string().max(2000) }),
  z.object({ command: z.literal('select'), fixtures: z.array(RowId).max(10_000) }),
  z.object({ command: z.literal('master'), level: Level }),
  z.object({ command: z.literal('blackout'), on: z.boolean() }),
  z.object({ command: z.literal('clear') }),
  /** Gives back what was cleared or let go last. */
  z.object({ command: z.literal('bring-back') }),
  /** Selected units at full in white where they look, over playback, until it is off. */
  z.object({ command: z.literal('highlight'), on: z.boolean() }),
  /** One by one through the selection: the next, the one before, or all of it again. */
  z.object({
    command: z.literal('step'),
    by: z.union([z.literal(1), z.literal(-1), z.literal(0)]),
  }),
  /** Values are held and do not show. */
  z.object({ command: z.literal('blind'), on: z.boolean() }),
  /** The shared tempo, for effects that count in beats. */
  z.object({
    command: z.literal('tempo'),
    bpm: z
      .number()
      .min(10, 'A tempo is at least 10 beats a minute.')
      .max(600, 'A tempo is at most 600 beats a minute.'),
  }),
  z.object({
    command: z.literal('letgo'),
    fade_s: Time.optional(),
    fixtures: Numbers.optional(),
    families: Families.optional(),
    attributes: z.array(Attribute).max(200).optional(),
    slots: z
      .array(z.object({ fixtureId: RowId, attribute: Attribute }))
      .max(20_000)
      .optional(),
  }),
  /** With `preview` it is only said what would happen on stage. */
  z.object({ command: z.literal('air'), on: z.boolean(), preview: z.boolean().optional() }),
  /** A raw byte on an address, over everything, until it is let off; null lets it off, without an address all of yours. */
  z.object({
    command: z.literal('check'),
    universe: Universe.optional(),
    address: Address.optional(),
    value: z
      .number()
      .int('A value is a whole number.')
      .min(0)
      .max(255, 'A value is at most 255.')
      .nullable(),
  }),
  /** Stays at its level whatever plays. Without an attribute: all of the fixture. Without a level: where it is now. */
  z.object({
    command: z.literal('park'),
    fixtures: Numbers,
    attribute: Attribute.optional(),
    level: Level.optional(),
    on: z.boolean(),
  }),
  /** A control macro of the type, unit after unit: groups of `together`, `stagger_s` apart. */
  z.object({
    command: z.literal('macro'),
    fixtures: Numbers,
    macro: z.string().min(1).max(LIMITS.nameLength),
    stagger_s: z.number().min(0).max(60).default(0),
    together: z.number().int().min(1).max(10_000).default(1),
  }),
  z.object({ command: z.literal('macro-cancel'), id: z.number().int() }),
  /** The right to play: taken while it is free (or by an owner), left, asked for, handed over to somebody who is here. */
  z.object({
    command: z.literal('board'),
    do: z.enum(['take', 'leave', 'ask', 'hand', 'refuse']),
    thing: Thing.optional(),
    to: z.string().max(120).optional(),
    note: z.string().max(200, 'A note has at most 200 characters.').optional(),
  }),
  /** Light of somebody who is not here, or may not play any more: taken over as it is, let go, or left until somebody says. */
  z.object({
    command: z.literal('left-light'),
    of: z.string().min(1).max(120),
    do: z.enum(['take', 'go', 'leave']),
    fade_s: Time.default(3),
  }),
  /** Asks for something that somebody was given to program. */
  z.object({ command: z.literal('ask'), part: RowId, note: z.string().max(200).optional() }),
  /** Asked for a part, its person keeps it for now. */
  z.object({ command: z.literal('keep-part'), part: RowId, from: z.string().max(120) }),
  /** The next cue of a list, or a department, is told to stand by, given its go, or neither any more. */
  z.object({
    command: z.literal('call'),
    list: RowId.optional(),
    do: z.enum(['standby', 'go', 'withdraw']).default('go'),
    department: RowId.optional(),
    /** Where in the script. */ prompt: RowId.optional(),
    words: z.string().max(80).optional(),
  }),
  /** Stands by; a department that was given its go has done it. */
  z.object({ command: z.literal('answer-call'), call: z.string().max(40) }),
  /** A button of a control page. */
  z.object({ command: z.literal('press'), page: RowId, button: z.number().int().min(1).max(24) }),
  /** A fader of a control page. */
  z.object({ command: z.literal('page-fader'), page: RowId, fader: RowId, level: Level }),
]);
export type LiveCommand = z.infer<typeof LiveCommand>;

const PAGERS: readonly Role[] = [...PLAYERS, 'volunteer'];
/** Who may give which live command. A viewer looks and calls; a volunteer has pages. */
export const LIVE_ROLES: Record<LiveCommand['command'], readonly Role[]> = {
  go: PLAYERS,
  back: PLAYERS,
  pause: PLAYERS,
  goto: PLAYERS,
  cut: PLAYERS,
  arm: PLAYERS,
  rate: PLAYERS,
  hand: PLAYERS,
  release: PLAYERS,
  'release-all': PLAYERS,
  'list-master': PLAYERS,
  fader: PLAYERS,
  flash: PLAYERS,
  'chase-speed': PLAYERS,
  focus: PLAYERS,
  remotes: PLAYERS,
  set: PLAYERS,
  'set-many': PLAYERS,
  palette: PLAYERS,
  nudge: PLAYERS,
  fan: PLAYERS,
  times: PLAYERS,
  colour: PLAYERS,
  aim: PLAYERS,
  flip: PLAYERS,
  look: PLAYERS,
  effect: PLAYERS,
  home: PLAYERS,
  take: PLAYERS,
  keep: PLAYERS,
  'bring-back': PLAYERS,
  highlight: PLAYERS,
  step: LOOKERS,
  blind: PLAYERS,
  tempo: PLAYERS,
  type: PLAYERS,
  select: LOOKERS,
  master: PLAYERS,
  blackout: PLAYERS,
  clear: PLAYERS,
  letgo: PLAYERS,
  air: PLAYERS,
  check: ['owner', 'programmer'],
  park: PLAYERS,
  macro: ['owner', 'programmer'],
  'macro-cancel': PLAYERS,
  board: PLAYERS,
  'left-light': PLAYERS,
  ask: PLAYERS,
  'keep-part': PLAYERS,
  call: LOOKERS,
  'answer-call': LOOKERS,
  press: PAGERS,
  'page-fader': PAGERS,
};

const Short = z.string().max(120);
/** What a screen looks at in every place, so that another can show the same. */
export const View = z.object({
  place: z.string().max(40),
  selection: z.array(Short).max(10_000),
  book: z.object({
    listId: Short.nullable(),
    cueId: Short.nullable(),
    follow: z.boolean(),
    family: z.enum(FAMILIES),
    unfolded: z.array(Short).max(2000),
    cells: z
      .object({ row: z.number(), column: z.number(), toRow: z.number(), toColumn: z.number() })
      .nullable(),
    search: z.string().max(200),
  }),
  stage: z.object({
    view: Short,
    layoutId: Short.nullable(),
    shelf: Short,
    view2d: z.object({ zoom: z.number(), x: z.number(), y: z.number() }).nullable(),
    camera: Short,
    sheet: z.boolean(),
  }),
  rig: z.object({ universe: z.number(), upper: Short, lower: Short }),
  crew: Short,
  /** Of what is scrolled, by its name: from the top, and from the left, in pixels. */
  scroll: z.record(z.string().max(60), z.tuple([z.number(), z.number()])),
});
export type View = z.infer<typeof View>;

export const ClientMessage = z.discriminatedUnion('type', [
  z.object({ type: z.literal('command'), id: z.number().int(), command: LiveCommand }),
  /** Where this screen is: its place, the cue it looks at, and what it is. */
  z.object({
    type: z.literal('presence'),
    place: z.string().max(40),
    cue: z.string().max(120).nullable().default(null),
    device: z.string().max(60).default(''),
    /** What is written in now, as `cues/<id>/<field>` and the like. */
    hand: z.string().max(300).nullable().default(null),
    /** The same in words: `Name of cue 12`, or the title of the dialog that is open. */
    doing: z.string().max(160).default(''),
  }),
  /** What this screen looks at, for those who follow it; asked for while there are any. */
  z.object({ type: z.literal('view'), view: View }),
  /** What this screen shows beyond levels: bytes of universes, where they come from, the state of the outputs. */
  z.object({
    type: z.literal('watch'),
    universes: z.array(Universe).max(8, 'A screen watches at most 8 universes.'),
    sources: z.boolean(),
    outputs: z.boolean(),
    programmer: z.string().max(120).nullable().default(null),
    /** This screen plays the sounds of cues. */ sound: z.boolean().default(false),
    /** Whose screen this one goes along with. */ follows: z
      .string()
      .max(120)
      .nullable()
      .default(null),
  }),
  z.object({ type: z.literal('ping'), at: z.number() }),
  /** Answered when the player stands at least at this change of the show, and this screen has been told all that its person holds. */
  z.object({ type: z.literal('settle'), id: z.number().int(), seq: z.number().int().min(0) }),
]);
export type ClientMessage = z.infer<typeof ClientMessage>;

export interface ListStatus {
  id: string;
  name: string;
  cueId: string | null;
  /** The number stays when the cue on stage is deleted, so that what is next can be said. */
  cueNumber: number | null;
  nextId: string | null;
  elapsed_s: number;
  total_s: number;
  paused: boolean;
  running: boolean;
  /** The next cue was chosen by hand. */
  armed: boolean;
  /** Holds something, or is on its way out. */
  active: boolean;
  rate: number;
  master: number;
  /** Where the fade is while it is led by hand. */
  hand: number | null;
  /** Seconds until it goes on by itself. */
  followIn_s: number | null;
  /** Steps a minute of a chase that runs. */
  bpm: number | null;
  /** Rounds that a counted link has done, by cue id. */
  rounds: Record<string, number>;
}
export interface FaderStatus {
  id: string;
  /** Where the fader stands, and what it gives; they differ after a release until it is picked up. */
  level: number;
  real: number;
  waiting: boolean;
  flash: boolean;
}
/** What went wrong with a cue's actions, newest last. */
export interface Report {
  at: string;
  cue: string;
  text: string;
}
export interface HeldValue {
  fixtureId: string;
  attribute: string;
  level: number;
  /** Follows this palette. */
  palette?: string;
  /** Follows what this look says. */
  look?: string;
  /** An effect runs on top of the level. */
  effect?: EffectUse;
  /** Held for the sake of its effect alone: the effect took the slot, and lets go of it when it is switched off. */
  taken?: true;
  fade_s: number;
  delay_s: number;
  /** In a cue already; still held until let go. */
  recorded: boolean;
}
export interface Person {
  userId: string;
  name: string;
  role: Role;
  /** Of the screen that was used last. */
  place: string;
  cue: string | null;
  device: string;
  screens: number;
  /** What their screens write in, and have open. */
  hands: { hand: string | null; doing: string }[];
}
export interface BoardState {
  thing: Thing;
  userId: string;
  name: string;
  since: string;
  /** While the person is away: seconds until the board is free. */
  freeIn_s: number | null;
}
/** Light of somebody who is not here, or may not play any more. */
export interface LeftLight {
  userId: string;
  name: string;
  why: 'away' | 'out' | 'removed' | 'role';
  values: number;
  fixtures: number;
  /** Somebody said that it stays. */
  kept: boolean;
  /** Until it goes by itself; null: it waits. */
  goesIn_s: number | null;
}
/** Somebody is told to stand by, has answered, or was given the go. */
export interface CallState {
  id: string;
  /** Light: the next cue of a list. */
  listId: string | null;
  cueId: string | null;
  /** Or a department, and the place in the script where it is called. */
  department: string | null;
  prompt: string | null;
  /** `LX 12`, `Sound, Q 7`. */
  words: string;
  by: string;
  state: 'standby' | 'ready' | 'go';
  answeredBy: string | null;
  /** Since it stands so, when this was told. */
  since_s: number;
}
export interface AirState {
  /** The show on air in this house, if any. */
  showId: string | null;
  showName: string | null;
  universes: number;
  /** Nothing leaves this machine: all that is sent goes to the simulated node. */
  onlyNode: boolean;
  problem: string | null;
}
/** What lies over everything else. */
export interface OverState {
  parked: { fixtureId: string; attribute: string; level: number; by: string }[];
  /** Held for focus: by whom, and since when (ISO 8601). */
  focus: { fixtureId: string; level: number; by: string; since: string }[];
  checks: { universe: number; address: number; value: number; by: string; mine: boolean }[];
  macros: { id: number; name: string; by: string; done: number; total: number }[];
}
/** Where bytes come from: runs of addresses with one answer. */
export interface SourceRun {
  from: number;
  to: number;
  text: string;
}
export interface OutputState {
  lines: { routeId: string; packets: number; errors: number; problem: string | null }[];
  nodes: {
    address: string;
    shortName: string;
    longName: string;
    report: string;
    outputs: number[];
    heard_s: number;
  }[];
  sources: {
    cid: string;
    name: string;
    address: string;
    universes: number[];
    own: boolean;
    heard_s: number;
  }[];
  /** Why one of them cannot be heard, if so. */
  deaf: string[];
  /** Where remote controls are heard by OSC, and why not where it was wanted. */
  osc: { port: number | null; problem: string | null };
}
/** What an operator has in hand besides values. */
export interface ProgrammerState {
  selection: string[];
  /** While stepping: the whole selection, and which of it is selected now, from 0. */
  stepping: { all: string[]; at: number } | null;
  blind: boolean;
  highlight: boolean;
  /** Values that can be brought back. */
  cleared: number;
}
/** What others see of an operator. */
export interface OtherProgrammer {
  userId: string;
  name: string;
  /** With a screen of theirs; without one they have no marks, and what they hold is on stage all the same. */
  here: boolean;
  values: number;
  unrecorded: number;
  selection: string[];
  /** Palettes and looks that the values follow. */
  follows: string[];
  blind: boolean;
}
export interface PlaybackState {
  /** Beats a minute, shared by effects that count in beats. */
  tempo_bpm: number;
  lists: ListStatus[];
  faders: FaderStatus[];
  /** Remote controls may play. */
  remotes: boolean;
  /** Act and scene that the first list is in by the script, and since when (ISO 8601). */
  act: { name: string; since: string } | null;
  scene: { name: string; since: string } | null;
  reports: Report[];
  master: number;
  blackout: boolean;
  /** On the show's board. */
  holder: { userId: string; name: string } | null;
  boards: BoardState[];
  left: LeftLight[];
  calls: CallState[];
  /** The last place in the script that each department was given its go for. */
  passed: Record<string, string>;
}

export type ServerMessage =
  | {
      type: 'welcome';
      you: { userId: string; name: string; role: Role };
      seq: number;
      version: number;
      keys: string[];
    }
  | { type: 'slots'; version: number; keys: string[] }
  | { type: 'change'; change: Change }
  | ({ type: 'playback' } & PlaybackState)
  /** What changed of what you hold since the last one: new and changed values, keys of those that are gone. */
  | ({ type: 'programmer'; changed: HeldValue[]; gone: string[] } & ProgrammerState)
  | { type: 'others'; programmers: OtherProgrammer[] }
  /** What another operator holds, for who looks at it. */
  | { type: 'other'; userId: string; values: HeldValue[] }
  | ({ type: 'over' } & OverState)
  | { type: 'sources'; universe: number; runs: SourceRun[] }
  | ({ type: 'outputs' } & OutputState)
  | { type: 'presence'; people: Person[] }
  /** Others go along with what this screen looks at: they want to be told. */
  | { type: 'followed'; by: string[] }
  | { type: 'view'; userId: string; view: View }
  | ({ type: 'air' } & AirState)
  | { type: 'role'; role: Role | null }
  /** One person to another, or the house to one: somebody asks, hands over, holds the same light. */
  | {
      type: 'word';
      kind: 'asked' | 'handed' | 'declined' | 'both' | 'taken' | 'over';
      from: { userId: string; name: string };
      text: string;
      thing?: Thing;
      part?: string;
    }
  /** Something came into the person's inbox, or was read on another screen; `says` is its first sight. */
  | { type: 'inbox'; says: string | null }
  /** The screen's session was locked or opened. */
  | { type: 'locked'; locked: boolean }
  /** Signed out everywhere. */
  | { type: 'out' }
  | {
      type: 'reply';
      id: number | null;
      ok: boolean;
      code?: string;
      message?: string;
      /** What whoever did it should know at once. */ warning?: string;
    }
  /** A cue started a sound: screens that play sound play it. */
  | { type: 'sound'; sound: string }
  /** `notKept`: why nothing is being kept at the moment, or null. */
  | {
      type: 'pong';
      at: number;
      /** The house’s clock, ms since 1970: a device’s own may be wrong. */ clock: number;
      notKept: string | null;
    };

export const SOCKET_LIMITS = {
  messageBytes: 2 * 1024 * 1024,
  commandsPerSecond: 120,
  levelsPerSecond: 25,
} as const;

/*
 * Level frames, little-endian: byte 0 kind, byte 1 unused, bytes 2-3 slot table version (low 16 bits), bytes 4-7 count.
 * DENSE: count levels of 16 bits from slot 0. SPARSE: count pairs of slot (32 bits) and level (16 bits), packed.
 */
/*
 * A universe's bytes: byte 0 kind 3, byte 1 unused, bytes 2-3 universe, bytes 4-7 count (512), then the bytes.
 */
const DENSE = 1;
const SPARSE = 2;
const HEAD = 8;
const PAIR = 6;

/**
 * Writes what changed since `last` (which is brought up to date) into a frame, or null when nothing did.
 * @param all ignore `last` and send everything
 */
export function encodeLevels(
  levels: Float32Array,
  last: Uint16Array,
  version: number,
  all = false,
): Uint8Array | null {
  const changed: number[] = [];
  for (let i = 0; i < levels.length; i++) {
    const value = Math.round((levels[i] as number) * 65535);
    if (last[i] === value) continue;
    last[i] = value;
    changed.push(i);
  }
  if (changed.length === 0 && !all) return null;
  const dense = all || changed.length * PAIR > levels.length * 2;
  const count = dense ? levels.length : changed.length;
  const frame = new Uint8Array(HEAD + count * (dense ? 2 : PAIR));
  const view = new DataView(frame.buffer);
  view.setUint8(0, dense ? DENSE : SPARSE);
  view.setUint16(2, version & 0xffff, true);
  view.setUint32(4, count, true);
  if (dense) for (let i = 0; i < count; i++) view.setUint16(HEAD + i * 2, last[i] as number, true);
  else {
    changed.forEach((slot, i) => {
      view.setUint32(HEAD + i * PAIR, slot, true);
      view.setUint16(HEAD + i * PAIR + 4, last[slot] as number, true);
    });
  }
  return frame;
}

/** Reads a frame into `levels`; false when it belongs to another slot table or is broken. */
export function decodeLevels(data: ArrayBuffer, levels: Float32Array, version: number): boolean {
  if (data.byteLength < HEAD) return false;
  const view = new DataView(data);
  const kind = view.getUint8(0);
  const count = view.getUint32(4, true);
  if (view.getUint16(2, true) !== (version & 0xffff)) return false;
  const size = kind === DENSE ? 2 : PAIR;
  if ((kind !== DENSE && kind !== SPARSE) || data.byteLength !== HEAD + count * size) return false;
  for (let i = 0; i < count; i++) {
    const slot = kind === DENSE ? i : view.getUint32(HEAD + i * PAIR, true);
    if (slot >= levels.length) return false;
    levels[slot] = view.getUint16(HEAD + i * size + (kind === DENSE ? 0 : 4), true) / 65535;
  }
  return true;
}

const BYTES = 3;
const UNIVERSE_BYTES = 512;

/** A universe's 512 bytes as a frame. */
export function encodeUniverse(universe: number, bytes: Uint8Array): Uint8Array {
  const frame = new Uint8Array(HEAD + UNIVERSE_BYTES);
  const view = new DataView(frame.buffer);
  view.setUint8(0, BYTES);
  view.setUint16(2, universe, true);
  view.setUint32(4, UNIVERSE_BYTES, true);
  frame.set(bytes.subarray(0, UNIVERSE_BYTES), HEAD);
  return frame;
}

/** Reads a universe's frame; undefined for level frames and what is broken. */
export function decodeUniverse(
  data: ArrayBuffer,
): { universe: number; bytes: Uint8Array } | undefined {
  const view = new DataView(data);
  if (
    data.byteLength !== HEAD + UNIVERSE_BYTES ||
    view.getUint8(0) !== BYTES ||
    view.getUint32(4, true) !== UNIVERSE_BYTES
  )
    return undefined;
  return { universe: view.getUint16(2, true), bytes: new Uint8Array(data, HEAD, UNIVERSE_BYTES) };
}
