'use client';
import type { StoreApi, UseBoundStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';

/**
 * Parts of a store by their names. Whoever reads them is drawn again when one of these is another, and not when
 * anything else in the store is (use-parts.test.tsx).
 */
export function useParts<S extends object, K extends keyof S>(
  store: UseBoundStore<StoreApi<S>>,
  ...names: readonly K[]
): Pick<S, K> {
  return store(useShallow((s) => partsOf(s, names)));
}

/** Parts of an object by their names, for `useShallow` to compare. */
export const partsOf = <S extends object, K extends keyof S>(
  from: S,
  names: readonly K[],
): Pick<S, K> => Object.fromEntries(names.map((name) => [name, from[name]])) as Pick<S, K>;
