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
import { live, streamCommand } from '../state/commands';
import { edit } from '../state/edits';
import { mayEdit, mayPlay, useScreen, useShow, usePlayback } from '../state/store';
import { useRun } from '../state/run';
import { FaderStrip, Track, CROWDED, type Strip } from './faders/FaderStrip';
import { PagesMenu } from './faders/PagesMenu';
import { FaderDialog } from './faders/FaderDialog';
import { useParts } from '../state/use-parts';

/** Narrower than this a knob touches its neighbours; where they do not all fit, pages of easier ones. */
const NARROWEST_PX = 25;
const EASY_PX = 34;

/** As many as are seen whole; the others are a page away, and none is cut. */
function usePagesOf(rows: readonly FaderRow[], room: number) {
  const all = room === 0 ? rows.length : Math.max(1, Math.floor(room / NARROWEST_PX));
  const each = rows.length <= all ? all : Math.max(1, Math.floor(room / EASY_PX));
  const screens = screensOf(rows, Math.max(1, each));
  const pages = Math.max(1, screens.length);
  const [turned, turn] = useState(0);
  const at = Math.min(turned, pages - 1);
  const inSight = screens[at]?.pages ?? [1];
  const [keyed = 1] = inSight;
  useEffect(() => useRun.setState({ faderPage: keyed }), [keyed]);
  return { screens, pages, at, turn, shown: screens[at]?.faders ?? [], inSight, keyed };
}

/** The first board over these faders that is somebody else's: faders of one view may be of two pages. */
function useOthersBoard(rows: readonly FaderRow[]): { name: string } | undefined {
  const you = useScreen((s) => s.you);
  const { boards } = usePlayback('boards');
  return rows
    .flatMap(({ number }) => boardOver(boards, { faders: Math.ceil(number / FADERS_A_PAGE) }) ?? [])
    .find((b) => b.userId !== you.userId);
}

/** Faders of the show, a page at a time. */
export function Faders() {
  const show = useShow();
  const { you, connection } = useParts(useScreen, 'you', 'connection');
  const locked = useRun((s) => s.locked);
  const [editing, setEditing] = useState<FaderRow | 'new' | null>(null);
  const [naming, setNaming] = useState(false);
  const playing = mayPlay(you.role) && connection === 'live';
  const opened = mayEdit(you.role) && !locked;
  const rows = [...show.faders.values()].sort((a, b) => a.number - b.number);
  const box = useRef<HTMLDivElement>(null);
  const { width: room } = useBox(box);
  const { screens, pages, at, turn, shown, inSight, keyed } = usePagesOf(rows, room);
  const board = useOthersBoard(shown);
  const names = show.settings.get('show')?.faderPages;
  const order = (ids: string[]): void => void edit('order-faders', { ids });
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
            at={at}
            onTurn={turn}
            onName={opened ? () => setNaming(true) : undefined}
          />
        )}
        {board && (
          <span className="ml-2 truncate text-[12px] text-muted">{board.name} plays them</span>
        )}
        {pages > 1 && <Turn at={at} pages={pages} onTurn={turn} />}
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
          <Sortable ids={shown.map((row) => row.id)} onOrder={opened ? order : undefined}>
            {shown.map((row, i) => (
              <SortableItem key={row.id} id={row.id} className="flex min-h-0 min-w-0 flex-col">
                {(handle) => (
                  <FaderStrip
                    row={row}
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
        <Grand playing={playing} opened={opened} crowded={shown.length >= CROWDED} />
      </div>
      {naming && (
        <Rename
          title={`Name of faders ${(keyed - 1) * FADERS_A_PAGE + 1} to ${keyed * FADERS_A_PAGE}`}
          name={names?.[String(keyed)] ?? ''}
          empty
          onSave={(name) => edit('name-fader-page', { page: keyed, name })}
          onClose={() => setNaming(false)}
        />
      )}
      {editing && (
        <FaderDialog fader={editing === 'new' ? null : editing} onClose={() => setEditing(null)} />
      )}
    </section>
  );
}

function Turn({
  at,
  pages,
  onTurn,
}: {
  at: number;
  pages: number;
  onTurn: (page: number) => void;
}) {
  const key =
    'grid h-7 w-9 place-items-center rounded-md bg-raised hover:bg-lift disabled:text-faint';
  return (
    <span className="mr-2 ml-auto flex items-center gap-1 text-[12px] text-soft">
      <button
        type="button"
        aria-label="Faders before"
        disabled={at === 0}
        onClick={() => onTurn(at - 1)}
        className={key}
      >
        <ChevronLeft size={15} />
      </button>
      <span className="num whitespace-nowrap">
        {at + 1} of {pages}
      </span>
      <button
        type="button"
        aria-label="Faders after"
        disabled={at === pages - 1}
        onClick={() => onTurn(at + 1)}
        className={key}
      >
        <ChevronRight size={15} />
      </button>
    </span>
  );
}

/** The grand master and the blackout beside the faders. */
function Grand({
  playing,
  opened,
  crowded,
}: {
  playing: boolean;
  opened: boolean;
  crowded: boolean;
}) {
  const { master, blackout } = usePlayback('master', 'blackout');
  const percent = Math.round(master * 100);
  const strip: Strip = {
    key: 'grand',
    number: null,
    name: 'Grand master',
    level: master,
    real: blackout ? 0 : master,
    waiting: false,
    flashing: false,
    says: `Grand master ${percent} %${blackout ? ', blackout' : ''}`,
    set: (level) => streamCommand('master', { command: 'master', level }),
  };
  return (
    <div
      className="flex w-11 flex-none flex-col items-center gap-1 border-l border-line pl-1.5"
      title={strip.says}
    >
      <span
        className={`num text-[13px] font-semibold ${blackout || master < 1 ? 'text-warning' : ''}`}
      >
        {percent}
      </span>
      <Track strip={strip} disabled={!playing} tall />
      <span className={`text-[12px] leading-4 font-semibold ${crowded ? 'h-8' : 'h-5'}`}>
        Grand
      </span>
      <button
        type="button"
        aria-pressed={blackout}
        aria-label="Blackout, from the faders"
        title={blackout ? 'End the blackout' : 'Blackout: house lights stay'}
        disabled={!playing}
        onClick={() => void live({ command: 'blackout', on: !blackout })}
        className={`grid h-9 w-full place-items-center rounded-md ${blackout ? 'bg-warning text-ink' : 'bg-raised text-soft hover:bg-lift'}`}
      >
        <MoonStar size={14} />
      </button>
      {opened && <span className="h-7" />}
    </div>
  );
}
