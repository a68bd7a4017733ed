/** The cue's times as bars on one axis: drag an end for the time, the start for the delay. The line is now, while it runs. */
'use client';
import { arrowStep } from '../parts/arrow-step';
import { capital } from '@/core/words';
import { useRef } from 'react';
import { useDrag } from '../parts/use-drag';
import { useSettling } from '../parts/use-settling';
import { formatTime } from '@/core/cues/clock';
import { goesOnAfter } from '@/core/cues/loops';
import { timingOf } from '@/core/cues/times';
import { slotTimes } from '@/core/cues/value-times';
import { formatCueNumber } from '@/core/cues/number';
import { familyOf } from '@/core/rig/attributes';
import { FAMILIES, type Family } from '@/core/show/fields';
import type { CuePart, CueRow } from '@/core/cues/rows';
import { sectionTotals } from '@/core/script/totals';
import { edit } from '../state/edits';
import { useBookList } from '../state/book';
import { mayEdit, useScreen, useShow } from '../state/store';
import { useElapsed } from '../frame/spine-rows';

interface Bar {
  key: string;
  label: string;
  delay: number;
  time: number;
  /** Takes the cue's own time. */
  inherited: boolean;
  set: (time: number, delay: number) => Record<string, unknown>;
}

const tenth = (s: number): number => Math.max(0, Math.round(s * 10) / 10);
const FAMILY_BARS: Family[] = ['position', 'colour', 'beam'];

function barsOf(cue: CueRow, used: ReadonlySet<Family>): Bar[] {
  const bars = intensityBars(cue);
  for (const f of FAMILY_BARS) {
    const own = cue.family_s[f] !== undefined || cue.familyDelay_s?.[f] !== undefined;
    if (own || used.has(f)) bars.push(familyBar(cue, f, !own));
  }
  for (const p of cue.parts ?? []) bars.push(...partBars(cue, p));
  return bars;
}

function familyBar(cue: CueRow, f: Family, inherited: boolean): Bar {
  const { up, delay } = slotTimes({}, cue, f);
  const withDelay = (wanted: number): Record<string, unknown> =>
    wanted === cue.delay_s ? {} : { familyDelay_s: { ...cue.familyDelay_s, [f]: wanted } };
  return {
    key: f,
    label: capital(f),
    delay,
    time: up,
    inherited,
    set: (time, wanted) => ({ family_s: { ...cue.family_s, [f]: time }, ...withDelay(wanted) }),
  };
}

/** Up and down; or one bar where intensity has a time as a family, which goes before both. */
function intensityBars(cue: CueRow): Bar[] {
  if (cue.family_s.intensity !== undefined) return [familyBar(cue, 'intensity', false)];
  const { up, down, delay } = slotTimes({}, cue, 'intensity');
  const delayed = (wanted: number): Record<string, unknown> => {
    if (wanted === delay) return {};
    return cue.familyDelay_s?.intensity === undefined
      ? { delay_s: wanted }
      : { familyDelay_s: { ...cue.familyDelay_s, intensity: wanted } };
  };
  return [
    {
      key: 'up',
      label: 'Intensity up',
      delay,
      time: up,
      inherited: false,
      set: (up_s, wanted) => ({ up_s, ...delayed(wanted) }),
    },
    {
      key: 'down',
      label: 'Intensity down',
      delay,
      time: down,
      inherited: false,
      set: (down_s, wanted) => ({ down_s, ...delayed(wanted) }),
    },
  ];
}

function partBars(cue: CueRow, p: CuePart): Bar[] {
  const label = `Part ${p.number}${p.name ? ` ${p.name}` : ''}`;
  const put = (set: Partial<CuePart>): Record<string, unknown> => ({
    parts: (cue.parts ?? []).map((x) => (x.number === p.number ? { ...x, ...set } : x)),
  });
  const bar = (
    key: string,
    word: string,
    time: number,
    set: (time: number) => Partial<CuePart>,
  ): Bar => ({
    key: `part-${p.number}-${key}`,
    label: `${label}${word}`,
    delay: p.delay_s,
    time,
    inherited: false,
    set: (wanted, delay_s) => put({ ...set(wanted), delay_s }),
  });
  const families = FAMILIES.flatMap((f) => {
    const own = p.family_s[f];
    return own === undefined
      ? []
      : [bar(f, ` ${f}`, own, (time) => ({ family_s: { ...p.family_s, [f]: time } }))];
  });
  if (p.up_s === p.down_s)
    return [bar('both', '', p.up_s, (time) => ({ up_s: time, down_s: time })), ...families];
  return [
    bar('up', ' up', p.up_s, (up_s) => ({ up_s })),
    bar('down', ' down', p.down_s, (down_s) => ({ down_s })),
    ...families,
  ];
}

/** How a cue goes, drawn over its time. */
export function TimingPanel() {
  const show = useShow();
  const { cue, cues, list, status } = useBookList();
  const may = mayEdit(useScreen((s) => s.you.role));
  if (!cue) return <p className="p-4 text-[12.5px] text-muted">Choose a cue to see its times.</p>;
  const values = [...show.valuesOf(cue.id).values()];
  const used = new Set(values.map((v) => familyOf(v.attribute)));
  const own = values.filter((v) => v.fade_s !== undefined || v.delay_s !== undefined);
  const bars = barsOf(cue, used);
  const longest = timingOf(show, cue).total_s;
  const next = goesOnAfter(cue, (c) => timingOf(show, c).total_s);
  const total = Math.max(1, Math.ceil(longest * 1.25), next ?? 0);
  const sums = sectionTotals(show, cues, cue);
  return (
    <section
      aria-label={`Timing of cue ${formatCueNumber(cue.number)}`}
      className="flex h-full min-h-0 flex-col px-3.5 pb-2"
    >
      <div className="min-h-0 flex-1 overflow-y-auto">
        <div className="relative">
          {bars.map((b) => (
            <BarRow
              key={b.key}
              bar={b}
              total={total}
              may={may}
              onSet={(time, delay) =>
                edit('change-cue', { id: cue.id, set: b.set(time, delay) }, { quiet: true })
              }
            />
          ))}
          {status?.cueId === cue.id && <Line total={total} />}
        </div>
        <div
          className="num mr-12 ml-[104px] flex justify-between text-[11px] text-muted"
          aria-hidden="true"
        >
          {[0, 0.25, 0.5, 0.75, 1].map((t) => (
            <span key={t}>{formatTime(Math.round(total * t * 10) / 10)}</span>
          ))}
        </div>
        <p className="mt-1.5 text-[12px] leading-4 text-muted">
          {own.length > 0 &&
            `${own.length} ${own.length === 1 ? 'value has times of its own' : 'values have times of their own'}. `}
          {next !== undefined && `The next cue comes after ${formatTime(next)} s. `}
          {[
            {
              name: list?.name ?? '',
              cues: cues.length,
              time_s: cues.reduce((sum, c) => sum + timingOf(show, c).total_s, 0),
            },
            ...sums,
          ]
            .map(
              (x) =>
                `${x.name}: ${x.cues} ${x.cues === 1 ? 'cue' : 'cues'}, ${span(x.time_s)} of fades`,
            )
            .join('. ')}
          .
        </p>
      </div>
    </section>
  );
}

/** How far the cue is while it runs, else how long it is. */
export function TimingNow() {
  const show = useShow();
  const { cue, listId, status } = useBookList();
  const { elapsed, running } = useElapsed(listId);
  if (!cue) return null;
  if (status?.cueId === cue.id)
    return (
      <span className="num text-[12px] text-lime-word">
        {running ? `${elapsed.toFixed(1)} s now` : 'done'}
      </span>
    );
  return (
    <span className="num text-[12px] text-muted">
      {formatTime(Math.round(timingOf(show, cue).total_s * 10) / 10)} s in all
    </span>
  );
}

/** `24 s`, `6:16`. */
const span = (time_s: number): string =>
  `${formatTime(Math.round(time_s))}${time_s < 59.5 ? ' s' : ''}`;

function Line({ total }: { total: number }) {
  const { listId } = useBookList();
  const { elapsed, running } = useElapsed(listId);
  if (!running) return null;
  return (
    <i
      aria-hidden="true"
      className="absolute inset-y-0 w-0.5 bg-lime"
      style={{ left: `calc(104px + (100% - 152px) * ${Math.min(1, elapsed / total)})` }}
    />
  );
}

interface Times {
  time: number;
  delay: number;
}

/** What hands and keys do with a bar: its two ends are led, and written when they are let go. */
function useBar(
  bar: Bar,
  total: number,
  may: boolean,
  onSet: (time: number, delay: number) => unknown,
) {
  const track = useRef<HTMLDivElement>(null);
  const settling = useSettling<Times>(
    { time: bar.time, delay: bar.delay },
    (v) => (v.time !== bar.time || v.delay !== bar.delay) && onSet(v.time, v.delay),
  );
  const { time, delay } = settling.shown;
  const at = (e: React.PointerEvent): number => {
    const r = track.current?.getBoundingClientRect();
    return r ? Math.max(0, ((e.clientX - r.left) / r.width) * total) : 0;
  };
  const end = (_: unknown, torn: boolean): void => (torn ? settling.leave() : settling.settle());
  const begin = (): true | null => (may ? true : null);
  const grips = {
    time: useDrag<true>({
      begin,
      end,
      move: (_, e) => settling.put({ time: tenth(at(e) - delay), delay }),
    }),
    delay: useDrag<true>({
      begin,
      end,
      move: (_, e) => settling.put({ time, delay: tenth(at(e)) }),
    }),
  };
  const step = (e: React.KeyboardEvent, what: keyof Times): void => {
    const by = arrowStep(e.key);
    if (by === 0 || !may) return;
    e.preventDefault();
    const d = by * (e.shiftKey ? 1 : 0.1);
    settling.steps({
      time: what === 'time' ? tenth(time + d) : time,
      delay: what === 'delay' ? tenth(delay + d) : delay,
    });
  };
  const grip = (what: keyof Times) => ({
    label: `${bar.label}, ${what}`,
    value: settling.shown[what],
    may,
    onKeyDown: (e: React.KeyboardEvent) => step(e, what),
    drag: grips[what],
  });
  return { track, time, delay, grip };
}

/** One end of a bar. */
function BarEnd({
  label,
  value,
  may,
  onKeyDown,
  drag,
  left,
  className,
  mark,
}: ReturnType<ReturnType<typeof useBar>['grip']> & {
  left: string;
  className: string;
  mark: string;
}) {
  return (
    <span
      role="slider"
      tabIndex={may ? 0 : -1}
      aria-label={label}
      aria-valuenow={value}
      aria-valuetext={`${formatTime(value)} s`}
      onKeyDown={onKeyDown}
      {...drag}
      className={`absolute inset-y-0 touch-none ${className} ${may ? 'cursor-ew-resize' : ''}`}
      style={{ left }}
    >
      <i className={`absolute top-[9px] left-1.5 h-2.5 w-0.5 ${mark}`} />
    </span>
  );
}

function BarRow({
  bar,
  total,
  may,
  onSet,
}: {
  bar: Bar;
  total: number;
  may: boolean;
  onSet: (time: number, delay: number) => unknown;
}) {
  const { track, time, delay, grip } = useBar(bar, total, may, onSet);
  const left = `${(delay / total) * 100}%`;
  const width = `${(time / total) * 100}%`;
  return (
    <div className="grid h-7 grid-cols-[104px_1fr_48px] items-center text-[12.5px]">
      <span
        className={`truncate pr-2 ${bar.inherited ? 'text-muted' : ''}`}
        title={bar.inherited ? `${bar.label}: the cue’s up time` : bar.label}
      >
        {bar.label}
      </span>
      <div ref={track} className="relative h-full">
        {delay > 0 && (
          <i
            className="absolute top-2 h-3 bg-[repeating-linear-gradient(115deg,var(--color-edge)_0_3px,transparent_3px_7px)]"
            style={{ left: 0, width: left }}
          />
        )}
        <i
          className={`absolute top-2 h-3 rounded-sm ${bar.inherited ? 'bg-brim' : 'bg-tie'}`}
          style={{ left, width }}
        />
        <BarEnd {...grip('delay')} left={left} className="-ml-1.5 w-3" mark="bg-soft" />
        <BarEnd
          {...grip('time')}
          left={`calc(${left} + ${width})`}
          className="-ml-2 w-4"
          mark="bg-text"
        />
      </div>
      <span className="num text-right text-[12px]">
        {delay > 0 ? `${formatTime(delay)}+` : ''}
        {formatTime(time)}
      </span>
    </div>
  );
}
