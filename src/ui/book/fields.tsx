/** Small fields of the book: a time that says what is wrong with it, a value that is changed where it stands. */
'use client';
import { formatTime, seconds, timeProblem } from '@/core/cues/clock';
import { useWriting, type Written } from '../parts/use-writing';

/** A value of a cue that is written where it stands. */
export function Value({
  label,
  value,
  wide,
  mono,
  disabled,
  area,
  placeholder,
  className = '',
  onDone,
}: {
  label: string;
  value: string;
  wide?: boolean;
  mono?: boolean;
  disabled: boolean;
  area?: boolean;
  placeholder?: string;
  className?: string;
  onDone: (text: string) => Written;
}) {
  const { field, problem } = useWriting(label, value, onDone);
  const { onKeyDown, ...written } = field;
  const common = {
    ...written,
    disabled,
    placeholder,
    'aria-invalid': problem ? true : undefined,
    title: problem,
    className: `mt-0.5 w-full rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none placeholder:text-faint focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] disabled:text-dim ${mono ? 'num' : ''} ${problem ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`,
  };
  return (
    <label className={`block ${wide ? 'min-w-0 flex-1' : 'w-[68px]'} ${className}`}>
      <span className="block truncate text-[12px] leading-4 text-muted">{label}</span>
      {area ? (
        <textarea
          {...common}
          rows={2}
          className={`${common.className} resize-none py-1 text-[12.5px] leading-4`}
        />
      ) : (
        <input {...common} onKeyDown={onKeyDown} className={`${common.className} h-7`} />
      )}
      {problem && <span className="block text-[11.5px] leading-4 text-danger">{problem}</span>}
    </label>
  );
}

/** A time in seconds or as `1:30`; empty where `none` says what that means. */
export function Time({
  label,
  value,
  disabled,
  none,
  onDone,
  className,
}: {
  label: string;
  value: number | null | undefined;
  disabled: boolean;
  none?: string;
  className?: string;
  onDone: (time_s: number | null) => Written;
}) {
  return (
    <Value
      label={label}
      mono
      disabled={disabled}
      {...(className === undefined ? {} : { className })}
      {...(none === undefined ? {} : { placeholder: none })}
      value={value === null || value === undefined ? '' : formatTime(value)}
      onDone={(text) => {
        if (text.trim() === '' && none !== undefined) return onDone(null);
        return timeProblem(text) ?? onDone(seconds(text) ?? 0);
      }}
    />
  );
}
