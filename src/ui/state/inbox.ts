/** The inbox of whoever sits here, as the house keeps it; over all shows. */
import { create } from 'zustand';
import type { Inbox, InboxPlace } from '@/core/live/inbox';
import { api } from './api';
import { notice } from './messages';

interface InboxState extends Inbox {
  loaded: boolean;
  /** A place of a show to be looked at as soon as that show is here. */
  going: { showId: string; place: InboxPlace } | null;
}
/** This person’s inbox, as far as it was read. */
export const useInbox = create<InboxState>(() => ({
  entries: [],
  unseen: 0,
  loaded: false,
  going: null,
}));

const take = (inbox: Inbox): void => useInbox.setState({ ...inbox, loaded: true });
/** A locked or lost screen learns it later: what stands there stays. */
export const loadInbox = (): Promise<void> =>
  api<Inbox>('/api/me/inbox').then(take, () => undefined);

/** Reads what is older. */
export async function readMore(): Promise<void> {
  const { entries } = useInbox.getState();
  const last = entries.at(-1);
  if (!last) return;
  await api<Inbox>(`/api/me/inbox?before=${last.id}`).then(
    (more) => useInbox.setState({ entries: [...entries, ...more.entries] }),
    (error: unknown) => notice.error((error as Error).message),
  );
}

/** What was read, or answered. */
export const tellInbox = (what: { seen: number } | { done: number }): Promise<void> =>
  api<Inbox>('/api/me/inbox', { method: 'POST', body: JSON.stringify(what) }).then(
    take,
    (error: unknown) => notice.error((error as Error).message),
  );
/** All that stand there were read. */
export async function readAll(): Promise<void> {
  const { entries, unseen } = useInbox.getState();
  const [newest] = entries;
  if (newest && unseen > 0) await tellInbox({ seen: newest.id });
}
