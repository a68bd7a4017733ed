/** The monitor in a window of its own: another universe in each, on a second screen. */
'use client';
import { useState } from 'react';
import { LIMITS } from '@/core/show/fields';
import { showName } from '@/core/show/show';
import { useScreen, useShow } from '../state/store';
import { Monitor, type Scale } from './Monitor';
import { useParts } from '../state/use-parts';

/** What the address of the window asks for, where it makes sense. */
function asked(): { universe: number; scale: Scale } {
  const query = new URLSearchParams(typeof window === 'undefined' ? '' : window.location.search);
  const universe = Number(query.get('universe') ?? 1);
  const scale = query.get('as');
  return {
    universe:
      Number.isInteger(universe) && universe >= 1 && universe <= LIMITS.universes ? universe : 1,
    scale: scale === 'percent' || scale === 'hex' ? scale : 'byte',
  };
}

/** The monitor in a window of its own. */
export function MonitorWindow() {
  const [{ universe, scale }, set] = useState(asked);
  const put = (fields: Partial<{ universe: number; scale: Scale }>): void => {
    const next = { universe, scale, ...fields };
    set(next);
    window.history.replaceState(null, '', `?universe=${next.universe}&as=${next.scale}`);
  };
  const show = useShow();
  const { connection, air, showId } = useParts(useScreen, 'connection', 'air', 'showId');
  return (
    <div className="flex h-full flex-col">
      <header
        className={`flex h-9 flex-none items-center gap-3 border-b px-3 ${connection === 'lost' ? 'border-danger bg-danger-wash' : 'border-line'}`}
      >
        <h1 className="truncate font-semibold">{showName(show)}</h1>
        {connection === 'lost' ? (
          <span role="alert" className="text-danger">
            Not connected: these values are old. Trying again.
          </span>
        ) : (
          <span className="text-[12px] text-muted">
            {air.showId === showId ? 'on air' : 'in rehearsal: nothing of this is sent'}
          </span>
        )}
      </header>
      <div className="min-h-0 flex-1">
        <Monitor
          alone
          universe={universe}
          onUniverse={(u) => put({ universe: u })}
          scale={scale}
          onScale={(s) => put({ scale: s })}
        />
      </div>
    </div>
  );
}
