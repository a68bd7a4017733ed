/** Keys of the frame: those of the table, Esc, letters that begin a line, and GO by the space bar or a foot switch. */
'use client';
import { useEffect, type RefObject } from 'react';
import { tinykeys } from 'tinykeys';
import { boardOver } from '@/core/live/boards';
import { firstList } from '@/core/show/show';
import { live } from '../state/commands';
import { usePreferences } from '../state/preferences';
import { useRun } from '../state/run';
import { useScreen } from '../state/store';
import { OPEN_RECORD } from './ask';
import { KEYS, keyOf } from './key-table';
import { inTextField, RUNS, type KeyTools } from './keys';

type Command = RefObject<HTMLInputElement | null>;

const dialogIsOpen = (): boolean => document.querySelector('[role="dialog"]') !== null;
const isChord = (e: KeyboardEvent): boolean => e.ctrlKey || e.altKey || e.metaKey;

/** A field has the key; an empty command line, where the hand is left after every line, takes nothing from the frame. */
const isTyped = (e: KeyboardEvent, command: Command): boolean =>
  inTextField(e.target) && !(e.target === command.current && command.current?.value === '');

/** Those of the table, by the keys that this person has for them. */
function bindings(
  own: Parameters<typeof keyOf>[1],
  command: Command,
  tools: KeyTools,
): Record<string, (e: KeyboardEvent) => void> {
  return Object.fromEntries(
    KEYS.filter((k) => k.id !== 'command').map((k) => [
      keyOf(k.id, own),
      (event: KeyboardEvent) => {
        // A table or a menu under the hand may have taken it.
        if (event.defaultPrevented || (!('inFields' in k) && isTyped(event, command))) return;
        if (dialogIsOpen() && (k.id !== 'palette' || useScreen.getState().screenLocked)) return;
        event.preventDefault();
        RUNS[k.id](tools, event);
      },
    ]),
  );
}

/** What is open under the hand takes Esc first: a menu, a cell, a carry. Then the last mode, then the line. */
function escape(event: KeyboardEvent, tools: KeyTools): void {
  if (event.key !== 'Escape' || event.defaultPrevented) return;
  if (inTextField(event.target) || dialogIsOpen()) return;
  event.preventDefault();
  RUNS.command(tools);
}

/** Cells begin their own typing, and menus go to what begins so. */
const TAKES_LETTERS = '[data-takes-digits], [role=menu], [data-radix-popper-content-wrapper]';

/** Letters and digits anywhere outside a text field begin a line of the command line. */
function letters(event: KeyboardEvent, command: Command): void {
  if (isChord(event) || inTextField(event.target) || dialogIsOpen()) return;
  if (event.target instanceof HTMLElement && event.target.closest(TAKES_LETTERS)) return;
  if (/^[\p{L}\d]$/u.test(event.key)) command.current?.focus();
}

/** In Run the space bar, or a foot switch that was chosen, is GO for who is on the board. */
function go(event: KeyboardEvent, command: Command): void {
  const { place, goKey } = useRun.getState();
  const isChosen = goKey !== null && goKey !== '' && event.code === goKey;
  if (place !== 'run' || event.repeat || isChord(event)) return;
  if (event.code !== 'Space' && !isChosen) return;
  // An empty command line takes no space: after a line was typed the bar is GO again.
  if (isTyped(event, command) || dialogIsOpen()) return;
  const { playback, you, show } = useScreen.getState();
  const list = firstList(show);
  const board = boardOver(playback.boards, list ? { list: list.id } : 'show');
  if (board?.userId !== you.userId) return;
  event.preventDefault();
  event.stopPropagation();
  void live({ command: 'go' });
}

/** Hears the keys of the table. */
export function useFrameKeys(command: Command, tools: KeyTools): void {
  const own = usePreferences((s) => s.keys);
  useEffect(() => {
    const stop = tinykeys(window, bindings(own, command, tools));
    const onEscape = (e: KeyboardEvent): void => escape(e, tools);
    const onLetters = (e: KeyboardEvent): void => letters(e, command);
    const onGo = (e: KeyboardEvent): void => go(e, command);
    window.addEventListener('keydown', onEscape);
    window.addEventListener('keydown', onLetters);
    window.addEventListener('keydown', onGo, true);
    window.addEventListener(OPEN_RECORD, tools.openRecord);
    return () => {
      stop();
      window.removeEventListener('keydown', onEscape);
      window.removeEventListener('keydown', onLetters);
      window.removeEventListener('keydown', onGo, true);
      window.removeEventListener(OPEN_RECORD, tools.openRecord);
    };
  }, [command, tools, own]);
}
