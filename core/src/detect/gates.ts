/** What a confirmation remembers: the last m answers, as a ring. */
export interface ConfirmMemory {
  ring: number[];
  at: number;
  count: number;
}

export const nothingConfirmed = (): ConfirmMemory => ({ ring: [], at: 0, count: 0 });

/** True once at least n of the last m readings said so. @throws {RangeError} unless 1 <= n <= m */
export function nOfM(n: number, m: number, memory = nothingConfirmed()): (yes: boolean) => boolean {
  if (!(Number.isInteger(n) && Number.isInteger(m) && n >= 1 && n <= m))
    throw new RangeError(`A confirmation needs n of m readings with 1 <= n <= m; received ${n} of ${m}.`);
  return (yes) => {
    memory.count += Number(yes) - (memory.ring[memory.at] ?? 0);
    memory.ring[memory.at] = Number(yes);
    memory.at = (memory.at + 1) % m;
    return memory.count >= n;
  };
}
