/** A sheet's own: its name, what it is for, its size. */
'use client';
import { z } from 'zod';
import { ROLES, type Role } from '@/core/roles';
import { STEPS, type SheetRow } from '@/core/sheets/rows';
import { Check, Dialog } from '../parts/controls';
import { FormField, useSchemaForm } from '../parts/form';
import { edit } from '../state/edits';
import { Foot } from '../parts/Foot';

const steps = z
  .string()
  .trim()
  .refine(
    (t) => /^\d+$/.test(t) && Number(t) >= STEPS.least && Number(t) <= STEPS.most,
    `From ${STEPS.least} to ${STEPS.most} steps.`,
  );
const Draft = z.object({
  name: z.string().trim().min(1, 'It needs a name.').max(120),
  about: z.string().trim().max(120),
  columns: steps,
  rows: steps,
  given: z.array(z.enum(ROLES)),
});
const GIVEN: readonly { role: Role; label: string }[] = [
  { role: 'volunteer', label: 'Volunteers' },
  { role: 'operator', label: 'Operators' },
  { role: 'viewer', label: 'Viewers' },
  { role: 'programmer', label: 'Programmers' },
];

type SheetForm = ReturnType<typeof useSchemaForm<typeof Draft>>;

/** Whole roles; single people have their sheets in Crew. */
function GivenTo({ form }: { form: SheetForm }) {
  const given = form.watch('given');
  const put = (role: Role, on: boolean): void =>
    form.setValue('given', on ? [...given, role] : given.filter((r) => r !== role));
  return (
    <fieldset>
      <legend className="text-[12.5px] text-soft">Given to all</legend>
      <div className="mt-1.5 flex flex-wrap gap-x-4 gap-y-1">
        {GIVEN.map(({ role, label }) => (
          <Check key={role} checked={given.includes(role)} onChange={(on) => put(role, on)}>
            {label}
          </Check>
        ))}
      </div>
      <p className="mt-1 text-[12px] leading-4 text-muted">
        Volunteers then have it; for the others it is the sheet that opens first. To give it to one
        person, open Crew.
      </p>
    </fieldset>
  );
}

/** A sheet’s name, what it is for, and its size. */
export function SheetDialog({ sheet, onClose }: { sheet: SheetRow; onClose: () => void }) {
  const form = useSchemaForm(Draft, {
    name: sheet.name,
    about: sheet.about ?? '',
    columns: String(sheet.columns),
    rows: String(sheet.rows),
    given: sheet.given ?? [],
  });
  const save = form.handleSubmit(async ({ name, about, columns, rows, given }) => {
    const size = { columns: Number(columns), rows: Number(rows) };
    const set = {
      name,
      ...(about === '' ? {} : { about }),
      ...size,
      ...(given.length === 0 ? {} : { given }),
    };
    const answer = await edit('set-sheet', { id: sheet.id, set });
    if ('changes' in answer) onClose();
    else form.setError('name', { message: answer.fields?.name ?? answer.message });
  });
  return (
    <Dialog
      of={`sheets/${sheet.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Sheet “${sheet.name}”`}
      width="w-[440px]"
    >
      <form onSubmit={(e) => void save(e)} className="space-y-3">
        <FormField form={form} name="name" label="Name" maxLength={120} />
        <FormField form={form} name="about" label="What it is for" maxLength={120} />
        <div className="grid grid-cols-2 gap-3">
          <FormField form={form} name="columns" label="Steps across" number />
          <FormField form={form} name="rows" label="Steps down" number />
        </div>
        <GivenTo form={form} />
        <Foot onLeave={onClose} act="Change it" />
      </form>
    </Dialog>
  );
}
