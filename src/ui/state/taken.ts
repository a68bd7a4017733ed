/** The cue whose values were taken into the programmer last, until they are recorded or let go: where they go back to. */
import { create } from 'zustand';
import { createJSONStorage, persist } from 'zustand/middleware';
import { parseCueNumber } from '@/core/cues/number';
import type { CueRow } from '@/core/cues/rows';
import { firstList } from '@/core/show/show';
import type { LiveCommand } from '@/core/live/commands';
import { unrecordedCount, useScreen } from './store';

const useTaken = create<{ cueId: string | null }>()(
  persist(() => ({ cueId: null as string | null }), {
    name: 'wingman-taken',
    storage: createJSONStorage(() => sessionStorage),
  }),
);

/** Recording one of these puts what was taken where it belongs. */
const PUTS = new Set(['record-cue', 'update-source', 'remove-from-cue']);

/** What was taken into the hand has gone back into its cue. */
export const noteRecorded = (edit: string): void => {
  if (PUTS.has(edit)) useTaken.setState({ cueId: null });
};

/** What was done live may take a cue, or let go of what was taken. */
export function noteTaken(command: LiveCommand): void {
  if (command.command === 'clear') useTaken.setState({ cueId: null });
  if (command.command !== 'take' || command.what !== 'cue') return;
  const { show } = useScreen.getState();
  const listId = command.list ?? firstList(show)?.id ?? '';
  const number = parseCueNumber(command.cue ?? '');
  const cue = show.cuesOf(listId).find((c) => c.number === number);
  useTaken.setState({ cueId: cue?.id ?? null });
}

/** While something of it is held and not recorded. */
export function useTakenCue(): CueRow | undefined {
  const cueId = useTaken((s) => s.cueId);
  const holds = useScreen((s) => unrecordedCount(s.values) > 0);
  const cue = useScreen((s) => (cueId === null ? undefined : s.show.cues.get(cueId)));
  return holds ? cue : undefined;
}
