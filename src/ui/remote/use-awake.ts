'use client';
import { useEffect } from 'react';

/**
 * Keeps the screen of a phone or tablet awake while its page is looked at. Browsers do that on secure pages alone; where
 * they do not, the screen goes dark as it always does.
 */
export function useAwake(): void {
  useEffect(() => {
    const { wakeLock } = navigator as Partial<Navigator>;
    if (!wakeLock) return;
    let lock: WakeLockSentinel | null = null;
    let isOver = false;
    const ask = (): void => {
      // The lock is lost with every look away, and is asked for again.
      if (document.visibilityState !== 'visible' || isOver) return;
      wakeLock.request('screen').then(
        (given) => {
          lock = given;
          if (isOver) void given.release();
        },
        () => undefined,
      );
    };
    ask();
    document.addEventListener('visibilitychange', ask);
    return () => {
      isOver = true;
      document.removeEventListener('visibilitychange', ask);
      void lock?.release();
    };
  }, []);
}
