/** Position: pan and tilt by hand, in degrees, the other way round, or at a point of the stage. */
'use client';
import { clamp } from '@/core/numbers';
import { Crosshair, FlipHorizontal2, Spline } from 'lucide-react';
import { useRef } from 'react';
import { inOrder } from '@/core/plan/edits';
import { useKeyName } from '../../frame/keys';
import { Pad } from '../../parts/controls';
import { said, streamCommand } from '../../state/commands';
import { setTool, useStage } from '../../state/stage';
import { useShow } from '../../state/store';
import { useRange, type Chosen } from './chosen';
import { Value } from './Line';
import { FanButton, Section } from './Section';

/** With Shift the hand moves a tenth as far. */
const FINE = 0.1;

type Range = ReturnType<typeof useRange>;
const hasUnits = ({ able }: Range): boolean => able.length > 0;
/** How many points are offered here; all of them are in the shelf. */
const MOST_POINTS = 12;

/** Puts pan and tilt where the hand is, for those that have them; 0 to 1 both. */
function put(pan: number | undefined, tilt: number | undefined): void {
  if (pan !== undefined)
    streamCommand('Pan', { command: 'set', attribute: 'Pan', level: clamp(pan) });
  if (tilt !== undefined)
    streamCommand('Tilt', { command: 'set', attribute: 'Tilt', level: clamp(tilt) });
}

/** Pan and tilt, and where that is on stage. */
export function PositionControl({
  chosen,
  disabled,
}: {
  chosen: readonly Chosen[];
  disabled: boolean;
}) {
  const pan = useRange(chosen, 'Pan');
  const tilt = useRange(chosen, 'Tilt');
  if (!hasUnits(pan) && !hasUnits(tilt)) return null;
  const both = hasUnits(pan) && hasUnits(tilt);
  return (
    <Section title="Position" family="position" chosen={chosen} disabled={disabled}>
      <div className="flex gap-3">
        <PanTilt pan={pan} tilt={tilt} disabled={disabled} />
        <div className="min-w-0 flex-1">
          {hasUnits(pan) && <Turn attribute="Pan" chosen={pan.able} disabled={disabled} />}
          {hasUnits(tilt) && <Turn attribute="Tilt" chosen={tilt.able} disabled={disabled} />}
          {both && <Tools disabled={disabled} />}
        </div>
      </div>
      {both && <AimAt disabled={disabled} />}
    </Section>
  );
}

/** Both by one hand; with Shift a tenth as far, from where it was pressed. */
function PanTilt({ pan, tilt, disabled }: { pan: Range; tilt: Range; disabled: boolean }) {
  const fine = useRef<{ x: number; y: number; pan: number; tilt: number } | null>(null);
  const shift = useRef(false);
  const to = (p: number, t: number): void =>
    put(hasUnits(pan) ? p : undefined, hasUnits(tilt) ? t : undefined);
  const point = (x: number, y: number): void => {
    if (!shift.current) {
      fine.current = null;
      to(x, 1 - y);
      return;
    }
    fine.current ??= { x, y, pan: pan.level, tilt: tilt.level };
    const from = fine.current;
    to(from.pan + (x - from.x) * FINE, from.tilt - (y - from.y) * FINE);
  };
  return (
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
        onPoint={point}
        onStep={(dx, dy) => to(pan.level + dx * 0.005, tilt.level + dy * 0.005)}
        className="size-[104px] rounded-lg bg-ink shadow-[inset_0_0_0_1px_var(--color-line)]"
      >
        <i className="absolute inset-x-2 top-1/2 h-px bg-line" />
        <i className="absolute inset-y-2 left-1/2 w-px bg-line" />
        <i
          className="pointer-events-none absolute size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-text"
          style={{
            left: `${(hasUnits(pan) ? pan.level : 0.5) * 100}%`,
            top: `${(1 - (hasUnits(tilt) ? tilt.level : 0.5)) * 100}%`,
          }}
        />
      </Pad>
    </div>
  );
}

function Turn({
  attribute,
  chosen,
  disabled,
}: {
  attribute: 'Pan' | 'Tilt';
  chosen: readonly Chosen[];
  disabled: boolean;
}) {
  return (
    <div className="flex h-8 items-center gap-1.5">
      <span className="flex-1 text-soft">{attribute}</span>
      <Value chosen={chosen} attribute={attribute} disabled={disabled} label={attribute} />
      <FanButton
        attribute={attribute}
        label={attribute.toLowerCase()}
        chosen={chosen}
        disabled={disabled}
      />
    </div>
  );
}

/** Looking at a point, along a line, and the other way round. */
function Tools({ disabled }: { disabled: boolean }) {
  const keyName = useKeyName();
  const tool = useStage((s) => s.tool);
  return (
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
  );
}

/** Position palettes that are a point of the stage, to look at at once. */
function AimAt({ disabled }: { disabled: boolean }) {
  const points = inOrder(
    [...useShow().palettes.values()].filter((p) => p.family === 'position' && p.any?.point),
  );
  if (points.length === 0) return null;
  return (
    <div className="mt-2" role="group" aria-label="Aim at">
      <span className="cap">Aim at</span>
      <div className="mt-1 flex flex-wrap gap-1">
        {points.slice(0, MOST_POINTS).map((p) => (
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
