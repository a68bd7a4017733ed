/** Said over everything while a state of long ago is looked at. */
'use client';
import { History } from 'lucide-react';
import { lookBack } from '../state/link';
import { useScreen } from '../state/store';

/** Says that an earlier state is looked at. */
export function PastBanner() {
  const past = useScreen((s) => s.past);
  if (!past) return null;
  return (
    <div
      role="status"
      data-testid="past"
      className="absolute inset-x-0 top-0 z-30 flex h-9 items-center gap-3 bg-warning px-4 text-[13px] text-ink"
    >
      <History size={15} />
      <span className="min-w-0 flex-1 truncate">
        You look at the show as it was: <b className="font-semibold">{past.name}</b>. Rows are of
        then, light is of now; nothing is edited from here.
      </span>
      <button
        type="button"
        onClick={() => void lookBack(null)}
        className="h-7 rounded-md bg-ink px-3 font-semibold text-text"
      >
        Back to now
      </button>
    </div>
  );
}
