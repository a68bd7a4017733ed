/** One mode of a type: its channels, and what parts of each channel do. */
'use client';
import { arrayMove } from '@dnd-kit/sortable';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { attributeInfo, attributeMeant, isStandard, KNOWN_ATTRIBUTES } from '@/core/rig/attributes';
import type { TypeProblem } from '@/core/rig/check-type';
import { mode as makeMode } from '@/core/rig/make-type';
import type { Channel, Mode } from '@/core/types/rows';
import { Button, Check, Field, IconButton } from '../parts/controls';
import { Functions, type Bad } from './Functions';
import { BOX, Cell, maybe, number, percent, type Draft } from './TypeCell';

/** `1` or `1, 2` for a channel's places. */
const offsets = (text: string): number[] =>
  text
    .split(/[,\s]+/)
    .filter((t) => t !== '')
    .map((t) => Number(t));

/** Places as they are shown; one that is half typed is none yet. */
const places = (offset: readonly number[]): string =>
  offset.map((o) => (Number.isNaN(o) ? '' : o)).join(', ');

/** A plain word becomes the standard's attribute, with what that is by default; a place and a resolution that were said stay. */
function meant(channel: Channel): Partial<Channel> | undefined {
  const attribute = attributeMeant(channel.attribute);
  if (attribute === channel.attribute) return undefined;
  const usual = makeMode('x', [attribute]).channels[0];
  if (!usual || !KNOWN_ATTRIBUTES.includes(attribute)) return { attribute };
  const { default: rests, physicalFrom, physicalTo } = usual;
  return { attribute, default: rests, physicalFrom, physicalTo };
}

/** A channel more, of an attribute that the mode has not, behind all others. */
function grown(mode: Mode): Mode {
  const free =
    KNOWN_ATTRIBUTES.find((a) => !mode.channels.some((c) => c.attribute === a)) ?? 'Control1';
  const at = Math.max(0, ...mode.channels.flatMap((c) => c.offset)) + 1;
  const fresh = makeMode('x', [free]).channels[0];
  if (!fresh) return mode;
  return {
    ...mode,
    footprint: Math.max(mode.footprint, at),
    channels: [...mode.channels, { ...fresh, offset: [at] }],
  };
}

/** Channels of a mode, and what parts of each do. */
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
  const path = `modes.${index}`;
  const bad: Bad = (at) => problems.some((p) => p.path === at);
  const put = (i: number, fields: Partial<Channel>): void =>
    onChange({
      ...mode,
      channels: mode.channels.map((c, k) => (k === i ? { ...c, ...fields } : c)),
    });
  // What is open goes with its channel.
  const move = (i: number, by: number): void => {
    onChange({ ...mode, channels: arrayMove([...mode.channels], i, i + by) });
    if (open === i) setOpen(i + by);
    else if (open === i + by) setOpen(i);
  };
  const remove = (i: number): void => {
    onChange({ ...mode, channels: mode.channels.filter((_, k) => k !== i) });
    if (open === i) setOpen(null);
    else if (open !== null && open > i) setOpen(open - 1);
  };
  return (
    <div>
      <div className="grid grid-cols-[1fr_96px] gap-3">
        <Field
          label="Mode"
          value={mode.name}
          maxLength={120}
          onChange={(e) => onChange({ ...mode, name: e.target.value })}
          problem={problems.find((p) => p.path === `${path}.name`)?.message}
        />
        <Field
          label="Channels"
          number
          value={Number.isNaN(mode.footprint) ? '' : String(mode.footprint)}
          onChange={(e) => onChange({ ...mode, footprint: number(e.target.value) })}
          problem={bad(`${path}.footprint`) ? ' ' : undefined}
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
        {mode.channels.map((c, i) => (
          <ChannelRow
            key={i}
            channel={c}
            at={i}
            isLast={i === mode.channels.length - 1}
            path={`${path}.channels.${i}`}
            bad={bad}
            open={open === i}
            onOpen={(opened) => setOpen(opened ? i : null)}
            onChange={(fields) => put(i, fields)}
            onMove={(by) => move(i, by)}
            onRemove={() => remove(i)}
          />
        ))}
      </div>
      <datalist id="attributes">
        {KNOWN_ATTRIBUTES.map((a) => (
          <option key={a} value={a}>
            {attributeInfo(a).label}
          </option>
        ))}
      </datalist>
      <Button kind="quiet" className="mt-1" onClick={() => onChange(grown(mode))}>
        <Plus size={13} /> Channel
      </Button>
    </div>
  );
}

interface OfChannel {
  channel: Channel;
  path: string;
  bad: Bad;
  onChange: (fields: Partial<Channel>) => void;
}

function ChannelRow({
  at,
  isLast,
  open,
  onOpen,
  onMove,
  onRemove,
  ...of
}: OfChannel & {
  at: number;
  isLast: boolean;
  open: boolean;
  onOpen: (open: boolean) => void;
  onMove: (by: 1 | -1) => void;
  onRemove: () => void;
}) {
  const { channel: c, path, bad, onChange } = of;
  const name = (): void => {
    const fields = meant(c);
    if (fields) onChange(fields);
  };
  return (
    <div className="contents">
      <button
        type="button"
        aria-label={`Functions of ${attributeInfo(c.attribute).label}`}
        aria-expanded={open}
        title="What parts of the channel do"
        onClick={() => onOpen(!open)}
        className={`grid size-5 place-items-center rounded text-[11px] ${(c.functions?.length ?? 0) > 0 ? 'text-text' : 'text-faint'} hover:bg-raised`}
      >
        {open ? '−' : '+'}
      </button>
      <input
        list="attributes"
        aria-label={`Attribute of channel ${at + 1}`}
        value={c.attribute}
        onChange={(e) => onChange({ attribute: e.target.value })}
        onBlur={name}
        onKeyDown={(e) => e.key === 'Enter' && (e.preventDefault(), name())}
        className={`${BOX} ${bad(`${path}.attribute`) ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`}
      />
      <Numbers {...of} />
      <span className="flex">
        <IconButton label="Up" className="!size-7" disabled={at === 0} onClick={() => onMove(-1)}>
          <ArrowUp size={12} />
        </IconButton>
        <IconButton label="Down" className="!size-7" disabled={isLast} onClick={() => onMove(1)}>
          <ArrowDown size={12} />
        </IconButton>
        <IconButton label={`Remove ${c.attribute}`} className="!size-7" onClick={onRemove}>
          <Trash2 size={12} />
        </IconButton>
      </span>
      {c.attribute.trim() !== '' && !isStandard(attributeMeant(c.attribute)) && (
        <p role="note" className="col-span-full -mt-0.5 ml-7 text-[12px] text-warning">
          “{c.attribute}” is no attribute of the standard: the channel is sent, but nothing here
          knows what it does. Type its plain word, such as Red, Zoom or Strobe, or pick one of the
          list.
        </p>
      )}
      {open && (
        <Functions
          channel={c}
          path={path}
          bad={bad}
          onChange={(functions) =>
            onChange({ functions: functions.length === 0 ? undefined : functions })
          }
        />
      )}
    </div>
  );
}

/** Where a channel is, where it rests, and what its ends mean. */
function Numbers({ channel: c, path, bad, onChange }: OfChannel) {
  return (
    <>
      <Cell
        label={`Places of ${c.attribute}`}
        value={places(c.offset)}
        means={(t) => places(offsets(t))}
        bad={bad(`${path}.offset`) || c.offset.length === 0}
        onChange={(t) => onChange({ offset: offsets(t) })}
      />
      <Cell
        label={`Default of ${c.attribute}`}
        value={percent(c.default)}
        means={(t) => percent(number(t) / 100)}
        bad={bad(`${path}.default`)}
        onChange={(t) => onChange({ default: number(t) / 100 })}
      />
      <Cell
        label={`Highlight of ${c.attribute}`}
        value={c.highlight === undefined ? '' : percent(c.highlight)}
        means={(t) => percent(number(t) / 100)}
        onChange={(t) => {
          const lit = maybe(t);
          onChange({ highlight: lit === undefined ? undefined : lit / 100 });
        }}
      />
      <Cell
        label={`Physical start of ${c.attribute}`}
        value={c.physicalFrom}
        onChange={(t) => onChange({ physicalFrom: number(t) })}
      />
      <Cell
        label={`Physical end of ${c.attribute}`}
        value={c.physicalTo}
        onChange={(t) => onChange({ physicalTo: number(t) })}
      />
      <Check
        label={`${c.attribute} snaps`}
        checked={c.snap !== undefined && c.snap !== false}
        onChange={(snap) => onChange({ snap: snap || undefined })}
      />
    </>
  );
}
