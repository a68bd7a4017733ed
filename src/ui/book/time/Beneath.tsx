/** Under a track: cues that are not on it, to be tapped onto it, those behind its end, and its marks. */
'use client';
import { X } from 'lucide-react';
import { useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { formatMoment } from '@/core/time/moment';
import type { ListTime } from '@/core/time/rows';
import { listed, plural } from '@/core/words';
import { CellEditor } from '../../parts/CellEditor';
import { Button, IconButton } from '../../parts/controls';
import { edit } from '../../state/edits';
import { useTrackView } from '../../state/track';
import type { TrackHere } from './use-track-here';

const LINE =
  'flex flex-none items-center gap-1.5 overflow-x-auto border-t border-line px-3 text-[12.5px]';
/** So many are offered one by one; a list may have thousands. */
const OFFERED = 30;
/** More of them are counted. */
const NAMED = 6;
const MARK_LETTERS = 60;

/** Cues of the list that have no moment on its track. */
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

/** What stands where it never comes, and the two ways out. */
export function BehindEnd({ here }: { here: TrackHere }) {
  const { behind, end_s, listId, mayEdit, put } = here;
  if (behind.length === 0) return null;
  const [they, come] = behind.length === 1 ? ['it', 'comes'] : ['they', 'come'];
  const names = listed(
    behind.map((c) => formatCueNumber(c.number)),
    NAMED,
  );
  return (
    <div role="group" className={`${LINE} py-1.5`} aria-label="Behind the end of the track">
      <span className="flex-none text-warning">
        LX {names} behind the end at {formatMoment(end_s)}: {they} never {come}.
      </span>
      <Button disabled={!mayEdit} onClick={() => put({ end_s: undefined })}>
        End with the last fade
      </Button>
      <Button
        kind="quiet"
        disabled={!mayEdit}
        onClick={() =>
          void edit('place-cues', {
            list: listId,
            at: Object.fromEntries(behind.map((c) => [c.id, null])),
          })
        }
      >
        Take {behind.length === 1 ? 'it' : 'them'} off the track
      </Button>
    </div>
  );
}

type Mark = ListTime['marks'][number];

/** A press goes to it, two rename it. */
function MarkChip({ mark, here }: { mark: Mark; here: TrackHere }) {
  const { time, put, mayEdit } = here;
  const [naming, setNaming] = useState(false);
  const rename = (text: string): void => {
    setNaming(false);
    const name = text.trim().slice(0, MARK_LETTERS);
    if (name !== '' && name !== mark.name)
      put({ marks: time.marks.map((m) => (m === mark ? { ...m, name } : m)) });
  };
  return (
    <span className="flex flex-none items-center rounded-md bg-raised pl-2">
      {naming ? (
        <CellEditor
          label={`Name of mark ${mark.name}`}
          text={mark.name}
          first={null}
          onKeep={rename}
          onLeave={() => setNaming(false)}
          className="h-7 w-32 rounded bg-ink px-1.5 inset-ring inset-ring-standby outline-none"
        />
      ) : (
        <button
          type="button"
          className="h-7 text-warning"
          title={mayEdit ? 'To it; two presses rename it' : 'To it'}
          onClick={() => useTrackView.setState({ cursor_s: mark.at_s })}
          onDoubleClick={() => mayEdit && setNaming(true)}
        >
          {mark.name} <span className="num text-muted">{formatMoment(mark.at_s)}</span>
        </button>
      )}
      <IconButton
        label={`Take mark ${mark.name} off`}
        className="!size-7"
        disabled={!mayEdit}
        onClick={() => put({ marks: time.marks.filter((m) => m !== mark) })}
      >
        <X size={12} />
      </IconButton>
    </span>
  );
}

/** Marks of the track. */
export function Marks({ here }: { here: TrackHere }) {
  const { marks } = here.time;
  if (marks.length === 0) return null;
  return (
    <div role="group" className={`${LINE} py-1`} aria-label="Marks">
      <span className="flex-none text-muted">Marks</span>
      {marks.map((m, i) => (
        <MarkChip key={`${m.at_s}/${i}`} mark={m} here={here} />
      ))}
    </div>
  );
}
