/** True once at least n of the last m readings said so. @throws {RangeError} unless 1 <= n <= m */
export function nOfM(n: number, m: number): (yes: boolean) => boolean {
  if (!(Number.isInteger(n) && Number.isInteger(m) && n >= 1 && n <= m))
    throw new RangeError(`A confirmation needs n of m readings with 1 <= n <= m; received ${n} of ${m}.`);
  const ring = new Uint8Array(m);
  let at = 0;
  let count = 0;
  return (yes) => {
    count += Number(yes) - ring[at]!;
    ring[at] = Number(yes);
    at = (at + 1) % m;
    return count >= n;
  };
}

/** Lets an event through unless it follows the last one let through within the dead time. */
export function deadTimeGate(deadTimeS: number): (timeS: number) => boolean {
  let last = Number.NEGATIVE_INFINITY;
  return (timeS) => {
    if (timeS - last < deadTimeS) return false;
    last = timeS;
    return true;
  };
}

export interface GateVerdict {
  readonly accepted: boolean;
  /** Why not; empty when accepted. */
  readonly reason: string;
}

/** Refuses a finish earlier than the fastest run that is possible: something else tripped the gate. */
export function minimumTimeGate(leastS: number): (startS: number, eventS: number) => GateVerdict {
  return (startS, eventS) => {
    const took = eventS - startS;
    return took >= leastS
      ? { accepted: true, reason: '' }
      : {
          accepted: false,
          reason: `Tripped after ${took.toFixed(2)} s; nothing can be there before ${leastS} s.`,
        };
  };
}
