/**
 * Whether the other end of a connection has fallen silent. Counted in looks that were taken and not in time that went
 * by: a page or a process that did not run itself for a while has heard nobody, and finds what came meanwhile only
 * after its first look.
 */
export class Silence {
  private looks = 0;

  /** @param limit looks in a row between which nothing was heard until the other end counts as lost */
  constructor(private readonly limit: number) {}

  /** Something came from the other end. */
  heard(): void {
    this.looks = 0;
  }

  /** Taken at a steady pace. @returns whether the other end is lost */
  look(): boolean {
    this.looks++;
    return this.looks >= this.limit;
  }
}
