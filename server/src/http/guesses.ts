/** Wrong guesses from an address before it has to wait, and the longest wait. */
const FREE = 5;
const LONGEST_S = 60;
/** Addresses remembered. */
const MOST = 10_000;

interface Guesser {
  wrong: number;
  /** Until when it is not heard, by a clock that only runs forwards, ms. */
  heldUntil: number;
}

/** Slows down whoever guesses a passphrase: after a few wrong ones it is not heard for a while, which doubles each time. */
export class Guesses {
  private readonly by = new Map<string, Guesser>();
  private readonly now: () => number;
  private readonly say: (text: string) => void;

  constructor(now = () => performance.now(), say: (text: string) => void = console.warn) {
    this.now = now;
    this.say = say;
  }

  isHeld(address: string): boolean {
    return (this.by.get(address)?.heldUntil ?? 0) > this.now();
  }

  wrong(address: string): void {
    const guesser = this.by.get(address) ?? { wrong: 0, heldUntil: 0 };
    guesser.wrong++;
    const holdS = guesser.wrong < FREE ? 0 : Math.min(LONGEST_S, 2 ** (guesser.wrong - FREE));
    guesser.heldUntil = this.now() + 1000 * holdS;
    // The newest last, so that the oldest is forgotten first.
    this.by.delete(address);
    this.by.set(address, guesser);
    if (this.by.size > MOST) this.by.delete(this.by.keys().next().value!);
    if (holdS > 0)
      this.say(`${guesser.wrong} wrong passphrases from ${address}: ignoring this address for ${holdS} s.`);
  }

  right(address: string): void {
    this.by.delete(address);
  }
}
