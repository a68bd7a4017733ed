/** What a person made here and the house has not: edits without an answer, and text that stood in a field when the page went. */
'use client';
import { useState } from 'react';
import { listed, plural } from '@/core/words';
import { sendUnsent } from '../state/edits';
import { copyWords } from '../state/copy';
import { notice } from '../state/messages';
import { useScreen } from '../state/store';
import { letTypedGo, offerTyped, useTyped } from '../state/typed';
import { dropUnsent, keepUnsent, useUnsent } from '../state/unsent';

const BAR =
  'flex flex-none flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-raised px-4 py-1.5 text-[13px]';
const STRONG =
  'h-7 rounded-md bg-text px-3 text-[12.5px] font-semibold text-ink disabled:opacity-40';
const QUIET = 'h-7 rounded-md px-2.5 text-[12.5px] text-soft hover:bg-lift';

/** What was written and has not arrived, or could not be kept. */
export function Unwritten({ showId }: { showId: string }) {
  const userId = useScreen((s) => s.you.userId);
  const connected = useScreen((s) => s.connection === 'live');
  const { all, sending } = useUnsent();
  const offered = useTyped((s) => s.offered);
  const [busy, setBusy] = useState(false);
  const mine = all.filter(
    (u) => u.showId === showId && u.userId === userId && !sending.has(u.editId),
  );
  const typed = offered.filter((t) => t.showId === showId && t.userId === userId);
  const first = mine[0];
  const writeAll = async (): Promise<void> => {
    setBusy(true);
    for (const u of mine) if (!(await sendUnsent(u))) break;
    setBusy(false);
  };
  return (
    <>
      {first && (
        <div role="alert" data-testid="unsent" className={BAR}>
          <span className="min-w-0 flex-1">
            <b className="font-semibold text-warning">
              {mine.length === 1
                ? 'Not written yet'
                : `${plural(mine.length, 'change')} of yours are not written yet`}
            </b>
            <span className="text-soft">
              :{' '}
              {listed(
                mine.map((u) => u.summary),
                3,
                '; ',
              )}
              . Kept on this screen.
            </span>
          </span>
          <button
            type="button"
            disabled={!connected || busy}
            className={STRONG}
            onClick={() => void writeAll()}
          >
            {connected ? 'Write now' : 'Waiting for the house'}
          </button>
          <button
            type="button"
            className={QUIET}
            onClick={() => {
              mine.forEach((u) => dropUnsent(u.editId));
              notice.done('Let go of it; nothing was written.', {
                id: 'unsent-gone',
                duration: 20_000,
                ways: [{ label: 'Bring it back', onClick: () => mine.forEach(keepUnsent) }],
              });
            }}
          >
            Let go
          </button>
        </div>
      )}
      {typed.map((t, i) => {
        const words = t.fields.map((f) => f.value).join('\n');
        return (
          <div key={i} role="status" data-testid="typed" className={BAR}>
            <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
              <span className="text-soft">
                You were typing{t.where ? ` in “${t.where}”` : ''}:{' '}
              </span>
              {t.fields
                .map(
                  (f) =>
                    `${f.label ? `${f.label} ` : ''}“${f.value.length > 140 ? `${f.value.slice(0, 140)}…` : f.value}”`,
                )
                .join(', ')}
              .{t.dialog && <span className="text-soft"> Open it again to fill that in.</span>}
            </span>
            <button type="button" className={QUIET} onClick={() => void copyWords(words)}>
              Copy
            </button>
            <button
              type="button"
              className={QUIET}
              onClick={() => {
                letTypedGo(t);
                notice.done('Let go of what you were typing.', {
                  id: 'typed-gone',
                  duration: 20_000,
                  ways: [{ label: 'Bring it back', onClick: () => offerTyped(t) }],
                });
              }}
            >
              Let go
            </button>
          </div>
        );
      })}
    </>
  );
}
