/** What cues' actions could not do, until somebody has seen it. Over the script's foot: it moves nothing that a hand may be on. */
'use client';
import { freshReports, useRun } from '../state/run';
import { useScreen } from '../state/store';

/** What actions of cues could not do, until it was seen. */
export function Reports() {
  const reports = useScreen((s) => s.playback.reports);
  const seen = useRun((s) => s.seenReport);
  const fresh = freshReports(reports, seen);
  const last = fresh.at(-1);
  if (!last) return null;
  return (
    <div
      role="status"
      data-testid="reports"
      className="absolute right-[max(330px,36%)] bottom-0 left-0 z-10 flex items-center gap-3 border-t border-line bg-warning-wash px-4 py-1.5 text-[13px] text-warning"
    >
      <span
        className="min-w-0 flex-1 truncate"
        title={fresh.map((r) => `${r.from ?? r.cue}: ${r.text}`).join('\n')}
      >
        {last.from ?? `LX ${last.cue}`}: {last.text}
        {fresh.length > 1 ? ` (and ${fresh.length - 1} before)` : ''}
      </span>
      <button
        type="button"
        onClick={() => useRun.setState({ seenReport: last })}
        className="h-7 rounded-md px-2 text-soft hover:bg-raised"
      >
        Seen
      </button>
    </div>
  );
}
