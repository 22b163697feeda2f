// What is measured of the running program, and how it is told. --json prints one object a line.

interface Result {
  readonly name: string;
  readonly ours: number;
  readonly peer: number | null;
  readonly unit: string;
  /** Allowance, or the peer's time, over ours. */
  readonly ratio: number | null;
  readonly bar: number;
}

const json = process.argv.includes('--json');

export function tell(result: Result): void {
  if (json) return console.log(JSON.stringify(result));
  const beside = result.peer === null ? '' : `, ${result.peer.toPrecision(3)} ${result.unit} beside it`;
  const ratio =
    result.ratio === null
      ? '; nothing to compare with'
      : `, ratio ${result.ratio.toFixed(2)} (wanted ${result.bar})`;
  console.log(`${result.name}\n  ours ${result.ours.toPrecision(3)} ${result.unit}${beside}${ratio}`);
}

/** Calls the program and reads its JSON. */
export type Ask = <T>(path: string, method: string, body?: object) => Promise<T>;

export const askOf =
  (url: string): Ask =>
  async <T>(path: string, method: string, body?: object) => {
    const answer = await fetch(url + path, {
      method,
      headers: { 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    const told = await answer.text();
    if (!answer.ok) throw new Error(told);
    return (told ? JSON.parse(told) : null) as T;
  };

export async function seconds(action: () => Promise<unknown>): Promise<number> {
  const start = performance.now();
  await action();
  return (performance.now() - start) / 1000;
}

export function middle(values: readonly number[]): number {
  return values.toSorted((a, b) => a - b)[values.length >> 1]!;
}
