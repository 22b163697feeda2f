/** Senders that are remembered: whoever makes up names fills no memory. */
const MOST = 2000;

/** Counts requests by who sends them, so that one that floods does not use up what all have. */
export class Share {
  private readonly by = new Map<string, { readonly sinceMs: number; count: number }>();
  readonly limit: number;
  readonly windowMs: number;
  private readonly now: () => number;

  /** @param limit requests within a window @param now ms, by a clock that only runs forwards */
  constructor(limit: number, windowMs: number, now = () => performance.now()) {
    this.limit = limit;
    this.windowMs = windowMs;
    this.now = now;
  }

  /** Counts one more, and tells whether it is one too many. */
  isUsedUp(sender: string): boolean {
    const now = this.now();
    const counted = this.by.get(sender);
    if (counted && now - counted.sinceMs < this.windowMs) return ++counted.count > this.limit;
    // The newest last, so that the oldest is forgotten first.
    this.by.delete(sender);
    if (this.by.size >= MOST) this.by.delete(this.by.keys().next().value!);
    this.by.set(sender, { sinceMs: now, count: 1 });
    return false;
  }
}
