/** Two people wrote the same: both are shown, and one is chosen for each cell or field. Nothing is written before. */
'use client';
import { useState } from 'react';
import type { Unseen } from '@/core/refusal';
import { Button, Dialog } from '../parts/controls';
import { answerUnseen, useUnseen } from '../state/unseen';
import { Foot } from '../parts/Foot';

/** Asks whose work counts, where somebody else’s would be overwritten unseen. */
export function UnseenDialog() {
  const items = useUnseen((s) => s.items);
  return items.length > 0 ? <Choose key={items.map((i) => i.key).join()} items={items} /> : null;
}

type Side = 'mine' | 'theirs';
const CELL = 'rounded-md px-2 py-1 text-left text-[12.5px]';

function Choose({ items }: { items: readonly Unseen[] }) {
  const [sides, setSides] = useState<Record<string, Side>>({});
  const who = [...new Set(items.map((i) => i.who))].join(' and ');
  const all = (side: Side): void => setSides(Object.fromEntries(items.map((i) => [i.key, side])));
  const chosen = items.filter((i) => sides[i.key] !== undefined).length;
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && answerUnseen(null)}
      title={`${who} changed this meanwhile`}
      about="Nothing was written yet. Choose for each what it shall be."
      width="w-[720px]"
    >
      <div className="mb-2 flex items-center gap-2">
        <Button onClick={() => all('theirs')}>Leave all as it is now</Button>
        <Button onClick={() => all('mine')}>Write all of mine</Button>
        <span className="ml-auto text-[12.5px] text-muted">
          {chosen} of {items.length} chosen
        </span>
      </div>
      <ul className="max-h-[44vh] overflow-auto">
        {items.map((i) => (
          <li key={i.key} className="border-t border-line py-2">
            <div className="flex items-baseline gap-3">
              <span className="font-medium">{i.title}</span>
              <span className="text-[12px] text-muted">you saw: {i.seen}</span>
            </div>
            <div className="mt-1 grid grid-cols-2 gap-2">
              {(['theirs', 'mine'] as const).map((side) => (
                <button
                  key={side}
                  type="button"
                  aria-pressed={sides[i.key] === side}
                  onClick={() => setSides({ ...sides, [i.key]: side })}
                  className={`${CELL} ${sides[i.key] === side ? 'bg-standby-wash text-text shadow-[inset_0_0_0_1.5px_var(--color-standby)]' : 'bg-raised text-soft hover:bg-lift'}`}
                >
                  <span className="block text-[11.5px] text-muted">
                    {side === 'mine' ? 'Write mine' : `Leave ${i.who}’s`}
                  </span>
                  {side === 'mine' ? i.yours : i.now}
                </button>
              ))}
            </div>
          </li>
        ))}
      </ul>
      <Foot
        className="mt-4"
        leave="Write nothing"
        onLeave={() => answerUnseen(null)}
        act="Go on"
        disabled={chosen < items.length}
        onAct={() => answerUnseen(sides)}
      />
    </Dialog>
  );
}
