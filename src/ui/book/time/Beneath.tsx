/** Under a track: cues that are not on it, to be tapped onto it, and its marks. */
'use client';
import { X } from 'lucide-react';
import { formatCueNumber } from '@/core/cues/number';
import { formatMoment } from '@/core/time/moment';
import { plural } from '@/core/words';
import { Button, IconButton } from '../../parts/controls';
import { useTrackView } from '../../state/track';
import type { TrackHere } from './use-track-here';

const LINE =
  'flex flex-none items-center gap-1.5 overflow-x-auto border-t border-line px-3 text-[12.5px]';
/** So many are offered one by one; a list may have thousands. */
const OFFERED = 30;

export function OffTrack({ here }: { here: TrackHere }) {
  const { others, mayEdit, placeHere } = here;
  const [first, ...rest] = others;
  if (!first) return null;
  return (
    <div role="group" className={`${LINE} py-1.5`} aria-label="Not on the track">
      <span className="flex-none text-muted">{plural(others.length, 'cue')} not on the track:</span>
      <Button kind="strong" disabled={!mayEdit} onClick={() => placeHere(first.id)}>
        Tap {formatCueNumber(first.number)} here
      </Button>
      {rest.slice(0, OFFERED).map((c) => (
        <button
          key={c.id}
          type="button"
          disabled={!mayEdit}
          title={`Put LX ${formatCueNumber(c.number)} ${c.name} at the cursor`}
          onClick={() => placeHere(c.id)}
          className="num h-7 flex-none rounded-md bg-raised px-2 text-soft hover:bg-lift"
        >
          {formatCueNumber(c.number)}
        </button>
      ))}
    </div>
  );
}

export function Marks({ here }: { here: TrackHere }) {
  const { time, put, mayEdit } = here;
  if (time.marks.length === 0) return null;
  return (
    <div role="group" className={`${LINE} py-1`} aria-label="Marks">
      <span className="flex-none text-muted">Marks</span>
      {time.marks.map((m) => (
        <span
          key={`${m.at_s}/${m.name}`}
          className="flex flex-none items-center rounded-md bg-raised pl-2"
        >
          <button
            type="button"
            className="h-7 text-warning"
            onClick={() => useTrackView.setState({ cursor_s: m.at_s })}
          >
            {m.name} <span className="num text-muted">{formatMoment(m.at_s)}</span>
          </button>
          <IconButton
            label={`Take mark ${m.name} off`}
            className="!size-7"
            disabled={!mayEdit}
            onClick={() => put({ marks: time.marks.filter((o) => o !== m) })}
          >
            <X size={12} />
          </IconButton>
        </span>
      ))}
    </div>
  );
}
