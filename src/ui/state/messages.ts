/** What the application has to say: one message at a time in the frame, and the last ones to read later. */
import { create } from 'zustand';

type Kind = 'said' | 'done' | 'warning' | 'error';

interface Way {
  label: string;
  onClick: () => void;
}

/** Something that is said in the line of messages. */
export interface Message {
  id: string;
  kind: Kind;
  text: string;
  at: Date;
  /** Ways to answer; a message that has them stays before all others until it is answered or its time is over. */
  ways: readonly Way[];
}

interface Options {
  /** A message of the same id takes the place of the one before. */
  id?: string;
  /** ms in sight; it can be read in the list afterwards. */
  duration?: number;
  ways?: readonly Way[];
}

const KEPT = 60;
const IN_SIGHT_MS: Record<Kind, number> = { said: 5000, done: 4000, warning: 8000, error: 8000 };
/** A refusal is not pushed away before it can be read; then what comes after it takes its place. */
const STANDS_MS = 2500;

interface Messages {
  /** Newest first. */
  all: readonly Message[];
  /** Ids of those whose time in sight is not over. */
  fresh: ReadonlySet<string>;
  unread: number;
  /** Counts on when something ceases to stand before the others. */
  turn: number;
}

/** What was said, newest first. */
export const useMessages = create<Messages>(() => ({
  all: [],
  fresh: new Set(),
  unread: 0,
  turn: 0,
}));

const timers = new Map<string, ReturnType<typeof setTimeout>>();
let count = 0;

/** Takes a message out of sight; it stays in the list, without its ways to answer. */
export function putAway(id: string): void {
  clearTimeout(timers.get(id));
  timers.delete(id);
  useMessages.setState(({ all, fresh }) => ({
    all: all.map((m) => (m.id === id ? { ...m, ways: [] } : m)),
    fresh: new Set([...fresh].filter((f) => f !== id)),
  }));
}

function say(
  kind: Kind,
  text: string,
  { id = `m${++count}`, duration = IN_SIGHT_MS[kind], ways = [] }: Options = {},
): void {
  clearTimeout(timers.get(id));
  timers.set(
    id,
    setTimeout(() => putAway(id), duration),
  );
  if (kind === 'error' || kind === 'warning')
    setTimeout(() => useMessages.setState(({ turn }) => ({ turn: turn + 1 })), STANDS_MS + 20);
  const answered = ways.map((w) => ({
    label: w.label,
    onClick: () => {
      putAway(id);
      w.onClick();
    },
  }));
  useMessages.setState(({ all, fresh, unread }) => ({
    all: [
      { id, kind, text, at: new Date(), ways: answered },
      ...all.filter((m) => m.id !== id),
    ].slice(0, KEPT),
    fresh: new Set([...fresh, id]),
    unread: unread + 1,
  }));
}

/** The one that is shown: a question, then a refusal that is just said, then an offer to take back what was done, then the newest. */
export function inSight({ all, fresh }: Messages): Message | undefined {
  const stands = (m: Message): boolean =>
    (m.kind === 'error' || m.kind === 'warning') && Date.now() - m.at.getTime() < STANDS_MS;
  const weight = (m: Message): number => {
    if (m.ways.length > 0) return m.kind === 'done' ? 1 : 3;
    return stands(m) ? 2 : 0;
  };
  return all
    .filter((m) => fresh.has(m.id))
    .reduce<Message | undefined>(
      (best, m) => (!best || weight(m) > weight(best) ? m : best),
      undefined,
    );
}

/** Says something to this person. */
export const notice = Object.assign(
  (text: string, options?: Options): void => say('said', text, options),
  {
    done: (text: string, options?: Options): void => say('done', text, options),
    warning: (text: string, options?: Options): void => say('warning', text, options),
    error: (text: string, options?: Options): void => say('error', text, options),
  },
);
