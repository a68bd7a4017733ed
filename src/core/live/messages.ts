/**
 * The live socket, both directions, in one place (docs/api.md). JSON messages, plus binary frames for levels.
 * The same commands are taken over HTTP.
 */
import { z } from 'zod';
import { ROLES, type Role } from '../edits/edit.ts';
import { CURVES, PIVOTS } from '../select/fan.ts';
import type { EffectUse} from '../show/rows.ts';
import { Address, FAMILIES, FixtureNumber, LIMITS, RowId, StagePoint, Time, Universe } from '../show/rows.ts';
import type { Change } from '../show/undo.ts';

const Level = z.number().min(0, 'A level is at least 0.').max(1, 'A level is at most 1 (100 %).');
const Numbers = z.array(FixtureNumber).min(1, 'Name at least one fixture.').max(10_000);
const Attribute = z.string().min(1).max(60);
/** Fixture numbers; absent: the operator's own selection, in its order. */
const On = Numbers.optional();
const Families = z.array(z.enum(FAMILIES)).min(1).max(FAMILIES.length);

export const LiveCommand = z.discriminatedUnion('command', [
  z.object({ command: z.literal('go'), list: RowId.optional() }),
  z.object({ command: z.literal('back'), list: RowId.optional() }),
  z.object({ command: z.literal('pause'), list: RowId.optional() }),
  z.object({ command: z.literal('goto'), cue: z.string().max(20), time: Time.optional(), list: RowId.optional() }),
  /** One value for all: a level, or a physical value in the attribute's unit, which each unit takes in its own range. */
  z.object({ command: z.literal('set'), fixtures: On, attribute: Attribute, level: Level.optional(), physical: z.number().min(-100_000).max(100_000).optional(), fade_s: Time.optional(), delay_s: Time.optional() }),
  z.object({ command: z.literal('set-many'), values: z.array(z.object({ fixtureId: RowId, attribute: Attribute, level: Level, palette: RowId.optional(), fade_s: Time.optional(), delay_s: Time.optional() })).min(1).max(20_000), fade_s: Time.optional() }),
  /** Each from where it is: so much more, in the attribute's unit, or so many times as much. */
  z.object({ command: z.literal('nudge'), fixtures: On, attribute: Attribute, add: z.number().min(-100_000).max(100_000).optional(), times: z.number().min(0).max(100).optional(), fade_s: Time.optional() }),
  /** Spread over the fixtures in their order: from stop to stop in the attribute's unit, or by so much from where each is; or spread times. */
  z.object({
    command: z.literal('fan'),
    fixtures: On,
    attribute: Attribute,
    what: z.enum(['value', 'fade', 'delay']).default('value'),
    stops: z.array(z.number().min(-100_000).max(100_000)).min(2, 'A fan goes from one value to another.').max(16).optional(),
    by: z.number().min(-100_000).max(100_000).optional(),
    pivot: z.enum(PIVOTS).default('middle'),
    curve: z.enum(CURVES).default('even'),
    mirrored: z.boolean().default(false),
    fade_s: Time.optional(),
    delay_s: Time.optional(),
  }),
  /** Fade and delay of what is held, without moving it. */
  z.object({ command: z.literal('times'), fixtures: On, attributes: z.array(Attribute).max(200).optional(), families: Families.optional(), fade_s: Time.optional(), delay_s: Time.optional() }),
  /** A chromaticity (CIE 1931 xy) or a white point, solved for each unit. */
  z.object({ command: z.literal('colour'), fixtures: On, x: z.number().min(0).max(1).optional(), y: z.number().min(0.001).max(1).optional(), kelvin: z.number().min(1667).max(25_000).optional(), /** Over the fixtures in order, from that colour to this. */ to: z.object({ x: z.number().min(0).max(1), y: z.number().min(0.001).max(1) }).optional(), fade_s: Time.optional() }),
  /** A stage point for all heads; two: along the line between them in order. */
  z.object({ command: z.literal('aim'), fixtures: On, points: z.array(StagePoint).min(1).max(2), flip: z.boolean().default(false), fade_s: Time.optional() }),
  /** The other way to look where they look. */
  z.object({ command: z.literal('flip'), fixtures: On, fade_s: Time.optional() }),
  /** Each fixture takes what the palette says for it, and follows it. */
  z.object({ command: z.literal('palette'), fixtures: On, palette: RowId, fade_s: Time.optional() }),
  /** What a look says, for all its fixtures or some of them; the values follow it. */
  z.object({ command: z.literal('look'), fixtures: Numbers.optional(), look: RowId, fade_s: Time.optional() }),
  z.object({ command: z.literal('effect'), fixtures: On, effect: RowId, on: z.boolean().default(true), fade_s: Time.optional() }),
  /** Open white, straight ahead: the defaults of their modes; without families all but intensity. */
  z.object({ command: z.literal('home'), fixtures: On, families: Families.optional(), fade_s: Time.optional() }),
  /** Pulls what is lit, or what a cue sets (or shows, with `whole`), into the programmer. */
  z.object({ command: z.literal('take'), what: z.enum(['lit', 'cue']), fixtures: Numbers.optional(), families: Families.optional(), cue: z.string().max(20).optional(), list: RowId.optional(), whole: z.boolean().default(false) }),
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
  z.object({ command: z.literal('step'), by: z.union([z.literal(1), z.literal(-1), z.literal(0)]) }),
  /** Values are held and do not show. */
  z.object({ command: z.literal('blind'), on: z.boolean() }),
  /** The shared tempo, for effects that count in beats. */
  z.object({ command: z.literal('tempo'), bpm: z.number().min(10, 'A tempo is at least 10 beats a minute.').max(600, 'A tempo is at most 600 beats a minute.') }),
  z.object({ command: z.literal('letgo'), fade_s: Time.optional(), fixtures: Numbers.optional(), families: Families.optional(), attributes: z.array(Attribute).max(200).optional(), slots: z.array(z.object({ fixtureId: RowId, attribute: Attribute })).max(20_000).optional() }),
  z.object({ command: z.literal('air'), on: z.boolean() }),
  /** A raw byte on an address, over everything, until it is let off; null lets it off, without an address all of yours. */
  z.object({ command: z.literal('check'), universe: Universe.optional(), address: Address.optional(), value: z.number().int('A value is a whole number.').min(0).max(255, 'A value is at most 255.').nullable() }),
  /** Stays at its level whatever plays. Without an attribute: all of the fixture. Without a level: where it is now. */
  z.object({ command: z.literal('park'), fixtures: Numbers, attribute: Attribute.optional(), level: Level.optional(), on: z.boolean() }),
  /** A control macro of the type, unit after unit: groups of `together`, `stagger_s` apart. */
  z.object({ command: z.literal('macro'), fixtures: Numbers, macro: z.string().min(1).max(LIMITS.nameLength), stagger_s: z.number().min(0).max(60).default(0), together: z.number().int().min(1).max(10_000).default(1) }),
  z.object({ command: z.literal('macro-cancel'), id: z.number().int() }),
  z.object({ command: z.literal('board'), do: z.enum(['take', 'leave']) }),
]);
export type LiveCommand = z.infer<typeof LiveCommand>;

/** Who may give which live command. A viewer looks. */
export const LIVE_ROLES: Record<LiveCommand['command'], readonly Role[]> = {
  go: ['owner', 'programmer', 'operator'],
  back: ['owner', 'programmer', 'operator'],
  pause: ['owner', 'programmer', 'operator'],
  goto: ['owner', 'programmer', 'operator'],
  set: ['owner', 'programmer', 'operator'],
  'set-many': ['owner', 'programmer', 'operator'],
  palette: ['owner', 'programmer', 'operator'],
  nudge: ['owner', 'programmer', 'operator'],
  fan: ['owner', 'programmer', 'operator'],
  times: ['owner', 'programmer', 'operator'],
  colour: ['owner', 'programmer', 'operator'],
  aim: ['owner', 'programmer', 'operator'],
  flip: ['owner', 'programmer', 'operator'],
  look: ['owner', 'programmer', 'operator'],
  effect: ['owner', 'programmer', 'operator'],
  home: ['owner', 'programmer', 'operator'],
  take: ['owner', 'programmer', 'operator'],
  keep: ['owner', 'programmer', 'operator'],
  'bring-back': ['owner', 'programmer', 'operator'],
  highlight: ['owner', 'programmer', 'operator'],
  step: ROLES,
  blind: ['owner', 'programmer', 'operator'],
  tempo: ['owner', 'programmer', 'operator'],
  type: ['owner', 'programmer', 'operator'],
  select: ROLES,
  master: ['owner', 'programmer', 'operator'],
  blackout: ['owner', 'programmer', 'operator'],
  clear: ['owner', 'programmer', 'operator'],
  letgo: ['owner', 'programmer', 'operator'],
  air: ['owner', 'programmer', 'operator'],
  check: ['owner', 'programmer'],
  park: ['owner', 'programmer', 'operator'],
  macro: ['owner', 'programmer'],
  'macro-cancel': ['owner', 'programmer', 'operator'],
  board: ['owner', 'programmer', 'operator'],
};

export const ClientMessage = z.discriminatedUnion('type', [
  z.object({ type: z.literal('command'), id: z.number().int(), command: LiveCommand }),
  z.object({ type: z.literal('presence'), place: z.string().max(40) }),
  /** What this screen shows beyond levels: bytes of universes, where they come from, the state of the outputs. */
  z.object({ type: z.literal('watch'), universes: z.array(Universe).max(8, 'A screen watches at most 8 universes.'), sources: z.boolean(), outputs: z.boolean(), programmer: z.string().max(120).nullable().default(null) }),
  z.object({ type: z.literal('ping'), at: z.number() }),
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
  fade_s: number;
  delay_s: number;
  /** In a cue already; still held until let go. */
  recorded: boolean;
}
export interface Person {
  userId: string;
  name: string;
  role: Role;
  place: string;
  screens: number;
}
export interface AirState {
  /** The show on air in this house, if any. */
  showId: string | null;
  showName: string | null;
  universes: number;
  problem: string | null;
}
/** What lies over everything else. */
export interface OverState {
  parked: { fixtureId: string; attribute: string; level: number; by: string }[];
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
  nodes: { address: string; shortName: string; longName: string; report: string; outputs: number[]; heard_s: number }[];
  sources: { cid: string; name: string; address: string; universes: number[]; own: boolean; heard_s: number }[];
  /** Why one of them cannot be heard, if so. */
  deaf: string[];
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
  values: number;
  unrecorded: number;
  selection: string[];
  blind: boolean;
}
export interface PlaybackState {
  /** Beats a minute, shared by effects that count in beats. */
  tempo_bpm: number;
  lists: ListStatus[];
  master: number;
  blackout: boolean;
  holder: { userId: string; name: string } | null;
}

export type ServerMessage =
  | { type: 'welcome'; you: { userId: string; name: string; role: Role }; seq: number; version: number; keys: string[] }
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
  | ({ type: 'air' } & AirState)
  | { type: 'role'; role: Role | null }
  | { type: 'reply'; id: number | null; ok: boolean; code?: string; message?: string }
  | { type: 'pong'; at: number; database: boolean };

export const SOCKET_LIMITS = { messageBytes: 2 * 1024 * 1024, commandsPerSecond: 120, levelsPerSecond: 25 } as const;

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
export function encodeLevels(levels: Float32Array, last: Uint16Array, version: number, all = false): Uint8Array | null {
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
export function decodeUniverse(data: ArrayBuffer): { universe: number; bytes: Uint8Array } | undefined {
  const view = new DataView(data);
  if (data.byteLength !== HEAD + UNIVERSE_BYTES || view.getUint8(0) !== BYTES || view.getUint32(4, true) !== UNIVERSE_BYTES) return undefined;
  return { universe: view.getUint16(2, true), bytes: new Uint8Array(data, HEAD, UNIVERSE_BYTES) };
}
