/** Playing along time: where it is, from where it plays, a passage over and over, slower. */
'use client';
import { Pause, Play, Repeat } from 'lucide-react';
import { useCallback, useRef } from 'react';
import { formatMoment } from '@/core/time/moment';
import { Button, IconButton } from '../../parts/controls';
import { said } from '../../state/commands';
import { useTrackView } from '../../state/track';
import { useParts } from '../../state/use-parts';
import { useFrames, type Position } from './use-position';
import type { TrackHere } from './use-track-here';

const RATES = [0.5, 0.75, 1] as const;

function Clock({ position, end_s }: { position: Position; end_s: number }) {
  const text = useRef<HTMLSpanElement>(null);
  const draw = useCallback(() => {
    const at = position.now();
    if (text.current)
      text.current.textContent = at === null ? '–:––' : formatMoment(Math.min(at, end_s));
  }, [position, end_s]);
  useFrames(position.runs, draw);
  return (
    <span className="flex flex-none items-baseline gap-2">
      <span
        ref={text}
        data-testid="track-clock"
        className="num text-[19px] font-semibold text-lime-word"
      />
      <span className="num text-[12px] text-muted">of {formatMoment(end_s)}</span>
    </span>
  );
}

/** A passage that was drawn is looped; one that is looped is left. */
function Loop({ here }: { here: TrackHere }) {
  const passage = useTrackView((s) => s.passage);
  const loop = here.status?.track?.loop ?? null;
  if (!passage && !loop) return null;
  const turn = (): void => {
    if (loop) here.say({ do: here.position.runs ? 'play' : 'pause', loop: null });
    else if (passage) here.say({ do: 'play', at_s: passage.from_s, loop: passage });
  };
  return (
    <Button disabled={!here.mayPlay} onClick={turn}>
      <Repeat size={13} /> {loop ? 'Loop no more' : 'Loop the passage'}
    </Button>
  );
}

function Pace({ here }: { here: TrackHere }) {
  const rate = here.status?.rate ?? 1;
  return (
    <select
      aria-label="Pace"
      value={String(rate)}
      disabled={!here.mayPlay}
      onChange={(e) =>
        void said({ command: 'rate', rate: Number(e.target.value), list: here.listId })
      }
      className="h-7 rounded-md bg-raised px-1"
    >
      {[...new Set([...RATES, rate])].map((r) => (
        <option key={r} value={r}>
          {Math.round(r * 100)} %
        </option>
      ))}
    </select>
  );
}

/** Plays, stops and winds the track. */
export function Transport({ here }: { here: TrackHere }) {
  const { position, mayPlay, say, status, end_s } = here;
  const { cursor_s } = useParts(useTrackView, 'cursor_s');
  return (
    <>
      <Clock position={position} end_s={end_s} />
      <IconButton
        label={position.runs ? 'Stand still here' : 'Play along time'}
        disabled={!mayPlay}
        onClick={() => say({ do: position.runs ? 'pause' : 'play' })}
      >
        {position.runs ? <Pause size={15} /> : <Play size={15} />}
      </IconButton>
      <Button disabled={!mayPlay} onClick={() => say({ do: 'play', at_s: cursor_s })}>
        Play from the cursor
      </Button>
      <Button disabled={!mayPlay} onClick={() => say({ do: 'pause', at_s: cursor_s })}>
        Stand there
      </Button>
      {status?.track && (
        <Button disabled={!mayPlay} onClick={() => say({ do: 'leave' })}>
          Leave time
        </Button>
      )}
      <Loop here={here} />
      <Pace here={here} />
    </>
  );
}
