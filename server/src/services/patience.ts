/** So long an answer is waited for before its progress is told instead. */
const PATIENCE_MS = 250;
const FORGOTTEN_MS = 6000;
/** So long an answer is kept once it is there, for those who ask again. */
const KEPT_MS = 1000;

class Stopped extends Error {}

interface Work<T> {
  share: number;
  askedAt: number;
  readonly done: Promise<T>;
}

/**
 * Work that may take long: what is ready at once is told; of what takes longer the progress, and it ends when nobody asks for
 * it any more.
 */
export class Patience<T> {
  private readonly works = new Map<string, Work<T>>();
  private readonly forgottenMs: number;

  /** @param forgottenMs without being asked for again for so long, work ends */
  constructor(forgottenMs = FORGOTTEN_MS) {
    this.forgottenMs = forgottenMs;
  }

  /** @param start the work; it tells its share now and then, which throws once nobody asks any more */
  async ask(key: string, start: (told: (share: number) => void) => Promise<T>): Promise<T | number> {
    let work = this.works.get(key);
    if (!work) {
      const started = { share: 0, askedAt: performance.now() };
      const done = start((share) => {
        started.share = share;
        if (performance.now() - started.askedAt > this.forgottenMs) throw new Stopped();
      });
      work = Object.assign(started, { done });
      this.works.set(key, work);
      void done
        .catch(() => undefined)
        .finally(() => setTimeout(() => this.forget(key, work!), KEPT_MS).unref());
    }
    work.askedAt = performance.now();
    try {
      const soon = await Promise.race([
        work.done.then((value) => ({ value })),
        new Promise<null>((later) => setTimeout(() => later(null), PATIENCE_MS).unref()),
      ]);
      return soon ? soon.value : Math.min(1, Math.max(0, work.share));
    } catch (error) {
      if (!(error instanceof Stopped)) throw error;
      // It was ending when it was asked for again: who asks once more finds it begun anew.
      this.forget(key, work);
      return 0;
    }
  }

  private forget(key: string, work: Work<T>): void {
    if (this.works.get(key) === work) this.works.delete(key);
  }
}
