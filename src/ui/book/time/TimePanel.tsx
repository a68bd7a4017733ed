/** A cue list laid along time: how it plays, its track, what is not on it, and the cue that is looked at. */
'use client';
import { useState } from 'react';
import { useShow } from '../../state/store';
import { useTrackView } from '../../state/track';
import { BehindEnd, Marks, OffTrack } from './Beneath';
import { SAMPLES } from './strips';
import { TimeFoot } from './TimeFoot';
import { PutHere, Tools } from './Tools';
import { TrackBox, useFit } from './TrackBox';
import { Transport } from './Transport';
import { useRibbons } from './use-ribbons';
import { useTrackHere } from './use-track-here';

/** A list over its time. */
export function TimePanel() {
  const show = useShow();
  const here = useTrackHere();
  const { listId, end_s, behind, time, cue } = here;
  const [width, setWidth] = useState(0);
  const ribbons = useRibbons(listId, SAMPLES, end_s);
  const fit = useFit(listId, Math.max(end_s, behind.at(-1)?.at_s ?? 0), width);
  const chosen = useTrackView((s) => s.chosen.at(-1));
  return (
    <div className="flex h-full flex-col" data-testid="time-panel">
      <div className="flex min-h-11 flex-none flex-wrap items-center gap-2 border-b border-line px-3 py-1 text-[12.5px]">
        <Transport here={here} />
        <PutHere here={here} />
        <Tools here={here} fit={fit} />
      </div>
      <TrackBox here={here} ribbons={ribbons} onWidth={setWidth} />
      <OffTrack here={here} />
      <BehindEnd here={here} />
      <Marks here={here} />
      <div className="flex-none border-t border-line bg-panel">
        <TimeFoot
          cue={show.cues.get(chosen ?? '') ?? cue}
          time={time}
          onPlay={(at_s) => here.say({ do: 'play', at_s })}
        />
      </div>
    </div>
  );
}
