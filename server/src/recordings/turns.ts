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
