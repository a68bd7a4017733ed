/** A type by its id: the show's own, one that ships with Wingman, or one that an edit brings along from the library of the house. */
import { checkType } from '../rig/check-type.ts';
import { libraryType } from '../rig/library/index.ts';
import type { Show } from '../show/show.ts';
import type { TypeRow } from './rows.ts';

/** @param along with the edit; it counts where nobody else knows the id, and only while it could be patched */
export function typeKnown(
  show: Show,
  id: string,
  along: TypeRow | undefined,
): { type: TypeRow; isNew: boolean } | undefined {
  const own = show.types.get(id);
  if (own) return { type: own, isNew: false };
  const type =
    libraryType(id) ?? (along?.id === id && checkType(along).length === 0 ? along : undefined);
  return type && { type, isNew: true };
}
