/** The cue that is looked at, along its track: where it stands, what it keeps to, and what can be done from here. */
'use client';
import { seconds } from '@/core/cues/clock';
import { formatCueNumber } from '@/core/cues/number';
import { timingOf } from '@/core/cues/times';
import type { CueRow } from '@/core/cues/rows';
import type { ListTime } from '@/core/time/rows';
import { formatMoment, toMillisecond } from '@/core/time/moment';
import { barBeatAt, sayBarBeat } from '@/core/time/tempo';
import { isTimed, timedCues } from '@/core/time/timed';
import { Button } from '../../parts/controls';
import { edit } from '../../state/edits';
import { useWriting } from '../../parts/use-writing';
import { notice } from '../../state/messages';
import { mayEdit, useScreen, useShow } from '../../state/store';
import { useTrackView } from '../../state/track';

function Said({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <p className="flex items-baseline gap-2">
      <span className="text-muted">{label}</span>
      <span className="num text-[13.5px] font-semibold">{children}</span>
    </p>
  );
}

/** A moment that is typed over. */
function At({ cue, disabled }: { cue: CueRow; disabled: boolean }) {
  const shown = cue.at_s === undefined ? '' : formatMoment(cue.at_s);
  const { field } = useWriting('Moment on the track', shown, (text) => {
    const at_s = seconds(text);
    if (at_s !== undefined) return edit('place-cues', { list: cue.listId, at: { [cue.id]: at_s } });
    notice.error(`“${text}” is no moment; they look like 1:12.5. Nothing was changed.`, {
      id: 'track-at',
    });
    return undefined;
  });
  return (
    <input
      {...field}
      aria-label="Moment on the track"
      disabled={disabled}
      placeholder="off the track"
      className="num h-7 w-24 rounded-md bg-ink px-2 text-[13.5px] font-semibold inset-ring inset-ring-edge"
    />
  );
}

/** The cue that is looked at, along its track. */
export function TimeFoot({
  cue,
  time,
  onPlay,
}: {
  cue: CueRow | undefined;
  time: ListTime;
  onPlay: (at_s: number) => void;
}) {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const cursor_s = useTrackView((s) => s.cursor_s);
  if (!cue)
    return (
      <p className="px-4 py-3 text-[12.5px] text-muted">
        Choose a cue. Drag its start along the track, or the end of its fade; Ctrl adds to what is
        moved together, Alt leaves the beat. The wheel zooms, with Shift it moves.
      </p>
    );
  const total_s = timingOf(show, cue).total_s;
  const place = cue.at_s === undefined ? undefined : barBeatAt(time.tempo, cue.at_s);
  const put = (at: Record<string, number | null>): void =>
    void edit('place-cues', { list: cue.listId, at });
  /** The ones after it keep their distances to it. */
  const stretch = (): void => {
    if (!isTimed(cue)) return;
    const by_s = cursor_s - cue.at_s;
    const later = timedCues(show, cue.listId).filter((c) => c.at_s >= cue.at_s);
    put(Object.fromEntries(later.map((c) => [c.id, toMillisecond(Math.max(0, c.at_s + by_s))])));
  };
  return (
    <div className="px-4 py-2.5 text-[12.5px]" data-testid="time-foot">
      <p className="flex items-baseline gap-3">
        <span className="num text-[19px] text-standby">{formatCueNumber(cue.number)}</span>
        <b className="truncate text-[14px] font-semibold">{cue.name}</b>
        {cue.at_s === undefined && <span className="text-muted">not on the track</span>}
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-x-6 gap-y-1">
        <label className="flex items-center gap-2">
          <span className="text-muted">At</span>
          <At key={cue.id} cue={cue} disabled={!may} />
          {place && <span className="num text-muted">{sayBarBeat(place)}</span>}
        </label>
        <label className="flex items-center gap-2">
          <span className="text-muted">Keeps to</span>
          <select
            aria-label="Keeps to"
            disabled={!may || cue.at_s === undefined}
            value={cue.keeps ?? 'clock'}
            onChange={(e) =>
              void edit('change-cue', { id: cue.id, set: { keeps: e.target.value } })
            }
            className="h-7 rounded-md bg-raised px-1.5 text-[12.5px]"
          >
            <option value="clock">the clock</option>
            <option value="beat">the beat</option>
          </select>
        </label>
        <Said label="Up">{cue.up_s} s</Said>
        <Said label="Down">{cue.down_s} s</Said>
        {cue.at_s !== undefined && <Said label="Ends">{formatMoment(cue.at_s + total_s)}</Said>}
      </div>
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={cue.at_s === undefined} onClick={() => onPlay(cue.at_s ?? 0)}>
          Play from here
        </Button>
        <Button disabled={!may} onClick={() => put({ [cue.id]: toMillisecond(cursor_s) })}>
          To the cursor
        </Button>
        <Button disabled={!may || cue.at_s === undefined} onClick={stretch}>
          To the cursor, with the ones after it
        </Button>
        <Button disabled={!may || cue.at_s === undefined} onClick={() => put({ [cue.id]: null })}>
          Off the track
        </Button>
      </div>
    </div>
  );
}
