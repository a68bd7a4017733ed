/** A designer's word on a cue: looked at and liked. */
import { rowFor } from '../show/row-for.ts';
import { z } from 'zod';
import { formatCueNumber } from '../cues/number.ts';
import { isRefusal, refuse } from '../refusal.ts';
import { RowId } from '../show/fields.ts';
import type { LikeRow } from './rows.ts';
import { defineEdit, deleteRow, insertRow, replaceRow } from '../edits/define-edit.ts';
import { LOOKERS } from '../roles.ts';

const Like = z.object({ cueId: RowId, on: z.boolean() });
type Like = z.infer<typeof Like>;
export const likeCue = defineEdit({
  name: 'like-cue',
  params: Like,
  roles: LOOKERS,
  plan: (show, { cueId, on }, { newId, by }) => {
    const cue = rowFor(show, 'cues', cueId);
    if (isRefusal(cue)) return cue;
    const old = [...show.likes.values()].find(
      (l) => l.cueId === cueId && l.by.userId === by.userId,
    );
    const what = `cue ${formatCueNumber(cue.number)}`;
    if (!on)
      return old
        ? { changes: [deleteRow('likes', old)], summary: `Took back the word on ${what}` }
        : refuse('nothing', `You have not said that you like ${what}.`);
    if (old && !old.lost) return refuse('nothing', `You have said that you like ${what} already.`);
    const row: LikeRow = {
      id: old?.id ?? newId(),
      cueId,
      by: { userId: by.userId, name: by.name, at: by.at },
    };
    return {
      changes: [old ? replaceRow('likes', old, row) : insertRow('likes', row)],
      summary: `Looked at ${what} and likes it`,
    };
  },
});
