'use client';
import { useEffect, useRef, useState } from 'react';
import { seqNow, since } from '../state/looked';

/** A hand that rests so long has done what it wanted. */
const REST_MS = 700;
const ROWS_MS = 200;

/**
 * A value that is written once: a drag, or a run of key presses and wheel steps, is one edit and one step of undo. What
 * the hand has put is shown until it is written.
 * @param write the edit; what it returns is waited for
 */
export function useSettling<T>(
  value: T,
  write: (value: T) => unknown,
): {
  shown: T;
  put: (value: T) => void;
  steps: (value: T) => void;
  settle: () => void;
  leave: () => void;
} {
  const [held, setHeld] = useState<{ value: T } | null>(null);
  const pending = useRef<{ value: T } | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const from = useRef(0);
  const latest = useRef(write);
  latest.current = write;

  const leave = (): void => {
    clearTimeout(timer.current);
    pending.current = null;
    setHeld(null);
  };
  const settle = (): void => {
    clearTimeout(timer.current);
    const last = pending.current;
    pending.current = null;
    if (!last) return;
    // The answer may be here before the rows are.
    void Promise.resolve(since(from.current, () => latest.current(last.value))).finally(() =>
      setTimeout(() => {
        if (pending.current === null) setHeld(null);
      }, ROWS_MS),
    );
  };
  const put = (next: T): void => {
    if (pending.current === null) from.current = seqNow();
    pending.current = { value: next };
    setHeld({ value: next });
  };
  // What was put and not yet written when the part goes away is written all the same.
  const onGone = useRef(settle);
  onGone.current = settle;
  useEffect(() => () => onGone.current(), []);
  return {
    shown: held ? held.value : value,
    put,
    /** One step of several; written when the hand rests. */
    steps: (next) => {
      put(next);
      clearTimeout(timer.current);
      timer.current = setTimeout(() => onGone.current(), REST_MS);
    },
    settle,
    leave,
  };
}
