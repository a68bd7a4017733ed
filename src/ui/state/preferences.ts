/** Recent and favourite types of the person at this screen: shown at once, kept by the server. */
import { create } from 'zustand';
import { api } from './api';

interface TypePreferences {
  recent: string[];
  favourite: string[];
}
const RECENT_KEPT = 8;

export const usePreferences = create<TypePreferences & { loaded: boolean }>(() => ({ recent: [], favourite: [], loaded: false }));

export async function loadPreferences(): Promise<void> {
  if (usePreferences.getState().loaded) return;
  try {
    const { types } = await api<{ types: TypePreferences }>('/api/me/preferences');
    usePreferences.setState({ ...types, loaded: true });
  } catch {
    // Without them the list is complete all the same.
  }
}

function keep(types: TypePreferences): void {
  usePreferences.setState(types);
  void api('/api/me/preferences', { method: 'PUT', body: JSON.stringify({ types }) }).catch(() => undefined);
}

export function toggleFavourite(typeId: string): void {
  const { recent, favourite } = usePreferences.getState();
  keep({ recent, favourite: favourite.includes(typeId) ? favourite.filter((id) => id !== typeId) : [...favourite, typeId].slice(-100) });
}

export function noteRecent(typeId: string): void {
  const { recent, favourite } = usePreferences.getState();
  if (recent[0] === typeId) return;
  keep({ recent: [typeId, ...recent.filter((id) => id !== typeId)].slice(0, RECENT_KEPT), favourite });
}
