/** The line at the top of every page for a phone or tablet: which show, whether it is heard, whether remotes are on. */
'use client';
import { showName } from '@/core/show/show';
import { InboxButton } from '../frame/Inbox';
import { signOut } from '../state/api';
import { useScreen, useShow, usePlayback } from '../state/store';
import { useParts } from '../state/use-parts';
import { useAwake } from './use-awake';

/** The head of a page for phones. */
export function RemoteBar({
  title,
  name,
  always = false,
}: {
  title: string;
  name?: string;
  /** Works whether remotes are on or not. */ always?: boolean;
}) {
  useAwake();
  const show = useShow();
  const { connection, you } = useParts(useScreen, 'connection', 'you');
  const { remotes } = usePlayback('remotes');
  const live = connection === 'live';
  return (
    <header className="flex min-h-12 flex-none items-center gap-3 border-b border-line px-4">
      <span className="min-w-0 flex-1">
        <h1 className="truncate text-[15px] font-semibold">{title}</h1>
        <span className="block truncate text-[12px] text-muted">
          {name ?? showName(show)} · {you.name}
        </span>
      </span>
      <InboxButton tall />
      {!live && (
        <span className="rounded-md bg-danger-wash px-2 py-1 text-[12.5px] text-danger">
          not connected
        </span>
      )}
      {you.role === 'volunteer' && (
        <button
          type="button"
          onClick={signOut}
          className="h-9 flex-none rounded-md px-2 text-[12.5px] whitespace-nowrap text-muted hover:bg-raised"
        >
          Sign out
        </button>
      )}
      {live && !always && (
        <span
          data-testid="remotes"
          className={`rounded-md px-2 py-1 text-[12.5px] whitespace-nowrap ${remotes ? 'bg-warning text-ink' : 'bg-raised text-soft'}`}
        >
          {remotes ? 'remotes on' : 'remotes off'}
        </span>
      )}
    </header>
  );
}

/** Said in place of what would do nothing. */
export function RemotesOff() {
  const connection = useScreen((s) => s.connection);
  const { remotes } = usePlayback('remotes');
  if (connection !== 'live' || remotes) return null;
  return (
    <p className="flex-none bg-raised px-4 py-2.5 text-[13px] text-soft">
      Remotes are off for this show: this page shows, and changes nothing. Whoever is on the board
      switches them on in Run.
    </p>
  );
}
