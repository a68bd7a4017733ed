/** While nothing is being kept, every frame says so, and why: what is done now may be lost with the machine. */
'use client';
import { useScreen } from '../state/store';

/** Says that what plays cannot be saved just now. */
export function NotKept() {
  const notKept = useScreen((s) => (s.connection === 'live' ? s.notKept : null));
  if (notKept === null) return null;
  return (
    <p
      role="alert"
      data-testid="not-kept"
      className="flex-none border-b border-line bg-danger-wash px-4 py-1.5 text-[13px] text-danger"
    >
      {notKept}
    </p>
  );
}
