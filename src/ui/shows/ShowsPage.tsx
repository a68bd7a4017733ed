'use client';
import { shortDay, when } from '@/core/dates';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { DropdownMenu } from 'radix-ui';
import { MoreHorizontal } from 'lucide-react';
import { Ask } from '../parts/Ask';
import { Button, Field, FileField } from '../parts/controls';
import { MENU, MENU_ITEM } from '../parts/menu';
import { InboxButton } from '../frame/Inbox';
import { Mark } from '../frame/TopBar';
import type { HouseRight } from '@/core/rights';
import { api, ApiError, signOut } from '../state/api';

/** A show as it is listed. */
export interface ShowCard {
  id: string;
  name: string;
  venue: string;
  role: string;
  seq: number;
  changedAt: string;
  onAir: boolean;
  archivedAt: string | null;
  deletedAt: string | null;
  origin: { name: string | null; seq: number } | null;
}
type State = 'archived' | 'open' | 'deleted' | 'kept';
/** What one comes for with a phone in the hand. */
const PHONE_PAGES = [
  { name: 'GO', path: 'go', for: ['owner', 'programmer', 'operator'] },
  { name: 'Focusing', path: 'focus', for: ['owner', 'programmer', 'operator'] },
  { name: 'Calling', path: 'caller', for: ['owner', 'programmer', 'operator', 'viewer'] },
  { name: 'Calls', path: 'booth', for: ['owner', 'programmer', 'operator', 'viewer'] },
  { name: 'Notes', path: 'notes', for: ['owner', 'programmer', 'operator', 'viewer'] },
];
const GRACE_MS = 7 * 24 * 3600 * 1000;

/** Shows that a person is in, and making one. */
export function ShowsPage({
  shows,
  you,
  house,
}: {
  shows: ShowCard[];
  you: string;
  house: HouseRight;
}) {
  const router = useRouter();
  const [problem, setProblem] = useState<string>();
  const setState = async (id: string, to: State): Promise<void> => {
    setProblem(undefined);
    try {
      await api(`/api/shows/${id}/state`, { method: 'POST', body: JSON.stringify({ to }) });
      router.refresh();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const away = shows.filter((s) => s.archivedAt !== null || s.deletedAt !== null);
  const open = shows.filter((s) => s.archivedAt === null && s.deletedAt === null);
  return (
    <main className="mx-auto max-w-[720px] px-6 py-14">
      <header className="mb-10 flex items-center gap-3 text-soft">
        <Mark />
        <span className="text-[16px] font-semibold">Wingman</span>
        <span className="ml-auto truncate text-muted max-[520px]:invisible">{you}</span>
        <InboxButton />
        {house === 'owner' && (
          <a
            href="/house"
            className="rounded-md px-2 py-1 whitespace-nowrap text-soft hover:bg-raised"
          >
            The house
          </a>
        )}
        <Button kind="quiet" onClick={signOut}>
          Sign out
        </Button>
      </header>
      <h1 className="text-[22px] font-semibold">Shows</h1>
      {problem && (
        <p role="alert" className="mt-2 text-danger">
          {problem}
        </p>
      )}
      <ul className="mt-3">
        {open.length === 0 && (
          <li className="py-3 text-muted">
            {house === 'guest'
              ? 'You are in no show yet. Ask an owner of a show for an invitation.'
              : 'You are in no show yet. Make one below, open a show file, or ask an owner for an invitation.'}
          </li>
        )}
        {open.map((s) => (
          <ShowRow key={s.id} show={s} onState={setState} />
        ))}
      </ul>
      {away.length > 0 && <Away shows={away} onState={setState} />}
      {house === 'guest' && open.length > 0 && (
        <p className="mt-8 border-t border-line pt-6 text-[12.5px] text-muted">
          These are the shows that you were invited to. The right to make your own is given by an
          owner of the house.
        </p>
      )}
      {house !== 'guest' && <NewShow />}
    </main>
  );
}

type OnState = (id: string, to: State) => Promise<void>;

function Away({ shows, onState }: { shows: readonly ShowCard[]; onState: OnState }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        aria-expanded={isOpen}
        onClick={() => setOpen(!isOpen)}
        className="mt-4 h-9 text-muted hover:text-soft"
      >
        {isOpen ? 'Hide' : 'Show'} {shows.length} archived or deleted
      </button>
      {isOpen && (
        <ul>
          {shows.map((s) => (
            <ShowRow key={s.id} show={s} onState={onState} />
          ))}
        </ul>
      )}
    </>
  );
}

/** Another show: an empty one by its name, or one from a file. */
function NewShow() {
  const router = useRouter();
  const [name, setName] = useState('');
  const [problem, setProblem] = useState<string>();
  const [fileProblem, setFileProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const make = async (): Promise<void> => {
    setBusy(true);
    try {
      const { id } = await api<{ id: string }>('/api/shows', {
        method: 'POST',
        body: JSON.stringify({ name }),
      });
      router.push(`/shows/${id}/rig`);
    } catch (error) {
      setProblem(error instanceof ApiError ? (error.fields.name ?? error.message) : String(error));
      setBusy(false);
    }
  };
  const openFile = async (file: File): Promise<void> => {
    setBusy(true);
    setFileProblem(undefined);
    try {
      const { id } = await api<{ id: string }>('/api/shows/import', {
        method: 'POST',
        body: file,
        headers: { 'content-type': 'application/zip' },
      });
      router.push(`/shows/${id}/stage`);
    } catch (error) {
      setFileProblem((error as Error).message);
      setBusy(false);
    }
  };
  return (
    <>
      <form
        className="mt-8 flex items-start gap-2 border-t border-line pt-6"
        onSubmit={(e) => {
          e.preventDefault();
          void make();
        }}
      >
        <Field
          className="flex-1"
          label="Make a new show"
          placeholder="Its name"
          value={name}
          onChange={(e) => setName(e.target.value)}
          problem={problem}
        />
        <Button kind="strong" type="submit" disabled={busy || name.trim() === ''} className="mt-5">
          Make show
        </Button>
      </form>
      <div className="mt-4 flex items-center gap-3">
        <FileField
          label="Open a show file"
          accept=".wingman,application/zip"
          said={busy ? 'Opening …' : 'Open a .wingman file'}
          onFile={(f) => void openFile(f)}
        />
        {fileProblem && (
          <p role="alert" className="text-danger">
            {fileProblem}
          </p>
        )}
      </div>
    </>
  );
}

function ShowRow({ show: s, onState }: { show: ShowCard; onState: OnState }) {
  const [deleting, setDeleting] = useState(false);
  const gone = s.deletedAt === null ? null : new Date(Date.parse(s.deletedAt) + GRACE_MS);
  return (
    <li className="group flex flex-wrap items-center">
      <a
        href={s.role === 'volunteer' ? `/shows/${s.id}/page` : `/shows/${s.id}/stage`}
        aria-disabled={gone !== null}
        onClick={(e) => gone && e.preventDefault()}
        className={`-ml-3 flex min-w-0 flex-1 flex-wrap items-center gap-x-4 rounded-lg px-3 py-3 hover:bg-panel ${gone ? 'cursor-not-allowed text-dim' : ''}`}
      >
        <span className="min-w-0 flex-1 max-[560px]:basis-full">
          <span className="block truncate text-[16px] font-semibold">{s.name}</span>
          <span className="block truncate text-muted">
            {s.venue || 'no venue'}
            {s.origin &&
              ` · began from ${s.origin.name === null ? 'a show elsewhere' : `“${s.origin.name}”`}, change ${s.origin.seq}`}
            {gone && (
              <span className="text-warning"> · deleted; gone for good on {shortDay(gone)}</span>
            )}
            {!gone && s.archivedAt && ' · archived'}
          </span>
        </span>
        {s.onAir && (
          <span className="flex items-center gap-2 text-[12px] text-lime-word">
            <i className="size-2 rounded-full bg-lime" /> on air
          </span>
        )}
        <span className="w-24 text-right text-soft max-[560px]:w-auto">{s.role}</span>
        <time
          suppressHydrationWarning
          className="num w-32 text-right text-[12px] text-muted"
          dateTime={s.changedAt}
        >
          {when(s.changedAt)}
        </time>
      </a>
      {s.role === 'owner' && (
        <ShowMenu
          show={s}
          isGone={gone !== null}
          onState={onState}
          onDelete={() => setDeleting(true)}
        />
      )}
      {!gone && s.role !== 'volunteer' && <PhonePages show={s} />}
      <Ask
        open={deleting}
        onClose={() => setDeleting(false)}
        title={`Delete “${s.name}”?`}
        act="Delete it"
        onAct={() => void onState(s.id, 'deleted')}
      >
        It leaves everybody’s list at once. For a week you can have it back from here, with
        everything in it; then it is gone for good. Its back-ups in the data folder stay.
      </Ask>
    </li>
  );
}

function ShowMenu({
  show: s,
  isGone,
  onState,
  onDelete,
}: {
  show: ShowCard;
  isGone: boolean;
  onState: OnState;
  onDelete: () => void;
}) {
  const state = (to: State, label: string) => (
    <DropdownMenu.Item onSelect={() => void onState(s.id, to)} className={MENU_ITEM}>
      {label}
    </DropdownMenu.Item>
  );
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`More about ${s.name}`}
        className="grid size-8 place-items-center rounded-md text-muted hover:bg-raised"
      >
        <MoreHorizontal size={16} />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" className={MENU}>
          {!isGone && s.archivedAt === null && state('archived', 'Archive')}
          {!isGone && s.archivedAt !== null && state('open', 'Take out of the archive')}
          {isGone && state('kept', 'Have it back')}
          {!isGone && (
            <DropdownMenu.Item
              // The menu gives the focus back as it closes; the question takes it afterwards.
              onSelect={() => setTimeout(onDelete)}
              className={`${MENU_ITEM} text-danger`}
            >
              Delete …
            </DropdownMenu.Item>
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

function PhonePages({ show: s }: { show: ShowCard }) {
  return (
    <nav
      aria-label={`Pages of ${s.name}`}
      className="-mt-1 mb-2 flex w-full flex-wrap gap-2 min-[760px]:hidden"
    >
      {PHONE_PAGES.filter((p) => p.for.includes(s.role)).map((p) => (
        <a
          key={p.path}
          href={`/shows/${s.id}/${p.path}`}
          className="flex min-h-11 items-center rounded-lg bg-raised px-3.5 text-[14px]"
        >
          {p.name}
        </a>
      ))}
    </nav>
  );
}
