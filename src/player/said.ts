/** What was said last of each thing, so that only what is new is said. */
export class Said {
  private readonly last = new Map<string, string>();

  /** @returns whether it is something else than before; from now on it is what was said */
  isNew(thing: string, value: unknown): boolean {
    const words = JSON.stringify(value);
    if (this.last.get(thing) === words) return false;
    this.last.set(thing, words);
    return true;
  }

  has(thing: string): boolean {
    return this.last.has(thing);
  }

  /** Of everything that is called so at its beginning. */
  forget(begins: string): void {
    for (const thing of this.last.keys()) if (thing.startsWith(begins)) this.last.delete(thing);
  }
}
