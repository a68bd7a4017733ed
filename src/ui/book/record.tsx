/** Recording and its consequences: what would be written where, what else will look different, and the choices about it. */
'use client';
import { useCallback, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { sayNumbers } from '@/core/cues/called';
import type { Consequence } from '@/core/cues/consequences';
import { formatCueNumber } from '@/core/cues/number';
import { plural } from '@/core/words';
import type { CueRow } from '@/core/cues/rows';
import type { Family } from '@/core/show/fields';
import { Button } from '../parts/controls';
import { lightsIn, SmallStage } from '../parts/small-stage';
import { edit } from '../state/edits';
import { ApiError } from '../state/api';
import { useBook, useBookList } from '../state/book';
import { planRecord, type After, type RecordPlan } from '../state/planned';
import { useTakenCue } from '../state/taken';
import { mayEdit, unrecordedCount, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

/** Cues before and after, as small stages. @param tight only as many as are seen whole; the sentence says how many more there are */
export function Pictures({
  others,
  tight = false,
}: {
  others: readonly Consequence[];
  tight?: boolean;
}) {
  const show = useShow();
  const most = tight ? 2 : 3;
  const shown = useMemo(
    () =>
      others.slice(0, most).map((c) => ({
        c,
        before: lightsIn(show, c, 'before'),
        after: lightsIn(show, c, 'after'),
      })),
    [show, others, most],
  );
  return (
    <ul className="flex gap-2.5 overflow-hidden" data-testid="record-pictures">
      {shown.map(({ c, before, after }) => (
        <li
          key={c.cueId}
          className="flex flex-none items-center gap-1"
          title={`LX ${formatCueNumber(c.number)} ${c.name}: ${plural(c.slots, 'value')} different`}
        >
          <span className="num text-[11.5px] text-soft">{formatCueNumber(c.number)}</span>
          <SmallStage small lights={before} label={`Cue ${formatCueNumber(c.number)} before`} />
          <span aria-hidden="true" className="text-[11px] text-muted">
            ›
          </span>
          <SmallStage small lights={after} label={`Cue ${formatCueNumber(c.number)} after`} />
        </li>
      ))}
      {!tight && others.length > most && (
        <li className="self-center text-[12px] text-muted">and {others.length - most} more</li>
      )}
    </ul>
  );
}

/** The sentence about other cues. */
export function Others({ plan, into }: { plan: RecordPlan; into: string }) {
  const show = useShow();
  if (plan.problem)
    return <p className="text-[12.5px] leading-[18px] text-warning">{plan.problem}</p>;
  if (plan.others.length === 0)
    return (
      <p className="text-[12.5px] leading-[18px] text-soft">
        {plural(plan.count, 'change')} into {into}.{' '}
        <b className="font-semibold text-text">No other cue looks different.</b>
      </p>
    );
  return (
    <p className="text-[12.5px] leading-[18px] text-soft">
      {plural(plan.count, 'change')} into {into} also {plan.count === 1 ? 'changes' : 'change'} what
      is seen in <b className="font-semibold text-text">LX {sayNumbers(show, plan.others)}</b>.
    </p>
  );
}

/** What is done afterwards: in few words where it is tight, and what that means. */
const AFTER: [After, string, string][] = [
  ['track', 'Let it track on', ''],
  ['only', 'This cue only', ': the next puts it back'],
  ['source', 'Back to where it was set', ', in cue or palette'],
];

/** Asks what becomes of what is recorded. */
export function AfterChoice({
  value,
  onChange,
  disabled,
  tight = false,
}: {
  value: After;
  onChange: (v: After) => void;
  disabled: boolean;
  tight?: boolean;
}) {
  return (
    <fieldset>
      <legend className="sr-only">Afterwards</legend>
      {AFTER.map(([id, label, meaning]) => (
        <label
          key={id}
          title={tight ? label + meaning : undefined}
          className={`flex h-6 items-center gap-2 text-[12.5px] whitespace-nowrap ${disabled && id === 'source' ? 'text-dim' : 'text-soft'}`}
        >
          <input
            type="radio"
            name="after"
            checked={value === id}
            disabled={disabled && id === 'source'}
            onChange={() => onChange(id)}
            className="accent-[var(--color-standby)]"
          />
          {tight ? label : label + meaning}
        </label>
      ))}
    </fieldset>
  );
}

/** A palette that is written into: everywhere, or a copy of its own for this cue. */
export function PaletteChoice({
  plan,
  value,
  onChange,
}: {
  plan: RecordPlan;
  value: 'palette' | 'cue';
  onChange: (v: 'palette' | 'cue') => void;
}) {
  if (plan.palettes.length === 0 && value === 'palette') return null;
  return (
    <label className="flex items-center gap-2 text-[12.5px] text-warning">
      <input
        type="checkbox"
        checked={value === 'cue'}
        onChange={(e) => onChange(e.target.checked ? 'cue' : 'palette')}
        className="size-4 accent-[var(--color-standby)]"
      />
      {value === 'cue'
        ? 'As values of the cue itself: the palette stays'
        : `Palette ${plan.palettes.map((p) => `“${p.name}” (${plural(p.cues, 'cue')})`).join(', ')} changes. Make this one its own instead`}
    </label>
  );
}

/** Records. @returns why not, in a sentence */
export async function doRecord(plan: RecordPlan): Promise<string | undefined> {
  const answer = await edit(plan.edit, plan.params);
  return answer instanceof ApiError ? answer.message : undefined;
}

/** What recording now would do, into the cue that one stands in; the cues that would look different are marked in the sheet. */
function usePlanHere(after: After, palettes: 'palette' | 'cue') {
  const { listId, cue, status, cues } = useBookList();
  const { values: now, revision } = useParts(useScreen, 'values', 'revision');
  // While a control is dragged the sentence may come a moment later.
  const values = useDeferredValue(now);
  const count = unrecordedCount(values);
  const taken = useTakenCue();
  const target: CueRow | undefined =
    (taken?.listId === listId ? taken : undefined) ??
    cue ??
    cues.find((c) => c.id === status?.cueId);
  const planNow = useCallback(
    (): RecordPlan | undefined =>
      target &&
      planRecord(
        { listId, number: target.number, mode: 'track', existing: 'must' },
        { from: 'programmer' },
        after,
        palettes,
      ),
    [target, listId, after, palettes],
  );
  const plan = useMemo(() => {
    void [values, revision];
    return count > 0 ? planNow() : undefined;
  }, [planNow, count, values, revision]);
  const others = plan?.others;
  useEffect(() => {
    useBook.setState({ marked: others?.map((c) => c.cueId) ?? [] });
    return () => useBook.setState({ marked: [] });
  }, [others]);
  return { count, target, plan, planNow };
}

/** “Before you record”: always in sight while something is held that is not recorded. */
export function RecordPanel({ openDialog }: { openDialog: () => void }) {
  const may = mayEdit(useScreen((s) => s.you.role));
  const [after, setAfter] = useState<After>('track');
  const [palettes, setPalettes] = useState<'palette' | 'cue'>('palette');
  const { count, target, plan, planNow } = usePlanHere(after, palettes);
  if (count === 0) return <NothingToRecord openDialog={may ? openDialog : null} />;
  const into = target ? `LX ${formatCueNumber(target.number)}` : '';
  return (
    <section
      aria-label="Before you record"
      className="flex h-full min-h-0 flex-col overflow-y-auto p-3.5"
    >
      <header className="flex items-baseline justify-between">
        <h2 className="cap">Before you record</h2>
        <span className="text-[12px] text-soft">
          <i className="mr-1.5 inline-block size-2 rounded-full bg-unrecorded" />
          {plural(count, 'change')}
        </span>
      </header>
      <div className="mt-1.5 min-h-[36px]">
        {plan && target ? (
          <Others plan={plan} into={into} />
        ) : (
          <p className="text-[12.5px] text-soft">No cue is chosen: record a new one.</p>
        )}
      </div>
      {plan && plan.others.length > 0 && <Pictures tight others={plan.others} />}
      <div className="mt-auto flex items-end justify-between gap-3 pt-1.5">
        <div>
          <AfterChoice tight value={after} onChange={setAfter} disabled={!target} />
          {plan && after === 'source' && (
            <PaletteChoice plan={plan} value={palettes} onChange={setPalettes} />
          )}
        </div>
        <span className="flex flex-none flex-col items-stretch gap-1.5">
          <Button kind="quiet" disabled={!may} onClick={openDialog}>
            Elsewhere …
          </Button>
          <RecordHere
            words={after === 'source' ? 'Update' : `Record ${into}`.trim()}
            disabled={!may || !plan || plan.problem !== undefined}
            planNow={planNow}
          />
        </span>
      </div>
    </section>
  );
}

/** @param openDialog null for whoever may not record */
function NothingToRecord({ openDialog }: { openDialog: (() => void) | null }) {
  return (
    <section aria-label="Before you record" className="flex h-full flex-col p-3.5">
      <h2 className="cap">Before you record</h2>
      <p className="mt-2 text-[12.5px] leading-[18px] text-muted">
        You hold nothing that is not recorded. Set fixtures on Stage, and what recording them
        changes is shown here first.
      </p>
      {openDialog && (
        <Button className="mt-auto self-start" onClick={openDialog}>
          Record a cue …
        </Button>
      )}
    </section>
  );
}

function RecordHere({
  words,
  disabled,
  planNow,
}: {
  words: string;
  disabled: boolean;
  planNow: () => RecordPlan | undefined;
}) {
  const [busy, setBusy] = useState(false);
  const record = async (): Promise<void> => {
    // Not what was planned a moment ago: what is held as it is pressed.
    const now = planNow();
    if (!now) return;
    setBusy(true);
    await doRecord(now);
    setBusy(false);
  };
  return (
    <Button
      kind="strong"
      data-testid="record-here"
      disabled={disabled || busy}
      onClick={() => void record()}
    >
      {words}
    </Button>
  );
}

/** Families that may be recorded apart. */
export const FAMILY_CHOICES: readonly Family[] = ['intensity', 'position', 'colour', 'beam'];
