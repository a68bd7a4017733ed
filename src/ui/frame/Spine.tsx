/** The cue spine: the running list down the left edge of every place, GO at its foot, and who is on the board. */
'use client';
import { ChevronLeft, Hand, MoonStar, Pause, Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { slotTimes } from '@/core/cues/value-times';
import { boardOver } from '@/core/live/boards';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { Scrub } from '../parts/controls';
import { useKeyName } from './keys';
import { initials } from '../parts/initials';
import { goesByKey, lookAtCue, SpineMenu } from './CueLook';
import { useCueLook } from '../state/cue-look';
import { live, said } from '../state/actions';
import { CallLamp } from '../booth/CallLamp';
import { mayPlay, useList, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

/** Up and down of intensity as they are played, where no part and no value has times of its own. */
export function cueTimes(cue: CueRow): string {
  const { up, down } = slotTimes({}, cue, 'intensity');
  return up === down ? `${up}` : `${up}/${down}`;
}

/** Seconds gone of the running cue, counted on between messages. */
export function useElapsed(listId?: string): { elapsed: number; total: number; running: boolean } {
  const first = useList();
  const named = useScreen((s) =>
    listId === undefined ? undefined : s.playback.lists.find((l) => l.id === listId),
  );
  const list = listId === undefined ? first : named;
  const at = useScreen((s) => s.playbackAt);
  const [, again] = useState(0);
  const total = list?.total_s ?? 0;
  const base = list?.elapsed_s ?? 0;
  const frozen = !list || list.paused || list.hand !== null;
  const elapsed = frozen
    ? base
    : Math.min(total, base + ((performance.now() - at) / 1000) * list.rate);
  const running = !frozen && elapsed < total;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => again((n) => n + 1), 60);
    return () => clearInterval(timer);
  }, [running, at]);
  return { elapsed, total, running };
}

function Current({
  cue,
  number,
  marks,
}: {
  cue: CueRow | undefined;
  number: number;
  marks?: readonly string[] | undefined;
}) {
  const { elapsed, total, running } = useElapsed();
  const paused = useList()?.paused ?? false;
  const left = Math.max(0, total - elapsed);
  return (
    <li
      data-testid="current-cue"
      className="relative mt-1 mr-2 mb-1 rounded-lg bg-lime-wash px-3 pt-2.5 pb-3 shadow-[inset_0_0_0_1px_var(--color-lime)]"
    >
      <Rail share={total > 0 ? elapsed / total : 1} tall />
      <div className="flex items-center justify-between gap-2">
        <span className="num text-[26px] leading-7 font-semibold text-lime-word">
          {formatCueNumber(number)}
        </span>
        <span className="flex items-center gap-1.5">
          <Others marks={marks} />
          <span className="cap !text-lime-word">On stage</span>
        </span>
      </div>
      <div className="mt-0.5 truncate text-[15px] font-semibold">
        {cue ? cue.name || 'Unnamed' : 'deleted; levels stay'}
      </div>
      <div className="mt-2 mb-1.5 h-1.5 overflow-hidden rounded bg-lime/25">
        <div
          className="h-full rounded bg-lime"
          style={{ width: `${total > 0 ? (elapsed / total) * 100 : 100}%` }}
        />
      </div>
      <div className="num flex justify-between text-[12px] leading-4 text-lime-word">
        <span aria-hidden="true">
          {paused ? 'paused' : running ? `${left.toFixed(1)} s left` : 'done'}
        </span>
        <span className="text-soft">{cue ? cueTimes(cue) : ''}</span>
      </div>
    </li>
  );
}

/** Initials of others by the cue that they look at. */
export function marksOf(
  people: readonly { name: string; cue: string | null }[],
): Map<string, string[]> {
  const marks = new Map<string, string[]>();
  for (const p of people)
    if (p.cue !== null) marks.set(p.cue, [...(marks.get(p.cue) ?? []), p.name]);
  return marks;
}

/** Faint: somebody else looks at this. */
export function Others({ marks }: { marks: readonly string[] | undefined }) {
  if (!marks) return null;
  return (
    <span
      data-testid="others-here"
      title={`${marks.join(' and ')} ${marks.length === 1 ? 'looks' : 'look'} at this`}
      className="flex-none rounded-full px-1 text-[11px] leading-4 text-dim shadow-[inset_0_0_0_1px_var(--color-edge)]"
    >
      {marks.slice(0, 2).map(initials).join(' ')}
    </span>
  );
}

function Rail({ share, past, tall }: { share?: number; past?: boolean; tall?: boolean }) {
  const fill =
    share === undefined
      ? past
        ? 'var(--color-edge)'
        : 'var(--color-track)'
      : `linear-gradient(var(--color-lime) ${share * 100}%, var(--color-track) ${share * 100}%)`;
  return (
    <i
      aria-hidden="true"
      className={`absolute -left-3 w-1 ${tall ? '-inset-y-1' : 'inset-y-0'}`}
      style={{ background: fill }}
    />
  );
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
  const show = useShow();
  const list = useList();
  const { playback, you, connection, people } = useParts(
    useScreen,
    'playback',
    'you',
    'connection',
    'people',
  );
  const cues = list ? show.cuesOf(list.id) : [];
  const current = list?.cueId ? show.cues.get(list.cueId) : undefined;
  const at = list?.cueNumber ?? null;
  const looked = useCueLook((s) => s.cueId);
  const scroll = useRef<HTMLOListElement>(null);
  const keyName = useKeyName();
  const playing = mayPlay(you.role) && connection === 'live';
  const board = boardOver(playback.boards, list ? { list: list.id } : 'show');
  const mine = board?.userId === you.userId;
  /** Somebody else plays: a GO from here is refused. */
  const theirs = board !== undefined && !mine;
  const here = marksOf(people.filter((p) => p.userId !== you.userId));

  useEffect(() => {
    scroll.current
      ?.querySelector('[data-testid="current-cue"]')
      ?.scrollIntoView({ block: 'center', behavior: 'smooth' });
  }, [at]);

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
        {cues.map((cue) =>
          cue.id === list?.cueId ? (
            <Current key={cue.id} cue={cue} number={cue.number} marks={here.get(cue.id)} />
          ) : (
            <SpineMenu key={cue.id} cue={cue} playing={playing} openBook={openBook}>
              <li className="relative">
                {cue.id === list?.nextId ? (
                  <Rail />
                ) : (
                  <Rail past={at !== null && cue.number < at} />
                )}
                <button
                  type="button"
                  data-cue={formatCueNumber(cue.number)}
                  disabled={large && !playing}
                  title={
                    large
                      ? playing
                        ? `Make cue ${formatCueNumber(cue.number)} the next one`
                        : undefined
                      : `Look at cue ${formatCueNumber(cue.number)}; Ctrl Enter or its menu goes to it`
                  }
                  onClick={() =>
                    large
                      ? void said({
                          command: 'arm',
                          cue:
                            cue.id === list?.nextId && list.armed
                              ? null
                              : formatCueNumber(cue.number),
                        })
                      : lookAtCue(cue.id)
                  }
                  onKeyDown={(e) => playing && goesByKey(e, cue)}
                  className={
                    cue.id === list?.nextId
                      ? 'mt-1 mr-2 mb-2 block w-[calc(100%-8px)] rounded-lg px-3 py-2 text-left shadow-[inset_0_0_0_1px_var(--color-standby)] hover:bg-standby-wash'
                      : `grid w-full grid-cols-[38px_minmax(0,1fr)_auto] items-center pr-3 text-left hover:bg-panel ${large ? 'h-11 text-[15px]' : 'h-8'} ${at !== null && cue.number < at ? 'text-dim' : 'text-soft'} ${looked === cue.id && !large ? 'bg-panel shadow-[inset_0_0_0_1px_var(--color-edge)]' : ''}`
                  }
                >
                  {cue.id === list?.nextId ? (
                    <>
                      <span className="flex items-baseline gap-2.5">
                        <span className="num text-[18px] font-semibold text-standby">
                          {formatCueNumber(cue.number)}
                        </span>
                        <span className="truncate text-[14px] font-semibold">
                          {cue.name || 'Unnamed'}
                        </span>
                        <Others marks={here.get(cue.id)} />
                      </span>
                      <span className="mt-0.5 flex justify-between text-[12px] leading-4 text-soft">
                        <span className="truncate font-book">
                          {current?.follow_s !== null && current?.follow_s !== undefined
                            ? `follows in ${current.follow_s} s`
                            : cue.call
                              ? `“${cue.call}”`
                              : 'next'}
                        </span>
                        <span className="num text-[11.5px]">{cueTimes(cue)}</span>
                      </span>
                    </>
                  ) : (
                    <>
                      <span className="num text-[12.5px]">{formatCueNumber(cue.number)}</span>
                      <span className="flex min-w-0 items-center gap-1">
                        <span className="truncate">{cue.name || 'Unnamed'}</span>
                        <Others marks={here.get(cue.id)} />
                      </span>
                      <span className="num text-[11.5px] text-muted">{cueTimes(cue)}</span>
                    </>
                  )}
                </button>
              </li>
            </SpineMenu>
          ),
        )}
      </ol>
      <div className="flex-none border-t border-line px-3 pt-3 pb-1.5">
        <button
          type="button"
          data-testid="go"
          disabled={!playing || !list?.nextId}
          onClick={() => void live({ command: 'go' })}
          title={theirs ? `${board.name} is on the board; a GO from here is refused` : undefined}
          className={`w-full rounded-[10px] font-bold ${large ? 'h-[76px] text-[30px]' : 'h-16 text-[26px]'} leading-7 tracking-[0.06em] disabled:bg-raised disabled:text-dim ${theirs ? 'bg-raised text-dim' : 'bg-lime text-lime-ink hover:brightness-105 active:brightness-90'}`}
        >
          GO
          {theirs && (
            <span className="block truncate px-2 text-[12px] leading-4 font-normal tracking-normal">
              {board.name} is on the board
            </span>
          )}
        </button>
        <CallLamp listId={list?.id} large={large} />
        <div className="mt-2 grid grid-cols-2 gap-2">
          <SpineButton
            large={large}
            label="Back"
            disabled={!playing || at === null}
            onClick={() => void live({ command: 'back' })}
            icon={<ChevronLeft size={16} />}
          />
          <SpineButton
            large={large}
            label={list?.paused ? 'Go on' : 'Pause'}
            disabled={!playing || at === null}
            onClick={() => void live({ command: 'pause' })}
            icon={list?.paused ? <Play size={14} /> : <Pause size={14} />}
          />
        </div>
        <div
          className={`mt-2 flex h-8 items-center justify-between pl-1 text-[12.5px] ${playback.blackout || playback.master < 1 ? 'text-warning' : 'text-muted'}`}
        >
          <span>{playback.blackout ? 'Blackout' : 'Grand master'}</span>
          <span className="flex items-center gap-1">
            <Scrub
              label="Grand master"
              value={Math.round(playback.master * 100)}
              unit="%"
              min={0}
              max={100}
              disabled={!playing}
              onChange={(v) => void live({ command: 'master', level: v / 100 })}
            />
            <button
              type="button"
              aria-pressed={playback.blackout}
              aria-label="Blackout"
              title={
                playback.blackout
                  ? 'End the blackout'
                  : 'Blackout: all intensity to 0, house lights stay'
              }
              disabled={!playing}
              onClick={() => void live({ command: 'blackout', on: !playback.blackout })}
              className={`grid size-7 place-items-center rounded-md ${playback.blackout ? 'bg-warning text-ink' : 'bg-raised text-soft hover:bg-lift'}`}
            >
              <MoonStar size={14} />
            </button>
          </span>
        </div>
        <div className="flex h-8 items-center justify-between pl-1 text-[12.5px] text-muted">
          <span className="truncate">
            {board && board.thing !== 'show' ? 'On this list’s board' : 'On the board'}:{' '}
            <b className="font-semibold text-text">
              {board ? (mine ? 'you' : board.name) : 'nobody'}
            </b>
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
              className="grid size-7 flex-none place-items-center rounded-md bg-raised text-soft hover:bg-lift"
            >
              <Hand size={14} />
            </button>
          )}
        </div>
        <div aria-live="polite" className="sr-only">
          {current ? `Cue ${formatCueNumber(current.number)} ${current.name} running` : ''}
        </div>
      </div>
    </aside>
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
