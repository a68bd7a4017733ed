/** What concerns whoever sits here: counted in every place, read in a list, answered there, and a way to the place in question. */
'use client';
import {
  Award,
  Bell,
  BellDot,
  HandHelping,
  MessageSquareText,
  Reply,
  ScrollText,
  Undo2,
  UserRoundCog,
  UserRoundX,
  Users,
} from 'lucide-react';
import { useRouter } from 'next/navigation';
import { Popover } from 'radix-ui';
import { useEffect, useState, type ComponentType } from 'react';
import type { InboxEntry, InboxKind } from '@/core/live/inbox';
import { loadInbox, readAll, readMore, useInbox } from '../state/inbox';
import { answer, lookAtPlace } from '../state/inbox-ways';
import { useScreen } from '../state/store';

const SIGN: Record<InboxKind, ComponentType<{ size?: number; className?: string }>> = {
  undone: Undo2,
  over: ScrollText,
  asked: HandHelping,
  answered: Reply,
  handed: Users,
  taken: UserRoundX,
  note: MessageSquareText,
  liked: Award,
  role: UserRoundCog,
  show: ScrollText,
};
const PAGE = 100;

/** @param tall for a finger */
export function InboxButton({ tall = false }: { tall?: boolean }) {
  const { entries, unseen, loaded } = useInbox();
  const [open, setOpen] = useState(false);
  useEffect(() => void loadInbox(), []);
  const toggle = (on: boolean): void => {
    setOpen(on);
    if (on) void loadInbox();
    else void readAll();
  };
  const words = unseen === 0 ? 'Inbox' : `Inbox, ${unseen} new`;
  return (
    <Popover.Root open={open} onOpenChange={toggle}>
      <Popover.Trigger
        data-testid="inbox"
        aria-label={words}
        title={words}
        className={`relative grid flex-none place-items-center rounded-md hover:bg-raised ${tall ? 'size-11' : 'size-8'} ${unseen > 0 ? 'text-text' : 'text-soft'}`}
      >
        {unseen > 0 ? <BellDot size={tall ? 20 : 16} /> : <Bell size={tall ? 20 : 16} />}
        {unseen > 0 && (
          <span
            data-testid="inbox-count"
            className="num absolute -top-0.5 -right-0.5 min-w-[17px] rounded-full bg-standby px-1 text-center text-[11px] leading-[17px] font-semibold text-ink"
          >
            {unseen > 99 ? '99+' : unseen}
          </span>
        )}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          collisionPadding={8}
          className="z-50 flex max-h-[min(560px,80vh)] w-[min(440px,96vw)] flex-col rounded-lg bg-panel shadow-pop"
        >
          <h2 className="flex-none border-b border-line px-4 py-2.5 text-[14px] font-semibold">
            Inbox{' '}
            <span className="ml-1 text-[12px] font-normal text-muted">
              what concerns you, in all shows
            </span>
          </h2>
          {entries.length === 0 && (
            <p className="px-4 py-5 text-[13px] text-muted">
              {loaded
                ? 'Nothing yet. What others do with your work, ask of you or note about your cues is kept here.'
                : 'Looking …'}
            </p>
          )}
          <ol aria-label="Inbox" className="min-h-0 flex-1 overflow-y-auto py-1">
            {entries.map((e) => (
              <Entry key={e.id} entry={e} onGone={() => toggle(false)} />
            ))}
            {entries.length > 0 && entries.length % PAGE === 0 && (
              <li>
                <button
                  type="button"
                  onClick={() => void readMore()}
                  className="h-9 w-full text-[12.5px] text-muted hover:text-soft"
                >
                  Older ones
                </button>
              </li>
            )}
          </ol>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function when(at: string): string {
  const date = new Date(at);
  const today = new Date().toDateString() === date.toDateString();
  return date.toLocaleString(
    'en-GB',
    today
      ? { hour: '2-digit', minute: '2-digit' }
      : { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' },
  );
}

function Entry({ entry: e, onGone }: { entry: InboxEntry; onGone: () => void }) {
  const router = useRouter();
  const here = useScreen((s) => s.showId);
  const mayAnswer = useAnswerable(e);
  const Sign = SIGN[e.kind];
  const goes = e.showId !== null && e.place !== null;
  const go = (): void => {
    if (e.showId === null || e.place === null) return;
    onGone();
    useInbox.setState({ going: { showId: e.showId, place: e.place } });
    router.push(`/shows/${e.showId}/${e.place.place}`);
  };
  return (
    <li data-inbox={e.kind} data-seen={e.seen} className="px-1.5">
      <div className={`rounded-md px-2.5 py-2 ${goes ? 'hover:bg-raised' : ''}`}>
        <button
          type="button"
          disabled={!goes}
          onClick={go}
          title={goes ? 'Look at it' : undefined}
          className="grid w-full grid-cols-[18px_minmax(0,1fr)_8px] gap-2 text-left"
        >
          <Sign size={15} className="mt-0.5 text-muted" />
          <span className="min-w-0">
            <span
              className={`block text-[13px] leading-[18px] [overflow-wrap:anywhere] ${e.seen ? 'text-soft' : 'font-medium text-text'}`}
            >
              {e.text}
            </span>
            <span className="mt-0.5 block truncate text-[12px] text-muted">
              {when(e.at)}
              {e.showId !== here && ` · ${e.showName}`}
            </span>
          </span>
          {!e.seen && <i aria-label="new" className="mt-1.5 size-2 rounded-full bg-standby" />}
        </button>
        {mayAnswer && (
          <div className="mt-1.5 ml-[26px] flex gap-2">
            <button
              type="button"
              onClick={() => void answer(e, true)}
              className="h-8 rounded-md bg-text px-3 text-[12.5px] font-semibold text-ink"
            >
              {e.ask && 'part' in e.ask ? 'Give it' : 'Hand over'}
            </button>
            <button
              type="button"
              onClick={() => void answer(e, false)}
              className="h-8 rounded-md bg-raised px-3 text-[12.5px] hover:bg-lift"
            >
              Not now
            </button>
          </div>
        )}
      </div>
    </li>
  );
}

/** An ask in the show that is open, about something that is still one's own to give. */
function useAnswerable(e: InboxEntry): boolean {
  return useScreen((s) => {
    if (e.done || !e.ask || e.showId !== s.showId || s.connection !== 'live') return false;
    if ('part' in e.ask) return s.show.parts.get(e.ask.part)?.userId === s.you.userId;
    // On the show's board one gives any thing away that has none of its own.
    return s.playback.boards.some((b) => b.userId === s.you.userId);
  });
}

/** When the show that an entry is about has come: looks at it. */
export function useGoing(showId: string): void {
  const going = useInbox((s) => s.going);
  const loaded = useScreen((s) => s.loaded && s.showId === showId);
  useEffect(() => {
    if (!loaded || going?.showId !== showId) return;
    lookAtPlace(going.place);
    useInbox.setState({ going: null });
  }, [going, loaded, showId]);
}
