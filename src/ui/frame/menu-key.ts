'use client';
import { useEffect } from 'react';
import { inTextField } from './keys';

/** The browser's own event for the same press comes within this, where it comes at all. */
const SAME_PRESS_MS = 150;

/**
 * The menu key and Shift F10 open the menu of what has the focus. Browsers differ: some open that of selected text,
 * wherever it is, and driven ones none at all (table.test.ts). So it is done here, once for each press.
 */
export function useMenuKey(): void {
  useEffect(() => {
    let pressed = -Infinity;
    const open = (e: KeyboardEvent): void => {
      const at = e.target;
      if (
        (e.key !== 'ContextMenu' && !(e.key === 'F10' && e.shiftKey)) ||
        e.repeat ||
        !(at instanceof HTMLElement) ||
        inTextField(at)
      )
        return;
      e.preventDefault();
      pressed = performance.now();
      const r = at.getBoundingClientRect();
      const middle = (from: number, to: number, most: number): number =>
        (Math.max(0, from) + Math.min(most, to)) / 2;
      at.dispatchEvent(
        new MouseEvent('contextmenu', {
          bubbles: true,
          cancelable: true,
          clientX: middle(r.left, r.right, window.innerWidth),
          clientY: middle(r.top, r.bottom, window.innerHeight),
        }),
      );
    };
    const again = (e: MouseEvent): void => {
      if (!e.isTrusted || performance.now() - pressed > SAME_PRESS_MS) return;
      e.preventDefault();
      e.stopImmediatePropagation();
    };
    window.addEventListener('keydown', open);
    window.addEventListener('contextmenu', again, true);
    return () => {
      window.removeEventListener('keydown', open);
      window.removeEventListener('contextmenu', again, true);
    };
  }, []);
}
