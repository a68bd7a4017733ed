/** What a live command answers to whoever gave it. */
import type { Refusal } from '../core/refusal.ts';

export interface Done {
  ok: true;
  message?: string;
  /** What whoever did it should know at once. */
  warning?: string;
}
export type Answer = Done | Refusal;
