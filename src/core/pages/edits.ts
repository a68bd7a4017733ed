/** Control pages: large buttons and a few faders for one purpose. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { PageRow, type PageAct } from './rows.ts';
import { idOf } from '../show/fields.ts';
import { HELD_TABLES } from '../faders/rows.ts';
import type { Show } from '../show/show.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';
import { counts } from '../words.ts';

const Params = z.object({
  id: idOf('pages').optional(),
  set: PageRow.omit({ id: true, number: true }),
});
type Params = z.infer<typeof Params>;

/** Why an act can do nothing: what it points at has been deleted. */
export function pointsAtNothing(show: Show, act: PageAct): string | undefined {
  if ((act.do === 'go' || act.do === 'release') && !show.lists.has(act.list))
    return 'its list has been deleted';
  if (act.do === 'cue' && !show.cues.has(act.cue)) return 'its cue has been deleted';
  if (act.do === 'fader' && !show.faders.has(act.fader)) return 'its fader has been deleted';
  if (act.do === 'play' && !show[HELD_TABLES[act.kind]].has(act.id))
    return `its ${act.kind} has been deleted`;
  return undefined;
}

export const setPage = defineEdit({
  name: 'set-page',
  params: Params,
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const { set } = p;
    const old = p.id === undefined ? undefined : show.pages.get(p.id);
    if (p.id !== undefined && !old)
      return refuse('not-found', 'This page has been deleted meanwhile. Nothing was changed.');
    const same = [...show.pages.values()].find(
      (x) => x.id !== old?.id && x.name.toLowerCase() === set.name.toLowerCase(),
    );
    if (same)
      return refuse('clash', `There is a page “${same.name}” already.`, {
        name: 'This name is taken.',
      });
    for (const button of set.buttons) {
      const gone = pointsAtNothing(show, button.act);
      if (gone)
        return refuse(
          'not-found',
          `Button “${button.label}” can do nothing: ${gone}. Nothing was changed.`,
        );
    }
    if (set.faders.some((id) => !show.faders.has(id)))
      return refuse(
        'not-found',
        'A fader of this page has been deleted meanwhile. Nothing was changed.',
      );
    const number = old?.number ?? Math.max(0, ...[...show.pages.values()].map((x) => x.number)) + 1;
    const row: PageRow = { ...set, id: old?.id ?? newId(), number };
    return {
      changes: [old ? replaceRow('pages', old, row) : insertRow('pages', row)],
      summary: `${old ? 'Changed' : 'Made'} page “${row.name}”: ${counts([row.buttons.length, 'button'], [row.faders.length, 'fader'])}`,
    };
  },
});

const Id = z.object({ id: idOf('pages') });
type Id = z.infer<typeof Id>;
export const deletePage = defineEdit({
  name: 'delete-page',
  params: Id,
  roles: EDITORS,
  plan: (show, { id }) => {
    const page = show.pages.get(id);
    return page
      ? { changes: [deleteRow('pages', page)], summary: `Deleted page “${page.name}”` }
      : refuse('not-found', 'This page has been deleted already.');
  },
});
