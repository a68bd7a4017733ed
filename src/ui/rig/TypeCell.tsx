/** A small field of the type editor: a number that may be half typed, or a word. */
'use client';
import { useState } from 'react';
import type { TypeRow } from '@/core/types/rows';

/** What the editor holds while numbers may still be half typed. */
export type Draft = Omit<TypeRow, 'id'>;

export const number = (text: string): number =>
  text.trim() === '' ? Number.NaN : Number(text.replace(',', '.'));
/** A number that may be absent. */
export const maybe = (text: string): number | undefined =>
  text.trim() === '' ? undefined : number(text);
/** A share 0…1 as it is shown: in percent, to a tenth. */
export const percent = (share: number): number => Math.round(share * 1000) / 10;

export const BOX =
  'num h-7 w-full min-w-0 rounded bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-line)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]';

const said = (value: string | number): string => (Number.isNaN(value) ? '' : String(value));
const asNumber = (text: string): string | number => number(text);

/** @param means what a text comes to: while that is the value, it stays as it was typed */
export function Cell({
  label,
  value,
  bad,
  text,
  means = asNumber,
  onChange,
}: {
  label: string;
  value: string | number;
  bad?: boolean;
  text?: boolean;
  means?: (text: string) => string | number;
  onChange: (text: string) => void;
}) {
  const [typed, setTyped] = useState(said(value));
  const stays = Object.is(text ? typed : means(typed), value);
  return (
    <input
      aria-label={label}
      title={label}
      aria-invalid={bad}
      value={stays ? typed : said(value)}
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(e.target.value);
      }}
      className={`${BOX} ${text ? '!font-ui' : ''} ${bad ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`}
    />
  );
}
