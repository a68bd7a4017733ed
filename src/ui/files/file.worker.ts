/** Reads one file of a person's, off the screen's thread. */
import { FILE_JOBS } from './file-jobs';

/** A file that is to be read. */
export interface FileAsked {
  job: keyof typeof FILE_JOBS;
  name: string;
  bytes: Uint8Array<ArrayBuffer>;
}

const scope = self as unknown as {
  onmessage: (event: MessageEvent<FileAsked>) => void;
  postMessage: (message: unknown) => void;
};
scope.onmessage = ({ data }) =>
  void Promise.resolve(FILE_JOBS[data.job](data.bytes, data.name)).then((answer) =>
    scope.postMessage(answer),
  );
