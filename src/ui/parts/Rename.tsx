/** Asks for a name. */
'use client';
import { useState } from 'react';
import { Button, Dialog, Field } from './controls';

export function Rename({
  title,
  of,
  name,
  empty = false,
  onSave,
  onClose,
}: {
  title: string;
  of?: string;
  name: string;
  /** It may have none. */ empty?: boolean;
  onSave: (name: string) => void;
  onClose: () => void;
}) {
  const [text, setText] = useState(name);
  return (
    <Dialog of={of} open onOpenChange={(o) => !o && onClose()} title={title} width="w-[360px]">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (empty || text.trim()) onSave(text.trim());
          onClose();
        }}
      >
        <Field
          label="Name"
          autoFocus
          value={text}
          maxLength={120}
          onChange={(e) => setText(e.target.value)}
        />
        <div className="mt-4 flex justify-end">
          <Button kind="strong" type="submit" disabled={!empty && !text.trim()}>
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
