/** In the frame of every place: the timecode that lists of this show follow, and how it stands. */
'use client';
import { Timer } from 'lucide-react';
import { TIMECODE_WORDS } from '@/core/time/rows';
import { FOLLOW_WORDS } from '../book/time/TimecodeChoice';
import { useHands } from '../state/hands';
import { useShow } from '../state/store';

export function TimecodeMark() {
  const show = useShow();
  const heard = useHands((s) => s.player.timecode);
  const from = [...show.lists.values()].find((l) => l.time?.timecode)?.time?.timecode?.from;
  if (!from) return null;
  const { state } = heard[from];
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
