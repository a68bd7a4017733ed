/** How much of something one person may ask for: so many at once, so many a second after that. */
export class Allowance {
  private left: number;
  private at_ms: number;

  constructor(
    private readonly burst: number,
    private readonly perSecond: number,
    now_ms: number,
  ) {
    this.left = burst;
    this.at_ms = now_ms;
  }

  take(now_ms: number): boolean {
    this.left = Math.min(this.burst, this.left + ((now_ms - this.at_ms) / 1000) * this.perSecond);
    this.at_ms = now_ms;
    if (this.left < 1) return false;
    this.left--;
    return true;
  }
}

/** The same allowance for each of many, by a key. */
export class Allowances {
  private readonly byKey = new Map<string, Allowance>();

  constructor(
    private readonly burst: number,
    private readonly perSecond: number,
  ) {}

  take(key: string, now_ms: number): boolean {
    let own = this.byKey.get(key);
    if (!own) this.byKey.set(key, (own = new Allowance(this.burst, this.perSecond, now_ms)));
    return own.take(now_ms);
  }
}
