import { useEffect, useState } from 'react';

export interface Asked<T> {
  /** The newest answer; the one before stays until the next has come. Null before the first, and without a question. */
  readonly answer: T | null;
  readonly error: string | null;
  /** How much of the answer is worked out; null when nothing is being asked. */
  readonly share: number | null;
  /** Whether it was given up before there was an answer. */
  readonly givenUp: boolean;
  /** Gives up what is being asked. */
  cancel(): void;
  /** Asks the same anew; the server goes on from where it was. */
  again(): void;
}

/**
 * Asks something of the server that may take its time, and asks anew when the question changes.
 * @param question plain data, compared by what it holds; null asks nothing
 */
export function useAsked<Q, T>(
  question: Q | null,
  ask: (question: Q, signal: AbortSignal, told: (share: number) => void) => Promise<T>,
): Asked<T> {
  const [state, setState] = useState<{ answer: T | null; error: string | null; share: number | null }>({
    answer: null,
    error: null,
    share: null,
  });
  const [abort, setAbort] = useState<AbortController | null>(null);
  const [round, setRound] = useState(0);
  const [givenUp, setGivenUp] = useState(false);
  const key = JSON.stringify(question);
  useEffect(() => {
    if (question === null) return setState({ answer: null, error: null, share: null });
    const controller = new AbortController();
    const { signal } = controller;
    setAbort(controller);
    setGivenUp(false);
    setState((old) => ({ ...old, error: null, share: 0 }));
    ask(question, signal, (share) => {
      if (!signal.aborted) setState((old) => ({ ...old, share }));
    }).then(
      (answer) => !signal.aborted && setState({ answer, error: null, share: null }),
      (error: Error) => !signal.aborted && setState((old) => ({ ...old, error: error.message, share: null })),
    );
    return () => controller.abort();
    // The key holds everything that is asked.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, round]);
  return {
    ...state,
    givenUp,
    cancel() {
      abort?.abort();
      setGivenUp(true);
      setState((old) => ({ ...old, share: null }));
    },
    again: () => setRound((before) => before + 1),
  };
}
