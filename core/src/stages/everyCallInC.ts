import type { CWriter, PrepareContext } from '../stage/contract.ts';

/**
 * For stages that must see every reading.
 * @throws {RangeError} when a stage before swallows some: in C they come as NAN, which a lost reading does as well
 */
export function everyCallSeen(title: string, c: CWriter, { sampleRateHz }: PrepareContext): void {
  if (c.callsHz !== sampleRateHz)
    throw new RangeError(
      `${title} cannot be exported as C after a stage that reduces the number of readings. Move that stage after it, or remove it.`,
    );
}
