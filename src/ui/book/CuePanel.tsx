/** The chosen cue: its name, number, times, call and note, each changed where it stands. */
'use client';
import { useState } from 'react';
import { formatCueNumber, parseCueNumber } from '@/core/cues/number';
import { plural } from '@/core/edits/edit';
import { stateAt } from '@/core/cues/tracking';
import type { CueRow } from '@/core/show/rows';
import { Ask, Button } from '../parts/controls';
import { edit, live, tryEdit } from '../state/actions';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';

const seconds = (text: string): number | undefined => {
  const value = Number(text.trim().replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(value) && value >= 0 ? value : undefined;
};

function Value({ label, value, wide, mono, disabled, onDone }: { label: string; value: string; wide?: boolean; mono?: boolean; disabled: boolean; onDone: (text: string) => string | undefined }) {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState<string>();
  const finish = (): void => {
    if (text !== null && text !== value) {
      const wrong = onDone(text);
      setProblem(wrong);
      if (wrong) return;
    }
    setText(null);
    setProblem(undefined);
  };
  return (
    <label className={`block ${wide ? 'min-w-0 flex-1' : 'w-[74px]'}`}>
      <span className="block text-[12px] leading-4 text-muted">{label}</span>
      <input
        value={text ?? value}
        disabled={disabled}
        aria-invalid={problem ? true : undefined}
        title={problem}
        onChange={(e) => setText(e.target.value)}
        onBlur={finish}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') {
            setText(null);
            setProblem(undefined);
          }
        }}
        className={`mt-0.5 h-8 w-full rounded-md bg-ink px-2 shadow-[inset_0_0_0_1px_var(--color-edge)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] disabled:text-dim ${mono ? 'num' : ''} ${problem ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`}
      />
      {problem && <span className="block text-[11.5px] leading-4 text-danger">{problem}</span>}
    </label>
  );
}

export function CuePanel({ cue, onGone }: { cue: CueRow; onGone: () => void }) {
  const show = useShow();
  const { you } = useScreen();
  const [asking, setAsking] = useState(false);
  const disabled = !mayEdit(you.role);
  const label = formatCueNumber(cue.number);
  const set = show.valuesOf(cue.id).size;
  const shown = stateAt(show, cue.listId, cue.number).size;
  const change = (fields: Partial<CueRow>): undefined => {
    void edit('change-cue', { id: cue.id, set: fields });
  };
  const time = (field: 'up_s' | 'down_s' | 'delay_s') => (text: string) => {
    const value = seconds(text);
    return value === undefined ? 'Seconds, from 0' : change({ [field]: value });
  };
  const plan = asking ? tryEdit('delete-cue', { id: cue.id }) : undefined;
  return (
    <section aria-label={`Cue ${label}`} className="flex-none border-t border-line bg-panel px-4 pb-3 pt-2.5">
      <div className="flex items-center gap-3 pb-1.5">
        <span className="cap">
          Cue <span className="num">{label}</span>
        </span>
        <span className="text-[12px] text-muted">
          sets {plural(set, 'value')}, shows {shown}
        </span>
        <span className="ml-auto flex gap-2">
          {mayPlay(you.role) && (
            <Button kind="quiet" onClick={() => void live({ command: 'goto', cue: label })}>
              Go to it
            </Button>
          )}
          {!disabled && (
            <Button kind="danger" onClick={() => setAsking(true)}>
              Delete
            </Button>
          )}
        </span>
      </div>
      <div className="flex gap-2.5">
        <Value label="Number" mono value={label} disabled={disabled} onDone={(t) => { const n = parseCueNumber(t); return n === undefined ? 'Like 2 or 2.5' : change({ number: n }); }} />
        <Value label="Name" wide value={cue.name} disabled={disabled} onDone={(t) => (t.length > 120 ? 'At most 120 characters' : change({ name: t.trim() }))} />
        <Value label="Up, s" mono value={String(cue.up_s)} disabled={disabled} onDone={time('up_s')} />
        <Value label="Down, s" mono value={String(cue.down_s)} disabled={disabled} onDone={time('down_s')} />
        <Value label="Delay, s" mono value={String(cue.delay_s)} disabled={disabled} onDone={time('delay_s')} />
        <Value label="Follow, s" mono value={cue.follow_s === null ? '' : String(cue.follow_s)} disabled={disabled} onDone={(t) => (t.trim() === '' ? change({ follow_s: null }) : seconds(t) === undefined ? 'Seconds, or empty' : change({ follow_s: seconds(t) ?? null }))} />
        <Value label="Called on" wide value={cue.call} disabled={disabled} onDone={(t) => (t.length > 120 ? 'At most 120 characters' : change({ call: t.trim() }))} />
        <Value label="Note" wide value={cue.note} disabled={disabled} onDone={(t) => (t.length > 2000 ? 'At most 2000 characters' : change({ note: t }))} />
      </div>
      <Ask
        open={asking}
        onClose={() => setAsking(false)}
        title={`Delete cue ${label}${cue.name ? ` “${cue.name}”` : ''}?`}
        act="Delete"
        onAct={() => {
          onGone();
          void edit('delete-cue', { id: cue.id });
        }}
      >
        <p>{plan && 'summary' in plan ? `${plan.summary.replace('Deleted', 'This deletes')}. The other cues look as they did.` : plan?.message}</p>
      </Ask>
    </section>
  );
}
