/** The show's own name, venue and note; the names and times of its lists. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { ListRow, RowId, SettingsRow } from '../show/rows.ts';
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

const List = z.object({ id: RowId, set: ListRow.pick({ name: true, back_s: true }).partial() });
type List = z.infer<typeof List>;

export const changeList = defineEdit<List>({
  name: 'change-list',
  params: List,
  roles: EDITORS,
  plan: (show, p) => {
    const list = show.lists.get(p.id);
    if (!list) return refuse('not-found', 'This cue list has been deleted.');
    return { changes: [updateRow('lists', list, p.set)], summary: `Changed list “${p.set.name ?? list.name}”` };
  },
});
