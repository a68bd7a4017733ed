/** What this screen writes in, or has open, at this moment: for the marks on others' screens. */
import { create } from 'zustand';
import { describeRow } from '@/core/show/words';
import type { AnyRow, TableName } from '@/core/show/tables';
import type { Show } from '@/core/show/show';

/** What this person’s hand is on. */
export interface Hand {
  /** `<table>/<id>/<field>`, or `cells/<cue>/<column>`; null: nothing. */
  hand: string | null;
  doing: string;
}
/** What others see of it. */
export const useHand = create<Hand>(() => ({ hand: null, doing: '' }));

const TEXT =
  'input:not([type=checkbox]):not([type=radio]):not([type=range]):not([type=file]), textarea, select, [contenteditable=true]';
const LONGEST = 120;

/** A field's label, as it is read. */
export function labelOf(field: Element): string {
  const label =
    field.getAttribute('aria-label') ?? (field as HTMLInputElement).labels?.[0]?.textContent ?? '';
  return label.trim().slice(0, 60);
}

/** What the focus says of the hand: a field of a row, a cell, a dialog. */
export function handAt(focus: Element | null, show: Show): Hand {
  const dialog = focus?.closest('[role=dialog]');
  const of = focus?.closest('[data-of]')?.getAttribute('data-of') ?? null;
  const title = dialog?.querySelector('h2')?.textContent?.trim() ?? '';
  if (dialog && !dialog.closest('[data-radix-popper-content-wrapper]'))
    return { hand: of, doing: title.slice(0, LONGEST) };
  if (!focus?.matches(TEXT) || of === null || focus.id === 'command')
    return { hand: null, doing: '' };
  const label = labelOf(focus);
  return { hand: `${of}/${label}`, doing: `${label} of ${wordsOf(show, of)}`.slice(0, LONGEST) };
}

function wordsOf(show: Show, of: string): string {
  const [table = '', id = ''] = of.split('/');
  if (table === 'cells') return describeRow(show, 'cues', show.cues.get(id) ?? null);
  const rows = (show as unknown as Record<string, ReadonlyMap<string, AnyRow> | undefined>)[table];
  return describeRow(show, table as TableName, rows?.get(id) ?? null);
}
