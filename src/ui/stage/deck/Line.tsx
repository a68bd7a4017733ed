/** A control for one attribute: a slider with the range that the selection shows, a number in its unit, a fan. */
'use client';
import { arrowStep } from '../../parts/arrow-step';
import { clamp } from '@/core/numbers';
import { useRef, useState } from 'react';
import { attributeInfo } from '@/core/rig/attributes';
import { levelInUnit, unitOfLevel } from '@/core/rig/unit-value';
import { said, streamCommand } from '../../state/commands';
import { notice } from '../../state/messages';
import { CellEditor } from '../../parts/CellEditor';
import { Scrub } from '../../parts/controls';
import { useDrag } from '../../parts/use-drag';
import { useRange, type Chosen } from './chosen';
import { FanButton } from './Section';

function Slider({
  label,
  low,
  high,
  disabled,
  onChange,
}: {
  label: string;
  low: number;
  high: number;
  disabled: boolean;
  onChange: (level: number) => void;
}) {
  const track = useRef<HTMLDivElement>(null);
  const under = (e: React.PointerEvent): number => {
    const r = track.current?.getBoundingClientRect();
    return r ? (e.clientX - r.left) / r.width : 0;
  };
  // On the knob it moves by as much as the hand does; elsewhere it comes to the hand.
  const drag = useDrag<{ off: number }>({
    begin: (e) => {
      if (disabled) return null;
      const off = high - under(e);
      if (Math.abs(off) * (track.current?.clientWidth ?? 0) < KNOB_PX) return { off };
      onChange(clamp(under(e)));
      return { off: 0 };
    },
    move: ({ off }, e) => !disabled && onChange(clamp(under(e) + off)),
  });
  return (
    <div
      ref={track}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(high * 100)}
      aria-disabled={disabled}
      {...drag}
      onWheel={(e) => !disabled && onChange(clamp(high - Math.sign(e.deltaY) * 0.01))}
      onKeyDown={(e) => {
        const step = 0.05 * arrowStep(e.key);
        if (disabled || step === 0) return;
        e.preventDefault();
        onChange(clamp(Math.round((high + step) * 20) / 20));
      }}
      className="relative h-7 min-w-0 flex-1 touch-none select-none"
    >
      <i className="absolute inset-x-0 top-3 h-1 rounded bg-lift" />
      <i
        className="absolute top-3 left-0 h-1 rounded bg-soft"
        style={{ width: `${high * 100}%` }}
      />
      {high - low > 0.005 && (
        <i
          className="absolute top-3 h-1 rounded bg-muted"
          style={{ left: `${low * 100}%`, width: `${(high - low) * 100}%` }}
        />
      )}
      <i
        className="absolute top-1 h-5 w-3 -translate-x-1/2 rounded bg-text shadow-[0_0_0_3px_var(--color-panel)] after:absolute after:top-[5px] after:left-[5.5px] after:h-2.5 after:w-px after:bg-faint"
        style={{ left: `${high * 100}%` }}
      />
    </div>
  );
}
const KNOB_PX = 9;

/** `70`, `+10`, `-5`, `*0.9`: absolute, more, less, times. */
function readTyped(
  text: string,
): { add: number } | { times: number } | { value: number } | undefined {
  const t = text.trim().replace(',', '.');
  const scale = /^[*x×]\s*(\d+(?:\.\d+)?)$/.exec(t);
  if (scale) return { times: Number(scale[1]) };
  const add = /^\+\s*(\d+(?:\.\d+)?)$/.exec(t) ?? /^(?:\+?-|−)\s*=\s*(\d+(?:\.\d+)?)$/.exec(t);
  if (add)
    return { add: t.startsWith('+') && !t.startsWith('+-') ? Number(add[1]) : -Number(add[1]) };
  const value = Number(t);
  return t !== '' && Number.isFinite(value) ? { value } : undefined;
}

/** A number that shows the selection's range; drag, wheel, or type `70`, `+10`, `*0.9`. */
export function Value({
  chosen,
  attribute,
  disabled,
  label,
}: {
  chosen: readonly Chosen[];
  attribute: string;
  disabled: boolean;
  label: string;
}) {
  const { low, high, channel } = useRange(chosen, attribute);
  const [typing, setTyping] = useState(false);
  const info = attributeInfo(attribute);
  const percent = info.unit === '%' || info.unit === 'slot' || !channel;
  const [from, to] = percent
    ? [0, 100]
    : [unitOfLevel(attribute, channel, 0), unitOfLevel(attribute, channel, 1)];
  const unit = info.unit === 'slot' ? '%' : info.unit;
  const finish = (text: string): void => {
    setTyping(false);
    if (text.trim() === '') return;
    const typed = readTyped(text);
    if (!typed) {
      notice.error(`“${text}” is no value: 70, +10, -=5 or *0.9. ${label} stays as it is.`);
      return;
    }
    if ('value' in typed) void said({ command: 'set', attribute, physical: typed.value });
    // A percentage below nothing can only mean less than now.
    else void said({ command: 'nudge', attribute, ...typed });
  };
  if (typing) {
    return (
      <CellEditor
        label={`${label} value`}
        text={high.toFixed(percent ? 0 : 1)}
        first={null}
        onKeep={finish}
        onLeave={() => setTyping(false)}
        className="num h-7 w-20 rounded bg-ink px-1.5 text-right text-[13px] shadow-[inset_0_0_0_1.5px_var(--color-standby)] outline-none"
      />
    );
  }
  const mixed = high - low > (percent ? 0.5 : 0.05);
  return (
    <span
      className="flex flex-none items-center justify-end"
      onDoubleClickCapture={(e) => {
        if (disabled) return;
        e.stopPropagation();
        setTyping(true);
      }}
    >
      {mixed && <span className="num text-[12px] text-muted">{low.toFixed(0)}–</span>}
      <Scrub
        label={`${label} value`}
        value={high}
        digits={!percent && Math.abs(to - from) < 100 ? 1 : 0}
        unit={unit}
        min={Math.min(from, to)}
        max={Math.max(from, to)}
        step={percent ? 1 : Math.abs(to - from) / 200}
        disabled={disabled}
        onChange={(v) =>
          mixed
            ? streamCommand(`nudge-${performance.now()}`, {
                command: 'nudge',
                attribute,
                add: v - high,
              })
            : streamCommand(attribute, { command: 'set', attribute, physical: v })
        }
      />
    </span>
  );
}

/** One attribute as a line that is dragged along or typed into. */
export function Line({
  chosen,
  attribute,
  disabled,
  labelled = true,
  slider = true,
  fan = true,
}: {
  chosen: readonly Chosen[];
  attribute: string;
  disabled: boolean;
  labelled?: boolean;
  slider?: boolean;
  fan?: boolean;
}) {
  const { lowLevel, level, able, channel } = useRange(chosen, attribute);
  const info = attributeInfo(attribute);
  const unlike =
    new Set(able.map((c) => c.mode)).size > 1 && info.unit !== '%' && info.unit !== 'slot';
  if (able.length === 0) return null;
  // Units with other ranges take the same physical value, each in its own range.
  const put = (to: number): void =>
    streamCommand(
      attribute,
      unlike
        ? { command: 'set', attribute, physical: unitOfLevel(attribute, channel, to) }
        : { command: 'set', attribute, level: to },
    );
  const [a, b] =
    unlike && channel
      ? [
          levelInUnit(attribute, channel, unitOfLevel(attribute, channel, lowLevel)),
          levelInUnit(attribute, channel, unitOfLevel(attribute, channel, level)),
        ]
      : [lowLevel, level];
  return (
    <div className="flex h-8 items-center gap-2">
      {labelled && (
        <span className="w-[86px] flex-none truncate text-soft" title={info.label}>
          {info.label}
        </span>
      )}
      {slider ? (
        <Slider label={info.label} low={a} high={b} disabled={disabled} onChange={put} />
      ) : (
        <span className="flex-1" />
      )}
      <span className="flex w-[80px] flex-none justify-end">
        <Value chosen={able} attribute={attribute} disabled={disabled} label={info.label} />
      </span>
      {fan && (
        <FanButton
          attribute={attribute}
          label={info.label.toLowerCase()}
          chosen={able}
          disabled={disabled}
        />
      )}
    </div>
  );
}
