/** What a track has besides its cues: calendar, beat, marks, timecode; and how it is handled. */
'use client';
import { GOES_WORDS } from './goes-words';
import { useState } from 'react';
import { GOES, goesBy } from '@/core/lists/going';
import { toMillisecond } from '@/core/time/moment';
import { Button } from '../../parts/controls';
import { optionsOf } from '../../parts/options';
import { SNAPS, useTrackView, type Snap } from '../../state/track';
import { ActionHere } from './Alongside';
import { BeatDialog } from './BeatDialog';
import { CalendarDialog } from './calendar/CalendarDialog';
import { RecordingDialog } from './RecordingDialog';
import { SoundDialog } from './SoundDialog';
import { TrackDialog } from './TrackDialog';
import { TimecodeChoice } from './TimecodeChoice';
import type { TrackHere } from './use-track-here';

const SNAP_WORDS: Record<Snap, string> = {
  beat: 'to the beat',
  mark: 'to marks',
  cursor: 'to the cursor',
  free: 'to nothing',
};
const SELECT = 'h-7 rounded-md bg-raised px-1';

/** Where time is while it runs, else at the cursor. */
const momentOf = ({ position }: TrackHere): number =>
  (position.runs ? position.now() : null) ?? useTrackView.getState().cursor_s;

/** Named at that moment. */
function MarkHere({ here }: { here: TrackHere }) {
  const [name, setName] = useState<string | null>(null);
  const { time, put, mayEdit } = here;
  const keep = (): void => {
    const words = (name ?? '').trim().slice(0, 60);
    if (words === '') return;
    const marks = [...time.marks, { at_s: toMillisecond(momentOf(here)), name: words }];
    put({ marks: marks.sort((a, b) => a.at_s - b.at_s) });
    setName(null);
  };
  if (name === null)
    return (
      <Button disabled={!mayEdit} onClick={() => setName('')}>
        Mark here
      </Button>
    );
  return (
    <input
      autoFocus
      aria-label="Name of the mark"
      placeholder="name of the mark"
      value={name}
      onChange={(e) => setName(e.target.value)}
      onBlur={() => setName(null)}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setName(null);
        if (e.key === 'Enter') keep();
      }}
      className="h-7 w-36 rounded-md bg-ink px-2 inset-ring inset-ring-standby"
    />
  );
}

/** What is put at that moment: a cue, a mark, or something that happens then. */
export function PutHere({ here }: { here: TrackHere }) {
  const [at_s, setAt] = useState<number | null>(null);
  return (
    <>
      <Button
        disabled={!here.mayEdit}
        title="An empty cue where time is, or at the cursor: it shows what tracks into it"
        onClick={here.makeHere}
      >
        New cue here
      </Button>
      <MarkHere here={here} />
      <Button disabled={!here.mayEdit} onClick={() => setAt(toMillisecond(momentOf(here)))}>
        Action here …
      </Button>
      {at_s !== null && <ActionHere list={here.listId} at_s={at_s} onClose={() => setAt(null)} />}
    </>
  );
}

function Rests() {
  const snap = useTrackView((s) => s.snap);
  return (
    <select
      aria-label="What is dragged comes to rest"
      value={snap}
      onChange={(e) =>
        useTrackView.setState({ snap: SNAPS.find((s) => s === e.target.value) ?? 'free' })
      }
      className={SELECT}
    >
      {optionsOf(SNAPS, SNAP_WORDS).map((o) => (
        <option key={o.value} value={o.value}>
          {o.label}
        </option>
      ))}
    </select>
  );
}

/** What a track has besides its cues. */
export function Tools({ here, fit }: { here: TrackHere; fit: () => void }) {
  const [open, setOpen] = useState<'beat' | 'calendar' | 'recording' | 'sound' | 'track' | null>(
    null,
  );
  const { time, list, mayEdit, position } = here;
  const [tempo] = time.tempo;
  return (
    <span className="ml-auto flex flex-wrap items-center gap-2">
      <Button onClick={() => setOpen('calendar')}>Calendar</Button>
      <Button disabled={!mayEdit} onClick={() => setOpen('sound')}>
        {time.sound ? 'Sound' : 'Lay a sound'}
      </Button>
      {time.sound && (
        <Button disabled={!mayEdit} onClick={() => setOpen('recording')}>
          New recording
        </Button>
      )}
      <Button disabled={!mayEdit} onClick={() => setOpen('beat')}>
        {tempo ? `Beat ${Math.round(tempo.bpm)}, ${tempo.beats} to a bar` : 'Set the beat'}
      </Button>
      <Button
        disabled={!mayEdit}
        title="Where it ends, what a GO in between does, how its timecode goes"
        onClick={() => setOpen('track')}
      >
        Track
      </Button>
      {list && <TimecodeChoice list={list} />}
      <Rests />
      <select
        aria-label="The list goes"
        disabled={!mayEdit}
        value={goesBy(list ?? {})}
        onChange={(e) => here.goes(GOES.find((g) => g === e.target.value) ?? 'hand')}
        className={SELECT}
      >
        {optionsOf(GOES, GOES_WORDS).map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
      <Button onClick={fit}>All of it</Button>
      {open === 'calendar' && <CalendarDialog onClose={() => setOpen(null)} />}
      {open === 'sound' && list && <SoundDialog list={list} onClose={() => setOpen(null)} />}
      {open === 'recording' && list && (
        <RecordingDialog list={list} onClose={() => setOpen(null)} />
      )}
      {open === 'track' && list && <TrackDialog list={list} onClose={() => setOpen(null)} />}
      {open === 'beat' && list && (
        <BeatDialog
          list={list}
          nowOn={() => (position.runs ? position.now() : null)}
          onClose={() => setOpen(null)}
        />
      )}
    </span>
  );
}
