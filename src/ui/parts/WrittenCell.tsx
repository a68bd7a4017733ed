/** A value that stands in a line or a table and is written where it stands, by whoever may. */
'use client';
import { mayEdit, useScreen } from '../state/store';
import { useWriting, type Written } from './use-writing';

/** A value that is written over where it stands. */
export function WrittenCell({
  label,
  value,
  write,
  className,
  maxLength = 120,
  placeholder,
}: {
  label: string;
  value: string;
  write: (text: string) => Written;
  className: string;
  maxLength?: number;
  placeholder?: string;
}) {
  const { field, problem } = useWriting(label, value, write);
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  return (
    <input
      {...field}
      aria-label={label}
      aria-invalid={problem !== undefined}
      title={problem}
      disabled={disabled}
      maxLength={maxLength}
      placeholder={placeholder}
      onFocus={(e) => e.currentTarget.select()}
      className={`h-7 min-w-0 rounded bg-transparent px-1.5 hover:bg-ink focus:bg-ink focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] focus:outline-none ${problem === undefined ? '' : 'text-danger'} ${className}`}
    />
  );
}
