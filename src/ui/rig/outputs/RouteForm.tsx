/** Where universes go: one, or a run of them in one line, counted on. */
'use client';
import { z } from 'zod';
import { PROTOCOL_NAMES } from '@/core/routes/tables';
import { Button, Check } from '../../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { edit } from '../../state/edits';
import { ApiError } from '../../state/api';

const RUN = /^(\d{1,5})(?:\s*(?:-|–|thru)\s*(\d{1,5}))?$/;
const NEW_PRIORITY = '100';

const Draft = z
  .object({
    universes: z.string().trim().regex(RUN, 'A universe, or a run like 1-8.'),
    protocol: z.enum(['sacn', 'artnet']),
    to: z.enum(['node', 'multicast', 'nodes', 'broadcast', 'unicast']),
    address: z.string().trim(),
    /** Of the first on the wire; empty: as the universe is counted. */
    wire: z
      .string()
      .trim()
      .regex(/^\d{0,5}$/, 'A whole number.'),
    priority: z
      .string()
      .trim()
      .regex(/^\d{1,3}$/, '0 to 200.'),
    instead: z.boolean(),
    others: z.boolean(),
  })
  .refine((d) => d.to !== 'unicast' || d.address !== '', {
    path: ['address'],
    message: 'To one address: which one?',
  });
type Draft = z.infer<typeof Draft>;

/** Where a universe goes besides one address, by protocol. */
const MANY = {
  sacn: [{ value: 'multicast', label: 'multicast' }],
  artnet: [
    { value: 'nodes', label: 'nodes that ask' },
    { value: 'broadcast', label: 'broadcast' },
  ],
} as const;

/** The number on the wire where none is typed: Art-Net counts its port addresses from 0. */
const usualWire = (protocol: Draft['protocol'], universe: number): number =>
  protocol === 'sacn' ? universe : universe - 1;

/** What is typed, as the edit has it. */
export function runOf(d: Draft): Record<string, unknown> {
  const [, first = '1', last] = RUN.exec(d.universes) ?? [];
  const from = Number(first);
  return {
    from,
    to: Number(last ?? first),
    protocol: d.protocol,
    destination: d.to === 'unicast' ? d.address : d.to,
    wire: d.wire === '' ? usualWire(d.protocol, from) : Number(d.wire),
    priority: Number(d.priority),
    instead: d.instead,
    others: d.others,
  };
}

/** Sends universes somewhere. */
export function RouteForm() {
  const form = useSchemaForm(Draft, {
    universes: '1',
    protocol: 'sacn',
    to: 'node',
    address: '',
    wire: '',
    priority: NEW_PRIORITY,
    instead: false,
    others: false,
  });
  const [protocol, to, instead, others] = form.watch(['protocol', 'to', 'instead', 'others']);
  const send = form.handleSubmit(async (draft) => {
    const params = runOf(draft);
    const done = await edit('map-universes', params);
    if (!(done instanceof ApiError)) form.setValue('universes', String(Number(params.to) + 1));
  });
  return (
    <form className="mt-3" onSubmit={(e) => void send(e)} aria-label="Where universes go">
      <div className="flex flex-wrap items-start gap-2">
        <FormField form={form} name="universes" label="Universe, or 1-8" number className="w-28" />
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
            ...MANY[protocol],
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
        <FormField
          form={form}
          name="wire"
          label="First there"
          number
          className="w-24"
          placeholder={protocol === 'sacn' ? 'the same' : 'one less'}
        />
        {protocol === 'sacn' && (
          <FormField form={form} name="priority" label="Priority" number className="w-20" />
        )}
        <Button type="submit" className="mt-5">
          Send them there
        </Button>
      </div>
      <div className="flex flex-wrap gap-x-5">
        <Check checked={instead} onChange={(on) => form.setValue('instead', on)}>
          Instead of where they go over {PROTOCOL_NAMES[protocol]} now
        </Check>
        <Check checked={others} onChange={(on) => form.setValue('others', on)}>
          Universes that are patched later go the same way
        </Check>
      </div>
    </form>
  );
}
