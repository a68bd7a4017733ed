'use client';
import { useCallback, useRef, useState } from 'react';

/**
 * What a hand leads: known at once, and drawn when the screen comes to it. A hand that lets go right after its last step is
 * heard before that step is drawn; what it leaves is where it was then (use-cue-drag.test.tsx).
 * @param rest while no hand is there
 */
export function useLed<T>(rest: T): { shown: T; now: () => T; put: (next: T) => void } {
  const latest = useRef(rest);
  const [shown, setShown] = useState(rest);
  const put = useCallback((next: T): void => {
    latest.current = next;
    setShown(next);
  }, []);
  const now = useCallback((): T => latest.current, []);
  return { shown, now, put };
}
