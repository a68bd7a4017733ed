/**
 * What a person had seen when they began to write something: the show's last change when the topmost dialog was opened,
 * when the field that they type into got the focus, when a drag was begun or the first letter of a line was typed. Edits are sent with it, so that work of others since then is not
 * overwritten unseen.
 */
import { useEffect } from 'react';
import { useScreen } from './store';

const dialogs: number[] = [];
/** The field that was entered, and the show's last change then. */
let entered: { field: Element; seq: number } | null = null;

const isField = (target: EventTarget | null): boolean =>
  target instanceof HTMLTextAreaElement ||
  (target instanceof HTMLInputElement &&
    target.id !== 'command' &&
    !['checkbox', 'radio', 'range', 'button', 'file'].includes(target.type));

if (typeof document !== 'undefined') {
  document.addEventListener('focusin', (e) => {
    entered =
      e.target instanceof Element && isField(e.target)
        ? { field: e.target, seq: useScreen.getState().seq }
        : null;
  });
  // What a field writes when it is left still counts from when it was entered.
  document.addEventListener('focusout', () =>
    setTimeout(() => {
      if (!isField(document.activeElement)) entered = null;
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

/** The change that this screen is at. */
export const seqNow = (): number => useScreen.getState().seq;
/** A field that went with its part of the screen was never left, and counts no more (kept.test.tsx). */
const enteredSeq = (): number => (entered?.field.isConnected ? entered.seq : Infinity);
/** The last change that this person can have seen where they write. */
export const seenNow = (): number =>
  Math.min(seqNow(), dialogs.at(-1) ?? Infinity, enteredSeq(), begun ?? Infinity);
