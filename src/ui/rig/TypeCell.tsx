/** A small field of the type editor: a number that may be half typed, or a word. */
'use client';
import { useState } from 'react';
import type { TypeRow } from '@/core/types/rows';
import { Field } from '../parts/controls';

/** What the editor holds while numbers may still be half typed. */
export type Draft = Omit<TypeRow, 'id'>;

/** A number as it is typed, with a comma or a point; not a number for none. */
export const number = (text: string): number =>
  text.trim() === '' ? Number.NaN : Number(text.replace(',', '.'));
/** A number that may be absent. */
export const maybe = (text: string): number | undefined =>
  text.trim() === '' ? undefined : number(text);
/** A share 0…1 as it is shown: in percent, to a tenth. */
export const percent = (share: number): number => Math.round(share * 1000) / 10;

/** How a field of the type editor looks. */
export const BOX =
  'num h-7 w-full min-w-0 rounded bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-line)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]';

const said = (value: string | number): string => (Number.isNaN(value) ? '' : String(value));
const asNumber = (text: string): string | number => number(text);

/** A text that may be half a number: while it means the value it stays as it was typed, else it is what the value is now. */
function useHalfTyped(
  value: string | number,
  means: (text: string) => string | number,
  onChange: (text: string) => void,
): Pick<React.InputHTMLAttributes<HTMLInputElement>, 'value' | 'onChange'> {
  const [typed, setTyped] = useState(said(value));
  return {
    value: Object.is(means(typed), value) ? typed : said(value),
    onChange: (e: React.ChangeEvent<HTMLInputElement>) => {
      setTyped(e.target.value);
      onChange(e.target.value);
    },
  };
}

/** A number with a name over it; NaN while it is half typed. It follows its row, whatever rows are taken out before it. */
export function NumberField({
  value,
  onNumber,
  ...field
}: Omit<React.ComponentProps<typeof Field>, 'value' | 'onChange' | 'number'> & {
  value: number;
  onNumber: (value: number) => void;
}) {
  const typed = useHalfTyped(value, asNumber, (text) => onNumber(number(text)));
  return <Field number {...field} {...typed} />;
}

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
  const typed = useHalfTyped(value, text ? String : means, onChange);
  return (
    <input
      aria-label={label}
      title={label}
      aria-invalid={bad}
      {...typed}
      className={`${BOX} ${text ? '!font-ui' : ''} ${bad ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`}
    />
  );
}
