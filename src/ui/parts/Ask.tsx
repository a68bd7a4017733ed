/** A question before something is lost. */
import type { ReactNode } from 'react';
import { Dialog } from './controls';
import { Foot } from './Foot';

/** Asks before something is lost, naming it. */
export function Ask({
  open,
  onClose,
  title,
  children,
  act,
  keep = 'Keep',
  kind = 'danger',
  disabled = false,
  onAct,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  act: string;
  keep?: string;
  kind?: 'danger' | 'strong';
  disabled?: boolean;
  onAct: () => void;
}) {
  return (
    <Dialog open={open} onOpenChange={(o) => !o && onClose()} title={title}>
      <div className="text-soft">{children}</div>
      <Foot
        className="mt-4"
        leave={keep}
        onLeave={onClose}
        act={act}
        kind={kind}
        disabled={disabled}
        onAct={() => {
          onClose();
          onAct();
        }}
      />
    </Dialog>
  );
}
