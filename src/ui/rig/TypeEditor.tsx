/** The type editor: a type for this show, mode by mode, checked as it is typed and tried on one address. */
'use client';
import { ArrowDown, ArrowUp, Copy, Plus, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { plural } from '@/core/edits/edit';
import { attributeInfo, attributesOf, baseOf, isEmitter, KNOWN_ATTRIBUTES } from '@/core/rig/attributes';
import { parsePoint } from '@/core/rig/addresses';
import { checkType, type TypeProblem } from '@/core/rig/check-type';
import { topOf } from '@/core/rig/channel';
import { makeType, mode as makeMode, wheelFunctions } from '@/core/rig/make-type';
import { SHAPES, type Channel, type ChannelFunction, type Mode, type TypeRow } from '@/core/show/rows';
import { Ask, Button, Check, Choice, Dialog, Field, IconButton, Tabs } from '../parts/controls';
import { edit, live } from '../state/actions';
import { ApiError } from '../state/api';
import { useScreen, useShow } from '../state/store';
import { MacroRows, WheelRows } from './TypeParts';
import { useRig } from './rig-state';

const NEW = makeType({ id: 'new', maker: '', name: '', shape: 'wash', watts: 100, modes: [makeMode('Standard', ['Dimmer'])] });
const SHAPE_WORDS: Record<(typeof SHAPES)[number], string> = { profile: 'profile', wash: 'wash or par', head: 'moving head', strip: 'strip', house: 'house or practical', hazer: 'hazer' };
/** What the editor holds while numbers may still be half typed. */
type Draft = Omit<TypeRow, 'id'>;

const number = (text: string): number => (text.trim() === '' ? Number.NaN : Number(text.replace(',', '.')));
const BOX = 'num h-7 w-full min-w-0 rounded bg-ink px-1.5 text-[12.5px] shadow-[inset_0_0_0_1px_var(--color-line)] outline-none focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)]';

function Cell({ label, value, bad, text, onChange }: { label: string; value: string | number; bad?: boolean; text?: boolean; onChange: (text: string) => void }) {
  const [typed, setTyped] = useState(String(value));
  useEffect(() => setTyped((t) => (number(t) === value || t === String(value) ? t : String(value))), [value]);
  return (
    <input
      aria-label={label}
      title={label}
      aria-invalid={bad}
      value={text ? String(value) : typed}
      onChange={(e) => {
        setTyped(e.target.value);
        onChange(e.target.value);
      }}
      className={`${BOX} ${text ? '!font-ui' : ''} ${bad ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`}
    />
  );
}

/** `1` or `1, 2` for a channel's places. */
const offsets = (text: string): number[] => text.split(/[,\s]+/).filter((t) => t !== '').map((t) => Number(t));

/** The functions of one channel, as ranges of its raw values with named sets. */
function Functions({ channel, bad, path, onChange }: { channel: Channel; path: string; bad: (path: string) => boolean; onChange: (functions: ChannelFunction[]) => void }) {
  const functions = channel.functions ?? [];
  const top = topOf(channel);
  const put = (i: number, fields: Partial<ChannelFunction>): void => onChange(functions.map((f, k) => (k === i ? { ...f, ...fields } : f)));
  const next = Math.min(top, Math.max(-1, ...functions.map((f) => f.to)) + 1);
  return (
    <div className="col-span-full mb-2 ml-8 rounded-md bg-[#101916] p-2">
      {functions.length > 0 && (
        <div className="mb-1 grid grid-cols-[1fr_72px_72px_72px_72px_82px] gap-1.5 text-[11.5px] text-muted">
          <span>Function, and named ranges in it</span>
          <span>From</span>
          <span>To</span>
          <span>Means, from</span>
          <span>to</span>
        </div>
      )}
      {functions.length === 0 && <p className="text-[12px] text-muted">One function over the whole channel, 0 to {top}. Add some when parts of it do different things.</p>}
      {functions.map((f, i) => (
        <div key={i} className="mb-1">
          <div className="grid grid-cols-[1fr_72px_72px_72px_72px_82px] items-center gap-1.5">
            <Cell label="Function" text value={f.name} onChange={(name) => put(i, { name })} bad={f.name.trim() === ''} />
            <Cell label="From value" value={f.from} bad={bad(`${path}.functions.${i}.from`)} onChange={(t) => put(i, { from: number(t) })} />
            <Cell label="To value" value={f.to} bad={bad(`${path}.functions.${i}.to`)} onChange={(t) => put(i, { to: number(t) })} />
            <Cell label="Physical at its start" value={f.physicalFrom} onChange={(t) => put(i, { physicalFrom: number(t) })} />
            <Cell label="Physical at its end" value={f.physicalTo} onChange={(t) => put(i, { physicalTo: number(t) })} />
            <span className="flex">
              <button type="button" title="Add a named range in it" className="h-7 whitespace-nowrap rounded px-1.5 text-[11.5px] text-muted hover:text-soft" onClick={() => put(i, { sets: [...(f.sets ?? []), { name: `Range ${(f.sets?.length ?? 0) + 1}`, from: f.sets?.at(-1) ? (f.sets.at(-1)?.to ?? 0) + 1 : f.from, to: f.to }] })}>
                + range
              </button>
              <IconButton label={`Remove ${f.name}`} className="!size-7" onClick={() => onChange(functions.filter((_, k) => k !== i))}>
                <Trash2 size={12} />
              </IconButton>
            </span>
          </div>
          {f.sets?.map((s, j) => {
            const putSet = (fields: Partial<typeof s>): void => put(i, { sets: f.sets?.map((x, k) => (k === j ? { ...x, ...fields } : x)) ?? [] });
            return (
              <div key={j} className="ml-6 mt-1 grid grid-cols-[1fr_72px_72px_72px_152px] items-center gap-1.5">
                <Cell label="Named range" text value={s.name} onChange={(name) => putSet({ name })} />
                <Cell label="Range from" value={s.from} bad={bad(`${path}.functions.${i}.sets.${j}`)} onChange={(t) => putSet({ from: number(t) })} />
                <Cell label="Range to" value={s.to} bad={bad(`${path}.functions.${i}.sets.${j}`)} onChange={(t) => putSet({ to: number(t) })} />
                <Cell label="Wheel slot that it brings in" value={s.slot ?? ''} onChange={(t) => putSet({ slot: t.trim() === '' ? undefined : number(t) })} />
                <IconButton label={`Remove ${s.name}`} className="!size-7" onClick={() => put(i, { sets: f.sets?.filter((_, k) => k !== j) ?? [] })}>
                  <Trash2 size={12} />
                </IconButton>
              </div>
            );
          })}
        </div>
      ))}
      <button type="button" className="mt-1 h-7 text-[12px] text-standby hover:underline" onClick={() => onChange([...functions, { name: `Function ${functions.length + 1}`, from: next, to: top, physicalFrom: 0, physicalTo: 1 }])}>
        Add a function
      </button>
    </div>
  );
}

/** One address on which the channels of the mode are tried, straight to the wire. */
function LiveTest({ mode }: { mode: Mode }) {
  const [address, setAddress] = useState('');
  const [on, setOn] = useState(false);
  const [values, setValues] = useState<Record<string, number>>({});
  const point = parsePoint(address);
  const fits = point && point.address + mode.footprint - 1 <= 512;
  // Whatever was forced for the test is let off with it.
  useEffect(() => {
    if (!on) return undefined;
    return () => void live({ command: 'check', value: null });
  }, [on]);
  // One address is tried: what a type has on a further address is not on this one.
  const channels = mode.channels.filter((c) => (c.break ?? 1) === 1);
  const send = (channel: Channel, level: number): void => {
    setValues((v) => ({ ...v, [channel.attribute]: level }));
    if (!point) return;
    const raw = Math.round(level * topOf(channel));
    channel.offset.forEach((offset, i) => {
      const value = Math.floor(raw / 256 ** (channel.offset.length - 1 - i)) % 256;
      void live({ command: 'check', universe: point.universe, address: point.address + offset - 1, value });
    });
  };
  return (
    <section aria-label="Live test" className="rounded-lg bg-ink p-3">
      <div className="flex items-end gap-3">
        <Field label="Try it on a unit at" number className="w-32" value={address} placeholder="2.101" disabled={on} onChange={(e) => setAddress(e.target.value)} problem={address.trim() !== '' && !fits ? (point ? `Needs ${mode.footprint} channels` : 'Like 2.101') : undefined} />
        <Button
          disabled={!fits}
          onClick={() => {
            setOn(!on);
            if (!on) setValues(Object.fromEntries(mode.channels.map((c) => [c.attribute, c.default])));
          }}
        >
          {on ? 'End the test' : 'Begin the test'}
        </Button>
        <p className="pb-2 text-[12px] text-muted">{on ? 'Values go straight to the address, over whatever plays. They end with the test.' : 'Moves a real unit while you write its type.'}</p>
      </div>
      {on && (
        <div className="mt-3 grid max-h-44 grid-cols-2 gap-x-6 overflow-y-auto">
          {channels.map((c) => (
            <label key={c.attribute} className="flex h-7 items-center gap-2 text-[12.5px] text-soft">
              <span className="w-28 truncate">{attributeInfo(c.attribute).label}</span>
              <input type="range" min={0} max={1000} value={Math.round((values[c.attribute] ?? 0) * 1000)} onChange={(e) => send(c, Number(e.target.value) / 1000)} className="flex-1 accent-[var(--color-soft)]" />
              <span className="num w-12 text-right text-[12px]">{Math.round((values[c.attribute] ?? 0) * topOf(c))}</span>
            </label>
          ))}
        </div>
      )}
    </section>
  );
}

function ModeTable({ draft, index, problems, onChange }: { draft: Draft; index: number; problems: readonly TypeProblem[]; onChange: (mode: Mode) => void }) {
  const mode = draft.modes[index];
  const [open, setOpen] = useState<number | null>(null);
  if (!mode) return null;
  const bad = (path: string): boolean => problems.some((p) => p.path === path);
  const put = (i: number, fields: Partial<Channel>): void => onChange({ ...mode, channels: mode.channels.map((c, k) => (k === i ? { ...c, ...fields } : c)) });
  const move = (i: number, by: number): void => {
    const channels = [...mode.channels];
    const [moved] = channels.splice(i, 1);
    if (moved) channels.splice(i + by, 0, moved);
    onChange({ ...mode, channels });
  };
  const add = (): void => {
    const free = KNOWN_ATTRIBUTES.find((a) => !mode.channels.some((c) => c.attribute === a)) ?? 'Control1';
    const at = Math.max(0, ...mode.channels.flatMap((c) => c.offset)) + 1;
    const fresh = makeMode('x', [free]).channels[0];
    if (fresh) onChange({ ...mode, footprint: Math.max(mode.footprint, at), channels: [...mode.channels, { ...fresh, offset: [at] }] });
  };
  return (
    <div>
      <div className="grid grid-cols-[1fr_96px] gap-3">
        <Field label="Mode" value={mode.name} maxLength={120} onChange={(e) => onChange({ ...mode, name: e.target.value })} problem={problems.find((p) => p.path === `modes.${index}.name`)?.message} />
        <Field label="Channels" number value={String(mode.footprint)} onChange={(e) => onChange({ ...mode, footprint: number(e.target.value) })} problem={bad(`modes.${index}.footprint`) ? ' ' : undefined} />
      </div>
      <div className="mt-3 grid grid-cols-[22px_minmax(120px,1.4fr)_74px_60px_60px_64px_64px_44px_92px] items-center gap-x-1.5 gap-y-1 text-[12px] text-muted">
        <span />
        <span>Attribute</span>
        <span title="Coarse, fine, ultra fine: 1 or 1, 2">Channel</span>
        <span>Default %</span>
        <span>Highl. %</span>
        <span>From</span>
        <span>To</span>
        <span>Snap</span>
        <span />
        {mode.channels.map((c, i) => {
          const path = `modes.${index}.channels.${i}`;
          return (
            <div key={i} className="contents">
              <button type="button" aria-label={`Functions of ${attributeInfo(c.attribute).label}`} aria-expanded={open === i} title="What parts of the channel do" onClick={() => setOpen(open === i ? null : i)} className={`grid size-5 place-items-center rounded text-[11px] ${(c.functions?.length ?? 0) > 0 ? 'text-text' : 'text-faint'} hover:bg-raised`}>
                {open === i ? '−' : '+'}
              </button>
              <input list="attributes" aria-label={`Attribute of channel ${i + 1}`} value={c.attribute} onChange={(e) => put(i, { attribute: e.target.value.trim() })} className={`${BOX} ${bad(`${path}.attribute`) ? '!shadow-[inset_0_0_0_1.5px_var(--color-danger)]' : ''}`} />
              <Cell label={`Places of ${c.attribute}`} text value={c.offset.map((o) => (Number.isNaN(o) ? '' : o)).join(', ')} bad={bad(`${path}.offset`) || c.offset.length === 0} onChange={(t) => put(i, { offset: offsets(t) })} />
              <Cell label={`Default of ${c.attribute}`} value={Math.round(c.default * 1000) / 10} bad={problems.some((p) => p.path === `${path}.default`)} onChange={(t) => put(i, { default: number(t) / 100 })} />
              <Cell label={`Highlight of ${c.attribute}`} value={c.highlight === undefined ? '' : Math.round(c.highlight * 1000) / 10} onChange={(t) => put(i, { highlight: t.trim() === '' ? undefined : number(t) / 100 })} />
              <Cell label={`Physical start of ${c.attribute}`} value={c.physicalFrom} onChange={(t) => put(i, { physicalFrom: number(t) })} />
              <Cell label={`Physical end of ${c.attribute}`} value={c.physicalTo} onChange={(t) => put(i, { physicalTo: number(t) })} />
              <Check label={`${c.attribute} snaps`} checked={c.snap ?? false} onChange={(snap) => put(i, { snap: snap || undefined })} />
              <span className="flex">
                <IconButton label="Up" className="!size-7" disabled={i === 0} onClick={() => move(i, -1)}>
                  <ArrowUp size={12} />
                </IconButton>
                <IconButton label="Down" className="!size-7" disabled={i === mode.channels.length - 1} onClick={() => move(i, 1)}>
                  <ArrowDown size={12} />
                </IconButton>
                <IconButton label={`Remove ${c.attribute}`} className="!size-7" onClick={() => onChange({ ...mode, channels: mode.channels.filter((_, k) => k !== i) })}>
                  <Trash2 size={12} />
                </IconButton>
              </span>
              {open === i && <Functions channel={c} path={path} bad={bad} onChange={(functions) => put(i, { functions: functions.length === 0 ? undefined : functions })} />}
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

/** Chromaticities of the emitters that the modes use. */
function Emitters({ draft, onChange }: { draft: Draft; onChange: (emitters: TypeRow['emitters']) => void }) {
  const used = [...new Set(draft.modes.flatMap((m) => m.channels.map((c) => baseOf(c.attribute)).filter(isEmitter)))];
  if (used.length === 0) return <p className="text-muted">No mode has emitters (red, green, blue, white …): the light has its lamp’s colour.</p>;
  return (
    <table className="w-full text-left">
      <thead className="text-[12px] text-muted">
        <tr className="h-7">
          <th className="font-normal">Emitter</th>
          <th className="font-normal">CIE x</th>
          <th className="font-normal">CIE y</th>
          <th className="font-normal">Flux Y, relative</th>
        </tr>
      </thead>
      <tbody>
        {used.map((a) => {
          const e = draft.emitters[a] ?? { x: 0.33, y: 0.33, Y: 1 };
          const put = (fields: Partial<typeof e>): void => onChange({ ...draft.emitters, [a]: { ...e, ...fields } });
          return (
            <tr key={a} className="h-9">
              <td>{attributeInfo(a).label}</td>
              <td className="pr-2">
                <Cell label={`x of ${a}`} value={e.x} onChange={(t) => put({ x: number(t) })} />
              </td>
              <td className="pr-2">
                <Cell label={`y of ${a}`} value={e.y} onChange={(t) => put({ y: number(t) })} />
              </td>
              <td>
                <Cell label={`Y of ${a}`} value={e.Y} onChange={(t) => put({ Y: number(t) })} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

type Part = 'modes' | 'colour' | 'wheels' | 'macros';

export function TypeEditor({ type, onClose }: { type: TypeRow | null; onClose: () => void }) {
  const show = useShow();
  useScreen((s) => s.revision);
  const own = type !== null && show.types.has(type.id);
  const [draft, setDraft] = useState<Draft>(() => {
    const { id, ...rest } = type ?? NEW;
    void id;
    return own || !type ? rest : { ...rest, name: `${rest.name} own` };
  });
  const [index, setIndex] = useState(0);
  const [part, setPart] = useState<Part>('modes');
  const [refusal, setRefusal] = useState('');
  const problems = useMemo(() => checkType({ id: type?.id ?? 'new', ...completed(draft) }), [draft, type]);
  const [dirty, setDirty] = useState(false);
  const [leaving, setLeaving] = useState(false);
  // What was typed is not thrown away by a slip of the hand.
  const leave = (): void => (dirty ? setLeaving(true) : onClose());
  const put = (fields: Partial<Draft>): void => {
    setRefusal('');
    setDirty(true);
    setDraft((d) => ({ ...d, ...fields }));
  };
  const mode = draft.modes[index];
  const users = type ? [...show.fixtures.values()].filter((f) => f.typeId === type.id).length : 0;
  const save = async (): Promise<void> => {
    const answer = await edit('set-type', { type: completed(draft), ...(own ? { id: type.id } : {}) });
    if (answer instanceof ApiError) {
      setRefusal(answer.message);
      return;
    }
    const row = answer.changes.find((c) => c.table === 'types')?.after as TypeRow | undefined;
    const first = row?.modes[0];
    if (row && first) useRig.setState({ picked: { type: row, mode: first } });
    onClose();
  };
  const other = problems[0];
  return (
    <Dialog open onOpenChange={(o) => !o && leave()} title={own ? `Type ${draft.maker} ${draft.name}` : 'A new type for this show'} about={own ? (users > 0 ? `${plural(users, 'fixture')} of this show use it and change with it.` : 'Nothing of this show uses it yet.') : 'It belongs to this show; the shipped library stays as it is.'} width="w-[960px]" tall>
      <div className="grid grid-cols-[1.2fr_1.2fr_150px_84px_84px_84px] gap-3">
        <Field label="Maker" value={draft.maker} maxLength={120} onChange={(e) => put({ maker: e.target.value })} problem={draft.maker.trim() === '' ? 'Who makes it?' : undefined} />
        <Field label="Name" value={draft.name} maxLength={120} onChange={(e) => put({ name: e.target.value })} problem={draft.name.trim() === '' ? 'What is it called?' : undefined} />
        <Choice label="Kind" value={draft.shape} onChange={(e) => put({ shape: e.target.value as TypeRow['shape'] })} options={SHAPES.map((s) => ({ value: s, label: SHAPE_WORDS[s] }))} />
        <Field label="Watts" number defaultValue={draft.watts} onChange={(e) => put({ watts: number(e.target.value) })} problem={problems.some((p) => p.path === 'watts') ? ' ' : undefined} />
        <Field label="Idle, W" number defaultValue={draft.idle_W ?? ''} onChange={(e) => put({ idle_W: e.target.value.trim() === '' ? undefined : number(e.target.value) })} />
        <Field label="Weight, kg" number defaultValue={draft.weight_kg ?? ''} onChange={(e) => put({ weight_kg: e.target.value.trim() === '' ? undefined : number(e.target.value) })} />
      </div>
      <div className="mt-2 grid grid-cols-[110px_110px_110px_1fr] gap-3">
        <Field label="Pan speed, °/s" number defaultValue={draft.panSpeed_deg_s ?? ''} onChange={(e) => put({ panSpeed_deg_s: e.target.value.trim() === '' ? undefined : number(e.target.value) })} />
        <Field label="Tilt speed, °/s" number defaultValue={draft.tiltSpeed_deg_s ?? ''} onChange={(e) => put({ tiltSpeed_deg_s: e.target.value.trim() === '' ? undefined : number(e.target.value) })} />
        <Field label="Lamp, K" number defaultValue={draft.lamp_K ?? ''} placeholder="3200" onChange={(e) => put({ lamp_K: e.target.value.trim() === '' ? undefined : number(e.target.value) })} />
      </div>
      <div className="mt-3 flex items-center gap-2 border-b border-line pb-2">
        <Tabs<Part> label="Parts of the type" value={part} options={[{ value: 'modes', label: `Modes ${draft.modes.length}` }, { value: 'colour', label: 'Emitters' }, { value: 'wheels', label: `Wheels ${draft.wheels?.length ?? 0}` }, { value: 'macros', label: `Macros ${draft.macros?.length ?? 0}` }]} onChange={setPart} />
      </div>
      <div className="h-[270px] overflow-y-auto py-3 pr-1">
        {part === 'modes' && (
          <div className="grid grid-cols-[150px_1fr] gap-4">
            <div>
              <ul>
                {draft.modes.map((m, i) => (
                  <li key={i}>
                    <button type="button" aria-pressed={i === index} onClick={() => setIndex(i)} className={`flex h-8 w-full items-center justify-between rounded-md px-2 text-left ${i === index ? 'bg-standby-wash text-standby' : 'text-soft hover:bg-raised'}`}>
                      <span className="truncate">{m.name || 'unnamed'}</span>
                      <span className={`num text-[11.5px] ${problems.some((p) => p.path.startsWith(`modes.${i}.`)) ? 'text-danger' : 'text-muted'}`}>{m.footprint}</span>
                    </button>
                  </li>
                ))}
              </ul>
              <div className="mt-1 flex gap-1">
                <IconButton
                  label="One more mode like this"
                  onClick={() => {
                    if (!mode) return;
                    put({ modes: [...draft.modes, { ...structuredClone(mode), name: `${mode.name} 2` }] });
                    setIndex(draft.modes.length);
                  }}
                >
                  <Copy size={14} />
                </IconButton>
                <IconButton
                  label="Remove this mode"
                  disabled={draft.modes.length < 2}
                  onClick={() => {
                    put({ modes: draft.modes.filter((_, i) => i !== index) });
                    setIndex(Math.max(0, index - 1));
                  }}
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
            </div>
            <ModeTable draft={draft} index={index} problems={problems} onChange={(m) => put({ modes: draft.modes.map((x, i) => (i === index ? m : x)) })} />
          </div>
        )}
        {part === 'colour' && <Emitters draft={completed(draft)} onChange={(emitters) => put({ emitters })} />}
        {part === 'wheels' && <WheelRows wheels={draft.wheels ?? []} onChange={(wheels) => put({ wheels: wheels.length === 0 ? undefined : wheels })} />}
        {part === 'macros' && <MacroRows macros={draft.macros ?? []} attributes={[...new Set(draft.modes.flatMap((m) => attributesOf(m)))]} onChange={(macros) => put({ macros: macros.length === 0 ? undefined : macros })} />}
      </div>
      {mode && <LiveTest mode={mode} />}
      <Ask open={leaving} onClose={() => setLeaving(false)} title="Leave the type as it was?" act="Throw it away" keep="Go on writing" onAct={onClose}>
        <p>What you have typed here is in no show yet and would be gone.</p>
      </Ask>
      <div className="mt-3 flex items-center gap-3">
        <p role="status" data-testid="type-says" className={`min-w-0 flex-1 text-[12.5px] ${refusal !== '' || other ? 'text-warning' : 'text-soft'}`}>
          {refusal !== '' ? refusal : other ? `${other.message}${problems.length > 1 ? ` And ${problems.length - 1} more.` : ''}` : `${plural(draft.modes.length, 'mode')}, nothing wrong with it.`}
        </p>
        <Button kind="quiet" onClick={leave}>
          Leave it
        </Button>
        <Button kind="strong" disabled={problems.length > 0} onClick={() => void save()}>
          {own ? 'Change the type' : 'Make the type'}
        </Button>
      </div>
    </Dialog>
  );
}

/**
 * What follows from the rest: documented chromaticities for emitters that nobody has described yet, and a wheel's slots
 * on the channels that are called after it.
 */
function completed(draft: Draft): Draft {
  const { emitters } = makeType({ id: 'x', ...draft });
  const modes = draft.modes.map((m) => ({
    ...m,
    channels: m.channels.map((c): Channel => {
      const wheel = draft.wheels?.find((w) => w.name === baseOf(c.attribute));
      if (!wheel) return c;
      if (!c.functions || c.functions.length === 0) return { ...c, functions: wheelFunctions(wheel, Math.max(1, c.offset.length)), snap: true };
      return { ...c, functions: c.functions.map((f) => (f.sets?.some((x) => x.slot !== undefined) && f.wheel === undefined ? { ...f, wheel: wheel.name } : f)) };
    }),
  }));
  return { ...draft, modes, emitters };
}
