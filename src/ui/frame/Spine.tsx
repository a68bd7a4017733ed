/** The cue spine: the running list down the left edge of every place, GO at its foot, and who is on the board. */
'use client';
import { ChevronLeft, Hand, MoonStar, Pause, Play } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { boardOver } from '@/core/live/boards';
import { formatCueNumber } from '@/core/cues/number';
import { Scrub } from '../parts/controls';
import { useKeyName } from './keys';
import { live } from '../state/commands';
import { CallLamp } from '../booth/CallLamp';
import { useList, usePlayback, usePlaying, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';
import { CueEntry, Current, marksOf } from './spine-rows';

/** Who is on the board of the first list, and whether that is somebody else: a GO from here is refused then. */
function useBoard() {
  const list = useList();
  const { boards } = usePlayback('boards');
  const you = useScreen((s) => s.you);
  const board = boardOver(boards, list ? { list: list.id } : 'show');
  const mine = board?.userId === you.userId;
  return { board, mine, theirs: board !== undefined && !mine };
}

/** @param large to be read from a metre away, in Run */
export function Spine({
  large = false,
  openBoard,
  openBook,
}: {
  large?: boolean;
  openBoard: () => void;
  openBook: () => void;
}) {
  const { mine } = useBoard();
  return (
    <aside
      aria-label="Cue spine"
      className="row-span-3 flex min-h-0 flex-col border-r border-line"
      onKeyDown={(e) =>
        e.code === 'Space' &&
        mine &&
        (e.target as HTMLElement).tagName !== 'BUTTON' &&
        (e.preventDefault(), void live({ command: 'go' }))
      }
    >
      <Cues large={large} openBook={openBook} />
      <div className="flex-none border-t border-line px-3 pt-3 pb-1.5">
        <Keys large={large} />
        <Master />
        <OnBoard openBoard={openBoard} />
        <Running />
      </div>
    </aside>
  );
}

function Cues({ large, openBook }: { large: boolean; openBook: () => void }) {
  const show = useShow();
  const list = useList();
  const { you, people } = useParts(useScreen, 'you', 'people');
  const playing = usePlaying();
  const cues = list ? show.cuesOf(list.id) : [];
  const current = list?.cueId ? show.cues.get(list.cueId) : undefined;
  const at = list?.cueNumber ?? null;
  const scroll = useRef<HTMLOListElement>(null);
  const here = marksOf(people.filter((p) => p.userId !== you.userId));
  useEffect(() => {
    scroll.current
      ?.querySelector('[data-testid="current-cue"]')
      ?.scrollIntoView({ block: 'center', behavior: 'smooth' });
  }, [at]);
  return (
    <>
      <div className="flex h-9 flex-none items-center justify-between pr-3 pl-4">
        <span className="cap">{list?.name ?? 'No list'}</span>
        <span className="text-[12px] text-muted">
          {at === null
            ? `${cues.length} ${cues.length === 1 ? 'cue' : 'cues'}`
            : `${cues.filter((c) => c.number <= at).length} of ${cues.length}`}
        </span>
      </div>
      <ol
        ref={scroll}
        tabIndex={0}
        data-scroll="spine"
        aria-label="Cues"
        className="min-h-0 flex-1 overflow-x-hidden overflow-y-auto pl-6 focus-visible:outline-offset-[-2px]"
      >
        {cues.length === 0 && (
          <li className="pt-2 pr-4 text-[12.5px] leading-[18px] text-muted">
            No cues yet. Select fixtures on Stage, set them, and record: the first cue appears here.
          </li>
        )}
        {at !== null && !current && <Current cue={undefined} number={at} />}
        {list &&
          cues.map((cue) =>
            cue.id === list.cueId ? (
              <Current key={cue.id} cue={cue} number={cue.number} marks={here.get(cue.id)} />
            ) : (
              <CueEntry
                key={cue.id}
                cue={cue}
                marks={here.get(cue.id)}
                list={list}
                current={current}
                large={large}
                playing={playing}
                openBook={openBook}
              />
            ),
          )}
      </ol>
    </>
  );
}

/** GO, Back and Pause. */
function Keys({ large }: { large: boolean }) {
  const list = useList();
  const playing = usePlaying();
  const { board, theirs } = useBoard();
  const says = theirs ? `${board?.name ?? ''} is on the board` : '';
  const stands = list?.cueNumber === null || list === undefined;
  return (
    <>
      <button
        type="button"
        data-testid="go"
        disabled={!playing || !list?.nextId}
        onClick={() => void live({ command: 'go' })}
        title={theirs ? `${says}; a GO from here is refused` : undefined}
        className={`w-full rounded-[10px] font-bold ${large ? 'h-[76px] text-[30px]' : 'h-16 text-[26px]'} leading-7 tracking-[0.06em] disabled:bg-raised disabled:text-dim ${theirs ? 'bg-raised text-dim' : 'bg-lime text-lime-ink hover:brightness-105 active:brightness-90'}`}
      >
        GO
        {theirs && (
          <span className="block truncate px-2 text-[12px] leading-4 font-normal tracking-normal">
            {says}
          </span>
        )}
      </button>
      <CallLamp listId={list?.id} large={large} />
      <div className="mt-2 grid grid-cols-2 gap-2">
        <SpineButton
          large={large}
          label="Back"
          disabled={!playing || stands}
          onClick={() => void live({ command: 'back' })}
          icon={<ChevronLeft size={16} />}
        />
        <SpineButton
          large={large}
          label={list?.paused ? 'Go on' : 'Pause'}
          disabled={!playing || stands}
          onClick={() => void live({ command: 'pause' })}
          icon={list?.paused ? <Play size={14} /> : <Pause size={14} />}
        />
      </div>
    </>
  );
}

const SMALL = 'grid size-7 flex-none place-items-center rounded-md';
const RAISED = `${SMALL} bg-raised text-soft hover:bg-lift`;

function Master() {
  const { master, blackout } = usePlayback('master', 'blackout');
  const playing = usePlaying();
  return (
    <div
      className={`mt-2 flex h-8 items-center justify-between pl-1 text-[12.5px] ${blackout || master < 1 ? 'text-warning' : 'text-muted'}`}
    >
      <span>{blackout ? 'Blackout' : 'Grand master'}</span>
      <span className="flex items-center gap-1">
        <Scrub
          label="Grand master"
          value={Math.round(master * 100)}
          unit="%"
          min={0}
          max={100}
          disabled={!playing}
          onChange={(v) => void live({ command: 'master', level: v / 100 })}
        />
        <button
          type="button"
          aria-pressed={blackout}
          aria-label="Blackout"
          title={blackout ? 'End the blackout' : 'Blackout: all intensity to 0, house lights stay'}
          disabled={!playing}
          onClick={() => void live({ command: 'blackout', on: !blackout })}
          className={blackout ? `${SMALL} bg-warning text-ink` : RAISED}
        >
          <MoonStar size={14} />
        </button>
      </span>
    </div>
  );
}

function OnBoard({ openBoard }: { openBoard: () => void }) {
  const keyName = useKeyName();
  const playing = usePlaying();
  const { board, mine } = useBoard();
  const other = board?.name ?? 'nobody';
  return (
    <div className="flex h-8 items-center justify-between pl-1 text-[12.5px] text-muted">
      <span className="truncate">
        {board && board.thing !== 'show' ? 'On this list’s board' : 'On the board'}:{' '}
        <b className="font-semibold text-text">{mine ? 'you' : other}</b>
        {board && !mine && board.freeIn_s !== null && (
          <span className="text-warning"> away, free in {Math.ceil(board.freeIn_s)} s</span>
        )}
      </span>
      {playing && (
        <button
          type="button"
          title={`The board: ask for it, hand it over, leave it (${keyName('board')})`}
          aria-label="The board"
          onClick={openBoard}
          className={RAISED}
        >
          <Hand size={14} />
        </button>
      )}
    </div>
  );
}

/** For whoever hears the screen: the cue on stage, as it changes. */
function Running() {
  const show = useShow();
  const cue = show.cues.get(useList()?.cueId ?? '');
  return (
    <div aria-live="polite" className="sr-only">
      {cue ? `Cue ${formatCueNumber(cue.number)} ${cue.name} running` : ''}
    </div>
  );
}

function SpineButton({
  label,
  icon,
  large,
  ...rest
}: {
  label: string;
  large: boolean;
  icon: React.ReactNode;
  disabled: boolean;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      {...rest}
      className={`flex items-center justify-center gap-1.5 rounded-md bg-raised ${large ? 'h-11 text-[15px]' : 'h-9 text-[13px]'} font-medium hover:bg-lift disabled:text-faint`}
    >
      {icon}
      {label}
    </button>
  );
}
