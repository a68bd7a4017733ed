/** A new route: which universe, over which protocol, where to. */
'use client';
import { Plus } from 'lucide-react';
import { z } from 'zod';
import { PROTOCOL_NAMES } from '@/core/routes/tables';
import { Button } from '../../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { edit } from '../../state/actions';
import { ApiError } from '../../state/api';

const Draft = z
  .object({
    universe: z
      .string()
      .trim()
      .regex(/^\d{1,5}$/, 'A universe is a whole number.')
      .transform(Number),
    protocol: z.enum(['sacn', 'artnet']),
    to: z.enum(['node', 'multicast', 'broadcast', 'unicast']),
    address: z.string().trim(),
  })
  .refine((d) => d.to !== 'unicast' || d.address !== '', {
    path: ['address'],
    message: 'To one address: which one?',
  });

/** Where a universe goes besides one address, by protocol. */
const MANY = {
  sacn: { value: 'multicast', label: 'multicast' },
  artnet: { value: 'broadcast', label: 'broadcast' },
} as const;
const NEW_PRIORITY = 100;

export function RouteForm() {
  const form = useSchemaForm(Draft, { universe: '1', protocol: 'sacn', to: 'node', address: '' });
  const [protocol, to] = form.watch(['protocol', 'to']);
  const add = form.handleSubmit(async ({ universe, protocol: over, to: where, address }) => {
    const done = await edit('set-route', {
      set: {
        universe,
        protocol: over,
        destination: where === 'unicast' ? address : where,
        // Art-Net counts its port addresses from 0.
        wire: over === 'sacn' ? universe : universe - 1,
        priority: NEW_PRIORITY,
        on: true,
      },
    });
    if (!(done instanceof ApiError)) form.setValue('universe', String(universe + 1));
  });
  return (
    <form className="mt-3 flex flex-wrap items-start gap-2" onSubmit={(e) => void add(e)}>
      <FormField form={form} name="universe" label="Universe" number className="w-20" />
      <FormChoice
        form={form}
        name="protocol"
        label="Over"
        className="w-28"
        options={Object.entries(PROTOCOL_NAMES).map(([value, label]) => ({ value, label }))}
        onInput={() => form.setValue('to', 'node')}
      />
      <FormChoice
        form={form}
        name="to"
        label="To"
        className="w-40"
        options={[
          { value: 'node', label: 'simulated node' },
          MANY[protocol],
          { value: 'unicast', label: 'one address' },
        ]}
      />
      {to === 'unicast' && (
        <FormField
          form={form}
          name="address"
          label="IPv4 address"
          number
          className="w-36"
          placeholder="10.0.0.20"
        />
      )}
      <Button type="submit" className="mt-5">
        <Plus size={14} /> Add
      </Button>
    </form>
  );
}
