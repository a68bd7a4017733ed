/** Position: pan and tilt by hand, in degrees, the other way round, or at a point of the stage. */
'use client';
import { clamp } from '@/core/numbers';
import { Crosshair, FlipHorizontal2, Spline } from 'lucide-react';
import { useRef } from 'react';
import { inOrder } from '@/core/plan/edits';
import { useKeyName } from '../../frame/keys';
import { Pad } from '../../parts/controls';
import { said, streamCommand } from '../../state/actions';
import { setTool, useStage } from '../../state/stage';
import { useShow } from '../../state/store';
import { useRange, type Chosen } from './chosen';
import { Value } from './Line';
import { FanButton, Section } from './Section';

/** With Shift the hand moves a tenth as far. */
const FINE = 0.1;

export function PositionControl({
  chosen,
  disabled,
}: {
  chosen: readonly Chosen[];
  disabled: boolean;
}) {
  const keyName = useKeyName();
  const show = useShow();
  const tool = useStage((s) => s.tool);
  const pan = useRange(chosen, 'Pan');
  const tilt = useRange(chosen, 'Tilt');
  const fine = useRef<{ x: number; y: number; pan: number; tilt: number } | null>(null);
  const shift = useRef(false);
  if (pan.able.length === 0 && tilt.able.length === 0) return null;
  const put = (p: number, t: number): void => {
    if (pan.able.length > 0)
      streamCommand('Pan', {
        command: 'set',
        attribute: 'Pan',
        level: clamp(p),
      });
    if (tilt.able.length > 0)
      streamCommand('Tilt', {
        command: 'set',
        attribute: 'Tilt',
        level: clamp(t),
      });
  };
  const points = inOrder(
    [...show.palettes.values()].filter((p) => p.family === 'position' && p.any?.point),
  );
  const both = pan.able.length > 0 && tilt.able.length > 0;
  return (
    <Section title="Position" family="position" chosen={chosen} disabled={disabled}>
      <div className="flex gap-3">
        <div
          className="flex-none"
          onPointerDownCapture={(e) => {
            shift.current = e.shiftKey;
            fine.current = null;
          }}
          onPointerMoveCapture={(e) => (shift.current = e.shiftKey)}
        >
          <Pad
            label="Pan and tilt"
            says={`pan ${(pan.level * 100).toFixed(0)} percent, tilt ${(tilt.level * 100).toFixed(0)} percent; Shift for fine`}
            disabled={disabled}
            onPoint={(x, y) => {
              if (!shift.current) {
                fine.current = null;
                put(x, 1 - y);
                return;
              }
              fine.current ??= { x, y, pan: pan.level, tilt: tilt.level };
              put(
                fine.current.pan + (x - fine.current.x) * FINE,
                fine.current.tilt - (y - fine.current.y) * FINE,
              );
            }}
            onStep={(dx, dy) => put(pan.level + dx * 0.005, tilt.level + dy * 0.005)}
            className="size-[104px] rounded-lg bg-ink shadow-[inset_0_0_0_1px_var(--color-line)]"
          >
            <i className="absolute inset-x-2 top-1/2 h-px bg-line" />
            <i className="absolute inset-y-2 left-1/2 w-px bg-line" />
            <i
              className="pointer-events-none absolute size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-text"
              style={{
                left: `${(pan.able.length > 0 ? pan.level : 0.5) * 100}%`,
                top: `${(1 - (tilt.able.length > 0 ? tilt.level : 0.5)) * 100}%`,
              }}
            />
          </Pad>
        </div>
        <div className="min-w-0 flex-1">
          {[['Pan', pan] as const, ['Tilt', tilt] as const].map(
            ([attribute, range]) =>
              range.able.length > 0 && (
                <div key={attribute} className="flex h-8 items-center gap-1.5">
                  <span className="flex-1 text-soft">{attribute}</span>
                  <Value
                    chosen={range.able}
                    attribute={attribute}
                    disabled={disabled}
                    label={attribute}
                  />
                  <FanButton
                    attribute={attribute}
                    label={attribute.toLowerCase()}
                    chosen={range.able}
                    disabled={disabled}
                  />
                </div>
              ),
          )}
          {both && (
            <div className="mt-1 flex gap-1.5">
              <ToolButton
                on={tool === 'aim'}
                label="Aim"
                title={`Click where they should look, on the plan or the floor (${keyName('aim')})`}
                disabled={disabled}
                onClick={() => setTool('aim')}
                icon={<Crosshair size={14} />}
              />
              <ToolButton
                on={tool === 'line'}
                label="Line"
                title="Drag a line: they share it out in their order"
                disabled={disabled}
                onClick={() => setTool('line')}
                icon={<Spline size={14} />}
              />
              <button
                type="button"
                disabled={disabled}
                aria-label="Flip"
                title="The other way to look there: turned round and leaned back"
                onClick={() => void said({ command: 'flip' })}
                className="grid size-7 flex-none place-items-center rounded-md bg-raised text-soft hover:bg-lift disabled:opacity-45"
              >
                <FlipHorizontal2 size={14} />
              </button>
            </div>
          )}
        </div>
      </div>
      {both && points.length > 0 && (
        <div className="mt-2" role="group" aria-label="Aim at">
          <span className="cap">Aim at</span>
          <div className="mt-1 flex flex-wrap gap-1">
            {points.slice(0, 12).map((p) => (
              <button
                key={p.id}
                type="button"
                disabled={disabled}
                title={`Position palette ${p.number}; what is recorded follows it`}
                onClick={() => void said({ command: 'palette', palette: p.id })}
                className="h-7 max-w-[130px] truncate rounded bg-raised px-2 text-[12px] text-soft hover:bg-lift disabled:opacity-45"
              >
                {p.name}
              </button>
            ))}
          </div>
        </div>
      )}
    </Section>
  );
}

function ToolButton({
  on,
  label,
  title,
  disabled,
  onClick,
  icon,
}: {
  on: boolean;
  label: string;
  title: string;
  disabled: boolean;
  onClick: () => void;
  icon: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      title={title}
      disabled={disabled}
      onClick={onClick}
      className={`flex h-7 min-w-0 flex-1 items-center justify-center gap-1.5 rounded-md px-2 text-[12px] ${on ? 'bg-standby-wash text-standby shadow-[inset_0_0_0_1px_var(--color-standby)]' : 'bg-raised text-soft hover:bg-lift'} disabled:opacity-45`}
    >
      {icon}
      {label}
    </button>
  );
}
