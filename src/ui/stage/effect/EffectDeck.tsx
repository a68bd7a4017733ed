/** How an effect runs: its speed, its way over the units, on what it moves, how it comes and goes; and beginnings from the library. */
'use client';
import { clamp } from '@/core/numbers';
import { useCallback, useRef, useState, type ReactNode } from 'react';
import { EFFECT_LIBRARY } from '@/core/effects/library';
import type { EffectRow } from '@/core/effects/rows';
import { appliedTo, hertz, phaseOf, waveAt } from '@/core/effects/wave';
import { Scrub } from '../../parts/controls';
import { useTaps } from '../../parts/use-taps';
import { useScreen } from '../../state/store';
import { change, changeLane, choose, type EffectDraft, type Trying } from '../../state/trying';
import { MovingEffect } from '../shelf/pictures';
import { CHIP } from './StepLine';
import { usePhases } from './use-phases';
import { useRounds } from './use-rounds';

/** How an effect goes and is spread. */
export function EffectDeck({ trying }: { trying: Trying }) {
  const { draft } = trying;
  return (
    <aside aria-label="How the effect runs" className="h-full overflow-y-auto bg-panel">
      {trying.of === null && <BeginFrom draft={draft} />}
      <Speed draft={draft} />
      <Over draft={draft} />
      <OnWhat trying={trying} />
      {trying.of !== null && <BeginFrom draft={draft} />}
    </aside>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="border-b border-line px-4 py-2.5 last:border-b-0">
      <h3 className="text-[13.5px] font-semibold">{title}</h3>
      {children}
    </section>
  );
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex h-7 items-center justify-between text-[12.5px] text-soft">
      <span>{label}</span>
      {children}
    </div>
  );
}

function Chips<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T | null;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  return (
    <div role="group" aria-label={label} className="mt-1.5 flex flex-wrap gap-1.5">
      <span className="w-full text-[12px] leading-4 text-muted">{label}</span>
      {options.map(([key, words]) => (
        <button
          key={key}
          type="button"
          aria-pressed={value === key}
          onClick={() => onChange(key)}
          className={CHIP}
        >
          {words}
        </button>
      ))}
    </div>
  );
}

const SOME_ROUNDS = 4;

function Speed({ draft }: { draft: EffectDraft }) {
  const tempo = useScreen((s) => s.playback.tempo_bpm);
  const hz = hertz(draft.speed, tempo);
  const tap = useTaps((beat_s) =>
    change({ speed: { round_s: clamp(Math.round(beat_s * 100) / 100, 0.05, 3600) } }),
  );
  const { rounds } = draft;
  const counted = rounds === 1 ? 'once' : 'some';
  const often = rounds === undefined ? 'ever' : counted;
  const setRounds = (n: number | undefined): void => change({ rounds: n });
  return (
    <Part title="Speed">
      <Line label="A round takes">
        <Scrub
          label="A round takes"
          value={1 / hz}
          unit="s"
          min={0.05}
          max={3600}
          step={0.1}
          digits={2}
          onChange={(v) => change({ speed: { round_s: v } })}
        />
      </Line>
      <Line label="Rounds a second">
        <Scrub
          label="Rounds a second"
          value={hz}
          unit="Hz"
          min={0.01}
          max={20}
          step={0.01}
          digits={2}
          onChange={(v) => change({ speed: { hz: v } })}
        />
      </Line>
      <Line label="In beats">
        <Scrub
          label="Beats of the shared tempo"
          value={'beats' in draft.speed ? draft.speed.beats : tempo / 60 / hz}
          unit={`at ${tempo}`}
          min={0.25}
          max={256}
          step={0.25}
          digits={2}
          onChange={(v) => change({ speed: { beats: Math.max(0.25, Math.round(v * 4) / 4) } })}
        />
      </Line>
      <div className="flex items-end gap-1.5">
        <Chips
          label="How often"
          value={often}
          options={[
            ['ever', 'for ever'],
            ['once', 'once'],
            ['some', 'so many rounds'],
          ]}
          onChange={(v) => setRounds({ ever: undefined, once: 1, some: SOME_ROUNDS }[v])}
        />
        <button
          type="button"
          title="Tap a round, three times or more"
          onClick={tap}
          className={CHIP}
        >
          Tap
        </button>
      </div>
      {often === 'some' && (
        <Line label="Rounds">
          <Scrub
            label="Rounds"
            value={rounds ?? SOME_ROUNDS}
            unit=""
            min={2}
            max={999}
            onChange={(v) => setRounds(Math.round(v))}
          />
        </Line>
      )}
    </Part>
  );
}

/** Ways over the units: units at a later phase are ahead, so what comes from the first has a spread below nothing. */
type Way = 'first' | 'last' | 'middle' | 'ends' | 'together';
/** Which way the phases turn along the fixtures. */
const TURNS: Record<Way, -1 | 0 | 1> = { first: -1, last: 1, middle: 1, ends: -1, together: 0 };

function wayOf({ turns, wings }: EffectRow['spread']): Way {
  if (turns === 0) return 'together';
  if (wings === 2) return turns > 0 ? 'middle' : 'ends';
  return turns > 0 ? 'last' : 'first';
}

type Spread = EffectRow['spread'];
type Order = 'line' | 'across' | 'chance';

function orderOf({ across, seed }: Spread): Order {
  if (across) return 'across';
  return seed === undefined ? 'line' : 'chance';
}

/** The same spread in another order. */
const inOrder = ({ turns, groups, blocks, wings }: Spread, order: Order): Spread => ({
  turns,
  groups,
  blocks,
  wings,
  ...(order === 'across' ? { across: true as const } : {}),
  ...(order === 'chance' ? { seed: 1 } : {}),
});

/** A line with a number that is dragged, under one name. */
function NumberLine({
  label,
  ...scrub
}: {
  label: string;
  value: number;
  unit: string;
  min: number;
  max: number;
  onChange: (v: number) => void;
}) {
  return (
    <Line label={label}>
      <Scrub label={label} {...scrub} />
    </Line>
  );
}

function Over({ draft }: { draft: EffectDraft }) {
  const selected = useScreen((s) => s.selection.length);
  const { spread } = draft;
  const set = (fields: Partial<Spread>): void => change({ spread: { ...spread, ...fields } });
  const turns = Math.abs(spread.turns) || 1;
  const go = (way: Way): void =>
    set({ turns: turns * TURNS[way], wings: way === 'middle' || way === 'ends' ? 2 : 1 });
  return (
    <Part title={selected > 0 ? `Over the ${selected} selected` : 'Over the selection'}>
      <Units draft={draft} />
      <Line label="From first to last">
        <Scrub
          label="Spread"
          value={Math.abs(spread.turns)}
          unit={Math.abs(spread.turns) === 1 ? 'round' : 'rounds'}
          min={0}
          max={8}
          step={0.05}
          digits={2}
          onChange={(v) => set({ turns: spread.turns < 0 ? -v : v })}
        />
      </Line>
      <Chips<Way>
        label="Goes"
        value={wayOf(spread)}
        options={[
          ['first', 'from the first'],
          ['last', 'from the last'],
          ['middle', 'from the middle out'],
          ['ends', 'from the ends in'],
          ['together', 'together'],
        ]}
        onChange={go}
      />
      <Chips<Order>
        label="In which order"
        value={orderOf(spread)}
        options={[
          ['line', 'as selected'],
          ['across', 'across the stage'],
          ['chance', 'by chance'],
        ]}
        onChange={(order) => change({ spread: inOrder(spread, order) })}
      />
      <Neighbours spread={spread} onChange={set} />
      <Chips
        label="Direction"
        value={draft.direction}
        options={[
          ['forward', 'forward'],
          ['back', 'backward'],
          ['bounce', 'there and back'],
        ]}
        onChange={(direction) => change({ direction })}
      />
    </Part>
  );
}

/** Which units do the same: by chance, beside each other, and again after so many. */
function Neighbours({
  spread: { seed, blocks, groups },
  onChange,
}: {
  spread: Spread;
  onChange: (fields: Partial<Spread>) => void;
}) {
  return (
    <>
      {seed !== undefined && (
        <NumberLine
          label="Another draw"
          value={seed}
          unit=""
          min={0}
          max={9999}
          onChange={(v) => onChange({ seed: Math.round(v) })}
        />
      )}
      <NumberLine
        label="Neighbours together"
        value={blocks}
        unit=""
        min={1}
        max={64}
        onChange={(v) => onChange({ blocks: Math.round(v) })}
      />
      <NumberLine
        label="The same again after"
        value={groups}
        unit={groups === 0 ? 'all of them' : 'units'}
        min={0}
        max={64}
        onChange={(v) => onChange({ groups: Math.round(v) })}
      />
    </>
  );
}

const ROW_W = 284;
const ROW_H = 52;

/** The selected units as a row of dots that move as they do: up and down by the first lane, lit by the intensity’s. */
function Units({ draft }: { draft: EffectDraft }) {
  const where = usePhases(draft);
  const dots = useRef<(SVGCircleElement | null)[]>([]);
  const stems = useRef<(SVGLineElement | null)[]>([]);
  const { tracks, speed, direction } = draft;
  const gap = ROW_W / where.length;
  const draw = useCallback(
    (rounds: number) => {
      const intensity = tracks.find((t) => t.attribute === 'Dimmer');
      const high = tracks.find((t) => t !== intensity) ?? intensity;
      where.forEach((offset, i) => {
        const phase = phaseOf(direction, rounds, offset);
        const y = ROW_H - 12 - (high ? waveAt(high, phase) : 0) * (ROW_H - 24);
        const light = intensity ? appliedTo(intensity, 0.5, phase) : 1;
        dots.current[i]?.setAttribute('cy', String(y));
        dots.current[i]?.setAttribute('fill-opacity', String(0.15 + 0.85 * Math.min(1, light)));
        stems.current[i]?.setAttribute('y1', String(y));
      });
    },
    [tracks, direction, where],
  );
  useRounds(speed, draw);
  return (
    <svg
      viewBox={`0 0 ${ROW_W} ${ROW_H}`}
      className="mt-1 block h-[52px] w-full"
      role="img"
      aria-label="The units as they move"
    >
      {where.map((_, i) => (
        <g key={i}>
          <line
            ref={(line) => void (stems.current[i] = line)}
            x1={(i + 0.5) * gap}
            x2={(i + 0.5) * gap}
            y2={ROW_H}
            stroke="var(--color-edge)"
            strokeWidth={2}
          />
          <circle
            ref={(dot) => void (dots.current[i] = dot)}
            cx={(i + 0.5) * gap}
            r={Math.min(7, gap / 2 - 1)}
            fill="var(--color-soft)"
          />
        </g>
      ))}
    </svg>
  );
}

function OnWhat({ trying }: { trying: Trying }) {
  const { draft } = trying;
  const track = draft.tracks[trying.lane];
  const seconds = (key: 'in_s' | 'out_s', label: string, without: string): ReactNode => (
    <Line label={label}>
      <Scrub
        label={label}
        value={draft[key] ?? 0}
        unit={draft[key] === undefined ? without : 's'}
        min={0}
        max={600}
        step={0.1}
        digits={1}
        onChange={(v) => change({ [key]: v > 0 ? v : undefined })}
      />
    </Line>
  );
  return (
    <Part title="On what it moves">
      {track && (
        <Chips
          label="The chosen lane"
          value={track.mode}
          options={[
            ['relative', 'about the level beneath'],
            ['absolute', 'makes the level'],
          ]}
          onChange={(mode) => changeLane({ mode })}
        />
      )}
      <Chips
        label="Another list"
        value={draft.rides ? 'rides' : 'own'}
        options={[
          ['own', 'belongs to its list'],
          ['rides', 'rides on other lists too'],
        ]}
        onChange={(v) => change({ rides: v === 'rides' ? true : undefined })}
      />
      <div className="mt-1">
        {seconds('in_s', 'Comes in over', 's, as the cue')}
        {seconds('out_s', 'Goes out over', 's, as the cue')}
      </div>
    </Part>
  );
}

const FEW = 6;

/** Beginnings: a press takes the lanes, the speed and the way of one that ships with Wingman; the name stays if one was given. */
function BeginFrom({ draft }: { draft: EffectDraft }) {
  const [all, setAll] = useState(false);
  const shown = all
    ? EFFECT_LIBRARY
    : EFFECT_LIBRARY.filter((e) => FIRST.includes(e.name)).slice(0, FEW);
  const named = draft.name !== 'New effect' && !EFFECT_LIBRARY.some((e) => e.name === draft.name);
  return (
    <Part title="Begin from">
      <div className="mt-1.5 grid grid-cols-3 gap-1.5">
        {shown.map((e) => (
          <button
            key={e.name}
            type="button"
            title={e.name}
            aria-pressed={draft.name === e.name}
            onClick={() => {
              change({
                rounds: undefined,
                in_s: undefined,
                out_s: undefined,
                ...e,
                name: named ? draft.name : e.name,
              });
              choose(0, null);
            }}
            className="overflow-hidden rounded-md bg-raised text-left hover:bg-lift aria-pressed:inset-ring aria-pressed:inset-ring-standby"
          >
            <MovingEffect effect={e} />
            <span className="block truncate px-1.5 pb-1 text-[11px] text-soft">{e.name}</span>
          </button>
        ))}
      </div>
      <button
        type="button"
        onClick={() => setAll(!all)}
        className="mt-1.5 text-[12px] text-muted underline hover:text-soft"
      >
        {all ? 'Fewer' : `All ${EFFECT_LIBRARY.length}`}
      </button>
    </Part>
  );
}

const FIRST = ['Lift-off', 'Swell', 'Circle', 'Chase', 'Breathe', 'Hue round'];
