import type { Role } from '../core/roles.ts';

/** Who gives a live command, and what they may. */
export interface Actor {
  userId: string;
  name: string;
  role: Role;
  /** Control pages that a volunteer has. */
  pages?: readonly string[];
  /** What they came by: `screen on a tablet`, `program`, `OSC`. */
  via?: string;
  /** A hand on a control page: what it takes, another’s hand may have. */
  atPage?: boolean;
  /** A phone or page that is switched off with the remotes. */
  remote?: boolean;
  /** The screen that it came by: one person may have several. */
  screen?: string;
}

/** Whose finger is on what is held down. */
export const fingerOf = ({ screen, userId }: Actor): string => screen ?? userId;

/** Whoever is at a remote control: nobody says who it is. */
export const REMOTE: Actor = {
  userId: 'remote',
  name: 'a remote control',
  role: 'operator',
  via: 'OSC',
  remote: true,
};
