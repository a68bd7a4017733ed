/** The shared tempo of effects that count in beats: dragged, typed, or tapped. */
'use client';
import { clamp } from '@/core/numbers';
import { Scrub } from '../../parts/controls';
import { useTaps } from '../../parts/use-taps';
import { said, streamCommand } from '../../state/commands';
import { mayPlay, useScreen } from '../../state/store';

/** Beats a minute, tapped or typed. */
export function Tempo() {
  const bpm = useScreen((s) => s.playback.tempo_bpm);
  const role = useScreen((s) => s.you.role);
  const tap = useTaps(
    (beat_s) => void said({ command: 'tempo', bpm: clamp(Math.round(60 / beat_s), 10, 600) }),
  );
  const disabled = !mayPlay(role);
  return (
    <span className="flex items-center gap-1 text-[12px] text-muted">
      Tempo
      <Scrub
        label="Tempo"
        value={bpm}
        unit="bpm"
        min={10}
        max={600}
        disabled={disabled}
        onChange={(v) => streamCommand('tempo', { command: 'tempo', bpm: Math.round(v) })}
      />
      <button
        type="button"
        disabled={disabled}
        title="Tap in time, three times or more"
        onClick={tap}
        className="h-7 rounded-md bg-raised px-2.5 text-soft hover:bg-lift active:bg-lime active:text-lime-ink disabled:opacity-45"
      >
        Tap
      </button>
    </span>
  );
}
