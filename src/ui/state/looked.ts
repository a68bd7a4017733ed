/**
 * What a person had seen when they began to write something: the show's last change when the topmost dialog was opened,
 * or when the field that they type into got the focus. Edits are sent with it, so that work of others since then is not
 * overwritten unseen.
 */
import { useEffect } from 'react';
import { useScreen } from './store';

const dialogs: number[] = [];
let focused: number | null = null;

const isField = (target: EventTarget | null): boolean => target instanceof HTMLTextAreaElement || (target instanceof HTMLInputElement && target.id !== 'command' && !['checkbox', 'radio', 'range', 'button', 'file'].includes(target.type));

if (typeof document !== 'undefined') {
  document.addEventListener('focusin', (e) => {
    focused = isField(e.target) ? useScreen.getState().seq : null;
  });
  // What a field writes when it is left still counts from when it was entered.
  document.addEventListener('focusout', () => setTimeout(() => {
    if (!isField(document.activeElement)) focused = null;
  }));
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

export const seenNow = (): number => Math.min(useScreen.getState().seq, dialogs.at(-1) ?? Infinity, focused ?? Infinity);
