/** A new sheet: empty, or a useful one in one step. */
'use client';
import { z } from 'zod';
import { sheetFrom, TEMPLATES, type Template } from '@/core/sheets/templates';
import { Dialog } from '../parts/controls';
import { FormChoice, FormField, useSchemaForm } from '../parts/form';
import { edit } from '../state/edits';
import { openSheet, useSheets } from '../state/sheets';
import { useShow } from '../state/store';
import { Foot } from '../parts/Foot';

const OF: Record<Template, { label: string; name: string }> = {
  plan: { label: 'The plan, areas, looks and times', name: 'The house' },
  rig: { label: 'Every unit, bar by bar', name: 'The rig' },
  tiles: { label: 'Palettes, looks and effects', name: 'Palettes' },
  list: { label: 'The cues of a list', name: 'Cues' },
  faders: { label: 'The faders and their keys', name: 'Faders' },
  volunteer: { label: 'For a volunteer: eight buttons, two faders, large', name: 'The service' },
  empty: { label: 'Empty', name: 'New sheet' },
};

const Draft = z.object({
  template: z.enum(TEMPLATES),
  list: z.string(),
  name: z.string().trim().max(120, 'At most 120 characters.'),
});
const ABOUT_A_LIST = new Set<Template>(['list', 'volunteer']);

/** Makes a sheet, from nothing or of a kind. */
export function NewSheet({ onClose }: { onClose: () => void }) {
  const show = useShow();
  const lists = [...show.lists.values()].sort((a, b) => a.number - b.number);
  const form = useSchemaForm(Draft, { template: 'plan', list: lists[0]?.id ?? '', name: '' });
  const template = form.watch('template');
  const make = form.handleSubmit(async (d) => {
    const made = sheetFrom(show, d.template, d.name || OF[d.template].name, d.list);
    const answer = await edit('set-sheet', made);
    if (!('changes' in answer)) {
      form.setError('name', { message: answer.fields?.name ?? answer.message });
      return;
    }
    openSheet(answer.changes[0]?.id ?? null);
    useSheets.setState({ arranging: d.template === 'empty' });
    onClose();
  });
  return (
    <Dialog
      open
      onOpenChange={(o) => !o && onClose()}
      title="New sheet"
      about="What it has at first. All of it can be moved, changed and taken off."
      width="w-[420px]"
    >
      <form onSubmit={(e) => void make(e)} className="space-y-3">
        <FormChoice
          form={form}
          name="template"
          label="A sheet of"
          options={TEMPLATES.map((value) => ({ value, label: OF[value].label }))}
        />
        {ABOUT_A_LIST.has(template) && (
          <FormChoice
            form={form}
            name="list"
            label="List"
            options={lists.map((l) => ({ value: l.id, label: l.name }))}
          />
        )}
        <FormField
          form={form}
          name="name"
          label="Name"
          maxLength={120}
          placeholder={OF[template].name}
        />
        <Foot onLeave={onClose} act="Make it" />
      </form>
    </Dialog>
  );
}
