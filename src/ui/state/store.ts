/** What one screen knows of a show: the rows, what plays, who is here. One store per open show page. */
import { create } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import type { Role } from '@/core/roles';
import {
  AIR_UNKNOWN,
  type AirState,
  type HeldValue,
  type OtherProgrammer,
  type InputSeen,
  type OutputState,
  type RdmState,
  type OverState,
  type Person,
  type ProgrammerState,
  type SourceRun,
  type View,
} from '@/core/live/messages';
import { MutableShow } from '@/core/show/show';
import type { HeardList, Playback } from './playback';
import { partsOf } from './use-parts';

type Connection = 'connecting' | 'live' | 'lost';

/** What this screen knows of the show and of what plays. */
export interface ScreenState {
  showId: string;
  show: MutableShow;
  /** False until the rows have arrived. */
  loaded: boolean;
  seq: number;
  /** Counts changes of the show, so that what is derived from it is derived again. */
  revision: number;
  you: { userId: string; name: string; role: Role };
  connection: Connection;
  playback: Playback;
  /** When the player told of it last, whether or not anything was different. */
  playbackAt: number;
  values: ReadonlyMap<string, HeldValue>;
  selection: readonly string[];
  /** What you have in hand besides values. */
  programmer: ProgrammerState;
  others: OtherProgrammer[];
  /** The operator whose values are looked at. */
  other: { userId: string; values: HeldValue[] } | null;
  people: Person[];
  /** Parked slots, address checks and control macros. */
  over: OverState;
  /** Where the bytes of watched universes come from. */
  sources: ReadonlyMap<number, SourceRun[]>;
  outputs: OutputState | null;
  /** What comes in from other desks. */
  inputs: readonly InputSeen[];
  /** What hangs at the nodes; null until somebody asked. */
  rdm: RdmState | null;
  air: AirState;
  /** Why nothing is being kept at the moment, in a sentence; null while all is. */
  notKept: string | null;
  /** What the house's clock is ahead of this device's, in ms. */
  clockAhead_ms: number;
  /** The session of this screen is locked: it shows, and takes nothing. */
  screenLocked: boolean;
  /** A state of long ago that is looked at: the number of its last change, and its name. Nothing is edited from here. */
  past: { seq: number; name: string } | null;
  /** May make shows in this house. */
  makes: boolean;
  /** Goes where this person goes. */
  following: string | null;
  /** What that person looks at. */
  viewOf: { userId: string; view: View } | null;
  /** Who goes along with this person. */
  followedBy: readonly string[];
  /** Slot keys of the level frames. */
  keys: readonly string[];
  index: ReadonlyMap<string, number>;
  version: number;
}

/** All of it; read by selector. */
export const useScreen = create<ScreenState>(() => ({
  showId: '',
  show: new MutableShow(),
  loaded: false,
  seq: 0,
  revision: 0,
  you: { userId: '', name: '', role: 'viewer' },
  connection: 'connecting',
  playback: {
    tempo_bpm: 120,
    lists: [],
    faders: [],
    played: [],
    remotes: false,
    act: null,
    scene: null,
    reports: [],
    master: 1,
    blackout: false,
    holder: null,
    boards: [],
    left: [],
    calls: [],
    passed: {},
  },
  playbackAt: 0,
  values: new Map(),
  selection: [],
  programmer: { selection: [], stepping: null, blind: false, highlight: false, cleared: 0 },
  others: [],
  other: null,
  people: [],
  over: { parked: [], focus: [], guarded: [], checks: [], macros: [] },
  sources: new Map(),
  outputs: null,
  inputs: [],
  rdm: null,
  air: AIR_UNKNOWN,
  notKept: null,
  clockAhead_ms: 0,
  screenLocked: false,
  past: null,
  makes: false,
  following: null,
  viewOf: null,
  followedBy: [],
  keys: [],
  index: new Map(),
  version: -1,
}));

/** The show, and a fresh render whenever it changes. */
export function useShow(): MutableShow {
  useScreen((s) => s.revision);
  return useScreen((s) => s.show);
}

/** Whether a role changes the show. */
export const mayEdit = (role: Role): boolean => role === 'owner' || role === 'programmer';
/** Whether a role plays it. */
export const mayPlay = (role: Role): boolean => role !== 'viewer' && role !== 'volunteer';

/** Whether this person may play from this screen just now. */
export const usePlaying = (): boolean =>
  useScreen((s) => mayPlay(s.you.role) && s.connection === 'live');

/** The first list, as it plays. */
export const useList = (): HeardList | undefined => useScreen((s) => s.playback.lists[0]);

/** Parts of what plays by their names: whoever reads them is drawn again when one of these is another. */
export const usePlayback = <K extends keyof Playback>(...names: readonly K[]): Pick<Playback, K> =>
  useScreen(useShallow((s) => partsOf(s.playback, names)));

/** Values that are held and not recorded. */
export const unrecordedCount = (values: ReadonlyMap<string, HeldValue>): number =>
  [...values.values()].filter((v) => !v.recorded).length;
