/** The operator's phone or tablet: now, next, the word, and a GO that no pocket gives. */
'use client';
import { ChevronLeft, Pause, Play, ShieldCheck, ShieldOff } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { boardOver } from '@/core/live/boards';
import type { CueRow } from '@/core/cues/rows';
import { formatCueNumber } from '@/core/cues/number';
import type { BoardState, ListStatus } from '@/core/live/messages';
import { triggerOf } from '../book/words';
import { CallLamp } from '../booth/CallLamp';
import { useElapsed } from '../frame/spine-rows';
import { live, said } from '../state/commands';
import { mayPlay, useList, useScreen, useShow, usePlayback } from '../state/store';
import { RemoteBar } from './RemoteBar';
import { useParts } from '../state/use-parts';

/** So long the guard is held to open it; it closes again when nothing is touched for a while. */
const HOLD_MS = 600;
const CLOSES_AFTER_MS = 120_000;

/** A page with GO. */
export function GoPage() {
  const show = useShow();
  const list = useList();
  const { you, connection } = useParts(useScreen, 'you', 'connection');
  const { boards } = usePlayback('boards');
  const [open, setOpen] = useState(false);
  const board = boardOver(boards, list ? { list: list.id } : 'show');
  const mine = board?.userId === you.userId;
  const may = mayPlay(you.role) && connection === 'live';
  const now = show.cues.get(list?.cueId ?? '');
  const next = show.cues.get(list?.nextId ?? '');
  useGuard(open, setOpen);
  const theirs = board !== undefined && !mine;
  const can = may && open && !theirs;
  return (
    <div className="flex h-full flex-col overflow-y-auto bg-ink">
      <RemoteBar title="GO" always />
      {!mayPlay(you.role) && (
        <p className="bg-raised px-4 py-2.5 text-[13px] text-soft">
          A {you.role} looks: this page shows, and plays nothing.
        </p>
      )}
      <OnStage list={list} cue={now} />
      <Next armed={list?.armed === true} next={next} now={now} />
      <div className="mt-auto flex-none px-4 pt-3 pb-4">
        <CallLamp large listId={list?.id} />
        <button
          type="button"
          data-testid="go-page-go"
          disabled={!can || !next}
          onPointerDown={(e) => e.isPrimary && can && next && void live({ command: 'go' })}
          className={`mt-2 h-[26vh] min-h-[132px] w-full touch-manipulation rounded-2xl text-[54px] leading-[60px] font-bold tracking-[0.06em] select-none ${can ? 'bg-lime text-lime-ink active:brightness-90' : 'bg-raised text-dim'}`}
        >
          GO
          <span className="block text-[14px] leading-5 font-normal tracking-normal">
            {theirs && `${board.name} is on the board`}
            {!theirs && !open && 'guarded: open it below'}
          </span>
        </button>
        <div className="mt-3 grid grid-cols-[1.5fr_1fr_1fr] gap-2">
          <Guard open={open} disabled={!may} onOpen={setOpen} />
          <button
            type="button"
            disabled={!can || list?.cueNumber === null}
            onClick={() => void live({ command: 'back' })}
            className="flex h-14 items-center justify-center gap-1 rounded-xl bg-raised text-[16px] disabled:text-faint"
          >
            <ChevronLeft size={18} /> Back
          </button>
          <button
            type="button"
            disabled={!can || list?.cueNumber === null}
            onClick={() => void live({ command: 'pause' })}
            className="flex h-14 items-center justify-center gap-1.5 rounded-xl bg-raised text-[16px] disabled:text-faint"
          >
            {list?.paused ? <Play size={16} /> : <Pause size={16} />}{' '}
            {list?.paused ? 'Go on' : 'Pause'}
          </button>
        </div>
        <Board board={board} mine={mine} may={may} />
      </div>
    </div>
  );
}

function OnStage({ list, cue }: { list: ListStatus | undefined; cue: CueRow | undefined }) {
  const { elapsed, total, running } = useElapsed();
  const share = running && total > 0 ? Math.min(1, elapsed / total) : 0;
  return (
    <section aria-label="On stage" className="flex-none px-5 pt-3">
      <h2 className="cap !text-lime-word">{list?.paused ? 'Paused' : 'On stage'}</h2>
      <p data-testid="go-now" className="flex items-baseline gap-3">
        <span className="num text-[46px] leading-[50px] font-semibold text-lime-word">
          {list?.cueNumber === null || !list ? '–' : formatCueNumber(list.cueNumber)}
        </span>
        <span className="min-w-0 flex-1 truncate text-[22px] font-semibold">{cue?.name}</span>
        {running && (
          <span className="num text-[18px] text-soft">{(total - elapsed).toFixed(1)} s</span>
        )}
      </p>
      <i className="mt-1 block h-1.5 overflow-hidden rounded bg-raised">
        <i className="block h-full rounded bg-lime" style={{ width: `${share * 100}%` }} />
      </i>
    </section>
  );
}

function Next({
  armed,
  next,
  now,
}: {
  armed: boolean;
  next: CueRow | undefined;
  now: CueRow | undefined;
}) {
  const trigger = next ? triggerOf(next, now) : undefined;
  return (
    <section aria-label="Next" className="flex-none px-5 pt-4">
      <h2 className="cap !text-standby">{armed ? 'Next, chosen by hand' : 'Next'}</h2>
      <p data-testid="go-next" className="flex items-baseline gap-3">
        <span className="num text-[34px] leading-10 font-semibold text-standby">
          {next ? formatCueNumber(next.number) : '–'}
        </span>
        <span className="min-w-0 flex-1 truncate text-[20px] font-semibold">
          {next ? next.name || 'Unnamed' : 'nothing'}
        </span>
      </p>
      {next && (
        <p
          className={`min-h-9 text-[24px] leading-9 [overflow-wrap:anywhere] ${trigger?.spoken ? 'font-book' : 'text-soft'}`}
        >
          {trigger?.spoken ? `“${next.call}”` : trigger?.long}
        </p>
      )}
      {next && (next.operatorNote ?? next.note) && (
        <p className="line-clamp-3 text-[15px] leading-5 text-soft">
          {next.operatorNote ?? next.note}
        </p>
      )}
    </section>
  );
}

/** Who is on the board, and the way onto it or off it. */
function Board({
  board,
  mine,
  may,
}: {
  board: BoardState | undefined;
  mine: boolean;
  may: boolean;
}) {
  const way = (label: string, what: 'ask' | 'leave') => (
    <button
      type="button"
      onClick={() => void said({ command: 'board', do: what })}
      className="h-11 flex-none rounded-lg bg-raised px-4 text-[14px] text-text"
    >
      {label}
    </button>
  );
  return (
    <p className="mt-3 flex min-h-11 items-center justify-between gap-3 text-[14px] text-muted">
      <span className="min-w-0 truncate">
        On the board:{' '}
        <b className="font-semibold text-text">{mine ? 'you' : (board?.name ?? 'nobody')}</b>
      </span>
      {may && !mine && way(board ? 'Ask for it' : 'Go on the board', 'ask')}
      {may && mine && way('Leave it', 'leave')}
    </p>
  );
}

/** Closes by itself when nothing is touched, or when the page goes out of sight; keeps the screen awake while it is open. */
function useGuard(open: boolean, setOpen: (open: boolean) => void): void {
  useEffect(() => {
    if (!open) return;
    let timer = setTimeout(() => setOpen(false), CLOSES_AFTER_MS);
    const touched = (): void => {
      clearTimeout(timer);
      timer = setTimeout(() => setOpen(false), CLOSES_AFTER_MS);
    };
    const hidden = (): void => {
      if (document.hidden) setOpen(false);
    };
    let lock: { release: () => Promise<void> } | undefined;
    // Not every browser has it, and none outside a secure context: then the device sleeps as it likes.
    (navigator as Partial<Navigator>).wakeLock?.request('screen').then(
      (l) => (lock = l),
      () => undefined,
    );
    window.addEventListener('pointerdown', touched);
    document.addEventListener('visibilitychange', hidden);
    return () => {
      clearTimeout(timer);
      window.removeEventListener('pointerdown', touched);
      document.removeEventListener('visibilitychange', hidden);
      void lock?.release().catch(() => undefined);
    };
  }, [open, setOpen]);
}

function Guard({
  open,
  disabled,
  onOpen,
}: {
  open: boolean;
  disabled: boolean;
  onOpen: (open: boolean) => void;
}) {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [holding, setHolding] = useState(false);
  const end = (): void => {
    clearTimeout(timer.current);
    setHolding(false);
  };
  useEffect(() => end, []);
  return (
    <button
      type="button"
      data-testid="guard"
      aria-pressed={open}
      disabled={disabled}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        if (open) {
          onOpen(false);
          return;
        }
        setHolding(true);
        timer.current = setTimeout(() => {
          setHolding(false);
          onOpen(true);
        }, HOLD_MS);
      }}
      onPointerUp={end}
      onPointerCancel={end}
      onContextMenu={(e) => e.preventDefault()}
      className={`relative h-14 touch-none overflow-hidden rounded-xl text-[15px] font-medium select-none disabled:opacity-40 ${open ? 'bg-warning text-ink' : 'bg-raised'}`}
    >
      <i
        aria-hidden="true"
        className="absolute inset-y-0 left-0 bg-lift"
        style={{
          width: holding ? '100%' : 0,
          transition: holding ? `width ${HOLD_MS}ms linear` : 'none',
        }}
      />
      <span className="relative flex items-center justify-center gap-1.5">
        {open ? <ShieldOff size={17} /> : <ShieldCheck size={17} />}{' '}
        {open ? 'GO is open' : 'Hold to open'}
      </span>
    </button>
  );
}
