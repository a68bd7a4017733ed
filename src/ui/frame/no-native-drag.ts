'use client';
import { useEffect } from 'react';

/**
 * The browser drags selected text, pictures and links by itself, and takes the pointer away from whatever was under the
 * hand. Only what says that it is to be dragged is.
 */
export function useNoNativeDrag(): void {
  useEffect(() => {
    const stop = (e: DragEvent): void => {
      if (!(e.target instanceof Element && e.target.closest('[draggable=true]')))
        e.preventDefault();
    };
    document.addEventListener('dragstart', stop);
    return () => document.removeEventListener('dragstart', stop);
  }, []);
}
