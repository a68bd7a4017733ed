/** Patching: pick a type, say how many and where, read what will happen, do it. */
'use client';
import { useState } from 'react';
import { nextFree, nextNumber } from '@/core/rig/addresses';
import { formatPoint, fromAbsolute, parsePoint } from '@/core/fixtures/points';
import { aRole } from '@/core/roles';
import { sayPatch } from '@/core/fixtures/edits/patch';
import type { TypeRow } from '@/core/types/rows';
import { plural } from '@/core/words';
import { Button, Check, Choice, Field } from '../parts/controls';
import { edit, tryEdit } from '../state/edits';
import { ApiError } from '../state/api';
import { noteRecent } from '../state/preferences';
import { mayEdit, useScreen, useShow } from '../state/store';
import { clearDraft, patchParams, setDraft, setUniverse, useRig } from './rig-state';
import { TypeList } from './TypeList';
import { useParts } from '../state/use-parts';

const whole = (text: string): number => (/^\d+$/.test(text) ? Number(text) : Number.NaN);
/** More at once is asked of nobody. */
const MOST_UNITS = 2048;

/** What the draft would do now: where it begins, the rows that it makes, or why it cannot be. */
function usePatchPlan() {
  const show = useShow();
  const { picked, draft, universe } = useParts(useRig, 'picked', 'draft', 'universe');
  const units = whole(draft.quantity);
  const said = whole(draft.gap);
  const spacing = draft.spacing === 'gap' ? said : said - (picked?.mode.footprint ?? 0);
  const isCounted = Number.isFinite(units);
  const freeNumber = nextNumber(show, isCounted ? Math.min(Math.max(1, units), MOST_UNITS) : 1);
  const freePoint = picked
    ? nextFree(
        show,
        picked.mode.footprint,
        isCounted && !draft.overflow ? units : 1,
        Number.isFinite(spacing) ? Math.max(0, spacing) : 0,
        { universe, address: 1 },
      )
    : undefined;
  const typed = draft.address.trim() === '' ? undefined : parsePoint(draft.address);
  const isAddressed = draft.address.trim() === '' || typed !== undefined;
  const params = patchParams(picked, draft, typed ?? freePoint);
  const plan =
    params && isCounted && Number.isFinite(spacing) && isAddressed
      ? tryEdit('patch-fixtures', params)
      : undefined;
  const problem = plan && 'message' in plan ? plan : undefined;
  const rows =
    plan && !('message' in plan)
      ? plan.changes.flatMap((c) => (c.table === 'fixtures' && c.after ? [c.after] : []))
      : [];
  return {
    picked,
    draft,
    units,
    spacing,
    freeNumber,
    freePoint,
    typed,
    isAddressed,
    params,
    problem,
    fields: problem?.fields ?? {},
    rows,
    isReady: plan !== undefined && !problem,
    start: typed ?? freePoint ?? { universe, address: 1 },
  };
}
type PatchPlan = ReturnType<typeof usePatchPlan>;

/** Patches units of a type. */
export function PatchForm({
  onEditType,
  onImport,
}: {
  onEditType: (type: TypeRow | null) => void;
  onImport: () => void;
}) {
  const { you } = useParts(useScreen, 'you');
  const picked = useRig((s) => s.picked);
  const editable = mayEdit(you.role);
  return (
    <section aria-label="Patch" className="flex h-full flex-col">
      <TypeList
        picked={picked}
        onPick={(p) => useRig.setState({ picked: p })}
        onEdit={onEditType}
        onImport={onImport}
        carry={editable}
      />
      {editable ? (
        <HowMany />
      ) : (
        <p className="border-t border-line bg-panel p-4 text-muted">
          {aRole(you.role)} looks at the rig; the owner and programmers patch it.
        </p>
      )}
    </section>
  );
}

/** How many, where, and what will happen. */
function HowMany() {
  const plan = usePatchPlan();
  const { picked, draft, units, rows, isReady } = plan;
  const [busy, setBusy] = useState(false);
  const patch = async (): Promise<void> => {
    setBusy(true);
    const answer = await edit('patch-fixtures', plan.params);
    setBusy(false);
    if (answer instanceof ApiError) return;
    if (picked) noteRecent(picked.type.id);
    const start = rows[0]?.patch[0];
    if (start) setUniverse(start.universe);
    clearDraft();
  };
  return (
    <form
      className="border-t border-line bg-panel px-4 pt-2.5 pb-3"
      onSubmit={(e) => {
        e.preventDefault();
        void patch();
      }}
    >
      <div className="mb-2 flex items-baseline justify-between">
        <span className="cap">Patch</span>
        <span className="truncate pl-2 text-[12.5px] text-soft">
          {picked ? `${picked.type.name} · ${picked.mode.name}` : 'pick a type above'}
        </span>
      </div>
      <Numbers plan={plan} />
      <LabelAndBar plan={plan} />
      <div className="mt-2">
        <Spacing plan={plan} />
        <div className="flex gap-4">
          <Check checked={draft.group} onChange={(group) => setDraft({ group })}>
            Make a group
          </Check>
          <Check checked={draft.palettes} onChange={(palettes) => setDraft({ palettes })}>
            Make palettes
          </Check>
        </div>
        <Check checked={draft.overflow} onChange={(overflow) => setDraft({ overflow })}>
          Go on in the next universe when full
        </Check>
      </div>
      <Says plan={plan} />
      <Button kind="strong" type="submit" className="w-full" disabled={busy || !isReady}>
        {picked && Number.isFinite(units) ? `Patch ${plural(units, 'fixture')}` : 'Patch'}
      </Button>
    </form>
  );
}

/** A field that is wrong for what the line below says is marked, and says no more. */
const marked = (problem: string | undefined): string | undefined => (problem ? ' ' : undefined);

function Numbers({
  plan: { draft, units, freeNumber, freePoint, typed, isAddressed, fields },
}: {
  plan: PatchPlan;
}) {
  const settle = (): void => {
    if (!typed) return;
    setUniverse(typed.universe);
    if (!draft.address.includes('.'))
      setDraft({ address: formatPoint(fromAbsolute(Number(draft.address))) });
  };
  return (
    <div className="grid grid-cols-[minmax(0,64px)_minmax(0,72px)_minmax(0,1fr)] gap-2">
      <Field
        label="Quantity"
        number
        value={draft.quantity}
        onChange={(e) => setDraft({ quantity: e.target.value })}
        problem={marked(fields.quantity) ?? (Number.isNaN(units) ? 'A number' : undefined)}
      />
      <Field
        label="First no."
        number
        value={draft.first}
        placeholder={String(freeNumber)}
        onChange={(e) => setDraft({ first: e.target.value.replace(/[^\d]/g, '') })}
        problem={marked(fields.first)}
      />
      <Field
        label="Address"
        number
        value={draft.address}
        title="Like 2.101, or absolute from 1 to 131072"
        placeholder={freePoint ? formatPoint(freePoint) : ''}
        onChange={(e) => setDraft({ address: e.target.value })}
        onBlur={settle}
        problem={isAddressed ? marked(fields.address) : 'Like 2.101'}
      />
    </div>
  );
}

function LabelAndBar({ plan: { draft, picked, fields } }: { plan: PatchPlan }) {
  const show = useShow();
  const bars = [...show.pieces.values()].filter(
    (p) => (p.kind === 'bar' || p.kind === 'boom') && p.name !== '',
  );
  return (
    <div className="mt-2 grid grid-cols-2 gap-2">
      <Field
        label="Label"
        value={draft.label}
        maxLength={120}
        placeholder={picked ? `${picked.type.name} #` : ''}
        title="A # counts up from 1"
        onChange={(e) => setDraft({ label: e.target.value })}
        problem={fields.label}
      />
      <Choice
        label="Hang on"
        value={draft.hang}
        onChange={(e) => setDraft({ hang: e.target.value })}
        options={[
          { value: '', label: 'standing free' },
          ...bars.map((b) => ({ value: b.name, label: b.name })),
        ]}
      />
    </div>
  );
}

/** Room between units, said as people do: what is free, or from start to start. */
function Spacing({ plan: { draft, picked, spacing, fields } }: { plan: PatchPlan }) {
  const isGap = draft.spacing === 'gap';
  return (
    <div className="flex h-8 items-center gap-2">
      <input
        aria-label={isGap ? 'Free channels between units' : 'Channels from start to start'}
        value={draft.gap}
        autoComplete="off"
        aria-invalid={Number.isNaN(spacing) || fields.gap !== undefined}
        onChange={(e) => setDraft({ gap: e.target.value })}
        className="num h-7 w-12 rounded-md bg-ink px-2 text-[13px] shadow-[inset_0_0_0_1px_var(--color-edge)] focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] focus:outline-none aria-[invalid=true]:shadow-[inset_0_0_0_1.5px_var(--color-danger)]"
      />
      <button
        type="button"
        className="text-[12.5px] text-soft underline decoration-dotted hover:text-text"
        title="Click to say it the other way: free channels between two units, or channels from the start of one to the start of the next"
        onClick={() =>
          setDraft(
            isGap
              ? { spacing: 'every', gap: String(picked?.mode.footprint ?? 1) }
              : { spacing: 'gap', gap: '0' },
          )
        }
      >
        {isGap ? 'free channels between units' : 'channels from start to start'}
      </button>
    </div>
  );
}

function sayPlan({ problem, picked, rows }: PatchPlan): string {
  if (problem) return problem.message;
  if (!picked)
    return 'Pick a type, and the next free number and address are filled in. Or drag it onto the map.';
  return rows.length > 0 ? sayPatch(rows, picked.mode) : 'Say how many and where.';
}

function Says({ plan }: { plan: PatchPlan }) {
  const { problem, draft, units, start } = plan;
  const overflows =
    problem?.message.includes('a universe ends at 512') === true && !draft.overflow && units > 1;
  return (
    <p
      data-testid="patch-says"
      className={`mt-1 mb-2 min-h-9 text-[12.5px] leading-[18px] ${problem ? 'text-warning' : 'text-soft'}`}
    >
      {sayPlan(plan)}
      {overflows && (
        <button
          type="button"
          className="ml-1 text-standby hover:underline"
          onClick={() => setDraft({ overflow: true })}
        >
          Go on in universe {start.universe + 1}
        </button>
      )}
    </p>
  );
}
