/** How a list plays, a new list, and the end of one. */
'use client';
import { useState } from 'react';
import type { UseFormReturn } from 'react-hook-form';
import { willDo } from '@/core/edits/will';
import { DIRECTIONS, type ListRow } from '@/core/lists/rows';
import { Button, Check } from '../../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { edit, tryEdit } from '../../state/edits';
import { useBook, useBookList } from '../../state/book';
import { useShow } from '../../state/store';
import { draftOf, ListDraft, setOf } from './list-draft';
import { close, Planned } from './Planned';

type Form = UseFormReturn<ListDraft, unknown, ListDraft>;

const MEETS = [
  { value: 'htp', label: 'The highest of all playbacks (HTP)' },
  { value: 'ltp', label: 'The latest to act (LTP)' },
] as const;
const ENDS = [
  { value: 'stop', label: 'It stays' },
  { value: 'loop', label: 'It begins again' },
  { value: 'release', label: 'It is released' },
] as const;
const WAYS: Record<(typeof DIRECTIONS)[number], string> = {
  forward: 'Forward',
  back: 'Back',
  bounce: 'There and back',
  random: 'At random',
};

/** What a list is called and how it goes; a new one is made. */
export function ListSettings({ fresh }: { fresh: boolean }) {
  const show = useShow();
  const { list } = useBookList();
  const was: Partial<ListRow> = fresh ? {} : (list ?? {});
  const form = useSchemaForm(ListDraft, draftOf(was));
  const read = ListDraft.safeParse(form.watch());
  const params = (d: ListDraft): unknown =>
    fresh
      ? { name: d.name, set: setOf(d, was) }
      : { id: list?.id, set: { name: d.name, ...setOf(d, was) } };
  return (
    <Planned
      title={fresh ? 'New list' : `How “${list?.name}” plays`}
      name={fresh ? 'make-list' : 'change-list'}
      params={read.success ? params(read.data) : null}
      act={fresh ? 'Make it' : 'Change it'}
      width="w-[560px]"
      onDone={() =>
        fresh &&
        read.success &&
        useBook.setState({
          listId: [...show.lists.values()].find((l) => l.name === read.data.name)?.id ?? null,
          follow: true,
        })
      }
    >
      <div className="grid grid-cols-[1fr_88px_88px] gap-3">
        <FormField form={form} name="name" label="Name" autoFocus maxLength={120} />
        <FormField form={form} name="back" label="Back, s" number />
        <FormField form={form} name="release" label="Release, s" number />
      </div>
      <div className="mt-3 grid grid-cols-[1fr_88px_1fr] gap-3">
        <FormChoice form={form} name="intensity" label="Intensity" options={MEETS} />
        <FormField form={form} name="priority" label="Priority" number />
        <FormChoice form={form} name="atEnd" label="At its end" options={ENDS} />
      </div>
      <Ways form={form} />
      {form.watch('chases') && <ChaseFields form={form} />}
      {!fresh && list && <DeleteList list={list} />}
    </Planned>
  );
}

function Ways({ form }: { form: Form }) {
  const check = (name: 'tracking' | 'keeps' | 'pre' | 'chases', words: string): React.ReactNode => (
    <Check checked={form.watch(name)} onChange={(on) => form.setValue(name, on)}>
      {words}
    </Check>
  );
  return (
    <div className="mt-2 grid grid-cols-2 gap-x-3">
      {check('tracking', 'Cues track; else each is complete')}
      {check('keeps', 'Keeps through release')}
      {check('pre', 'Dark heads move in the cue before')}
      {check('chases', 'Runs as a chase')}
    </div>
  );
}

function ChaseFields({ form }: { form: Form }) {
  return (
    <div className="mt-2 grid grid-cols-4 gap-3">
      <FormField form={form} name="bpm" label="Steps a minute" number />
      <FormField form={form} name="share" label="Fade, % of step" number />
      <FormChoice
        form={form}
        name="direction"
        label="Direction"
        options={DIRECTIONS.map((value) => ({ value, label: WAYS[value] }))}
      />
      <FormField form={form} name="count" label="Rounds" number placeholder="on and on" />
    </div>
  );
}

/** Asks once more, with what goes with it. */
function DeleteList({ list }: { list: ListRow }) {
  const [sure, setSure] = useState(false);
  const plan = tryEdit('delete-list', { id: list.id });
  return (
    <div className="mt-3 border-t border-line pt-2.5">
      {sure && (
        <p className="pb-2 text-[12.5px] text-soft">
          {'summary' in plan ? `${willDo(plan.summary)}.` : plan.message}
        </p>
      )}
      <Button
        kind={sure ? 'danger' : 'quiet'}
        disabled={sure && !('summary' in plan)}
        onClick={() => {
          if (!sure) {
            setSure(true);
            return;
          }
          close();
          useBook.setState({ listId: null, cueId: null, chosen: [] });
          void edit('delete-list', { id: list.id });
        }}
      >
        {sure ? 'Delete the list and its cues' : 'Delete this list …'}
      </Button>
    </div>
  );
}
