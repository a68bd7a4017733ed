/** A change in the history: when and by whom, its values on a click, the show as it was, undo of it alone. */
'use client';
import { Eye, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { when } from '@/core/dates';
import type { Change } from '@/core/show/undo';
import { IconButton } from '../../parts/controls';
import { lookBack } from '../../state/link';
import { mayEdit, useScreen } from '../../state/store';
import { WhenWho } from '../LogList';
import { useUndo } from './use-undo';

/** A change as history lists it. */
export interface ChangeHead extends Omit<Change, 'rows' | 'editId'> {
  /** Its first rows in values. */
  lines: string[];
  more: number;
}

/** The same as a row. */
export function ChangeRow({ change: h, isUndone }: { change: ChangeHead; isUndone: boolean }) {
  const may = mayEdit(useScreen((s) => s.you.role));
  const undo = useUndo();
  return (
    <li
      data-change={h.seq}
      className="group grid min-h-9 grid-cols-[92px_120px_1fr_auto] items-center gap-2 border-b border-raised"
    >
      <WhenWho
        at={h.at}
        title={`change ${h.seq}, ${h.at}`}
        userId={h.userId}
        userName={h.userName}
      />
      <span className="min-w-0 py-1">
        <span className={isUndone ? 'text-dim line-through' : ''}>{h.summary}</span>
        {h.lines.length > 0 && <Values lines={h.lines} more={h.more} />}
      </span>
      <span className="flex opacity-40 group-hover:opacity-100 focus-within:opacity-100">
        <IconButton
          label={`Look at the show as it was after “${h.summary}”`}
          onClick={() => void lookBack({ seq: h.seq, name: `${when(h.at)}, after “${h.summary}”` })}
        >
          <Eye size={14} />
        </IconButton>
        <IconButton
          label={`Undo only “${h.summary}”`}
          disabled={!may || isUndone}
          onClick={() => undo({ seq: h.seq })}
        >
          <Undo2 size={14} />
        </IconButton>
      </span>
    </li>
  );
}

/** The first of its values in a line, all that came along when it is opened. */
function Values({ lines, more }: { lines: readonly string[]; more: number }) {
  const [isOpen, setOpen] = useState(false);
  const left = isOpen ? more : more + lines.length - 1;
  return (
    <button
      type="button"
      data-testid="values"
      aria-expanded={isOpen}
      title={isOpen ? undefined : 'In values'}
      onClick={() => setOpen(!isOpen)}
      className={`block w-full text-left text-[12px] leading-4 text-muted hover:text-soft ${isOpen ? '' : 'truncate'}`}
    >
      {isOpen
        ? lines.map((l, i) => (
            <span key={i} className="block [overflow-wrap:anywhere]">
              {l}
            </span>
          ))
        : lines[0]}
      {left > 0 && <span> and {left} more</span>}
    </button>
  );
}
