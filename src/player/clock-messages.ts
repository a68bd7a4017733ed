/** What the player's main thread and its clock say to each other. */
import type { Shared } from '../core/playback/engine.ts';
import type { Moves, Sought } from '../core/playback/list-moves.ts';
import type { Overrides } from '../core/playback/fixed-slots.ts';
import type { Holds } from '../core/playback/operator.ts';
import type { PlaybackConfig } from '../core/playback/playback.ts';
import type { EngineCopy, SavedEngine } from '../core/playback/saved.ts';
import type { Programs } from '../core/playback/programs.ts';
import type { Slots } from '../core/playback/slots.ts';
import type { Nowhere, OutputSecond } from '../core/live/messages.ts';
import type { RouteRow } from '../core/routes/rows.ts';
import type { Network } from './sending/network.ts';

/** By universe: what its addresses are worth on the wire, 255 for what its route says. */
export type Priorities = ReadonlyMap<number, Uint8Array>;

/** What concerns one open show. */
export type ShowMessage =
  | {
      do: 'open';
      showId: string;
      slots: Slots;
      version: number;
      saved: SavedEngine | null;
      routes: RouteRow[];
      priorities: Priorities;
      programs: Programs;
      configs: PlaybackConfig[];
    }
  | { do: 'rig'; showId: string; slots: Slots; version: number }
  | { do: 'routes'; showId: string; routes: RouteRow[]; priorities: Priorities }
  | { do: 'lists'; showId: string; configs: PlaybackConfig[] }
  | {
      do: 'move';
      showId: string;
      listId: string;
      moves: Moves;
      follow_s: number | null;
      from?: 'go' | 'end';
      onTime?: boolean;
    }
  | { do: 'seek'; showId: string; listId: string; sought: Sought; follow_s: number | null }
  | { do: 'follow'; showId: string; listId: string; follow_s: number | null }
  | { do: 'release'; showId: string; listId: string; time_s: number }
  | { do: 'guard'; showId: string; slots: Uint32Array; fade_s: number }
  | { do: 'rate'; showId: string; listId: string; rate: number }
  | { do: 'hand'; showId: string; listId: string; position: number | null }
  | { do: 'list-master'; showId: string; listId: string; level: number; time_s: number }
  | { do: 'presence'; showId: string; listId: string; level: number; time_s: number }
  | { do: 'flash'; showId: string; listId: string; on: boolean; solo: boolean }
  | { do: 'inhibit'; showId: string; levels: Float32Array }
  | {
      do: 'retarget';
      showId: string;
      listId: string;
      slots: Uint32Array;
      levels: Float32Array;
      wave: Int32Array;
      phase: Float32Array;
      /** How much is there of what it takes on by this, where it has a presence. */
      presence?: number | undefined;
      /** What it takes on by this is as late as the rest of it. */
      asBefore?: boolean;
    }
  | { do: 'programs'; showId: string; programs: Programs }
  | { do: 'blind'; showId: string; userId: string; blind: boolean }
  | { do: 'pause'; showId: string; listId: string; paused: boolean }
  | { do: 'hold'; showId: string; userId: string; holds: Holds }
  | { do: 'letgo'; showId: string; userId: string; slots: Uint32Array; fade_s: number }
  | { do: 'override'; showId: string; overrides: Overrides }
  /** What another desk sends for a universe; null: nothing any more. */
  | {
      do: 'input';
      showId: string;
      universe: number;
      source: string;
      levels: Uint8Array | null;
      /** Theirs, and not the higher of both. */
      instead: boolean;
      /** What is sent goes over in this time. */
      fade_ms: number;
    }
  | { do: 'master'; showId: string; level: number; blackout: boolean }
  | { do: 'copy'; showId: string; id: number }
  /** Answered when everything that was told before is in a frame. */
  | { do: 'frame'; showId: string; id: number };

/** What the clock is told. */
export type ToClock =
  | ShowMessage
  | { do: 'air'; showId: string | null; fade_s: number }
  /** Cards, nodes, and what the house says of its network. */
  | { do: 'network'; network: Network }
  /** Where packet sequences go on, by `protocol/number on the wire`: from another player that sent before. */
  | { do: 'sequences'; from: Record<string, number> }
  | { do: 'stats'; id: number }
  /** The whole seconds after one. */
  | { do: 'seconds'; id: number; after: number }
  | { do: 'stop' };

/** What went out on a route. */
export interface LineCount {
  routeId: string;
  packets: number;
  errors: number;
  /** The last error while it lasts. */
  problem: string | null;
}

/** How the clock has been doing. */
export interface ClockStats {
  lines: LineCount[];
  frames: number;
  /** Milliseconds, newest frames. */
  compute_ms: number[];
  late_ms: number[];
  packets: number;
  sendErrors: number;
  /** Last packet sequence by `protocol/number on the wire`. */
  sequences: Record<string, number>;
}

/** What the clock says. */
export type FromClock =
  | {
      is: 'shared';
      showId: string;
      version: number;
      shared: Shared;
      operators: string[];
      lists: string[];
    }
  | { is: 'names'; showId: string; operators: string[]; lists: string[] }
  | { is: 'due'; showId: string; listId: string }
  /** Effects that played by themselves have come to their end. */
  | { is: 'ended'; showId: string; listId: string }
  | {
      is: 'status';
      showId: string;
      listId: string;
      elapsed_s: number;
      total_s: number;
      paused: boolean;
      fading: boolean;
      rate: number;
      hand: number | null;
      followIn_s: number | null;
    }
  | { is: 'framed'; id: number }
  | { is: 'copied'; id: number; copy: EngineCopy | null }
  | { is: 'stats'; id: number; stats: ClockStats }
  | { is: 'seconds'; id: number; seconds: OutputSecond[] }
  | { is: 'output'; problem: string | null; nowhere: Nowhere | null }
  | { is: 'stopped' };

/** What the clock is started with. */
export interface ClockSettings {
  cid: string;
  /** Where lights are: the protocols' own ports. */
  sacnPort: number;
  artnetPort: number;
  /** Where routes to the simulated node go. */
  nodeHost: string;
  nodeSacnPort: number;
  nodeArtnetPort: number;
}
