/** So long an answer is waited for before its progress is told instead. */
const PATIENCE_MS = 250;
/** Without being asked for again for so long, work ends. */
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

  /** @param start the work; it tells its share now and then, which throws once nobody asks any more */
  async ask(key: string, start: (told: (share: number) => void) => Promise<T>): Promise<T | number> {
    let work = this.works.get(key);
    if (!work) {
      const started = { share: 0, askedAt: performance.now() };
      const done = start((share) => {
        started.share = share;
        if (performance.now() - started.askedAt > FORGOTTEN_MS) throw new Stopped();
      });
      work = Object.assign(started, { done });
      this.works.set(key, work);
      void done
        .catch(() => undefined)
        .finally(() => setTimeout(() => this.works.delete(key), KEPT_MS).unref());
    }
    work.askedAt = performance.now();
    const soon = await Promise.race([
      work.done.then((value) => ({ value })),
      new Promise<null>((later) => setTimeout(() => later(null), PATIENCE_MS).unref()),
    ]);
    return soon ? soon.value : Math.min(1, Math.max(0, work.share));
  }
}
