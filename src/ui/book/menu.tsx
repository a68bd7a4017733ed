/** What can be done to the chosen cues, in one list: the menu of the bar and that of the right mouse button are made from it. */
'use client';
import { noteAbout } from '../notes/note-dialog';
import { create } from 'zustand';
import type { CueRow } from '@/core/cues/rows';
import { live, said } from '../state/commands';
import { edit, tryEdit } from '../state/edits';
import { formatCueNumber } from '@/core/cues/number';
import { actedOn, useBook, useBookList } from '../state/book';
import { mayEdit, mayPlay, useScreen } from '../state/store';
import { useParts } from '../state/use-parts';

/** Dialogs over the Book. */
export type BookDialog =
  | 'skeleton'
  | 'insert'
  | 'move'
  | 'copy'
  | 'renumber'
  | 'split'
  | 'times'
  | 'delete'
  | 'list'
  | 'new-list'
  | 'script'
  | 'import'
  | 'findings'
  | 'light'
  | 'find'
  | null;
/** Which is open. */
export const useBookDialog = create<{
  dialog: BookDialog;
  /** Where an inserted cue goes. */ place: 'before' | 'after';
}>(() => ({ dialog: null, place: 'after' }));
const ask = (dialog: BookDialog, place: 'before' | 'after' = 'after'): void =>
  useBookDialog.setState({ dialog, place });

/** A line of the cue menu. */
export interface MenuItem {
  label: string;
  run: () => void;
  disabled?: boolean;
  /** A line above it. */
  first?: boolean;
}

/** A cue into the programmer, to be changed and put back; `whole` with what tracks into it. */
export const takeCue = (cue: CueRow, whole: boolean): void =>
  void said({
    command: 'take',
    what: 'cue',
    cue: formatCueNumber(cue.number),
    list: cue.listId,
    whole,
  });

/** What can be done with the cues that are chosen. */
export function useCueActions(): MenuItem[] {
  const { chosen, cue, cues } = useBookList();
  const { you } = useParts(useScreen, 'you');
  const ids = actedOn(chosen, cue);
  const many = ids.length;
  const may = mayEdit(you.role);
  const one = many === 1 ? cues.find((c) => c.id === ids[0]) : undefined;
  const blocked = cues.filter((c) => ids.includes(c.id) && c.block).length;
  const what = many === 1 && one ? `LX ${formatCueNumber(one.number)}` : `${many} cues`;
  const joinable = many >= 2 && 'summary' in tryEdit('join-cues', { ids });
  return [
    {
      label: one ? `Go to ${what}` : 'Go to it',
      disabled: !one || !mayPlay(you.role),
      run: () =>
        one && void live({ command: 'goto', cue: formatCueNumber(one.number), list: one.listId }),
    },
    {
      label: 'Make it next',
      disabled: !one || !mayPlay(you.role),
      run: () =>
        one && void live({ command: 'arm', cue: formatCueNumber(one.number), list: one.listId }),
    },
    {
      label: `Take ${what} into my programmer`,
      first: true,
      disabled: !one || !mayPlay(you.role),
      run: () => one && takeCue(one, false),
    },
    {
      label: 'Take all that it shows',
      disabled: !one || !mayPlay(you.role),
      run: () => one && takeCue(one, true),
    },
    {
      label: 'Leave a note …',
      first: true,
      disabled: !one,
      run: () => one && noteAbout({ cueId: one.id }),
    },
    {
      label: 'Insert a cue before …',
      first: true,
      disabled: !may || !one,
      run: () => ask('insert', 'before'),
    },
    { label: 'Insert a cue after …', disabled: !may || !one, run: () => ask('insert', 'after') },
    { label: 'Many empty cues …', disabled: !may, run: () => ask('skeleton') },
    { label: `Copy ${what} …`, first: true, disabled: !may || many === 0, run: () => ask('copy') },
    { label: `Move ${what} …`, disabled: !may || many === 0, run: () => ask('move') },
    { label: `Renumber ${what} …`, disabled: !may || many === 0, run: () => ask('renumber') },
    { label: 'Split off a part …', disabled: !may || !one, run: () => ask('split') },
    {
      label: many >= 2 ? `Join ${what} into one` : 'Join neighbours (choose two)',
      disabled: !may || !joinable,
      run: () => void edit('join-cues', { ids }),
    },
    {
      label: blocked > 0 ? `Unblock ${what}` : `Block ${what}: nothing reaches past`,
      first: true,
      disabled: !may || many === 0,
      run: () => void edit('block-cue', { ids, on: blocked === 0 }),
    },
    { label: `Times of ${what} …`, disabled: !may || many === 0, run: () => ask('times') },
    {
      label: `Delete ${what} …`,
      first: true,
      disabled: !may || many === 0,
      run: () => ask('delete'),
    },
    {
      label: 'Choose all cues',
      first: true,
      run: () => useBook.setState({ chosen: cues.map((c) => c.id) }),
    },
  ];
}
