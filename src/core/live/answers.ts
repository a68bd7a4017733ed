/** What the web process tells of people, versions and back-ups, for the store that makes it and the screens that show it. Times are ISO 8601, UTC. */
import type { Role } from '../roles.ts';

/** Somebody of a show. */
export interface Member {
  userId: string;
  name: string;
  email: string;
  role: Role;
  /** Control pages that a volunteer has. */
  pages: string[];
  /** In the show until then; null: for good. */
  until: string | null;
}

/** A way into a show that nobody has taken yet. */
export interface Invitation {
  id: string;
  role: Role;
  pages: string[];
  memberUntil: string | null;
  expiresAt: string;
  madeAt: string;
  state: 'open' | 'used' | 'expired' | 'withdrawn';
  usedBy: string | null;
}

/** Made by hand, before something dangerous, or when the board changed hands. */
export type VersionKind = 'named' | 'before' | 'board';
/** A state of a show that was given a name, or kept before something large. */
export interface Version {
  id: string;
  name: string;
  seq: number;
  kind: VersionKind;
  at: string;
  userName: string;
}

/** What happened that is no edit: playing, the board, people, and what was refused. */
export const JOURNAL_KINDS = ['go', 'call', 'board', 'people', 'refused', 'air', 'file'] as const;
export type JournalKind = (typeof JOURNAL_KINDS)[number];
/** Something that happened on stage, or to a show, and by whom. */
export interface JournalEntry {
  id: number;
  at: string;
  userId: string;
  userName: string;
  kind: JournalKind;
  text: string;
  data: Record<string, unknown>;
}

/** A show that began from another. */
export interface CopyOf {
  id: string;
  name: string;
  owners: string[];
  changedAt: string;
  /** Changes there, and here, since it was copied or merged last. */
  there: number;
  here: number;
  merged: boolean;
}

/** A copy of a show beside the database. */
export interface Backup {
  showId: string;
  file: string;
  at: string;
  seq: number;
  bytes: number;
}
