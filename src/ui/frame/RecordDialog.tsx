/** Before you record: where to, under which name and times, and what else will look different. */
'use client';
import { useMemo, useState } from 'react';
import { consequences } from '@/core/cues/consequences';
import { formatCueNumber, numberAfter, parseCueNumber } from '@/core/cues/number';
import { Button, Dialog, Field } from '../parts/controls';
import { record, recordParams, tryEdit } from '../state/actions';
import { ApiError } from '../state/api';
import { unrecordedCount, useList, useScreen, useShow } from '../state/store';

const time = (text: string): number | undefined | 'wrong' => {
  if (text.trim() === '') return undefined;
  const value = Number(text.replace(',', '.'));
  return Number.isFinite(value) && value >= 0 && value <= 36_000 ? value : 'wrong';
};

export function RecordDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const list = useList();
  const values = useScreen((s) => s.values);
  const cues = list ? show.cuesOf(list.id) : [];
  const [number, setNumber] = useState(formatCueNumber(numberAfter(cues.at(-1)?.number)));
  const [name, setName] = useState('');
  const [up, setUp] = useState('');
  const [down, setDown] = useState('');
  const [mode, setMode] = useState<'track' | 'only'>('track');
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();

  const parsed = parseCueNumber(number);
  const existing = cues.find((c) => c.number === parsed);
  const upTime = time(up);
  const downTime = time(down);
  const held = unrecordedCount(values);
  const options = useMemo(
    () => (parsed === undefined || upTime === 'wrong' || downTime === 'wrong' ? undefined : { number: parsed, ...(name.trim() ? { name: name.trim() } : {}), ...(upTime === undefined ? {} : { up_s: upTime, down_s: downTime ?? upTime }), ...(upTime === undefined && downTime !== undefined ? { down_s: downTime } : {}), mode, existing: 'may' as const }),
    [parsed, name, upTime, downTime, mode],
  );
  const plan = useMemo(() => (options ? tryEdit('record-cue', recordParams(options)) : undefined), [options]);
  const others = plan && 'changes' in plan ? consequences(show, plan.changes, new Set(plan.changes.flatMap((c) => (c.table === 'cues' ? [c.id] : existing ? [existing.id] : [])))) : [];
  const refusal = plan && 'message' in plan ? plan : undefined;

  const save = async (): Promise<void> => {
    if (!options) return;
    setBusy(true);
    const answer = await record(options);
    setBusy(false);
    if (answer instanceof ApiError) setProblem(answer.message);
    else onClose();
  };

  return (
    <Dialog open onOpenChange={(o) => !o && onClose()} title="Record a cue" about={held === 0 ? 'You hold nothing that is not recorded: this makes an empty cue that shows what tracks into it.' : `${held} ${held === 1 ? 'value' : 'values'} from your programmer. A cue stores only what changes.`}>
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <div className="grid grid-cols-[88px_1fr] gap-3">
          <Field label="Cue" number autoFocus value={number} onChange={(e) => setNumber(e.target.value)} onFocus={(e) => e.target.select()} problem={parsed === undefined ? 'Like 2, 2.5 or 10.125' : undefined} />
          <Field label="Name" value={name} maxLength={120} placeholder={existing?.name ?? ''} onChange={(e) => setName(e.target.value)} problem={refusal?.fields?.name} />
        </div>
        <div className="mt-3 grid grid-cols-[88px_88px_1fr] gap-3">
          <Field label="Up, seconds" number value={up} placeholder={String(existing?.up_s ?? 3)} onChange={(e) => setUp(e.target.value)} problem={upTime === 'wrong' ? 'Seconds, from 0' : undefined} />
          <Field label="Down, seconds" number value={down} placeholder={up || String(existing?.down_s ?? 3)} onChange={(e) => setDown(e.target.value)} problem={downTime === 'wrong' ? 'Seconds, from 0' : undefined} />
          <fieldset className="pt-1">
            <legend className="sr-only">Afterwards</legend>
            {(['track', 'only'] as const).map((m) => (
              <label key={m} className="flex h-6 items-center gap-2 text-[12.5px] text-soft">
                <input type="radio" name="mode" checked={mode === m} onChange={() => setMode(m)} className="accent-[var(--color-standby)]" />
                {m === 'track' ? 'Let it track on' : 'This cue only: the next puts it back'}
              </label>
            ))}
          </fieldset>
        </div>
        <p className="mt-4 min-h-10 text-[12.5px] text-soft" data-testid="consequences">
          {refusal ? (
            <span className="text-warning">{refusal.message}</span>
          ) : (
            <>
              {existing ? `Cue ${number} exists${existing.name ? ` (${existing.name})` : ''}: its other values stay. ` : ''}
              {others.length > 0 ? `This also changes what is seen in cue ${others.slice(0, 5).map((c) => formatCueNumber(c.number)).join(', ')}${others.length > 5 ? ` and ${others.length - 5} more` : ''}: the values track on.` : 'No other cue looks different.'}
            </>
          )}
          {problem && <span className="block text-danger">{problem}</span>}
        </p>
        <div className="mt-3 flex justify-end gap-2">
          <Button kind="quiet" onClick={onClose}>
            Not now
          </Button>
          <Button kind="strong" type="submit" disabled={busy || !options || refusal !== undefined}>
            {existing ? `Record into cue ${number}` : `Record cue ${number}`}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

