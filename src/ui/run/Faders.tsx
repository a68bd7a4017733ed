/** Faders with names: moved by hand, wheel and keys; flash beneath; a fader that waits to be picked up says so. */
'use client';
import { boardOver } from '@/core/live/boards';
import { FADERS_A_PAGE } from '@/core/live/thing';
import { ChevronLeft, ChevronRight, MoonStar, Plus } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { FaderRow } from '@/core/faders/rows';
import { Rename } from '../parts/Rename';
import { sayPages, screensOf } from './faders/pages';
import { Sortable, SortableItem } from '../parts/sortable';
import { useBox } from '../parts/use-box';
import { edit, live, streamCommand } from '../state/actions';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { useRun } from '../state/run';
import { FaderStrip, Track, CROWDED, type Strip } from './faders/FaderStrip';
import { PagesMenu } from './faders/PagesMenu';
import { FaderDialog } from './faders/FaderDialog';
import { useParts } from '../state/use-parts';

/** Narrower than this a knob touches its neighbours; where they do not all fit, pages of easier ones. */
const NARROWEST_PX = 25;
const EASY_PX = 34;

function sayFader(f: FaderRow, level: number, real: number, waiting: boolean): string {
  const pct = (v: number): string => `${Math.round(v * 100)} %`;
  if (waiting)
    return `${f.name} stands at ${pct(level)} and gives ${pct(real)}: it waits to be moved across that`;
  return f.mode === 'rate'
    ? `${f.name}, rate ${Math.round(10 ** (level * 2 - 1) * 100)} %`
    : `${f.name} ${pct(level)}`;
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
  const order = (ids: string[]): void => void edit('order-faders', { ids });
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
          <Sortable ids={shown.map(({ row }) => row.id)} onOrder={opened ? order : undefined}>
            {shown.map(({ row, strip }, i) => (
              <SortableItem key={row.id} id={row.id} className="flex min-h-0 min-w-0 flex-col">
                {(handle) => (
                  <FaderStrip
                    row={row}
                    strip={strip}
                    at={i}
                    of={shown.length}
                    page={keyed}
                    playing={playing}
                    handle={opened ? handle : undefined}
                    onChange={opened ? () => setEditing(row) : undefined}
                  />
                )}
              </SortableItem>
            ))}
          </Sortable>
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
