/** The types that ship with Wingman. Patching copies a type into the show, so that a show is complete by itself. */
import type { TypeRow } from '../../types/rows.ts';
import { ALDERSUND } from './aldersund.ts';
import { GENERIC } from './generic.ts';
import { PELLWORTH } from './pellworth.ts';
import { QUILLON } from './quillon.ts';

const LIBRARY: readonly TypeRow[] = [...GENERIC, ...ALDERSUND, ...PELLWORTH, ...QUILLON];
const BY_ID = new Map(LIBRARY.map((t) => [t.id, t]));

/** Types that come with Wingman. */
export const libraryTypes = (): readonly TypeRow[] => LIBRARY;
/** A type that comes with Wingman, by its id. */
export const libraryType = (id: string): TypeRow | undefined => BY_ID.get(id);
