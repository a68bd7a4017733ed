/** The command line, and in words what Enter will do. What is typed stays when the connection drops. */
'use client';
import { ArrowRight } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode, type RefObject } from 'react';
import { keep } from '../parts/keep';
import { complete as complete_, perform, read } from '../state/actions';
import { seqNow, since } from '../state/looked';
import { endLastMode } from '../state/modes';
import { besides, refusedBy, setsOthersPart } from '../state/planned';
import { useScreen, mayPlay } from '../state/store';
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

/** @param offer takes what the line would understand next, for the place above it */
export function CommandLine({
  input,
  offer,
}: {
  input: RefObject<HTMLInputElement | null>;
  offer: (words: ReactNode) => void;
}) {
  const [text, setText] = useState('');
  const [history, setHistory] = useState<string[]>(kept);
  const [offered, setOffered] = useState<Offered>(NOTHING);
  const [recall, setRecall] = useState(-1);
  // What its author had seen when the line was begun goes with its edits.
  const begun = useRef<number | null>(null);
  useEffect(() => {
    if (text === '') begun.current = null;
    else begun.current ??= seqNow();
  }, [text]);
  const { connection, you, revision, selection, values, playback } = useParts(
    useScreen,
    'connection',
    'you',
    'revision',
    'selection',
    'values',
    'playback',
  );
  const reading = useMemo(() => {
    // What a line means depends on these as well as on its words.
    void [revision, selection, values, playback];
    return read(text);
  }, [text, revision, selection, values, playback]);

  // Planning takes longer than reading: it follows when the hand rests, and never stands beside another line.
  const [also, setAlso] = useState<{ of: object; says: string; others: boolean } | null>(null);
  // What would be understood next, for a word that is begun or that is missing.
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
      setText(line);
      setOffered(NOTHING);
      input.current?.focus();
    };
    offer(offered.lines.length === 0 ? null : <Offers offered={offered} take={take} />);
  }, [offered, offer, input]);
  useEffect(() => {
    const by =
      reading.ok && reading.intent.kind === 'live' ? refusedBy(reading.intent.command) : undefined;
    if (by !== undefined)
      setAlso({ of: reading, says: `${by} is on the board: ask for it first`, others: true });
    const part = reading.ok ? setsOthersPart(reading.intent) : undefined;
    if (part !== undefined) setAlso({ of: reading, says: part, others: true });
    if (
      !reading.ok ||
      (reading.intent.kind !== 'record' &&
        reading.intent.kind !== 'record-held' &&
        reading.intent.kind !== 'edit')
    )
      return;
    const timer = setTimeout(() => {
      const found = besides(reading.intent);
      setAlso(found ? { of: reading, ...found } : null);
    }, REST_MS);
    return () => clearTimeout(timer);
  }, [reading]);

  const enter = async (): Promise<void> => {
    if (!reading.ok) {
      if ('at' in reading)
        input.current?.setSelectionRange(reading.at, reading.at + reading.length);
      return;
    }
    const typed = text;
    const from = begun.current ?? seqNow();
    setText('');
    setRecall(-1);
    setHistory((h) => {
      const next = [typed, ...h.filter((t) => t !== typed)].slice(0, HISTORY_LENGTH);
      keep.setItem(HISTORY, JSON.stringify(next));
      return next;
    });
    setOffered(NOTHING);
    if (!(await since(from, () => perform(reading.intent))))
      setText((now) => (now === '' ? typed : now));
  };

  const step = (by: number): void => {
    const next = Math.max(-1, Math.min(history.length - 1, recall + by));
    setRecall(next);
    setText(history[next] ?? '');
  };

  /** Tab completes the last word; again, the next that fits. */
  const complete = (by: 1 | -1): boolean => {
    const { lines, at } =
      offered.lines.length > 0 ? offered : { lines: complete_(text), at: by === 1 ? -1 : 0 };
    if (lines.length === 0) return false;
    const next = (at + by + lines.length) % lines.length;
    setText(lines[next]?.line ?? text);
    setOffered(lines.length === 1 ? NOTHING : { lines, at: next });
    return true;
  };

  const lost = connection === 'lost';
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
        placeholder={
          you.role === 'viewer' && connection === 'live'
            ? 'You are looking: a viewer changes nothing'
            : '1 thru 8 at full'
        }
        onChange={(e) => {
          setText(e.target.value);
          setOffered(NOTHING);
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter') void enter();
          else if (e.key === 'ArrowUp') step(1);
          else if (e.key === 'ArrowDown') step(-1);
          else if (e.key === 'Tab' && text.trim() !== '' && complete(e.shiftKey ? -1 : 1)) {
            // Taken; what is offered is shown over the line.
          } else if (e.key === 'Escape') {
            // An empty line has nothing to take back: the last mode ends.
            if (text === '') endLastMode();
            setText('');
            setOffered(NOTHING);
          } else return;
          e.preventDefault();
        }}
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
        <output
          id="says"
          data-testid="says"
          aria-live="polite"
          className={`flex min-w-0 flex-[3] items-center justify-end gap-2.5 ${reading.ok ? 'text-soft' : 'text-warning'}`}
        >
          {text !== '' && <ArrowRight size={14} className="flex-none text-muted" />}
          <span className="truncate" title={reading.ok ? reading.says : reading.message}>
            {reading.ok ? reading.says : reading.message}
          </span>
          {also?.of === reading && (
            <span
              data-testid="also"
              title={also.says}
              className={`max-w-[70%] min-w-0 flex-none truncate ${also.others ? 'text-warning' : 'text-muted'}`}
            >
              {also.says}
            </span>
          )}
        </output>
      )}
      <kbd className="flex-none rounded-[5px] border border-edge px-2 font-ui text-[11.5px] leading-5 text-muted">
        Enter
      </kbd>
    </footer>
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
