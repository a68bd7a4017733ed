/** An effect as a graph: its waves over a cycle and where each unit of the selection stands in them; steps are dragged. */
'use client';
import { Plus, Trash2 } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { phases } from '@/core/effects/spread';
import { phaseOf, waveAt, hertz } from '@/core/effects/wave';
import { attributeInfo, KNOWN_ATTRIBUTES } from '@/core/rig/attributes';
import { WAVES, type EffectRow, type EffectTrack } from '@/core/effects/rows';
import { Button, Choice, Dialog, Field, IconButton, Scrub } from '../../parts/controls';
import { useDrag } from '../../parts/use-drag';
import { edit, tryEdit } from '../../state/actions';
import { useScreen } from '../../state/store';

export type EffectDraft = Omit<EffectRow, 'id' | 'number'>;

const NEW_EFFECT: EffectDraft = {
  name: 'New effect',
  tracks: [
    {
      attribute: 'Dimmer',
      wave: 'sine',
      mode: 'relative',
      size: 0.3,
      base: 0,
      width: 1,
      offset: 0,
    },
  ],
  speed: { hz: 0.3 },
  direction: 'forward',
  spread: { turns: 1, groups: 0, blocks: 1, wings: 1 },
};

const W = 400;
const H = 120;
const STYLES = [undefined, '6 3', '2 3', '9 3 2 3'];

export function EffectEditor({
  effect,
  onClose,
}: {
  effect: EffectRow | null;
  onClose: () => void;
}) {
  const [draft, setDraft] = useState<EffectDraft>(() => {
    if (!effect) return NEW_EFFECT;
    const { id, number, ...rest } = effect;
    void id;
    void number;
    return rest;
  });
  const [at, setAt] = useState(0);
  const set = (fields: Partial<EffectDraft>): void => setDraft((d) => ({ ...d, ...fields }));
  const track = draft.tracks[at] ?? draft.tracks[0];
  const setTrack = (fields: Partial<EffectTrack>): void =>
    set({ tracks: draft.tracks.map((t, i) => (i === at ? { ...t, ...fields } : t)) });
  const params = { ...(effect ? { id: effect.id } : {}), set: draft };
  const plan = tryEdit('set-effect', params);
  const problem = 'message' in plan ? plan.message : undefined;
  const { spread } = draft;
  const setSpread = (fields: Partial<EffectRow['spread']>): void =>
    set({ spread: { ...spread, ...fields } });
  const own = 'hz' in draft.speed;
  return (
    <Dialog
      of={effect ? `effects/${effect.id}` : undefined}
      open
      onOpenChange={(o) => !o && onClose()}
      title={effect ? `Effect ${effect.number} “${effect.name}”` : 'A new effect'}
      width="w-[640px]"
      tall
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void edit('set-effect', params).then((a) => 'seq' in a && onClose());
        }}
      >
        <Graph draft={draft} at={at} onSteps={(steps) => setTrack({ steps })} />
        <div
          className="mt-2 flex flex-wrap items-center gap-1.5"
          role="tablist"
          aria-label="Attributes"
        >
          {draft.tracks.map((t, i) => (
            <button
              key={i}
              type="button"
              role="tab"
              aria-selected={i === at}
              onClick={() => setAt(i)}
              className={`flex h-7 items-center gap-2 rounded-md px-2.5 text-[12.5px] ${i === at ? 'bg-lift text-text' : 'bg-raised text-muted'}`}
            >
              <svg width="18" height="6" aria-hidden="true">
                <line
                  x1="0"
                  x2="18"
                  y1="3"
                  y2="3"
                  stroke="currentColor"
                  strokeWidth="1.6"
                  strokeDasharray={STYLES[i % 4]}
                />
              </svg>
              {attributeInfo(t.attribute).label}
            </button>
          ))}
          <IconButton
            label="Another attribute"
            className="!size-7"
            disabled={draft.tracks.length >= 16}
            onClick={() => (
              set({
                tracks: [
                  ...draft.tracks,
                  {
                    attribute:
                      KNOWN_ATTRIBUTES.find((a) => !draft.tracks.some((t) => t.attribute === a)) ??
                      'Pan',
                    wave: 'sine',
                    mode: 'relative',
                    size: 0.1,
                    base: 0,
                    width: 1,
                    offset: 0,
                  },
                ],
              }),
              setAt(draft.tracks.length)
            )}
          >
            <Plus size={14} />
          </IconButton>
          {draft.tracks.length > 1 && (
            <IconButton
              label="Take this attribute out"
              className="!size-7"
              onClick={() => (set({ tracks: draft.tracks.filter((_, i) => i !== at) }), setAt(0))}
            >
              <Trash2 size={13} />
            </IconButton>
          )}
        </div>
        {track && (
          <div className="mt-2 grid grid-cols-3 gap-x-3 gap-y-2">
            <Choice
              label="Attribute"
              value={track.attribute}
              onChange={(e) => setTrack({ attribute: e.target.value })}
              options={KNOWN_ATTRIBUTES.map((a) => ({ value: a, label: attributeInfo(a).label }))}
            />
            <Choice
              label="Wave"
              value={track.wave}
              onChange={(e) =>
                setTrack({
                  wave: e.target.value as EffectTrack['wave'],
                  ...(e.target.value === 'steps' && !track.steps
                    ? {
                        steps: [
                          { level: 1, share: 0.3 },
                          { level: 0, share: 0.3 },
                        ],
                      }
                    : {}),
                })
              }
              options={WAVES.map((w) => ({ value: w, label: w }))}
            />
            <Choice
              label="How"
              value={track.mode}
              onChange={(e) => setTrack({ mode: e.target.value as EffectTrack['mode'] })}
              options={[
                { value: 'relative', label: 'about the level beneath' },
                { value: 'absolute', label: 'makes the level' },
              ]}
            />
            <div className="col-span-3 grid grid-cols-4 gap-x-3">
              <Number_
                label="Size"
                unit="%"
                value={track.size * 100}
                min={-100}
                max={100}
                onChange={(v) => setTrack({ size: v / 100 })}
              />
              <Number_
                label="Takes of the cycle"
                unit="%"
                value={track.width * 100}
                min={5}
                max={100}
                onChange={(v) => setTrack({ width: v / 100 })}
              />
              <Number_
                label="Starts earlier by"
                unit="% of the cycle"
                value={track.offset * 100}
                min={0}
                max={100}
                onChange={(v) => setTrack({ offset: v / 100 })}
              />
              {track.mode === 'absolute' && (
                <Number_
                  label="Lowest level"
                  unit="%"
                  value={track.base * 100}
                  min={0}
                  max={100}
                  onChange={(v) => setTrack({ base: v / 100 })}
                />
              )}
            </div>
            {track.wave === 'steps' && (
              <span className="col-span-3 flex items-end gap-2 text-[12px] text-muted">
                <Button
                  className="!h-7"
                  disabled={(track.steps?.length ?? 0) >= 32}
                  onClick={() =>
                    setTrack({ steps: [...(track.steps ?? []), { level: 0.5, share: 0.3 }] })
                  }
                >
                  Add a step
                </Button>
                <Button
                  className="!h-7"
                  disabled={(track.steps?.length ?? 0) <= 2}
                  onClick={() => setTrack({ steps: (track.steps ?? []).slice(0, -1) })}
                >
                  One less
                </Button>
                <Number_
                  label="Moving to each step takes"
                  unit="% of it"
                  value={(track.steps?.[0]?.share ?? 0) * 100}
                  min={0}
                  max={100}
                  onChange={(v) =>
                    setTrack({ steps: (track.steps ?? []).map((s) => ({ ...s, share: v / 100 })) })
                  }
                />
              </span>
            )}
          </div>
        )}
        <div className="mt-3 grid grid-cols-4 gap-x-3 gap-y-2 border-t border-line pt-3 [&>span]:min-w-0">
          <Field
            label="Name"
            className="col-span-2"
            value={draft.name}
            maxLength={120}
            onChange={(e) => set({ name: e.target.value })}
          />
          <Choice
            label="Clock"
            value={own ? 'own' : 'shared'}
            onChange={(e) => set({ speed: e.target.value === 'own' ? { hz: 0.3 } : { beats: 4 } })}
            options={[
              { value: 'own', label: 'its own' },
              { value: 'shared', label: 'the shared tempo' },
            ]}
          />
          {'hz' in draft.speed ? (
            <Number_
              label="Speed"
              unit="Hz"
              digits={2}
              step={0.01}
              value={draft.speed.hz}
              min={0.01}
              max={20}
              onChange={(v) => set({ speed: { hz: v } })}
            />
          ) : (
            <Number_
              label="A cycle is"
              unit="beats"
              digits={2}
              step={0.25}
              value={draft.speed.beats}
              min={0.25}
              max={64}
              onChange={(v) => set({ speed: { beats: v } })}
            />
          )}
          <Choice
            label="Direction"
            value={draft.direction}
            onChange={(e) => set({ direction: e.target.value as EffectRow['direction'] })}
            options={[
              { value: 'forward', label: 'forward' },
              { value: 'back', label: 'back' },
              { value: 'bounce', label: 'there and back' },
            ]}
          />
          <Number_
            label="From first to last"
            unit={spread.turns === 1 ? 'cycle' : 'cycles'}
            digits={2}
            step={0.05}
            value={spread.turns}
            min={-8}
            max={8}
            onChange={(v) => setSpread({ turns: v })}
          />
          <Number_
            label="Repeats after"
            unit={spread.groups === 0 ? 'units: not at all' : 'units'}
            value={spread.groups}
            min={0}
            max={64}
            onChange={(v) => setSpread({ groups: Math.round(v) })}
          />
          <Number_
            label="Neighbours together"
            unit={spread.blocks === 1 ? 'each alone' : 'in step'}
            value={spread.blocks}
            min={1}
            max={64}
            onChange={(v) => setSpread({ blocks: Math.round(v) })}
          />
          <Number_
            label="Mirrored"
            unit={spread.wings === 1 ? 'part: not mirrored' : 'parts'}
            value={spread.wings}
            min={1}
            max={16}
            onChange={(v) => setSpread({ wings: Math.round(v) })}
          />
          <Choice
            label="Order"
            value={spread.seed === undefined ? 'line' : 'chance'}
            onChange={(e) => {
              const { seed, ...rest } = spread;
              void seed;
              set({ spread: e.target.value === 'line' ? rest : { ...rest, seed: 1 } });
            }}
            options={[
              { value: 'line', label: 'in turn' },
              { value: 'chance', label: 'by chance' },
            ]}
          />
          {spread.seed !== undefined && (
            <Number_
              label="Another draw"
              unit=""
              value={spread.seed}
              min={0}
              max={9999}
              onChange={(v) => setSpread({ seed: Math.round(v) })}
            />
          )}
        </div>
        <p
          className={`mt-3 text-[12.5px] ${problem ? 'text-warning' : 'text-muted'}`}
          role={problem ? 'alert' : undefined}
        >
          {problem ?? 'Where it runs, it goes on from where it is.'}
        </p>
        <div className="mt-3 flex justify-end gap-2">
          <Button kind="quiet" onClick={onClose}>
            Leave it
          </Button>
          <Button kind="strong" type="submit" disabled={problem !== undefined}>
            Save effect
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function Number_({
  label,
  unit,
  value,
  min,
  max,
  step = 1,
  digits = 0,
  onChange,
}: {
  label: string;
  unit: string;
  value: number;
  min: number;
  max: number;
  step?: number;
  digits?: number;
  onChange: (v: number) => void;
}) {
  return (
    <span className="block">
      <span className="block text-[12px] leading-4 text-muted">{label}</span>
      <Scrub
        label={label}
        value={value}
        unit={unit}
        min={min}
        max={max}
        step={step}
        digits={digits}
        onChange={onChange}
      />
    </span>
  );
}

/** Waves over one cycle; dots are the units of the selection, moving as they would. */
function Graph({
  draft,
  at,
  onSteps,
}: {
  draft: EffectDraft;
  at: number;
  onSteps: (steps: NonNullable<EffectTrack['steps']>) => void;
}) {
  const selected = useScreen((s) => s.selection.length);
  const tempo = useScreen((s) => s.playback.tempo_bpm);
  const svg = useRef<SVGSVGElement>(null);
  const dots = useRef<(SVGCircleElement | null)[]>([]);
  const count = Math.min(16, Math.max(4, selected));
  const where = useMemo(() => phases(count, draft.spread), [count, draft.spread]);
  const track = draft.tracks[at];
  const y = (w: number): number => H - 10 - w * (H - 20);
  const drag = useDrag<number>({
    begin: (e) => {
      const step = e.target instanceof Element ? e.target.closest('[data-step]') : null;
      return step ? Number(step.getAttribute('data-step')) : null;
    },
    move: (n, e) => {
      const r = svg.current?.getBoundingClientRect();
      if (!r || !track?.steps) return;
      const level = Math.min(
        1,
        Math.max(0, 1 - ((e.clientY - r.top) / r.height - 10 / H) / ((H - 20) / H)),
      );
      onSteps(
        track.steps.map((s, i) => (i === n ? { ...s, level: Math.round(level * 100) / 100 } : s)),
      );
    },
  });
  useEffect(() => {
    let request = 0;
    const begin = performance.now();
    const move = (now: number): void => {
      request = requestAnimationFrame(move);
      const cycles = ((now - begin) / 1000) * hertz(draft.speed, tempo);
      if (!track) return;
      where.forEach((offset, i) => {
        const phase = phaseOf(draft.direction, cycles, offset);
        dots.current[i]?.setAttribute('cx', String(phase * W));
        dots.current[i]?.setAttribute('cy', String(y(waveAt(track, phase))));
      });
    };
    request = requestAnimationFrame(move);
    return () => cancelAnimationFrame(request);
  }, [draft, track, where, tempo]);
  const steps = track?.wave === 'steps' ? track.steps : undefined;
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      className="h-[150px] w-full touch-none rounded-lg bg-ink shadow-[inset_0_0_0_1px_var(--color-line)]"
      role="img"
      aria-label="The effect’s waves over one cycle"
      {...drag}
    >
      {[0, 0.5, 1].map((l) => (
        <line key={l} x1="0" x2={W} y1={y(l)} y2={y(l)} stroke="var(--color-line)" />
      ))}
      {draft.tracks.map((t, i) => (
        <polyline
          key={i}
          points={Array.from(
            { length: 129 },
            (_, k) => `${(k / 128) * W},${y(waveAt(t, Math.min(0.99999, k / 128)))}`,
          ).join(' ')}
          fill="none"
          stroke={i === at ? 'var(--color-text)' : 'var(--color-dim)'}
          strokeWidth={i === at ? 2 : 1.3}
          strokeDasharray={STYLES[i % 4]}
        />
      ))}
      {where.map((_, i) => (
        <circle
          key={i}
          ref={(c) => void (dots.current[i] = c)}
          r="3.5"
          fill="var(--color-standby)"
        />
      ))}
      {steps?.map((s, i) => (
        <g
          key={i}
          role="slider"
          tabIndex={0}
          aria-label={`Step ${i + 1}`}
          aria-valuenow={Math.round(s.level * 100)}
          aria-valuemin={0}
          aria-valuemax={100}
          data-step={i}
          onKeyDown={(e) => {
            const by = e.key === 'ArrowUp' ? 0.05 : e.key === 'ArrowDown' ? -0.05 : 0;
            if (by === 0) return;
            e.preventDefault();
            onSteps(
              steps.map((x, k) =>
                k === i
                  ? {
                      ...x,
                      level: Math.min(1, Math.max(0, Math.round((x.level + by) * 100) / 100)),
                    }
                  : x,
              ),
            );
          }}
          className="cursor-ns-resize"
        >
          <circle
            cx={((i + 0.5 + s.share / 2) / steps.length) * W}
            cy={y(s.level)}
            r="14"
            fill="transparent"
          />
          <circle
            cx={((i + 0.5 + s.share / 2) / steps.length) * W}
            cy={y(s.level)}
            r="5"
            fill="var(--color-ink)"
            stroke="var(--color-text)"
            strokeWidth="1.6"
          />
        </g>
      ))}
    </svg>
  );
}
