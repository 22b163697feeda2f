import { printNominal } from '@lucky-needle/core/units';

/** A size in three digits: kB, MB or GB. */
export function bytesInWords(bytes: number): string {
  const [scale, unit] = bytes >= 1e9 ? [1e9, 'GB'] : bytes >= 1e6 ? [1e6, 'MB'] : [1e3, 'kB'];
  return `${printNominal(bytes / scale, 3)} ${unit}`;
}
