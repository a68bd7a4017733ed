/** One mode of a type: its channels, and what parts of each channel do. */
'use client';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { attributeInfo, attributeMeant, isStandard, KNOWN_ATTRIBUTES } from '@/core/rig/attributes';
import { topOf } from '@/core/rig/channel';
import type { TypeProblem } from '@/core/rig/check-type';
import { mode as makeMode } from '@/core/rig/make-type';
import type { Channel, ChannelFunction, Mode } from '@/core/types/rows';
import { Button, Check, Field, IconButton } from '../parts/controls';
import { BOX, Cell, number, type Draft } from './TypeCell';

/** `1` or `1, 2` for a channel's places. */
const offsets = (text: string): number[] =>
  text
    .split(/[,\s]+/)
    .filter((t) => t !== '')
    .map((t) => Number(t));

/** The functions of one channel, as ranges of its raw values with named sets. */
function Functions({
  channel,
  bad,
  path,
  onChange,
}: {
  channel: Channel;
  path: string;
  bad: (path: string) => boolean;
  onChange: (functions: ChannelFunction[]) => void;
}) {
  const functions = channel.functions ?? [];
  const top = topOf(channel);
  const put = (i: number, fields: Partial<ChannelFunction>): void =>
    onChange(functions.map((f, k) => (k === i ? { ...f, ...fields } : f)));
  const next = Math.min(top, Math.max(-1, ...functions.map((f) => f.to)) + 1);
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
        <div key={i} className="mb-1">
          <div className="grid grid-cols-[1fr_72px_72px_72px_72px_82px] items-center gap-1.5">
            <Cell
              label="Function"
              text
              value={f.name}
              onChange={(name) => put(i, { name })}
              bad={f.name.trim() === ''}
            />
            <Cell
              label="From value"
              value={f.from}
              bad={bad(`${path}.functions.${i}.from`)}
              onChange={(t) => put(i, { from: number(t) })}
            />
            <Cell
              label="To value"
              value={f.to}
              bad={bad(`${path}.functions.${i}.to`)}
              onChange={(t) => put(i, { to: number(t) })}
            />
            <Cell
              label="Physical at its start"
              value={f.physicalFrom}
              onChange={(t) => put(i, { physicalFrom: number(t) })}
            />
            <Cell
              label="Physical at its end"
              value={f.physicalTo}
              onChange={(t) => put(i, { physicalTo: number(t) })}
            />
            <span className="flex">
              <button
                type="button"
                title="Add a named range in it"
                className="h-7 rounded px-1.5 text-[11.5px] whitespace-nowrap text-muted hover:text-soft"
                onClick={() =>
                  put(i, {
                    sets: [
                      ...(f.sets ?? []),
                      {
                        name: `Range ${(f.sets?.length ?? 0) + 1}`,
                        from: f.sets?.at(-1) ? (f.sets.at(-1)?.to ?? 0) + 1 : f.from,
                        to: f.to,
                      },
                    ],
                  })
                }
              >
                + range
              </button>
              <IconButton
                label={`Remove ${f.name}`}
                className="!size-7"
                onClick={() => onChange(functions.filter((_, k) => k !== i))}
              >
                <Trash2 size={12} />
              </IconButton>
            </span>
          </div>
          {f.sets?.map((s, j) => {
            const putSet = (fields: Partial<typeof s>): void =>
              put(i, { sets: f.sets?.map((x, k) => (k === j ? { ...x, ...fields } : x)) ?? [] });
            return (
              <div
                key={j}
                className="mt-1 ml-6 grid grid-cols-[1fr_72px_72px_72px_152px] items-center gap-1.5"
              >
                <Cell
                  label="Named range"
                  text
                  value={s.name}
                  onChange={(name) => putSet({ name })}
                />
                <Cell
                  label="Range from"
                  value={s.from}
                  bad={bad(`${path}.functions.${i}.sets.${j}`)}
                  onChange={(t) => putSet({ from: number(t) })}
                />
                <Cell
                  label="Range to"
                  value={s.to}
                  bad={bad(`${path}.functions.${i}.sets.${j}`)}
                  onChange={(t) => putSet({ to: number(t) })}
                />
                <Cell
                  label="Wheel slot that it brings in"
                  value={s.slot ?? ''}
                  onChange={(t) => putSet({ slot: t.trim() === '' ? undefined : number(t) })}
                />
                <IconButton
                  label={`Remove ${s.name}`}
                  className="!size-7"
                  onClick={() => put(i, { sets: f.sets?.filter((_, k) => k !== j) ?? [] })}
                >
                  <Trash2 size={12} />
                </IconButton>
              </div>
            );
          })}
        </div>
      ))}
      <button
        type="button"
        className="mt-1 h-7 text-[12px] text-standby hover:underline"
        onClick={() =>
          onChange([
            ...functions,
            {
              name: `Function ${functions.length + 1}`,
              from: next,
              to: top,
              physicalFrom: 0,
              physicalTo: 1,
            },
          ])
        }
      >
        Add a function
      </button>
    </div>
  );
}

export function ModeTable({
  draft,
  index,
  problems,
  onChange,
}: {
  draft: Draft;
  index: number;
  problems: readonly TypeProblem[];
  onChange: (mode: Mode) => void;
}) {
  const mode = draft.modes[index];
  const [open, setOpen] = useState<number | null>(null);
  if (!mode) return null;
  const bad = (path: string): boolean => problems.some((p) => p.path === path);
  const put = (i: number, fields: Partial<Channel>): void =>
    onChange({
      ...mode,
      channels: mode.channels.map((c, k) => (k === i ? { ...c, ...fields } : c)),
    });
  /** A plain word becomes the standard's attribute, with what that is by default; a place and a resolution that were said stay. */
  const name = (i: number): void => {
    const channel = mode.channels[i];
    const attribute = attributeMeant(channel?.attribute ?? '');
    if (!channel || attribute === channel.attribute) return;
    const usual = makeMode('x', [attribute]).channels[0];
    put(i, {
      attribute,
      ...(usual && KNOWN_ATTRIBUTES.includes(attribute)
        ? { default: usual.default, physicalFrom: usual.physicalFrom, physicalTo: usual.physicalTo }
        : {}),
    });
  };
  const move = (i: number, by: number): void => {
    const channels = [...mode.channels];
    const [moved] = channels.splice(i, 1);
    if (moved) channels.splice(i + by, 0, moved);
    onChange({ ...mode, channels });
  };
  const add = (): void => {
    const free =
      KNOWN_ATTRIBUTES.find((a) => !mode.channels.some((c) => c.attribute === a)) ?? 'Control1';
    const at = Math.max(0, ...mode.channels.flatMap((c) => c.offset)) + 1;
    const fresh = makeMode('x', [free]).channels[0];
    if (fresh)
      onChange({
        ...mode,
        footprint: Math.max(mode.footprint, at),
        channels: [...mode.channels, { ...fresh, offset: [at] }],
      });
  };
  return (
    <div>
      <div className="grid grid-cols-[1fr_96px] gap-3">
        <Field
          label="Mode"
          value={mode.name}
          maxLength={120}
          onChange={(e) => onChange({ ...mode, name: e.target.value })}
          problem={problems.find((p) => p.path === `modes.${index}.name`)?.message}
        />
        <Field
          label="Channels"
          number
          value={String(mode.footprint)}
          onChange={(e) => onChange({ ...mode, footprint: number(e.target.value) })}
          problem={bad(`modes.${index}.footprint`) ? ' ' : undefined}
        />
      </div>
      <div className="mt-3 grid grid-cols-[22px_minmax(120px,1.4fr)_74px_60px_60px_64px_64px_44px_92px] items-center gap-x-1.5 gap-y-1 text-[12px] text-muted">
        <span />
        <span>Attribute</span>
        <span title="Coarse, fine, ultra fine: 1 or 1, 2">Channel</span>
        <span>Default %</span>
        <span title="While it is highlighted">Lit, %</span>
        <span>From</span>
        <span>To</span>
        <span>Snap</span>
        <span />
        {mode.channels.map((c, i) => {
          const path = `modes.${index}.channels.${i}`;
          return (
            <div key={i} className="contents">
              <button
                type="button"
                aria-label={`Functions of ${attributeInfo(c.attribute).label}`}
                aria-expanded={open === i}
                title="What parts of the channel do"
                onClick={() => setOpen(open === i ? null : i)}
                className={`grid size-5 place-items-center rounded text-[11px] ${(c.functions?.length ?? 0) > 0 ? 'text-text' : 'text-faint'} hover:bg-raised`}
              >
                {open === i ? '−' : '+'}
              </button>
              <input
                list="attributes"
                aria-label={`Attribute of channel ${i + 1}`}
                value={c.attribute}
                onChange={(e) => put(i, { attribute: e.target.value })}
                onBlur={() => name(i)}
                onKeyDown={(e) => e.key === 'Enter' && (e.preventDefault(), name(i))}
                className={`${BOX} ${bad(`${path}.attribute`) ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`}
              />
              <Cell
                label={`Places of ${c.attribute}`}
                text
                value={c.offset.map((o) => (Number.isNaN(o) ? '' : o)).join(', ')}
                bad={bad(`${path}.offset`) || c.offset.length === 0}
                onChange={(t) => put(i, { offset: offsets(t) })}
              />
              <Cell
                label={`Default of ${c.attribute}`}
                value={Math.round(c.default * 1000) / 10}
                bad={problems.some((p) => p.path === `${path}.default`)}
                onChange={(t) => put(i, { default: number(t) / 100 })}
              />
              <Cell
                label={`Highlight of ${c.attribute}`}
                value={c.highlight === undefined ? '' : Math.round(c.highlight * 1000) / 10}
                onChange={(t) =>
                  put(i, { highlight: t.trim() === '' ? undefined : number(t) / 100 })
                }
              />
              <Cell
                label={`Physical start of ${c.attribute}`}
                value={c.physicalFrom}
                onChange={(t) => put(i, { physicalFrom: number(t) })}
              />
              <Cell
                label={`Physical end of ${c.attribute}`}
                value={c.physicalTo}
                onChange={(t) => put(i, { physicalTo: number(t) })}
              />
              <Check
                label={`${c.attribute} snaps`}
                checked={c.snap !== undefined && c.snap !== false}
                onChange={(snap) => put(i, { snap: snap || undefined })}
              />
              <span className="flex">
                <IconButton
                  label="Up"
                  className="!size-7"
                  disabled={i === 0}
                  onClick={() => move(i, -1)}
                >
                  <ArrowUp size={12} />
                </IconButton>
                <IconButton
                  label="Down"
                  className="!size-7"
                  disabled={i === mode.channels.length - 1}
                  onClick={() => move(i, 1)}
                >
                  <ArrowDown size={12} />
                </IconButton>
                <IconButton
                  label={`Remove ${c.attribute}`}
                  className="!size-7"
                  onClick={() =>
                    onChange({ ...mode, channels: mode.channels.filter((_, k) => k !== i) })
                  }
                >
                  <Trash2 size={12} />
                </IconButton>
              </span>
              {c.attribute.trim() !== '' && !isStandard(attributeMeant(c.attribute)) && (
                <p role="note" className="col-span-full -mt-0.5 ml-7 text-[12px] text-warning">
                  “{c.attribute}” is no attribute of the standard: the channel is sent, but nothing
                  here knows what it does. Type its plain word, such as Red, Zoom or Strobe, or pick
                  one of the list.
                </p>
              )}
              {open === i && (
                <Functions
                  channel={c}
                  path={path}
                  bad={bad}
                  onChange={(functions) =>
                    put(i, { functions: functions.length === 0 ? undefined : functions })
                  }
                />
              )}
            </div>
          );
        })}
      </div>
      <datalist id="attributes">
        {KNOWN_ATTRIBUTES.map((a) => (
          <option key={a} value={a}>
            {attributeInfo(a).label}
          </option>
        ))}
      </datalist>
      <Button kind="quiet" className="mt-1" onClick={add}>
        <Plus size={13} /> Channel
      </Button>
    </div>
  );
}
