import { whole } from '../stage/params.ts';

/** Parameters of a confirmation, for the forms of detectors. */
export const CONFIRMED_BY = {
  n: whole('Readings required', { min: 1, max: 1000 }),
  m: whole('Out of the latest', { min: 1, max: 1000 }),
};

/** How many readings are wanted of how many. */
export interface NOfM {
  readonly n: number;
  readonly m: number;
}

/** @throws {RangeError} unless 1 <= n <= m */
export function checkConfirmation({ n, m }: NOfM): void {
  if (!(Number.isInteger(n) && Number.isInteger(m) && n >= 1 && n <= m))
    throw new RangeError(
      `Enter a number of required readings from 1 to the number of latest readings; received ${n} of ${m}.`,
    );
}

/** What a confirmation remembers: how many of the readings so far said so, and how many did not. */
export interface ConfirmMemory {
  yes: number;
  no: number;
}

export const nothingConfirmed = (): ConfirmMemory => ({ yes: 0, no: 0 });

/**
 * The next of at most m readings: "yes" with the one that makes n of them say so, "no" with the one after which n of m
 * cannot come about any more, "open" in between. The count stands at nothing again after a yes or a no.
 */
export function confirm({ n, m }: NOfM, memory: ConfirmMemory, saysSo: boolean): 'yes' | 'no' | 'open' {
  if (saysSo) memory.yes++;
  else memory.no++;
  const answer = memory.yes >= n ? 'yes' : memory.no > m - n ? 'no' : 'open';
  if (answer !== 'open') Object.assign(memory, nothingConfirmed());
  return answer;
}

/** Why something that was not confirmed does not count. */
export const notConfirmed = ({ n, m }: NOfM, what = 'stayed beyond the level'): string =>
  `Fewer than ${n} of the latest ${m} readings ${what}.`;
