/** One's own changes as a list to jump along: what is above the mark is undone. */
'use client';
import { mayEdit, useScreen } from '../../state/store';
import { useParts } from '../../state/use-parts';
import { useLoad } from '../use-load';
import { useUndo } from './use-undo';

interface Step {
  seq: number;
  summary: string;
}

/** What this person did last, to be taken back. */
export function Own() {
  const { showId, seq, you } = useParts(useScreen, 'showId', 'seq', 'you');
  const undo = useUndo();
  const own = useLoad<{ done: Step[]; undone: Step[] }>(`/api/shows/${showId}/undo`, seq);
  const jump = (to: number): void => undo({ to });
  const may = mayEdit(you.role);
  const row =
    'block min-h-8 w-full rounded px-2 py-1 text-left text-[12.5px] hover:bg-raised disabled:hover:bg-transparent';
  return (
    <section
      aria-label="Your own changes"
      className="flex min-h-0 flex-col border-l border-line px-4 py-4"
    >
      <h2 className="text-[15px] font-semibold">Your own</h2>
      <p className="mt-0.5 text-[12.5px] text-muted">
        Click one to go back to before it, or forward to it again. Others’ work stays.
      </p>
      <ol className="mt-2 min-h-0 flex-1 overflow-y-auto">
        {(own.data?.undone ?? []).map((s) => (
          <li key={s.seq}>
            <button
              type="button"
              disabled={!may}
              onClick={() => jump(s.seq)}
              className={`${row} text-dim line-through`}
            >
              {s.summary}
            </button>
          </li>
        ))}
        <li aria-label="here" className="my-1 flex items-center gap-2 text-[11px] text-standby">
          <i className="h-px flex-1 bg-standby" /> you are here{' '}
          <i className="h-px flex-1 bg-standby" />
        </li>
        {(own.data?.done ?? []).map((s) => (
          <li key={s.seq}>
            <button
              type="button"
              disabled={!may}
              onClick={() => jump(s.seq)}
              className={`${row} text-soft`}
            >
              {s.summary}
            </button>
          </li>
        ))}
        {own.data && own.data.done.length + own.data.undone.length === 0 && (
          <li className="px-2 text-muted">You have changed nothing yet.</li>
        )}
      </ol>
    </section>
  );
}
