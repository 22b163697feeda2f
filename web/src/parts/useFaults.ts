import { useCallback, useState } from 'react';

/** Fields of a form in which something wrong is typed, by their labels: while there is one, nothing is kept. */
export function useFaults(): {
  readonly wrong: readonly string[];
  readonly tellFault: (field: string, isWrong: boolean) => void;
} {
  const [wrong, setWrong] = useState<readonly string[]>([]);
  const tellFault = useCallback(
    (field: string, isWrong: boolean) =>
      setWrong((now) =>
        now.includes(field) === isWrong ? now : isWrong ? [...now, field] : now.filter((f) => f !== field),
      ),
    [],
  );
  return { wrong, tellFault };
}
