/** Pieces as the body of an answer: the next is made when the one before is on its way. */
export const streamed = (pieces: AsyncGenerator<Uint8Array>): ReadableStream<Uint8Array> =>
  new ReadableStream<Uint8Array>({
    async pull(controller) {
      const next = await pieces.next();
      if (next.done === true) controller.close();
      else controller.enqueue(new Uint8Array(next.value));
    },
    async cancel() {
      await pieces.return(undefined);
    },
  });
