/** An occasion as it is typed: what it does, when, on which days and between which dates. */
'use client';
import { z } from 'zod';
import { formatCueNumber } from '@/core/cues/number';
import type { OccasionRow } from '@/core/occasions/rows';
import { OCCASION_DOES, SUN } from '@/core/occasions/rows';
import { WEEKDAYS } from '@/core/occasions/words';
import { rowsByNumber } from '@/core/show/numbered';
import { FormChoice, FormField, useSchemaForm } from '../../../parts/form';
import { edit } from '../../../state/edits';
import { useShow } from '../../../state/store';
import { DOES_WORDS } from './words';
import { Foot } from '../../../parts/Foot';

const MOST_MIN = 720;
/** `19:30` and `19:30:00` are meant alike. */
const withSeconds = (time: string): string =>
  /^\d\d?:\d\d$/.test(time) ? `${time.padStart(5, '0')}:00` : time.padStart(8, '0');
const TIME = /^(?:[01]\d|2[0-3]):[0-5]\d:[0-5]\d$/;

const Draft = z
  .object({
    name: z.string().trim().max(120),
    does: z.enum(OCCASION_DOES),
    list: z.string().min(1, 'Say which list.'),
    cue: z.string(),
    by: z.enum(['clock', ...SUN]),
    time: z.string().trim().transform(withSeconds),
    plus: z.string().trim(),
    days: z.array(z.number()),
    from: z.string(),
    to: z.string(),
  })
  .superRefine((d, ctx) => {
    const wrong = (path: string, message: string): void =>
      ctx.addIssue({ code: 'custom', path: [path], message });
    if (d.by === 'clock' && !TIME.test(d.time)) wrong('time', 'Like 19:30 or 19:30:15.');
    const plus = Number(d.plus);
    if (d.by !== 'clock' && (!Number.isInteger(plus) || Math.abs(plus) > MOST_MIN))
      wrong('plus', `Minutes, from −${MOST_MIN} to ${MOST_MIN}.`);
    if (d.does === 'goto' && d.cue === '') wrong('cue', 'Say which cue.');
    if (d.from !== '' && d.to !== '' && d.to < d.from) wrong('to', 'It ends before it begins.');
  });
type OccasionDraft = z.output<typeof Draft>;

function firstDraft(o: OccasionRow | null, firstList: string): z.input<typeof Draft> {
  const at = o?.at;
  return {
    name: o?.name ?? '',
    does: o?.does ?? 'go',
    list: o?.list ?? firstList,
    cue: o?.cue ?? '',
    by: at?.by === 'sun' ? at.event : 'clock',
    time: at?.by === 'clock' ? at.time.replace(/:00$/, '') : '19:30',
    plus: at?.by === 'sun' ? String(at.plus_min) : '0',
    days: [...(o?.days ?? [])],
    from: o?.from ?? '',
    to: o?.to ?? '',
  };
}

/** As the calendar keeps it: days and dates only where they are not all. */
function occasionOf(d: OccasionDraft, on: boolean): Omit<OccasionRow, 'id' | 'number' | 'skipped'> {
  const isSome = d.days.length > 0 && d.days.length < WEEKDAYS.length;
  return {
    name: d.name || (d.by === 'clock' ? d.time : d.by),
    list: d.list,
    does: d.does,
    on,
    at:
      d.by === 'clock'
        ? { by: 'clock', time: d.time }
        : { by: 'sun', event: d.by, plus_min: Number(d.plus) },
    ...(d.does === 'goto' ? { cue: d.cue } : {}),
    ...(isSome ? { days: [...d.days].sort() } : {}),
    ...(d.from === '' ? {} : { from: d.from }),
    ...(d.to === '' ? {} : { to: d.to }),
  };
}

function useOccasionForm(occasion: OccasionRow | null, onDone: () => void) {
  const lists = rowsByNumber(useShow().lists);
  const form = useSchemaForm(Draft, firstDraft(occasion, lists[0]?.id ?? ''));
  const save = form.handleSubmit(async (d) => {
    const answer = await edit('set-occasion', {
      ...(occasion ? { id: occasion.id } : {}),
      set: occasionOf(d, occasion?.on ?? true),
    });
    if ('changes' in answer) onDone();
    else form.setError('name', { message: answer.message });
  });
  return { form, save };
}
type Form = ReturnType<typeof useOccasionForm>['form'];

/** Which list it plays, and how; its cues, where it goes to one of them. */
function Does({ form }: { form: Form }) {
  const show = useShow();
  const [does, list] = form.watch(['does', 'list']);
  return (
    <div className="grid grid-cols-3 gap-2">
      <FormChoice
        form={form}
        name="does"
        label="What it does"
        options={OCCASION_DOES.map((d) => ({ value: d, label: DOES_WORDS[d] }))}
      />
      <FormChoice
        form={form}
        name="list"
        label="List"
        options={rowsByNumber(show.lists).map((l) => ({ value: l.id, label: l.name }))}
      />
      {does === 'goto' && (
        <FormChoice
          form={form}
          name="cue"
          label="Cue"
          options={[
            { value: '', label: 'which cue?' },
            ...show.cuesOf(list).map((c) => ({
              value: c.id,
              label: `${formatCueNumber(c.number)} ${c.name}`,
            })),
          ]}
        />
      )}
    </div>
  );
}

/** By the time of day or with the sun, and between which dates. */
function When({ form }: { form: Form }) {
  const by = form.watch('by');
  return (
    <div className="grid grid-cols-4 gap-2">
      <FormChoice
        form={form}
        name="by"
        label="When"
        options={[
          { value: 'clock', label: 'at a time of day' },
          ...SUN.map((s) => ({ value: s, label: `at ${s}` })),
        ]}
      />
      {by === 'clock' ? (
        <FormField form={form} name="time" label="Time of day" number />
      ) : (
        <FormField form={form} name="plus" label="Minutes after it" number />
      )}
      <FormField form={form} name="from" label="From, the first day" type="date" />
      <FormField form={form} name="to" label="To, the last day" type="date" />
    </div>
  );
}

function Days({ form }: { form: Form }) {
  const days = form.watch('days');
  return (
    <div role="group" aria-label="On these days; none chosen is every day" className="flex gap-1">
      {WEEKDAYS.map((d, i) => (
        <button
          key={d}
          type="button"
          aria-pressed={days.includes(i)}
          onClick={() =>
            form.setValue('days', days.includes(i) ? days.filter((n) => n !== i) : [...days, i])
          }
          className="h-8 rounded-md bg-ink px-2 text-[12.5px] text-muted aria-pressed:bg-standby-wash aria-pressed:text-standby"
        >
          {d}
        </button>
      ))}
    </div>
  );
}

/** @param occasion null for a new one */
export function OccasionForm({
  occasion,
  onDone,
}: {
  occasion: OccasionRow | null;
  onDone: () => void;
}) {
  const { form, save } = useOccasionForm(occasion, onDone);
  return (
    <form
      className="space-y-2 rounded-lg bg-raised p-3"
      data-of={occasion ? `occasions/${occasion.id}` : undefined}
      onSubmit={(e) => void save(e)}
    >
      <FormField
        form={form}
        name="name"
        label="Name"
        autoFocus
        maxLength={120}
        placeholder="Foyer in the evening"
      />
      <Does form={form} />
      <When form={form} />
      <Days form={form} />
      <Foot onLeave={onDone} act={occasion ? 'Change it' : 'Make it'} />
    </form>
  );
}
