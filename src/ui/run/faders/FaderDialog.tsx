/** A fader: what it holds, what it does with it, the key under it, how it comes and goes; or a new one. */
'use client';
import { useState } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import {
  FADER_HOLDS,
  HELD_TABLES,
  OTHERS_COME,
  type FaderKind,
  type FaderRow,
} from '@/core/faders/rows';
import { Button, Check, Dialog } from '../../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { optionsOf } from '../../parts/options';
import { edit, tryEdit } from '../../state/edits';
import { ApiError } from '../../state/api';
import { useShow } from '../../state/store';
import { draftOf, FaderDraft, hasOthers, keysFor, modesFor, setOf } from './draft';

const KIND_WORDS: Record<FaderKind, string> = {
  list: 'A list',
  look: 'A look',
  palette: 'A palette',
  group: 'A group',
  effect: 'An effect',
};
const MODE_WORDS: Record<FaderRow['mode'], string> = {
  proportional: 'Brings up',
  inhibiting: 'Takes away',
  rate: 'Paces',
  size: 'Sizes',
};
const KEY_WORDS: Record<FaderRow['flash'], string> = {
  full: 'full while it is pressed',
  solo: 'alone, at full, while it is pressed',
  toggle: 'up, and down again',
  go: 'GO of the list',
};
const COME_WORDS: Record<(typeof OTHERS_COME)[number], string> = {
  raised: 'as it is raised',
  travel: 'over its travel',
  at: 'where it passes a level',
};

type Form = UseFormReturn<FaderDraft, unknown, FaderDraft>;

/** What stands in the form is what is sent: it is planned while it is typed, and a refusal is said before. */
function usePlan(form: Form, fader: FaderRow | null) {
  const show = useShow();
  const draft = form.watch();
  const held = show[HELD_TABLES[draft.kind]].get(draft.id);
  const params = { ...(fader ? { id: fader.id } : {}), set: setOf(draft, held?.name ?? '') };
  return { draft, held, params, plan: tryEdit('set-fader', params) };
}

/** What a fader holds and does; without one, a new fader. */
export function FaderDialog({ fader, onClose }: { fader: FaderRow | null; onClose: () => void }) {
  const show = useShow();
  const rows = (kind: FaderKind): { id: string; number: number; name: string }[] =>
    [...show[HELD_TABLES[kind]].values()].sort((a, b) => a.number - b.number);
  const form = useSchemaForm(FaderDraft, draftOf(fader, rows('list')[0]?.id ?? ''));
  const { draft, held, params, plan } = usePlan(form, fader);
  const { kind } = draft;
  const save = form.handleSubmit(async () => {
    const answer = await edit('set-fader', params);
    if (!(answer instanceof ApiError)) onClose();
  });
  const holds = (next: FaderKind): void => {
    form.setValue('id', rows(next)[0]?.id ?? '');
    form.setValue('mode', modesFor(next)[0] ?? 'proportional');
    if (!keysFor(next).includes(draft.flash)) form.setValue('flash', 'full');
  };
  return (
    <Dialog
      of={fader ? `faders/${fader.id}` : undefined}
      open
      onOpenChange={(o) => !o && onClose()}
      title={fader ? `Fader ${fader.number} “${fader.name}”` : 'New fader'}
      width="w-[520px]"
    >
      <form onSubmit={(e) => void save(e)}>
        <div className="grid grid-cols-[120px_1fr] gap-3">
          <FormChoice
            form={form}
            name="kind"
            label="Holds"
            options={optionsOf(FADER_HOLDS, KIND_WORDS)}
            onInput={(e) => holds(e.currentTarget.value as FaderKind)}
          />
          <FormChoice
            form={form}
            name="id"
            label="Which"
            options={rows(kind).map((r) => ({ value: r.id, label: `${r.number} ${r.name}` }))}
          />
        </div>
        <div className="mt-3 grid grid-cols-[72px_1fr_72px] gap-3">
          <FormField form={form} name="number" label="Number" number placeholder="next" />
          <FormField
            form={form}
            name="name"
            label="Name"
            placeholder={held?.name ?? ''}
            maxLength={120}
          />
          <FormField form={form} name="priority" label="Priority" number />
        </div>
        <div className="mt-3 grid grid-cols-2 gap-3">
          <FormChoice
            form={form}
            name="mode"
            label="It"
            options={optionsOf(modesFor(kind), MODE_WORDS)}
          />
          <FormChoice
            form={form}
            name="flash"
            label="The key under it"
            options={optionsOf(keysFor(kind), KEY_WORDS)}
          />
        </div>
        {hasOthers(draft) && <Others form={form} draft={draft} />}
        <Ways form={form} draft={draft} />
        <p
          className={`mt-2 min-h-5 text-[12.5px] ${'summary' in plan ? 'text-soft' : 'text-warning'}`}
        >
          {'summary' in plan ? '' : plan.message}
        </p>
        <div className="mt-2 flex gap-2">
          {fader && <Delete fader={fader} onDone={onClose} />}
          <span className="ml-auto flex gap-2">
            <Button kind="quiet" onClick={onClose}>
              Not now
            </Button>
            <Button kind="strong" type="submit" disabled={!('summary' in plan)}>
              {fader ? 'Change it' : 'Make it'}
            </Button>
          </span>
        </div>
      </form>
    </Dialog>
  );
}

/** How colour, position and beam of a look come with it. */
function Others({ form, draft }: { form: Form; draft: FaderDraft }) {
  return (
    <div className="mt-3 grid grid-cols-[1fr_72px_88px] items-start gap-3">
      <FormChoice
        form={form}
        name="come"
        label="Colour, position and beam come"
        options={optionsOf(OTHERS_COME, COME_WORDS)}
      />
      {draft.come === 'at' && <FormField form={form} name="at" label="At, percent" number />}
      {draft.come !== 'travel' && (
        <FormField form={form} name="own" label="In, seconds" number placeholder="0" />
      )}
    </div>
  );
}

/** How it comes and goes. */
function Ways({ form, draft }: { form: Form; draft: FaderDraft }) {
  const check = (
    name: 'starts' | 'inTime' | 'releases' | 'keeps',
    words: string,
  ): React.ReactNode => (
    <Check checked={draft[name]} onChange={(on) => form.setValue(name, on)}>
      {words}
    </Check>
  );
  return (
    <div className="mt-2 flex flex-wrap gap-x-5">
      {draft.kind === 'list' && (
        <>
          {check('starts', 'Starts when raised')}
          {draft.starts && check('inTime', 'In the cue’s own time')}
          {check('releases', 'Releases at zero')}
        </>
      )}
      {check('keeps', 'Keeps through release')}
    </div>
  );
}

/** Asks once more, with what goes with it. */
function Delete({ fader, onDone }: { fader: FaderRow; onDone: () => void }) {
  const [asking, setAsking] = useState(false);
  const plan = tryEdit('delete-fader', { id: fader.id });
  return (
    <Button
      kind={asking ? 'danger' : 'quiet'}
      onClick={() => {
        if (!asking) setAsking(true);
        else void edit('delete-fader', { id: fader.id }).then(onDone);
      }}
    >
      {asking && 'summary' in plan ? `${plan.summary.replace('Deleted', 'Delete')}?` : 'Delete …'}
    </Button>
  );
}
