import type { Role } from '../core/edits/edit.ts';

/** Who gives a live command, and what they may. */
export interface Actor {
  userId: string;
  name: string;
  role: Role;
}
