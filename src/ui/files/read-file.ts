/** Reading a person's file in a worker with limits of size and time: the screen goes on whatever the file is. */
import { refuse, type Refusal } from '@/core/refusal';
import { FILE_BYTES, type FILE_JOBS } from './file-jobs';
import type { FileAsked } from './file.worker';

/** Longest that a file is read, in ms; every reader takes time in line with its length, so only something broken meets it. */
const LONGEST_MS = 20_000;

type Answer<J extends keyof typeof FILE_JOBS> = Awaited<ReturnType<(typeof FILE_JOBS)[J]>>;

/** Reads `file` as what `job` says. A refusal says in a sentence why not, and nothing was taken in. */
export async function readFile<J extends keyof typeof FILE_JOBS>(
  job: J,
  file: File,
): Promise<Answer<J> | Refusal> {
  const most = FILE_BYTES[job];
  if (file.size > most)
    return refuse(
      'too-large',
      `“${file.name}” has ${(file.size / 1e6).toFixed(1)} MB; at most ${Math.floor(most / 1e6)} MB are read. Nothing was taken in.`,
    );
  let bytes: Uint8Array<ArrayBuffer>;
  try {
    bytes = new Uint8Array(await file.arrayBuffer());
  } catch {
    return refuse('invalid', `“${file.name}” cannot be read any more: choose it again.`);
  }
  const worker = new Worker(new URL('./file.worker.ts', import.meta.url), { type: 'module' });
  return new Promise<Answer<J> | Refusal>((resolve) => {
    const done = (answer: Answer<J> | Refusal): void => {
      clearTimeout(timer);
      worker.terminate();
      resolve(answer);
    };
    const timer = setTimeout(
      () =>
        done(
          refuse(
            'too-large',
            `“${file.name}” took longer than ${LONGEST_MS / 1000} s to read and was left. Nothing was taken in.`,
          ),
        ),
      LONGEST_MS,
    );
    worker.onmessage = ({ data }: MessageEvent<Answer<J>>) => done(data);
    worker.onerror = () =>
      done(
        refuse(
          'invalid',
          `“${file.name}” could not be read: it needs more memory than there is, or it is damaged. Nothing was taken in.`,
        ),
      );
    worker.postMessage({ job, name: file.name, bytes } satisfies FileAsked, [bytes.buffer]);
  });
}
