/** Who is on which board, and the log of every GO: who, when, from where, how late after its call. */
'use client';
import { useState } from 'react';
import { notice } from '../state/messages';
import type { JournalEntry } from '@/core/live/answers';
import { Button, Choice } from '../parts/controls';
import { Boards } from '../frame/BoardDialog';
import { useNow } from '../parts/use-now';
import { useScreen, usePlayback } from '../state/store';
import { LogList, Papers, WhenWho } from './LogList';
import { useLog, useSend } from './use-load';
import { useParts } from '../state/use-parts';

/** What is known of a GO. */
type Entry = JournalEntry & {
  data: { from?: string; late_ms?: number | null; calledBy?: string | null };
};

const KINDS = [
  { value: '', label: 'Everything' },
  { value: 'go', label: 'GOs' },
  { value: 'call', label: 'Calls' },
  { value: 'board', label: 'The board' },
  { value: 'people', label: 'People' },
  { value: 'refused', label: 'Refused' },
  { value: 'air', label: 'On air' },
  { value: 'file', label: 'Merges' },
];

const PAGE = 100;
/** What others were refused tells no screen; the log looks again so often. */
const REFRESH_MS = 5000;

/** Who is on which board, and every GO. */
export function BoardPane() {
  const { showId, people, you, air } = useParts(useScreen, 'showId', 'people', 'you', 'air');
  const { lists, boards } = usePlayback('lists', 'boards');
  const send = useSend();
  const [kind, setKind] = useState('');
  const list = lists[0];
  const tick = useNow(REFRESH_MS);
  const log = useLog(
    (before: number | undefined) =>
      `/api/shows/${showId}/journal?limit=${PAGE}${kind ? `&kind=${kind}` : ''}${before === undefined ? '' : `&before=${before}`}`,
    PAGE,
    `${tick}/${list?.cueId ?? ''}/${boards.map((b) => b.userId).join()}/${people.length}`,
    (a: { entries: Entry[] }) => a.entries,
    (e) => e.id,
  );
  return (
    <div className="grid h-full grid-cols-[minmax(400px,1fr)_1.25fr]">
      <section aria-label="The board" className="overflow-y-auto border-r border-line px-5 py-4">
        <h2 className="text-[15px] font-semibold">On the board</h2>
        <p className="mt-1 mb-2 text-[12.5px] text-muted">
          Exactly one person plays a thing. Whoever is away for 30 s leaves the board free; what
          plays goes on.
        </p>
        <Boards />
        {you.role === 'owner' && air.showId === showId && (
          <div className="mt-6 border-t border-line pt-4">
            <h2 className="text-[15px] font-semibold">Players</h2>
            <p className="mt-1 text-[12.5px] text-muted">
              With a second player on another machine, it takes over by itself when this one fails,
              in the same cue. It hands back only when told.
            </p>
            <Button
              className="mt-2"
              onClick={() =>
                void send('/api/players/hand-over', 'POST', {}).then(
                  (r) => r && notice.done('The other player has taken over'),
                )
              }
            >
              Let the other player take over
            </Button>
          </div>
        )}
      </section>
      <section aria-label="Log" className="flex min-h-0 flex-col px-5 py-4">
        <div className="flex items-end gap-3">
          <h2 className="flex-1 text-[15px] font-semibold">
            Log <span className="ml-1 text-[12px] font-normal text-muted">newest first</span>
          </h2>
          <Papers what="journal" />
          <Choice
            label="Show"
            className="w-40"
            value={kind}
            onChange={(e) => setKind(e.target.value)}
            options={KINDS}
          />
        </div>
        <LogList log={log} empty="Nothing of this has happened yet." className="mt-2">
          {(e) => (
            <li
              key={e.id}
              className="grid grid-cols-[92px_112px_1fr] items-baseline gap-2 border-b border-raised py-1.5"
            >
              <WhenWho at={e.at} title={e.at} userId={e.userId} userName={e.userName} />
              <span className={e.kind === 'refused' ? 'text-warning' : ''}>
                {e.text}
                <span className="ml-2 text-[12px] text-muted">
                  {[
                    e.data.from ? `from ${e.data.from}` : '',
                    e.data.late_ms !== undefined && e.data.late_ms !== null
                      ? `${(e.data.late_ms / 1000).toFixed(1)} s after ${e.data.calledBy ?? 'the'} call`
                      : '',
                  ]
                    .filter(Boolean)
                    .join(', ')}
                </span>
              </span>
            </li>
          )}
        </LogList>
      </section>
    </div>
  );
}
