/** Rows of the spine: the cue on stage with what is left of it, the next one, and the others. */
'use client';
import { useEffect, useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { slotTimes } from '@/core/cues/value-times';
import type { ListStatus } from '@/core/live/messages';
import { initials } from '../parts/initials';
import { said } from '../state/commands';
import { useCueLook } from '../state/cue-look';
import { elapsedAt } from '../state/playback';
import { useList, useScreen } from '../state/store';
import { goesByKey, lookAtCue, SpineMenu } from './CueLook';

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
  const [, again] = useState(0);
  const total = list?.total_s ?? 0;
  const elapsed = list ? elapsedAt(list, performance.now()) : 0;
  const frozen = !list || list.paused || list.hand !== null;
  const running = !frozen && elapsed < total;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => again((n) => n + 1), 60);
    return () => clearInterval(timer);
  }, [running]);
  return { elapsed, total, running };
}

/** The cue on stage. */
export function Current({
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
  const still = running ? `${left.toFixed(1)} s left` : 'done';
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
        <span aria-hidden="true">{paused ? 'paused' : still}</span>
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
  const still = past ? 'var(--color-edge)' : 'var(--color-track)';
  const fill =
    share === undefined
      ? still
      : `linear-gradient(var(--color-lime) ${share * 100}%, var(--color-track) ${share * 100}%)`;
  return (
    <i
      aria-hidden="true"
      className={`absolute -left-3 w-1 ${tall ? '-inset-y-1' : 'inset-y-0'}`}
      style={{ background: fill }}
    />
  );
}

/** What follows the cue on stage: by itself, at its call, or at a GO. */
function awaits(cue: CueRow, current: CueRow | undefined): string {
  if (typeof current?.follow_s === 'number') return `follows in ${current.follow_s} s`;
  return cue.call ? `“${cue.call}”` : 'next';
}

/** The cue that a GO plays, in words of its own. */
function Next({ cue, current, marks }: OfCue & { current: CueRow | undefined }) {
  return (
    <>
      <span className="flex items-baseline gap-2.5">
        <span className="num text-[18px] font-semibold text-standby">
          {formatCueNumber(cue.number)}
        </span>
        <span className="truncate text-[14px] font-semibold">{cue.name || 'Unnamed'}</span>
        <Others marks={marks} />
      </span>
      <span className="mt-0.5 flex justify-between text-[12px] leading-4 text-soft">
        <span className="truncate font-book">{awaits(cue, current)}</span>
        <span className="num text-[11.5px]">{cueTimes(cue)}</span>
      </span>
    </>
  );
}

interface OfCue {
  cue: CueRow;
  marks: readonly string[] | undefined;
}

function Plain({ cue, marks }: OfCue) {
  return (
    <>
      <span className="num text-[12.5px]">{formatCueNumber(cue.number)}</span>
      <span className="flex min-w-0 items-center gap-1">
        <span className="truncate">{cue.name || 'Unnamed'}</span>
        <Others marks={marks} />
      </span>
      <span className="num text-[11.5px] text-muted">{cueTimes(cue)}</span>
    </>
  );
}

const NEXT =
  'mt-1 mr-2 mb-2 block w-[calc(100%-8px)] rounded-lg px-3 py-2 text-left shadow-[inset_0_0_0_1px_var(--color-standby)] hover:bg-standby-wash';
const PLAIN =
  'grid w-full grid-cols-[38px_minmax(0,1fr)_auto] items-center pr-3 text-left hover:bg-panel';
const LOOKED = 'bg-panel shadow-[inset_0_0_0_1px_var(--color-edge)]';

/** What a press of a cue does: in Run it becomes the next one, or no longer; elsewhere it is looked at. */
function press(cue: CueRow, list: ListStatus, large: boolean): void {
  if (!large) {
    lookAtCue(cue.id);
    return;
  }
  const isArmed = cue.id === list.nextId && list.armed;
  void said({ command: 'arm', cue: isArmed ? null : formatCueNumber(cue.number) });
}

/** A cue that is not on stage. @param large to be read from a metre away, in Run */
export function CueEntry({
  cue,
  marks,
  list,
  current,
  large,
  playing,
  openBook,
}: OfCue & {
  list: ListStatus;
  current: CueRow | undefined;
  large: boolean;
  playing: boolean;
  openBook: () => void;
}) {
  const isLooked = useCueLook((s) => s.cueId) === cue.id && !large;
  const number = formatCueNumber(cue.number);
  const isNext = cue.id === list.nextId;
  const isPast = list.cueNumber !== null && cue.number < list.cueNumber;
  const size = large ? 'h-11 text-[15px]' : 'h-8';
  const look = `${PLAIN} ${size} ${isPast ? 'text-dim' : 'text-soft'} ${isLooked ? LOOKED : ''}`;
  const makesNext = playing ? `Make cue ${number} the next one` : undefined;
  return (
    <SpineMenu cue={cue} playing={playing} openBook={openBook}>
      <li className="relative">
        <Rail past={!isNext && isPast} />
        <button
          type="button"
          data-cue={number}
          disabled={large && !playing}
          title={large ? makesNext : `Look at cue ${number}; Ctrl Enter or its menu goes to it`}
          onClick={() => press(cue, list, large)}
          onKeyDown={(e) => playing && goesByKey(e, cue)}
          className={isNext ? NEXT : look}
        >
          {isNext ? (
            <Next cue={cue} current={current} marks={marks} />
          ) : (
            <Plain cue={cue} marks={marks} />
          )}
        </button>
      </li>
    </SpineMenu>
  );
}
