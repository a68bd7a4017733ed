/** What is on stage and what is next, to be read from a metre away: number, name, time left, and the word to listen for. */
'use client';
import { useRef } from 'react';
import { formatTime } from '@/core/cues/clock';
import { goesOnAfter } from '@/core/cues/loops';
import { formatCueNumber } from '@/core/cues/number';
import { timeWords, timingOf } from '@/core/cues/times';
import type { CueRow } from '@/core/cues/rows';
import type { Family } from '@/core/show/fields';
import { ActionIcon } from '../book/ActionsPanel';
import { actionWords } from '@/core/cues/action-words';
import { triggerOf } from '../book/words';
import { useElapsed } from '../frame/spine-rows';
import { Scrub } from '../parts/controls';
import { useFader } from '../parts/use-fader';
import { useNow } from '../parts/use-now';
import { live, streamCommand } from '../state/commands';
import { followAt } from '../state/playback';
import { mayPlay, useList, useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';

interface Bar {
  label: string;
  /** Seconds from GO until it has arrived. */
  end: number;
}

/** How long each family of a cue is under way. */
function barsOf(show: ReturnType<typeof useShow>, cue: CueRow): Bar[] {
  const { ways } = timingOf(show, cue);
  const both = ways.filter((w) => w.family === 'intensity').length > 1;
  return ways.flatMap((w) =>
    w.family === 'control'
      ? []
      : [
          {
            label:
              w.family === 'intensity' && (both || w.isDown)
                ? `Intensity ${w.isDown ? 'down' : 'up'}`
                : WORDS[w.family],
            end: w.end_s,
          },
        ],
  );
}
const WORDS: Record<Family, string> = {
  intensity: 'Intensity',
  position: 'Position',
  colour: 'Colour',
  beam: 'Beam',
  control: 'Control',
};

function Ring({
  share,
  left,
  total,
  word,
}: {
  share: number;
  left: string;
  total: string;
  word: string;
}) {
  const R = 74;
  const round = 2 * Math.PI * R;
  return (
    <svg
      viewBox="0 0 168 168"
      className="size-[150px] flex-none max-[1100px]:size-[112px]"
      role="img"
      aria-label={`${left} ${word}`}
    >
      <circle cx="84" cy="84" r={R} fill="none" stroke="var(--color-track)" strokeWidth="12" />
      <circle
        cx="84"
        cy="84"
        r={R}
        fill="none"
        stroke="var(--color-lime)"
        strokeWidth="12"
        strokeLinecap="round"
        strokeDasharray={`${round * Math.max(0.001, share)} ${round}`}
        transform="rotate(-90 84 84)"
      />
      <text
        x="84"
        y="90"
        textAnchor="middle"
        className="num"
        fill="var(--color-text)"
        fontSize="44"
        fontWeight="600"
      >
        {left}
      </text>
      <text x="84" y="112" textAnchor="middle" fill="var(--color-soft)" fontSize="14">
        {total}
      </text>
    </svg>
  );
}

function OnStage() {
  const show = useShow();
  const list = useList();
  const { elapsed, total, running } = useElapsed();
  const cue = list?.cueId ? show.cues.get(list.cueId) : undefined;
  if (!list || list.cueNumber === null) {
    return (
      <section
        aria-label="On stage"
        className="flex min-h-[150px] flex-none flex-col justify-center px-6"
      >
        <h2 className="cap !text-[12px]">On stage</h2>
        <p className="mt-1 text-[26px] leading-[34px] font-semibold text-muted">
          Nothing yet: GO begins with the first cue.
        </p>
      </section>
    );
  }
  const ways = cue ? barsOf(show, cue) : [];
  const left = Math.max(0, total - elapsed);
  return (
    <section aria-label="On stage" className="flex flex-none items-start gap-5 px-6 py-3">
      <div className="min-w-0 flex-1">
        <h2 className="cap !text-[12px] !text-lime-word">{list.paused ? 'Paused' : 'On stage'}</h2>
        <div className="flex items-baseline gap-5">
          <span className="num text-[72px] leading-[74px] font-semibold text-lime-word">
            {formatCueNumber(list.cueNumber)}
          </span>
          <span className="line-clamp-2 min-w-0 flex-1 text-[40px] leading-[44px] font-semibold tracking-[-0.01em] [overflow-wrap:anywhere] max-[1100px]:text-[30px] max-[1100px]:leading-[34px]">
            {cue ? cue.name || 'Unnamed' : 'deleted; its levels stay'}
          </span>
        </div>
        <div className="mt-2 space-y-1">
          {ways.map((w) => {
            const done = !running || elapsed >= w.end;
            return (
              <div
                key={w.label}
                className={`grid grid-cols-[120px_1fr_88px] items-center text-[15px] ${done ? 'text-muted' : ''}`}
              >
                <span>{w.label}</span>
                <span className="h-2 overflow-hidden rounded bg-track">
                  <i
                    className={`block h-full rounded ${done ? 'bg-lime-past' : 'bg-lime'}`}
                    style={{
                      width: `${w.end > 0 ? Math.min(100, (elapsed / w.end) * 100) : 100}%`,
                    }}
                  />
                </span>
                <span className="num text-right">
                  {done ? 'done' : `${(w.end - elapsed).toFixed(1)} s`}
                </span>
              </div>
            );
          })}
        </div>
      </div>
      <div className="flex flex-col items-center gap-1">
        <Ring
          share={total > 0 ? elapsed / total : 1}
          left={running || list.hand !== null ? left.toFixed(1) : '0'}
          total={
            running || list.hand !== null
              ? `s left of ${formatTime(Math.round(total * 10) / 10)}`
              : 'done'
          }
          word="seconds left"
        />
        <Hand />
        <Pace />
      </div>
    </section>
  );
}

const HAND_KNOB_PX = 14;

/**
 * The fade by hand: takes it over where it is; from a standing list it leads the next cue in. One drag belongs to one
 * fade: it ends where the fade ends, or when somebody's GO begins another, and the next cue wants a new touch.
 */
function Hand() {
  const list = useList();
  const { you, connection } = useParts(useScreen, 'you', 'connection');
  const { elapsed, total, running } = useElapsed();
  const playing = mayPlay(you.role) && connection === 'live';
  const belongs = useRef<(string | null)[]>([]);
  const at = list ? (list.hand ?? (running && total > 0 ? elapsed / total : 0)) : 0;
  const { shown, handlers } = useFader(
    at,
    !playing || !list,
    HAND_KNOB_PX,
    (to) => {
      const now = useScreen.getState().playback.lists.find((l) => l.id === list?.id);
      if (now && belongs.current.length > 0 && !belongs.current.includes(now.cueId)) return false;
      streamCommand('hand', { command: 'hand', position: to });
      return to < 1;
    },
    {
      lies: true,
      onBegin: () => {
        const alone = list?.hand !== null || running;
        if (!list) belongs.current = [];
        else belongs.current = alone ? [list.cueId] : [list.cueId, list.nextId];
      },
      onEnd: () => (belongs.current = []),
    },
  );
  if (!list) return null;
  return (
    <div
      className="flex h-8 items-center gap-2 text-[12px] text-muted"
      title="The fade by hand, in either direction. Let it go to give it back to time."
    >
      By hand
      <div
        role="slider"
        tabIndex={playing ? 0 : -1}
        aria-label="The fade by hand"
        aria-orientation="horizontal"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(shown * 100)}
        aria-disabled={!playing}
        data-testid="by-hand"
        {...handlers}
        onWheel={undefined}
        className={`relative h-8 w-24 touch-none select-none ${playing ? 'cursor-ew-resize' : 'opacity-45'}`}
      >
        <i className="absolute inset-x-0 top-1/2 h-1 -translate-y-1/2 rounded bg-line" />
        <i
          className="absolute top-1/2 left-0 h-1 -translate-y-1/2 rounded bg-lime"
          style={{ width: `${shown * 100}%` }}
        />
        <i
          className="absolute top-1/2 h-5 w-[14px] -translate-y-1/2 rounded-[3px] bg-knob"
          style={{ left: `calc(${shown} * (100% - ${HAND_KNOB_PX}px))` }}
        />
      </div>
      {/* Always there, so that nothing moves under a hand. */}
      <button
        type="button"
        disabled={list.hand === null}
        onClick={() => void live({ command: 'hand', position: null })}
        className={`h-7 rounded-md bg-raised px-2 text-soft hover:bg-lift ${list.hand === null ? 'invisible' : ''}`}
      >
        to time
      </button>
    </div>
  );
}

/** How fast the list runs, plainly told when it is not its own pace. */
function Pace() {
  const list = useList();
  const { you, connection } = useParts(useScreen, 'you', 'connection');
  if (!list) return null;
  const percent = Math.round(list.rate * 100);
  return (
    <span
      className={`flex h-7 items-center text-[12px] ${percent === 100 ? 'text-muted' : 'text-warning'}`}
    >
      Rate
      <Scrub
        label="Rate of the list"
        value={percent}
        unit="%"
        min={10}
        max={1000}
        disabled={!mayPlay(you.role) || connection !== 'live'}
        onChange={(v) => streamCommand('rate', { command: 'rate', rate: v / 100 })}
      />
    </span>
  );
}

function Next() {
  const show = useShow();
  const list = useList();
  const cue = list?.nextId ? show.cues.get(list.nextId) : undefined;
  if (!list || !cue) {
    return (
      <section aria-label="Next" className="flex-none border-t border-line px-6 py-4">
        <h2 className="cap !text-[12px]">Next</h2>
        <p className="mt-1 text-[24px] font-semibold text-muted">
          {list?.cueNumber === null
            ? 'This list has no cues yet.'
            : 'Nothing: this is the last cue.'}
        </p>
      </section>
    );
  }
  const cues = show.cuesOf(cue.listId);
  const current = list.cueId ? show.cues.get(list.cueId) : undefined;
  const total = (c: CueRow): number => timingOf(show, c).total_s;
  const trigger = triggerOf(
    cue,
    current && goesOnAfter(current, total) !== undefined ? current : undefined,
  );
  const then = goesOnAfter(cue, total);
  const after = cues.find((c) => c.number > cue.number);
  const comes = list.followIn_s !== null;
  return (
    <section aria-label="Next" className="flex-none border-t border-line px-6 py-3">
      <h2 className="cap !text-[12px] !text-standby">
        {list.armed ? 'Next, chosen by hand' : 'Next'}
      </h2>
      <div className="flex items-baseline gap-4">
        <span className="num text-[46px] leading-[50px] font-semibold text-standby">
          {formatCueNumber(cue.number)}
        </span>
        <span className="min-w-0 flex-1 truncate text-[30px] leading-[50px] font-semibold">
          {cue.name || 'Unnamed'}
        </span>
      </div>
      <p
        data-testid="trigger"
        className={`truncate text-[34px] leading-[46px] ${trigger.spoken ? 'font-book font-medium' : 'text-soft'}`}
      >
        {comes && <FollowIn />}
        {!comes && (trigger.spoken ? `“${cue.call}”` : trigger.long)}
      </p>
      <p className="mt-0.5 flex flex-wrap items-baseline gap-x-6 gap-y-0.5 text-[15px] text-muted">
        <span>
          Fade <b className="num text-[19px] font-semibold text-text">{timeWords(cue)}</b> s
          {total(cue) > Math.max(cue.up_s, cue.down_s) + 0.05 &&
            `, ${formatTime(Math.round(total(cue) * 10) / 10)} in all`}
        </span>
        {then !== undefined && after && (
          <span>
            Then LX{' '}
            {formatCueNumber(
              (cue.link ? show.cues.get(cue.link.to) : undefined)?.number ?? after.number,
            )}{' '}
            follows in <b className="num text-[19px] font-semibold text-text">{formatTime(then)}</b>{' '}
            s
          </span>
        )}
        {cue.actions?.map((a, i) => (
          <span key={i} className="flex items-center gap-1.5 self-center text-[14px] text-soft">
            <ActionIcon action={a} size={15} />
            {actionWords(show, a)}
          </span>
        ))}
      </p>
      {(cue.operatorNote ?? cue.note) && (
        <p className="mt-0.5 line-clamp-2 text-[16px] leading-[22px] text-soft">
          <span className="text-muted">Note</span> {cue.operatorNote ?? cue.note}
        </p>
      )}
    </section>
  );
}

/** As exactly as it is shown. */
const TENTH_MS = 100;

function FollowIn() {
  const list = useList();
  // It is counted down after the fade is done as well.
  useNow(TENTH_MS);
  const left = list ? followAt(list, performance.now()) : null;
  if (left === null) return null;
  return (
    <>
      follows in <span className="num">{left.toFixed(1)}</span> s
    </>
  );
}

/** The cue on stage and the one that comes. */
export function NowNext() {
  return (
    <>
      <OnStage />
      <Next />
    </>
  );
}
