/** What the person at this screen likes to find again: recent and favourite types, keys of their own. Shown at once, kept by the server. */
import { create } from 'zustand';
import type { KeyId, OwnKeys } from '../frame/key-table';
import { api } from './api';

interface TypePreferences {
  recent: string[];
  favourite: string[];
}
const RECENT_KEPT = 8;

export const usePreferences = create<TypePreferences & { keys: OwnKeys; loaded: boolean }>(() => ({ recent: [], favourite: [], keys: {}, loaded: false }));

export async function loadPreferences(): Promise<void> {
  if (usePreferences.getState().loaded) return;
  try {
    const { types, keys } = await api<{ types: TypePreferences; keys: OwnKeys }>('/api/me/preferences');
    usePreferences.setState({ ...types, keys, loaded: true });
  } catch {
    // Without them the list is complete all the same.
  }
}

function keep(change: Partial<TypePreferences & { keys: OwnKeys }>): void {
  usePreferences.setState(change);
  const { recent, favourite, keys } = usePreferences.getState();
  void api('/api/me/preferences', { method: 'PUT', body: JSON.stringify({ types: { recent, favourite }, keys }) }).catch(() => undefined);
}

export function toggleFavourite(typeId: string): void {
  const { favourite } = usePreferences.getState();
  keep({ favourite: favourite.includes(typeId) ? favourite.filter((id) => id !== typeId) : [...favourite, typeId].slice(-100) });
}

export function noteRecent(typeId: string): void {
  const { recent } = usePreferences.getState();
  if (recent[0] === typeId) return;
  keep({ recent: [typeId, ...recent.filter((id) => id !== typeId)].slice(0, RECENT_KEPT) });
}

/** @param key null: the one of the table again */
export function setOwnKey(id: KeyId, key: string | null): void {
  const { [id]: before, ...others } = usePreferences.getState().keys;
  void before;
  keep({ keys: key === null ? others : { ...others, [id]: key } });
}
