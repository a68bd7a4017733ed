/** Faders with names: moved by hand, wheel and keys; flash beneath; a fader that waits to be picked up says so. */
'use client';
import { MoonStar, Plus, Settings2 } from 'lucide-react';
import { useRef, useState } from 'react';
import type { FaderRow } from '@/core/show/rows';
import { live, streamCommand } from '../state/actions';
import { mayEdit, mayPlay, useScreen, useShow } from '../state/store';
import { useRun } from '../state/run';
import { FaderDialog } from './FaderDialog';

interface Strip {
  key: string;
  number: number | null;
  name: string;
  level: number;
  real: number;
  waiting: boolean;
  flashing: boolean;
  says: string;
  set: (level: number) => void;
}

function Track({ strip, disabled, tall }: { strip: Strip; disabled: boolean; tall: boolean }) {
  const box = useRef<HTMLDivElement>(null);
  const [drag, setDrag] = useState<{ y: number; from: number; at: number } | null>(null);
  const level = drag?.at ?? strip.level;
  const clamp = (v: number): number => Math.min(1, Math.max(0, v));
  const move = (to: number): void => strip.set(Math.round(clamp(to) * 1000) / 1000);
  const keys = (e: React.KeyboardEvent): void => {
    const by: Record<string, number> = { ArrowUp: 0.01, ArrowRight: 0.01, ArrowDown: -0.01, ArrowLeft: -0.01, PageUp: 0.1, PageDown: -0.1 };
    const step = by[e.key];
    if (disabled) return;
    if (step !== undefined) move(strip.level + step);
    else if (e.key === 'Home') move(0);
    else if (e.key === 'End') move(1);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div
      ref={box}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-orientation="vertical"
      aria-label={strip.name}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(strip.level * 100)}
      aria-valuetext={strip.says}
      aria-disabled={disabled}
      data-fader={strip.number ?? strip.key}
      onKeyDown={keys}
      onWheel={(e) => !disabled && move(strip.level - Math.sign(e.deltaY) * 0.01)}
      onPointerDown={(e) => {
        if (disabled) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        setDrag({ y: e.clientY, from: strip.level, at: strip.level });
      }}
      onPointerMove={(e) => {
        const height = (box.current?.clientHeight ?? 120) - 14;
        if (!drag || height <= 0) return;
        const at = clamp(drag.from + (drag.y - e.clientY) / height);
        setDrag({ ...drag, at });
        move(at);
      }}
      onPointerUp={() => setDrag(null)}
      className={`relative w-full touch-none rounded ${tall ? 'flex-1' : 'h-[120px]'} ${disabled ? '' : 'cursor-ns-resize'}`}
    >
      <i className="absolute inset-y-0 left-1/2 w-[5px] -translate-x-1/2 rounded bg-[#2a3833]" />
      <i className="absolute bottom-0 left-1/2 w-[5px] -translate-x-1/2 rounded bg-text" style={{ height: `${strip.real * 100}%`, opacity: strip.real > 0 ? 1 : 0 }} />
      {strip.waiting && <i title="Waits here" className="absolute left-1/2 h-0.5 w-7 -translate-x-1/2 bg-warning" style={{ bottom: `calc(${strip.real} * (100% - 2px))` }} />}
      <i className={`absolute left-1/2 h-[15px] w-[26px] -translate-x-1/2 rounded-[3px] ${strip.waiting ? 'bg-transparent shadow-[inset_0_0_0_1.5px_var(--color-warning)]' : level > 0 ? 'bg-[#d9e2db]' : 'bg-[#7c968b]'}`} style={{ bottom: `calc(${level} * (100% - 15px))` }}>
        <i className={`absolute inset-x-[6px] top-[6.500px] h-[2px] ${strip.waiting ? 'bg-warning' : 'bg-[#22302a]'}`} />
      </i>
    </div>
  );
}

function sayFader(f: FaderRow, level: number, real: number, waiting: boolean): string {
  const pct = (v: number): string => `${Math.round(v * 100)} %`;
  if (waiting) return `${f.name} stands at ${pct(level)} and gives ${pct(real)}: it waits to be moved across that`;
  return f.mode === 'rate' ? `${f.name}, rate ${Math.round(10 ** (level * 2 - 1) * 100)} %` : `${f.name} ${pct(level)}`;
}

export function Faders() {
  const show = useShow();
  const { playback, you, connection } = useScreen();
  const locked = useRun((s) => s.locked);
  const [editing, setEditing] = useState<FaderRow | 'new' | null>(null);
  const playing = mayPlay(you.role) && connection === 'live';
  const opened = mayEdit(you.role) && !locked;
  const rows = [...show.faders.values()].sort((a, b) => a.number - b.number);
  const strips = rows.map((f): { row: FaderRow; strip: Strip } => {
    const s = playback.faders.find((x) => x.id === f.id) ?? { level: 0, real: 0, waiting: false, flash: false };
    return { row: f, strip: { key: f.id, number: f.number, name: f.name, level: s.level, real: f.mode === 'rate' ? s.level : s.real, waiting: s.waiting, flashing: s.flash, says: sayFader(f, s.level, s.real, s.waiting), set: (level) => streamCommand(`fader-${f.number}`, { command: 'fader', fader: f.number, level }) } };
  });
  const grand: Strip = { key: 'grand', number: null, name: 'Grand master', level: playback.master, real: playback.blackout ? 0 : playback.master, waiting: false, flashing: false, says: `Grand master ${Math.round(playback.master * 100)} %${playback.blackout ? ', blackout' : ''}`, set: (level) => streamCommand('master', { command: 'master', level }) };
  return (
    <section aria-label="Faders" className="flex min-h-0 flex-1 flex-col border-t border-line px-2.5 pb-1.5 pt-2">
      <header className="flex h-6 items-center justify-between">
        <h2 className="cap">Faders</h2>
        {opened && (
          <button type="button" title="New fader" aria-label="New fader" onClick={() => setEditing('new')} className="grid size-7 place-items-center rounded-md text-soft hover:bg-raised">
            <Plus size={15} />
          </button>
        )}
      </header>
      <div className="flex min-h-0 flex-1 gap-2">
        <div className="grid min-h-0 flex-1 auto-cols-[minmax(33px,1fr)] grid-flow-col gap-0 overflow-x-auto">
          {rows.length === 0 && <p className="col-span-full self-center text-[12.5px] leading-[18px] text-muted">No faders yet. Open the lock, then make one: a list, a look, a group or an effect under your hand.</p>}
          {strips.map(({ row, strip }) => {
            const flashes = row.mode === 'proportional' && row.holds.kind !== 'effect';
            const press = (on: boolean) => () => {
              if (playing) void live({ command: 'flash', fader: row.number, on });
            };
            return (
              <div key={strip.key} className="flex min-h-0 flex-col items-center gap-1" title={strip.says}>
                <span className={`num text-[13px] ${strip.waiting ? 'text-warning' : strip.real > 0 ? 'font-semibold' : 'text-muted'}`}>{row.mode === 'rate' ? Math.round(10 ** (strip.level * 2 - 1) * 100) : Math.round(strip.level * 100)}</span>
                <Track strip={strip} disabled={!playing} tall />
                <span className={`w-full truncate text-center text-[11.5px] leading-5 ${strip.waiting ? 'text-warning' : 'text-soft'}`}>{strip.waiting ? 'waits' : row.name}</span>
                <button
                  type="button"
                  disabled={!playing || !flashes}
                  aria-label={`Flash ${row.name}${row.flash === 'solo' ? ', alone' : ''}`}
                  title={flashes ? (row.flash === 'solo' ? 'Alone at full while pressed' : 'Full while pressed') : undefined}
                  onPointerDown={press(true)}
                  onPointerUp={press(false)}
                  onPointerLeave={() => strip.flashing && press(false)()}
                  onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && !e.repeat && (e.preventDefault(), e.stopPropagation(), press(true)())}
                  onKeyUp={(e) => (e.key === 'Enter' || e.key === ' ') && press(false)()}
                  className={`h-9 w-[calc(100%-3px)] rounded-md text-[11px] ${!flashes ? 'invisible' : strip.flashing ? 'bg-lime text-lime-ink' : 'bg-raised text-muted hover:bg-lift'}`}
                >
                  {row.flash === 'solo' ? 'solo' : row.number}
                </button>
                {opened && (
                  <button type="button" aria-label={`Change fader ${row.name}`} onClick={() => setEditing(row)} className="grid h-7 w-full place-items-center rounded-md text-muted hover:bg-raised">
                    <Settings2 size={13} />
                  </button>
                )}
              </div>
            );
          })}
        </div>
        <div className="flex w-11 flex-none flex-col items-center gap-1 border-l border-line pl-1.5" title={grand.says}>
          <span className={`num text-[13px] font-semibold ${playback.blackout || playback.master < 1 ? 'text-warning' : ''}`}>{Math.round(playback.master * 100)}</span>
          <Track strip={grand} disabled={!playing} tall />
          <span className="text-[12px] font-semibold leading-5">Grand</span>
          <button type="button" aria-pressed={playback.blackout} aria-label="Blackout, from the faders" title={playback.blackout ? 'End the blackout' : 'Blackout: house lights stay'} disabled={!playing} onClick={() => void live({ command: 'blackout', on: !playback.blackout })} className={`grid h-9 w-full place-items-center rounded-md ${playback.blackout ? 'bg-warning text-ink' : 'bg-raised text-soft hover:bg-lift'}`}>
            <MoonStar size={14} />
          </button>
          {opened && <span className="h-7" />}
        </div>
      </div>
      {editing && <FaderDialog fader={editing === 'new' ? null : editing} onClose={() => setEditing(null)} />}
    </section>
  );
}
