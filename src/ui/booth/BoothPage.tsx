/** For a department: one large light that is answered by touching it, and what comes next. */
'use client';
import type { CallState } from '@/core/live/messages';
import { oneLine } from '@/core/words';
import { Volume2, VolumeX } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { said } from '../state/commands';
import { RemoteBar } from '../remote/RemoteBar';
import { useList, useScreen, useShow } from '../state/store';
import { setCallSound, sound, useCallSound } from './call-sound';
import { useNextCalls } from './calls';
import { CallLamp } from './CallLamp';
import { useSince } from './use-since';

/** A page for a department: its light, and what comes next. */
export function BoothPage() {
  const show = useShow();
  const list = useList();
  const [chosen, setChosen] = useState('');
  useEffect(() => setChosen(window.location.hash.slice(1)), []);
  const departments = [...show.departments.values()].sort((a, b) => a.name.localeCompare(b.name));
  const department = show.departments.get(chosen);
  const on = useCallSound((s) => s.on);
  const choose = (id: string): void => {
    setChosen(id);
    window.history.replaceState(null, '', `#${id}`);
  };
  return (
    <div className="flex h-full flex-col bg-ink">
      <RemoteBar title={department ? `Calls for ${department.name}` : 'Calls for light'} always />
      <nav aria-label="Departments" className="flex flex-none gap-2 overflow-x-auto px-4 pt-3">
        {[{ id: 'lx', name: 'Light' }, ...departments].map((d) => (
          <button
            key={d.id}
            type="button"
            aria-current={(department?.id ?? 'lx') === d.id}
            onClick={() => choose(d.id)}
            className={`min-h-11 rounded-lg px-4 text-[15px] whitespace-nowrap ${(department?.id ?? 'lx') === d.id ? 'bg-lift' : 'text-muted'}`}
          >
            {d.name}
          </button>
        ))}
        <button
          type="button"
          aria-pressed={on}
          title={on ? 'Calls sound here' : 'Calls make no sound here'}
          onClick={() => setCallSound(!on)}
          className="ml-auto grid size-11 flex-none place-items-center rounded-lg text-soft"
        >
          {on ? <Volume2 size={18} /> : <VolumeX size={18} />}
        </button>
      </nav>
      {department ? (
        <Light id={department.id} name={department.name} />
      ) : (
        <div className="flex flex-1 flex-col justify-center px-6">
          <CallLamp large listId={list?.id} />
          {!list && <p className="text-center text-muted">This show has no list yet.</p>}
          <Coming />
        </div>
      )}
    </div>
  );
}

const LOOK: Record<CallState['state'], string> = {
  standby: 'animate-pulse bg-standby text-ink',
  ready: 'bg-standby-wash text-standby shadow-[inset_0_0_0_3px_var(--color-standby)]',
  go: 'bg-lime text-lime-ink',
};
const TITLE: Record<CallState['state'], string> = {
  standby: 'Stand by',
  ready: 'Stand by',
  go: 'GO',
};

/** What a touch does now, or who has touched already. */
function sayNext({ state, by, answeredBy }: CallState): string {
  if (state === 'standby') return `touch to answer ${by}`;
  return state === 'ready' ? `${answeredBy} has answered` : 'touch when it is done';
}

function Light({ id, name }: { id: string; name: string }) {
  const calls = useScreen((s) =>
    s.playback.calls
      .filter((c) => c.department === id)
      .map((c) => `${c.id} ${c.state}`)
      .join(),
  );
  const standing = useScreen((s) => s.playback.calls);
  const since = useSince();
  const connected = useScreen((s) => s.connection === 'live');
  const told = useRef<string>(undefined);
  const mine = standing.filter((c) => c.department === id);
  // What is due comes before what only stands by.
  const call =
    mine.find((c) => c.state === 'go') ?? mine.find((c) => c.state === 'standby') ?? mine[0];
  useEffect(() => {
    if (told.current !== undefined && calls !== told.current) {
      if (call?.state === 'standby') sound('standby');
      else if (call?.state === 'go') sound('go');
      else if (!call) sound('withdrawn');
    }
    told.current = calls;
  }, [calls, call]);
  const look = call ? LOOK[call.state] : 'bg-panel text-muted';
  return (
    <>
      <button
        type="button"
        data-testid="light"
        data-state={call?.state ?? 'none'}
        disabled={!connected || !call || call.state === 'ready'}
        onClick={() => call && void said({ command: 'answer-call', call: call.id })}
        className={`mx-4 mt-4 flex min-h-[220px] flex-1 flex-col items-center justify-center rounded-3xl p-4 text-center ${look}`}
      >
        <b className="text-[44px] leading-[50px] font-semibold">
          {call ? TITLE[call.state] : 'Nothing is called'}
        </b>
        {call && (
          <span className="mt-2 text-[24px] leading-8">
            {call.words.split(', ').slice(1).join(', ') || name}
          </span>
        )}
        {call && (
          <span className="mt-3 text-[15px]">
            {sayNext(call)} · <span className="num">{since(call.since_s).toFixed(0)} s</span>
          </span>
        )}
        {mine.length > 1 && <span className="mt-2 text-[14px]">{mine.length} calls stand</span>}
      </button>
      <Coming department={id} />
    </>
  );
}

function Coming({ department }: { department?: string }) {
  const { next } = useNextCalls(department);
  const ahead = next.filter((n) => !n.call && (department !== undefined || n.cue)).slice(0, 3);
  return (
    <section aria-label="Coming" className="flex-none px-5 py-4">
      <h2 className="text-[12px] text-muted">Coming</h2>
      {ahead.length === 0 && <p className="mt-1 text-muted">Nothing more in this script.</p>}
      <ol>
        {ahead.map((n) => (
          <li key={n.key} className="flex items-baseline gap-3 border-b border-raised py-1.5">
            {department === undefined && <b className="num w-20 flex-none">{n.who}</b>}
            <span className="min-w-0 flex-1 truncate text-[16px]">{n.what}</span>
            <span className="max-w-[50%] min-w-0 truncate font-book text-soft">
              {n.quote && `“${oneLine(n.quote)}”`}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
