/** A cell of a cue's row: shown, and after a double click typed into; one entry is one edit. */
'use client';
import type { ReactNode } from 'react';
import { formatTime } from '@/core/cues/clock';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import { readScale, readTimes, readTrigger } from '@/core/cues/row-text';
import type { CueRow } from '@/core/cues/rows';
import { CellEditor, type CellStep } from '../parts/CellEditor';
import { edit } from '../state/edits';
import { notice } from '../state/messages';

/** Fields of a cue’s row, in the order in which Tab goes through them. */
export const ROW_FIELDS = ['number', 'name', 'times', 'trigger'] as const;
export type RowField = (typeof ROW_FIELDS)[number];
const LABEL: Record<RowField, string> = {
  number: 'Number',
  name: 'Name',
  times: 'Times, up/down',
  trigger: 'What lets it begin',
};
/** Where the field lies over its cell, and how wide. */
const PLACE: Record<RowField, string> = {
  number: 'num left-0 w-[72px]',
  name: 'left-0 w-full',
  times: 'num left-0 w-[72px]',
  trigger: 'right-1 w-40',
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

/** Into one cue, or into many that are chosen. @returns why not, in a sentence */
function write(
  cue: CueRow,
  many: readonly string[],
  what: RowField,
  text: string,
): string | undefined {
  const change = (set: Record<string, unknown>, scale?: number): void =>
    void (many.length > 1 || scale !== undefined
      ? edit('change-cues', {
          ids: many.length > 1 ? many : [cue.id],
          set,
          ...(scale === undefined ? {} : { scale }),
        })
      : edit('change-cue', { id: cue.id, set }));
  if (what === 'number') {
    const number = parseCueNumber(text);
    if (number === undefined)
      return `“${text.trim()}” is not a cue number; they look like 2, 2.5 or 10.125.`;
    void edit('renumber-cues', { ids: [cue.id], from: number, step: 1000 });
  } else if (what === 'name') change({ name: text.trim() });
  else if (what === 'times') {
    const scale = readScale(text);
    const times = readTimes(text);
    if (scale !== undefined) change({}, scale);
    else if ('problem' in times) return times.problem;
    else change(times);
  } else {
    const trigger = readTrigger(text);
    if ('problem' in trigger) return trigger.problem;
    void edit('set-trigger', { id: cue.id, trigger });
  }
  return undefined;
}

/** A field of a cue’s row, as words or written in. */
export function RowCell({
  cue,
  before,
  what,
  editing,
  chosen,
  begin,
  onDone,
  onStep,
  children,
}: {
  cue: CueRow;
  before: CueRow | undefined;
  what: RowField;
  editing: boolean;
  /** Cues that are chosen: a name and times are for all of them, where this is one. */
  chosen: readonly string[];
  begin: (id: string, what: RowField) => void;
  onDone: () => void;
  onStep: (step: CellStep) => void;
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
  const many = chosen.includes(cue.id) && (what === 'times' || what === 'name') ? chosen : [];
  return (
    <span
      role="gridcell"
      className="relative min-w-0"
      data-field={LABEL[what]}
      onClick={(e) => e.stopPropagation()}
    >
      <CellEditor
        label={many.length > 1 ? `${LABEL[what]}, of ${many.length} cues` : LABEL[what]}
        text={text}
        first={null}
        onKeep={(typed) => {
          onDone();
          if (typed.trim() === text && many.length < 2) return;
          const wrong = write(cue, many, what, typed);
          if (wrong) notice.error(`${wrong} Nothing was changed.`);
        }}
        onLeave={onDone}
        {...(many.length > 1 ? {} : { onStep })}
        className={`absolute -top-3.5 z-20 h-7 rounded-md bg-ink px-1.5 text-[12.5px] shadow-cell outline-none ${PLACE[what]}`}
      />
    </span>
  );
}
