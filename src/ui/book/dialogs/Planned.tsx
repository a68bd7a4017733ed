/** A dialog that plans its edit as it is filled in, and says what it will do to the cues and to what tracks. */
'use client';
import { useMemo, useState } from 'react';
import { consequences } from '@/core/cues/consequences';
import { willDo } from '@/core/edits/will';
import { formatCueNumber } from '@/core/cues/number';
import { Dialog } from '../../parts/controls';
import { edit, tryEdit } from '../../state/edits';
import { ApiError } from '../../state/api';
import { useBook } from '../../state/book';
import { useScreen } from '../../state/store';
import { useBookDialog } from '../menu';
import { Pictures } from '../record';
import { Foot } from '../../parts/Foot';

/** Closes the Book’s dialog. */
export const close = (): void => useBookDialog.setState({ dialog: null });

/** A dialog about an edit, which says what it would do before it is done. */
export function Planned({
  title,
  about,
  name,
  params,
  act,
  children,
  onDone,
  width,
  tall = false,
}: {
  title: string;
  about?: string;
  name: string;
  params: unknown;
  act: string;
  children?: React.ReactNode;
  onDone?: (ids: string[]) => void;
  width?: string;
  tall?: boolean;
}) {
  const revision = useScreen((s) => s.revision);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const key = JSON.stringify(params);
  const plan = useMemo(() => {
    void revision;
    return params === null ? undefined : tryEdit(name, JSON.parse(key));
  }, [name, key, params, revision]);
  const ok = plan && 'summary' in plan;
  // Cues beside the new ones that would look different: only where that was asked for.
  const others = useMemo(
    () =>
      plan && 'changes' in plan && LOOKS.has(name)
        ? consequences(useScreen.getState().show, plan.changes)
        : [],
    [plan, name],
  );
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && close()}
      title={title}
      tall={tall}
      {...(about === undefined ? {} : { about })}
      {...(width === undefined ? {} : { width })}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void (async () => {
            setBusy(true);
            const answer = await edit(name, JSON.parse(key));
            setBusy(false);
            if (answer instanceof ApiError) setProblem(answer.message);
            else {
              close();
              onDone?.(
                answer.changes.flatMap((c) =>
                  c.table === 'cues' && c.before === null && c.after ? [c.id] : [],
                ),
              );
            }
          })();
        }}
      >
        {children}
        <p
          className={`mt-3 min-h-9 text-[12.5px] leading-[18px] ${ok ? 'text-soft' : 'text-warning'}`}
          data-testid="planned"
          role="status"
        >
          {plan !== undefined && (ok ? willDo(plan.summary) : plan.message)}
          {problem && <span className="block text-danger">{problem}</span>}
          {others.length > 0 && (
            <span className="block text-warning">
              {others.length === 1
                ? `Cue ${formatCueNumber(others[0]?.number ?? 0)} looks different then:`
                : `${others.length} cues look different then:`}
            </span>
          )}
        </p>
        {others.length > 0 && <Pictures others={others} />}
        <Foot
          className="mt-2"
          onLeave={close}
          act={act}
          kind={act === 'Delete' ? 'danger' : 'strong'}
          disabled={busy || !ok}
        />
      </form>
    </Dialog>
  );
}
const LOOKS = new Set([
  'delete-cue',
  'move-cues',
  'copy-cues',
  'renumber-cues',
  'split-cue',
  'change-list',
]);

/** Looks at what was made. */
export const choose = (ids: string[]): void => {
  const [first] = ids;
  if (first) useBook.setState({ cueId: first, follow: false, chosen: ids });
};
