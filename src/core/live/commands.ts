/** Every live command: the one list of them, and what follows from it. */
import { z } from 'zod';
import {
  go,
  back,
  pause,
  goTo,
  cut,
  arm,
  rate,
  hand,
  release,
  track,
  listMaster,
  chaseSpeed,
  chase,
  releaseAll,
} from '../lists/live.ts';
import { fader, flash } from '../faders/live.ts';
import { master, blackout, tempo, remotes, air, type } from './of-the-show.ts';
import {
  set,
  setMany,
  nudge,
  fan,
  times,
  colour,
  aim,
  flip,
  palette,
  look,
  effect,
  tryEffect,
  home,
  like,
  take,
  keep,
  clear,
  letgo,
  bringBack,
  highlight,
  step,
  blind,
  select,
} from '../programmer/live.ts';
import { play } from '../palettes/live.ts';
import { focus, guard, park, check, macro, macroCancel } from '../fixtures/live.ts';
import { board, leftLight, ask, keepPart } from '../crew/live.ts';
import { call, answerCall } from '../script/live.ts';
import { act, touch } from '../sheets/live.ts';
import { learn } from '../hands/live.ts';
import { timecode } from '../timecode/live.ts';
import { renameNode, takeIn } from '../wires/live.ts';
import { rdm } from '../rdm/live.ts';
import type { LiveDefinition } from './define-live.ts';

const LIST = [
  go,
  back,
  pause,
  goTo,
  cut,
  arm,
  rate,
  hand,
  release,
  track,
  listMaster,
  chaseSpeed,
  chase,
  releaseAll,
  play,
  fader,
  flash,
  master,
  blackout,
  tempo,
  remotes,
  air,
  type,
  set,
  setMany,
  nudge,
  fan,
  times,
  colour,
  aim,
  flip,
  palette,
  look,
  effect,
  tryEffect,
  home,
  like,
  take,
  keep,
  clear,
  letgo,
  bringBack,
  highlight,
  step,
  blind,
  select,
  focus,
  park,
  guard,
  check,
  macro,
  macroCancel,
  board,
  leftLight,
  ask,
  keepPart,
  call,
  answerCall,
  touch,
  act,
  learn,
  timecode,
  renameNode,
  takeIn,
  rdm,
] as const;
type Listed = (typeof LIST)[number];

/** What all live commands are called. */
export type LiveName = Listed['command'];
/** What is sent: `{command, …params}`, as it is after checking. */
/** A live command, of any name, parsed: what is unknown, missing or out of range is refused. */
export type LiveCommand = z.infer<Listed['schema']>;
/** The message of one of them, or of several. */
export type CommandOf<Name extends LiveName> = Extract<LiveCommand, { command: Name }>;

type Schemas<Definitions extends readonly { schema: z.ZodType }[]> = {
  -readonly [I in keyof Definitions]: Definitions[I]['schema'];
};
// A map over a tuple has its length and order; the type checker forgets both.
const SCHEMAS = LIST.map((live) => live.schema) as unknown as Schemas<typeof LIST>;
export const LiveCommand = z.discriminatedUnion('command', SCHEMAS);

/** A live command’s definition, whichever it is. */
export type AnyLive = LiveDefinition<LiveName, z.ZodRawShape, boolean>;
/** All live commands by their names. */
export const LIVE = Object.fromEntries(
  LIST.map((live) => [live.command, live]),
) as unknown as Readonly<Record<LiveName, AnyLive>>;
/** All names, in the order of the list. */
export const LIVE_NAMES: readonly LiveName[] = LIST.map((live) => live.command);

/** Commands of the house: which show is on air, the command line, timecode, its network. All others are of one show. */
const OF_HOUSE = ['air', 'type', 'timecode', 'rename-node', 'take-in', 'rdm'] as const;
export type OfHouse = (typeof OF_HOUSE)[number];
/** Commands that a show answers, and not the house. */
export type OfShow = Exclude<LiveName, OfHouse>;
const houseNames: ReadonlySet<LiveName> = new Set(OF_HOUSE);
/** Whether a command is for a show, and not for the house. */
export const isOfShow = (command: LiveCommand): command is CommandOf<OfShow> =>
  !houseNames.has(command.command);
