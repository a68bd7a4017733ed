/** Run: what is on, what is next, the script, other lists and faders. Locked against editing until it is opened on purpose. */
'use client';
import { sinceWhen } from '@/core/dates';
import { BellOff, BellRing, Lock, LockOpen, Radio, Volume2, VolumeX } from 'lucide-react';
import { useEffect, useState } from 'react';
import { formatClock } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { Page } from '../book/ScriptPage';
import { useCalls } from '../book/use-calls';
import { setCallSound, useCallSound } from '../booth/call-sound';
import { Button, Dialog } from '../parts/controls';
import { Plan } from '../plan/Plan';
import { live, useWatch } from '../state/actions';
import { setGoKey, setSound, useRun } from '../state/run';
import { timeOfDay, useHouseNow } from '../state/house-clock';
import { silence } from '../state/sound';
import { mayEdit, mayPlay, useList, useScreen, useShow } from '../state/store';
import { Faders } from './Faders';
import { NowNext } from './NowNext';
import { OtherLists } from './OtherLists';
import { useParts } from '../state/use-parts';

function Clocks() {
  const { act, scene } = useScreen((s) => s.playback);
  const now = useHouseNow();
  const since = (iso: string): string =>
    formatClock(Math.max(0, Math.floor((now - Date.parse(iso)) / 1000)));
  return (
    <span className="ml-auto flex items-baseline gap-4 text-[12.5px] text-muted">
      {act && (
        <span
          className="truncate"
          title={scene ? `${scene.name} since ${since(scene.since)}` : undefined}
        >
          {act.name[0]}
          {act.name.slice(1).toLowerCase()}{' '}
          <b className="num ml-1 text-[17px] font-semibold text-text">{since(act.since)}</b>
        </span>
      )}
      <span suppressHydrationWarning>
        Clock <b className="num ml-1 text-[17px] font-semibold text-text">{timeOfDay(now)}</b>
      </span>
    </span>
  );
}

const CHIP = 'flex h-8 items-center gap-1.5 whitespace-nowrap rounded-md px-2.5 text-[12.5px]';

function Head() {
  const { locked, sound, goKey } = useParts(useRun, 'locked', 'sound', 'goKey');
  const { playback, you, over, connection } = useParts(
    useScreen,
    'playback',
    'you',
    'over',
    'connection',
  );
  const show = useShow();
  const [learning, setLearning] = useState(false);
  const callSound = useCallSound((s) => s.on);
  const playing = mayPlay(you.role) && connection === 'live';
  useEffect(() => {
    if (!learning) return;
    const learn = (e: KeyboardEvent): void => {
      e.preventDefault();
      e.stopPropagation();
      setLearning(false);
      if (e.code !== 'Escape') setGoKey(e.code);
    };
    window.addEventListener('keydown', learn, true);
    return () => window.removeEventListener('keydown', learn, true);
  }, [learning]);
  return (
    <header className="flex min-h-11 flex-none flex-wrap items-center gap-x-2 gap-y-1 border-b border-line bg-panel px-3 py-1">
      <button
        type="button"
        data-testid="run-lock"
        aria-pressed={locked}
        disabled={!mayEdit(you.role)}
        title={locked ? 'Open it for editing' : 'Lock it again'}
        onClick={() => useRun.setState({ locked: !locked })}
        className={`${CHIP} ${locked ? 'text-soft hover:bg-raised' : 'bg-warning text-ink'}`}
      >
        {locked ? <Lock size={14} /> : <LockOpen size={14} />}
        <b className="font-semibold">{locked ? 'Locked' : 'Open for editing'}</b>
        {locked && <span className="text-muted max-[1100px]:hidden">editing is off</span>}
      </button>
      <button
        type="button"
        aria-pressed={sound}
        title={
          sound
            ? 'Sounds of cues are played on this screen'
            : 'Sounds of cues are not played on this screen'
        }
        onClick={() => (setSound(!sound), sound && silence())}
        className={`${CHIP} ${sound ? 'bg-raised text-text' : 'text-muted hover:bg-raised'}`}
      >
        {sound ? <Volume2 size={14} /> : <VolumeX size={14} />}
        {sound ? 'Sound here' : 'No sound here'}
      </button>
      <button
        type="button"
        aria-pressed={callSound}
        title={
          callSound
            ? 'A stand by and a go sound on this screen'
            : 'A stand by and a go are seen on this screen, and not heard'
        }
        onClick={() => setCallSound(!callSound)}
        className={`${CHIP} ${callSound ? 'bg-raised text-text' : 'text-muted hover:bg-raised'}`}
      >
        {callSound ? <BellRing size={14} /> : <BellOff size={14} />}
        <span className="max-[1180px]:hidden">
          {callSound ? 'Calls sound' : 'Calls are silent'}
        </span>
      </button>
      <button
        type="button"
        aria-pressed={playback.remotes}
        disabled={!playing}
        title={
          playback.remotes
            ? 'Remote controls may play this show: switch them off'
            : 'Remote controls are off: switch them on'
        }
        onClick={() => void live({ command: 'remotes', on: !playback.remotes })}
        className={`${CHIP} ${playback.remotes ? 'bg-warning text-ink' : 'text-muted hover:bg-raised'}`}
      >
        <Radio size={14} />
        {playback.remotes ? 'Remotes on' : 'Remotes off'}
      </button>
      <button
        type="button"
        title="A foot switch or any other key that is GO here, besides the space bar"
        onClick={() => setLearning(true)}
        className={`${CHIP} text-muted hover:bg-raised`}
      >
        GO: Space{goKey ? `, ${goKey.replace(/^Key|^Digit/, '')}` : ''}
      </button>
      {over.focus.length > 0 && (
        <button
          type="button"
          data-testid="held"
          disabled={!playing}
          title={over.focus
            .map(
              (f) =>
                `${show.fixtures.get(f.fixtureId)?.number ?? '?'} at ${Math.round(f.level * 100)} % by ${f.by} since ${sinceWhen(f.since)}`,
            )
            .join('\n')}
          onClick={() => void live({ command: 'focus', on: false, level: 1 })}
          className={`${CHIP} bg-warning text-ink`}
        >
          {over.focus.length} held since {sinceWhen(over.focus[0]?.since ?? 0)}: let off
        </button>
      )}
      {over.guarded.length > 0 && (
        <button
          type="button"
          title={over.guarded
            .map(
              (g) =>
                `${show.fixtures.get(g.fixtureId)?.number ?? '?'} guarded by ${g.by} since ${sinceWhen(g.since)}`,
            )
            .join('\n')}
          onClick={() => void live({ command: 'guard', on: false })}
          className={`${CHIP} bg-warning text-ink`}
        >
          {over.guarded.length} guarded: let off
        </button>
      )}
      <Clocks />
      <Dialog
        open={learning}
        onOpenChange={setLearning}
        title="Press the foot switch"
        about="Or any key. It is GO on this screen from then on, while Run is open and you are on the board. Esc leaves it as it is."
      >
        <Button
          kind="quiet"
          onClick={() => {
            setGoKey(null);
            setLearning(false);
          }}
        >
          Only the space bar
        </Button>
      </Dialog>
    </header>
  );
}

/** Over the script's foot: it moves nothing that a hand may be on. */
function Reports() {
  const reports = useScreen((s) => s.playback.reports);
  const [seen, setSeen] = useState(0);
  const fresh = reports.slice(Math.min(seen, reports.length));
  if (fresh.length === 0) return null;
  const last = fresh.at(-1);
  return (
    <div
      role="status"
      data-testid="reports"
      className="absolute right-[max(330px,36%)] bottom-0 left-0 z-10 flex items-center gap-3 border-t border-line bg-warning-wash px-4 py-1.5 text-[13px] text-warning"
    >
      <span
        className="min-w-0 flex-1 truncate"
        title={fresh.map((r) => `${r.from ?? r.cue}: ${r.text}`).join('\n')}
      >
        {last?.from ?? `LX ${last?.cue}`}: {last?.text}
        {fresh.length > 1 ? ` (and ${fresh.length - 1} before)` : ''}
      </span>
      <button
        type="button"
        onClick={() => setSeen(reports.length)}
        className="h-7 rounded-md px-2 text-soft hover:bg-raised"
      >
        Seen
      </button>
    </div>
  );
}

function Follow() {
  const list = useList();
  const { script, calls } = useCalls(list?.id);
  if (!script)
    return (
      <div className="grid h-full place-items-center bg-page text-[13px] text-muted">
        No script yet: take one in in the Book.
      </div>
    );
  return (
    <Page
      big
      script={script}
      calls={calls}
      now={list?.cueId ?? null}
      next={list?.nextId ?? null}
      onCall={({ cue }) => void live({ command: 'arm', cue: formatCueNumber(cue.number) })}
      onLine={(at) => {
        const called = calls.filter((c) => c.call.from < at).at(-1);
        if (called) void live({ command: 'arm', cue: formatCueNumber(called.cue.number) });
      }}
    />
  );
}

export function RunPlace() {
  const sound = useRun((s) => s.sound);
  useWatch([], { sound });
  return (
    <div className="relative flex h-full flex-col">
      <Head />
      <Reports />
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(330px,36%)]">
        <div className="flex min-h-0 flex-col">
          <NowNext />
          <div className="min-h-0 flex-1 border-t border-line">
            <Follow />
          </div>
        </div>
        <div className="flex min-h-0 flex-col border-l border-line">
          <OtherLists />
          <Faders />
          <section
            aria-label="On stage now"
            className="h-[30%] min-h-[120px] flex-none border-t border-line max-[1100px]:hidden"
          >
            <div className="pointer-events-none relative h-full">
              <Plan arrange={false} />
            </div>
          </section>
        </div>
      </div>
    </div>
  );
}
