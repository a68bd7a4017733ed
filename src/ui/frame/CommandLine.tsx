/** The command line, and in words what Enter will do. What is typed stays when the connection drops. */
'use client';
import { ArrowRight } from 'lucide-react';
import { useMemo, useState, type RefObject } from 'react';
import { perform, read } from '../state/actions';
import { useScreen, mayPlay } from '../state/store';

const HISTORY_LENGTH = 100;

export function CommandLine({ input }: { input: RefObject<HTMLInputElement | null> }) {
  const [text, setText] = useState('');
  const [history, setHistory] = useState<string[]>([]);
  const [recall, setRecall] = useState(-1);
  const { connection, you, revision, selection, values, playback } = useScreen();
  const reading = useMemo(() => {
    // What a line means depends on these as well as on its words.
    void [revision, selection, values, playback];
    return read(text);
  }, [text, revision, selection, values, playback]);

  const enter = async (): Promise<void> => {
    if (!reading.ok) {
      if ('at' in reading) input.current?.setSelectionRange(reading.at, reading.at + reading.length);
      return;
    }
    const typed = text;
    setText('');
    setRecall(-1);
    setHistory((h) => [typed, ...h.filter((t) => t !== typed)].slice(0, HISTORY_LENGTH));
    if (!(await perform(reading.intent))) setText((now) => (now === '' ? typed : now));
  };

  const step = (by: number): void => {
    const next = Math.max(-1, Math.min(history.length - 1, recall + by));
    setRecall(next);
    setText(history[next] ?? '');
  };

  const lost = connection === 'lost';
  return (
    <footer className={`flex items-center gap-3 border-t px-4 ${lost ? 'border-danger bg-danger-wash' : 'border-line'}`}>
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
        placeholder={you.role === 'viewer' && connection === 'live' ? 'You are looking: a viewer changes nothing' : '1 thru 8 at full'}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') void enter();
          else if (e.key === 'ArrowUp') step(1);
          else if (e.key === 'ArrowDown') step(-1);
          else if (e.key === 'Escape') setText('');
          else return;
          e.preventDefault();
        }}
        aria-describedby="says"
        aria-invalid={!reading.ok && !('empty' in reading)}
        className="num h-full min-w-[200px] flex-[2] bg-transparent text-[14px] outline-none placeholder:text-faint"
      />
      {lost ? (
        <span role="alert" className="truncate text-danger">
          Not connected. Trying again; what you typed is kept, and playback goes on without this screen.
        </span>
      ) : (
        <output id="says" data-testid="says" aria-live="polite" className={`flex min-w-0 flex-[3] items-center justify-end gap-2.5 ${reading.ok ? 'text-soft' : 'text-warning'}`}>
          {text !== '' && <ArrowRight size={14} className="flex-none text-muted" />}
          <span className="truncate" title={reading.ok ? reading.says : reading.message}>
            {reading.ok ? reading.says : reading.message}
          </span>
        </output>
      )}
      <kbd className="flex-none rounded-[5px] border border-edge px-2 font-ui text-[11.5px] leading-5 text-muted">Enter</kbd>
    </footer>
  );
}
