import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { logged, pieces, stop } from '@/app/server/handle';
import { isRefusal } from '@/core/refusal';
import { LIMITS } from '@/core/show/fields';
import { planSoundFile } from '@/core/sounds/edits';
import { SOUND_BYTES, type SoundFile } from '@/core/sounds/rows';
import { dropSound, linkSounds, receiveSound, roomFor, type Arrived } from '@/store/sounds/kept';

export const dynamic = 'force-dynamic';

const Query = z.object({
  name: z.string().trim().min(1, 'Say what it is called.').max(LIMITS.nameLength),
});

const measured = async (arrived: Arrived): Promise<{ about: SoundFile; problem?: string }> => {
  const done = await server().sounds.do({ do: 'measure-sound', arrived });
  if (!isRefusal(done)) return JSON.parse(done.answer) as { about: SoundFile; problem?: string };
  await dropSound(server().db, arrived.id);
  return stop(done);
};

/** A sound file as a sound of the show: the file is the body. It is measured, then kept, all or nothing. */
export const POST = showRoute(
  {
    says: 'Brings a sound file (WAV, MP3, Ogg, FLAC or M4A, up to 500 MB and three hours) and makes a sound of it; it is measured first.',
    answers: 'seq, sound, file, problem',
    may: 'program',
    query: Query,
    takesFile: true,
  },
  async ({ id, who, query: { name }, request }) => {
    const { db, store } = server();
    const room = await roomFor(db, id, Number(request.headers.get('content-length') ?? 0));
    if (isRefusal(room)) return room;
    const arrived = await receiveSound(db, pieces(request, SOUND_BYTES));
    if (isRefusal(arrived)) return arrived;
    const { about, problem } = await measured(arrived);
    const editId = randomUUID().slice(0, 18);
    const sound = `${editId}-0`;
    const done = await store.apply(
      id,
      { userId: who.userId, name: who.name },
      editId,
      'bring-sound',
      (show) => Promise.resolve(planSoundFile(show, { name, file: about }, sound)),
      { also: (trx) => linkSounds(trx, id, [about.sha256]) },
    );
    if (isRefusal(done)) return await logged(id, who, done);
    return { seq: done.seq, sound, file: about, ...(problem === undefined ? {} : { problem }) };
  },
);
