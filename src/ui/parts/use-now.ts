'use client';
import { useEffect, useState } from 'react';

/** The wall clock, drawn anew every so often. @param every_ms @returns ms since 1970 */
export function useNow(every_ms = 1000): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), every_ms);
    return () => clearInterval(timer);
  }, [every_ms]);
  return now;
}
