/** Sounds of a show. */
import { rowFor } from '../show/row-for.ts';
import { z } from 'zod';
import {
  defineEdit,
  deleteRow,
  insertRow,
  replaceRow,
  type Planned,
} from '../edits/define-edit.ts';
import { pointAtNothing } from '../lists/edits.ts';
import { isRefusal, refuse, type Refusal, type Result } from '../refusal.ts';
import { EDITORS } from '../roles.ts';
import { idOf } from '../show/fields.ts';
import type { Show } from '../show/show.ts';
import { SoundRow } from './rows.ts';

const MOST_SOUNDS = 48;
/** Characters of all sounds in rows together: every screen that opens the show loads them. */
const ALL_SMALL = 12_000_000;
const { name: SoundName, data: SoundData } = SoundRow.shape;

const noRoom = (show: Show): Refusal | undefined =>
  show.sounds.size >= MOST_SOUNDS
    ? refuse('limit', `A show keeps at most ${MOST_SOUNDS} sounds: delete one first.`)
    : undefined;

/** Keeps a short sound in a row. */
export const addSound = defineEdit({
  name: 'add-sound',
  params: z.object({ name: SoundName, data: SoundData.unwrap() }),
  roles: EDITORS,
  plan: (show, p, { newId }) => {
    const full = noRoom(show);
    if (full) return full;
    const all = [...show.sounds.values()].reduce(
      (sum, s) => sum + (s.data?.length ?? 0),
      p.data.length,
    );
    if (all > ALL_SMALL)
      return refuse(
        'limit',
        `The sounds that a show keeps in its rows have at most 9 MB together. Bring this one as a file; nothing was taken in.`,
      );
    return {
      changes: [insertRow('sounds', { id: newId(), ...p })],
      summary: `Added the sound “${p.name}”`,
    };
  },
});

/** A sound whose file has come and was measured: planned where it came in, since nobody else knows that it has. */
export function planSoundFile(
  show: Show,
  sound: Pick<SoundRow, 'name' | 'file'>,
  id: string,
): Result<Planned> {
  const row = SoundRow.safeParse({ id, ...sound });
  if (!row.success) return refuse('invalid', 'This sound cannot be kept. Nothing was taken in.');
  return (
    noRoom(show) ?? {
      changes: [insertRow('sounds', row.data)],
      summary: `Brought the sound “${sound.name}”`,
    }
  );
}

/** Renames a sound. */
export const changeSound = defineEdit({
  name: 'change-sound',
  params: z.object({ id: idOf('sounds'), name: SoundName }),
  roles: EDITORS,
  plan: (show, { id, name }) => {
    const sound = rowFor(show, 'sounds', id, 'already');
    if (isRefusal(sound)) return sound;
    return {
      changes: [replaceRow('sounds', sound, { ...sound, name })],
      summary: `Renamed the sound “${name}” (was “${sound.name}”)`,
    };
  },
});

/** Deletes a sound; refused while a list lies along it. */
export const deleteSound = defineEdit({
  name: 'delete-sound',
  params: z.object({ id: idOf('sounds') }),
  roles: EDITORS,
  plan: (show, { id }) => {
    const sound = rowFor(show, 'sounds', id, 'already');
    if (isRefusal(sound)) return sound;
    const along = [...show.lists.values()].find((l) => l.time?.sound?.sound === id);
    if (along)
      return refuse(
        'clash',
        `List “${along.name}” lies along this sound: take it off its track first. Nothing was changed.`,
      );
    return {
      changes: [deleteRow('sounds', sound)],
      summary: `Deleted the sound “${sound.name}”${pointAtNothing(show, id)}`,
    };
  },
});
