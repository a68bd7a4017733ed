/** The frame round every place: spine, top bar, command line, and the dialogs that belong to all of them. */
'use client';
import { usePathname, useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { tinykeys } from 'tinykeys';
import { boardOver } from '@/core/live/boards';
import { firstList } from '@/core/show/show';
import { live, openShow, setPlace } from '../state/actions';
import { loadPreferences, usePreferences } from '../state/preferences';
import { useRun } from '../state/run';
import { mayPlay, useScreen } from '../state/store';
import { OPEN_RECORD } from './ask';
import { CommandLine } from './CommandLine';
import { CommandPalette } from './CommandPalette';
import { CueCard } from './CueLook';
import { KEYS, keyOf } from './key-table';
import { inTextField, RUNS, type KeyTools } from './keys';
import { KeysHelp } from './KeysHelp';
import { RecordDialog } from './RecordDialog';
import { BoardDialog } from './BoardDialog';
import { useMenuKey } from './menu-key';
import { MessageLine } from './MessageLine';
import { useGoing } from './Inbox';
import { LeftLights } from './LeftLights';
import { LockScreen } from './LockScreen';
import { useNoNativeDrag } from './no-native-drag';
import { NotKept } from './NotKept';
import { PastBanner } from './PastBanner';
import { useTrackSounds } from '../sound/use-track-sounds';
import { useHandsRunning } from '../hands/use-hands-running';
import { useFollowing } from './following';
import { HandMarks, useOwnHand } from './Hands';
import { Spine } from './Spine';
import { Unwritten } from './Unwritten';
import { useKeepTyped } from '../state/typed';
import { DropAnywhere } from '../import/DropAnywhere';
import { NoteDialog } from '../notes/NoteDialog';
import { PutOnSheet } from '../sheets/PutOnSheet';
import { UnseenDialog } from './UnseenDialog';
import { TopBar } from './TopBar';
import { WindowsDialog } from '../windows/WindowsDialog';

/** Places without the frame. */
const BARE = new Set([
  'monitor',
  'panel',
  'focus',
  'notes',
  'page',
  'sheet',
  'go',
  'booth',
  'caller',
]);

/** @param volunteer has the pages given to them, and nothing else of the show @param makes may make shows in this house */
export function Frame({
  showId,
  volunteer,
  makes,
  children,
}: {
  showId: string;
  volunteer: boolean;
  makes: boolean;
  children: ReactNode;
}) {
  const router = useRouter();
  const place = usePathname().split('/').at(-1) ?? '';
  const [dialog, setDialog] = useState<'help' | 'palette' | 'record' | 'board' | 'windows' | null>(
    null,
  );
  const command = useRef<HTMLInputElement>(null);
  const [offers, setOffers] = useState<ReactNode>(null);
  const arranged = usePreferences((s) => s.loaded);
  const loaded = useScreen((s) => s.loaded) && arranged;
  const past = useScreen((s) => s.past);

  useNoNativeDrag();
  useMenuKey();
  useOwnHand();
  const own = usePreferences((s) => s.keys);
  const screenLocked = useScreen((s) => s.screenLocked);
  useEffect(() => void loadPreferences(), [screenLocked]);
  const playing = useScreen((s) => mayPlay(s.you.role) && s.connection === 'live');
  const elsewhere = volunteer && place !== 'page';
  useEffect(
    () => (elsewhere ? router.replace(`/shows/${showId}/page`) : openShow(showId)),
    [showId, elsewhere, router],
  );
  useEffect(() => setPlace(place), [place]);
  useEffect(() => useScreen.setState({ makes }), [makes]);

  const goTo = useCallback((to: string) => router.push(`/shows/${showId}/${to}`), [router, showId]);
  const tools = useMemo<KeyTools>(
    () => ({
      goTo,
      openHelp: () => setDialog('help'),
      openPalette: () => setDialog('palette'),
      openRecord: () => setDialog('record'),
      openBoard: () => setDialog('board'),
      openWindows: () => setDialog('windows'),
      focusCommand: () => command.current?.focus(),
    }),
    [goTo],
  );

  useEffect(() => {
    const bindings = Object.fromEntries(
      KEYS.filter((k) => k.id !== 'command').map((k) => [
        keyOf(k.id, own),
        (event: KeyboardEvent) => {
          // A table or a menu under the hand may have taken it.
          // An empty command line, where the hand is left after every line, takes nothing from them.
          const emptyLine = event.target === command.current && command.current?.value === '';
          if (
            event.defaultPrevented ||
            (!('inFields' in k) && inTextField(event.target) && !emptyLine)
          )
            return;
          if (
            document.querySelector('[role="dialog"]') &&
            (k.id !== 'palette' || useScreen.getState().screenLocked)
          )
            return;
          event.preventDefault();
          RUNS[k.id](tools, event);
        },
      ]),
    );
    const stop = tinykeys(window, bindings);
    // What is open under the hand takes Esc first: a menu, a cell, a carry. Then the last mode, then the line.
    const escape = (event: KeyboardEvent): void => {
      if (
        event.key !== 'Escape' ||
        event.defaultPrevented ||
        inTextField(event.target) ||
        document.querySelector('[role="dialog"]')
      )
        return;
      event.preventDefault();
      RUNS.command(tools);
    };
    // Letters and digits anywhere outside a text field begin a line of the command line.
    const letters = (event: KeyboardEvent): void => {
      if (
        event.ctrlKey ||
        event.altKey ||
        event.metaKey ||
        inTextField(event.target) ||
        document.querySelector('[role="dialog"]')
      )
        return;
      // Cells begin their own typing, and menus go to what begins so.
      if (
        event.target instanceof HTMLElement &&
        event.target.closest(
          '[data-takes-digits], [role=menu], [data-radix-popper-content-wrapper]',
        )
      )
        return;
      if (/^[\p{L}\d]$/u.test(event.key)) command.current?.focus();
    };
    // In Run the space bar, or a foot switch that was chosen, is GO for who is on the board.
    const go = (event: KeyboardEvent): void => {
      const { place: at, goKey } = useRun.getState();
      const chosen = goKey !== null && goKey !== '' && event.code === goKey;
      if (
        at !== 'run' ||
        event.repeat ||
        (event.code !== 'Space' && !chosen) ||
        event.ctrlKey ||
        event.altKey ||
        event.metaKey
      )
        return;
      // An empty command line takes no space: after a line was typed the bar is GO again.
      const emptyLine = event.target === command.current && command.current?.value === '';
      if ((inTextField(event.target) && !emptyLine) || document.querySelector('[role="dialog"]'))
        return;
      const { playback, you, show } = useScreen.getState();
      const list = firstList(show);
      if (boardOver(playback.boards, list ? { list: list.id } : 'show')?.userId !== you.userId)
        return;
      event.preventDefault();
      event.stopPropagation();
      void live({ command: 'go' });
    };
    const record = (): void => setDialog('record');
    window.addEventListener('keydown', escape);
    window.addEventListener('keydown', letters);
    window.addEventListener('keydown', go, true);
    window.addEventListener(OPEN_RECORD, record);
    return () => {
      stop();
      window.removeEventListener('keydown', escape);
      window.removeEventListener('keydown', letters);
      window.removeEventListener('keydown', go, true);
      window.removeEventListener(OPEN_RECORD, record);
    };
  }, [tools, own]);

  useKeepTyped(
    showId,
    useScreen((s) => s.you.userId),
  );
  useHandsRunning();
  useTrackSounds();
  useFollowing(showId, place);
  useGoing(showId);
  if (elsewhere) return null;
  // A window of its own, or a page for a phone: nothing of the frame, still live.
  if (BARE.has(place))
    return (
      <main className="flex h-dvh flex-col [&>*]:min-h-0">
        <NotKept />
        <LeftLights />
        <Unwritten showId={showId} />
        <div className="flex-1 overflow-auto">
          {loaded || place === 'page' ? (
            children
          ) : (
            <p className="p-6 text-muted">Opening the show …</p>
          )}
        </div>
        <LockScreen />
        <UnseenDialog />
        <MessageLine tall />
      </main>
    );
  return (
    <div className="grid h-screen min-w-[900px] grid-cols-[208px_minmax(0,1fr)] grid-rows-[44px_minmax(0,1fr)_28px_40px] overflow-hidden">
      <TopBar
        openRecord={tools.openRecord}
        showId={showId}
        place={place}
        openHelp={tools.openHelp}
      />
      <Spine large={place === 'run'} openBoard={tools.openBoard} openBook={() => goTo('book')} />
      <main
        className={`relative flex min-h-0 min-w-0 flex-col overflow-hidden ${past ? 'pt-9' : ''}`}
        aria-label={place}
      >
        <NotKept />
        <LeftLights />
        <Unwritten showId={showId} />
        <PastBanner />
        <div className="min-h-0 flex-1">
          {loaded ? children : <p className="p-6 text-muted">Opening the show …</p>}
        </div>
        <CueCard place={place} playing={playing} openBook={() => goTo('book')} />
      </main>
      <MessageLine instead={offers} />
      <CommandLine input={command} offer={setOffers} />
      <KeysHelp open={dialog === 'help'} onOpenChange={(o) => setDialog(o ? 'help' : null)} />
      <CommandPalette
        open={dialog === 'palette'}
        onOpenChange={(o) => setDialog(o ? 'palette' : null)}
        tools={tools}
      />
      {dialog === 'record' && <RecordDialog onClose={() => setDialog(null)} />}
      {dialog === 'windows' && <WindowsDialog onClose={() => setDialog(null)} />}
      <BoardDialog open={dialog === 'board'} onClose={() => setDialog(null)} />
      <UnseenDialog />
      <NoteDialog />
      <PutOnSheet />
      <DropAnywhere />
      <HandMarks />
      <LockScreen />
    </div>
  );
}
