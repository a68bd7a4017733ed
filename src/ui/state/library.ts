/** The fixture types of the house, as this screen knows them: listed once, each whole when it is looked at. */
import { create } from 'zustand';
import { libraryType } from '@/core/rig/library/index';
import type { HouseType } from '@/core/types/house';
import type { TypeRow } from '@/core/types/rows';
import { api } from './api';
import { useScreen } from './store';

interface Library {
  types: readonly HouseType[];
  whole: Readonly<Record<string, TypeRow>>;
}
/** The house’s library, whole types as far as they were asked for. */
export const useLibrary = create<Library>(() => ({ types: [], whole: {} }));

/** Anew, since others bring files too. */
export async function loadLibrary(): Promise<void> {
  try {
    const { types } = await api<{ types: HouseType[] }>('/api/library');
    useLibrary.setState({ types });
  } catch {
    // The shipped types and those of the show are there all the same.
  }
}

/** A type with everything that it has; undefined when it cannot be had just now. */
export async function wholeType(id: string): Promise<TypeRow | undefined> {
  const known = useLibrary.getState().whole[id];
  if (known) return known;
  try {
    const { type } = await api<{ type: TypeRow }>(`/api/library/${id}`);
    useLibrary.setState((s) => ({ whole: { ...s.whole, [id]: type } }));
    return type;
  } catch {
    return undefined;
  }
}

/** Takes a type out of the library; shows keep theirs. */
export async function takeOutOfLibrary(id: string): Promise<void> {
  await api(`/api/library/${id}`, { method: 'DELETE' });
  useLibrary.setState((s) => ({ types: s.types.filter((t) => t.id !== id) }));
}

/** A type of which only the list is known: enough to be found by. */
const listed = ({ id, maker, name, shape, modes }: HouseType): TypeRow => ({
  id,
  maker,
  name,
  shape,
  emitters: {},
  watts: 0,
  modes: modes.map((m) => ({ name: m.name, footprint: m.channels, channels: [] })),
});

/** Types of the house, in short where they are not known whole. */
export const rowsOfHouse = ({ types, whole }: Library): TypeRow[] =>
  types.map((t) => whole[t.id] ?? listed(t));

/** Only listed so far. */
export const isListed = (type: TypeRow): boolean =>
  type.modes.every((m) => m.channels.length === 0);

/** What goes along with an edit that names a type which neither the show nor Wingman itself has. */
export const typeAlong = (type: TypeRow): { type?: TypeRow } =>
  useScreen.getState().show.types.has(type.id) || libraryType(type.id) || isListed(type)
    ? {}
    : { type };
