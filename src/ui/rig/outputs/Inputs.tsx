/** Universes of other desks: what is heard of them, whether they are merged into ours, and what they show as values. */
'use client';
import { Trash2 } from 'lucide-react';
import { z } from 'zod';
import type { InputRow } from '@/core/inputs/rows';
import type { InputSeen } from '@/core/live/messages';
import { formatPortAddress, parsePortAddress } from '@/core/output/artnet';
import type { Card } from '@/core/wires/cards';
import { PROTOCOL_NAMES } from '@/core/routes/tables';
import { Button, IconButton } from '../../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../../parts/form';
import { WrittenCell } from '../../parts/WrittenCell';
import { said } from '../../state/commands';
import { edit } from '../../state/edits';
import { ApiError } from '../../state/api';
import { notice } from '../../state/messages';
import { mayEdit, useScreen, useShow } from '../../state/store';

/** `sACN 5`, `Art-Net 0.0.4`. */
function sayPort(port: string): string {
  const [protocol, number = ''] = port.split('/');
  return `${protocol === 'sacn' ? PROTOCOL_NAMES.sacn : PROTOCOL_NAMES.artnet} ${number}`;
}

function saySeen(seen: InputSeen | undefined, on: boolean): { text: string; ink: string } {
  if (!on) return { text: 'off', ink: 'text-dim' };
  if (seen?.problem) return { text: seen.problem, ink: 'text-warning' };
  if (!seen || seen.state === 'silent') return { text: 'nothing heard', ink: 'text-muted' };
  const who = `${seen.from?.name ?? ''}, ${seen.from?.address ?? ''}`;
  return seen.state === 'heard'
    ? { text: who, ink: 'text-lime-word' }
    : { text: `lost, held: ${who}`, ink: 'text-warning' };
}

const put = ({ id, ...set }: InputRow): Promise<unknown> => edit('set-input', { id, set });

/** The card by which it comes, where there are several to choose from. */
function ByCard({ input, disabled }: { input: InputRow; disabled: boolean }) {
  const names = useScreen((s) => s.outputs?.cards ?? NO_CARDS).map((c) => c.name);
  const own = input.card ?? '';
  if (names.length < 2 && own === '') return null;
  return (
    <select
      aria-label={`Card for ${input.name}`}
      disabled={disabled}
      value={own}
      onChange={({ target: { value } }) => {
        const { card, ...rest } = input;
        void card;
        void put(value === '' ? rest : { ...rest, card: value });
      }}
      className="h-7 w-28 rounded bg-transparent pr-1 text-soft hover:bg-ink"
    >
      <option value="">by any card</option>
      {names.map((n) => (
        <option key={n} value={n}>
          by {n}
        </option>
      ))}
      {own !== '' && !names.includes(own) && <option value={own}>by {own}, not here</option>}
    </select>
  );
}
const NO_CARDS: readonly Card[] = [];

function Input({ input, seen }: { input: InputRow; seen: InputSeen | undefined }) {
  const editable = mayEdit(useScreen((s) => s.you.role));
  const { text, ink } = saySeen(seen, input.on);
  const take = async (): Promise<void> => {
    const done = await said({ command: 'take-in', input: input.id });
    if (done.ok)
      notice.done(
        `What “${input.name}” shows is in your programmer: record it as a look or a cue.`,
      );
  };
  return (
    <li data-input={input.id} className="flex flex-col gap-1 border-b border-raised py-1.5">
      <div className="flex items-center gap-2">
        <input
          type="checkbox"
          aria-label={`Receive ${input.name}`}
          checked={input.on}
          disabled={!editable}
          onChange={(e) => void put({ ...input, on: e.target.checked })}
          className="size-4 flex-none accent-[var(--color-lime)]"
        />
        <WrittenCell
          label={`Name of input ${input.name}`}
          value={input.name}
          maxLength={60}
          write={(name) => put({ ...input, name: name.trim() })}
          className="-ml-1.5 w-40 font-medium"
        />
        <span className="num flex-none text-[12.5px] text-soft">
          {sayPort(input.port)} → universe
          <WrittenCell
            label={`Universe of input ${input.name}`}
            value={String(input.universe)}
            write={(text) => put({ ...input, universe: Number(text) })}
            className="num w-12"
          />
        </span>
        <span title={text} className={`min-w-0 flex-1 truncate text-right text-[12.5px] ${ink}`}>
          {text}
        </span>
        {editable && (
          <IconButton
            label={`Delete input ${input.name}`}
            onClick={() => void edit('delete-input', { id: input.id })}
            className="!size-7 flex-none"
          >
            <Trash2 size={13} />
          </IconButton>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-2 pl-6">
        <select
          aria-label={`What ${input.name} does`}
          value={input.merge}
          disabled={!editable}
          onChange={(e) => void put({ ...input, merge: e.target.value as InputRow['merge'] })}
          className="h-7 rounded bg-transparent pr-1 text-soft hover:bg-ink"
        >
          <option value="look">looked at</option>
          <option value="highest">merged, the higher counts</option>
          <option value="follow">followed: we are its backup</option>
        </select>
        <ByCard input={input} disabled={!editable} />
        <span className="flex-1" />
        {input.merge === 'follow' && editable && (
          <Button
            onClick={() => void put({ ...input, merge: 'look' })}
            title="Ours is sent, over two seconds"
          >
            Take over
          </Button>
        )}
        <Button
          disabled={!seen || seen.state === 'silent'}
          onClick={() => void take()}
          title="As values into your programmer"
        >
          Take what it shows
        </Button>
      </div>
    </li>
  );
}

const Draft = z
  .object({
    name: z.string().trim().min(1, 'What is it called?').max(60),
    protocol: z.enum(['sacn', 'artnet']),
    number: z.string().trim().min(1, 'Which universe there?'),
    universe: z
      .string()
      .trim()
      .regex(/^\d{1,3}$/, 'A universe of this show.'),
  })
  .refine(
    (d) =>
      d.protocol === 'sacn' ? /^\d{1,5}$/.test(d.number) : parsePortAddress(d.number) !== undefined,
    { path: ['number'], message: 'sACN: a number. Art-Net: like 0.0.4.' },
  );

function NewInput() {
  const form = useSchemaForm(Draft, { name: '', protocol: 'sacn', number: '', universe: '1' });
  const add = form.handleSubmit(async (d) => {
    const port =
      d.protocol === 'sacn'
        ? `sacn/${Number(d.number)}`
        : `artnet/${formatPortAddress(parsePortAddress(d.number) ?? 0)}`;
    const set = { name: d.name, port, universe: Number(d.universe), merge: 'look', on: true };
    const done = await edit('set-input', { set });
    if (!(done instanceof ApiError)) form.reset();
  });
  return (
    <form className="mt-1 flex flex-wrap items-start gap-2" onSubmit={(e) => void add(e)}>
      <FormField
        form={form}
        name="name"
        label="Another desk"
        className="w-36"
        placeholder="House desk"
      />
      <FormChoice
        form={form}
        name="protocol"
        label="Comes over"
        className="w-28"
        options={Object.entries(PROTOCOL_NAMES).map(([value, label]) => ({ value, label }))}
      />
      <FormField form={form} name="number" label="Number there" number className="w-24" />
      <FormField form={form} name="universe" label="Our universe" number className="w-24" />
      <Button type="submit" className="mt-5">
        Receive it
      </Button>
    </form>
  );
}

/** Universes of other desks that are merged in. */
export function Inputs() {
  const show = useShow();
  const seen = useScreen((s) => s.inputs);
  const revision = useScreen((s) => s.revision);
  void revision;
  const editable = mayEdit(useScreen((s) => s.you.role));
  const inputs = [...show.inputs.values()].sort((a, b) => a.universe - b.universe);
  return (
    <section aria-label="From other desks" className="mt-4">
      <h2 className="cap">From other desks</h2>
      {inputs.length === 0 && (
        <p className="mt-1 text-muted">
          None. A universe that another desk sends can be looked at beside ours, merged into it, or
          taken as values.
        </p>
      )}
      <ul>
        {inputs.map((i) => (
          <Input key={i.id} input={i} seen={seen.find((s) => s.id === i.id)} />
        ))}
      </ul>
      {editable && <NewInput />}
    </section>
  );
}
