/** Emitters, wheels and control macros of a type, for its editor. */
'use client';
import { Plus, Trash2 } from 'lucide-react';
import { attributeInfo, baseOf, isEmitter } from '@/core/rig/attributes';
import { lengthOf, stepsOf } from '@/core/types/macros';
import type { Macro, TypeRow, Wheel, WheelSlot } from '@/core/types/rows';
import { plural } from '@/core/words';
import { Button, Choice, Field, IconButton } from '../parts/controls';
import { cssOf, PatternPicture } from '../parts/patterns';
import { Cell, number, NumberField, type Draft } from './TypeCell';

const WHEELS = ['Color1', 'Color2', 'Gobo1', 'Gobo2'];
const WHITE = { x: 0.3127, y: 0.329, Y: 1 };

/** Wheels of a type. */
export function WheelRows({
  wheels,
  onChange,
}: {
  wheels: readonly Wheel[];
  onChange: (wheels: Wheel[]) => void;
}) {
  return (
    <div>
      {wheels.length === 0 && (
        <p className="mb-2 text-muted">
          A wheel’s slots get their names and colours here; a channel function of its name brings
          them in.
        </p>
      )}
      {wheels.map((wheel, i) => (
        <WheelRow
          key={i}
          wheel={wheel}
          onChange={(w) => onChange(wheels.with(i, w))}
          onRemove={() => onChange(wheels.toSpliced(i, 1))}
        />
      ))}
      <Button
        onClick={() =>
          onChange([
            ...wheels,
            {
              name: WHEELS.find((w) => !wheels.some((x) => x.name === w)) ?? 'Gobo2',
              slots: [{ name: 'Open', color: WHITE }],
            },
          ])
        }
        disabled={wheels.length >= WHEELS.length}
      >
        <Plus size={13} /> Wheel
      </Button>
    </div>
  );
}

function WheelRow({
  wheel,
  onChange,
  onRemove,
}: {
  wheel: Wheel;
  onChange: (wheel: Wheel) => void;
  onRemove: () => void;
}) {
  const { name, slots } = wheel;
  const put = (next: WheelSlot[]): void => onChange({ ...wheel, slots: next });
  const fresh = name.startsWith('Color') ? { color: WHITE } : { picture: 'pattern:open' };
  return (
    <section aria-label={`Wheel ${name}`} className="mb-4">
      <div className="flex items-end gap-2">
        <Choice
          label="Wheel"
          className="w-44"
          value={name}
          onChange={(e) => onChange({ ...wheel, name: e.target.value })}
          options={[...new Set([...WHEELS, name])].map((w) => ({
            value: w,
            label: attributeInfo(w).label,
          }))}
        />
        <IconButton
          label={`Remove the ${attributeInfo(name).label.toLowerCase()}`}
          onClick={onRemove}
        >
          <Trash2 size={13} />
        </IconButton>
      </div>
      <div className="mt-2 grid grid-cols-3 gap-2">
        {slots.map((slot, n) => (
          <SlotRow
            key={n}
            slot={slot}
            number={n + 1}
            isOnly={slots.length < 2}
            onChange={(next) => put(slots.with(n, next))}
            onRemove={() => put(slots.toSpliced(n, 1))}
          />
        ))}
      </div>
      <Button
        kind="quiet"
        className="mt-1"
        onClick={() => put([...slots, { name: `Slot ${slots.length + 1}`, ...fresh }])}
      >
        <Plus size={13} /> Slot
      </Button>
    </section>
  );
}

function SlotRow({
  slot,
  number: n,
  isOnly,
  onChange,
  onRemove,
}: {
  slot: WheelSlot;
  /** From 1. */
  number: number;
  isOnly: boolean;
  onChange: (slot: WheelSlot) => void;
  onRemove: () => void;
}) {
  const { color } = slot;
  return (
    <div className="flex items-center gap-2 rounded-md bg-ink px-2 py-1">
      <span className="num w-4 text-[12px] text-muted">{n}</span>
      {color ? (
        <i className="size-5 flex-none rounded-full" style={{ background: cssOf(color) }} />
      ) : (
        <PatternPicture picture={slot.picture ?? 'pattern:open'} size={20} label="" />
      )}
      <input
        aria-label={`Name of slot ${n}`}
        value={slot.name}
        maxLength={120}
        onChange={(e) => onChange({ ...slot, name: e.target.value })}
        className="h-7 min-w-0 flex-1 bg-transparent outline-none"
      />
      {color &&
        (['x', 'y', 'Y'] as const).map((k) => (
          <span key={k} className="w-11 flex-none" title={`CIE ${k}`}>
            <Cell
              label={`${k} of slot ${n}`}
              value={color[k]}
              bad={!(color[k] >= 0 && (k === 'Y' || color[k] <= 1))}
              onChange={(text) => onChange({ ...slot, color: { ...color, [k]: number(text) } })}
            />
          </span>
        ))}
      <IconButton
        label={`Remove slot ${n}`}
        className="!size-7"
        disabled={isOnly}
        onClick={onRemove}
      >
        <Trash2 size={12} />
      </IconButton>
    </div>
  );
}

/** What a command does beside its first value. */
function sayMore(macro: Macro): string {
  const steps = stepsOf(macro);
  const values = steps.reduce((n, s) => n + s.values.length, 0) - 1;
  return `With ${plural(values, 'more value')} in ${plural(steps.length, 'step')}, ${lengthOf(macro).toFixed(1)} s in all.`;
}

/** Control macros of a type. */
export function MacroRows({
  macros,
  attributes,
  onChange,
}: {
  macros: readonly Macro[];
  attributes: readonly string[];
  onChange: (macros: Macro[]) => void;
}) {
  const put = (i: number, fields: Partial<Macro>): void =>
    onChange(macros.map((m, k) => (k === i ? { ...m, ...fields } : m)));
  return (
    <div>
      {macros.length === 0 && (
        <p className="mb-2 text-muted">
          Lamp on, lamp off, reset: a value that is held on a channel for some seconds.
        </p>
      )}
      {macros.map((m, i) => (
        <div key={i} className="mb-2 grid grid-cols-[1fr_1fr_96px_96px_auto] items-end gap-2">
          <Field
            label="Name"
            value={m.name}
            maxLength={120}
            onChange={(e) => put(i, { name: e.target.value })}
            problem={m.name.trim() === '' ? 'A name' : undefined}
          />
          <Choice
            label="Channel"
            value={m.attribute}
            onChange={(e) => put(i, { attribute: e.target.value })}
            options={[...new Set([m.attribute, ...attributes])].map((a) => ({
              value: a,
              label: attributeInfo(a).label,
            }))}
          />
          <NumberField
            label="Value 0–255"
            value={m.value}
            onNumber={(value) => put(i, { value })}
            problem={m.value >= 0 && m.value <= 255 ? undefined : 'From 0 to 255'}
          />
          <NumberField
            label="Held, s"
            value={m.hold_s}
            onNumber={(hold_s) => put(i, { hold_s })}
            problem={m.hold_s >= 0.1 && m.hold_s <= 60 ? undefined : 'From 0.1 to 60'}
          />
          {(m.also || m.then) && (
            <p className="col-span-4 -mt-1 text-[12px] text-muted">
              {sayMore(m)} The maker’s file says so; it stays as it is.
            </p>
          )}
          <IconButton
            label={`Remove ${m.name}`}
            onClick={() => onChange(macros.filter((_, k) => k !== i))}
          >
            <Trash2 size={13} />
          </IconButton>
        </div>
      ))}
      <Button
        onClick={() =>
          onChange([
            ...macros,
            {
              name: macros.length === 0 ? 'Reset' : `Macro ${macros.length + 1}`,
              attribute: attributes.find((a) => a === 'Control1') ?? attributes[0] ?? 'Control1',
              value: 200,
              hold_s: 3,
            },
          ])
        }
      >
        <Plus size={13} /> Macro
      </Button>
    </div>
  );
}

/** Chromaticities of the emitters that the modes use. */
export function Emitters({
  draft,
  onChange,
}: {
  draft: Draft;
  onChange: (emitters: TypeRow['emitters']) => void;
}) {
  const used = [
    ...new Set(
      draft.modes.flatMap((m) => m.channels.map((c) => baseOf(c.attribute)).filter(isEmitter)),
    ),
  ];
  if (used.length === 0)
    return (
      <p className="text-muted">
        No mode has emitters (red, green, blue, white …): the light has its lamp’s colour.
      </p>
    );
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
          const put = (fields: Partial<typeof e>): void =>
            onChange({ ...draft.emitters, [a]: { ...e, ...fields } });
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
