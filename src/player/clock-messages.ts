/** What the player's main thread and its clock say to each other. */
import type { Holds, Moves, Overrides, Shared } from '../core/playback/engine.ts';
import type { EngineCopy, SavedEngine } from '../core/playback/saved.ts';
import type { Programs } from '../core/playback/programs.ts';
import type { Slots } from '../core/playback/slots.ts';
import type { RouteRow } from '../core/show/rows.ts';

/** What concerns one open show. */
export type ShowMessage =
  | { do: 'open'; showId: string; slots: Slots; version: number; saved: SavedEngine | null; routes: RouteRow[]; programs: Programs }
  | { do: 'rig'; showId: string; slots: Slots; version: number }
  | { do: 'routes'; showId: string; routes: RouteRow[] }
  | { do: 'move'; showId: string; listId: string; moves: Moves; follow_s: number | null }
  | { do: 'retarget'; showId: string; listId: string; slots: Uint32Array; levels: Float32Array; wave: Int32Array; phase: Float32Array }
  | { do: 'programs'; showId: string; programs: Programs }
  | { do: 'blind'; showId: string; userId: string; blind: boolean }
  | { do: 'pause'; showId: string; listId: string; paused: boolean }
  | { do: 'hold'; showId: string; userId: string; holds: Holds }
  | { do: 'letgo'; showId: string; userId: string; slots: Uint32Array; fade_s: number }
  | { do: 'override'; showId: string; overrides: Overrides }
  | { do: 'master'; showId: string; level: number; blackout: boolean }
  | { do: 'copy'; showId: string; id: number };

export type ToClock =
  | ShowMessage
  | { do: 'air'; showId: string | null; fade_s: number }
  | { do: 'stats'; id: number }
  | { do: 'stop' };

/** What went out on a route. */
export interface LineCount {
  routeId: string;
  packets: number;
  errors: number;
  /** The last error while it lasts. */
  problem: string | null;
}

export interface ClockStats {
  lines: LineCount[];
  frames: number;
  /** Milliseconds, newest frames. */
  compute_ms: number[];
  late_ms: number[];
  packets: number;
  sendErrors: number;
}

export type FromClock =
  | { is: 'shared'; showId: string; version: number; shared: Shared; operators: string[]; lists: string[] }
  | { is: 'names'; showId: string; operators: string[]; lists: string[] }
  | { is: 'due'; showId: string; listId: string }
  | { is: 'status'; showId: string; listId: string; elapsed_s: number; total_s: number; paused: boolean; fading: boolean }
  | { is: 'copied'; id: number; copy: EngineCopy | null }
  | { is: 'stats'; id: number; stats: ClockStats }
  | { is: 'output'; problem: string | null }
  | { is: 'stopped' };

export interface ClockSettings {
  cid: string;
  sourceName: string;
  sacnPort: number;
  artnetPort: number;
  /** Where routes to the simulated node go. */
  nodeHost: string;
}
