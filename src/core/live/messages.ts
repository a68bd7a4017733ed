/**
 * The live socket, both directions, in one place (docs/api.md). JSON messages, plus binary frames for levels.
 * The same commands are taken over HTTP.
 */
import { z } from 'zod';
import type { DIRECTIONS } from '../lists/rows.ts';
import type { PlayedKind } from '../palettes/rows.ts';
import type { ArtNode } from '../output/art-poll.ts';
import type { RdmDevice } from '../rdm/devices.ts';
import type { Card } from '../wires/cards.ts';
import type { Wires } from '../wires/wires.ts';
import { LiveCommand } from './commands.ts';
import type { Thing } from './thing.ts';
import { type Role } from '../roles.ts';
import type { FollowState } from '../timecode/follow.ts';
import type { TimecodeFrom } from '../time/rows.ts';
import type { Rate } from '../timecode/rows.ts';
import type { EffectUse } from '../effects/rows.ts';
import { FAMILIES, Universe } from '../show/fields.ts';
import type { Change } from '../show/undo.ts';

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

/** What a screen may send; everything else is passed over. */
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
    /** This screen plays the sounds of cues. */
    sound: z.boolean().default(false),
    /** Whose screen this one goes along with. */
    follows: z.string().max(120).nullable().default(null),
  }),
  z.object({ type: z.literal('ping'), at: z.number() }),
  /** Answered when the player stands at least at this change of the show, and this screen has been told all that its person holds. */
  z.object({ type: z.literal('settle'), id: z.number().int(), seq: z.number().int().min(0) }),
]);
export type ClientMessage = z.infer<typeof ClientMessage>;

/** How a cue list stands. */
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
  /** How a chase that runs goes now; a count of 0 is for ever. `differs`: it was changed live, and the list says otherwise. */
  chase: {
    share: number;
    direction: (typeof DIRECTIONS)[number];
    count: number;
    differs: boolean;
  } | null;
  /** Rounds that a counted link has done, by cue id. */
  rounds: Record<string, number>;
  /** Where it is on its track when this was told, in seconds; null where it is not on it. */
  track: {
    position_s: number;
    /** When that was, on the player’s own clock (`ticks` of a pong). */
    told_ms: number;
    runs: boolean;
    loop: { from_s: number; to_s: number } | null;
  } | null;
}
/** How a fader stands. */
export interface FaderStatus {
  id: string;
  /** Where the fader stands, and what it gives; they differ after a release until it is picked up. */
  level: number;
  real: number;
  waiting: boolean;
  flash: boolean;
}
/** A palette, a look or an effect that plays by itself. */
export interface PlayedStatus {
  kind: PlayedKind;
  id: string;
  /** Whose press it was. */
  by: string;
  /** Units that it was played on; null: those that it was made for. */
  units: number | null;
}
/** What went wrong with a cue's actions, newest last. */
export interface Report {
  at: string;
  /** Number of the cue; empty where it was none. */
  cue: string;
  /** What was pressed, where it was no cue. */
  from?: string;
  text: string;
}
/** A value in somebody’s programmer. */
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
/** Somebody who has a show open. */
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
/** Something that one person has in hand, and nobody else for now. */
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
/** Which show has the outputs, and whether anything leaves the machine. */
export interface AirState {
  /** The show on air in this house, if any. */
  showId: string | null;
  showName: string | null;
  universes: number;
  /** Nothing leaves this machine: all that is sent goes to the simulated node. */
  onlyNode: boolean;
  /** Universes that are meant to leave this machine, and do not. */
  nowhere: Nowhere | null;
  problem: string | null;
}
/** Before the house has said what is on air. */
export const AIR_UNKNOWN: AirState = {
  showId: null,
  showName: null,
  universes: 0,
  onlyNode: false,
  nowhere: null,
  problem: null,
};
/** Universes of a show that nothing brings anywhere. */
export interface Nowhere {
  universes: number[];
  /** So many are meant to leave. */
  of: number;
  /** In words, of the first of them. */
  why: string;
}
/** What lies over everything else. */
export interface OverState {
  parked: { fixtureId: string; attribute: string; level: number; by: string }[];
  /** Held for focus: by whom, and since when (ISO 8601). */
  focus: { fixtureId: string; level: number; by: string; since: string }[];
  /** Out of playback’s reach: by whom, and since when (ISO 8601). */
  guarded: { fixtureId: string; by: string; since: string }[];
  checks: { universe: number; address: number; value: number; by: string; mine: boolean }[];
  macros: { id: number; name: string; by: string; done: number; total: number }[];
}
/** Where bytes come from: runs of addresses with one answer. */
export interface SourceRun {
  from: number;
  to: number;
  text: string;
}
/** How the clock kept time and what it sent in one second. */
export interface OutputSecond {
  /** Since the clock began. */
  second: number;
  /** Of 44. */
  frames: number;
  /** How long a frame took: on the mean, and the longest. */
  frame_ms: number;
  worstFrame_ms: number;
  /** How long after it was due the latest one began. */
  worstLate_ms: number;
  packets: number;
}

/** Ten minutes. */
export const KEPT_SECONDS = 600;

/** What was known and what is told now; a clock that began again begins them again. */
export function withSeconds(
  known: readonly OutputSecond[],
  told: readonly OutputSecond[],
): readonly OutputSecond[] {
  const [first] = told;
  if (!first) return known;
  return [...known.filter((s) => s.second < first.second), ...told].slice(-KEPT_SECONDS);
}

/** An Art-Net node, or four ports of one. */
export interface NodeSeen extends ArtNode {
  /** The card on whose network it is; null behind a router. */
  card: string | null;
  heard_s: number;
}
/** An sACN source that tells its universes. */
export interface SourceSeen {
  cid: string;
  name: string;
  address: string;
  universes: number[];
  own: boolean;
  card: string | null;
  heard_s: number;
}
/** A universe of another desk, as it is received for a show. */
export interface InputSeen {
  id: string;
  /** `held`: its source is lost, and it stands as it was, or is on its way out. */
  state: 'heard' | 'held' | 'silent';
  from: { name: string; address: string; priority: number } | null;
  /** Up to 512 bytes in base 64; null where nothing was heard. */
  levels: string | null;
  /** Why nothing can be heard by its card; null where it can. */
  problem: string | null;
}
/** Units that hang at Art-Net nodes, by RDM. */
export interface RdmState {
  /** They are being asked. */
  looking: boolean;
  /** Somebody has asked before. */
  looked: boolean;
  devices: RdmDevice[];
}
/** The network as the player on air sees it. */
export interface NetworkState {
  wires: Wires;
  /** Cards of the player’s machine. */
  cards: readonly Card[];
  nodes: NodeSeen[];
  sources: SourceSeen[];
  /** What cannot be heard, if anything. */
  deaf: string[];
  /** sACN universes of ours that others say they send, and what is heard of them there, the highest priority first. */
  contested: { universe: number; others: { name: string; address: string; priority: number }[] }[];
}
/** How sending goes, for the people who watch it. */
export interface OutputState extends NetworkState {
  /** Seconds that this screen has not been told of, oldest first; at most ten minutes. */
  seconds: readonly OutputSecond[];
  lines: { routeId: string; packets: number; errors: number; problem: string | null }[];
  /** Where remote controls are heard by OSC, and why not where it was wanted. */
  osc: { port: number | null; problem: string | null };
}
/** Timecode as the machine of the player hears it. */
export interface TimecodeState {
  state: FollowState;
  rate: Rate | null;
  /** When this was told: `01:00:12:05`. */
  code: string | null;
}
/** Hands at the machine of the player: what it hears of them. */
export interface HandsState {
  /** MIDI ports, and universes of other desks, that are there now. */
  ports: readonly string[];
  /** Why something cannot be heard, in sentences. */
  problems: readonly string[];
  /** Page of each hand, from 1. */
  pages: Readonly<Record<string, number>>;
  timecode: Readonly<Record<TimecodeFrom, TimecodeState>>;
  /** 0…1 of each part that was heard, by hand. */
  heard: Readonly<Record<string, Readonly<Record<string, number>>>>;
}
/** Sound at the machine of the player. */
export interface SoundsState {
  devices: readonly string[];
  /** Where timecode can be heard as sound. */
  inputs: readonly string[];
  /** Why it is not heard at the input that was chosen, in a sentence. */
  inputProblem: string | null;
  /** Why nothing can be heard there, in a sentence. */
  problem: string | null;
  /** Share of each file that is ready, by sum. */
  ready: Readonly<Record<string, number>>;
  /** How far the sound of each list is from its track, by list: positive is late. */
  off_ms: Readonly<Record<string, number>>;
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
/** What plays in a show. */
export interface PlaybackState {
  /** Beats a minute, shared by effects that count in beats. */
  tempo_bpm: number;
  lists: ListStatus[];
  faders: FaderStatus[];
  played: PlayedStatus[];
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

/** What a screen is told. */
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
  /** What hangs at the nodes, to screens that look at outputs. */
  | ({ type: 'rdm' } & RdmState)
  /** What comes in from other desks, to screens that look at outputs or bytes. */
  | { type: 'inputs'; inputs: InputSeen[] }
  | ({ type: 'hands' } & HandsState)
  | ({ type: 'sounds' } & SoundsState)
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
      /** The player’s own clock, ms, which nobody sets: what plays is counted by it. */ ticks: number;
      notKept: string | null;
    };

/** What one socket may bring, and how often it is told levels. */
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
