/** The end of a form or a dialog: its way out, and what it does. */
import type { ReactNode } from 'react';
import { Button } from './controls';

/** @param onAct absent: the form that it stands in is submitted */
export function Foot({
  act,
  onAct,
  kind = 'strong',
  disabled = false,
  leave = 'Not now',
  onLeave,
  className = '',
}: {
  act: ReactNode;
  onAct?: () => void;
  kind?: 'strong' | 'danger';
  disabled?: boolean;
  leave?: string;
  onLeave: () => void;
  className?: string;
}) {
  return (
    <div className={`flex justify-end gap-2 ${className}`}>
      <Button kind="quiet" onClick={onLeave}>
        {leave}
      </Button>
      <Button
        kind={kind}
        disabled={disabled}
        {...(onAct ? { onClick: onAct } : { type: 'submit' as const })}
      >
        {act}
      </Button>
    </div>
  );
}
