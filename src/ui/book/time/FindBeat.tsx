/** The beat found in the sound of a track, by where something begins in it: a guess, and said as one. */
'use client';
import { useState } from 'react';
import type { ListRow } from '@/core/lists/rows';
import type { FoundBeat } from '@/core/sounds/beat';
import { trackSoundOf } from '@/core/sounds/track-sound';
import { Button } from '../../parts/controls';
import { shapeOf } from '../../state/sounds';
import { useShow } from '../../state/store';
import { useTrackView } from '../../state/track';
import type { BeatAsk } from './beat.worker';

/** Longer than this a tempo seldom holds. */
const MOST_S = 240;

function sureWords(sure: number): string {
  if (sure > 0.6) return 'rather sure';
  return sure > 0.35 ? 'a guess: listen' : 'hardly more than chance';
}

function lookForBeat(ask: BeatAsk): Promise<FoundBeat | undefined> {
  const worker = new Worker(new URL('./beat.worker.ts', import.meta.url), { type: 'module' });
  const found = new Promise<FoundBeat | undefined>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<FoundBeat | undefined>) => resolve(data);
    worker.onerror = () => reject(new Error('The beat could not be looked for.'));
    worker.postMessage(ask);
  });
  return found.finally(() => worker.terminate());
}

/** Finds the beat of a track’s sound. */
export function FindBeat({
  list,
  onFound,
}: {
  list: ListRow;
  /** First beat in seconds of the track. */
  onFound: (found: FoundBeat) => void;
}) {
  const heard = trackSoundOf(useShow().sounds, list.time?.sound);
  const passage = useTrackView((s) => s.passage);
  const [said, setSaid] = useState('');
  if (!heard) return null;
  const { sound, file } = heard;
  /** In seconds of the file. */
  const shift_s = sound.at_s - (sound.from_s ?? 0);
  const find = async (): Promise<void> => {
    try {
      const shape = await shapeOf(file, 0);
      const from_s = Math.max(0, (passage?.from_s ?? 0) - shift_s);
      const to_s = passage ? passage.to_s - shift_s : from_s + MOST_S;
      setSaid('listening …');
      const found = await lookForBeat({
        shape,
        from_s,
        to_s: Math.min(to_s, from_s + MOST_S),
      });
      if (!found) return setSaid('no beat found');
      setSaid(`${found.bpm.toFixed(1)}, ${sureWords(found.sure)}`);
      onFound({ ...found, first_s: Math.max(0, found.first_s + from_s + shift_s) });
    } catch {
      setSaid('the sound cannot be had just now');
    }
  };
  return (
    <>
      <span role="status" className="text-[12px] text-muted" data-testid="found-beat">
        {said}
      </span>
      <Button kind="line" onClick={() => void find()}>
        {passage ? 'Find it in the passage' : 'Find it in the sound'}
      </Button>
    </>
  );
}
