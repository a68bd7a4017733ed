/** The frame round every place: spine, top bar, command line, and the dialogs that belong to all of them. */
'use client';
import { usePathname, useRouter } from 'next/navigation';
import { useEffect, useMemo, useRef, useState, type ReactNode, type RefObject } from 'react';
import { setPlace } from '../state/link';
import { openShow } from '../state/open-show';
import { loadPreferences, usePreferences } from '../state/preferences';
import { usePlaying, useScreen } from '../state/store';
import { CommandLine } from './CommandLine';
import { CommandPalette } from './CommandPalette';
import { CueCard } from './CueLook';
import type { KeyTools } from './keys';
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
import { useFrameKeys } from './use-frame-keys';
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

type OpenDialog = 'help' | 'palette' | 'record' | 'board' | 'windows' | null;

/** The show that is open, and what goes on on this screen whichever place is shown. */
function useOpenShow(showId: string, place: string, elsewhere: boolean, makes: boolean): void {
  const router = useRouter();
  useNoNativeDrag();
  useMenuKey();
  useOwnHand();
  const screenLocked = useScreen((s) => s.screenLocked);
  useEffect(() => void loadPreferences(), [screenLocked]);
  useEffect(
    () => (elsewhere ? router.replace(`/shows/${showId}/page`) : openShow(showId)),
    [showId, elsewhere, router],
  );
  useEffect(() => setPlace(place), [place]);
  useEffect(() => useScreen.setState({ makes }), [makes]);
  useKeepTyped(
    showId,
    useScreen((s) => s.you.userId),
  );
  useHandsRunning();
  useTrackSounds();
  useFollowing(showId, place);
  useGoing(showId);
}

const OPENING = <p className="p-6 text-muted">Opening the show …</p>;

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
  const [dialog, setDialog] = useState<OpenDialog>(null);
  const command = useRef<HTMLInputElement>(null);
  const elsewhere = volunteer && place !== 'page';
  useOpenShow(showId, place, elsewhere, makes);
  const tools = useMemo<KeyTools>(
    () => ({
      goTo: (to) => router.push(`/shows/${showId}/${to}`),
      openHelp: () => setDialog('help'),
      openPalette: () => setDialog('palette'),
      openRecord: () => setDialog('record'),
      openBoard: () => setDialog('board'),
      openWindows: () => setDialog('windows'),
      focusCommand: () => command.current?.focus(),
    }),
    [router, showId],
  );
  useFrameKeys(command, tools);
  if (elsewhere) return null;
  if (BARE.has(place))
    return (
      <Bare showId={showId} place={place}>
        {children}
      </Bare>
    );
  return (
    <Whole
      showId={showId}
      place={place}
      command={command}
      tools={tools}
      dialog={dialog}
      onDialog={setDialog}
    >
      {children}
    </Whole>
  );
}

/** A window of its own, or a page for a phone: nothing of the frame, still live. */
function Bare({ showId, place, children }: { showId: string; place: string; children: ReactNode }) {
  const loaded = useIsLoaded();
  return (
    <main className="flex h-dvh flex-col [&>*]:min-h-0">
      <NotKept />
      <LeftLights />
      <Unwritten showId={showId} />
      <div className="flex-1 overflow-auto">{loaded || place === 'page' ? children : OPENING}</div>
      <LockScreen />
      <UnseenDialog />
      <MessageLine tall />
    </main>
  );
}

/** The show is here, and how this person has arranged it. */
function useIsLoaded(): boolean {
  const arranged = usePreferences((s) => s.loaded);
  return useScreen((s) => s.loaded) && arranged;
}

function Whole({
  showId,
  place,
  command,
  tools,
  dialog,
  onDialog,
  children,
}: {
  showId: string;
  place: string;
  command: RefObject<HTMLInputElement | null>;
  tools: KeyTools;
  dialog: OpenDialog;
  onDialog: (dialog: OpenDialog) => void;
  children: ReactNode;
}) {
  const loaded = useIsLoaded();
  const past = useScreen((s) => s.past);
  const playing = usePlaying();
  const [offers, setOffers] = useState<ReactNode>(null);
  const openBook = (): void => tools.goTo('book');
  const close = (): void => onDialog(null);
  return (
    <div className="grid h-screen min-w-[900px] grid-cols-[208px_minmax(0,1fr)] grid-rows-[44px_minmax(0,1fr)_28px_40px] overflow-hidden">
      <TopBar
        openRecord={tools.openRecord}
        showId={showId}
        place={place}
        openHelp={tools.openHelp}
      />
      <Spine large={place === 'run'} openBoard={tools.openBoard} openBook={openBook} />
      <main
        className={`relative flex min-h-0 min-w-0 flex-col overflow-hidden ${past ? 'pt-9' : ''}`}
        aria-label={place}
      >
        <NotKept />
        <LeftLights />
        <Unwritten showId={showId} />
        <PastBanner />
        <div className="min-h-0 flex-1">{loaded ? children : OPENING}</div>
        <CueCard place={place} playing={playing} openBook={openBook} />
      </main>
      <MessageLine instead={offers} />
      <CommandLine input={command} offer={setOffers} />
      <KeysHelp open={dialog === 'help'} onOpenChange={(o) => onDialog(o ? 'help' : null)} />
      <CommandPalette
        open={dialog === 'palette'}
        onOpenChange={(o) => onDialog(o ? 'palette' : null)}
        tools={tools}
      />
      {dialog === 'record' && <RecordDialog onClose={close} />}
      {dialog === 'windows' && <WindowsDialog onClose={close} />}
      <BoardDialog open={dialog === 'board'} onClose={close} />
      <UnseenDialog />
      <NoteDialog />
      <PutOnSheet />
      <DropAnywhere />
      <HandMarks />
      <LockScreen />
    </div>
  );
}
