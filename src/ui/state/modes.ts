/**
 * Modes: what changes the meaning of a click, a level or a row until it is ended. Each is seen in the frame in every
 * place, in the order in which they were begun; Esc ends the last.
 */
import { create } from 'zustand';
import { plural } from '@/core/words';
import { formatCueNumber } from '@/core/cues/number';
import { live } from './commands';
import { lookBack } from './link';
import { useCueLook } from './cue-look';
import { notice } from './messages';
import { useStage, type Tool } from './stage';
import { useScreen } from './store';

interface Mode {
  id: string;
  label: string;
  end: () => void;
}

const TOOLS: Partial<Record<Tool, string>> = {
  aim: 'Aiming',
  line: 'Aiming along a line',
  lasso: 'Lasso',
  bar: 'Drawing a bar',
  boom: 'Drawing a boom',
  set: 'Drawing a set piece',
};

/** Live again: what is held blind shows on stage then, so that is asked first. */
function endBlind(): void {
  const { values } = useScreen.getState();
  if (values.size === 0) return void live({ command: 'blind', on: false });
  notice(`Blind ends: ${plural(values.size, 'value')} that you hold would show on stage at once.`, {
    id: 'end-blind',
    duration: 15_000,
    ways: [
      { label: 'Go live', onClick: () => void live({ command: 'blind', on: false }) },
      { label: 'Stay blind', onClick: () => undefined },
    ],
  });
}

/** All that is on now, in no order. */
function modesNow(): Mode[] {
  const { show, programmer, past, following, people } = useScreen.getState();
  const { tool, arrange } = useStage.getState();
  const cue = show.cues.get(useCueLook.getState().cueId ?? '');
  const followed = people.find((p) => p.userId === following);
  return [
    ...(programmer.blind ? [{ id: 'blind', label: 'Blind', end: endBlind }] : []),
    ...(programmer.highlight
      ? [
          {
            id: 'highlight',
            label: 'Highlight',
            end: () => void live({ command: 'highlight', on: false }),
          },
        ]
      : []),
    ...(TOOLS[tool]
      ? [{ id: 'tool', label: TOOLS[tool] ?? '', end: () => useStage.setState({ tool: 'select' }) }]
      : []),
    ...(arrange
      ? [
          {
            id: 'arrange',
            label: 'Arranging',
            end: () => useStage.setState({ arrange: false, pieceId: null }),
          },
        ]
      : []),
    ...(cue
      ? [
          {
            id: 'look',
            label: `Looking at cue ${formatCueNumber(cue.number)}`,
            end: () => useCueLook.setState({ cueId: null }),
          },
        ]
      : []),
    ...(past
      ? [{ id: 'past', label: `As it was: ${past.name}`, end: () => void lookBack(null) }]
      : []),
    ...(followed
      ? [
          {
            id: 'following',
            label: `Following ${followed.name}`,
            end: () => useScreen.setState({ following: null }),
          },
        ]
      : []),
  ];
}

/** In the order in which they were begun. */
export const useModes = create<{ modes: readonly Mode[] }>(() => ({ modes: [] }));

function look(): void {
  const now = modesNow();
  const { modes } = useModes.getState();
  const next = [
    ...modes.flatMap((m) => now.find((n) => n.id === m.id) ?? []),
    ...now.filter((n) => !modes.some((m) => m.id === n.id)),
  ];
  if (
    next.length === modes.length &&
    next.every((m, i) => m.id === modes[i]?.id && m.label === modes[i]?.label)
  )
    return;
  useModes.setState({ modes: next });
}
useScreen.subscribe(look);
useStage.subscribe(look);
useCueLook.subscribe(look);

/** @returns whether there was one to end */
export function endLastMode(): boolean {
  const last = useModes.getState().modes.at(-1);
  last?.end();
  return last !== undefined;
}
