/** In the frame of every place: each timecode that lists of this show follow, and how it stands. */
'use client';
import { Timer } from 'lucide-react';
import { followedBy } from '@/core/lists/going';
import { TIMECODE_FROM, TIMECODE_WORDS, type TimecodeFrom } from '@/core/time/rows';
import { FOLLOW_WORDS } from '../book/time/TimecodeChoice';
import { useHands } from '../state/hands';
import { useShow } from '../state/store';

/** Timecode that lists follow, and how well. */
export function TimecodeMark() {
  const lists = [...useShow().lists.values()];
  const followed = TIMECODE_FROM.filter((from) => lists.some((l) => followedBy(l)?.from === from));
  return followed.map((from) => <Mark key={from} from={from} />);
}

function Mark({ from }: { from: TimecodeFrom }) {
  const state = useHands((s) => s.player.timecode[from].state);
  const isWell = state === 'locked' || state === 'stands';
  return (
    <span
      data-testid="timecode-mark"
      title={`Timecode by ${TIMECODE_WORDS[from]}: ${FOLLOW_WORDS[state]}`}
      className={`flex flex-none items-center gap-1 text-[12px] whitespace-nowrap ${isWell ? 'text-soft' : 'text-warning'}`}
    >
      <Timer size={13} aria-hidden="true" />
      <span className="max-[1200px]:sr-only">{FOLLOW_WORDS[state]}</span>
    </span>
  );
}
