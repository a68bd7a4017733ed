'use client';
import { useEffect, useState, type RefObject } from 'react';

/** @returns a part's inner size in pixels, kept while it is resized; 0 by 0 until it is known */
export function useBox(part: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = part.current;
    if (!element) return;
    const observer = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    observer.observe(element);
    return () => observer.disconnect();
  }, [part]);
  return size;
}
