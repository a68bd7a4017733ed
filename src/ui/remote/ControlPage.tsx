/** A control page: large buttons and a few faders. All that a volunteer sees, and nothing on it can be broken. */
'use client';
import { useEffect, useState } from 'react';
import { boardOver } from '@/core/live/boards';
import type { Thing } from '@/core/live/thing';
import type { PageAct } from '@/core/pages/rows';
import { api } from '../state/api';
import { useFader } from '../parts/use-fader';
import { said, streamCommand } from '../state/actions';
import { useScreen } from '../state/store';
import { RemoteBar, RemotesOff } from './RemoteBar';
import { useParts } from '../state/use-parts';

interface Pages {
  show: { name: string; venue: string };
  you: { name: string; role: string };
  /** Lists that are played from these pages, and those of their cues that were asked for. */
  lists: { id: string; name: string }[];
  cues: { id: string; number: string; name: string }[];
  pages: {
    id: string;
    name: string;
    lists: string[];
    buttons: { label: string; act: PageAct }[];
    faders: { id: string; number: number; name: string }[];
  }[];
}

export function ControlPage() {
  const { showId, connection, playback, seq } = useParts(
    useScreen,
    'showId',
    'connection',
    'playback',
    'seq',
  );
  const cues = playback.lists
    .flatMap((l) => [l.cueId, l.nextId])
    .filter((c) => c !== null)
    .join();
  const [data, setData] = useState<Pages>();
  const [at, setAt] = useState<string>();
  useEffect(() => {
    if (showId === '') return;
    api<Pages>(`/api/shows/${showId}/pages?cues=${cues}`).then(
      (d) => {
        setData(d);
        setAt((now) => now ?? (window.location.hash.slice(1) || d.pages[0]?.id));
      },
      () => undefined,
    );
  }, [showId, seq, connection, cues]);
  const page = data?.pages.find((p) => p.id === at) ?? data?.pages[0];
  const can = connection === 'live' && playback.remotes;
  return (
    <div className="flex h-full flex-col bg-ink">
      <RemoteBar title={page?.name ?? 'Your page'} name={data?.show.name ?? ''} />
      <RemotesOff />
      {data && data.pages.length > 1 && (
        <nav aria-label="Pages" className="flex flex-none gap-2 overflow-x-auto px-4 pt-3">
          {data.pages.map((p) => (
            <button
              key={p.id}
              type="button"
              aria-current={p.id === page?.id}
              onClick={() => setAt(p.id)}
              className={`min-h-11 rounded-lg px-4 text-[15px] whitespace-nowrap ${p.id === page?.id ? 'bg-lift' : 'text-muted'}`}
            >
              {p.name}
            </button>
          ))}
        </nav>
      )}
      {data && !page && (
        <p className="m-auto max-w-sm p-6 text-center text-muted">
          No page has been given to you yet. The show’s owner gives one in Crew; it appears here by
          itself.
        </p>
      )}
      {page && data && <Played data={data} page={page} />}
      {page && (
        <div className="flex min-h-0 flex-1 gap-6 overflow-auto p-4 max-[760px]:flex-col">
          <div className="grid flex-1 auto-rows-[minmax(88px,1fr)] grid-cols-[repeat(auto-fit,minmax(150px,1fr))] gap-3">
            {page.buttons.map((b, i) => (
              <PageButton
                key={i}
                label={b.label}
                act={b.act}
                can={can}
                onPress={() => void said({ command: 'press', page: page.id, button: i + 1 })}
              />
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

/** Where the lists are that this page plays, and over whose board. */
function Played({ data, page }: { data: Pages; page: Pages['pages'][number] }) {
  const { playback, you } = useParts(useScreen, 'playback', 'you');
  const acts = page.buttons.map((b) => b.act);
  const lists = playback.lists.filter((l) => page.lists.includes(l.id));
  const cue = (id: string | null): string => {
    const c = data.cues.find((x) => x.id === id);
    return c ? `${c.number}${c.name ? ` ${c.name}` : ''}` : '';
  };
  const things: Thing[] = [
    ...lists.map((l) => ({ list: l.id })),
    ...(acts.some((a) => a.do === 'release-all') ? (['show'] as const) : []),
  ];
  const over = [
    ...new Set(
      things
        .flatMap((t) => boardOver(playback.boards, t) ?? [])
        .filter((b) => b.userId !== you.userId)
        .map((b) => b.name),
    ),
  ];
  if (lists.length === 0 && over.length === 0) return null;
  return (
    <section
      aria-label="What is on"
      data-testid="page-now"
      className="flex-none border-b border-line px-4 py-2"
    >
      {lists.map((l) => (
        <p key={l.id} className="flex items-baseline gap-3 truncate text-[15px] leading-6">
          {lists.length > 1 && (
            <span className="flex-none text-muted">
              {data.lists.find((x) => x.id === l.id)?.name}
            </span>
          )}
          <b className="truncate font-semibold text-lime-word">
            {l.cueId === null ? 'nothing yet' : cue(l.cueId)}
          </b>
          {l.nextId !== null && <span className="truncate text-standby">next {cue(l.nextId)}</span>}
        </p>
      ))}
      {over.length > 0 && playback.remotes && (
        <p className="text-[13px] leading-5 text-soft">
          {over.join(' and ')} {over.length > 1 ? 'are' : 'is'} on the board. What you press here
          plays over {over.length > 1 ? 'them' : 'it'}, and is told.
        </p>
      )}
    </section>
  );
}

function PageButton({
  label,
  act,
  can,
  onPress,
}: {
  label: string;
  act: PageAct;
  can: boolean;
  onPress: () => void;
}) {
  const { lists, faders, played } = useScreen((s) => s.playback);
  const on =
    act.do === 'cue'
      ? lists.some((l) => l.cueId === act.cue)
      : act.do === 'fader'
        ? (faders.find((f) => f.id === act.fader)?.level ?? 0) >= act.level - 0.005
        : act.do === 'go'
          ? lists.some((l) => l.id === act.list && l.active)
          : act.do === 'play'
            ? played.some((p) => p.kind === act.kind && p.id === act.id)
            : false;
  return (
    <button
      type="button"
      disabled={!can}
      aria-pressed={on}
      onClick={onPress}
      className={`rounded-2xl px-4 text-[22px] leading-7 font-semibold [overflow-wrap:anywhere] active:brightness-125 disabled:opacity-50 ${on ? 'bg-lime-wash text-lime-word shadow-[inset_0_0_0_2px_var(--color-lime)]' : 'bg-raised'}`}
    >
      {label}
    </button>
  );
}

const KNOB_PX = 24;

function PageFader({
  page,
  id,
  name,
  can,
}: {
  page: string;
  id: string;
  name: string;
  can: boolean;
}) {
  const now = useScreen((s) => s.playback.faders.find((f) => f.id === id)?.level ?? 0);
  const { shown: level, handlers } = useFader(now, !can, KNOB_PX, (to) =>
    streamCommand(`page-fader/${id}`, { command: 'page-fader', page, fader: id, level: to }),
  );
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
        <div
          className="absolute inset-x-0 bottom-0 bg-lime-past"
          style={{ height: `${level * 100}%` }}
        />
        <div
          className="absolute inset-x-1 h-2 rounded bg-text"
          style={{ bottom: `calc(${level} * (100% - ${KNOB_PX}px) + 8px)` }}
        />
      </div>
      <span className="w-full truncate text-center text-[15px]">{name}</span>
    </div>
  );
}
