/** The frame's own place for messages: they cover nothing, come one at a time, and can be read later in a list. */
'use client';
import { Check, Info, List, TriangleAlert } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { useModes } from '../state/modes';
import { inSight, putAway, useMessages, type Message } from '../state/messages';

const COLOUR: Record<Message['kind'], string> = {
  said: 'text-soft',
  done: 'text-soft',
  warning: 'text-warning',
  error: 'text-danger',
};
function Sign({ kind }: { kind: Message['kind'] }) {
  if (kind === 'done') return <Check size={14} className="flex-none" />;
  if (kind === 'said') return <Info size={14} className="flex-none text-muted" />;
  return <TriangleAlert size={14} className="flex-none" />;
}
/** One message, and what can be answered to it; the first way is the one that is meant. */
function Said({ message: { kind, text, ways }, tall }: { message: Message; tall: boolean }) {
  return (
    <>
      <span className={COLOUR[kind]}>
        <Sign kind={kind} />
      </span>
      <span
        title={text}
        className={`min-w-0 ${tall ? 'line-clamp-2 leading-[18px]' : 'truncate'} ${COLOUR[kind]}`}
      >
        {text}
      </span>
      {ways.map((w, i) => (
        <button
          key={w.label}
          type="button"
          onClick={w.onClick}
          className={`flex-none rounded px-2.5 font-medium ${tall ? 'h-9' : 'h-6'} ${i === 0 ? 'bg-text text-ink' : 'bg-raised text-soft hover:bg-lift'}`}
        >
          {w.label}
        </button>
      ))}
    </>
  );
}

const time = (at: Date): string => at.toTimeString().slice(0, 8);

/** @param instead what stands there while there is nothing to answer and nothing refused @param tall for a finger, and for two lines on a phone */
export function MessageLine({ instead, tall = false }: { instead?: ReactNode; tall?: boolean }) {
  const messages = useMessages();
  const now = inSight(messages);
  const pressing =
    now !== undefined && (now.ways.length > 0 || now.kind === 'error' || now.kind === 'warning');
  return (
    <section
      aria-label="Messages"
      data-testid="message-line"
      className={`relative ${now ? 'z-[45]' : ''} flex flex-none items-center gap-2 overflow-hidden border-t border-line bg-ink px-4 text-[12.5px] ${tall ? 'h-11' : 'h-7'}`}
    >
      <Modes />
      <div role={pressing ? 'alert' : 'status'} className="flex min-w-0 flex-1 items-center gap-2">
        {instead && !pressing ? instead : now && <Said message={now} tall={tall} />}
      </div>
      {messages.all.length > 0 && (
        <Popover.Root onOpenChange={(open) => open && useMessages.setState({ unread: 0 })}>
          <Popover.Trigger
            aria-label={`Messages before${messages.unread > 0 ? `, ${messages.unread} not looked at` : ''}`}
            title="What was said before"
            className={`flex flex-none items-center gap-1 rounded px-1.5 text-muted hover:bg-raised hover:text-soft ${tall ? 'h-9 min-w-9 justify-center' : 'h-6'}`}
          >
            <List size={13} />
            <span className="num text-[11px]">{messages.all.length}</span>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              side="top"
              align="end"
              sideOffset={6}
              className="z-50 max-h-[60vh] w-[min(560px,92vw)] overflow-y-auto rounded-lg bg-panel p-2 shadow-pop"
            >
              <ol aria-label="Messages before">
                {messages.all.map((m) => (
                  <li
                    key={m.id}
                    className={`grid grid-cols-[62px_18px_minmax(0,1fr)] items-start gap-1 px-1.5 py-1 text-[12.5px] leading-[18px] ${COLOUR[m.kind]}`}
                  >
                    <span className="num text-[11.5px] text-muted">{time(m.at)}</span>
                    <span className="pt-0.5">
                      <Sign kind={m.kind} />
                    </span>
                    <span className="[overflow-wrap:anywhere]">{m.text}</span>
                  </li>
                ))}
              </ol>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
      {now?.ways.length === 0 && (
        <button
          type="button"
          aria-label="Put this message away"
          onClick={() => putAway(now.id)}
          className={`flex-none rounded px-1.5 text-muted hover:text-text ${tall ? 'h-9 min-w-9' : 'h-6'}`}
        >
          ×
        </button>
      )}
    </section>
  );
}

/** What is on and changes what a click, a level or a row means; the last one ends with Esc, each with a click. */
function Modes() {
  const modes = useModes((s) => s.modes);
  if (modes.length === 0) return null;
  return (
    <ul aria-label="Modes" className="flex flex-none gap-1">
      {modes.map((m, i) => (
        <li key={m.id}>
          <button
            type="button"
            data-mode={m.id}
            title={`End: ${m.label}`}
            onClick={m.end}
            className="flex h-5 items-center gap-1.5 rounded bg-standby px-2 text-[11.5px] font-medium whitespace-nowrap text-ink"
          >
            <span className="max-w-[180px] truncate">{m.label}</span>
            <kbd className="font-ui text-[11px]">{i === modes.length - 1 ? 'Esc' : '×'}</kbd>
          </button>
        </li>
      ))}
    </ul>
  );
}
