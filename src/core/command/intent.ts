import type { LiveCommand } from '../live/commands.ts';

/** What Enter does. `record` and `edit` are edits; the rest is live. */
export type Intent =
  | { kind: 'live'; command: LiveCommand }
  | {
      kind: 'select-and-set';
      select: string[];
      command: LiveCommand | null;
      /** More of the same line. */ then?: LiveCommand[];
    }
  | { kind: 'edit'; edit: string; params: Record<string, unknown> }
  | {
      kind: 'record';
      listId: string;
      number: number;
      name?: string;
      up_s?: number;
      down_s?: number;
      mode: 'track' | 'only';
      existing: 'may' | 'must';
      how?: 'over' | 'remove';
    }
  /** An edit that takes what the operator holds, as `values`. */
  | {
      kind: 'record-held';
      edit: 'record-palette' | 'record-look' | 'update-source';
      params: Record<string, unknown>;
    }
  | { kind: 'undo' }
  | { kind: 'redo' };

/** A line that was read: what Enter does, and what is said of it before. */
export interface Read {
  intent: Intent;
  says: string;
}
