/** Work at once, until everything else has its turn: links, pages, and those who ask how far it is. */
const AT_ONCE_MS = 8;

/**
 * The database answers at once, so that a long walk through it lets nothing else have its turn unless it is given one.
 * @returns to be awaited now and then; waits only when it is time
 */
export function turns(): () => Promise<void> | void {
  let since = performance.now();
  return () => {
    if (performance.now() - since < AT_ONCE_MS) return;
    return new Promise((done) =>
      setImmediate(() => {
        since = performance.now();
        done();
      }),
    );
  };
}

/** Work that a page waits for with an empty plot, and what stands aside for it. */
let ahead = 0;
let aside: (() => void)[] = [];

/** Work before which counts and trials of whole runs stand aside until it is done. */
export async function goAhead<T>(work: () => Promise<T>): Promise<T> {
  ahead++;
  try {
    return await work();
  } finally {
    if (--ahead === 0) {
      const waiting = aside;
      aside = [];
      for (const goOn of waiting) goOn();
    }
  }
}

/** To be awaited now and then by long work that a plot must not wait for. */
export function standAside(): Promise<void> | void {
  if (ahead > 0) return new Promise((goOn) => aside.push(goOn));
}
