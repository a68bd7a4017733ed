/** A cell of a cue's row: shown, and after a double click typed into; one entry is one edit. */
'use client';
import type { ReactNode } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import { readTimes, readTrigger } from '@/core/cues/row-text';
import type { CueRow } from '@/core/cues/rows';
import { CellEditor } from '../parts/CellEditor';
import { edit } from '../state/actions';
import { notice } from '../state/messages';

export type RowField = 'number' | 'name' | 'times' | 'trigger';
const LABEL: Record<RowField, string> = {
  number: 'Number',
  name: 'Name',
  times: 'Times, up/down',
  trigger: 'What lets it begin',
};

/** What stands in the field when it opens. */
function textOf(cue: CueRow, before: CueRow | undefined, what: RowField): string {
  switch (what) {
    case 'number':
      return formatCueNumber(cue.number);
    case 'name':
      return cue.name;
    case 'times':
      return cue.up_s === cue.down_s
        ? formatTime(cue.up_s)
        : `${formatTime(cue.up_s)}/${formatTime(cue.down_s)}`;
    case 'trigger':
      if (cue.clock) return `at ${cue.clock}`;
      if (before && !before.link && before.follow_s !== null)
        return `follow ${formatTime(before.follow_s)}`;
      if (before && !before.link && before.after_s !== undefined)
        return `after ${formatTime(before.after_s)}`;
      return cue.call || 'go';
  }
}

/** @returns why not, in a sentence */
function write(cue: CueRow, what: RowField, text: string): string | undefined {
  if (what === 'number') {
    const number = parseCueNumber(text);
    if (number === undefined)
      return `“${text.trim()}” is not a cue number; they look like 2, 2.5 or 10.125.`;
    void edit('renumber-cues', { ids: [cue.id], from: number, step: 1000 });
  } else if (what === 'name') void edit('change-cue', { id: cue.id, set: { name: text.trim() } });
  else if (what === 'times') {
    const times = readTimes(text);
    if ('problem' in times) return times.problem;
    void edit('change-cue', { id: cue.id, set: times });
  } else {
    const trigger = readTrigger(text);
    if ('problem' in trigger) return trigger.problem;
    void edit('set-trigger', { id: cue.id, trigger });
  }
  return undefined;
}

export function RowCell({
  cue,
  before,
  what,
  editing,
  begin,
  onDone,
  children,
}: {
  cue: CueRow;
  before: CueRow | undefined;
  what: RowField;
  editing: boolean;
  begin: (id: string, what: RowField) => void;
  onDone: () => void;
  children: ReactNode;
}) {
  if (!editing)
    return (
      <span
        role="gridcell"
        className="min-w-0"
        data-cell={what}
        data-field={LABEL[what]}
        onDoubleClick={() => begin(cue.id, what)}
      >
        {children}
      </span>
    );
  const text = textOf(cue, before, what);
  return (
    <span
      role="gridcell"
      className="relative min-w-0"
      data-field={LABEL[what]}
      onClick={(e) => e.stopPropagation()}
    >
      <CellEditor
        label={LABEL[what]}
        text={text}
        first={null}
        onKeep={(typed) => {
          onDone();
          if (typed.trim() === text) return;
          const wrong = write(cue, what, typed);
          if (wrong) notice.error(`${wrong} Nothing was changed.`);
        }}
        onLeave={onDone}
        className={`absolute -top-3.5 z-20 h-7 rounded-md bg-ink px-1.5 text-[12.5px] shadow-cell outline-none ${what === 'name' ? 'left-0 w-full' : what === 'trigger' ? 'right-1 w-40' : 'num left-0 w-[72px]'}`}
      />
    </span>
  );
}
