/** The functions of one channel, as ranges of its raw values with named sets. */
'use client';
import { Trash2 } from 'lucide-react';
import { topOf } from '@/core/rig/channel';
import type { Channel, ChannelFunction } from '@/core/types/rows';
import { IconButton } from '../parts/controls';
import { Cell, maybe, number } from './TypeCell';

type Set = NonNullable<ChannelFunction['sets']>[number];

/** Says of a path of the type whether something is wrong there. */
export type Bad = (path: string) => boolean;

const changed = <T,>(all: readonly T[], at: number, fields: Partial<T>): T[] =>
  all.map((one, i) => (i === at ? { ...one, ...fields } : one));
const without = <T,>(all: readonly T[], at: number): T[] => all.filter((_, i) => i !== at);

/** What a channel does, from value to value. */
export function Functions({
  channel,
  bad,
  path,
  onChange,
}: {
  channel: Channel;
  path: string;
  bad: Bad;
  onChange: (functions: ChannelFunction[]) => void;
}) {
  const functions = channel.functions ?? [];
  const top = topOf(channel);
  const add = (): void => {
    const from = Math.min(top, Math.max(-1, ...functions.map((f) => f.to)) + 1);
    const name = `Function ${functions.length + 1}`;
    onChange([...functions, { name, from, to: top, physicalFrom: 0, physicalTo: 1 }]);
  };
  return (
    <div className="col-span-full mb-2 ml-8 rounded-md bg-well p-2">
      {functions.length > 0 && (
        <div className="mb-1 grid grid-cols-[1fr_72px_72px_72px_72px_82px] gap-1.5 text-[11.5px] text-muted">
          <span>Function, and named ranges in it</span>
          <span>From</span>
          <span>To</span>
          <span>Means, from</span>
          <span>to</span>
        </div>
      )}
      {functions.length === 0 && (
        <p className="text-[12px] text-muted">
          One function over the whole channel, 0 to {top}. Add some when parts of it do different
          things.
        </p>
      )}
      {functions.map((f, i) => (
        <OneFunction
          key={i}
          of={f}
          path={`${path}.functions.${i}`}
          bad={bad}
          onChange={(fields) => onChange(changed(functions, i, fields))}
          onRemove={() => onChange(without(functions, i))}
        />
      ))}
      <button
        type="button"
        className="mt-1 h-7 text-[12px] text-standby hover:underline"
        onClick={add}
      >
        Add a function
      </button>
    </div>
  );
}

function OneFunction({
  of: f,
  path,
  bad,
  onChange,
  onRemove,
}: {
  of: ChannelFunction;
  path: string;
  bad: Bad;
  onChange: (fields: Partial<ChannelFunction>) => void;
  onRemove: () => void;
}) {
  const sets = f.sets ?? [];
  const last = sets.at(-1);
  const addRange = (): void => {
    const from = last ? Math.min(last.to + 1, f.to) : f.from;
    onChange({ sets: [...sets, { name: `Range ${sets.length + 1}`, from, to: f.to }] });
  };
  return (
    <div className="mb-1">
      <div className="grid grid-cols-[1fr_72px_72px_72px_72px_82px] items-center gap-1.5">
        <Cell
          label="Function"
          text
          value={f.name}
          onChange={(name) => onChange({ name })}
          bad={f.name.trim() === ''}
        />
        <Cell
          label="From value"
          value={f.from}
          bad={bad(`${path}.from`)}
          onChange={(t) => onChange({ from: number(t) })}
        />
        <Cell
          label="To value"
          value={f.to}
          bad={bad(`${path}.to`)}
          onChange={(t) => onChange({ to: number(t) })}
        />
        <Cell
          label="Physical at its start"
          value={f.physicalFrom}
          onChange={(t) => onChange({ physicalFrom: number(t) })}
        />
        <Cell
          label="Physical at its end"
          value={f.physicalTo}
          onChange={(t) => onChange({ physicalTo: number(t) })}
        />
        <span className="flex">
          <button
            type="button"
            title="Add a named range in it"
            className="h-7 rounded px-1.5 text-[11.5px] whitespace-nowrap text-muted hover:text-soft"
            onClick={addRange}
          >
            + range
          </button>
          <IconButton label={`Remove ${f.name}`} className="!size-7" onClick={onRemove}>
            <Trash2 size={12} />
          </IconButton>
        </span>
      </div>
      {sets.map((s, j) => (
        <Range
          key={j}
          of={s}
          bad={bad(`${path}.sets.${j}`)}
          onChange={(fields) => onChange({ sets: changed(sets, j, fields) })}
          onRemove={() => onChange({ sets: without(sets, j) })}
        />
      ))}
    </div>
  );
}

/** A named range in a function. */
function Range({
  of: s,
  bad,
  onChange,
  onRemove,
}: {
  of: Set;
  bad: boolean;
  onChange: (fields: Partial<Set>) => void;
  onRemove: () => void;
}) {
  return (
    <div className="mt-1 ml-6 grid grid-cols-[1fr_72px_72px_72px_152px] items-center gap-1.5">
      <Cell label="Named range" text value={s.name} onChange={(name) => onChange({ name })} />
      <Cell
        label="Range from"
        value={s.from}
        bad={bad}
        onChange={(t) => onChange({ from: number(t) })}
      />
      <Cell label="Range to" value={s.to} bad={bad} onChange={(t) => onChange({ to: number(t) })} />
      <Cell
        label="Wheel slot that it brings in"
        value={s.slot ?? ''}
        onChange={(t) => onChange({ slot: maybe(t) })}
      />
      <IconButton label={`Remove ${s.name}`} className="!size-7" onClick={onRemove}>
        <Trash2 size={12} />
      </IconButton>
    </div>
  );
}
