/** Looks: recorded of what you hold, deleted. */
'use client';
import { useMemo, useState } from 'react';
import { DeleteUsed } from './DeleteUsed';
import { itemsFrom, lookUses } from '@/core/looks/edits';
import type { LookRow } from '@/core/looks/rows';
import { Button, Check, Dialog, Field } from '../../parts/controls';
import { edit } from '../../state/edits';
import { heldValues } from '../../state/recording';
import { useScreen, useShow } from '../../state/store';
import { linesOf } from './look-words';

/** Records what is held as a look. */
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

/** Deletes a look, and says what becomes of its uses. */
export function DeleteLook({ look, onClose }: { look: LookRow; onClose: () => void }) {
  const uses = lookUses(useShow(), look.id);
  return (
    <DeleteUsed
      of={look}
      kind="look"
      title={`Delete look ${look.number} “${look.name}”?`}
      uses={uses}
      none="Nothing uses it."
      keep="Delete, they keep what it says"
      onDelete={(how) => void edit('delete-look', { id: look.id, uses: how }).then(onClose)}
      onClose={onClose}
    />
  );
}
