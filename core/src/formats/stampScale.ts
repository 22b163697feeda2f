/** Seconds since 1970 at the begin of the year 1, and at the end of the year 9999. */
const [FIRST_S, END_S] = [-62_135_596_800, 253_402_300_800];

/** Whether a time, of a clock or since a start, lies in the years that a calendar writes with four digits. */
export const isWritableTime = (timeS: number): boolean => timeS >= FIRST_S && timeS < END_S;

/**
 * Seconds in one of the units that a stamp counts, by its size: a clock that counts milliseconds has been above 1e11 since
 * 1973, one that counts seconds gets there in the year 5138.
 */
export function stampScale(stamp: number): 1 | 1e-3 | 1e-6 | 1e-9 {
  const size = Math.abs(stamp);
  return size < 1e11 ? 1 : size < 1e14 ? 1e-3 : size < 1e17 ? 1e-6 : 1e-9;
}

/** What a scale counts, in words. */
export const STAMP_WORDS: Readonly<Record<number, string>> = {
  1: 'seconds',
  1e-3: 'milliseconds',
  1e-6: 'microseconds',
  1e-9: 'nanoseconds',
};
