/** What goes by itself: by the time of day, on weekdays and dates, with the sun; what comes next, and skipping it once. */
'use client';
import { Pencil, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { fullDay, hourMinute, shortDay } from '@/core/dates';
import { coming } from '@/core/occasions/next';
import type { OccasionRow } from '@/core/occasions/rows';
import { sayWhen } from '@/core/occasions/words';
import { rowsByNumber } from '@/core/show/numbered';
import { Button, Check, Dialog, IconButton } from '../../../parts/controls';
import { edit } from '../../../state/edits';
import { mayEdit, useScreen, useShow } from '../../../state/store';
import { useHouseNow } from '../../../state/house-clock';
import { HousePlace } from './HousePlace';
import { OccasionForm } from './OccasionForm';
import { sayDoes } from './words';

const NEXT = 8;
/** What has come is no longer next. */
const LOOK_MS = 1000;
/** It stands there so long, without a button: the one after it does not move under a hand that was for it. */
const STAYS_MS = 10_000;

/** What comes next, with a way to leave it out once. */
function Coming() {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  const place = show.settings.get('show')?.place;
  const now = useHouseNow(LOOK_MS);
  const next = coming(show.occasions.values(), new Date(now - STAYS_MS), place, NEXT);
  if (next.length === 0) return <p className="text-[12.5px] text-muted">Nothing goes by itself.</p>;
  return (
    <ul aria-label="What comes next">
      {next.map(({ occasion, at, day, isSkipped }) => (
        <li
          key={`${occasion.id}/${day}`}
          className="flex h-9 items-center gap-3 border-b border-raised text-[13px]"
        >
          <span className="num w-32 flex-none">
            {shortDay(at)}, {hourMinute(at)}
          </span>
          <span className={`min-w-0 flex-1 truncate ${isSkipped ? 'text-dim line-through' : ''}`}>
            {occasion.name}: {sayDoes(show, occasion)}
          </span>
          {at.getTime() <= now ? (
            <span className="px-3 text-muted">{isSkipped ? 'left out' : 'has come'}</span>
          ) : (
            <Button
              disabled={!may}
              onClick={() => void edit('skip-occasion', { id: occasion.id, day, skip: !isSkipped })}
            >
              {isSkipped ? 'Do it after all' : 'Skip it once'}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}

/** An occasion: switched off and on, changed, deleted. */
function OccasionLine({
  o,
  may,
  onChange,
}: {
  o: OccasionRow;
  may: boolean;
  onChange: () => void;
}) {
  const show = useShow();
  const says = `${sayDoes(show, o)}, ${sayWhen(o)}`;
  const { id, number, skipped, ...set } = o;
  void [number, skipped];
  return (
    <div className="flex h-9 items-center gap-3 text-[13px]" data-occasion={o.name}>
      <Check
        checked={o.on}
        disabled={!may}
        onChange={(on) => void edit('set-occasion', { id, set: { ...set, on } })}
      >
        {o.name}
      </Check>
      <span className="min-w-0 flex-1 truncate text-muted" title={says}>
        {says}
      </span>
      <IconButton label={`Change ${o.name}`} disabled={!may} onClick={onChange}>
        <Pencil size={14} />
      </IconButton>
      <IconButton
        label={`Delete ${o.name}`}
        disabled={!may}
        onClick={() => void edit('delete-occasion', { id })}
      >
        <Trash2 size={14} />
      </IconButton>
    </div>
  );
}

/** What plays by the calendar. */
export function CalendarDialog({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const may = mayEdit(useScreen((s) => s.you.role));
  /** Which one is written: an id, or a new one. */
  const [writing, setWriting] = useState<string | null>(null);
  const now = useHouseNow(LOOK_MS);
  const done = (): void => setWriting(null);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Calendar"
      about={`What goes by itself while this show is on air, in the time of the player’s machine. Today is ${fullDay(now)}.`}
      width="w-[600px]"
    >
      <div className="max-h-[64vh] space-y-4 overflow-y-auto">
        <Coming />
        <section aria-label="Occasions">
          {rowsByNumber(show.occasions).map((o) =>
            writing === o.id ? (
              <OccasionForm key={o.id} occasion={o} onDone={done} />
            ) : (
              <OccasionLine key={o.id} o={o} may={may} onChange={() => setWriting(o.id)} />
            ),
          )}
        </section>
        {writing === 'new' ? (
          <OccasionForm occasion={null} onDone={done} />
        ) : (
          <Button disabled={!may} onClick={() => setWriting('new')}>
            <Plus size={14} /> Another occasion
          </Button>
        )}
        <HousePlace />
      </div>
    </Dialog>
  );
}
