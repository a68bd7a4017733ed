/** Over a locked screen: what plays stays in sight, and nothing is taken until the PIN is given. */
'use client';
import { Dialog } from 'radix-ui';
import { useRef, useState } from 'react';
import { formatCueNumber } from '@/core/cues/number';
import { Button } from '../parts/controls';
import { api, signOut } from '../state/api';
import { useList, useScreen, useShow } from '../state/store';

/** What lies over a locked screen. */
export function LockScreen() {
  const locked = useScreen((s) => s.screenLocked);
  return locked ? <Locked /> : null;
}

function Locked() {
  const show = useShow();
  const list = useList();
  const you = useScreen((s) => s.you);
  const [pin, setPin] = useState('');
  const [problem, setProblem] = useState<string>();
  const field = useRef<HTMLInputElement>(null);
  const cue = list?.cueId ? show.cues.get(list.cueId) : undefined;
  const next = list?.nextId ? show.cues.get(list.nextId) : undefined;
  const open = (): void => {
    api('/api/me/lock', { method: 'POST', body: JSON.stringify({ pin }) }).then(
      () => useScreen.setState({ screenLocked: false }),
      (error: unknown) => {
        setProblem((error as Error).message);
        setPin('');
      },
    );
  };
  return (
    // Over whatever was open: it has the focus and keeps it, and nothing beneath can be reached (crew.test.ts).
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          data-testid="locked"
          onEscapeKeyDown={(e) => e.preventDefault()}
          onPointerDownOutside={(e) => e.preventDefault()}
          onInteractOutside={(e) => e.preventDefault()}
          onOpenAutoFocus={(e) => {
            e.preventDefault();
            field.current?.focus();
          }}
          className="fixed inset-0 z-[60] grid place-items-center bg-ink/95 focus:outline-none"
        >
          <Dialog.Title className="sr-only">This screen is locked</Dialog.Title>
          <form
            className="w-[380px] max-w-[92vw] text-center"
            onSubmit={(e) => {
              e.preventDefault();
              open();
            }}
          >
            <p className="cap">On stage</p>
            <p className="mt-1 text-[34px] leading-10 font-semibold text-lime-word">
              <span className="num">
                {list !== undefined && list.cueNumber !== null
                  ? formatCueNumber(list.cueNumber)
                  : '–'}
              </span>{' '}
              {cue?.name}
            </p>
            <p className="mt-1 text-standby">
              {next ? `next: ${formatCueNumber(next.number)} ${next.name}` : 'nothing is next'}
            </p>
            <label htmlFor="pin" className="mt-10 block text-soft">
              Locked by {you.name}. PIN
            </label>
            <input
              ref={field}
              id="pin"
              type="password"
              inputMode="numeric"
              autoComplete="off"
              value={pin}
              onChange={(e) => setPin(e.target.value)}
              aria-invalid={problem ? true : undefined}
              className="num mx-auto mt-2 block h-12 w-56 rounded-lg bg-panel text-center text-[22px] tracking-[0.4em] shadow-[inset_0_0_0_1.5px_var(--color-edge)] focus:shadow-[inset_0_0_0_2px_var(--color-standby)] focus:outline-none"
            />
            <p role="alert" className="mt-2 min-h-5 text-danger">
              {problem}
            </p>
            <div className="mt-2 flex justify-center gap-2">
              <Button kind="strong" type="submit" disabled={pin === ''} className="!h-11 !px-6">
                Open
              </Button>
              <Button kind="quiet" className="!h-11" onClick={signOut}>
                Sign out
              </Button>
            </div>
          </form>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
