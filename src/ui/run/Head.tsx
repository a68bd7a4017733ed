/** The line above Run: its lock, what sounds here, remotes, the key of GO, what is held over everything, and the clocks. */
'use client';
import { sinceWhen } from '@/core/dates';
import { BellOff, BellRing, Lock, LockOpen, Radio, Volume2, VolumeX } from 'lucide-react';
import { useCallback, useEffect, useState } from 'react';
import { formatClock } from '@/core/cues/clock';
import { setCallSound, useCallSound } from '../booth/call-sound';
import { Button, Dialog } from '../parts/controls';
import { live } from '../state/commands';
import { setGoKey, setSound, useRun } from '../state/run';
import { timeOfDay, useHouseNow } from '../state/house-clock';
import { silence } from '../state/sound';
import { mayEdit, usePlaying, useScreen, useShow, usePlayback } from '../state/store';

function Clocks() {
  const { act, scene } = usePlayback('act', 'scene');
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
const QUIET = `${CHIP} text-muted hover:bg-raised`;
const ON = `${CHIP} bg-raised text-text`;
const LOUD = `${CHIP} bg-warning text-ink`;

function RunLock() {
  const locked = useRun((s) => s.locked);
  const editable = useScreen((s) => mayEdit(s.you.role));
  return (
    <button
      type="button"
      data-testid="run-lock"
      aria-pressed={locked}
      disabled={!editable}
      title={locked ? 'Open it for editing' : 'Lock it again'}
      onClick={() => useRun.setState({ locked: !locked })}
      className={locked ? `${CHIP} text-soft hover:bg-raised` : LOUD}
    >
      {locked ? <Lock size={14} /> : <LockOpen size={14} />}
      <b className="font-semibold">{locked ? 'Locked' : 'Open for editing'}</b>
      {locked && <span className="text-muted max-[1100px]:hidden">editing is off</span>}
    </button>
  );
}

/** Whether sounds of cues are played by this screen. */
function SoundHere() {
  const sound = useRun((s) => s.sound);
  return (
    <button
      type="button"
      aria-pressed={sound}
      title={
        sound
          ? 'Sounds of cues are played on this screen'
          : 'Sounds of cues are not played on this screen'
      }
      onClick={() => {
        setSound(!sound);
        if (sound) silence();
      }}
      className={sound ? ON : QUIET}
    >
      {sound ? <Volume2 size={14} /> : <VolumeX size={14} />}
      {sound ? 'Sound here' : 'No sound here'}
    </button>
  );
}

/** Whether a stand by and a go are heard. */
function CallsHere() {
  const on = useCallSound((s) => s.on);
  return (
    <button
      type="button"
      aria-pressed={on}
      title={
        on
          ? 'A stand by and a go sound on this screen'
          : 'A stand by and a go are seen on this screen, and not heard'
      }
      onClick={() => setCallSound(!on)}
      className={on ? ON : QUIET}
    >
      {on ? <BellRing size={14} /> : <BellOff size={14} />}
      <span className="max-[1180px]:hidden">{on ? 'Calls sound' : 'Calls are silent'}</span>
    </button>
  );
}

function Remotes() {
  const on = useScreen((s) => s.playback.remotes);
  const playing = usePlaying();
  return (
    <button
      type="button"
      aria-pressed={on}
      disabled={!playing}
      title={
        on
          ? 'Remote controls may play this show: switch them off'
          : 'Remote controls are off: switch them on'
      }
      onClick={() => void live({ command: 'remotes', on: !on })}
      className={on ? LOUD : QUIET}
    >
      <Radio size={14} />
      {on ? 'Remotes on' : 'Remotes off'}
    </button>
  );
}

/** While it learns, the next key is told; none where that is Esc. */
function useNextKey(learning: boolean, onKey: (code: string | null) => void): void {
  useEffect(() => {
    if (!learning) return;
    const learn = (e: KeyboardEvent): void => {
      e.preventDefault();
      e.stopPropagation();
      onKey(e.code === 'Escape' ? null : e.code);
    };
    window.addEventListener('keydown', learn, true);
    return () => window.removeEventListener('keydown', learn, true);
  }, [learning, onKey]);
}

function GoKey() {
  const goKey = useRun((s) => s.goKey);
  const [learning, setLearning] = useState(false);
  const learned = useCallback((code: string | null) => {
    setLearning(false);
    if (code !== null) setGoKey(code);
  }, []);
  useNextKey(learning, learned);
  return (
    <>
      <button
        type="button"
        title="A foot switch or any other key that is GO here, besides the space bar"
        onClick={() => setLearning(true)}
        className={QUIET}
      >
        GO: Space{goKey ? `, ${goKey.replace(/^Key|^Digit/, '')}` : ''}
      </button>
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
    </>
  );
}

/** What is held or guarded over everything, and by whom; pressed, it is let off. */
function Over() {
  const show = useShow();
  const playing = usePlaying();
  const { focus, guarded } = useScreen((s) => s.over);
  const number = (id: string): number | '?' => show.fixtures.get(id)?.number ?? '?';
  return (
    <>
      {focus.length > 0 && (
        <button
          type="button"
          data-testid="held"
          disabled={!playing}
          title={focus
            .map(
              (f) =>
                `${number(f.fixtureId)} at ${Math.round(f.level * 100)} % by ${f.by} since ${sinceWhen(f.since)}`,
            )
            .join('\n')}
          onClick={() => void live({ command: 'focus', on: false, level: 1 })}
          className={LOUD}
        >
          {focus.length} held since {sinceWhen(focus[0]?.since ?? 0)}: let off
        </button>
      )}
      {guarded.length > 0 && (
        <button
          type="button"
          disabled={!playing}
          title={guarded
            .map((g) => `${number(g.fixtureId)} guarded by ${g.by} since ${sinceWhen(g.since)}`)
            .join('\n')}
          onClick={() => void live({ command: 'guard', on: false })}
          className={LOUD}
        >
          {guarded.length} guarded: let off
        </button>
      )}
    </>
  );
}

/** Run’s lock, its sound, remotes, the key of GO, and the clocks. */
export function Head() {
  return (
    <header className="flex min-h-11 flex-none flex-wrap items-center gap-x-2 gap-y-1 border-b border-line bg-panel px-3 py-1">
      <RunLock />
      <SoundHere />
      <CallsHere />
      <Remotes />
      <GoKey />
      <Over />
      <Clocks />
    </header>
  );
}
