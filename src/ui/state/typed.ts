/**
 * Text that stands in fields and is not written yet: kept by this window while it is typed, and offered after a reload, a
 * crash of the browser's page, or when the row that it was about has gone meanwhile.
 */
import { useEffect } from 'react';
import { z } from 'zod';
import { create } from 'zustand';
import { kept } from '../parts/keep';

const LIVE = 'wingman-typing';
const OFFERED = 'wingman-typed';
const MOST = 5;

const TypedSchema = z.object({
  showId: z.string(),
  userId: z.string(),
  /** The dialog's title, or the name of the part of the screen. */
  where: z.string().max(200),
  dialog: z.boolean(),
  fields: z
    .array(z.object({ label: z.string().max(200), value: z.string().max(100_000) }))
    .min(1)
    .max(60),
});
export type Typed = z.infer<typeof TypedSchema>;

type TextField = HTMLInputElement | HTMLTextAreaElement;

/** What was typed and could not be kept, offered again. */
export const useTyped = create<{ offered: readonly Typed[] }>(() => ({ offered: [] }));

function put(key: string, value: unknown): void {
  try {
    if (value === null) sessionStorage.removeItem(key);
    else sessionStorage.setItem(key, JSON.stringify(value));
  } catch {
    // A full store keeps less; the page itself still has the text.
  }
}

function setOffered(offered: readonly Typed[]): void {
  useTyped.setState({ offered });
  put(OFFERED, offered.length > 0 ? offered : null);
}

/** Offers text to its author, newest first. */
export const offerTyped = (typed: Typed): void =>
  setOffered([typed, ...useTyped.getState().offered].slice(0, MOST));
/** It is wanted no more. */
export const letTypedGo = (typed: Typed): void =>
  setOffered(useTyped.getState().offered.filter((t) => t !== typed));

/** What nobody wants back: secrets, the command line, and what is only looked for. */
const isWork = (el: TextField): boolean =>
  el.id !== 'command' &&
  (el instanceof HTMLTextAreaElement ||
    ['text', 'number', 'email', 'url', 'tel', 'time', 'date', ''].includes(el.type)) &&
  el.inputMode !== 'search' &&
  el.role !== 'combobox' &&
  el.closest('[cmdk-root], [data-not-kept]') === null;

/** What a field says that it is called comes before the words around it: beside a search stands how much it found. */
function labelOf(el: Element): string {
  const own = (el as TextField).labels?.[0];
  const said =
    el.getAttribute('aria-label') ??
    (own ? (own.querySelector('span')?.textContent ?? own.textContent) : null) ??
    el.getAttribute('placeholder');
  return said?.trim() ?? '';
}

function whereOf(el: Element): { where: string; dialog: boolean } {
  const dialog = el.closest('[role=dialog]');
  if (dialog)
    return {
      where:
        document
          .getElementById(dialog.getAttribute('aria-labelledby') ?? '')
          ?.textContent?.trim() ??
        dialog.getAttribute('aria-label') ??
        '',
      dialog: true,
    };
  return {
    where: el.closest('[aria-label]:not(input, textarea)')?.getAttribute('aria-label') ?? '',
    dialog: false,
  };
}

/** Keeps what is typed on this screen, and offers what stood there when the page went. */
export function useKeepTyped(showId: string, userId: string): void {
  useEffect(() => {
    if (userId === '') return;
    const before = kept(sessionStorage, LIVE, TypedSchema);
    const offered = kept(sessionStorage, OFFERED, z.array(TypedSchema).max(MOST)) ?? [];
    setOffered((before ? [before, ...offered] : offered).slice(0, MOST));
    put(LIVE, null);
    const touched = new Set<TextField>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const gather = (): void => {
      for (const el of touched) if (!el.isConnected) touched.delete(el);
      const at = document.activeElement;
      const all = [...touched].filter(
        (el) => el.value.trim() !== '' && (el === at || el.closest('[role=dialog]') !== null),
      );
      // The topmost dialog, or the field under the hand: one place at a time.
      const last = all.at(-1);
      const place = last ? whereOf(last) : null;
      const fields = all
        .filter((el) => whereOf(el).where === place?.where)
        .map((el) => ({ label: labelOf(el), value: el.value }));
      put(LIVE, place && fields.length > 0 ? { showId, userId, ...place, fields } : null);
    };
    const soon = (): void => {
      clearTimeout(timer);
      timer = setTimeout(gather, 200);
    };
    const typed = (e: Event): void => {
      const el = e.target;
      if (!(el instanceof HTMLInputElement || el instanceof HTMLTextAreaElement) || !isWork(el))
        return;
      touched.delete(el);
      touched.add(el);
      soon();
    };
    // A field that is left has been written by its owner, in a dialog at the end.
    document.addEventListener('input', typed, true);
    document.addEventListener('focusout', soon, true);
    document.addEventListener('click', soon, true);
    window.addEventListener('pagehide', gather);
    return () => {
      clearTimeout(timer);
      document.removeEventListener('input', typed, true);
      document.removeEventListener('focusout', soon, true);
      document.removeEventListener('click', soon, true);
      window.removeEventListener('pagehide', gather);
    };
  }, [showId, userId]);
}

/** Puts a text into a field as a hand would: whoever listens to the field hears of it. */
export function typeInto(el: TextField, text: string): void {
  const { prototype } = el instanceof HTMLTextAreaElement ? HTMLTextAreaElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(prototype, 'value')?.set?.call(el, text);
  el.dispatchEvent(new Event('input', { bubbles: true }));
}

/** Types the words into the fields of the same names, as a hand would. @returns how many found their field */
export function fillIn(root: ParentNode, fields: Typed['fields']): number {
  let filled = 0;
  const open = [...root.querySelectorAll<TextField>('input, textarea')].filter(
    (el) => isWork(el) && !el.disabled,
  );
  for (const { label, value } of fields) {
    const at = open.findIndex((el) => labelOf(el) === label);
    const el = open[at];
    if (!el) continue;
    open.splice(at, 1);
    typeInto(el, value);
    filled++;
  }
  return filled;
}
