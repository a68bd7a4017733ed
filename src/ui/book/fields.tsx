/** Small fields of the book: a time that says what is wrong with it, a value that is changed where it stands. */
'use client';
import { useEffect, useRef, useState } from 'react';
import { formatTime, seconds, timeProblem } from '@/core/cues/clock';
import { useScreen } from '../state/store';
import { offerTyped } from '../state/typed';

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
  onDone: (text: string) => string | undefined;
}) {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string>();
  // A row that goes while somebody writes about it takes their words with it: they are offered to them.
  const pending = useRef<string | null>(null);
  pending.current = text !== null && text !== value ? text : null;
  useEffect(
    () => () => {
      const words = pending.current;
      const { showId, you } = useScreen.getState();
      if (words !== null && words.trim() !== '')
        offerTyped({
          showId,
          userId: you.userId,
          where: '',
          dialog: false,
          fields: [{ label, value: words }],
        });
    },
    [label],
  );
  const finish = (): void => {
    pending.current = null;
    if (text !== null && text !== value) {
      const wrong = onDone(text);
      setProblem(wrong);
      if (wrong) return;
    }
    setText(null);
    setProblem(undefined);
  };
  const common = {
    value: text ?? value,
    disabled,
    placeholder,
    'aria-invalid': problem ? true : undefined,
    title: problem,
    onBlur: finish,
    className: `mt-0.5 w-full rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none placeholder:text-faint focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] disabled:text-dim ${mono ? 'num' : ''} ${problem ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`,
  };
  return (
    <label className={`block ${wide ? 'min-w-0 flex-1' : 'w-[68px]'} ${className}`}>
      <span className="block truncate text-[12px] leading-4 text-muted">{label}</span>
      {area ? (
        <textarea
          {...common}
          rows={2}
          onChange={(e) => setText(e.target.value)}
          className={`${common.className} resize-none py-1 text-[12.5px] leading-4`}
        />
      ) : (
        <input
          {...common}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
            if (e.key === 'Escape') {
              setText(null);
              setProblem(undefined);
            }
          }}
          className={`${common.className} h-7`}
        />
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
  onDone: (time_s: number | null) => void;
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
        if (text.trim() === '' && none !== undefined) {
          onDone(null);
          return undefined;
        }
        const wrong = timeProblem(text);
        if (wrong) return wrong;
        onDone(seconds(text) ?? 0);
        return undefined;
      }}
    />
  );
}
