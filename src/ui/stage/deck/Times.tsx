/** Fade and delay of what is held of a family; on a press also spread over the selection. */
'use client';
import { Popover } from 'radix-ui';
import { FoldHorizontal, Timer } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { HeldValue } from '@/core/live/messages';
import { attributeInfo, familyOf } from '@/core/rig/attributes';
import type { Family } from '@/core/show/fields';
import { Button, Choice, Field } from '../../parts/controls';
import { useWriting } from '../../parts/use-writing';
import { said } from '../../state/commands';
import { notice } from '../../state/messages';
import { useScreen } from '../../state/store';
import type { Chosen } from './chosen';
import { EVEN, FanShape, shapeOf } from './FanShape';
import { CHIP, PANEL } from './look';

type Of = { attributes: string[] } | { families: Family[] };

/** What is held of a family on the units that are chosen. */
function useHeld(chosen: readonly Chosen[], family: Family): readonly HeldValue[] {
  const values = useScreen((s) => s.values);
  return useMemo(() => {
    const ids = new Set(chosen.map((c) => c.fixture.id));
    return [...values.values()].filter(
      (v) => ids.has(v.fixtureId) && familyOf(v.attribute) === family,
    );
  }, [values, chosen, family]);
}

/** One time, or from the shortest to the longest. */
function sayTimes(times: readonly number[], digits: number): string {
  const [low, high] = [Math.min(...times), Math.max(...times)];
  return low === high ? high.toFixed(digits) : `${low.toFixed(digits)}–${high.toFixed(digits)}`;
}

/** Times of what is held. */
export function Times({
  family,
  chosen,
  disabled,
}: {
  family: Family;
  chosen: readonly Chosen[];
  disabled: boolean;
}) {
  const [open, setOpen] = useState(false);
  const held = useHeld(chosen, family);
  const delays = held.map((v) => v.delay_s);
  const isNone = held.length === 0;
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        disabled={disabled || isNone}
        aria-label={`Times of ${family}`}
        title={
          isNone
            ? 'Set values first, then give them a time of their own'
            : 'Fade and delay of these values'
        }
        className={`${CHIP} num text-[11.5px]`}
      >
        {isNone ? (
          <Timer size={13} />
        ) : (
          `${sayTimes(
            held.map((v) => v.fade_s),
            1,
          )} s`
        )}
        {delays.some((d) => d > 0) && (
          <span className="text-muted">+{Math.max(...delays).toFixed(1)}</span>
        )}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className={PANEL}
          aria-label={`Times of ${family}`}
        >
          <TimesPanel family={family} chosen={chosen} all={held} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function TimesPanel({
  family,
  chosen,
  all,
}: {
  family: Family;
  chosen: readonly Chosen[];
  all: readonly HeldValue[];
}) {
  const [only, setOnly] = useState('');
  const attributes = useMemo(() => [...new Set(all.map((v) => v.attribute))], [all]);
  const one = attributes.includes(only) ? only : undefined;
  const held = one ? all.filter((v) => v.attribute === one) : all;
  const of: Of = one ? { attributes: [one] } : { families: [family] };
  return (
    <>
      {attributes.length > 1 && (
        <Choice
          className="mb-2"
          label="Of"
          value={one ?? ''}
          onChange={(e) => setOnly(e.target.value)}
          options={[
            { value: '', label: 'all of these' },
            ...attributes.map((a) => ({ value: a, label: attributeInfo(a).label })),
          ]}
        />
      )}
      <div className="grid grid-cols-2 gap-2">
        <TimeField
          key={`fade of ${one}`}
          label="Fade, s"
          times={held.map((v) => v.fade_s)}
          write={(fade_s) => said({ command: 'times', ...of, fade_s })}
        />
        <TimeField
          key={`delay of ${one}`}
          label="Delay, s"
          times={held.map((v) => v.delay_s)}
          write={(delay_s) => said({ command: 'times', ...of, delay_s })}
        />
      </div>
      <Spread attributes={one ? [one] : attributes} count={chosen.length} />
    </>
  );
}

/** A time of several values: written for all of them where one is typed. Values that differ stay as they are until then. */
function TimeField({
  label,
  times,
  write,
}: {
  label: string;
  times: readonly number[];
  write: (seconds: number) => Promise<unknown>;
}) {
  const says = times.length === 0 ? '' : sayTimes(times, 2).replace(/\.?0+(?=–|$)/g, '');
  const shown = says.includes('–') ? '' : says;
  const { field } = useWriting(label, shown, (text) => {
    const seconds = Number(text.replace(',', '.'));
    if (text.trim() !== '' && Number.isFinite(seconds) && seconds >= 0) return write(seconds);
    notice.error(`“${text}” is no time: seconds, from 0 on. Nothing was changed.`);
    return undefined;
  });
  return <Field label={label} number {...field} placeholder={says} />;
}

function Spread({ attributes, count }: { attributes: readonly string[]; count: number }) {
  const [what, setWhat] = useState<'fade' | 'delay'>('fade');
  const [[from, to], setStops] = useState<[from: string, to: string]>(['0', '3']);
  const [shape, setShape] = useState(EVEN);
  const typed = [from, to];
  const stops = typed.map((s) => Number(s.replace(',', '.')));
  const isTyped = typed.every((t) => t.trim() !== '');
  const can =
    isTyped && stops.every((s) => s >= 0 && s < Infinity) && attributes.length > 0 && count > 1;
  const spread = (): void => {
    const mirrored = shape.pivot === 'mirrored';
    for (const attribute of attributes)
      void said({ command: 'fan', attribute, what, stops, ...shapeOf(shape), mirrored });
  };
  return (
    <>
      <p className="mt-3 mb-1 flex items-center gap-1.5 text-[12px] text-muted">
        <FoldHorizontal size={13} /> Spread over the selection, in its order
      </p>
      <div className="grid grid-cols-[76px_1fr_1fr_auto] items-end gap-2">
        <Choice
          label="What"
          value={what}
          onChange={(e) => setWhat(e.target.value as 'fade' | 'delay')}
          options={[
            { value: 'fade', label: 'fade' },
            { value: 'delay', label: 'delay' },
          ]}
        />
        <Field label="From" number value={from} onChange={(e) => setStops([e.target.value, to])} />
        <Field label="To" number value={to} onChange={(e) => setStops([from, e.target.value])} />
        <Button disabled={!can} onClick={spread}>
          Spread
        </Button>
      </div>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <FanShape count={count} stops={isTyped ? stops : []} shape={shape} onChange={setShape} />
      </div>
    </>
  );
}
