/** The slots of a unit's wheels: as the type has them, or this unit's own for this show. */
'use client';
import { RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { notice } from '../state/messages';
import { hueSaturation, toHueSaturation, toXYZ } from '@/core/color/mix';
import { attributeInfo } from '@/core/rig/attributes';
import { isRefusal } from '@/core/refusal';
import type { FixtureRow } from '@/core/fixtures/rows';
import type { Wheel, WheelSlot } from '@/core/types/rows';
import { readFile } from '../files/read-file';
import { Button, Dialog, Field, Slider } from '../parts/controls';
import { PATTERNS } from '@/core/rig/patterns';
import { cssOf, PatternPicture } from '../parts/patterns';
import { edit } from '../state/edits';
import { useShow } from '../state/store';

function SlotDialog({
  wheel,
  number,
  slot,
  onClose,
  onDone,
}: {
  wheel: Wheel;
  number: number;
  slot: WheelSlot;
  onClose: () => void;
  onDone: (slot: WheelSlot | null) => void;
}) {
  const [name, setName] = useState(slot.name);
  const [color, setColor] = useState(slot.color);
  const [picture, setPicture] = useState(slot.picture);
  const isColour = wheel.slots.some((s) => s.color);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title={`${attributeInfo(wheel.name).label}, slot ${number}`}
      about="For the selected units in this show; the type stays as it is."
    >
      <Field
        label="Name"
        value={name}
        maxLength={120}
        onChange={(e) => setName(e.target.value)}
        problem={name.trim() === '' ? 'A slot needs a name.' : undefined}
      />
      {isColour ? (
        <ColourOf color={color} onChange={setColor} />
      ) : (
        <PictureOf picture={picture} onChange={setPicture} />
      )}
      <div className="mt-4 flex justify-between">
        <Button kind="quiet" onClick={() => onDone(null)}>
          <RotateCcw size={14} /> As the type has it
        </Button>
        <Button
          kind="strong"
          disabled={name.trim() === ''}
          onClick={() =>
            onDone({
              name: name.trim(),
              ...(color ? { color } : {}),
              ...(picture ? { picture } : {}),
            })
          }
        >
          Use it
        </Button>
      </div>
    </Dialog>
  );
}

/** Hue, saturation and how much light a slot lets through. */
function ColourOf({
  color,
  onChange,
}: {
  color: WheelSlot['color'];
  onChange: (color: WheelSlot['color']) => void;
}) {
  const { hue, saturation } = color ? toHueSaturation(toXYZ(color)) : { hue: 0, saturation: 0 };
  const through = color?.Y ?? 0.5;
  const put = (h: number, s: number): void => onChange({ ...hueSaturation(h, s), Y: through });
  const slider = (label: string, value: number, max: number, act: (v: number) => void) => (
    <div className="flex items-center gap-2 text-[12px] text-muted">
      <span className="w-[72px]">{label}</span>
      <Slider
        label={label}
        value={value / max}
        says={`${Math.round(value)}`}
        onChange={(v) => act(v * max)}
      />
    </div>
  );
  return (
    <div className="mt-3 grid grid-cols-[56px_1fr] items-center gap-x-3 gap-y-2">
      <i
        className="row-span-3 size-14 rounded-full inset-ring inset-ring-text/20"
        style={{ background: color ? cssOf(color) : '#000' }}
      />
      {slider('Hue', hue, 359, (v) => put(v, saturation))}
      {slider('Saturation', saturation * 100, 100, (v) => put(hue, v / 100))}
      {slider(
        'Lets through',
        through * 100,
        100,
        (v) => color && onChange({ ...color, Y: Math.max(0.01, v / 100) }),
      )}
    </div>
  );
}

/** A pattern that Wingman draws, or a picture of one’s own. */
function PictureOf({
  picture,
  onChange,
}: {
  picture: string | undefined;
  onChange: (picture: string) => void;
}) {
  const bring = (file: File | undefined): void => {
    if (file)
      void readFile('pattern', file).then((url) =>
        isRefusal(url) ? notice.error(url.message) : onChange(url),
      );
  };
  return (
    <div className="mt-3">
      <p className="mb-1 text-[12px] text-muted">Picture</p>
      <div className="flex flex-wrap gap-1.5">
        {Object.keys(PATTERNS).map((p) => {
          const isOn = picture === `pattern:${p}`;
          return (
            <button
              key={p}
              type="button"
              aria-label={p}
              aria-pressed={isOn}
              onClick={() => onChange(`pattern:${p}`)}
              className={`grid size-10 place-items-center rounded-md ${isOn ? 'bg-standby-wash text-standby' : 'bg-raised text-soft hover:bg-lift'}`}
            >
              <PatternPicture picture={`pattern:${p}`} size={26} label={p} />
            </button>
          );
        })}
        {picture?.startsWith('data:') && (
          <PatternPicture picture={picture} size={40} label="own picture" />
        )}
      </div>
      <label className="mt-2 inline-block cursor-pointer text-[12.5px] text-standby hover:underline">
        Your own picture …
        <input
          type="file"
          accept="image/png,image/jpeg,image/webp"
          className="sr-only"
          onChange={(e) => bring(e.target.files?.[0])}
        />
      </label>
    </div>
  );
}

/** Slots of a unit’s wheels: the type’s, or its own. */
export function WheelSlots({
  chosen,
  disabled,
}: {
  chosen: readonly FixtureRow[];
  disabled: boolean;
}) {
  const show = useShow();
  const [open, setOpen] = useState<{ wheel: Wheel; number: number } | null>(null);
  const first = chosen.at(-1);
  const type = first ? show.types.get(first.typeId) : undefined;
  if (!first || !type?.wheels || type.wheels.length === 0) return null;
  const ownOf = (wheel: string, number: number): WheelSlot | undefined =>
    first.wheels?.[wheel]?.[String(number)];
  const done = (slot: WheelSlot | null): void => {
    if (!open) return;
    const { wheel, number } = open;
    setOpen(null);
    void edit('change-fixtures', {
      fixtures: chosen
        .filter((f) => f.typeId === first.typeId)
        .map((f) => {
          const slots = { ...f.wheels?.[wheel.name] };
          if (slot) slots[String(number)] = slot;
          else delete slots[String(number)];
          const wheels = { ...f.wheels, [wheel.name]: slots };
          if (Object.keys(slots).length === 0) delete wheels[wheel.name];
          return { id: f.id, set: { wheels } };
        }),
    });
  };
  return (
    <section aria-label="Wheels" className="border-t border-line px-4 py-2.5">
      {type.wheels.map((wheel) => (
        <div key={wheel.name} className="mb-1.5">
          <span className="cap">
            {wheel.slots.some((s) => s.color) ? 'Colour slots' : 'Pattern slots'}
          </span>
          <div className="mt-1 flex flex-wrap gap-1">
            {wheel.slots.map((typed, i) => {
              const own = ownOf(wheel.name, i + 1);
              const slot = own ?? typed;
              return (
                <button
                  key={`${wheel.name}${i}`}
                  type="button"
                  disabled={disabled}
                  title={`${slot.name}${own ? `, this unit’s own (the type has ${typed.name})` : ''}`}
                  aria-label={`Slot ${i + 1}, ${slot.name}${own ? ', own' : ''}`}
                  onClick={() => setOpen({ wheel, number: i + 1 })}
                  className={`grid size-8 place-items-center rounded-md bg-ink text-soft hover:bg-raised ${own ? 'shadow-[inset_0_0_0_1.5px_var(--color-standby)]' : 'shadow-[inset_0_0_0_1px_var(--color-line)]'}`}
                >
                  <SlotFace slot={slot} number={i + 1} />
                </button>
              );
            })}
          </div>
        </div>
      ))}
      {open && (
        <SlotDialog
          wheel={open.wheel}
          number={open.number}
          slot={
            ownOf(open.wheel.name, open.number) ?? open.wheel.slots[open.number - 1] ?? { name: '' }
          }
          onClose={() => setOpen(null)}
          onDone={done}
        />
      )}
    </section>
  );
}

/** What a slot shows: its pattern, its colour, or its number where it is open. */
function SlotFace({ slot, number }: { slot: WheelSlot; number: number }) {
  if (slot.picture) return <PatternPicture picture={slot.picture} label="" />;
  if (slot.color)
    return <i className="size-5 rounded-full" style={{ background: cssOf(slot.color) }} />;
  return number;
}
