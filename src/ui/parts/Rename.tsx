/** Asks for a name. */
'use client';
import { useMemo } from 'react';
import { z } from 'zod';
import { LIMITS } from '@/core/show/fields';
import { Button, Dialog } from './controls';
import { FormField, useSchemaForm } from './form';

/** Asks for another name. */
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
  /** The dialog stays until it is written: what is refused is not typed twice. */
  onSave: (name: string) => Promise<object>;
  onClose: () => void;
}) {
  const schema = useMemo(
    () =>
      z.object({
        name: z
          .string()
          .trim()
          .min(empty ? 0 : 1, 'It needs a name.'),
      }),
    [empty],
  );
  const form = useSchemaForm(schema, { name });
  const save = form.handleSubmit(async (said) => {
    if ('seq' in (await onSave(said.name))) onClose();
  });
  return (
    <Dialog of={of} open onOpenChange={(o) => !o && onClose()} title={title} width="w-[360px]">
      <form onSubmit={(e) => void save(e)}>
        <FormField form={form} name="name" label="Name" autoFocus maxLength={LIMITS.nameLength} />
        <div className="mt-4 flex justify-end">
          <Button kind="strong" type="submit">
            Save
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
