/** Every live command, by the nouns that have some, and what follows from them. */
import { z } from 'zod';
import * as crew from '../crew/live.ts';
import * as faders from '../faders/live.ts';
import * as fixtures from '../fixtures/live.ts';
import * as hands from '../hands/live.ts';
import * as lists from '../lists/live.ts';
import * as palettes from '../palettes/live.ts';
import * as programmer from '../programmer/live.ts';
import * as rdm from '../rdm/live.ts';
import * as script from '../script/live.ts';
import * as sheets from '../sheets/live.ts';
import * as timecode from '../timecode/live.ts';
import * as wires from '../wires/live.ts';
import type { LiveDefinition } from './define-live.ts';
import * as ofTheShow from './of-the-show.ts';

/** In the order in which they are listed for people; what such a file gives out are its commands, and nothing else. */
const NOUNS = [
  lists,
  palettes,
  faders,
  ofTheShow,
  programmer,
  fixtures,
  crew,
  script,
  sheets,
  hands,
  timecode,
  wires,
  rdm,
] as const;
type ValuesOf<Noun> = Noun extends unknown ? Noun[keyof Noun] : never;
type Listed = ValuesOf<(typeof NOUNS)[number]>;
// The type checker forgets which values an object has; which comes first in one is not the same for every bundler.
const LIST = NOUNS.flatMap((noun) =>
  (Object.values(noun) as Listed[]).sort((a, b) => a.command.localeCompare(b.command)),
);

/** What all live commands are called. */
export type LiveName = Listed['command'];
type Schema = Listed['schema'];
/** A live command, of any name, parsed: what is unknown, missing or out of range is refused. */
export const LiveCommand = z.discriminatedUnion(
  'command',
  LIST.map((live) => live.schema) as [Schema, ...Schema[]],
);
/** What is sent: `{command, …params}`, as it is after checking. */
export type LiveCommand = z.infer<Schema>;
/** The message of one of them, or of several. */
export type CommandOf<Name extends LiveName> = Extract<LiveCommand, { command: Name }>;

/** A live command’s definition, whichever it is. */
export type AnyLive = LiveDefinition<LiveName, z.ZodRawShape, boolean, boolean>;
/** All live commands by their names. */
export const LIVE = Object.fromEntries(
  LIST.map((live) => [live.command, live]),
) as unknown as Readonly<Record<LiveName, AnyLive>>;
/** All names, in the order of the nouns. */
export const LIVE_NAMES: readonly LiveName[] = LIST.map((live) => live.command);

type OfHouse = Extract<Listed, { ofHouse?: true }>['command'];
/** Commands that a show answers, and not the house. */
export type OfShow = Exclude<LiveName, OfHouse>;
/** Whether a command is for a show, and not for the house. */
export const isOfShow = (command: LiveCommand): command is CommandOf<OfShow> =>
  LIVE[command.command].ofHouse !== true;
