/** A panel in a window of its own: what it is, whether it is true, and nothing of the frame. */
'use client';
import { useEffect, useState } from 'react';
import { showName } from '@/core/show/show';
import { useScreen, useShow } from '../state/store';
import { useParts } from '../state/use-parts';
import { PANEL_TITLES, panelOf } from './panel-names';
import { PANELS } from './panels';
import { useRemembered } from './use-remembered';

/** One panel in a window of its own. */
export function PanelWindow() {
  const show = useShow();
  const { connection, air, showId } = useParts(useScreen, 'connection', 'air', 'showId');
  const [hash, setHash] = useState('');
  useEffect(() => {
    const follow = (): void => setHash(window.location.hash);
    follow();
    window.addEventListener('hashchange', follow);
    return () => window.removeEventListener('hashchange', follow);
  }, []);
  const name = panelOf(hash);
  const View = name && PANELS[name];
  const title = name && PANEL_TITLES[name];
  useRemembered(title);
  return (
    <div className="flex h-full flex-col">
      <header
        className={`flex h-9 flex-none items-center gap-3 border-b px-3 ${connection === 'lost' ? 'border-danger bg-danger-wash' : 'border-line'}`}
      >
        <h1 className="truncate font-semibold">{title ?? showName(show)}</h1>
        {connection === 'lost' ? (
          <span role="alert" className="text-danger">
            Not connected: what you see is old. Trying again.
          </span>
        ) : (
          <span className="truncate text-[12px] text-muted">
            {showName(show)}, {air.showId === showId ? 'on air' : 'in rehearsal'}
          </span>
        )}
      </header>
      <div className="min-h-0 flex-1">
        {View ? <View /> : <p className="p-6 text-muted">There is no such panel.</p>}
      </div>
    </div>
  );
}
