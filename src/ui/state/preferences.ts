/** What the person at this screen likes to find again: recent and favourite types, keys of their own, panels, the look. Shown at once, kept by the server. */
import { create } from 'zustand';
import type { Filter } from '@/core/crew/filter';
import type { Look } from '@/core/crew/look';
import { MOST_KEPT, type KeptHand } from '@/core/hands/kept';
import type { KeyId, OwnKeys } from '../frame/key-table';
import { api } from './api';
import { showLook, useLook } from './look';

interface TypePreferences {
  recent: string[];
  favourite: string[];
}
const RECENT_KEPT = 8;

/** What this person has set for themselves. */
export const usePreferences = create<
  TypePreferences & {
    keys: OwnKeys;
    layouts: Record<string, string>;
    filters: readonly Filter[];
    hands: readonly KeptHand[];
    loaded: boolean;
    /** Read from the house: only then is anything written over them. */ known: boolean;
  }
>(() => ({
  recent: [],
  favourite: [],
  keys: {},
  layouts: {},
  filters: [],
  hands: [],
  loaded: false,
  known: false,
}));

/** Asks for it, once. */
export async function loadPreferences(): Promise<void> {
  if (usePreferences.getState().known) return;
  try {
    const { types, keys, layouts, filters, hands, look } = await api<{
      types: TypePreferences;
      keys: OwnKeys;
      layouts: Record<string, string>;
      filters: Filter[];
      hands: KeptHand[];
      look: Look;
    }>('/api/me/preferences');
    usePreferences.setState({ ...types, keys, layouts, filters, hands, loaded: true, known: true });
    showLook(look);
  } catch {
    // Without them the list is complete all the same, and panels stand as they are shipped.
    usePreferences.setState({ loaded: true });
  }
}

function keep(
  change: Partial<
    TypePreferences & {
      keys: OwnKeys;
      layouts: Record<string, string>;
      filters: readonly Filter[];
      hands: readonly KeptHand[];
    }
  >,
): void {
  usePreferences.setState(change);
  const { recent, favourite, keys, layouts, filters, hands, known } = usePreferences.getState();
  // What could not be read, on a locked screen or while the house was away, is not written over with what is here.
  if (!known) return;
  void api('/api/me/preferences', {
    method: 'PUT',
    body: JSON.stringify({
      types: { recent, favourite },
      keys,
      layouts,
      filters,
      hands,
      look: useLook.getState(),
    }),
  }).catch(() => undefined);
}

/** A divider is dragged in many steps; the last one is kept. */
const SETTLES_MS = 800;
let settling: ReturnType<typeof setTimeout> | undefined;

/** How panels are arranged: each person's own, on every machine. */
export const layouts: Pick<Storage, 'getItem' | 'setItem'> = {
  getItem: (key) => usePreferences.getState().layouts[key] ?? null,
  setItem: (key, value) => {
    const now = usePreferences.getState();
    // What panels say as they come up, before it is known how they were, is nobody's arrangement.
    if (!now.known || now.layouts[key] === value) return;
    usePreferences.setState({ layouts: { ...now.layouts, [key]: value } });
    clearTimeout(settling);
    settling = setTimeout(() => keep({}), SETTLES_MS);
  },
};

/** A type becomes a favourite, or is none any more. */
export function toggleFavourite(typeId: string): void {
  const { favourite } = usePreferences.getState();
  keep({
    favourite: favourite.includes(typeId)
      ? favourite.filter((id) => id !== typeId)
      : [...favourite, typeId].slice(-100),
  });
}

/** A type was used. */
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

/** Keeps these filters. */
export const keepFilters = (filters: readonly Filter[]): void => keep({ filters });

/** Shows a look at once, and keeps it when the hand has come to rest. */
export function keepLook(look: Look): void {
  showLook(look);
  clearTimeout(settling);
  settling = setTimeout(() => keep({}), SETTLES_MS);
}

/** Hands that go with this person: one of the same name is the newer. @returns false where there are too many */
export function keepHand(hand: KeptHand): boolean {
  const others = usePreferences.getState().hands.filter((h) => h.name !== hand.name);
  if (others.length >= MOST_KEPT) return false;
  keep({ hands: [...others, hand] });
  return true;
}
/** A hand of one’s own is kept no longer. */
export const forgetHand = (name: string): void =>
  keep({ hands: usePreferences.getState().hands.filter((h) => h.name !== name) });
