/** A small field of the type editor: a number that may be half typed, or a word. */
'use client';
import { useEffect, useState } from 'react';
import type { TypeRow } from '@/core/types/rows';

/** What the editor holds while numbers may still be half typed. */
export type Draft = Omit<TypeRow, 'id'>;

export const number = (text: string): number =>
  text.trim() === '' ? Number.NaN : Number(text.replace(',', '.'));
export const BOX =
  'num h-7 w-full min-w-0 rounded bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-line)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]';

export function Cell({
  label,
  value,
  bad,
  text,
  onChange,
}: {
  label: string;
  value: string | number;
  bad?: boolean;
  text?: boolean;
  onChange: (text: string) => void;
}) {
  const [typed, setTyped] = useState(String(value));
  useEffect(
    () => setTyped((t) => (number(t) === value || t === String(value) ? t : String(value))),
    [value],
  );
  return (
    <input
      aria-label={label}
      title={label}
      aria-invalid={bad}
      value={text ? String(value) : typed}
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(e.target.value);
      }}
      className={`${BOX} ${text ? '!font-ui' : ''} ${bad ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`}
    />
  );
}
