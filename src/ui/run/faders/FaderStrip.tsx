/** One fader: its level, what kind it is, its track, its name, the key under it, and its menu. */
'use client';
import { firstSo } from '@/core/first-so';
import {
  Settings2,
  ArrowDown,
  ArrowDownToLine,
  ArrowUp,
  ArrowUpFromLine,
  Gauge,
  MoveVertical,
} from 'lucide-react';
import type { ReactNode } from 'react';
import type { FaderRow } from '@/core/faders/rows';
import { FADERS_A_PAGE } from '@/core/live/thing';
import { KEYS, keyOf, sayKey } from '../../frame/key-table';
import { RowMenu } from '../../parts/RowMenu';
import type { Handle } from '../../parts/sortable';
import { useHold } from '../../parts/use-hold';
import { useFader } from '../../parts/use-fader';
import { live, streamCommand } from '../../state/commands';
import { usePreferences } from '../../state/preferences';
import { useScreen } from '../../state/store';

/** A fader as it is drawn. */
export interface Strip {
  key: string;
  number: number | null;
  name: string;
  level: number;
  real: number;
  waiting: boolean;
  flashing: boolean;
  says: string;
  set: (level: number) => void;
}

const KNOB_PX = 15;
/** From so many on, a name has two faders' width, and every other one stands a line lower. */
export const CROWDED = 8;
/** The part of a fader that a hand moves. */
export function Track({
  strip,
  disabled,
  tall,
}: {
  strip: Strip;
  disabled: boolean;
  tall: boolean;
}) {
  const { shown: level, handlers } = useFader(strip.level, disabled, KNOB_PX, strip.set);
  const solid = level > 0 ? 'bg-knob' : 'bg-knob-low';
  return (
    <div
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-orientation="vertical"
      aria-label={strip.name}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(strip.level * 100)}
      aria-valuetext={strip.says}
      aria-disabled={disabled}
      data-fader={strip.number ?? strip.key}
      {...handlers}
      className={`relative w-full touch-none rounded ${tall ? 'flex-1' : 'h-[120px]'} ${disabled ? '' : 'cursor-ns-resize'}`}
    >
      <i className="absolute inset-y-0 left-1/2 w-[5px] -translate-x-1/2 rounded bg-line" />
      <i
        className="absolute bottom-0 left-1/2 w-[5px] -translate-x-1/2 rounded bg-text"
        style={{ height: `${strip.real * 100}%`, opacity: strip.real > 0 ? 1 : 0 }}
      />
      {strip.waiting && (
        <i
          title="Waits here"
          className="absolute left-1/2 h-0.5 w-7 -translate-x-1/2 bg-warning"
          style={{ bottom: `calc(${strip.real} * (100% - 2px))` }}
        />
      )}
      <i
        className={`absolute left-1/2 h-[15px] w-[26px] max-w-[92%] -translate-x-1/2 rounded-[3px] ${strip.waiting ? 'bg-transparent shadow-[inset_0_0_0_1.5px_var(--color-warning)]' : solid}`}
        style={{ bottom: `calc(${level} * (100% - 15px))` }}
      >
        <i
          className={`absolute inset-x-[6px] top-[6.500px] h-[2px] ${strip.waiting ? 'bg-warning' : 'bg-track'}`}
        />
      </i>
    </div>
  );
}

/** Full while it is pressed: it ends with the finger that began it, also where that is taken away by the system or by a menu. */
function Flash({
  fader,
  disabled,
  children,
  ...rest
}: { fader: number; disabled: boolean; children: ReactNode } & Pick<
  React.ButtonHTMLAttributes<HTMLButtonElement>,
  'aria-label' | 'title' | 'className'
>) {
  const hold = useHold(disabled, (on) => void live({ command: 'flash', fader, on }));
  return (
    <button type="button" disabled={disabled} {...rest} {...hold}>
      {children}
    </button>
  );
}

function Name({
  crowded,
  at,
  of,
  warns,
  children,
}: {
  crowded: boolean;
  at: number;
  of: number;
  warns: boolean;
  children: string;
}) {
  const words = `truncate text-[11.5px] leading-4 ${warns ? 'text-warning' : 'text-soft'}`;
  if (!crowded) return <span className={`block h-5 w-full text-center ${words}`}>{children}</span>;
  const side = firstSo(
    [
      [at === 0, 'left-0 w-[150%] text-left'],
      [at === of - 1, 'right-0 w-[150%] text-right'],
    ],
    '-left-1/2 w-[200%] text-center',
  );
  return (
    <span className="relative block h-8 w-full">
      <span className={`absolute px-0.5 ${side} ${at % 2 === 0 ? 'top-0' : 'top-4'} ${words}`}>
        {children}
      </span>
    </span>
  );
}

/** Under the number, and in full. */
const KIND_WORDS: Record<FaderRow['mode'], readonly [short: string, full: string]> = {
  proportional: ['up', 'Brings up'],
  inhibiting: ['away', 'Takes away'],
  rate: ['pace', 'Paces'],
  size: ['size', 'Sizes'],
};
const KIND_SIGNS = {
  proportional: ArrowUpFromLine,
  inhibiting: ArrowDownToLine,
  rate: Gauge,
  size: MoveVertical,
} as const;

/** What kind of fader it is, by sign and word; for one that waits, which way to what it gives. */
function Kind({
  mode,
  strip,
  crowded,
}: {
  mode: FaderRow['mode'];
  strip: Strip;
  crowded: boolean;
}) {
  const Sign = KIND_SIGNS[mode];
  const [short, full] = KIND_WORDS[mode];
  if (strip.waiting)
    return (
      <span className="flex h-4 items-center gap-0.5 text-[11px] text-warning">
        {strip.real > strip.level ? <ArrowUp size={11} /> : <ArrowDown size={11} />}
        {!crowded && 'to '}
        {Math.round(strip.real * 100)}
      </span>
    );
  return (
    <span title={full} className="flex h-4 items-center gap-0.5 text-[11px] text-muted">
      <Sign size={11} aria-hidden="true" />
      {!crowded && short}
    </span>
  );
}

const KEY_SAYS: Record<FaderRow['flash'], { does: string; title: string; short?: string }> = {
  full: { does: 'Flash', title: 'Full while pressed' },
  solo: { does: 'Flash', title: 'Alone at full while pressed', short: 'solo' },
  toggle: { does: 'Full, or out:', title: 'To full, and out again', short: 'on/off' },
  go: { does: 'GO of', title: 'The next cue of its list', short: 'Go' },
};

/** The key on the keyboard that presses what lies under a fader, while its page is the one for keys. */
function keyOfFader({ number }: FaderRow, page: number): string | undefined {
  const n = number - (page - 1) * FADERS_A_PAGE;
  const id = KEYS.find((k) => k.id === `fader-key-${n}`)?.id;
  return id && sayKey(keyOf(id, usePreferences.getState().keys));
}

/** A fader that paces: 10 % at its foot, 100 in the middle, 1000 at the top. */
const pacePercent = (level: number): number => Math.round(10 ** (level * 2 - 1) * 100);

function sayFader(f: FaderRow, level: number, real: number, waiting: boolean): string {
  const pct = (v: number): string => `${Math.round(v * 100)} %`;
  if (waiting)
    return `${f.name} stands at ${pct(level)} and gives ${pct(real)}: it waits to be moved across that`;
  return f.mode === 'rate' ? `${f.name}, rate ${pacePercent(level)} %` : `${f.name} ${pct(level)}`;
}

const AT_REST = { level: 0, real: 0, waiting: false, flash: false };

/** A fader as it stands. Each is drawn again when it moves, and no other is. */
function useStrip(row: FaderRow): Strip {
  const now = useScreen((s) => s.playback.faders.find((f) => f.id === row.id));
  const { level, real, waiting, flash } = now ?? AT_REST;
  return {
    key: row.id,
    number: row.number,
    name: row.name,
    level,
    real: row.mode === 'rate' ? level : real,
    waiting,
    flashing: flash,
    says: sayFader(row, level, real, waiting),
    set: (to) =>
      streamCommand(`fader-${row.number}`, { command: 'fader', fader: row.number, level: to }),
  };
}

/** One fader with its key, or the place of one. */
export function FaderStrip({
  row,
  at,
  of,
  page,
  playing,
  handle,
  onChange,
}: {
  row: FaderRow;
  /** Its place among so many. */ at: number;
  of: number;
  /** The page that keys are for. */ page: number;
  playing: boolean;
  /** It is taken hold of by its name, where it may be moved. */ handle: Handle;
  /** Absent: the lock is not open. */ onChange: (() => void) | undefined;
}) {
  const strip = useStrip(row);
  const crowded = of >= CROWDED;
  const flashes =
    row.flash === 'toggle' || (row.mode === 'proportional' && row.holds.kind !== 'effect');
  const key = keyOfFader(row, page);
  const levelLook = strip.real > 0 ? 'font-semibold' : 'text-muted';
  const keyLook = strip.flashing ? 'bg-lime text-lime-ink' : 'bg-raised text-muted hover:bg-lift';
  return (
    <RowMenu
      label={`Menu of fader ${row.name}`}
      items={() => [
        {
          label: 'Full',
          disabled: !playing,
          run: () => void live({ command: 'fader', fader: row.number, level: 1, take: true }),
        },
        {
          label: 'Out',
          disabled: !playing,
          run: () => void live({ command: 'fader', fader: row.number, level: 0, take: true }),
        },
        {
          label: 'Out in 5 seconds',
          disabled: !playing,
          run: () =>
            void live({
              command: 'fader',
              fader: row.number,
              level: 0,
              time: 5,
              take: true,
            }),
        },
        {
          label: onChange ? 'Change it …' : 'Change it … (open the lock first)',
          first: true,
          disabled: !onChange,
          run: () => onChange?.(),
        },
      ]}
    >
      <div className="flex min-h-0 w-full flex-1 flex-col items-center gap-1" title={strip.says}>
        <span className={`num text-[13px] ${strip.waiting ? 'text-warning' : levelLook}`}>
          {row.mode === 'rate' ? pacePercent(strip.level) : Math.round(strip.level * 100)}
        </span>
        <Kind mode={row.mode} strip={strip} crowded={crowded} />
        <Track strip={strip} disabled={!playing} tall />
        <span
          className={handle ? 'block w-full cursor-grab touch-none' : 'block w-full'}
          title={handle ? 'Drag it to its place, or Alt and the arrows' : undefined}
          {...handle}
        >
          <Name crowded={crowded} at={at} of={of} warns={strip.waiting}>
            {row.name}
          </Name>
        </span>
        <Flash
          fader={row.number}
          disabled={!playing || !flashes}
          aria-label={`${KEY_SAYS[row.flash].does} ${row.name}${row.flash === 'solo' ? ', alone' : ''}`}
          title={flashes ? `${KEY_SAYS[row.flash].title}${key ? ` (${key})` : ''}` : undefined}
          className={`h-9 w-[calc(100%-3px)] rounded-md text-[11px] ${flashes ? keyLook : 'invisible'}`}
        >
          {KEY_SAYS[row.flash].short ?? row.number}
        </Flash>
        {onChange && (
          <button
            type="button"
            aria-label={`Change fader ${row.name}`}
            onClick={onChange}
            className="grid h-7 w-full place-items-center rounded-md text-muted hover:bg-raised"
          >
            <Settings2 size={13} />
          </button>
        )}
      </div>
    </RowMenu>
  );
}
