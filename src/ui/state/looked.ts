/**
 * What a person had seen when they began to write something: the show's last change when the topmost dialog was opened,
 * when the field that they type into got the focus, when a drag was begun or the first letter of a line was typed. Edits are sent with it, so that work of others since then is not
 * overwritten unseen.
 */
import { useEffect } from 'react';
import { useScreen } from './store';

const dialogs: number[] = [];
let focused: number | null = null;

const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement &&
    target.id !== 'command' &&
    !['checkbox', 'radio', 'range', 'button', 'file'].includes(target.type));

if (typeof document !== 'undefined') {
  document.addEventListener('focusin', (e) => {
    focused = isField(e.target) ? useScreen.getState().seq : null;
  });
  // What a field writes when it is left still counts from when it was entered.
  document.addEventListener('focusout', () =>
    setTimeout(() => {
      if (!isField(document.activeElement)) focused = null;
    }),
  );
}

/** While a dialog is open, what it writes counts from now. */
export function useLooked(open: boolean): void {
  useEffect(() => {
    if (!open) return;
    const mine = useScreen.getState().seq;
    dialogs.push(mine);
    return () => void dialogs.splice(dialogs.lastIndexOf(mine), 1);
  }, [open]);
}

let begun: number | null = null;

/** What is written at the end of a drag, or of a line, counts from when that was begun. @param act calls `edit` before it waits for anything */
export function since<T>(seq: number, act: () => T): T {
  const before = begun;
  begun = Math.min(seq, before ?? Infinity);
  try {
    return act();
  } finally {
    begun = before;
  }
}

export const seqNow = (): number => useScreen.getState().seq;
export const seenNow = (): number =>
  Math.min(seqNow(), dialogs.at(-1) ?? Infinity, focused ?? Infinity, begun ?? Infinity);
