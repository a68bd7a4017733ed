import { server } from '@/app/server/context';
import { showRoute } from '@/app/server/define-route';
import { stop } from '@/app/server/handle';
import { rangeOf } from '@/app/server/range';
import { streamed } from '@/app/server/streamed';
import { refuse } from '@/core/refusal';
import { SOUND_TYPES } from '@/core/sounds/kinds';
import { PIECE_BYTES, soundOfShow, type SoundReader } from '@/store/sounds/kept';

export const dynamic = 'force-dynamic';

async function* partsOf(
  { read }: SoundReader,
  from: number,
  to: number,
): AsyncGenerator<Uint8Array> {
  for (let at = from; at < to;) {
    // To the end of its piece: what is read is one row of the database.
    const part = await read(at, Math.min(to, at + PIECE_BYTES - (at % PIECE_BYTES)));
    at += part.length;
    yield part;
  }
}

/** The file of a sound of this show, whole or in part (`Range`, RFC 9110, 14.2). It never changes: its name is what is in it. */
export const GET = showRoute<undefined, undefined, { id: string; sum: string }>(
  {
    says: 'The file of a sound of this show, by its SHA-256, whole or a range of it.',
    answers: 'a file',
    may: 'see the show',
  },
  async ({ id, params: { sum }, request }) => {
    const found =
      (await soundOfShow(server().db, id, sum)) ??
      stop(refuse('not-found', 'This show has no such sound.'));
    const { size } = found.reader;
    const range = rangeOf(request.headers.get('range'), size);
    if (range === null)
      return new Response(null, { status: 416, headers: { 'content-range': `bytes */${size}` } });
    const { from, to } = range ?? { from: 0, to: size };
    return new Response(streamed(partsOf(found.reader, from, to)), {
      status: range ? 206 : 200,
      headers: {
        'content-type': SOUND_TYPES[found.about.kind],
        'content-length': String(to - from),
        'accept-ranges': 'bytes',
        ...(range ? { 'content-range': `bytes ${from}-${to - 1}/${size}` } : {}),
        etag: `"${sum}"`,
        'cache-control': 'private, max-age=31536000, immutable',
      },
    });
  },
);
