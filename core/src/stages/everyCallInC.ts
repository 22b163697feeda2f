import type { CWriter, PrepareContext } from '../stage/contract.ts';

/**
 * For stages that must see every reading.
 * @throws {RangeError} when a stage before swallows some: in C they come as NAN, which a lost reading does as well
 */
export function everyCallSeen(title: string, c: CWriter, { sampleRateHz }: PrepareContext): void {
  if (c.callsHz !== sampleRateHz)
    throw new RangeError(
      `${title} cannot be written in C behind a stage that thins the readings. Move that stage behind it, or take it out.`,
    );
}
