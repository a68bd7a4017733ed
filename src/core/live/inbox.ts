/** What concerns one person, kept until they have read it: what became of their work, and what others want of them. */
import type { Thing } from './thing.ts';

/** Why something is in an inbox. */
export const INBOX_KINDS = [
  'undone',
  'over',
  'asked',
  'answered',
  'handed',
  'taken',
  'note',
  'liked',
  'role',
  'show',
] as const;
export type InboxKind = (typeof INBOX_KINDS)[number];

/** Where it is about. */
export interface InboxPlace {
  place: 'book' | 'stage' | 'rig' | 'run' | 'crew';
  cue?: string;
  note?: string;
  view?: 'people' | 'board' | 'history' | 'versions' | 'apart';
}

/** What is asked, and can be answered from where it is read. */
export type InboxAsk = { thing: Thing } | { part: string };

/** Something that a person should know and has perhaps not seen. */
export interface InboxEntry {
  id: number;
  at: string;
  kind: InboxKind;
  text: string;
  showId: string | null;
  showName: string;
  from: { userId: string; name: string };
  place: InboxPlace | null;
  ask: InboxAsk | null;
  seen: boolean;
  /** An ask that was answered, or put aside. */
  done: boolean;
}

/** A person’s inbox, newest first, and how much of it is new. */
export interface Inbox {
  entries: InboxEntry[];
  unseen: number;
}
