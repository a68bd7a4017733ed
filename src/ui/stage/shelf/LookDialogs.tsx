/** Looks: recorded of what you hold, deleted. */
'use client';
import { useMemo, useState } from 'react';
import { plural } from '@/core/words';
import { itemsFrom, lookUses } from '@/core/looks/edits';
import type { LookRow } from '@/core/looks/rows';
import { Button, Check, Dialog, Field } from '../../parts/controls';
import { edit, heldValues } from '../../state/actions';
import { useScreen, useShow } from '../../state/store';
import { linesOf } from './look-words';

export function RecordLook({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const values = useScreen((s) => s.values);
  const [name, setName] = useState('');
  const [fader, setFader] = useState(false);
  const parts = useMemo(() => {
    void values;
    return linesOf(show, itemsFrom(show, heldValues()));
  }, [show, values]);
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="Record a look"
      about="Made of what you hold; palettes, effects and looks in it stay what they are."
      width="w-[430px]"
    >
      {parts.length === 0 ? (
        <p className="text-soft">You hold nothing yet. Make a picture, then record it as a look.</p>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            void edit('record-look', {
              values: heldValues(),
              fader,
              ...(name.trim() ? { name: name.trim() } : {}),
            }).then((a) => 'seq' in a && onClose());
          }}
        >
          <Field
            label="Name"
            autoFocus
            value={name}
            maxLength={120}
            onChange={(e) => setName(e.target.value)}
          />
          <ul className="mt-3 max-h-48 overflow-y-auto text-[12.5px] text-soft">
            {parts.map((p) => (
              <li key={p.text} className="truncate leading-6">
                {p.text}
              </li>
            ))}
          </ul>
          <div className="mt-4 flex items-center justify-between">
            <Check checked={fader} onChange={setFader}>
              Under the first free fader
            </Check>
            <Button kind="strong" type="submit">
              Record look
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

export function DeleteLook({ look, onClose }: { look: LookRow; onClose: () => void }) {
  const show = useShow();
  const uses = lookUses(show, look.id);
  const remove = (how: 'keep' | 'remove'): void =>
    void edit('delete-look', { id: look.id, uses: how }).then(onClose);
  return (
    <Dialog
      of={`looks/${look.id}`}
      open
      onOpenChange={(o) => !o && onClose()}
      title={`Delete look ${look.number} “${look.name}”?`}
      width="w-[430px]"
    >
      <p className="text-soft">
        {uses.length === 0
          ? 'Nothing uses it.'
          : `${plural(uses.length, 'use')}: ${uses
              .slice(0, 10)
              .map((u) => u.label)
              .join(', ')}${uses.length > 10 ? ' …' : ''}.`}
      </p>
      <div className="mt-4 flex flex-wrap justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          Leave it
        </Button>
        {uses.length > 0 && (
          <Button kind="danger" onClick={() => remove('remove')}>
            Delete, and take it out of them
          </Button>
        )}
        <Button kind="danger" onClick={() => remove('keep')}>
          {uses.length > 0 ? 'Delete, they keep what it says' : 'Delete'}
        </Button>
      </div>
    </Dialog>
  );
}
