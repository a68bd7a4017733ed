/** A control page: large buttons and a few faders. All that a volunteer sees, and nothing on it can be broken. */
'use client';
import { useEffect, useState } from 'react';
import type { PageAct } from '@/core/show/rows';
import { api } from '../state/api';
import { useFader } from '../parts/use-fader';
import { live, streamCommand } from '../state/actions';
import { useScreen } from '../state/store';
import { RemoteBar, RemotesOff } from './RemoteBar';

interface Pages {
  show: { name: string; venue: string };
  you: { name: string; role: string };
  pages: { id: string; name: string; buttons: { label: string; act: PageAct }[]; faders: { id: string; number: number; name: string }[] }[];
}

export function ControlPage() {
  const { showId, connection, playback, seq } = useScreen();
  const [data, setData] = useState<Pages>();
  const [at, setAt] = useState<string>();
  useEffect(() => {
    if (showId === '') return;
    api<Pages>(`/api/shows/${showId}/pages`).then(
      (d) => {
        setData(d);
        setAt((now) => now ?? (window.location.hash.slice(1) || d.pages[0]?.id));
      },
      () => undefined,
    );
  }, [showId, seq, connection]);
  const page = data?.pages.find((p) => p.id === at) ?? data?.pages[0];
  const can = connection === 'live' && playback.remotes;
  return (
    <div className="flex h-full flex-col bg-ink">
      <RemoteBar title={page?.name ?? 'Your page'} name={data?.show.name ?? ''} />
      <RemotesOff />
      {data && data.pages.length > 1 && (
        <nav aria-label="Pages" className="flex flex-none gap-2 overflow-x-auto px-4 pt-3">
          {data.pages.map((p) => (
            <button key={p.id} type="button" aria-current={p.id === page?.id} onClick={() => setAt(p.id)} className={`min-h-11 whitespace-nowrap rounded-lg px-4 text-[15px] ${p.id === page?.id ? 'bg-lift' : 'text-muted'}`}>
              {p.name}
            </button>
          ))}
        </nav>
      )}
      {data && !page && <p className="m-auto max-w-sm p-6 text-center text-muted">No page has been given to you yet. The show’s owner gives one in Crew; it appears here by itself.</p>}
      {page && (
        <div className="flex min-h-0 flex-1 gap-6 overflow-auto p-4 max-[760px]:flex-col">
          <div className="grid flex-1 auto-rows-[minmax(88px,1fr)] grid-cols-[repeat(auto-fit,minmax(150px,1fr))] gap-3">
            {page.buttons.map((b, i) => (
              <PageButton key={i} label={b.label} act={b.act} can={can} onPress={() => void live({ command: 'press', page: page.id, button: i + 1 })} />
            ))}
          </div>
          {page.faders.length > 0 && (
            <div className="flex flex-none justify-center gap-4">
              {page.faders.map((f) => (
                <PageFader key={f.id} page={page.id} id={f.id} name={f.name} can={can} />
              ))}
            </div>
          )}
        </div>
      )}
    </div>
  );
}

function PageButton({ label, act, can, onPress }: { label: string; act: PageAct; can: boolean; onPress: () => void }) {
  const { lists, faders } = useScreen((s) => s.playback);
  const on = act.do === 'cue' ? lists.some((l) => l.cueId === act.cue) : act.do === 'fader' ? (faders.find((f) => f.id === act.fader)?.level ?? 0) >= act.level - 0.005 : act.do === 'go' ? lists.some((l) => l.id === act.list && l.active) : false;
  return (
    <button type="button" disabled={!can} aria-pressed={on} onClick={onPress} className={`rounded-2xl px-4 text-[22px] font-semibold leading-7 [overflow-wrap:anywhere] active:brightness-125 disabled:opacity-50 ${on ? 'bg-lime-wash text-lime shadow-[inset_0_0_0_2px_var(--color-lime)]' : 'bg-raised'}`}>
      {label}
    </button>
  );
}

const KNOB_PX = 24;

function PageFader({ page, id, name, can }: { page: string; id: string; name: string; can: boolean }) {
  const now = useScreen((s) => s.playback.faders.find((f) => f.id === id)?.level ?? 0);
  const { shown: level, handlers } = useFader(now, !can, KNOB_PX, (to) => streamCommand(`page-fader/${id}`, { command: 'page-fader', page, fader: id, level: to }));
  return (
    <div className="flex w-[92px] flex-col items-center">
      <span className="num text-[18px] font-semibold">{Math.round(level * 100)}</span>
      <div
        role="slider"
        tabIndex={can ? 0 : -1}
        aria-label={name}
        aria-orientation="vertical"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(level * 100)}
        aria-disabled={!can}
        {...handlers}
        className={`relative my-2 min-h-[220px] w-[72px] flex-1 touch-none overflow-hidden rounded-2xl bg-panel shadow-[inset_0_0_0_1px_var(--color-edge)] ${can ? 'cursor-ns-resize' : 'opacity-50'}`}
      >
        <div className="absolute inset-x-0 bottom-0 bg-[#6f8240]" style={{ height: `${level * 100}%` }} />
        <div className="absolute inset-x-1 h-2 rounded bg-text" style={{ bottom: `calc(${level} * (100% - ${KNOB_PX}px) + 8px)` }} />
      </div>
      <span className="w-full truncate text-center text-[15px]">{name}</span>
    </div>
  );
}
