/** Faders with names: moved by hand, wheel and keys; flash beneath; a fader that waits to be picked up says so. */
'use client';
import { boardOver } from '@/core/live/boards';
import { FADERS_A_PAGE } from '@/core/live/thing';
import {
  ChevronDown,
  ChevronLeft,
  ChevronRight,
  MoonStar,
  Plus,
  Settings2,
  ArrowDown,
  ArrowDownToLine,
  ArrowUp,
  ArrowUpFromLine,
  Gauge,
  MoveVertical,
} from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { FaderRow } from '@/core/faders/rows';
import { MENU, MENU_ITEM } from '../parts/menu';
import { Rename } from '../parts/Rename';
import { KEYS, keyOf, sayKey } from '../frame/key-table';
import { usePreferences } from '../state/preferences';
import { sayPages, screensOf } from './fader-pages';
import { RowMenu } from '../parts/RowMenu';
import { useBox } from '../parts/use-box';
import { useDrag } from '../parts/use-drag';
import { useFader } from '../parts/use-fader';
import { edit, live, streamCommand } from '../state/actions';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { useRun } from '../state/run';
import { FaderDialog } from './FaderDialog';
import { useParts } from '../state/use-parts';

interface Strip {
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
const CROWDED = 8;
/** Narrower than this a knob touches its neighbours; where they do not all fit, pages of easier ones. */
const NARROWEST_PX = 25;
const EASY_PX = 34;

function Track({ strip, disabled, tall }: { strip: Strip; disabled: boolean; tall: boolean }) {
  const { shown: level, handlers } = useFader(strip.level, disabled, KNOB_PX, strip.set);
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
        className={`absolute left-1/2 h-[15px] w-[26px] max-w-[92%] -translate-x-1/2 rounded-[3px] ${strip.waiting ? 'bg-transparent shadow-[inset_0_0_0_1.5px_var(--color-warning)]' : level > 0 ? 'bg-knob' : 'bg-knob-low'}`}
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
  const press = (on: boolean): void => void live({ command: 'flash', fader, on });
  const keyed = useRef(false);
  const drag = useDrag<true>({
    begin: () => (disabled ? null : (press(true), true)),
    move: () => undefined,
    end: () => press(false),
  });
  const up = (): void => {
    if (keyed.current) press(false);
    keyed.current = false;
  };
  return (
    <button
      type="button"
      disabled={disabled}
      {...rest}
      {...drag}
      onKeyDown={(e) => {
        if ((e.key !== 'Enter' && e.key !== ' ') || e.repeat) return;
        e.preventDefault();
        e.stopPropagation();
        keyed.current = true;
        press(true);
      }}
      onKeyUp={up}
      onBlur={up}
    >
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
  if (!crowded) return <span className={`h-5 w-full text-center ${words}`}>{children}</span>;
  const side =
    at === 0
      ? 'left-0 w-[150%] text-left'
      : at === of - 1
        ? 'right-0 w-[150%] text-right'
        : '-left-1/2 w-[200%] text-center';
  return (
    <span className="relative h-8 w-full flex-none">
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

function sayFader(f: FaderRow, level: number, real: number, waiting: boolean): string {
  const pct = (v: number): string => `${Math.round(v * 100)} %`;
  if (waiting)
    return `${f.name} stands at ${pct(level)} and gives ${pct(real)}: it waits to be moved across that`;
  return f.mode === 'rate'
    ? `${f.name}, rate ${Math.round(10 ** (level * 2 - 1) * 100)} %`
    : `${f.name} ${pct(level)}`;
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

/** Which pages are in sight, by their names; another, and what this one is called. */
function PagesMenu({
  says,
  screens,
  at,
  onTurn,
  onName,
}: {
  says: string;
  screens: readonly string[];
  at: number;
  onTurn: (to: number) => void;
  onName: (() => void) | undefined;
}) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`Pages of faders: ${says}`}
        className="mr-auto ml-1 flex h-6 min-w-0 items-center gap-1 rounded px-1.5 text-[12px] text-soft hover:bg-raised"
      >
        <span className="truncate">{says}</span> <ChevronDown size={12} className="flex-none" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" className={MENU}>
          {screens.map((s, i) => (
            <DropdownMenu.Item key={s} className={MENU_ITEM} onSelect={() => onTurn(i)}>
              {s}
              {i === at ? ' ·' : ''}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 h-px bg-line" />
          <DropdownMenu.Item
            disabled={!onName}
            className={MENU_ITEM}
            onSelect={() => onName && setTimeout(onName)}
          >
            {onName ? 'Name this page …' : 'Name this page … (open the lock first)'}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export function Faders() {
  const show = useShow();
  const { playback, you, connection } = useParts(useScreen, 'playback', 'you', 'connection');
  const locked = useRun((s) => s.locked);
  const [editing, setEditing] = useState<FaderRow | 'new' | null>(null);
  const playing = mayPlay(you.role) && connection === 'live';
  const opened = mayEdit(you.role) && !locked;
  const rows = [...show.faders.values()].sort((a, b) => a.number - b.number);
  const strips = rows.map((f): { row: FaderRow; strip: Strip } => {
    const s = playback.faders.find((x) => x.id === f.id) ?? {
      level: 0,
      real: 0,
      waiting: false,
      flash: false,
    };
    return {
      row: f,
      strip: {
        key: f.id,
        number: f.number,
        name: f.name,
        level: s.level,
        real: f.mode === 'rate' ? s.level : s.real,
        waiting: s.waiting,
        flashing: s.flash,
        says: sayFader(f, s.level, s.real, s.waiting),
        set: (level) =>
          streamCommand(`fader-${f.number}`, { command: 'fader', fader: f.number, level }),
      },
    };
  });
  // As many as are seen whole; the others are a page away, and none is cut.
  const box = useRef<HTMLDivElement>(null);
  const { width: room } = useBox(box);
  const all = room === 0 ? strips.length : Math.max(1, Math.floor(room / NARROWEST_PX));
  const each = strips.length <= all ? all : Math.max(1, Math.floor(room / EASY_PX));
  const screens = screensOf(
    strips.map((s) => ({ ...s, number: s.row.number })),
    Math.max(1, each),
  );
  const pages = Math.max(1, screens.length);
  const [turned, setTurned] = useState(0);
  const page = Math.min(turned, pages - 1);
  const shown = screens[page]?.faders ?? [];
  const inSight = screens[page]?.pages ?? [1];
  const [keyed = 1] = inSight;
  useEffect(() => useRun.setState({ faderPage: keyed }), [keyed]);
  const names = show.settings.get('show')?.faderPages;
  const [naming, setNaming] = useState(false);
  // The first that is somebody else's: faders of one view may be of two pages.
  const board = shown
    .flatMap(
      ({ row }) =>
        boardOver(playback.boards, { faders: Math.ceil(row.number / FADERS_A_PAGE) }) ?? [],
    )
    .find((b) => b.userId !== you.userId);
  const crowded = shown.length >= CROWDED;
  const grand: Strip = {
    key: 'grand',
    number: null,
    name: 'Grand master',
    level: playback.master,
    real: playback.blackout ? 0 : playback.master,
    waiting: false,
    flashing: false,
    says: `Grand master ${Math.round(playback.master * 100)} %${playback.blackout ? ', blackout' : ''}`,
    set: (level) => streamCommand('master', { command: 'master', level }),
  };
  return (
    <section
      aria-label="Faders"
      className="flex min-h-0 flex-1 flex-col border-t border-line px-2.5 pt-2 pb-1.5"
    >
      <header className="flex h-6 items-center justify-between">
        <h2 className="cap flex-none">Faders</h2>
        {rows.length > 0 && (
          <PagesMenu
            says={sayPages(inSight, names)}
            screens={screens.map((s) => sayPages(s.pages, names))}
            at={page}
            onTurn={setTurned}
            onName={opened ? () => setNaming(true) : undefined}
          />
        )}
        {board && (
          <span className="ml-2 truncate text-[12px] text-muted">{board.name} plays them</span>
        )}
        {pages > 1 && (
          <span className="mr-2 ml-auto flex items-center gap-1 text-[12px] text-soft">
            <button
              type="button"
              aria-label="Faders before"
              disabled={page === 0}
              onClick={() => setTurned(page - 1)}
              className="grid h-7 w-9 place-items-center rounded-md bg-raised hover:bg-lift disabled:text-faint"
            >
              <ChevronLeft size={15} />
            </button>
            <span className="num whitespace-nowrap">
              {page + 1} of {pages}
            </span>
            <button
              type="button"
              aria-label="Faders after"
              disabled={page === pages - 1}
              onClick={() => setTurned(page + 1)}
              className="grid h-7 w-9 place-items-center rounded-md bg-raised hover:bg-lift disabled:text-faint"
            >
              <ChevronRight size={15} />
            </button>
          </span>
        )}
        {opened && (
          <button
            type="button"
            title="New fader"
            aria-label="New fader"
            onClick={() => setEditing('new')}
            className="grid size-7 place-items-center rounded-md text-soft hover:bg-raised"
          >
            <Plus size={15} />
          </button>
        )}
      </header>
      <div className="flex min-h-0 flex-1 gap-2">
        <div
          ref={box}
          className="grid min-h-0 min-w-0 flex-1 auto-cols-[minmax(0,1fr)] grid-flow-col gap-0 overflow-hidden"
        >
          {rows.length === 0 && (
            <p className="col-span-full self-center text-[12.5px] leading-[18px] text-muted">
              No faders yet. Open the lock, then make one: a list, a look, a group or an effect
              under your hand.
            </p>
          )}
          {shown.map(({ row, strip }, i) => {
            const flashes =
              row.flash === 'toggle' ||
              (row.mode === 'proportional' && row.holds.kind !== 'effect');
            const key = keyOfFader(row, keyed);
            return (
              <RowMenu
                key={strip.key}
                label={`Menu of fader ${row.name}`}
                items={() => [
                  {
                    label: 'Full',
                    disabled: !playing,
                    run: () =>
                      void live({ command: 'fader', fader: row.number, level: 1, take: true }),
                  },
                  {
                    label: 'Out',
                    disabled: !playing,
                    run: () =>
                      void live({ command: 'fader', fader: row.number, level: 0, take: true }),
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
                    label: opened ? 'Change it …' : 'Change it … (open the lock first)',
                    first: true,
                    disabled: !opened,
                    run: () => setEditing(row),
                  },
                ]}
              >
                <div className="flex min-h-0 flex-col items-center gap-1" title={strip.says}>
                  <span
                    className={`num text-[13px] ${strip.waiting ? 'text-warning' : strip.real > 0 ? 'font-semibold' : 'text-muted'}`}
                  >
                    {row.mode === 'rate'
                      ? Math.round(10 ** (strip.level * 2 - 1) * 100)
                      : Math.round(strip.level * 100)}
                  </span>
                  <Kind mode={row.mode} strip={strip} crowded={crowded} />
                  <Track strip={strip} disabled={!playing} tall />
                  <Name crowded={crowded} at={i} of={shown.length} warns={strip.waiting}>
                    {row.name}
                  </Name>
                  <Flash
                    fader={row.number}
                    disabled={!playing || !flashes}
                    aria-label={`${KEY_SAYS[row.flash].does} ${row.name}${row.flash === 'solo' ? ', alone' : ''}`}
                    title={
                      flashes ? `${KEY_SAYS[row.flash].title}${key ? ` (${key})` : ''}` : undefined
                    }
                    className={`h-9 w-[calc(100%-3px)] rounded-md text-[11px] ${!flashes ? 'invisible' : strip.flashing ? 'bg-lime text-lime-ink' : 'bg-raised text-muted hover:bg-lift'}`}
                  >
                    {KEY_SAYS[row.flash].short ?? row.number}
                  </Flash>
                  {opened && (
                    <button
                      type="button"
                      aria-label={`Change fader ${row.name}`}
                      onClick={() => setEditing(row)}
                      className="grid h-7 w-full place-items-center rounded-md text-muted hover:bg-raised"
                    >
                      <Settings2 size={13} />
                    </button>
                  )}
                </div>
              </RowMenu>
            );
          })}
        </div>
        <div
          className="flex w-11 flex-none flex-col items-center gap-1 border-l border-line pl-1.5"
          title={grand.says}
        >
          <span
            className={`num text-[13px] font-semibold ${playback.blackout || playback.master < 1 ? 'text-warning' : ''}`}
          >
            {Math.round(playback.master * 100)}
          </span>
          <Track strip={grand} disabled={!playing} tall />
          <span className={`text-[12px] leading-4 font-semibold ${crowded ? 'h-8' : 'h-5'}`}>
            Grand
          </span>
          <button
            type="button"
            aria-pressed={playback.blackout}
            aria-label="Blackout, from the faders"
            title={playback.blackout ? 'End the blackout' : 'Blackout: house lights stay'}
            disabled={!playing}
            onClick={() => void live({ command: 'blackout', on: !playback.blackout })}
            className={`grid h-9 w-full place-items-center rounded-md ${playback.blackout ? 'bg-warning text-ink' : 'bg-raised text-soft hover:bg-lift'}`}
          >
            <MoonStar size={14} />
          </button>
          {opened && <span className="h-7" />}
        </div>
      </div>
      {naming && (
        <Rename
          title={`Name of faders ${(keyed - 1) * FADERS_A_PAGE + 1} to ${keyed * FADERS_A_PAGE}`}
          name={names?.[String(keyed)] ?? ''}
          empty
          onSave={(name) => void edit('name-fader-page', { page: keyed, name })}
          onClose={() => setNaming(false)}
        />
      )}
      {editing && (
        <FaderDialog fader={editing === 'new' ? null : editing} onClose={() => setEditing(null)} />
      )}
    </section>
  );
}
