/** What goes between this process and one for files: several jobs one after the other, each with its file in pieces; one answer each. */

const LENGTH_BYTES = 4;

const lengthOf = (n: number): Buffer => {
  const length = Buffer.alloc(LENGTH_BYTES);
  length.writeUInt32LE(n);
  return length;
};

/** One piece of a job: its text first, then its file, then {@link END}. */
export const framed = (bytes: Uint8Array): Buffer[] => [
  lengthOf(bytes.length),
  Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength),
];

/** No piece is empty but the last. */
export const END = lengthOf(0);

/** Text and bytes as one answer: the lengths of both, the text, the bytes. */
export function packAnswer(text: string, bytes: Uint8Array): Buffer {
  const head = Buffer.from(text, 'utf8');
  return Buffer.concat([lengthOf(head.length), lengthOf(bytes.length), head, bytes]);
}

/** @returns undefined while the answer is not there whole */
export function unpackAnswer(
  parts: readonly Buffer[],
): { text: string; bytes: Buffer } | undefined {
  const known = parts.reduce((sum, p) => sum + p.length, 0);
  const head = Buffer.concat(parts.slice(0, 2 * LENGTH_BYTES), Math.min(known, 2 * LENGTH_BYTES));
  if (head.length < 2 * LENGTH_BYTES) return undefined;
  const text = 2 * LENGTH_BYTES + head.readUInt32LE(0);
  const whole = text + head.readUInt32LE(LENGTH_BYTES);
  if (known < whole) return undefined;
  const all = Buffer.concat(parts, whole);
  return { text: all.toString('utf8', 2 * LENGTH_BYTES, text), bytes: all.subarray(text) };
}

/** Jobs as they come by a stream. */
export class Jobs {
  private known: Buffer = Buffer.alloc(0);
  private readonly from: AsyncIterator<Buffer>;
  /** Bytes of the present piece that are still to come. */
  private left = 0;
  private hasMore = false;

  constructor(stream: AsyncIterable<Buffer>) {
    this.from = stream[Symbol.asyncIterator]();
  }

  /** @returns whether there is more; what comes is added to what is known */
  private async more(): Promise<boolean> {
    const next = await this.from.next();
    if (next.done === true) return false;
    this.known = this.known.length === 0 ? next.value : Buffer.concat([this.known, next.value]);
    return true;
  }

  /** @throws RangeError where the stream ends in the middle */
  private async length(): Promise<number> {
    while (this.known.length < LENGTH_BYTES)
      if (!(await this.more())) throw new RangeError('less than was said');
    const n = this.known.readUInt32LE(0);
    this.known = this.known.subarray(LENGTH_BYTES);
    return n;
  }

  /** @returns what is there of the present piece: pieces are not put together */
  private async part(): Promise<Buffer> {
    if (this.known.length === 0 && !(await this.more())) throw new RangeError('less than was said');
    const part = this.known.subarray(0, this.left);
    this.known = this.known.subarray(part.length);
    this.left -= part.length;
    return part;
  }

  private async *file(): AsyncGenerator<Buffer> {
    while (this.hasMore) {
      if (this.left > 0) yield await this.part();
      else {
        this.left = await this.length();
        this.hasMore = this.left > 0;
      }
    }
  }

  /**
   * The next job: its text, and its file. What was not read of the file before is passed over.
   * @returns undefined where no more come
   */
  async next(): Promise<{ text: string; file: AsyncGenerator<Buffer> } | undefined> {
    for await (const passed of this.file()) void passed;
    if (this.known.length === 0 && !(await this.more())) return undefined;
    const text: Buffer[] = [];
    this.left = await this.length();
    while (this.left > 0) text.push(await this.part());
    this.hasMore = true;
    return { text: Buffer.concat(text).toString('utf8'), file: this.file() };
  }
}
