/** The command line, and in words what Enter will do. What is typed stays when the connection drops. */
'use client';
import { ArrowRight } from 'lucide-react';
import {
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
  type RefObject,
} from 'react';
import { keep } from '../parts/keep';
import { complete as complete_, perform, read } from '../state/command-line';
import { seqNow, since } from '../state/looked';
import { endLastMode } from '../state/modes';
import { besides, refusedBy, setsOthersPart } from '../state/planned';
import { useScreen, mayPlay, usePlayback } from '../state/store';
import { useParts } from '../state/use-parts';

const HISTORY_LENGTH = 100;
const REST_MS = 120;
const HISTORY = 'wingman-command-history';

function kept(): string[] {
  try {
    const lines: unknown = JSON.parse(keep.getItem(HISTORY) ?? '[]');
    return Array.isArray(lines)
      ? lines.filter((l) => typeof l === 'string').slice(0, HISTORY_LENGTH)
      : [];
  } catch {
    return [];
  }
}

interface Offered {
  lines: { line: string; word: string }[];
  at: number;
}
const NOTHING: Offered = { lines: [], at: -1 };

type Put = (text: string) => void;

/** Lines that were entered, newest first; a line that was begun comes back when one has gone through them. */
export function useHistory(text: string, put: Put) {
  const [lines, setLines] = useState<string[]>(kept);
  const [at, setAt] = useState(-1);
  const begun = useRef('');
  return {
    step: (by: number): void => {
      const next = Math.max(-1, Math.min(lines.length - 1, at + by));
      if (at === -1) begun.current = text;
      setAt(next);
      put(next === -1 ? begun.current : (lines[next] ?? ''));
    },
    note: (line: string): void => {
      setAt(-1);
      setLines((all) => {
        const next = [line, ...all.filter((t) => t !== line)].slice(0, HISTORY_LENGTH);
        keep.setItem(HISTORY, JSON.stringify(next));
        return next;
      });
    },
    leave: () => setAt(-1),
  };
}

type Reading = ReturnType<typeof read>;

/** What Enter will do; what a line means depends on all that it may be about, as well as on its words. */
function useReading(text: string): Reading {
  const { revision, selection, values } = useParts(useScreen, 'revision', 'selection', 'values');
  const { lists, boards } = usePlayback('lists', 'boards');
  return useMemo(() => {
    void [revision, selection, values, lists, boards];
    return read(text);
  }, [text, revision, selection, values, lists, boards]);
}

interface Also {
  of: object;
  says: string;
  others: boolean;
}
const PLANNED = new Set(['record', 'record-held', 'edit']);

/** What else it does, or who is in its way. Planning takes longer than reading: it follows when the hand rests, and never stands beside another line. */
function useAlso(reading: Reading): Also | null {
  const [also, setAlso] = useState<Also | null>(null);
  useEffect(() => {
    if (!reading.ok) return;
    const { intent } = reading;
    const by = intent.kind === 'live' ? refusedBy(intent.command) : undefined;
    if (by !== undefined)
      setAlso({ of: reading, says: `${by} is on the board: ask for it first`, others: true });
    const part = setsOthersPart(intent);
    if (part !== undefined) setAlso({ of: reading, says: part, others: true });
    if (!PLANNED.has(intent.kind)) return;
    const timer = setTimeout(() => {
      const found = besides(intent);
      setAlso(found ? { of: reading, ...found } : null);
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [reading]);
  return also?.of === reading ? also : null;
}

/** What would be understood next, for a word that is begun or that is missing: shown above the line, and taken by Tab. */
function useOffers(text: string, reading: Reading, put: Put, offer: (words: ReactNode) => void) {
  const [offered, setOffered] = useState<Offered>(NOTHING);
  useEffect(() => {
    if (!/(^|\s)[\p{L}"][^\s]*$/u.test(text) && (reading.ok || !/\s$/.test(text))) return;
    const timer = setTimeout(
      () => setOffered((now) => (now.at >= 0 ? now : { lines: complete_(text), at: -1 })),
      REST_MS,
    );
    return () => clearTimeout(timer);
  }, [text, reading]);
  useEffect(() => {
    const take = (line: string): void => {
      put(line);
      setOffered(NOTHING);
    };
    offer(offered.lines.length === 0 ? null : <Offers offered={offered} take={take} />);
  }, [offered, offer, put]);
  return {
    leave: () => setOffered(NOTHING),
    /** The last word is completed; again, by the next that fits. @returns whether there is any */
    complete: (by: 1 | -1): boolean => {
      const { lines, at } =
        offered.lines.length > 0 ? offered : { lines: complete_(text), at: by === 1 ? -1 : 0 };
      if (lines.length === 0) return false;
      const next = (at + by + lines.length) % lines.length;
      put(lines[next]?.line ?? text);
      setOffered(lines.length === 1 ? NOTHING : { lines, at: next });
      return true;
    },
  };
}

/** @param offer takes what the line would understand next, for the place above it */
export function CommandLine({
  input,
  offer,
}: {
  input: RefObject<HTMLInputElement | null>;
  offer: (words: ReactNode) => void;
}) {
  const { connection, you } = useParts(useScreen, 'connection', 'you');
  const [text, setText] = useState('');
  // What its author had seen when the line was begun goes with its edits.
  const begun = useRef<number | null>(null);
  useEffect(() => {
    if (text === '') begun.current = null;
    else begun.current ??= seqNow();
  }, [text]);
  const reading = useReading(text);
  const also = useAlso(reading);
  const put = useCallback<Put>(
    (line) => {
      setText(line);
      input.current?.focus();
    },
    [input],
  );
  const offers = useOffers(text, reading, put, offer);
  const history = useHistory(text, put);

  const enter = async (): Promise<void> => {
    if (!reading.ok) {
      if ('at' in reading)
        input.current?.setSelectionRange(reading.at, reading.at + reading.length);
      return;
    }
    const typed = text;
    const from = begun.current ?? seqNow();
    setText('');
    history.note(typed);
    offers.leave();
    if (!(await since(from, () => perform(reading.intent))))
      setText((now) => (now === '' ? typed : now));
  };
  const leave = (): void => {
    // An empty line has nothing to take back: the last mode ends.
    if (text === '') endLastMode();
    setText('');
    history.leave();
    offers.leave();
  };
  /** @returns whether the line takes the key */
  const take = (e: React.KeyboardEvent): boolean => {
    if (e.key === 'Enter') void enter();
    else if (e.key === 'ArrowUp') history.step(1);
    else if (e.key === 'ArrowDown') history.step(-1);
    else if (e.key === 'Escape') leave();
    else return e.key === 'Tab' && text.trim() !== '' && offers.complete(e.shiftKey ? -1 : 1);
    return true;
  };

  const lost = connection === 'lost';
  const isViewer = you.role === 'viewer' && connection === 'live';
  return (
    <footer
      className={`relative flex items-center gap-3 border-t px-4 ${lost ? 'border-danger bg-danger-wash' : 'border-line'}`}
    >
      <label className="sr-only" htmlFor="command">
        Command line
      </label>
      <input
        ref={input}
        id="command"
        value={text}
        maxLength={2000}
        autoComplete="off"
        spellCheck={false}
        disabled={!mayPlay(you.role) && connection === 'live'}
        placeholder={isViewer ? 'You are looking: a viewer changes nothing' : '1 thru 8 at full'}
        onChange={(e) => {
          setText(e.target.value);
          offers.leave();
        }}
        onKeyDown={(e) => take(e) && e.preventDefault()}
        aria-describedby="says"
        aria-invalid={!reading.ok && !('empty' in reading)}
        className="num h-full min-w-[200px] flex-[2] bg-transparent text-[14px] outline-none placeholder:text-faint"
      />
      {lost ? (
        <span role="alert" className="truncate text-danger">
          Not connected. Trying again; what you typed is kept, and playback goes on without this
          screen.
        </span>
      ) : (
        <Says reading={reading} also={also} isEmpty={text === ''} />
      )}
      <kbd className="flex-none rounded-[5px] border border-edge px-2 font-ui text-[11.5px] leading-5 text-muted">
        Enter
      </kbd>
    </footer>
  );
}

function Says({
  reading,
  also,
  isEmpty,
}: {
  reading: Reading;
  also: Also | null;
  isEmpty: boolean;
}) {
  const words = reading.ok ? reading.says : reading.message;
  return (
    <output
      id="says"
      data-testid="says"
      aria-live="polite"
      className={`flex min-w-0 flex-[3] items-center justify-end gap-2.5 ${reading.ok ? 'text-soft' : 'text-warning'}`}
    >
      {!isEmpty && <ArrowRight size={14} className="flex-none text-muted" />}
      <span className="truncate" title={words}>
        {words}
      </span>
      {also && (
        <span
          data-testid="also"
          title={also.says}
          className={`max-w-[70%] min-w-0 flex-none truncate ${also.others ? 'text-warning' : 'text-muted'}`}
        >
          {also.says}
        </span>
      )}
    </output>
  );
}

/** Words that the line would understand next; Tab takes the first, again the next. */
function Offers({ offered, take }: { offered: Offered; take: (line: string) => void }) {
  return (
    <>
      <kbd className="flex-none rounded-[5px] border border-edge px-1.5 font-ui text-[11px] leading-4 text-muted">
        Tab
      </kbd>
      <ul aria-label="Goes on with" className="flex min-w-0 gap-1 overflow-hidden">
        {offered.lines.map((o, i) => (
          <li key={o.word} className="flex-none">
            <button
              type="button"
              tabIndex={-1}
              onClick={() => take(o.line)}
              className={`num h-6 rounded px-2 text-[12px] ${i === offered.at ? 'bg-standby-wash text-standby' : 'text-soft hover:bg-raised'}`}
            >
              {o.word}
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
