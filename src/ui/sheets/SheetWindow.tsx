/** A sheet in a window of its own: on a second screen, without the frame. */
'use client';
import { useEffect } from 'react';
import { openSheet } from '../state/sheets';
import { useRemembered } from '../windows/use-remembered';
import { Surface } from './Surface';
import { useOpenSheet } from './use-open-sheet';

/** A sheet in a window of its own. */
export function SheetWindow() {
  const { sheet } = useOpenSheet();
  useEffect(() => {
    const follow = (): void => openSheet(window.location.hash.slice(1) || null);
    follow();
    window.addEventListener('hashchange', follow);
    return () => window.removeEventListener('hashchange', follow);
  }, []);
  useRemembered(sheet?.name);
  return (
    <div className="h-full bg-ink p-2">
      {sheet ? (
        <Surface sheet={sheet} />
      ) : (
        <p className="mt-24 text-center text-muted">This show has no sheet.</p>
      )}
    </div>
  );
}
