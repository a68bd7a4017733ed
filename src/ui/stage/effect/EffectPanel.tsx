/** An effect while it is made or changed, on stage all the time: its name, what it runs on, its lanes, and the two ways out. */
'use client';
import { Pause, Play } from 'lucide-react';
import { useEffect } from 'react';
import { effectUses } from '@/core/effects/edits';
import { listed, plural } from '@/core/words';
import { Button, IconButton } from '../../parts/controls';
import { tryEdit } from '../../state/edits';
import { useScreen, useShow } from '../../state/store';
import {
  blindChanged,
  change,
  keepEffect,
  leaveEffect,
  play,
  setOff,
  type Trying,
} from '../../state/trying';
import { useChosen } from '../deck/chosen';
import { Lanes } from './Lanes';
import { StepLine } from './StepLine';

/** It plays on what is selected, live or blind, and again when the connection comes back. */
function usePlays(): void {
  const selection = useScreen((s) => s.selection);
  const blind = useScreen((s) => s.programmer.blind);
  const connection = useScreen((s) => s.connection);
  useEffect(() => play(), [selection, connection]);
  useEffect(() => blindChanged(blind), [blind]);
}

/** An effect that is made, tried on what is selected. */
export function EffectPanel({ trying }: { trying: Trying }) {
  const show = useShow();
  const chosen = useChosen();
  const blind = useScreen((s) => s.programmer.blind);
  usePlays();
  const { draft, of, id, number } = trying;
  const uses = of === null ? [] : effectUses(show, of);
  const plan = tryEdit('set-effect', {
    ...(of === null ? { as: id } : { id: of }),
    set: { ...draft, number },
  });
  const problem = 'message' in plan ? plan.message : undefined;
  const where = [
    `effect ${number}`,
    chosen.length > 0 ? `on ${plural(chosen.length, 'unit')}` : 'on nothing: select units',
    uses.length > 0 ? `in ${listed(uses, 3)}` : '',
    blind ? 'blind' : '',
  ].filter(Boolean);
  const keep = uses.length > 0 ? `Keep · ${plural(uses.length, 'use')} change` : 'Keep';
  return (
    <section aria-label="Effect" className="flex h-full flex-col border-t border-line bg-panel">
      <header className="flex h-11 flex-none items-center gap-2.5 border-b border-line px-4">
        <i title="Not kept yet" className="size-2 flex-none rounded-full bg-unrecorded" />
        <input
          aria-label="Name of the effect"
          value={draft.name}
          maxLength={120}
          onChange={(e) => change({ name: e.target.value })}
          style={{ width: `${Math.max(8, draft.name.length + 2)}ch` }}
          className="h-7 max-w-56 min-w-0 rounded bg-transparent px-1 text-[14px] font-semibold hover:bg-raised focus:bg-ink"
        />
        <span
          className={`min-w-0 flex-1 truncate text-[12px] ${problem ? 'text-warning' : 'text-muted'}`}
          role={problem ? 'alert' : undefined}
          title={problem ?? where.join(' · ')}
        >
          {problem ?? where.join(' · ')}
        </span>
        <IconButton
          label={trying.off ? 'Play it again' : 'Take it off the stage for a moment'}
          className="!size-8"
          onClick={() => setOff(!trying.off)}
        >
          {trying.off ? <Play size={14} /> : <Pause size={14} />}
        </IconButton>
        <Button kind="quiet" onClick={leaveEffect}>
          Leave it
        </Button>
        <Button
          kind="strong"
          disabled={problem !== undefined || (of !== null && !trying.changed)}
          onClick={() => void keepEffect()}
        >
          {keep}
        </Button>
      </header>
      <Lanes trying={trying} chosen={chosen} />
      <StepLine trying={trying} chosen={chosen} />
    </section>
  );
}
