/** What goes to a process for files and comes back: whole, however it is cut on its way. */
import fc from 'fast-check';
import { END, framed, Jobs, packAnswer, unpackAnswer } from './file-frames.ts';

/** The same bytes, in other pieces. */
function* cut(all: Buffer, sizes: readonly number[]): Generator<Buffer> {
  for (let at = 0, i = 0; at < all.length; i++) {
    const size = sizes[i % sizes.length] ?? 1;
    yield all.subarray(at, at + size);
    at += size;
  }
}
const sizes = fc.array(fc.integer({ min: 1, max: 40 }), { minLength: 1, maxLength: 5 });

test('jobs come one after the other with their files, read whole, in part or not at all', async () => {
  const job = fc.record({
    text: fc.string({ minLength: 1, unit: 'grapheme' }),
    file: fc.array(fc.uint8Array({ minLength: 1, maxLength: 60 }), { maxLength: 4 }),
    reads: fc.constantFrom('all', 'some', 'none'),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(job, { maxLength: 5 }), sizes, async (all, cuts) => {
      const sent = Buffer.concat(
        all.flatMap((j) => [
          ...framed(Buffer.from(j.text, 'utf8')),
          ...j.file.flatMap((piece) => framed(piece)),
          END,
        ]),
      );
      const jobs = new Jobs(
        (async function* () {
          await Promise.resolve();
          yield* cut(sent, cuts);
        })(),
      );
      for (const j of all) {
        const got = await jobs.next();
        expect(got?.text).toBe(j.text);
        const parts: Buffer[] = [];
        if (j.reads !== 'none')
          for await (const part of got?.file ?? []) {
            parts.push(part);
            if (j.reads === 'some') break;
          }
        const whole = Buffer.concat(j.file);
        const read = Buffer.concat(parts);
        expect(whole.subarray(0, read.length).equals(read)).toBe(true);
        if (j.reads === 'all') expect(read.length).toBe(whole.length);
      }
      expect(await jobs.next()).toBeUndefined();
    }),
  );
});

test('a stream that ends in the middle of a job says so', async () => {
  const jobs = new Jobs(
    (async function* () {
      await Promise.resolve();
      yield Buffer.concat(
        [...framed(Buffer.from('{}')), ...framed(Buffer.from('abc'))].slice(0, 3),
      );
    })(),
  );
  const got = await jobs.next();
  await expect(got?.file.next()).rejects.toThrow(RangeError);
});

test('an answer is there when all of it is, not before', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), fc.uint8Array(), sizes, (text, bytes, cuts) => {
      const parts: Buffer[] = [];
      const all = [...cut(packAnswer(text, bytes), cuts)];
      for (const [i, part] of all.entries()) {
        expect(unpackAnswer(parts)).toBeUndefined();
        parts.push(part);
        if (i < all.length - 1) continue;
        const got = unpackAnswer(parts);
        expect(got?.text).toBe(text);
        expect(got?.bytes.equals(Buffer.from(bytes))).toBe(true);
      }
    }),
  );
});
