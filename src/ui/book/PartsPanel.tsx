/** Parts of a cue: some of its values with times and a note of their own. */
'use client';
import { familyOf } from '@/core/rig/attributes';
import { plural } from '@/core/words';
import type { CuePart, CueRow, ValueRow } from '@/core/cues/rows';
import { Button, IconButton } from '../parts/controls';
import { Trash2 } from 'lucide-react';
import { edit } from '../state/edits';
import { mayEdit, useScreen, useShow } from '../state/store';
import { Time, Value } from './fields';
import { FAMILY_CHOICES } from './record';

const MOST_PARTS = 24;
const KEY = 'h-6 rounded px-2 disabled:text-faint';
const GIVES = `${KEY} bg-raised text-soft hover:bg-lift`;
const TIMES = [
  ['up_s', 'Up'],
  ['down_s', 'Down'],
  ['delay_s', 'Delay'],
] as const;

/** A part of a cue, and what it takes to change it. */
interface Of {
  part: CuePart;
  /** What the cue sets. */
  values: readonly ValueRow[];
  disabled: boolean;
  put: (fields: Partial<CuePart>) => Promise<unknown>;
  /** Gives it values, or gives them back to the cue. @param part null: back */
  give: (part: number | null, which: (v: ValueRow) => boolean) => void;
  remove: () => void;
}

const ownOf = ({ part, values }: Of): number => values.filter((v) => v.part === part.number).length;

function NameAndTimes(of: Of) {
  const { part, disabled, put, remove } = of;
  return (
    <div className="flex items-end gap-2">
      <span className="num pb-1 text-[13px] text-standby">{part.number}</span>
      <Value
        label={`Name · ${plural(ownOf(of), 'value')}`}
        wide
        value={part.name}
        disabled={disabled}
        onDone={(t) => (t.length > 120 ? 'Too long' : put({ name: t.trim() }))}
      />
      {TIMES.map(([field, label]) => (
        <Time
          key={field}
          label={label}
          value={part[field]}
          disabled={disabled}
          onDone={(t) => put({ [field]: t ?? 0 })}
        />
      ))}
      <IconButton label={`Take part ${part.number} apart`} disabled={disabled} onClick={remove}>
        <Trash2 size={14} />
      </IconButton>
    </div>
  );
}

function Given(of: Of) {
  const { part, disabled, give, put } = of;
  const selection = useScreen((s) => s.selection);
  return (
    <div className="mt-1 flex flex-wrap items-center gap-1.5">
      <span className="text-muted">Give it</span>
      {FAMILY_CHOICES.map((f) => (
        <button
          key={f}
          type="button"
          disabled={disabled}
          onClick={() => give(part.number, (v) => familyOf(v.attribute) === f)}
          className={GIVES}
        >
          {f}
        </button>
      ))}
      <button
        type="button"
        disabled={disabled || selection.length === 0}
        onClick={() => give(part.number, (v) => selection.includes(v.fixtureId))}
        className={GIVES}
      >
        the {selection.length} selected
      </button>
      <button
        type="button"
        disabled={disabled || ownOf(of) === 0}
        onClick={() => give(null, (v) => v.part === part.number)}
        className={`${KEY} text-muted hover:bg-raised`}
      >
        give back
      </button>
      <Value
        label=""
        wide
        placeholder="note"
        value={part.note}
        disabled={disabled}
        onDone={(note) => (note.length > 2000 ? 'Too long' : put({ note }))}
      />
    </div>
  );
}

/** After the last one, or where one is free. */
function freeNumber(parts: readonly CuePart[]): number {
  const taken = new Set(parts.map((p) => p.number));
  const after = Math.max(0, ...taken) + 1;
  if (after <= MOST_PARTS) return after;
  return Array.from({ length: MOST_PARTS }, (_, i) => i + 1).find((n) => !taken.has(n)) ?? after;
}

/** A new part has the times of its cue, and nothing yet. */
const freshPart = (cue: CueRow, parts: readonly CuePart[]): CuePart => ({
  number: freeNumber(parts),
  name: '',
  up_s: cue.up_s,
  down_s: cue.down_s,
  delay_s: 0,
  family_s: {},
  note: '',
});

/** Parts of a cue, each with times of its own. */
export function PartsPanel({ cue }: { cue: CueRow }) {
  const show = useShow();
  const disabled = !mayEdit(useScreen((s) => s.you.role));
  const parts = cue.parts ?? [];
  const values = [...show.valuesOf(cue.id).values()];
  const write = (next: readonly CuePart[], quiet = false): Promise<unknown> =>
    edit('change-cue', { id: cue.id, set: { parts: next } }, { quiet });
  const give: Of['give'] = (part, which) => {
    const cells = values.filter(which).map((v) => ({
      cueId: cue.id,
      fixtureId: v.fixtureId,
      attribute: v.attribute,
      times: { part },
    }));
    if (cells.length > 0) void edit('set-values', { cells });
  };
  return (
    <div className="space-y-2 overflow-y-auto px-3.5 pb-3 text-[12.5px]">
      {parts.length === 0 && (
        <p className="leading-[18px] text-muted">
          A part gives some of this cue’s values times of their own: the colour that follows late,
          the special that snaps.
        </p>
      )}
      {parts.map((part) => {
        const of: Of = {
          part,
          values,
          disabled,
          give,
          put: (fields) =>
            write(
              parts.map((p) => (p === part ? { ...p, ...fields } : p)),
              true,
            ),
          remove: () => void write(parts.filter((p) => p !== part)),
        };
        return (
          <div key={part.number} className="border-t border-line pt-1.5 first:border-t-0">
            <NameAndTimes {...of} />
            <Given {...of} />
          </div>
        );
      })}
      <Button
        kind="line"
        disabled={disabled || parts.length >= MOST_PARTS}
        onClick={() => void write([...parts, freshPart(cue, parts)])}
      >
        New part
      </Button>
    </div>
  );
}
