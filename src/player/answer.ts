/** What a live command answers to whoever gave it. */
import type { Refusal } from '../core/refusal.ts';

/** A command that was carried out. */
export interface Done {
  ok: true;
  message?: string;
  /** What whoever did it should know at once. */
  warning?: string;
}
/** What a command is answered. */
export type Answer = Done | Refusal;
