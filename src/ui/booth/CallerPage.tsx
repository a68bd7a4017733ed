/** For who calls the show: the script with all calls, the next three to call, running times; buttons as large as thumbs. */
'use client';
import { formatCueNumber } from '@/core/cues/number';
import type { CallState } from '@/core/live/messages';
import { oneLine } from '@/core/words';
import { useState } from 'react';
import { formatClock, formatTime } from '@/core/cues/clock';
import { Page } from '../book/ScriptPage';
import { useCalls, usePrompts } from '../book/use-calls';
import { useElapsed } from '../frame/spine-rows';
import { useHouseNow } from '../state/house-clock';
import { said } from '../state/commands';
import { RemoteBar } from '../remote/RemoteBar';
import { useList, useScreen, useShow, usePlayback } from '../state/store';
import { useNextCalls, type NextCall } from './calls';
import { useSince } from './use-since';

const THUMB =
  'min-h-16 whitespace-nowrap rounded-xl px-2 text-[18px] font-semibold disabled:opacity-40';
const SHOWN = 3;

/** A page for whoever calls the show. */
export function CallerPage() {
  const list = useList();
  const { script, calls } = useCalls(list?.id);
  const { next } = useNextCalls();
  const prompts = usePrompts(script);
  const active = next.filter((n) => n.call);
  const ahead = [...active, ...next.filter((n) => !n.call)].slice(
    0,
    Math.max(SHOWN, active.length),
  );
  return (
    <div className="flex h-full flex-col bg-ink">
      <RemoteBar title="Calling" always />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(380px,44%)] max-[820px]:flex max-[820px]:flex-col-reverse">
        <section
          aria-label="Script"
          className="min-h-0 border-r border-line max-[820px]:h-[38vh] max-[820px]:flex-none max-[820px]:border-t max-[820px]:border-r-0"
        >
          {script ? (
            <Page
              big
              script={script}
              calls={calls}
              prompts={prompts}
              now={list?.cueId ?? null}
              next={list?.nextId ?? null}
              onCall={() => undefined}
            />
          ) : (
            <p className="p-5 text-muted">
              This show has no script yet: take one in in the Book. Cues are called all the same.
            </p>
          )}
        </section>
        <section aria-label="Calls" className="flex min-h-0 flex-1 flex-col overflow-y-auto">
          <Times />
          {ahead.length === 0 && (
            <p className="p-5 text-muted">Nothing more is called in this list.</p>
          )}
          <ol className="flex-1 px-4 pb-3">
            {ahead.map((n) => (
              <Row key={n.key} next={n} />
            ))}
          </ol>
          <Free />
        </section>
      </div>
    </div>
  );
}

const CARD: Record<CallState['state'], string> = {
  standby: 'bg-standby-wash shadow-[inset_0_0_0_1.5px_var(--color-standby)]',
  ready: 'bg-standby-wash shadow-[inset_0_0_0_1.5px_var(--color-standby)]',
  go: 'bg-lime-wash shadow-[inset_0_0_0_1.5px_var(--color-lime)]',
};
const INK: Record<CallState['state'], string> = {
  standby: 'text-standby',
  ready: 'text-lime-word',
  go: 'text-standby',
};

function Row({ next: n }: { next: NextCall }) {
  const connected = useScreen((s) => s.connection === 'live');
  const since = useSince();
  const { call } = n;
  const target = n.cue
    ? {}
    : {
        department: n.prompt?.department ?? call?.department ?? '',
        ...(n.prompt ? { prompt: n.prompt.id } : { words: n.what }),
      };
  const give = (what: 'standby' | 'go' | 'withdraw'): void =>
    void said({ command: 'call', do: what, ...target });
  const state = call?.state;
  return (
    <li
      data-call={n.who}
      data-state={state ?? 'ahead'}
      className={`mt-3 rounded-xl p-3 ${state === undefined ? 'bg-panel' : CARD[state]}`}
    >
      <p className="flex items-baseline gap-3">
        <b className={`flex-none text-[26px] ${n.cue ? 'num' : ''} leading-8 font-semibold`}>
          {n.who}
        </b>
        <span className="min-w-0 flex-1 truncate text-[18px]">{n.what}</span>
        <span
          role="status"
          className={`flex-none text-[14px] ${state === undefined ? 'text-muted' : INK[state]}`}
        >
          {state === 'standby' && `no answer, ${since(call?.since_s ?? 0).toFixed(0)} s`}
          {state === 'ready' && `${call?.answeredBy} stands by`}
          {state === 'go' && n.cue && `called, ${since(call?.since_s ?? 0).toFixed(0)} s`}
          {state === 'go' && !n.cue && (call?.answeredBy ? `${call.answeredBy} has it` : 'called')}
        </span>
      </p>
      {n.quote && (
        <p className="truncate font-book text-[19px] leading-8 text-soft">
          on “{oneLine(n.quote)}”
        </p>
      )}
      {n.callable ? (
        <div className="mt-2 grid grid-cols-[1.1fr_1.2fr_auto] gap-2">
          <button
            type="button"
            disabled={!connected || state !== undefined}
            onClick={() => give('standby')}
            className={`${THUMB} ${state ? 'bg-standby text-ink' : 'bg-raised text-standby'}`}
          >
            Stand by
          </button>
          <button
            type="button"
            disabled={!connected || state === 'go'}
            onClick={() => give('go')}
            className={`${THUMB} ${state ? 'bg-lime text-lime-ink' : 'bg-raised text-lime-word'}`}
          >
            Go
          </button>
          <button
            type="button"
            disabled={!connected || state === undefined}
            title="Take the call back"
            onClick={() => give('withdraw')}
            className={`${THUMB} bg-raised !px-3 !text-[14px] text-soft`}
          >
            Withdraw
          </button>
        </div>
      ) : (
        <p className="mt-1 text-[13px] text-muted">after the one before it</p>
      )}
    </li>
  );
}

/** Act, scene, the fade on stage, and the time of day. */
function Times() {
  const { act, scene } = usePlayback('act', 'scene');
  const show = useShow();
  const list = useList();
  const now = useHouseNow();
  const { elapsed, total, running } = useElapsed();
  const cue = list?.cueId ? show.cues.get(list.cueId) : undefined;
  /** Hours only once there are any: the columns are narrow on a tablet. */
  const since = (iso: string): string =>
    formatClock(Math.max(0, Math.floor((now - Date.parse(iso)) / 1000))).replace(/^00:/, '');
  const cell = (label: string, value: string, look = '') => (
    <span className="min-w-0">
      <span className="block truncate text-[12px] text-muted">{label}</span>
      <b
        className={`num block truncate text-[20px] leading-7 font-semibold max-[1100px]:text-[17px] max-[430px]:text-[15px] ${look}`}
      >
        {value}
      </b>
    </span>
  );
  const d = new Date(now);
  const still = cue ? 'done' : '–';
  return (
    <div
      data-testid="caller-times"
      className="grid flex-none grid-cols-4 gap-3 border-b border-line px-4 py-2"
      suppressHydrationWarning
    >
      {cell(act?.name ?? 'Act', act ? since(act.since) : '–')}
      {cell(scene?.name ?? 'Scene', scene ? since(scene.since) : '–')}
      {cell(
        cue ? `LX ${formatCueNumber(cue.number)}` : 'On stage',
        running ? `${formatTime(Math.max(0, Math.round((total - elapsed) * 10) / 10))} s` : still,
        running ? 'text-lime-word' : '',
      )}
      {cell('Clock', formatClock(d.getHours() * 3600 + d.getMinutes() * 60 + d.getSeconds()))}
    </div>
  );
}

/** A department called for something that the script does not say. */
function Free() {
  const show = useShow();
  const departments = [...show.departments.values()].sort((a, b) => a.name.localeCompare(b.name));
  const [to, setTo] = useState('');
  const [words, setWords] = useState('');
  const department = show.departments.get(to) ?? departments[0];
  if (!department)
    return (
      <p className="flex-none border-t border-line px-4 py-3 text-[13px] text-muted">
        Departments besides light, such as sound or flies, are named in Crew, under People.
      </p>
    );
  return (
    <form
      className="flex flex-none items-center gap-2 border-t border-line px-4 py-3"
      onSubmit={(e) => {
        e.preventDefault();
        void said({
          command: 'call',
          do: 'standby',
          department: department.id,
          words: words.trim(),
        }).then((r) => r.ok && setWords(''));
      }}
    >
      <select
        aria-label="Department"
        value={department.id}
        onChange={(e) => setTo(e.target.value)}
        className="h-12 rounded-lg bg-panel px-2 text-[15px]"
      >
        {departments.map((x) => (
          <option key={x.id} value={x.id}>
            {x.name}
          </option>
        ))}
      </select>
      <input
        aria-label="What they are called for"
        placeholder="something else"
        value={words}
        maxLength={80}
        onChange={(e) => setWords(e.target.value)}
        className="h-12 min-w-0 flex-1 rounded-lg bg-panel px-3 text-[15px]"
      />
      <button
        type="submit"
        className="h-12 flex-none rounded-lg bg-raised px-4 text-[15px] font-semibold text-standby"
      >
        Stand by
      </button>
    </form>
  );
}
