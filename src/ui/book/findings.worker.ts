/** Looks through a list off the screen's thread. */
import { bookFindings, type BookFinding } from '@/core/cues/findings';
import { unpackShow, type PackedShow } from '@/core/formats/pack';

const scope = self as unknown as {
  onmessage: (event: MessageEvent<{ packed: PackedShow; listId: string }>) => void;
  postMessage: (message: BookFinding[]) => void;
};
scope.onmessage = ({ data }) =>
  scope.postMessage(bookFindings(unpackShow(data.packed), data.listId));
