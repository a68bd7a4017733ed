import { notice } from '../../state/messages';
import { useScreen } from '../../state/store';
import { useSend } from '../use-load';

/** Takes back one change alone, or goes along one's own to before or after another; what was done is said. */
export function useUndo(): (what: { seq: number } | { to: number }) => void {
  const showId = useScreen((s) => s.showId);
  const send = useSend();
  return (what) =>
    void send<{ summary: string }>(`/api/shows/${showId}/undo`, 'POST', what).then(
      (r) => r && notice.done(r.summary),
    );
}
