/** Typing into cells of the table. One entry is one edit: whatever ends it first decides, and nothing after it. */
'use client';
import { useRef } from 'react';
import { seqNow, since } from '../state/looked';

/** Cells that are being written: by their rows' ids, so that what arrives meanwhile moves nothing under the hand. */
export interface Entry {
  /** The row that shows the field. */
  id: string;
  column: number;
  /** Every row that it is written into, in their order. */
  into: readonly string[];
  /** What it begins with in place of what is there. */
  first: string | null;
}

/** Where a field leads when it is left by a key. */
export interface CellStep {
  rows: -1 | 0 | 1;
  fields: -1 | 0 | 1;
}

function stepOf(e: React.KeyboardEvent): CellStep | undefined {
  if (e.altKey || e.ctrlKey || e.metaKey) return undefined;
  if (e.key === 'ArrowDown') return { rows: 1, fields: 0 };
  if (e.key === 'ArrowUp') return { rows: -1, fields: 0 };
  if (e.key === 'Tab') return { rows: 0, fields: e.shiftKey ? -1 : 1 };
  return undefined;
}

/**
 * Enter, Tab and a click elsewhere keep what was typed, Esc leaves all as it was.
 * @param onKeep once, with the text @param onLeave once, after Esc
 */
export function CellEditor({
  label,
  text,
  first,
  list,
  className,
  style,
  onKeep,
  onLeave,
  onStep,
}: {
  label: string;
  text: string;
  first: string | null;
  /** Id of a list of proposals. */ list?: string;
  className: string;
  style?: React.CSSProperties;
  onKeep: (text: string) => void;
  onLeave: () => void;
  /** The next cell that is written: a row up or down, or a field on or back. */
  onStep?: (step: CellStep) => void;
}) {
  const ended = useRef(false);
  // What is written counts from when the cell was opened, wherever the focus goes as it closes.
  const seen = useRef(seqNow());
  const kept = (value: string): void => once(() => since(seen.current, () => onKeep(value)));
  const once = (act: () => void): void => {
    if (ended.current) return;
    ended.current = true;
    act();
  };
  return (
    <input
      autoFocus
      aria-label={label}
      defaultValue={first ?? text}
      maxLength={120}
      onFocus={(e) =>
        first === null
          ? e.currentTarget.select()
          : e.currentTarget.setSelectionRange(first.length, first.length)
      }
      onBlur={(e) => {
        const { value } = e.currentTarget;
        kept(value);
      }}
      onKeyDown={(e) => {
        const { value } = e.currentTarget;
        if (e.key === 'Enter' || e.key === 'Tab') {
          e.preventDefault();
          kept(value);
        }
        const step = stepOf(e);
        if (step && onStep) {
          e.preventDefault();
          kept(value);
          onStep(step);
        }
        if (e.key === 'Escape') once(onLeave);
        e.stopPropagation();
      }}
      list={list}
      className={className}
      style={style}
    />
  );
}
