/** Light of somebody who is not here, or may not play any more: in every place, until somebody has decided. */
'use client';
import { useEffect, useState } from 'react';
import { create } from 'zustand';
import { plural } from '@/core/words';
import { LEFT_WORDS } from '@/core/live/left';
import type { LeftLight } from '@/core/live/messages';
import { useNow } from '../parts/use-now';
import { said } from '../state/commands';
import { usePlaying, useScreen } from '../state/store';

const BUTTON = 'h-8 flex-none rounded-md px-2.5 text-[12.5px]';

/** Light that stays is looked at again from the top bar. */
const useAgain = create<{ userId: string | null }>(() => ({ userId: null }));

/** Light that nobody holds any more, to be taken or released. */
export function LeftLights() {
  const left = useScreen((s) => s.playback.left);
  const may = usePlaying();
  const me = useScreen((s) => s.you.userId);
  const again = useAgain((s) => s.userId);
  if (!may) return null;
  return left
    .filter((l) => l.userId !== me && (!l.kept || l.userId === again))
    .map((l) => <One key={l.userId} left={l} />);
}

function One({ left }: { left: LeftLight }) {
  const [busy, setBusy] = useState(false);
  const decide = (what: 'take' | 'go' | 'leave'): void => {
    setBusy(true);
    useAgain.setState({ userId: null });
    void said({ command: 'left-light', of: left.userId, do: what, fade_s: 3 }).finally(() =>
      setBusy(false),
    );
  };
  return (
    <div
      role="alert"
      data-testid="left-light"
      data-left={left.userId}
      className="flex flex-none flex-wrap items-center gap-x-3 gap-y-1 border-b border-line bg-warning-wash px-4 py-1.5 text-[13px]"
    >
      <span className="min-w-0 flex-1 basis-[240px]">
        <b className="font-semibold text-warning">
          {left.name} {LEFT_WORDS[left.why]}
        </b>
        <span className="text-soft">
          {' '}
          and holds {plural(left.values, 'value')} of {plural(left.fixtures, 'unit')} on stage
          {left.goesIn_s !== null && <Counts goesIn_s={left.goesIn_s} />}
          {left.goesIn_s === null && (left.kept ? ': it stays until somebody says.' : '.')}
        </span>
      </span>
      <button
        type="button"
        disabled={busy}
        onClick={() => decide('take')}
        className={`${BUTTON} bg-text font-semibold text-ink`}
      >
        Take it over
      </button>
      <button
        type="button"
        disabled={busy}
        onClick={() => decide('go')}
        className={`${BUTTON} bg-raised hover:bg-lift`}
      >
        Let go in 3 s
      </button>
      <button
        type="button"
        disabled={busy}
        title="It stays as it is; the top bar shows it until somebody decides"
        onClick={() => decide('leave')}
        className={`${BUTTON} bg-raised hover:bg-lift`}
      >
        Leave it until I say
      </button>
    </div>
  );
}

/** Counts on between what the player says. */
function Counts({ goesIn_s }: { goesIn_s: number }) {
  const [until, setUntil] = useState(() => Date.now() + goesIn_s * 1000);
  useEffect(() => setUntil(Date.now() + goesIn_s * 1000), [goesIn_s]);
  useNow(500);
  return (
    <span className="num">
      : it goes in {Math.max(0, Math.ceil((until - Date.now()) / 1000))} s.
    </span>
  );
}

/** In the top bar: whose light stays although they are not here. */
export function LeftStanding() {
  const left = useScreen((s) => s.playback.left);
  const kept = left.filter((l) => l.kept);
  const [first] = kept;
  if (!first) return null;
  return (
    <button
      type="button"
      data-testid="left-standing"
      title="Decide about it: take it over, or let it go"
      onClick={() =>
        useAgain.setState(({ userId }) => ({ userId: userId === null ? first.userId : null }))
      }
      className="flex h-7 items-center rounded-md bg-warning px-2 text-[12px] whitespace-nowrap text-ink"
    >
      {kept.length === 1
        ? `Light of ${first.name.split(' ')[0]}`
        : `Light of ${kept.length} who left`}
    </button>
  );
}
