/** The show's own name, venue and note. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { SettingsRow } from '../show/rows.ts';
import { defineEdit, EDITORS, updateRow } from './edit.ts';

const Params = z.object({ set: SettingsRow.omit({ id: true }).partial() });
type Params = z.infer<typeof Params>;

export const changeShow = defineEdit<Params>({
  name: 'change-show',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const settings = show.settings.get('show');
    if (!settings) return refuse('not-found', 'This show has no settings.');
    const summary = p.set.name !== undefined && p.set.name !== settings.name ? `Renamed the show “${p.set.name}” (was “${settings.name}”)` : 'Changed the show’s venue or note';
    return { changes: [updateRow('settings', settings, p.set)], summary };
  },
});
