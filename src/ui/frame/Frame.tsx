/** The frame round every place: spine, top bar, command line, and the dialogs that belong to all of them. */
'use client';
import { usePathname, useRouter } from 'next/navigation';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Toaster } from 'sonner';
import { tinykeys } from 'tinykeys';
import { openShow, setPlace } from '../state/actions';
import { useScreen } from '../state/store';
import { OPEN_RECORD } from './ask';
import { CommandLine } from './CommandLine';
import { CommandPalette } from './CommandPalette';
import { inTextField, KEYS, type KeyTools } from './keys';
import { KeysHelp } from './KeysHelp';
import { RecordDialog } from './RecordDialog';
import { Spine } from './Spine';
import { TopBar } from './TopBar';

export function Frame({ showId, children }: { showId: string; children: ReactNode }) {
  const router = useRouter();
  const place = usePathname().split('/').at(-1) ?? '';
  const [dialog, setDialog] = useState<'help' | 'palette' | 'record' | null>(null);
  const command = useRef<HTMLInputElement>(null);
  const loaded = useScreen((s) => s.loaded);

  useEffect(() => openShow(showId), [showId]);
  useEffect(() => setPlace(place), [place]);

  const goTo = useCallback((to: string) => router.push(`/shows/${showId}/${to}`), [router, showId]);
  const tools = useMemo<KeyTools>(
    () => ({
      goTo,
      openHelp: () => setDialog('help'),
      openPalette: () => setDialog('palette'),
      openRecord: () => setDialog('record'),
      focusCommand: () => command.current?.focus(),
    }),
    [goTo],
  );

  useEffect(() => {
    const bindings = Object.fromEntries(
      KEYS.map((k) => [
        k.key,
        (event: KeyboardEvent) => {
          if (!k.inFields && inTextField(event.target)) return;
          if (document.querySelector('[role="dialog"]') && k.id !== 'palette') return;
          event.preventDefault();
          k.run(tools);
        },
      ]),
    );
    const stop = tinykeys(window, bindings);
    // Digits anywhere outside a text field go to the command line.
    const digits = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.altKey || event.metaKey || inTextField(event.target) || document.querySelector('[role="dialog"]')) return;
      if (/^\d$/.test(event.key)) command.current?.focus();
    };
    const record = (): void => setDialog('record');
    window.addEventListener('keydown', digits);
    window.addEventListener(OPEN_RECORD, record);
    return () => {
      stop();
      window.removeEventListener('keydown', digits);
      window.removeEventListener(OPEN_RECORD, record);
    };
  }, [tools]);

  // A window of its own: nothing but the panel, still live.
  if (place === 'monitor') return <main className="h-screen">{loaded ? children : <p className="p-6 text-muted">Opening the show …</p>}</main>;
  return (
    <div className="grid h-screen min-w-[900px] grid-cols-[208px_minmax(0,1fr)] grid-rows-[44px_minmax(0,1fr)_40px] overflow-hidden">
      <TopBar showId={showId} place={place} openHelp={tools.openHelp} />
      <Spine />
      <main className="relative min-h-0 min-w-0 overflow-hidden" aria-label={place}>
        {loaded ? children : <p className="p-6 text-muted">Opening the show …</p>}
      </main>
      <CommandLine input={command} />
      <KeysHelp open={dialog === 'help'} onOpenChange={(o) => setDialog(o ? 'help' : null)} />
      <CommandPalette open={dialog === 'palette'} onOpenChange={(o) => setDialog(o ? 'palette' : null)} tools={tools} />
      {dialog === 'record' && <RecordDialog onClose={() => setDialog(null)} />}
      <Toaster position="bottom-center" offset={{ bottom: 104 }} theme="dark" toastOptions={{ duration: 3200, style: { pointerEvents: 'none', background: 'var(--color-raised)', border: '1px solid var(--color-edge)', color: 'var(--color-text)', fontFamily: 'var(--font-ui)' } }} />
    </div>
  );
}
