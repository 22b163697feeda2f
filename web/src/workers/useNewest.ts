import { useEffect, useRef, useState } from 'react';

/**
 * Works on the newest input aside, one piece at a time: what comes while it is busy waits, and only the newest of that is
 * taken. Null while there is no input or no result yet.
 */
export function useNewest<I, O>(input: I | null, work: (input: I) => Promise<O>): O | null {
  const [done, setDone] = useState<{ readonly output: O } | null>(null);
  const newest = useRef(input);
  const busy = useRef(false);
  newest.current = input;
  useEffect(() => {
    if (input === null || busy.current) return;
    busy.current = true;
    void (async () => {
      for (let taken: I | null = input, last: I | null = null; taken !== null && taken !== last;) {
        const output: O = await work(taken);
        if (newest.current !== null) setDone({ output });
        last = taken;
        taken = newest.current;
      }
      busy.current = false;
    })();
  }, [input, work]);
  useEffect(() => {
    if (input === null) setDone(null);
  }, [input]);
  return input === null ? null : (done?.output ?? null);
}
