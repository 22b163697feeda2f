import { invertLine, LineError, type CompiledLine } from '@lucky-needle/core/line';

/** Whether a reading of zero stands at an end of the converter's codes. */
export function isZeroAtEnd(line: CompiledLine, lastCode: number): boolean {
  if (lastCode === Infinity) return false;
  try {
    const code = invertLine(line, 0)[0]!;
    return code < 1 || code > lastCode - 1;
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return false;
    throw error;
  }
}
