/** Deleting what others may use: who uses it is said, and what becomes of them is asked. */
'use client';
import { fadersWith } from '@/core/faders/holding';
import type { FaderRow } from '@/core/faders/rows';
import { capital, listed, plural } from '@/core/words';
import { useShow } from '../../state/store';
import { Button, Dialog } from '../../parts/controls';

/** More uses are counted. */
const NAMED = 10;

/** Why it cannot be deleted now, in a sentence: faders hold it. Null where none does. */
export function useOnFaders(kind: FaderRow['holds']['kind'], id: string): string | null {
  const faders = fadersWith(useShow(), kind, id);
  if (faders.length === 0) return null;
  const hold = faders.length === 1 ? 'holds' : 'hold';
  return `${capital(listed(faders, NAMED))} ${hold} it. Put something else there first.`;
}

/** What {@link useOnFaders} says, under the question. */
export const OnFaders = ({ why }: { why: string | null }) =>
  why !== null && <p className="mt-1 text-warning">{why}</p>;

/** Asks before something is deleted that others use. */
export function DeleteUsed({
  of,
  kind,
  title,
  uses,
  none,
  keep,
  onDelete,
  onClose,
}: {
  of: { id: string };
  kind: 'palette' | 'look';
  title: string;
  /** Who would look different without it. */
  uses: readonly { label: string }[];
  /** What is said where there are none. */
  none: string;
  /** What is written on the key by which they stay as they are. */
  keep: string;
  onDelete: (uses: 'keep' | 'remove') => void;
  onClose: () => void;
}) {
  const onFaders = useOnFaders(kind, of.id);
  const isUsed = uses.length > 0;
  const names = uses.map((u) => u.label);
  return (
    <Dialog
      of={`${kind}s/${of.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={title}
      width="w-[430px]"
    >
      {(isUsed || !onFaders) && (
        <p className="text-soft">
          {isUsed ? `${plural(uses.length, 'use')}: ${listed(names, NAMED)}.` : none}
        </p>
      )}
      <OnFaders why={onFaders} />
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          Leave it
        </Button>
        {isUsed && (
          <Button
            kind="danger"
            disabled={onFaders !== null}
            title="Those cues show what tracked before"
            onClick={() => onDelete('remove')}
          >
            Delete, and take it out of them
          </Button>
        )}
        <Button kind="danger" disabled={onFaders !== null} onClick={() => onDelete('keep')}>
          {isUsed ? keep : 'Delete'}
        </Button>
      </div>
    </Dialog>
  );
}
