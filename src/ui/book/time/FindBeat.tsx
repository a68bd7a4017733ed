/** The beat found in the sound of a track, by where something begins in it: a guess, and said as one. */
'use client';
import { useState } from 'react';
import type { ListRow } from '@/core/lists/rows';
import { findBeat, type FoundBeat } from '@/core/sounds/beat';
import { onsetsOf, STEPS_A_SECOND } from '@/core/sounds/shape';
import { trackSoundOf } from '@/core/sounds/track-sound';
import { Button } from '../../parts/controls';
import { shapeOf } from '../../state/sounds';
import { useShow } from '../../state/store';
import { useTrackView } from '../../state/track';

/** Longer than this a tempo seldom holds, and looking for it would be felt. */
const MOST_S = 240;

const sureWords = (sure: number): string =>
  sure > 0.6 ? 'rather sure' : sure > 0.35 ? 'a guess: listen' : 'hardly more than chance';

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
      const onsets = onsetsOf(await shapeOf(file, 0));
      const from_s = Math.max(0, (passage?.from_s ?? 0) - shift_s);
      const to_s = passage ? passage.to_s - shift_s : from_s + MOST_S;
      const [a, b] = [from_s, Math.min(to_s, from_s + MOST_S)].map((s) =>
        Math.round(s * STEPS_A_SECOND),
      );
      const found = findBeat(onsets.subarray(a, b));
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
