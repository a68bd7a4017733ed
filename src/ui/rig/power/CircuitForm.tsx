/** A new circuit: its name, breaker and phase. */
'use client';
import { Plus } from 'lucide-react';
import { z } from 'zod';
import { Button } from '../../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { edit } from '../../state/edits';

const Draft = z.object({
  name: z.string().trim().min(1, 'A circuit has a name: D1.').max(120),
  breaker: z.coerce.number<string>('A breaker is a number of ampere.').positive(),
  phase: z.coerce.number<string>(),
});
const PHASES = ['1', '2', '3'].map((p) => ({ value: p, label: p }));

/** Makes a circuit. */
export function CircuitForm() {
  const form = useSchemaForm(Draft, { name: '', breaker: '16', phase: '1' });
  const [name, breaker] = form.watch(['name', 'breaker']);
  const add = form.handleSubmit(async ({ name: circuit, breaker: breaker_A, phase }) => {
    const answer = await edit('set-circuit', { set: { name: circuit, breaker_A, phase } });
    if ('seq' in answer) form.resetField('name');
  });
  return (
    <form
      className="mt-3 grid grid-cols-[1fr_90px_90px_auto] items-end gap-2"
      onSubmit={(e) => void add(e)}
    >
      <FormField form={form} name="name" label="New circuit" maxLength={120} placeholder="D1" />
      <FormField form={form} name="breaker" label="Breaker, A" number />
      <FormChoice form={form} name="phase" label="Phase" options={PHASES} />
      <Button type="submit" disabled={name.trim() === '' || !(Number(breaker) > 0)}>
        <Plus size={14} /> Add
      </Button>
    </form>
  );
}
