/** A function that stays the same object while what it does goes on with the newest. */
'use client';
import { useCallback, useLayoutEffect, useRef } from 'react';

/** For handlers of parts that are drawn only when something else of theirs changes; not to be called while drawing. */
export function useSteady<A extends readonly unknown[], R>(
  does: (...given: A) => R,
): (...given: A) => R {
  const newest = useRef(does);
  useLayoutEffect(() => {
    newest.current = does;
  });
  return useCallback((...given: A) => newest.current(...given), []);
}
